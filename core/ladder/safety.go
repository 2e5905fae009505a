package ladder

import (
	"cmp"
	"slices"

	"nineyard/core/season"
)

// SafetyDays is how long a safety fault keeps a player from a higher contact level. The
// day of the fault is the first of them.
const SafetyDays = 14

// SafetyFault is a fault that puts a head or back at risk, as a player showed it.
type SafetyFault struct {
	Player, Technique, Fault string
	On                       season.Date
	CausedBy                 string // the teammate who caused it; empty for the player's own
}

// At names a player at a technique.
type At struct{ Player, Technique string }

// SafetyHolds returns who goes up no contact level at which technique as of a day, with
// the newest fault that keeps him there (of one day, the last by key). A fault that a
// teammate caused keeps nobody: it says nothing of how the player holds his own head.
func SafetyHolds(asOf season.Date, faults []SafetyFault) map[At]SafetyFault {
	sorted := slices.SortedFunc(slices.Values(faults), func(a, b SafetyFault) int {
		return cmp.Or(cmp.Compare(a.On, b.On), cmp.Compare(a.Fault, b.Fault))
	})
	holds := map[At]SafetyFault{}
	for _, f := range sorted {
		if f.CausedBy == "" && f.On <= asOf && asOf-f.On < SafetyDays {
			holds[At{f.Player, f.Technique}] = f
		}
	}
	return holds
}
