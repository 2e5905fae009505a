package camera

import "math"

const inch = 1.0 / 36

// lineman is a player of the offensive line at work: from where, toward which side the play goes, and
// which side is his outside.
type lineman struct {
	x, y      float64
	side, out float64 // 1: to the left
	m         Marked
}

// foot is the one on a side.
func foot(side float64) Foot {
	if side > 0 {
		return Left
	}
	return Right
}

// stance is three points on the ground and eyes up.
func (l *lineman) stance() *body {
	return &body{
		way: []waypoint{{-2, l.x, l.y}, {.1, l.x, l.y}}, high: track{{0, .66}}, lean: track{{-.05, .86}, {.3, .6}}, hand: true,
		wide: track{{0, .25}}, reach: track{{0, .1}, {.15, .1}}, gait: .21, toes: .12, facing: track{{0, 0}}, down: track{{-.1, .1}, {.1, 0}},
	}
}

// put adds a step: ahead and aside of where the foot stood, in inches.
func (l *lineman) put(b *body, f Foot, from, to, ahead, aside, turned float64) {
	b.steps = append(b.steps, step{f, from, to, ahead * inch, f.sign()*b.gait + aside*inch, f.sign()*b.toes + turned})
}

// work is the technique with the fault that was planted in it; at is whom he blocks.
func (l *lineman) work(at *waypoint) *body {
	b := l.stance()
	switch l.m.Technique {
	case "kick_slide":
		l.kick(b)
	case "pull_kick":
		l.pull(b)
	case "close_turn":
		l.close(b, at)
	default:
		l.drive(b, at)
	}
	l.plant(b)
	return b
}

// drive is the base block, and the double with a neighbour.
func (l *lineman) drive(b *body, at *waypoint) {
	play, other := foot(l.side), foot(-l.side)
	l.put(b, play, .1, .27, 7, 3*l.side, 0)
	l.put(b, other, .3, .46, 11, 2*l.side, 0)
	l.put(b, play, .48, .66, 20, 4*l.side, 0)
	b.way = append(b.way, waypoint{.3, l.x + .15, l.y + .05*l.side}, waypoint{.6, l.x + .45, l.y + .1*l.side})
	end := waypoint{3.4, l.x + 2.6, l.y + 1.3*l.side}
	if at != nil && at.x-l.x > 3 { // a linebacker: climb to him
		b.way = append(b.way, waypoint{1.5, at.x - 1, at.y})
		end = waypoint{3.4, at.x + .4, at.y + .8*l.side}
	} else if at != nil {
		b.way = append(b.way, waypoint{.75, l.x + .55, l.y + (at.y-l.y)*.6})
	}
	if l.m.Technique == "two_man" && at != nil && at.x-l.x < 3 { // together, then one of them comes off to the linebacker
		b.way = append(b.way, waypoint{1.7, l.x + 1.5, l.y + (at.y-l.y)*.6 + .3*l.side})
		if math.Abs(at.y-l.y) > .75 {
			end = waypoint{3.2, l.x + 5, l.y + 1.2*l.side}
		}
	}
	b.way = append(b.way, end)
	b.high = track{{-.05, .66}, {.3, .62}, {.6, .7}, {2, .82}}
	b.lean = track{{-.05, .86}, {.35, .66}, {.8, .5}, {2, .42}}
	b.reach, b.wide = track{{0, .1}, {.25, .1}, {.5, 1}}, track{{0, .25}}
}

// close shuts the inside gap and turns back.
func (l *lineman) close(b *body, at *waypoint) {
	in := -l.out
	if l.out == 0 {
		in = l.side
	}
	inside, outside := foot(in), foot(-in)
	l.put(b, inside, .1, .27, 2, 8*in, 0)
	l.put(b, outside, .3, .46, 3, 8*in, 0)
	b.way = append(b.way, waypoint{.3, l.x + .02, l.y + .2*in}, waypoint{.5, l.x + .1, l.y + .24*in}, waypoint{.9, l.x + .25, l.y + .3*in})
	if at != nil {
		b.way = append(b.way, waypoint{3.2, l.x + .6, l.y + .2*in - .7*in})
	} else {
		b.way = append(b.way, waypoint{3.2, l.x + .7, l.y + .3*in})
	}
	b.facing = track{{.7, 0}, {1.2, -in * .9}}
	b.high = track{{-.05, .66}, {.4, .66}, {1, .74}, {2.2, .84}}
	b.lean = track{{-.05, .86}, {.35, .55}, {1, .4}}
	b.reach, b.wide = track{{0, .1}, {.4, .3}, {1, 1}}, track{{0, .25}}
}

