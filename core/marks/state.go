package marks

import (
	"fmt"

	"nineyard/core/invalid"
)

// State is what a coach did about a rep.
type State string

// The states of a mark. Withdrawn is no mark any more; history keeps it.
const (
	Assumed     State = "assumed" // clean because he moved on
	Looked      State = "looked"  // he looked
	StateUnseen State = "unseen"
	StateOpen   State = "unsettled"
	StateNone   State = "not_gradable"
	Withdrawn   State = "withdrawn"
)

// Graded reports whether a mark of this state is judged at all.
func (s State) Graded() bool { return s == Assumed || s == Looked }

// Seen is the facets of a mark that decide whether a rep is clean, and finish, which does
// not: 0, 1 or nil where it was not judged.
type Seen struct{ Assignment, Technique, Finish *int }

// Mark returns the mark of a state with what was seen.
func (s State) Mark(seen Seen) Mark {
	m := Mark{Player: "-", Weight: 1, Graded: s.Graded(), Assumed: s == Assumed, Values: map[string]float64{}}
	if !m.Graded {
		m.Reason = Reason(s)
	}
	for key, v := range map[string]*int{"assignment": seen.Assignment, "technique": seen.Technique, "finish": seen.Finish} {
		if v != nil {
			m.Values[key] = float64(*v)
		}
	}
	return m
}

// Word is a verdict in one word, as it is kept with a mark: clean, faulty, or the reason why
// it was not graded.
func (v Verdict) Word() string {
	switch {
	case !v.Graded:
		return string(v.Reason)
	case v.Clean:
		return "clean"
	}
	return "faulty"
}

// VerdictOf reads what Word writes. The score is not kept.
func VerdictOf(word string) Verdict {
	switch word {
	case "clean", "faulty":
		return Verdict{Graded: true, Clean: word == "clean"}
	}
	return Verdict{Reason: Reason(word)}
}

// Case is one mark that there can be, and the verdict on it.
type Case struct {
	State   State
	Seen    Seen
	Verdict Verdict
}

// Cases lists the verdict of a scheme on every mark that the three facets of Seen can make, of
// all states: what is needed to judge many marks anew at once.
func (s Scheme) Cases() []Case {
	zero, one := 0, 1
	values := []*int{nil, &zero, &one}
	var list []Case
	for _, state := range []State{Assumed, Looked, StateUnseen, StateOpen, StateNone, Withdrawn} {
		for _, a := range values {
			for _, t := range values {
				for _, f := range values {
					seen := Seen{Assignment: a, Technique: t, Finish: f}
					list = append(list, Case{state, seen, s.Judge(state.Mark(seen))})
				}
			}
		}
	}
	return list
}

// CheckHouse returns an invalid.Error unless the scheme is one by which a club may judge: of
// the facets of Seen, each at most once.
func (s Scheme) CheckHouse() error {
	if err := s.check(); err != nil {
		return err
	}
	if s.Kind != Facets {
		return invalid.Field("scheme.kind", "a club judges by facets")
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
