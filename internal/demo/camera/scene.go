package camera

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// The frames of a play's clip, and the frame of the snap.
const (
	PlayFrames = 150
	SnapFrame  = 36
)

// actor is somebody in a scene.
type actor struct {
	number string
	kit    *kit
	home   bool
	spot   Spot
	body   *body
	marked Marked
}

// scene is what the cameras look at.
type scene struct {
	frames, snap int
	actors       []actor
	ball         func(t float64) Vec
	x, y         float64 // where the ball lay
	chance       *rand.Rand
}

// stand is somebody on his feet.
func stand(x, y, facing float64) *body {
	return &body{way: []waypoint{{-2, x, y}, {.15, x, y}}, facing: track{{0, facing}}, high: track{{0, .86}, {.5, .88}}, lean: track{{0, .4}, {.6, .28}},
		wide: track{{0, .3}}, reach: track{{0, .2}}, gait: .19, toes: .1}
}

func (b *body) goes(t, x, y float64) *body {
	b.way = append(b.way, waypoint{t, x, y})
	return b
}

// turned makes a body look where it goes.
func (b *body) turned() *body {
	for i := 1; i < len(b.way); i++ {
		p, n := b.way[i-1], b.way[i]
		if math.Hypot(n.x-p.x, n.y-p.y) > .4 {
			a := math.Atan2(n.y-p.y, n.x-p.x)
			if last := b.facing[len(b.facing)-1].value; math.Abs(a-last) > math.Pi {
				a += 2 * math.Pi * math.Round((last-a)/(2*math.Pi))
			}
			b.facing = append(b.facing, key{p.at + .3*(n.at-p.at), a})
		}
	}
	slices.SortStableFunc(b.facing, func(a, c key) int { return cmp.Compare(a.at, c.at) })
	return b
}

// fall goes down at a time.
func (b *body) fall(t float64) {
	b.high = append(before(b.high, t), key{t, .8}, key{t + .45, .24})
	b.lean = append(before(b.lean, t), key{t, .5}, key{t + .45, .95})
	b.still = track{{t + .1, 0}, {t + .15, 1}}
}

// before are the keys of a track before a time.
func before(k track, t float64) track {
	var out track
	for _, x := range k {
		if x.at < t {
			out = append(out, x)
		}
	}
	return out
}

// stage sets the scene of a play.
func stage(p Script) *scene {
	s := &scene{frames: PlayFrames, snap: SnapFrame, x: p.X, y: p.Y, chance: rand.New(rand.NewPCG(p.Seed, 7))}
	side := -1.0
	if p.Left {
		side = 1
	}
	for spot, m := range p.Players { // whose steps are not drawn one by one cannot show a wrong one
		if !slices.ContainsFunc(lineSpots, func(l lineSpot) bool { return l.spot == spot }) && slices.Contains(stepped, m.Manner) {
			m.Manner = Late
			p.Players[spot] = m
		}
	}
	line := s.line(p, side)
	s.rest(p, side)
	s.defense(p, side, line)
	return s
}

func (s *scene) home(p Script, spot Spot, b *body) {
	m := p.Players[spot]
	s.actors = append(s.actors, actor{number: m.Jersey, kit: &lamplighters, home: true, spot: spot, body: b, marked: m})
}

// rusher is a defender on the line, as the offensive line finds him.
type rusher struct {
	x, y    float64
	blocker *body
	drops   bool // a linebacker
}

// fronts are the spots of the defenders over the offense's box, across from the ball to the strong side
// and down the field: linemen first.
func fronts(odd bool) (line, backers [][2]float64) {
	if odd {
		return [][2]float64{{3, 1}, {0, .9}, {-3, 1}}, [][2]float64{{5.4, 1.4}, {1.3, 4.6}, {-1.3, 4.6}, {-4.9, 1.6}}
	}
	return [][2]float64{{4.9, 1}, {2.1, .9}, {-.5, .9}, {-3.7, 1}}, [][2]float64{{4.4, 4.8}, {.7, 4.6}, {-2.6, 4.6}}
}

type lineSpot struct {
	spot Spot
	y    float64
}

// stepped are the manners that are in the first two steps.
var stepped = []Manner{LongFirst, BehindSecond, Under, GivesGround, EdgeOpen, TwoPushes}

