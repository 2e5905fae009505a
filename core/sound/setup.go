package sound

import (
	"slices"

	"nineyard/core/invalid"
	"nineyard/core/teaching"
)

// Things that may stand in the drawing of a drill.
var things = []string{"worker", "helper", "coach", "cone", "bag", "ball", "line", "board", "chute", "rope", "sled"}

// Ways along which somebody or something moves.
var ways = []string{"run", "pedal", "slide", "push", "throw", "look"}

// margin is how far outside of its lane something may stand, in yards: the coach, a
// passer, the next player.
const margin = 10

// check refuses what cannot be drawn in or around the lane's space.
func checkSetup(s teaching.Setup, space teaching.Space) error {
	inside := func(x, y float64) bool {
		return x >= -margin && x <= space.LengthYd+margin && y >= -margin && y <= space.WidthYd+margin
	}
	workers := 0
	for _, t := range s.Things {
		switch {
		case !slices.Contains(things, t.Is):
			return invalid.Field("setup.things", "a %q cannot be drawn", t.Is)
		case !inside(t.X, t.Y):
			return invalid.Field("setup.things", "the %s at %v, %v stands too far outside the %v × %v yd of the lane", t.Is, t.X, t.Y, space.LengthYd, space.WidthYd)
		}
		if t.Is == "worker" {
			workers++
		}
	}
	if workers == 0 {
		return invalid.Field("setup.things", "the drawing shows nobody working")
	}
	for _, w := range s.Ways {
		if !slices.Contains(ways, w.Is) || len(w.Points) < 2 {
			return invalid.Field("setup.ways", "a way is run, pedal, slide, push, throw or look, between two points or more, got %q", w.Is)
		}
		for _, p := range w.Points {
			if !inside(p[0], p[1]) {
				return invalid.Field("setup.ways", "the way through %v, %v leaves the drawing", p[0], p[1])
			}
		}
	}
	return nil
}