// kick is the pass set: kicks back, then he rides the rusher.
func (l *lineman) kick(b *body) {
	out := l.out
	if out == 0 {
		out = 1
	}
	width := 1.0 // the farther outside, the more he opens
	if math.Abs(l.out) < .9 {
		width = .3
	}
	outside, post := foot(out), foot(-out)
	for i, t := range []float64{.08, .46, .82} {
		back, aside := -24+3*float64(i), 8*width*out*float64(i+1)
		l.put(b, outside, t, t+.2, back*float64(i+1)*width, aside, .35*out)
		l.put(b, post, t+.2, t+.36, (back*float64(i+1)+8)*width, aside*.8, .05*out)
	}
	b.way = append(b.way, waypoint{.46, l.x - .6*width - .1, l.y + .2*out*width}, waypoint{.84, l.x - 1.2*width - .15, l.y + .38*out*width},
		waypoint{1.25, l.x - 1.8*width - .2, l.y + .55*out*width}, waypoint{2.2, l.x - 2.8*width - .8, l.y + .7*out*width}, waypoint{3.4, l.x - 3.6*width - 1, l.y + .9*out*width})
	b.facing = track{{1.2, .1 * out * width}, {2.2, .5 * out * width}}
	b.high = track{{-.05, .66}, {.25, .74}, {1.2, .76}, {2.5, .82}}
	b.lean = track{{-.05, .86}, {.25, .3}, {2, .26}}
	b.reach, b.wide = track{{0, .1}, {.9, .25}, {1.2, .95}}, track{{0, .25}}
	b.gait = .24
}

// pull opens along the line and kicks the end man out.
func (l *lineman) pull(b *body) {
	s := l.side
	l.put(b, foot(s), .08, .26, -6, 14*s, 1.1*s)
	l.put(b, foot(-s), .28, .46, -4, 40*s, 1.3*s)
	b.way = append(b.way, waypoint{.3, l.x - .1, l.y + .35*s}, waypoint{.6, l.x - .45, l.y + 1.7*s}, waypoint{1.2, l.x - .3, l.y + 4.6*s},
		waypoint{1.5, l.x + .35, l.y + 5.6*s}, waypoint{3.2, l.x + 1.4, l.y + 7*s})
	b.facing = track{{.05, 0}, {.3, 1.35 * s}, {1.1, 1.3 * s}, {1.5, .85 * s}}
	b.high = track{{-.05, .66}, {.3, .68}, {1.2, .74}, {1.5, .66}, {2.2, .8}}
	b.lean = track{{-.05, .86}, {.3, .55}, {1.2, .5}}
	b.reach, b.wide = track{{0, .1}, {1.2, .1}, {1.5, 1}}, track{{0, .25}}
}

