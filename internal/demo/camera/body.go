package camera

import (
	"math"
	"sort"
)

// FPS is how many frames a second has.
const FPS = 30

// key is a value that is reached at a time.
type key struct{ at, value float64 }

// track is a value over time: it goes smoothly from one key to the next.
type track []key

func (k track) value(t float64) float64 {
	i := sort.Search(len(k), func(i int) bool { return k[i].at > t })
	switch {
	case len(k) == 0:
		return 0
	case i == 0:
		return k[0].value
	case i == len(k):
		return k[i-1].value
	}
	a, b := k[i-1], k[i]
	s := (t - a.at) / (b.at - a.at)
	return a.value + (b.value-a.value)*s*s*(3-2*s)
}

// waypoint is a place that is reached at a time.
type waypoint struct{ at, x, y float64 }

// Foot is one of the two.
type Foot int

// The feet.
const (
	Left Foot = iota
	Right
)

func (f Foot) sign() float64 {
	if f == Left {
		return 1
	}
	return -1
}

// step puts a foot somewhere: from and to are times, ahead and aside are where it lands from where the
// body stood at the snap, aside to the left; turn is where its toe points, to the left of straight ahead.
type step struct {
	foot                           Foot
	from, to, ahead, aside, turned float64
}

// body is how a figure moves: a way, what it carries how over time, and the steps that are taught. All
// other steps follow from the way.
type body struct {
	way    []waypoint
	facing track // of the shoulders: an angle from x toward y
	high   track // of the hips, 1 when upright
	lean   track // of the back: 0 upright, 1 flat
	down   track // of the head: 0 eyes up, 1 the crown leads
	look   track // of the head: an angle from the shoulders
	wide   track // of the hands, 1 at the width of the shoulders
	reach  track // of the hands, 1 at an arm's length
	hand   bool  // one hand is on the ground before the snap
	shift  track // of the hips toward the left foot, in yards
	steps  []step
	gait   float64 // half the distance of the feet
	toes   float64 // how far the toes turn out
	still  track   // 1 where the feet stop
	start  float64 // when the steps begin: the snap, or a rep's own moment
}

// place is where the way leads, its corners rounded.
func (b *body) place(t float64) (x, y float64) {
	const samples, reach = 7, 0.14
	for i := range samples {
		px, py := b.straight(t + reach*(float64(i)/(samples-1)*2-1))
		x, y = x+px/samples, y+py/samples
	}
	return x, y
}

func (b *body) straight(t float64) (x, y float64) {
	i := sort.Search(len(b.way), func(i int) bool { return b.way[i].at > t })
	switch i {
	case 0:
		return b.way[0].x, b.way[0].y
	case len(b.way):
		return b.way[i-1].x, b.way[i-1].y
	}
	p, n := b.way[i-1], b.way[i]
	s := (t - p.at) / (n.at - p.at)
	return p.x + (n.x-p.x)*s, p.y + (n.y-p.y)*s
}

// pose is a figure at a moment.
type pose struct {
	hips                                 Vec
	facing, lean, down, look, wide, arms float64
	ground                               bool // a hand is on it
	feet                                 [2]footing
}

// footing is a foot at a moment: the middle of its heel, and where its toe points.
type footing struct {
	at     Vec
	turned float64
	swings bool
	from   footed
	target footed
	t0, t1 float64
}

type footed struct{ x, y, turned float64 }

// Landing is a foot put down.
type Landing struct {
	Foot   string  `json:"foot"`
	Frame  int     `json:"frame"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Turned float64 `json:"toe_deg"` // of the toe, from x toward y
}

// poses walks a body through its frames: a foot that is down stays where it is until it swings.
func (b *body) poses(frames, snap int) ([]pose, []Landing) {
	out := make([]pose, frames)
	var landings []Landing
	var feet [2]footing
	x0, y0 := b.place(b.start - .3)
	face0 := b.facing.value(b.start - .3)
	home := func(f Foot, t float64) footed {
		x, y := b.place(t)
		a := b.facing.value(t)
		s, c := math.Sincos(a)
		return footed{x - f.sign()*b.gait*s, y + f.sign()*b.gait*c, a + f.sign()*b.toes}
	}
	for f := range feet {
		h := home(Foot(f), -2)
		feet[f] = footing{at: Vec{h.x, h.y, 0}, turned: h.turned}
	}
	next := 0
	for i := range out {
		t := float64(i-snap) / FPS
		taught := len(b.steps) > 0 && t > b.start-.3 && t < b.steps[len(b.steps)-1].to
		for next < len(b.steps) && t >= b.steps[next].from {
			st := b.steps[next]
			s, c := math.Sincos(face0)
			p := &feet[st.foot]
			p.start(footed{x0 + st.ahead*c - st.aside*s, y0 + st.ahead*s + st.aside*c, face0 + st.turned}, t, st.to)
			next++
		}
		if !taught && b.still.value(t) < .5 && !feet[Left].swings && !feet[Right].swings {
			b.walk(&feet, home, t)
		}
		for f := range feet {
			if feet[f].move(t) {
				landings = append(landings, Landing{Foot: [2]string{"left", "right"}[f], Frame: i, X: hundredth(feet[f].at.X), Y: hundredth(feet[f].at.Y), Turned: math.Round(feet[f].turned * 180 / math.Pi)})
			}
		}
		x, y := b.place(t)
		a := b.facing.value(t)
		s, c := math.Sincos(a)
		shift := b.shift.value(t)
		out[i] = pose{hips: Vec{x - shift*s, y + shift*c, .98 * b.high.value(t)}, facing: a, lean: b.lean.value(t), down: b.down.value(t),
			look: b.look.value(t), wide: b.wide.value(t), arms: b.reach.value(t), ground: b.hand && t < b.start+.08 && (b.start == 0 || t > b.start-.6), feet: feet}
	}
	return out, landings
}

// walk lets the foot swing that is farther from where it should be.
func (b *body) walk(feet *[2]footing, home func(Foot, float64) footed, t float64) {
	x1, y1 := b.place(t + .1)
	xa, ya := b.place(t)
	speed := math.Hypot(x1-xa, y1-ya) / .1
	swing := min(.3, max(.15, .3-.025*speed))
	worst, far := Left, 0.0
	for f := range feet {
		h := home(Foot(f), t+swing/2)
		if d := math.Hypot(h.x-feet[f].at.X, h.y-feet[f].at.Y) + .3*math.Abs(h.turned-feet[f].turned); d > far {
			worst, far = Foot(f), d
		}
	}
	if far > .1+.03*speed {
		feet[worst].start(home(worst, t+swing*1.6), t, t+swing)
	}
}

func (p *footing) start(to footed, from, until float64) {
	p.swings, p.from, p.target, p.t0, p.t1 = true, footed{p.at.X, p.at.Y, p.turned}, to, from, until
}

// move goes on with a swing and says whether the foot came down.
func (p *footing) move(t float64) bool {
	if !p.swings {
		return false
	}
	s := min(1, (t-p.t0)/(p.t1-p.t0))
	e := s * s * (3 - 2*s)
	p.at = Vec{p.from.x + (p.target.x-p.from.x)*e, p.from.y + (p.target.y-p.from.y)*e, .16 * math.Sin(math.Pi*s) * min(1, .4+math.Hypot(p.target.x-p.from.x, p.target.y-p.from.y))}
	p.turned = p.from.turned + (p.target.turned-p.from.turned)*e
	if s >= 1 {
		p.swings, p.at.Z = false, 0
		return true
	}
	return false
}

func hundredth(v float64) float64 { return math.Round(v*100) / 100 }
