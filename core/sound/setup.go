package sound

import (
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/teaching"
)

// margin is how far outside of its lane something may stand, in yards: the coach, a
// passer, the next player.
const margin = 10

// check refuses what cannot be drawn in or around the lane's space.
func checkSetup(s teaching.Setup, space [2]float64) error {
	inside := func(x, y float64) bool {
		return x >= -margin && x <= space[0]+margin && y >= -margin && y <= space[1]+margin
	}
	for _, t := range s.Things {
		switch {
		case !slices.Contains(teaching.ThingKinds(), t.Is):
			return invalid.Field("setup.things", "a %q cannot be drawn", t.Is)
		case !inside(t.At[0], t.At[1]):
			return invalid.Field("setup.things", "the %s at %v, %v stands too far outside the %v × %v yd of the lane", t.Is, t.At[0], t.At[1], space[0], space[1])
		}
	}
	if s.Count("worker") == 0 {
		return invalid.Field("setup.things", "the drawing shows nobody working")
	}
	for _, w := range s.Ways {
		if !slices.Contains(teaching.WayKinds(), w.Is) || len(w.Points) < 2 {
			return invalid.Field("setup.ways", "a way is %s, between two points or more, got %q", strings.Join(teaching.WayKinds(), ", "), w.Is)
		}
		for _, p := range w.Points {
			if !inside(p[0], p[1]) {
				return invalid.Field("setup.ways", "the way through %v, %v leaves the drawing", p[0], p[1])
			}
		}
	}
	return nil
}