// lineSpots are the line from left to right with how far from the ball each stands.
var lineSpots = []lineSpot{{"LT", 2.8}, {"LG", 1.4}, {"C", 0}, {"RG", -1.4}, {"RT", -2.8}}

// line puts the offensive line to work, each against whom his technique finds.
func (s *scene) line(p Script, side float64) []rusher {
	strong := strength(p)
	front, backers := fronts(p.Odd)
	var there []rusher
	for i, d := range append(slices.Clone(front), backers...) {
		there = append(there, rusher{x: p.X + d[1], y: p.Y + d[0]*strong, drops: i >= len(front)})
	}
	for _, who := range lineSpots {
		m, x, y := p.Players[who.spot], p.X-.75, p.Y+who.y
		if who.spot == "C" {
			x = p.X - .45
		}
		l := &lineman{x: x, y: y, side: side, out: who.y / 2.8, m: m}
		if l.out != 0 && math.Abs(l.out) < 1 {
			l.out = math.Copysign(.5, l.out)
		}
		var at *waypoint
		best, most := -1, 1.9
		if m.Technique == "kick_slide" {
			most = 2.4
		}
		for i, d := range there {
			far := math.Abs(d.y-y) + .15*(d.x-p.X)
			if d.drops {
				far += .4
			}
			if d.blocker != nil {
				far += .7
			}
			if m.Technique == "pull_kick" {
				far = math.Abs(d.y - (y + 6*side))
				if d.drops {
					far += 3
				}
			}
			if m.Technique == "kick_slide" && d.drops {
				continue
			}
			if far < most {
				best, most = i, far
			}
		}
		if best >= 0 {
			at = &waypoint{0, there[best].x, there[best].y}
		}
		b := l.work(at)
		if best >= 0 && there[best].blocker == nil {
			there[best].blocker = b
		}
		s.home(p, who.spot, b)
	}
	return there
}

// strength is the side of the tight end.
func strength(p Script) float64 {
	if p.Formation == "Trips left" {
		return -1
	}
	return 1
}

// rest are the backs, the receivers and the ball.
func (s *scene) rest(p Script, side float64) {
	strong := strength(p)
	x, y := p.X, p.Y
	end := min(3.6, 1.7+math.Abs(float64(p.Gain))/5.2)
	te := stand(x-.7, y+4.2*strong, 0)
	te.high, te.lean, te.hand = track{{0, .66}, {.4, .8}}, track{{-.05, .86}, {.4, .5}}, true
	qb := stand(x-5, y, 0)
	rb := stand(x-5.2, y-1.6*side, 0)
	wide := func(off float64) float64 { return math.Min(Width-2.5, math.Max(2.5, y+off)) }
	ends := map[Spot][2]float64{"X": {x - .8, wide(16 * -strong)}, "Z": {x - 1.4, wide(15 * strong)}, "H": {x - 1.4, wide(-8 * strong)}}
	if p.Formation != "Doubles" {
		ends["H"] = [2]float64{x - 1.4, wide(8.5 * -strong)}
		ends["Z"] = [2]float64{x - 1.4, wide(12.5 * -strong)}
	}
	catcher := Spot("H")
	if p.Pass {
		qb.goes(1.2, x-7.2, y).goes(2.3, x-6.6, y+.2)
		qb.reach = track{{.3, .35}, {2.1, .4}, {2.3, 1}, {2.6, .2}}
		rb.goes(.8, x-4.6, y-2*side).goes(1.8, x-5, y-2.6*side)
		te.goes(.9, x+3, y+4.6*strong).goes(2.4, x+9, y+3*strong)
		s.receivers(p, ends, catcher)
		if p.Gain < 0 {
			qb.way = qb.way[:len(qb.way)-1]
			qb.goes(2.2, x+float64(p.Gain)-1, y+.8)
			qb.fall(2.3)
		}
	} else {
		qb.goes(.6, x-4.4, y).goes(2.4, x-6, y+1.5*side)
		qb.reach = track{{.3, .4}, {.8, .8}, {1.1, .2}}
		hole := y + 3.3*side
		if p.Call == "Zone left" || p.Call == "Zone right" {
			hole = y + 1.9*side
		}
		rb.goes(.75, x-4, y-.4*side)
		if p.Gain > 0 {
			rb.goes(1.7, x+.3, hole).goes(end+.2, x+float64(p.Gain), hole+1.4*side)
		} else {
			rb.goes(1.6, x+float64(p.Gain)-.2, hole)
			end = 1.7
		}
		rb.fall(end + .25)
		te.goes(.6, x+.3, y+4.4*strong).goes(3, x+1.6, y+5*strong)
		te.reach = track{{.2, .1}, {.6, 1}}
		for _, spot := range []Spot{"X", "Z", "H"} {
			e := ends[spot]
			b := stand(e[0], e[1], 0).goes(1.1, e[0]+4.5, e[1]-.4*side).goes(2.2, e[0]+6, e[1]).goes(3.4, e[0]+6.6, e[1])
			b.reach = track{{1.3, .2}, {1.7, .9}}
			s.ends(p, spot, b)
		}
	}
	for _, w := range []struct {
		spot Spot
		b    *body
	}{{"TE", te}, {"QB", qb}, {"RB", rb}} {
		off(w.b, p.Players[w.spot])
		if !p.Pass || w.spot != "QB" { // who passes looks down the field as he drops
			w.b.turned()
		}
		s.home(p, w.spot, w.b)
	}
	s.carry(p, qb, rb, end)
}

