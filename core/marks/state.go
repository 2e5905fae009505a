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

// Judge judges reps of the shipped scheme by their state and the two facets that decide.
// There are 45 combinations, judged once each: screens judge thousands of reps. A Judge may
// be shared.
type Judge struct {
	all map[judged]Verdict
}

type judged struct {
	state                 State
	assignment, technique int8 // −1 for none
}

// NewJudge returns a judge by the shipped scheme.
func NewJudge() *Judge {
	j := &Judge{all: map[judged]Verdict{}}
	zero, one := 0, 1
	values := map[int8]*int{-1: nil, 0: &zero, 1: &one}
	for _, state := range []State{Assumed, Looked, StateUnseen, StateOpen, StateNone} {
		for a, pa := range values {
			for t, pt := range values {
				j.all[judged{state, a, t}] = Shipped().Judge(state.Mark(Seen{Assignment: pa, Technique: pt}))
			}
		}
	}
	return j
}

// Of returns the verdict on a rep; one that is not known of is not graded.
func (j *Judge) Of(state State, assignment, technique *int) Verdict {
	return j.all[judged{state, small(assignment), small(technique)}]
}

func small(v *int) int8 {
	if v == nil {
		return -1
	}
	return int8(*v)
}