// plant changes what the fault changes.
func (l *lineman) plant(b *body) {
	out := l.out
	if out == 0 {
		out = l.side
	}
	setting, pulling := l.m.Technique == "kick_slide", l.m.Technique == "pull_kick"
	contact := .4
	if pulling {
		contact = 1.2
	}
	switch l.m.Manner {
	case LongFirst:
		if setting {
			b.steps[0].ahead -= 14 * inch
			b.steps[0].aside += 10 * inch * out
		} else {
			b.steps[0].ahead += 12 * inch
		}
	case BehindSecond:
		b.steps[1].ahead = b.steps[0].ahead - 13*inch
		b.facing = append(track{{.3, 0}, {.5, .45 * out}}, later(b.facing, .7)...)
	case Under:
		b.steps[1].aside = b.steps[0].aside * .4
	case WideHands:
		b.wide = track{{0, .25}, {contact - .1, 1.7}}
	case HeadDown:
		b.down = track{{contact - .2, 0}, {contact + .1, 1}, {contact + 1.2, .8}}
		b.lean = append(b.lean, key{contact + 3, .7})
	case Together:
		b.gait = .05
	case StopsFeet:
		b.still = track{{1.1, 0}, {1.15, 1}}
		b.way = until(b.way, 1.2)
	case Rises:
		b.high = track{{-.05, .66}, {.3, 1}}
		b.lean = track{{-.05, .86}, {.3, .12}}
	case TurnsEarly:
		turn := out
		if len(b.facing) > 0 && b.facing[len(b.facing)-1].value < 0 {
			turn = -1
		} else if len(b.facing) > 0 && b.facing[len(b.facing)-1].value > 0 {
			turn = 1
		}
		b.facing = track{{.12, 0}, {.45, turn * 1.05}}
	case HeelIn:
		for i := range b.steps {
			if b.steps[i].foot == foot(out) {
				b.steps[i].turned += .85 * out
			}
		}
		b.toes = .75
	case Leans:
		b.lean = track{{-.05, .86}, {.3, .7}, {1.5, .8}}
		b.reach = track{{0, .1}, {.4, 1}}
	case WeightOut, WeightIn:
		toward := .15 * out
		if l.m.Manner == WeightIn {
			toward = -toward
		}
		b.shift = track{{-2, toward}, {1.5, toward}}
	case EyesOut:
		b.look = track{{.02, 0}, {.12, 1.1 * out}, {.7, 1.1 * out}, {1, 0}}
	case EyesDown:
		b.down = track{{.1, 0}, {.3, .6}, {1.6, .6}}
	case GivesGround:
		b.steps[0].ahead -= 12 * inch
		b.steps[1].ahead -= 12 * inch
		b.way = moved(b.way, .25, -.45, 0)
	case EdgeOpen:
		b.steps[0].aside -= 12 * inch * l.side
		b.way = moved(b.way, .25, 0, -.5*l.side)
	case Wanders:
		b.way = moved(b.way, .7, 0, 1.3*out)
	case Late:
		b.way = delayed(b.way, .5)
		for i := range b.steps {
			b.steps[i].from, b.steps[i].to = b.steps[i].from+.3, b.steps[i].to+.3
		}
	case Early:
		b.way = append(until(b.way, .7), waypoint{1.7, l.x + 4.6, l.y + .8*l.side}, waypoint{3.2, l.x + 5.6, l.y + 1.4*l.side})
	case Deep:
		b.way = moved(b.way, .5, -1.6, 0)
	case RunsPast:
		b.way = append(until(b.way, 1.15), waypoint{2.2, l.x + 3.6, l.y + 5.4*l.side}, waypoint{3.2, l.x + 7, l.y + 5*l.side})
	case Apart:
		b.way = moved(b.way, .5, 0, .6*out)
	case TwoPushes:
		b.steps[0].ahead *= .4
		b.steps[0].aside = foot(out).sign()*b.gait + 3*inch*out
		b.way = delayed(b.way, .2)
	}
}

// later are the keys of a track after a time.
func later(k track, t float64) track {
	for i := range k {
		if k[i].at > t {
			return k[i:]
		}
	}
	return nil
}

func until(way []waypoint, t float64) []waypoint {
	var out []waypoint
	for _, w := range way {
		if w.at <= t {
			out = append(out, w)
		}
	}
	return out
}

// moved moves all of a way from a time on.
func moved(way []waypoint, from, dx, dy float64) []waypoint {
	out := make([]waypoint, len(way))
	for i, w := range way {
		if w.at >= from {
			w.x, w.y = w.x+dx, w.y+dy
		}
		out[i] = w
	}
	return out
}

func delayed(way []waypoint, by float64) []waypoint {
	out := make([]waypoint, len(way))
	for i, w := range way {
		if w.at > .05 {
			w.at += by
		}
		out[i] = w
	}
	return out
}
