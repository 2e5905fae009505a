package marks

import (
	"fmt"
	"slices"

	"nineyard/core/invalid"
)

// Tally is something seen in a rep that is counted apart: it enters no grade and no rate.
type Tally string

// The tallies. Of effort away from the ball, and of an exchange call between defenders who share
// receivers, a mark says one thing at most.
const (
	Effort        Tally = "effort"          // he worked where the ball did not go
	NoEffort      Tally = "no_effort"       // he did not
	CallEchoed    Tally = "call_echoed"     // the call was made and echoed
	CallNotEchoed Tally = "call_not_echoed" // it was made, and nobody answered
	CallMissing   Tally = "call_missing"    // it was not made
	WrongCall     Tally = "wrong_call"      // the coach's own call was wrong: it charges no player
)

// Tallies lists them, those that exclude each other side by side.
var Tallies = [][]Tally{{Effort, NoEffort}, {CallEchoed, CallNotEchoed, CallMissing}, {WrongCall}}

// Said is what a mark says besides facets and faults.
type Said struct {
	Result  *int // of the player's own duel: 1 he won it, 0 he lost it, nil it is not said
	Tallies []Tally
	Asked   bool // a coach is named who can answer what is open
}

// Check returns an invalid.Error on result, tallies or asked unless a mark of the state can say it.
// A result belongs to a rep that was judged; somebody is asked only about an open question; a
// coach's own wrong call is a play that says nothing about the player, and so is not gradable.
func (s Said) Check(state State) error {
	switch {
	case s.Result != nil && *s.Result != 0 && *s.Result != 1:
		return invalid.Field("result", "result must be 0 (lost) or 1 (won), got %d", *s.Result)
	case s.Result != nil && !state.Graded():
		return invalid.Field("result", "only a rep that is judged is won or lost")
	case s.Asked && state != StateOpen:
		return invalid.Field("asked", "a coach is asked about an open question alone")
	}
	seen := map[int]bool{}
	for i, t := range s.Tallies {
		at := fmt.Sprintf("tallies[%d]", i)
		kind := slices.IndexFunc(Tallies, func(list []Tally) bool { return slices.Contains(list, t) })
		switch {
		case kind < 0:
			return invalid.Field(at, "there is no tally %q", t)
		case seen[kind]:
			return invalid.Field(at, "%q says otherwise than what stands before it", t)
		case t == WrongCall && state != StateNone:
			return invalid.Field(at, "a wrong call of the coach says nothing about the player: such a rep is not gradable")
		case state == Withdrawn:
			return invalid.Field(at, "a mark that is taken back says nothing")
		}
		seen[kind] = true
	}
	return nil
}

// Box is process set against result: how a rep was done, and what became of it.
type Box string

// The boxes. What was wrong and won hurts later, when the opponent is better.
const (
	RightWon  Box = "right_won"
	RightLost Box = "right_lost"
	WrongWon  Box = "wrong_won"
	WrongLost Box = "wrong_lost"
)

// BoxOf puts a rep into its box by what was judged of the way it was done, right meaning that
// every deciding facet was; false when it was not judged or its result is not said.
func BoxOf(v Verdict, result *int) (Box, bool) {
	if !v.Graded || result == nil {
		return "", false
	}
	return map[[2]bool]Box{{true, true}: RightWon, {true, false}: RightLost, {false, true}: WrongWon, {false, false}: WrongLost}[[2]bool{v.Clean, *result == 1}], true
}
