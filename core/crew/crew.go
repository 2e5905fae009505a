package crew

import (
	"fmt"

	"nineyard/core/practice"
	"nineyard/core/reps"
	"nineyard/core/teaching"
)

// Attendance is who can take part in a practice.
type Attendance struct {
	Players int // everybody who takes part, limited ones included
	Limited int // of those, the ones kept out of contact
}

// Crew is who may take which part in a drill.
type Crew struct {
	Full     int // may work and help
	HelpOnly int // limited players: kept out of contact, they may take the helping roles that have none
}

// Part is what one player may do in a drill.
type Part int

// The parts.
const (
	NoPart Part = iota
	HelpPart
	FullPart
)

// PartOf returns what a player may do in a drill. A limited player stays out of every drill
// in which players meet each other, but for the helping roles in which nobody is met or struck; a
// contact level that is not known counts as contact.
func PartOf(d teaching.Drill, limited bool) Part {
	if !limited || !contact(d.Contact).Collides() {
		return FullPart
	}
	if Seats(d) > 0 {
		return HelpPart
	}
	return NoPart
}

// Seats is how many helping turns of each lane are open to a limited player: those on air.
func Seats(d teaching.Drill) int {
	seats := 0
	for _, h := range d.Help {
		if h.Contact == practice.Air.String() {
			seats += h.Men
		}
	}
	return seats
}

// contact reads a level; one that nobody knows counts as the hardest.
func contact(level string) practice.Contact {
	c, err := practice.ParseContact(level)
	if err != nil {
		return practice.Live
	}
	return c
}

// Contact is the highest level of a drill, in any role.
func Contact(d teaching.Drill) practice.Contact {
	most := contact(d.Contact)
	for _, h := range d.Help {
		most = max(most, contact(h.Contact))
	}
	return most
}

// Meets reports whether players meet each other in a drill, in any role: its reps are of high effort.
func Meets(d teaching.Drill) bool { return Contact(d).Collides() }

// Lanes is how many of the lanes run at once: no more than the one coach, who feeds them, can feed. A helping role that
// feeds stands in every lane.
func Lanes(d teaching.Drill, lanes int) int {
	if d.FedBy == teaching.FedByCoach && d.Feeds > 0 {
		return min(lanes, d.Feeds)
	}
	return lanes
}

// For returns who takes part in a drill.
func (a Attendance) For(d teaching.Drill) Crew {
	c := Crew{Full: a.Players - a.Limited}
	switch PartOf(d, true) {
	case FullPart:
		c.Full = a.Players
	case HelpPart:
		c.HelpOnly = a.Limited
	}
	return c
}

// All is how many take part in any role.
func (c Crew) All() int { return c.Full + c.HelpOnly }

// Block returns the drill as the arithmetic of package reps takes it; its lanes are those that run.
func Block(d teaching.Drill, c Crew, minutes, lanes int) reps.Block {
	b := reps.Block{Players: c.Full, HelpOnly: c.HelpOnly, Minutes: minutes, SetupSeconds: d.SetupSeconds, Lanes: Lanes(d, lanes), Working: d.Working,
		Helping: d.Helping(), RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, Sides: max(d.Sides, 1)}
	if c.HelpOnly > 0 {
		b.HelpSeats = Seats(d)
	}
	return b
}

// Planned is what a drill gives in a plan: who takes part, the yield, and a sentence
// when it is poor. A drill that cannot run with the players there are has no yield and says
// so.
func Planned(d teaching.Drill, a Attendance, minutes, lanes int) (Crew, reps.Yield, string) {
	crew := a.For(d)
	if need := d.Working + d.Helping(); crew.Full < d.Working || crew.All() < need {
		return crew, reps.Yield{}, fmt.Sprintf("%s needs %d players a lane and %d can take part.", d.Name, need, max(crew.All(), 0))
	}
	b := Block(d, crew, minutes, lanes)
	y, err := reps.Of(b)
	if err != nil {
		return crew, reps.Yield{}, err.Error()
	}
	return crew, y, reps.Advise(b)
}

// MinutesFor is the fewest minutes, at most most, in which a drill gives every player of a group at
// least so many reps; false when no such number does.
func MinutesFor(d teaching.Drill, a Attendance, lanes, wanted, most int) (int, bool) {
	for m := max(d.MinMinutes, 1); m <= most; m++ {
		if _, y, _ := Planned(d, a, m, lanes); y.PerPlayer.Min >= wanted {
			return m, true
		}
	}
	return 0, false
}
