package ladder

import "slices"

// Player is a player on the group's board.
type Player struct {
	Standing  Standing
	Available bool // takes part in practice
	Safety    bool // showed a safety fault lately: he goes up no contact level
	Elsewhere bool // it belongs to places that are not his: he is not counted while he has no rep of it
}

// At is the index of his current stage; the number of stages when he is done.
func (m Player) At() int {
	for i, s := range m.Standing.Stages {
		if !s.Passed {
			return i
		}
	}
	return len(m.Standing.Stages)
}

// NotHis reports whether the ladder is none of his: it belongs to other places, and he has never worked at it.
func (m Player) NotHis() bool {
	return m.Elsewhere && !slices.ContainsFunc(m.Standing.Stages, func(s StageStanding) bool { return s.Reps > 0 || s.Passed })
}

// Advice is what a player's standing asks for, beside where the group is.
type Advice string

// The advices, in the order in which they are looked at.
const (
	AdviseSafety  Advice = "safety"    // a safety fault lately: stay at this contact
	AdviseBack    Advice = "step_back" // fewer than half of his last reps clean
	AdviseMove    Advice = "move_up"   // has passed a stage and not begun the next, or is ahead of the group
	AdviseWait    Advice = "waiting"   // passed, and the next stage's week has not come or something else must be passed first
	AdviseStay    Advice = "stay"      // works where the group is
	AdviseBehind  Advice = "behind"    // has not reached the group's stage
	AdviseDone    Advice = "done"
	AdviseAbsent  Advice = "absent"  // takes no part; he is not counted
	AdviseNoMarks Advice = "unknown" // not one rep yet on this ladder
	AdviseNotHis  Advice = "not_his" // it belongs to other places of the group; he is not counted
)

// GroupStage is the index of the stage the group should work at: the highest one that
// at least half of the players who take part work at or have passed, 0 when there is none.
// Players who have passed everything count for the last stage.
func GroupStage(stages int, players []Player) int {
	at := make([]int, stages+1)
	n := 0
	for _, m := range players {
		if m.Available && !m.NotHis() && len(m.Standing.Stages) == stages {
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

// AdviceFor says what a player's standing asks for when the group works at a stage.
func AdviceFor(m Player, groupStage int) Advice {
	reps, here := 0, 0
	for i, s := range m.Standing.Stages {
		reps += s.Reps
		if i == m.At() {
			here = s.Reps
		}
	}
	switch {
	case m.NotHis():
		return AdviseNotHis
	case !m.Available:
		return AdviseAbsent
	case m.Safety:
		return AdviseSafety
	case m.Standing.Done:
		return AdviseDone
	case reps == 0 && m.At() == 0:
		return AdviseNoMarks
	case m.Standing.Status == StepBack:
		return AdviseBack
	case m.Standing.Status == Waiting, m.Standing.Status == Closed:
		return AdviseWait
	case m.At() > groupStage, m.At() > 0 && here == 0:
		return AdviseMove
	case m.At() < groupStage:
		return AdviseBehind
	}
	return AdviseStay
}
