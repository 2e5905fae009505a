package camera

import (
	"fmt"
	"image"
	"image/color"
	"io"
	"math"
	"sort"
)

// View is where a camera stands.
type View string

// The views.
const (
	Wide View = "wide" // from the press box, all twenty-two
	End  View = "end"  // from behind the offense, the line and the backs
	Side View = "side" // a drill, at close range
)

// Size is that of a picture.
const (
	PictureWidth  = 960
	PictureHeight = 540
)

// Truth is what is to be known of a clip.
type Truth struct {
	Name   string `json:"name"`
	Play   int    `json:"play,omitempty"`
	Drill  string `json:"drill,omitempty"`
	FPS    int    `json:"fps"`
	Frames int    `json:"frames"`
	Snap   int    `json:"snap"` // its frame
	Width  int    `json:"width"`
	Height int    `json:"height"`
	// Cameras are the matrices by view and frame: they map yards to pixels times depth.
	Cameras map[View][]Matrix `json:"cameras"`
	Players []PlayerTruth     `json:"players"`
}

// PlayerTruth is one of the figures.
type PlayerTruth struct {
	Jersey    string    `json:"jersey"`
	Home      bool      `json:"home"`
	Spot      Spot      `json:"spot,omitempty"`
	Technique string    `json:"technique,omitempty"`
	Fault     string    `json:"fault,omitempty"`
	Shows     Manner    `json:"shows,omitempty"`
	Places    [][3]int  `json:"places"` // by frame: hips in hundredths of a yard, shoulders in degrees
	Steps     []Landing `json:"steps,omitempty"`
}

// film is a scene with all poses, ready to be drawn.
type film struct {
	scene *scene
	poses [][]pose // by actor and frame
	marks []mark
}

// Clip is what one camera saw.
type Clip struct {
	Truth Truth
	film  *film
}

// Play draws nothing yet: it plays a script.
func Play(p Script) *Clip {
	return develop(stage(p), Truth{Name: p.Name, Play: p.Play}, p.Seed)
}

func develop(s *scene, truth Truth, seed uint64) *Clip {
	f := &film{scene: s, marks: markings()}
	truth.FPS, truth.Frames, truth.Snap, truth.Width, truth.Height = FPS, s.frames, s.snap, PictureWidth, PictureHeight
	for _, a := range s.actors {
		poses, steps := a.body.poses(s.frames, s.snap)
		f.poses = append(f.poses, poses)
		t := PlayerTruth{Jersey: a.number, Home: a.home, Technique: a.marked.Technique, Fault: a.marked.Fault, Shows: a.marked.Manner}
		if a.home {
			t.Spot = a.spot
		}
		for _, p := range poses {
			degrees := int(math.Round(p.facing*180/math.Pi)) % 360
			t.Places = append(t.Places, [3]int{int(math.Round(p.hips.X * 100)), int(math.Round(p.hips.Y * 100)), degrees})
		}
		if a.marked.Technique != "" {
			t.Steps = steps
		}
		truth.Players = append(truth.Players, t)
	}
	truth.Cameras = map[View][]Matrix{}
	c := &Clip{Truth: truth, film: f}
	views := []View{Wide, End}
	if truth.Drill != "" {
		views = []View{Side}
	}
	for _, v := range views {
		c.Truth.Cameras[v] = c.cameras(v, seed)
	}
	return c
}

// cameras are the matrices of a view: it follows the ball a little, and a hand is never quite still.
func (c *Clip) cameras(v View, seed uint64) []Matrix {
	s := c.film.scene
	out := make([]Matrix, s.frames)
	phase := float64(seed%97) / 97 * 2 * math.Pi
	var follow Vec
	for i := range out {
		t := float64(i-s.snap) / FPS
		ball := s.ball(t)
		if i == 0 {
			follow = ball
		}
		follow = follow.to(ball, .035)
		shake := Vec{X: .03 * math.Sin(1.7*t+phase), Y: .03 * math.Sin(1.1*t+2*phase), Z: .02 * math.Sin(2.3*t+phase)}
		var m Matrix
		switch v {
		case Wide:
			m = Look(Vec{s.x + 2, -32, 25}, Vec{follow.X*.75 + s.x*.25 + 3, Width/2 + .5*(s.y-Width/2) - 2.2, 0}.plus(shake), 1740, PictureWidth, PictureHeight)
		case End:
			m = Look(Vec{s.x - 26, s.y + .5, 10}, Vec{follow.X*.3 + s.x*.7 + 2, s.y + .25*(follow.Y-s.y), .4}.plus(shake.times(.5)), 1720, PictureWidth, PictureHeight)
		case Side:
			m = Look(Vec{s.x - .8, s.y - 8.4, 1.7}, Vec{s.x - 1, s.y, .72}.plus(shake.times(.3)), 1250, PictureWidth, PictureHeight)
		}
		for r := range m {
			for k := range m[r] {
				m[r][k] = significant(m[r][k])
			}
		}
		out[i] = m
	}
	return out
}

