package camera

import (
	"image/color"
	"math"
	"sort"
)

// kit is what a side wears.
type kit struct{ jersey, number, trousers, helmet, sock color.RGBA }

var (
	lamplighters = kit{color.RGBA{0xd8, 0x9a, 0x2b, 0xff}, color.RGBA{0x1a, 0x22, 0x2c, 0xff}, color.RGBA{0x2a, 0x33, 0x40, 0xff}, color.RGBA{0x24, 0x2c, 0x38, 0xff}, color.RGBA{0xd8, 0x9a, 0x2b, 0xff}}
	visitors     = kit{color.RGBA{0xe9, 0xe5, 0xd8, 0xff}, color.RGBA{0x7a, 0x24, 0x2c, 0xff}, color.RGBA{0x9a, 0xa3, 0xa8, 0xff}, color.RGBA{0x7a, 0x24, 0x2c, 0xff}, color.RGBA{0xe9, 0xe5, 0xd8, 0xff}}
	shoe         = color.RGBA{0x16, 0x18, 0x1a, 0xff}
	glove        = color.RGBA{0xf4, 0xf1, 0xe8, 0xff}
	leather      = color.RGBA{0x6b, 0x3c, 0x20, 0xff}
	shade        = color.NRGBA{0x08, 0x12, 0x08, 0x58}
)

// shot is a picture that is being drawn.
type shot struct {
	*canvas
	lens *Matrix
	eye  Vec
}

// part is a piece of a figure, drawn from the farthest to the nearest.
type part struct {
	depth float64
	draw  func()
}

// pixels is how many a yard has at a place.
func (s *shot) pixels(v Vec) float64 {
	a, b := s.lens.Project(v), s.lens.Project(v.plus(Vec{Z: 1}))
	c := s.lens.Project(v.plus(s.right()))
	return max(math.Hypot(b.X-a.X, b.Y-a.Y), math.Hypot(c.X-a.X, c.Y-a.Y))
}

func (s *shot) right() Vec {
	r := Vec{s.lens[2][0], s.lens[2][1], s.lens[2][2]}.cross(Vec{Z: 1})
	return r.unit()
}

func (s *shot) limb(with color.Color, a Vec, ra float64, b Vec, rb float64) {
	if s.lens.Depth(a) < near || s.lens.Depth(b) < near {
		return
	}
	s.fill(with, limb(s.lens.Project(a), ra*s.pixels(a), s.lens.Project(b), rb*s.pixels(b)))
}

func (s *shot) ball(with color.Color, at Vec, r float64) {
	if s.lens.Depth(at) >= near {
		s.fill(with, disc(s.lens.Project(at), r*s.pixels(at)))
	}
}

// shadow darkens the ground beside a figure: the sun is high behind the press box.
func (s *shot) shadow(p *pose) {
	at := Vec{p.hips.X + .12, p.hips.Y + .3, 0}
	if s.lens.Depth(at) < near {
		return
	}
	centre, along, across := s.lens.Project(at), s.lens.Project(at.plus(Vec{X: .42})), s.lens.Project(at.plus(Vec{Y: .62}))
	s.fill(shade, ellipse(centre, Point{along.X - centre.X, along.Y - centre.Y}, Point{across.X - centre.X, across.Y - centre.Y}))
}

// bend is where a joint between two parts of the same length is, on the side of a way.
func bend(from, to Vec, part float64, toward Vec) Vec {
	mid := from.to(to, .5)
	half := to.minus(from).length() / 2
	out := math.Sqrt(max(0, part*part-half*half))
	axis := to.minus(from)
	if axis.length() > 1e-6 {
		axis = axis.unit()
		toward = toward.minus(axis.times(toward.dot(axis)))
	}
	if toward.length() < 1e-6 {
		return mid
	}
	return mid.plus(toward.unit().times(out))
}

