package teaching

import (
	"fmt"

	"nineyard/core/practice"
	"nineyard/core/reps"
)

// Attendance is who can take part in a practice.
type Attendance struct {
	Players int // everybody who takes part, limited men included
	Limited int // of those, the ones kept out of contact
}

// For returns how many take part in a drill: limited men stay out of every drill in
// which players meet each other.
func (a Attendance) For(d Drill) int {
	contact, err := practice.ParseContact(d.Contact)
	if err != nil || contact.Collides() {
		return a.Players - a.Limited
	}
	return a.Players
}

// Block returns the drill as the arithmetic of package reps takes it.
func (d Drill) Block(players, minutes, lanes int) reps.Block {
	return reps.Block{Players: players, Minutes: minutes, SetupSeconds: d.SetupSeconds, Lanes: lanes, Working: d.Working,
		Helping: d.Helping, RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, Sides: d.Sides}
}

// Planned is what a drill gives in a plan: the yield, and a sentence when it is poor.
// A drill that cannot run with the men there are has no yield and says so.
func (d Drill) Planned(a Attendance, minutes, lanes int) (players int, y reps.Yield, advice string) {
	players = a.For(d)
	if need := d.Working + d.Helping; players < need {
		return players, reps.Yield{}, fmt.Sprintf("%s needs %d men a lane and %d can take part.", d.Name, need, max(players, 0))
	}
	b := d.Block(players, minutes, lanes)
	y, err := reps.Of(b)
	if err != nil {
		return players, reps.Yield{}, err.Error()
	}
	return players, y, reps.Advise(b)
}