// significant rounds to seven digits, which is a hundredth of a pixel.
func significant(v float64) float64 {
	if v == 0 {
		return 0
	}
	unit := math.Pow(10, 6-math.Floor(math.Log10(math.Abs(v))))
	return math.Round(v*unit) / unit
}

// Write writes the frames of a view, four bytes a pixel.
func (c *Clip) Write(w io.Writer, v View) error {
	picture := newCanvas(PictureWidth, PictureHeight)
	for i := range c.Truth.Frames {
		c.frame(picture, v, i)
		if _, err := w.Write(picture.Pix); err != nil {
			return fmt.Errorf("frame %d: %w", i, err)
		}
	}
	return nil
}

// Frame draws one frame of a view.
func (c *Clip) Frame(v View, i int) *image.RGBA {
	picture := newCanvas(PictureWidth, PictureHeight)
	c.frame(picture, v, i)
	return picture.RGBA
}

func (c *Clip) frame(picture *canvas, v View, i int) {
	f := c.film
	lens := c.Truth.Cameras[v][i]
	eye := eyeOf(&lens)
	s := &shot{canvas: picture, lens: &lens, eye: eye}
	s.fill(sky, []Point{{0, 0}, {PictureWidth, 0}, {PictureWidth, PictureHeight}, {0, PictureHeight}})
	s.ground(f.marks)
	order := make([]int, len(f.poses))
	for k := range order {
		order[k] = k
		s.shadow(&f.poses[k][i])
	}
	depth := func(k int) float64 { return lens.Depth(f.poses[k][i].hips) }
	sort.SliceStable(order, func(a, b int) bool { return depth(order[a]) > depth(order[b]) })
	s.post(Length)
	ball := f.scene.ball(float64(i-f.scene.snap) / FPS)
	drawn := false
	for _, k := range order {
		if !drawn && depth(k) < lens.Depth(ball) {
			s.football(ball)
			drawn = true
		}
		a := &f.scene.actors[k]
		s.figure(&f.poses[k][i], a.kit, a.number)
	}
	if !drawn {
		s.football(ball)
	}
	s.timecode(i)
}

func (s *shot) football(at Vec) {
	if at.Z >= 0 {
		s.limb(leather, at.minus(Vec{X: .07}), .07, at.plus(Vec{X: .07}), .07)
	}
}

// eyeOf is where a camera stands: there all rows of its matrix are nothing.
func eyeOf(m *Matrix) Vec {
	a, b, c := Vec{m[0][0], m[0][1], m[0][2]}, Vec{m[1][0], m[1][1], m[1][2]}, Vec{m[2][0], m[2][1], m[2][2]}
	det := a.dot(b.cross(c))
	return b.cross(c).times(-m[0][3]).plus(c.cross(a).times(-m[1][3])).plus(a.cross(b).times(-m[2][3])).times(1 / det)
}

// CellSize is the width of a cell of the timecode in pixels; it has Cells of them, the highest first,
// in the lower left corner: white is 1.
const (
	CellSize = 12
	Cells    = 10
)

// timecode writes which frame it is, for people and, as cells, for a program that reads the picture.
func (s *shot) timecode(i int) {
	const left, top = 12.0, PictureHeight - 12.0 - CellSize
	rect := func(x0, y0, x1, y1 float64) []Point { return []Point{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}} }
	s.fill(color.RGBA{0, 0, 0, 0xff}, rect(left-4, top-24, left+Cells*CellSize+4, top+CellSize+4))
	for k := range Cells {
		with := color.RGBA{0x18, 0x18, 0x18, 0xff}
		if i>>(Cells-1-k)&1 == 1 {
			with = color.RGBA{0xff, 0xff, 0xff, 0xff}
		}
		s.fill(with, rect(left+float64(k*CellSize), top, left+float64((k+1)*CellSize), top+CellSize))
	}
	var seen [][]Point
	for _, o := range text(fmt.Sprintf("%02d.%02d  %03d", i/FPS, i%FPS, i)) {
		var line []Point
		for _, q := range o {
			line = append(line, Point{left + Cells*CellSize/2 + 12*q.X, top - 6 - 12*q.Y})
		}
		seen = append(seen, line)
	}
	s.fill(color.RGBA{0xff, 0xff, 0xff, 0xff}, seen...)
}

// ReadTimecode reads the frame from a picture of any size that shows the whole clip.
func ReadTimecode(at func(x, y float64) (luma float64)) int {
	frame := 0
	for k := range Cells {
		x := (12 + (float64(k)+.5)*CellSize) / PictureWidth
		y := (PictureHeight - 12 - CellSize*.5) / PictureHeight
		frame <<= 1
		if at(x, y) > .5 {
			frame |= 1
		}
	}
	return frame
}
