package suggest

import (
	"cmp"
	"slices"
	"strings"

	"nineyard/core/group"
)

// MostTogether is how many drills Together names.
const MostTogether = 4

// Joint is a drill that groups might do together.
type Joint struct {
	Key, Name  string
	Groups     []string // who does it
	Roles      string   // who does what, in a sentence
	Minutes    int      // usual length
	MinMinutes int      // below this it is not worth setting up
}

// Pair is a drill for two groups: whose drill it is, and who is across from them.
type Pair struct {
	Drill    Joint
	Of, With string
}

// Together names the drills for which nobody but groups that are free at the same time is needed:
// one of them does it, and its roles call for players of one other by the name of a position, as the
// club's groups have them. A drill whose roles call for a group that is not free is left out, and so
// is one that is not worth setting up in so many minutes. Those that use most of the minutes come
// first, at most MostTogether, and of drills for the same two groups no more than half of these.
func Together(free []string, minutes int, club group.List, drills []Joint) []Pair {
	var list []Pair
	for _, d := range drills {
		if d.MinMinutes > minutes {
			continue
		}
		called := Called(d, club)
		if len(called) != 1 || !slices.Contains(free, called[0]) {
			continue
		}
		if i := slices.IndexFunc(d.Groups, func(g string) bool { return slices.Contains(free, g) }); i >= 0 {
			list = append(list, Pair{d, d.Groups[i], called[0]})
		}
	}
	slices.SortStableFunc(list, func(a, b Pair) int {
		return cmp.Or(cmp.Compare(min(b.Drill.Minutes, minutes), min(a.Drill.Minutes, minutes)), cmp.Compare(a.Drill.Name, b.Drill.Name))
	})
	of := map[[2]string]int{}
	list = slices.DeleteFunc(list, func(p Pair) bool {
		two := [2]string{min(p.Of, p.With), max(p.Of, p.With)}
		of[two]++
		return of[two] > MostTogether/2 && len(free) > 2
	})
	return list[:min(len(list), MostTogether)]
}

// Called lists the groups, other than those that do a drill, whose positions its roles name in full:
// words of four letters and more, in the singular or the plural. "End" and "back" alone may be
// anybody's and count for nobody.
func Called(d Joint, club group.List) (keys []string) {
	words := strings.FieldsFunc(strings.ToLower(d.Roles), func(r rune) bool { return r < 'a' || r > 'z' })
	for _, g := range club {
		if slices.Contains(d.Groups, g.Key) {
			continue
		}
		named := slices.ContainsFunc(g.Positions, func(position string) bool {
			p := strings.ToLower(position)
			if len(p) < 4 || strings.ContainsAny(p, " -") {
				return false
			}
			return slices.ContainsFunc(words, func(w string) bool {
				return w == p || w == p+"s" || strings.HasSuffix(p, "y") && w == strings.TrimSuffix(p, "y")+"ies"
			})
		})
		if named {
			keys = append(keys, g.Key)
		}
	}
	return keys
}
