package quality

import (
	"maps"
	"slices"

	"nineyard/core/teaching"
)

// references is C25. That drills, checkpoints and faults which are trained or shown are there is looked at wherever a
// library is taken in; this is what is only shown where it is there, and so would be missed by nobody.
func references(l *looker) {
	fault := func(f teaching.Fault) {
		if _, _, ok := l.Fault(f.CausedBy); f.CausedBy != "" && (!ok || f.CausedBy == f.Key) {
			l.fail("fault", f.Key, "may come from %s, which is no other fault", f.CausedBy)
		}
		for _, k := range slices.Sorted(maps.Keys(f.Say)) {
			if !slices.Contains(f.Everywhere, k) {
				l.fail("fault", f.Key, "has words for %s, where it is not shared", k)
			}
		}
	}
	for _, f := range l.Shared {
		fault(f)
	}
	for _, t := range l.Techniques {
		for _, f := range t.Faults {
			if !f.Shared {
				fault(f)
			}
		}
	}
	for _, d := range l.Drills {
		for _, c := range d.Cards {
			if _, _, ok := l.Row(c.Row); c.Row != "" && !ok {
				l.fail("drill", d.Key, "card %s is the row %s, which is not there", c.Key, c.Row)
			}
		}
	}
}
