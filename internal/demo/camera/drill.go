package camera

// Rep is a player's rep of a drill.
type Rep struct {
	Spot Spot
	Marked
}

// RepFrames is how many frames of a clip a rep of a drill takes, and RepSnap the frame of it in which
// he starts.
const (
	RepFrames = 96
	RepSnap   = 30
)

// Drill films players who come in one after the other, do their rep and go, from the side.
func Drill(name, drill string, reps []Rep, seed uint64) *Clip {
	const x, y = 45.0, 18.0
	s := &scene{frames: RepFrames * len(reps), snap: RepSnap, x: x, y: y}
	s.ball = func(float64) Vec { return Vec{x, y, -1} } // there is none
	for i, r := range reps {
		const out = -1 // toward the camera
		b := (&lineman{x: x, y: y, side: out, out: out, m: r.Marked}).work(nil)
		b.comeIn(float64(i*RepFrames)/FPS, float64(RepFrames-RepSnap)/FPS)
		s.actors = append(s.actors, actor{number: r.Jersey, kit: &lamplighters, home: true, spot: r.Spot, body: b, marked: r.Marked})
	}
	return develop(s, Truth{Name: name, Drill: drill}, seed)
}

// comeIn puts a rep at its moment: before it he walks in from the line of those who wait, and after it off.
func (b *body) comeIn(at, long float64) {
	x, y := b.way[0].x, b.way[0].y
	for _, k := range []*track{&b.facing, &b.high, &b.lean, &b.down, &b.look, &b.wide, &b.reach, &b.shift, &b.still} {
		for i := range *k {
			(*k)[i].at += at
		}
	}
	for i := range b.steps {
		b.steps[i].from, b.steps[i].to = b.steps[i].from+at, b.steps[i].to+at
	}
	b.start = at
	way := []waypoint{{at - 2.4, x - 8, y + 1}, {at - .8, x, y}, {at, x, y}}
	for _, w := range b.way {
		if w.at > 0 && w.at < long-.9 {
			way = append(way, waypoint{w.at + at, w.x, w.y})
		}
	}
	b.way = append(way, waypoint{at + long - .7, way[len(way)-1].x - .3, way[len(way)-1].y}, waypoint{at + long + 1.4, x - 8, y + 5})
	b.high = append(append(track{{at - 1, .95}, {at - .55, .66}}, b.high...), key{at + long - .6, .95})
	b.lean = append(append(track{{at - 1, .15}, {at - .55, .86}}, b.lean...), key{at + long - .6, .15})
	for _, k := range []*track{&b.high, &b.lean} {
		*k = inOrder(*k)
	}
}

// inOrder leaves out keys that come before the one before them.
func inOrder(k track) track {
	var out track
	for _, x := range k {
		if len(out) == 0 || x.at > out[len(out)-1].at {
			out = append(out, x)
		}
	}
	return out
}
