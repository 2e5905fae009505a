package scripttext

import (
	"fmt"
	"strings"
)

// Template is a script to begin with. Its text is for the groups of the club that asks.
type Template struct {
	Name    string
	Minutes int
	Text    string
}

// Templates lists the scripts that ship: starting points to be changed, the first for a practice
// without contact, as the days after a start or a long absence ask for.
func Templates(w Words) []Template {
	own := func(minutes int, contact string) string {
		var b strings.Builder
		for i, g := range w.Groups {
			when := "&"
			if i == 0 {
				when = fmt.Sprint(minutes)
			}
			fmt.Fprintf(&b, "%s individual for %s%s\n", when, word(call(w.Groups, g.Key)), contact)
		}
		return b.String()
	}
	return []Template{
		{"First practice, no contact", 90, "4 meeting \"What today is for\" all\n10 warm-up all\n" + own(15, "") + "4 water all\n12 group \"Group work\" all\n15 team \"Team, on air\" all\n4 water all\n14 walk-through \"First calls\" all\n12 conditioning all\n"},
		{"Full practice", 120, "10 warm-up all\n" + own(20, " bag") + "4 water all\n24 group \"Group work\" all control\n4 water all\n12 kicking all control\n14 team all thud\n4 water all\n18 team \"Situations\" all control\n10 walk-through all\n"},
		{"Day before a game", 45, "8 warm-up all\n12 walk-through \"Calls of the game\" all\n4 water all\n10 kicking all\n11 walk-through \"First series\" all\n"},
	}
}
