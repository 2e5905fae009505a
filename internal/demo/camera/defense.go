package camera

import (
	"math"
	"strconv"
)

// defense are the visitors.
func (s *scene) defense(p Script, side float64, there []rusher) {
	numbers := s.chance.Perm(48)
	n := 0
	away := func(spot Spot, b *body) {
		s.actors = append(s.actors, actor{number: strconv.Itoa(numbers[n] + 50 - 48*(n/6)), kit: &visitors, spot: spot, body: b})
		n++
	}
	strong := strength(p)
	carrier, tackle := s.target(p)
	for i, d := range there {
		b := stand(d.x, d.y, math.Pi)
		if !d.drops {
			b.high, b.lean, b.hand = track{{0, .62}, {.4, .74}}, track{{-.02, .9}, {.4, .55}}, true
		}
		switch {
		case d.blocker != nil:
			meet(b, d.blocker, d.drops)
		case d.drops && p.Pass:
			b.goes(1.6, d.x+5, d.y+(d.y-p.Y)*.5).goes(3.4, d.x+7, d.y+(d.y-p.Y)*.4)
		case p.Pass:
			b.goes(1.2, p.X-1.5, d.y+.4*(d.y-p.Y)).goes(2.6, p.X-5.8, p.Y+.4*(d.y-p.Y))
		case !d.drops && (d.y-p.Y)*side < 0: // the back side runs along behind the play
			b.goes(1, p.X-.6, d.y).goes(tackle+.2, carrier.X-1, carrier.Y-.9*side)
		default:
			b.goes(.5, d.x, d.y+.6*side).goes(tackle, carrier.X+.7, carrier.Y+.3*float64(i%3-1))
		}
		away(Spot("front"), b.turned())
	}
	depth := []Vec{{X: 13, Y: 6}, {X: 12.5, Y: -6}}
	if !p.TwoHigh {
		depth = []Vec{{X: 14.5}, {X: 7, Y: 6.5 * strong}}
	}
	for _, at := range depth {
		b := stand(p.X+at.X, p.Y+at.Y, math.Pi)
		if p.Pass {
			b.goes(1.5, p.X+at.X+4, p.Y+at.Y*1.2).goes(3.5, p.X+at.X+9, p.Y+at.Y*1.4)
		} else {
			b.goes(.8, p.X+at.X-.6, p.Y+at.Y).goes(3.6, math.Max(carrier.X+1.2, p.X+at.X-7), (p.Y+at.Y+carrier.Y)/2)
		}
		away("safety", b.turned())
	}
	for _, e := range []Spot{"X", "Z", "H", "TE"} {
		if len(there)+len(depth)+2 >= 11 && (e == "H" || e == "TE") {
			continue
		}
		for _, a := range s.actors {
			if a.spot == e && a.home {
				cushion := 6.5
				b := stand(a.body.way[0].x+cushion, a.body.way[0].y, math.Pi)
				for _, w := range a.body.way[2:] {
					b.goes(w.at+.25, math.Max(w.x+1.1, a.body.way[0].x+3), w.y+.4)
				}
				b.facing = track{{0, math.Pi}}
				away("corner", b)
			}
		}
	}
}

// target is where the play ends, and when.
func (s *scene) target(p Script) (Vec, float64) {
	for _, a := range s.actors {
		if (p.Pass && a.spot == "H" || !p.Pass && a.spot == "RB") && a.home {
			last := a.body.way[len(a.body.way)-1]
			return Vec{X: last.x, Y: last.y}, last.at
		}
	}
	return Vec{X: p.X, Y: p.Y}, 2
}

// meet makes a defender go with the player who blocks him.
func meet(b, blocker *body, climbs bool) {
	when := .55
	if climbs {
		when = 1.3
	} else if t := blocker.facing.value(1.1); math.Abs(t) > 1.2 { // a puller comes from far
		when = 1.4
		b.goes(.7, b.way[0].x-1, b.way[0].y).goes(1.2, b.way[0].x-1.2, b.way[0].y)
	}
	for t := when; t <= 3.6; t += .3 {
		x, y := blocker.place(t)
		face := blocker.facing.value(t)
		b.goes(t, x+.82*math.Cos(face), y+.82*math.Sin(face))
		b.facing = append(b.facing, key{t, math.Pi + face*.8})
	}
	b.reach = track{{.3, .2}, {when, .9}}
	b.high, b.lean = append(b.high, key{when + .2, .8}), append(b.lean, key{when + .2, .42})
}
