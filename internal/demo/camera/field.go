package camera

import (
	"image/color"
	"strconv"
	"sync"
)

// The field, in yards.
const (
	Length  = 120.0 // with both end zones
	Width   = 160.0 / 3
	EndZone = 10.0
	// LeftHash and RightHash are where the hash marks are, seen by the offense, which looks along x with
	// its left toward a larger y: 60 feet from the sidelines.
	LeftHash  = Width - 20
	RightHash = 20.0
)

var (
	grass   = color.RGBA{0x3c, 0x66, 0x43, 0xff}
	mown    = color.RGBA{0x41, 0x6d, 0x48, 0xff}
	around  = color.RGBA{0x55, 0x6b, 0x4a, 0xff}
	endZone = color.RGBA{0x2c, 0x4a, 0x5c, 0xff}
	chalk   = color.RGBA{0xe6, 0xea, 0xdf, 0xff}
	sky     = color.RGBA{0x1d, 0x28, 0x30, 0xff}
)

// mark is something painted on the ground: outlines with their colour.
type mark struct {
	outlines [][]Vec
	colour   color.Color
}

func box(x0, y0, x1, y1 float64) []Vec {
	return []Vec{{x0, y0, 0}, {x1, y0, 0}, {x1, y1, 0}, {x0, y1, 0}}
}

// markings are painted once: every clip is of the same field.
var markings = sync.OnceValue(paint)

// paint makes the ground and all lines of a correctly marked field: sidelines, a line each five yards, a
// short mark each yard at the hashes and the sidelines, and the numbers each ten.
func paint() []mark {
	ground := []mark{{[][]Vec{box(-60, -60, Length+60, Width+60)}, around}}
	for x := EndZone; x < Length-EndZone; x += 5 {
		with := grass
		if int(x/5)%2 == 0 {
			with = mown
		}
		ground = append(ground, mark{[][]Vec{box(x, 0, x+5, Width)}, with})
	}
	ground = append(ground, mark{[][]Vec{box(0, 0, EndZone, Width), box(Length-EndZone, 0, Length, Width)}, endZone})
	const half = 2.0 / 36 // a line is four inches wide
	lines := [][]Vec{box(-2, -2, Length+2, 0), box(-2, Width, Length+2, Width+2), box(-2, 0, 0, Width), box(Length, 0, Length+2, Width)}
	for x := EndZone; x <= Length-EndZone; x++ {
		if int(x)%5 == 0 {
			lines = append(lines, box(x-half, 0, x+half, Width))
			continue
		}
		for _, y := range []float64{0.1, RightHash, LeftHash, Width - 0.1 - 2.0/3} {
			lines = append(lines, box(x-half, y, x+half, y+2.0/3))
		}
	}
	ground = append(ground, mark{lines, chalk})
	for yard := 10; yard <= 90; yard += 10 {
		x, number := EndZone+float64(yard), text(strconv.Itoa(min(yard, 100-yard)))
		for _, far := range []bool{false, true} { // each is read from its own sideline, nine yards in
			var m [][]Vec
			for _, o := range number {
				var on []Vec
				for _, p := range o {
					if far {
						on = append(on, Vec{x - 2*p.X, Width - 7 - 2*p.Y, 0})
					} else {
						on = append(on, Vec{x + 2*p.X, 7 + 2*p.Y, 0})
					}
				}
				m = append(m, on)
			}
			ground = append(ground, mark{m, chalk})
		}
	}
	return ground
}

// post is the goal at an end of the field.
func (s *shot) post(x float64) {
	for _, bar := range [][2]Vec{
		{{x, Width / 2, 0}, {x, Width / 2, 10.0 / 3}},
		{{x, Width/2 - 3.1, 10.0 / 3}, {x, Width/2 + 3.1, 10.0 / 3}},
		{{x, Width/2 - 3.1, 10.0 / 3}, {x, Width/2 - 3.1, 10}},
		{{x, Width/2 + 3.1, 10.0 / 3}, {x, Width/2 + 3.1, 10}},
	} {
		s.limb(color.RGBA{0xe3, 0xc9, 0x5a, 0xff}, bar[0], 0.08, bar[1], 0.08)
	}
}

// ground paints the field.
func (s *shot) ground(marks []mark) {
	for _, m := range marks {
		outlines := make([][]Point, 0, len(m.outlines))
		for _, o := range m.outlines {
			var seen []Point
			for _, v := range s.lens.clip(o) {
				seen = append(seen, s.lens.Project(v))
			}
			outlines = append(outlines, seen)
		}
		s.fill(m.colour, outlines...)
	}
}
