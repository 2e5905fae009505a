package marks

import (
	"fmt"
	"slices"

	"nineyard/core/invalid"
)

// House is how a club judges: by one scheme, and of some groups by another.
type House struct {
	Scheme
	Groups map[string]Scheme `json:",omitempty"` // by key; a group that is not here is judged by the club's
}

// For is the scheme by which a group is judged.
func (h House) For(group string) Scheme {
	if s, ok := h.Groups[group]; ok {
		return s
	}
	return h.Scheme
}

// Distinct lists the schemes by which the club judges, the club's own first, and which of them each group that has
// one of its own is judged by.
func (h House) Distinct() (list []Scheme, of map[string]int) {
	list, of = []Scheme{h.Scheme}, map[string]int{}
	for group, s := range h.Groups {
		of[group] = slices.IndexFunc(list, s.same)
		if of[group] < 0 {
			list, of[group] = append(list, s), len(list)
		}
	}
	return list, of
}

func (s Scheme) same(t Scheme) bool {
	return s.Kind == t.Kind && slices.Equal(s.Facets, t.Facets) && s.Max == t.Max && s.CleanAt == t.CleanAt && s.ByResult == t.ByResult
}

// CheckHouse returns an invalid.Error unless the club can judge so: by facets of Seen, each at most once; by plus and
// minus; or by whole points up to 10.
func (h House) CheckHouse() error {
	if err := h.Scheme.checkHouse(); err != nil {
		return err
	}
	for group, s := range h.Groups {
		if err := s.checkHouse(); err != nil {
			return invalid.Within("groups."+group, err)
		}
	}
	return nil
}

// MaxPoints is how many points a club may give at most.
const MaxPoints = 10

func (s Scheme) checkHouse() error {
	if err := s.check(); err != nil {
		return err
	}
	if s.Kind == Points && (s.Max != float64(int(s.Max)) || s.CleanAt != float64(int(s.CleanAt)) || s.Max > MaxPoints || s.CleanAt < 1) {
		return invalid.Field("scheme.max", "points are whole, at most %d, and clean from 1 at least", MaxPoints)
	}
	for i, f := range s.Facets {
		if f.Key != "assignment" && f.Key != "technique" && f.Key != "finish" {
			return invalid.Field(fmt.Sprintf("scheme.facets[%d].key", i), "scheme.facets[%d].key must be assignment, technique or finish, got %q", i, f.Key)
		}
		if f.Weight > 10 {
			return invalid.Field(fmt.Sprintf("scheme.facets[%d].weight", i), "scheme.facets[%d].weight must be at most 10, got %v", i, f.Weight)
		}
	}
	return nil
}

// OneGrade is one grade for a rep, with the scale it was given on: plus and minus are 1 and 0 of 1.
type OneGrade struct{ Value, Of, CleanAt int }

func (g OneGrade) verdict() Verdict {
	return Verdict{Graded: true, Clean: g.Value >= g.CleanAt, Score: float64(g.Value) / float64(g.Of)}
}

// Scale is the scale on which a scheme grades; false where it grades by facets.
func (s Scheme) Scale() (OneGrade, bool) {
	switch s.Kind {
	case PlusMinus:
		return OneGrade{Of: 1, CleanAt: 1}, true
	case Points:
		return OneGrade{Of: int(s.Max), CleanAt: int(s.CleanAt)}, true
	}
	return OneGrade{}, false
}

// Given is the grade of a rep by exception, on the scale of the scheme: what the coach gave, else all of it, less
// the severity of each fault of the player's own; on plus and minus any fault of his own is a minus. given must lie
// on the scale. A rep that is called wrong as by facets (wrong), and has no grade, has none of it.
func (s Scheme) Given(given *int, wrong bool, own []int) OneGrade {
	g, _ := s.Scale()
	if !wrong {
		g.Value = g.Of
	}
	for _, severity := range own {
		g.Value -= max(1, severity)
	}
	g.Value = max(0, g.Value)
	if given != nil {
		g.Value = *given
	}
	return g
}

// See judges a mark as it is kept, whatever it was made by. One that was made by facets is, on plus and minus or
// points, clean when assignment and technique, as far as they were judged, are right, and its points are all or
// none; one that has a grade alone is, by facets, clean when its grade is on its own scale. Either keeps what is
// sound of the other: whether the rep was clean. What was the matter with a minus, or how many points a wrong step
// costs, nobody said.
//
// Where results count (ByResult), a rep of which it is said who won is clean when the player did.
func (s Scheme) See(state State, seen Seen) Verdict {
	v := s.process(state, seen)
	if v.Graded && s.ByResult && seen.Result != nil {
		v.Clean = *seen.Result == 1
	}
	return v
}

func (s Scheme) process(state State, seen Seen) Verdict {
	if !state.Graded() {
		return Verdict{Reason: Reason(state)}
	}
	byFacets := seen.Assignment != nil || seen.Technique != nil || seen.Finish != nil
	_, graded := s.Scale()
	switch {
	case seen.Grade != nil && (graded || !byFacets):
		return seen.Grade.verdict()
	case !graded:
		return s.Judge(state.Mark(seen))
	case seen.Assignment == nil && seen.Technique == nil:
		return Verdict{Reason: Empty}
	}
	right := func(v *int) bool { return v == nil || *v == 1 }
	v := Verdict{Graded: true, Clean: right(seen.Assignment) && right(seen.Technique)}
	if v.Clean {
		v.Score = 1
	}
	return v
}

// Kept says what of marks made by one kind of scheme is sound by another; empty where all is.
func Kept(made, by Kind) string {
	switch {
	case made == by, made == Points && by == PlusMinus:
		return ""
	case made == Facets && by == PlusMinus:
		return "Marks made by facets are plus when assignment and technique are right."
	case made == Facets:
		return "Marks made by facets count as clean or not; how many points they would have had nobody said, so they have all or none."
	case by == Facets:
		return "Marks that have one grade count as clean or not; which facet was wrong nobody said, so they are in no facet's share."
	}
	return "Marks made by plus and minus count as clean or not, and have all points or none."
}
