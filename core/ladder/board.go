package ladder

// Man is a player on the group's board.
type Man struct {
	Standing  Standing
	Available bool // takes part in practice
	Safety    bool // showed a safety fault lately: he goes up no contact level
}

// At is the index of his current stage; the number of stages when he is done.
func (m Man) At() int {
	for i, s := range m.Standing.Stages {
		if !s.Passed {
			return i
		}
	}
	return len(m.Standing.Stages)
}

// Call is what a man's standing asks for, beside where the group is.
type Call string

// The calls, in the order in which they are looked at.
const (
	CallSafety  Call = "safety"    // a safety fault lately: stay at this contact
	CallBack    Call = "step_back" // fewer than half of his last reps clean
	CallMove    Call = "move_up"   // has passed a stage and not begun the next, or is ahead of the group
	CallWait    Call = "waiting"   // passed, and the next stage's week has not come
	CallStay    Call = "stay"      // works where the group is
	CallBehind  Call = "behind"    // has not reached the group's stage
	CallDone    Call = "done"
	CallAbsent  Call = "absent"  // takes no part; he is not counted
	CallNoMarks Call = "unknown" // not one rep yet on this ladder
)

// GroupStage is the index of the stage the group should work at: the highest one that
// at least half of the men who take part work at or have passed, 0 when there is none.
// Men who have passed everything count for the last stage.
func GroupStage(stages int, men []Man) int {
	at := make([]int, stages+1)
	n := 0
	for _, m := range men {
		if m.Available && len(m.Standing.Stages) == stages {
			at[m.At()]++
			n++
		}
	}
	behind := 0
	for i := stages; i > 0; i-- {
		behind += at[i]
		if 2*behind >= n && n > 0 {
			return min(i, stages-1)
		}
	}
	return 0
}

// CallFor says what a man's standing asks for when the group works at a stage.
func CallFor(m Man, groupStage int) Call {
	reps, here := 0, 0
	for i, s := range m.Standing.Stages {
		reps += s.Reps
		if i == m.At() {
			here = s.Reps
		}
	}
	switch {
	case !m.Available:
		return CallAbsent
	case m.Safety:
		return CallSafety
	case m.Standing.Done:
		return CallDone
	case reps == 0 && m.At() == 0:
		return CallNoMarks
	case m.Standing.Status == StepBack:
		return CallBack
	case m.Standing.Status == Waiting:
		return CallWait
	case m.At() > groupStage, m.At() > 0 && here == 0:
		return CallMove
	case m.At() < groupStage:
		return CallBehind
	}
	return CallStay
}