func (s *scene) ends(p Script, spot Spot, b *body) {
	off(b, p.Players[spot])
	s.home(p, spot, b.turned())
}

// receivers run their routes; the ball goes to one of them.
func (s *scene) receivers(p Script, ends map[Spot][2]float64, catcher Spot) {
	for _, spot := range []Spot{"X", "Z", "H"} {
		e := ends[spot]
		in := math.Copysign(1, p.Y-e[1])
		b := stand(e[0], e[1], 0)
		switch {
		case spot == catcher:
			deep := p.X + max(2, float64(p.Gain)-2)
			b.goes(1+.12*(deep-p.X), deep, e[1]).goes(2.9+.02*(deep-p.X), deep+.5, e[1]+3*in).goes(3.5, p.X+max(2, float64(p.Gain)), e[1]+4*in)
			b.reach = track{{2.3, .2}, {2.8, 1}, {3.1, .4}}
			if p.Gain > 0 {
				b.fall(3.45)
			}
		case spot == "X":
			b.goes(2.6, e[0]+15, e[1]).goes(3.8, e[0]+23, e[1]+.5*in)
		default:
			b.goes(1.9, e[0]+10, e[1]).goes(2.6, e[0]+9, e[1]-3*in).goes(3.8, e[0]+9.4, e[1]-4*in)
		}
		s.ends(p, spot, b)
	}
}

// carry is where the ball is.
func (s *scene) carry(p Script, qb, rb *body, end float64) {
	held := func(b *body, t float64) Vec {
		x, y := b.place(t)
		return Vec{x + .25, y - .1, .85 * b.high.value(t)}
	}
	from := Vec{p.X, p.Y, .12}
	var target *body
	for _, a := range s.actors {
		if a.spot == "H" {
			target = a.body
		}
	}
	s.ball = func(t float64) Vec {
		switch {
		case t < 0:
			return from
		case t < .3:
			return from.to(held(qb, .3), t/.3).plus(Vec{Z: .5 * math.Sin(math.Pi*t/.3) * .6})
		case !p.Pass && t < .8, p.Pass && (t < 2.35 || p.Gain < 0):
			return held(qb, t)
		case !p.Pass:
			return held(rb, t)
		}
		a := held(qb, 2.35).plus(Vec{Z: .6})
		c := held(target, 2.9)
		if p.Gain == 0 {
			c = c.plus(Vec{X: 2.2, Y: 1, Z: -.5}) // beyond his reach
		}
		if u := (t - 2.35) / .55; u < 1 {
			return a.to(c, u).plus(Vec{Z: 1.1 * math.Sin(math.Pi*u)})
		}
		if p.Gain == 0 {
			fly := min(1, (t-2.9)/.3)
			return c.plus(Vec{X: 3 * fly, Z: (.1 - c.Z) * fly})
		}
		return held(target, t)
	}
}

// off shows the fault of somebody who is not on the line.
func off(b *body, m Marked) {
	l := &lineman{x: b.way[0].x, y: b.way[0].y, side: 1, out: 1, m: m}
	l.plant(b)
}
