package marks

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

// Seen is what a mark says of a rep: facets, 0, 1 or nil where one was not judged; one grade for it all, where it
// was marked so; and what became of the player's own duel.
type Seen struct {
	Assignment, Technique, Finish *int
	Grade                         *OneGrade
	Result                        *int
}

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

// Cases lists the verdict of a scheme on every mark there can be, of all states: facets, results, and grades that
// reach what is clean on their own scale or do not. It is what is needed to judge many marks anew at once.
func (s Scheme) Cases() []Case {
	zero, one := 0, 1
	values := []*int{nil, &zero, &one}
	grades := []*OneGrade{nil, {0, 1, 1}, {1, 1, 1}}
	var list []Case
	for _, state := range []State{Assumed, Looked, StateUnseen, StateOpen, StateNone, Withdrawn} {
		for _, a := range values {
			for _, t := range values {
				for _, f := range values {
					for _, r := range values {
						for _, g := range grades {
							seen := Seen{Assignment: a, Technique: t, Finish: f, Result: r, Grade: g}
							list = append(list, Case{state, seen, s.See(state, seen)})
						}
					}
				}
			}
		}
	}
	return list
}
