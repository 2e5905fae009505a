package ladder

import (
	"cmp"
	"slices"

	"nineyard/core/season"
)

// SafetyDays is how long a safety fault keeps a player from a higher contact level. The
// day of the fault is the first of them.
const SafetyDays = 14

// SafetyReps is how many reps in a row on bags without it free a player of a shared safety fault, beside SafetyDays.
const SafetyReps = 6

// SafetyFault is a fault by which somebody may be hurt, as a player showed it.
type SafetyFault struct {
	Player, Technique, Fault string
	On                       season.Date
	CausedBy                 string // the teammate who caused it; empty for the player's own
	// Shared is a fault that is one habit whatever the player does: it is counted together, at no one technique.
	Shared bool
}

// BagReps is how many graded reps on bags a player did on a day, whatever the technique.
type BagReps struct {
	Player string
	On     season.Date
	N      int
}

// At names a player at a technique or, of a shared fault, a player with the fault.
type At struct{ Player, Technique, Fault string }

// SafetyHolds returns who goes up no contact level as of a day, with the newest fault that keeps him there (of one day, the
// last by key): at the technique at which he showed it or, of a shared fault, wherever it belongs. A fault
// that a teammate caused keeps nobody: it says nothing of how the player holds his own head.
//
// A fault of one technique stands for SafetyDays. A shared one stands until those are over and the player has done SafetyReps
// reps in a row on bags without it, which are those on bags on later days than its last.
func SafetyHolds(asOf season.Date, faults []SafetyFault, bags []BagReps) map[At]SafetyFault {
	sorted := slices.SortedFunc(slices.Values(faults), func(a, b SafetyFault) int {
		return cmp.Or(cmp.Compare(a.On, b.On), cmp.Compare(a.Fault, b.Fault), cmp.Compare(a.Technique, b.Technique))
	})
	holds := map[At]SafetyFault{}
	for _, f := range sorted {
		switch {
		case f.CausedBy != "" || f.On > asOf:
		case f.Shared:
			holds[At{Player: f.Player, Fault: f.Fault}] = f
		case asOf-f.On < SafetyDays:
			holds[At{Player: f.Player, Technique: f.Technique}] = f
		}
	}
	for at, f := range holds {
		if !f.Shared || asOf-f.On < SafetyDays {
			continue
		}
		without := 0
		for _, b := range bags {
			if b.Player == f.Player && b.On > f.On && b.On <= asOf {
				without += b.N
			}
		}
		if without >= SafetyReps {
			delete(holds, at)
		}
	}
	return holds
}
