package agreement

import (
	"fmt"
	"slices"

	"nineyard/core/invalid"
)

// What two coaches can differ on besides a facet.
const (
	OnWork   = "work"   // which technique it was
	OnGraded = "graded" // one could grade it, the other not: he did not see it, or leaves it open
	OnFaults = "faults" // what was wrong
)

// Said is what a coach said of one technique of one player on one rep.
type Said struct {
	Rep       string // names the player and the rep
	Technique string
	Graded    bool
	Values    map[string]int // by facet; one that he did not judge is left out
	Faults    []string       // keys, in any order
}

// Apart is a rep that two coaches see differently: where it stands in either list, and on what they differ, facets
// in the order in which they were asked for, before OnFaults.
type Apart struct {
	A, B int
	On   []string
}

// Comparison is the result of Compare.
type Comparison struct {
	Report
	Both  int     // marks that both made
	Apart []Apart // in the order of the first list
}

// Compare holds what one coach said beside what the other said. Only a rep that both spoke of says
// anything: what one left out is no difference. Facets are compared where both graded the rep and judged the facet.
// Of a rep of which they name different techniques, nothing can be compared but that. It returns an
// invalid.Error where a list names a technique of a rep twice, and what Of returns.
func Compare(scale Scale, facets []string, a, b []Said) (Comparison, error) {
	of := make([]map[string]map[string]int, 2) // by rep and technique, where it stands
	for i, list := range [][]Said{a, b} {
		of[i] = map[string]map[string]int{}
		for k, s := range list {
			if _, twice := of[i][s.Rep][s.Technique]; twice {
				return Comparison{}, invalid.Field(fmt.Sprintf("%c[%d]", 'a'+i, k), "%c[%d] says %q of one rep a second time", 'a'+i, k, s.Technique)
			}
			if of[i][s.Rep] == nil {
				of[i][s.Rep] = map[string]int{}
			}
			of[i][s.Rep][s.Technique] = k
		}
	}
	var c Comparison
	var pairs []Pair
	for i, s := range a {
		k, same := of[1][s.Rep][s.Technique]
		if !same {
			if k := alone(b, of[1][s.Rep], of[0][s.Rep]); k >= 0 {
				c.Both++
				c.Apart = append(c.Apart, Apart{A: i, B: k, On: []string{OnWork}})
				delete(of[1][s.Rep], b[k].Technique)
			}
			continue
		}
		c.Both++
		var on []string
		switch other := b[k]; {
		case s.Graded != other.Graded:
			on = append(on, OnGraded)
		case s.Graded:
			for _, f := range facets {
				x, judged := s.Values[f]
				y, too := other.Values[f]
				if !judged || !too {
					continue
				}
				pairs = append(pairs, Pair{Facet: f, A: x, B: y})
				if x != y {
					on = append(on, f)
				}
			}
			if !alikeIn(s.Faults, other.Faults) {
				on = append(on, OnFaults)
			}
		}
		if len(on) > 0 {
			c.Apart = append(c.Apart, Apart{A: i, B: k, On: on})
		}
	}
	var err error
	c.Report, err = Of(scale, facets, pairs)
	return c, err
}

// alone finds, of what the other said of a rep, the first that the one said nothing of; -1 where there is none.
func alone(list []Said, theirs, ours map[string]int) int {
	found := -1
	for technique, k := range theirs {
		if _, both := ours[technique]; !both && (found < 0 || list[k].Technique < list[found].Technique) {
			found = k
		}
	}
	return found
}

func alikeIn(a, b []string) bool {
	set := func(list []string) []string { return slices.Compact(slices.Sorted(slices.Values(list))) }
	return slices.Equal(set(a), set(b))
}