// figure draws one, with the number on chest and back.
func (s *shot) figure(p *pose, k *kit, number string) {
	sin, cos := math.Sincos(p.facing)
	ahead, left, up := Vec{X: cos, Y: sin}, Vec{X: -sin, Y: cos}, Vec{Z: 1}
	tilt := p.lean * math.Pi / 2
	spine := ahead.times(math.Sin(tilt)).plus(up.times(math.Cos(tilt)))
	chest := p.hips.plus(spine.times(.5))
	front := ahead.times(math.Cos(tilt)).minus(up.times(math.Sin(tilt))) // where the chest points
	var parts []part
	add := func(at Vec, draw func()) { parts = append(parts, part{s.lens.Depth(at), draw}) }

	for f := range p.feet {
		foot := p.feet[f]
		fs, fc := math.Sincos(foot.turned)
		toe := foot.at.plus(Vec{X: .3 * fc, Y: .3 * fs}) // for its depth
		ankle := foot.at.plus(Vec{X: .04 * fc, Y: .04 * fs, Z: .1})
		hip := p.hips.plus(left.times(.14 * Foot(f).sign()))
		if d := ankle.minus(hip); d.length() > 1.0 { // a leg is no longer than it is: the heel comes off the ground
			ankle = hip.plus(d.unit().times(1.0))
		}
		knee := bend(hip, ankle, .51, Vec{X: fc, Y: fs}.plus(ahead))
		add(hip.to(knee, .5), func() { s.limb(k.trousers, hip, .14, knee, .1) })
		add(knee.to(ankle, .5), func() { s.limb(k.sock, knee, .095, ankle, .06) })
		add(toe, func() {
			heel := ankle.minus(Vec{X: .04 * fc, Y: .04 * fs, Z: .05})
			s.limb(shoe, heel, .06, heel.plus(Vec{X: .3 * fc, Y: .3 * fs, Z: -min(.25, max(0, heel.Z-.05)) * .4}), .05)
		})
	}
	shoulders := chest.plus(spine.times(.04))
	for f, sign := range []float64{1, -1} {
		shoulder := shoulders.plus(left.times(.29 * sign))
		hand := shoulders.plus(ahead.times(.12 + .5*p.arms)).plus(left.times(sign * (.08 + .3*p.wide))).plus(up.times(-.28 + .22*p.arms))
		if p.ground && f == int(Right) {
			hand = Vec{shoulders.X + .1*cos + .1*sin, shoulders.Y + .1*sin - .1*cos, .03}
		}
		if d := hand.minus(shoulder); d.length() > .7 {
			hand = shoulder.plus(d.unit().times(.7))
		}
		elbow := bend(shoulder, hand, .36, left.times(sign).minus(up))
		add(shoulder.to(elbow, .5), func() {
			s.limb(k.jersey, shoulder, .1, elbow, .075)
			if outward := left.times(sign); outward.dot(s.eye.minus(shoulder).unit()) > .6 { // the number is on the sleeve too
				s.number(number, shoulder.to(elbow, .3).plus(outward.times(.1)).minus(up.times(.08)), s.right(), up, .15, k)
			}
		})
		add(elbow.to(hand, .5), func() { s.limb(glove, elbow, .06, hand, .055); s.ball(glove, hand, .075) })
	}
	add(p.hips.to(chest, .6), func() { s.torso(p.hips, shoulders, left, front, k, number) })
	neck := shoulders.plus(spine.times(.1))
	face := p.facing + p.look
	hs, hc := math.Sincos(face)
	nod := p.down * math.Pi / 2.2
	crown := neck.plus(Vec{X: hc, Y: hs}.times(.06 + .14*math.Sin(nod))).plus(up.times(.2 - .2*math.Sin(nod)*.8))
	gaze := Vec{X: hc * math.Cos(nod), Y: hs * math.Cos(nod), Z: -math.Sin(nod)}
	add(crown, func() {
		s.ball(k.helmet, crown, .165)
		mask := crown.plus(gaze.times(.13))
		if s.lens.Depth(mask) < s.lens.Depth(crown) {
			s.ball(k.number, mask, .085)
			s.ball(color.RGBA{0x20, 0x1c, 0x1a, 0xff}, mask.plus(gaze.times(.02)), .05)
		}
	})
	sort.SliceStable(parts, func(i, j int) bool { return parts[i].depth > parts[j].depth })
	for _, q := range parts {
		q.draw()
	}
}

// torso draws the jersey and the number on the side of it that is seen.
func (s *shot) torso(hips, shoulders, left, front Vec, k *kit, number string) {
	if s.lens.Depth(hips) < near || s.lens.Depth(shoulders) < near {
		return
	}
	waist := hips.plus(shoulders.minus(hips).times(.08))
	s.limb(k.trousers, hips.plus(left.times(.1)), .14, hips.minus(left.times(.1)), .14)
	a, b := shoulders.plus(left.times(.27)), shoulders.minus(left.times(.27))
	c, d := waist.plus(left.times(.13)), waist.minus(left.times(.13))
	s.limb(k.jersey, a, .12, c, .12)
	s.limb(k.jersey, b, .12, d, .12)
	s.limb(k.jersey, a, .14, b, .14)
	s.limb(k.jersey, shoulders, .2, waist, .16)
	toEye := s.eye.minus(shoulders).unit()
	facing := front.dot(toEye)
	if math.Abs(facing) < .25 {
		return
	}
	across := left.times(math.Copysign(1, facing)) // on the chest whoever reads has the player's left to his right
	out := front.times(math.Copysign(.13, facing))
	middle := shoulders.to(waist, .62).plus(out)
	upward := shoulders.minus(waist).unit()
	s.number(number, middle, across.times(.88), upward, .34, k)
}

// number writes one on what somebody wears; its capitals are so high.
func (s *shot) number(number string, at, across, upward Vec, high float64, k *kit) {
	var seen [][]Point
	for _, o := range text(number) {
		var line []Point
		for _, q := range o {
			line = append(line, s.lens.Project(at.plus(across.times(q.X*high)).plus(upward.times(q.Y*high))))
		}
		seen = append(seen, line)
	}
	s.fill(k.number, seen...)
}
