package season

import (
	"fmt"
	"strings"

	"nineyard/core/invalid"
)

// Bounds of a season and its phases.
const (
	MaxWeeks     = 60
	MaxPhases    = 12
	MaxPhaseName = 30 // characters
)

// Phase is a part of a season, such as spring or camp, in the staff's own words. It lasts until the
// next one begins.
type Phase struct {
	Name string
	From Date
}

// CheckPhases returns an invalid.Error naming the field for phases that cannot be: too many, one
// without a name, one that begins outside of the season or not after the one before.
func CheckPhases(start Date, weeks int, phases []Phase) error {
	if len(phases) > MaxPhases {
		return invalid.Field("phases", "at most %d phases, got %d", MaxPhases, len(phases))
	}
	for i, p := range phases {
		at := fmt.Sprintf("phases[%d]", i)
		switch n := len([]rune(strings.TrimSpace(p.Name))); {
		case n < 1 || n > MaxPhaseName:
			return invalid.Field(at+".name", "a phase has a name of 1 to %d characters", MaxPhaseName)
		case !Within(start, weeks, p.From):
			return invalid.Field(at+".from", "%s is outside of the season, which runs from %s to %s", p.From, start, End(start, weeks))
		case i > 0 && p.From <= phases[i-1].From:
			return invalid.Field(at+".from", "%s begins on %s, not after %s", p.Name, p.From, phases[i-1].Name)
		}
	}
	return nil
}

// PhaseAt is the phase in which a day lies; false before the first.
func PhaseAt(phases []Phase, d Date) (Phase, bool) {
	for i := len(phases) - 1; i >= 0; i-- {
		if phases[i].From <= d {
			return phases[i], true
		}
	}
	return Phase{}, false
}
