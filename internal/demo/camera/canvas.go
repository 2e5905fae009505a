package camera

import (
	"image"
	"image/color"
	"image/draw"
	"math"
	"sync"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
	"golang.org/x/image/vector"
)

// canvas fills shapes with smooth edges.
type canvas struct {
	*image.RGBA
	raster vector.Rasterizer
}

func newCanvas(width, height int) *canvas {
	return &canvas{RGBA: image.NewRGBA(image.Rect(0, 0, width, height))}
}

// fill fills what lies within the outlines; one that turns the other way is a hole.
func (c *canvas) fill(with color.Color, outlines ...[]Point) {
	size := c.Bounds().Size()
	box := image.Rectangle{Min: size}
	cut := make([][]Point, 0, len(outlines))
	for _, o := range outlines {
		o = within(o, float64(size.X), float64(size.Y))
		for _, p := range o {
			box.Min.X, box.Min.Y = min(box.Min.X, int(p.X)), min(box.Min.Y, int(p.Y))
			box.Max.X, box.Max.Y = max(box.Max.X, int(math.Ceil(p.X))), max(box.Max.Y, int(math.Ceil(p.Y)))
		}
		if len(o) > 2 {
			cut = append(cut, o)
		}
	}
	if box = box.Intersect(c.Bounds()); len(cut) == 0 || box.Empty() {
		return
	}
	c.raster.Reset(box.Dx(), box.Dy())
	for _, o := range cut {
		for i, p := range o {
			x, y := float32(p.X-float64(box.Min.X)), float32(p.Y-float64(box.Min.Y))
			if i == 0 {
				c.raster.MoveTo(x, y)
			} else {
				c.raster.LineTo(x, y)
			}
		}
		c.raster.ClosePath()
	}
	c.raster.DrawOp = draw.Over
	c.raster.Draw(c.RGBA, box, image.NewUniform(with), image.Point{})
}

// within cuts a polygon at the edges of the picture.
func within(poly []Point, width, height float64) []Point {
	for _, inside := range []func(Point) float64{
		func(p Point) float64 { return p.X }, func(p Point) float64 { return width - p.X },
		func(p Point) float64 { return p.Y }, func(p Point) float64 { return height - p.Y },
	} {
		var out []Point
		for i, b := range poly {
			a := poly[(i+len(poly)-1)%len(poly)]
			da, db := inside(a), inside(b)
			if da > 0 != (db > 0) {
				s := da / (da - db)
				out = append(out, Point{a.X + (b.X-a.X)*s, a.Y + (b.Y-a.Y)*s})
			}
			if db > 0 {
				out = append(out, b)
			}
		}
		poly = out
	}
	return poly
}

// ellipse is the outline of an ellipse whose half axes are the two ways.
func ellipse(at, a, b Point) []Point {
	const corners = 18
	out := make([]Point, corners)
	for i := range out {
		s, c := math.Sincos(2 * math.Pi * float64(i) / corners)
		out[i] = Point{at.X + a.X*c + b.X*s, at.Y + a.Y*c + b.Y*s}
	}
	return out
}

func disc(at Point, r float64) []Point { return ellipse(at, Point{r, 0}, Point{0, r}) }

// limb is the outline of a part of a body, as thick at its ends as is said there.
func limb(a Point, ra float64, b Point, rb float64) []Point {
	const half = 7
	angle := math.Atan2(b.Y-a.Y, b.X-a.X)
	out := make([]Point, 0, 2*half+2)
	for i := range half + 1 {
		s, c := math.Sincos(angle + math.Pi/2 + math.Pi*float64(i)/half)
		out = append(out, Point{a.X + ra*c, a.Y + ra*s})
	}
	for i := range half + 1 {
		s, c := math.Sincos(angle - math.Pi/2 + math.Pi*float64(i)/half)
		out = append(out, Point{b.X + rb*c, b.Y + rb*s})
	}
	return out
}

var letters = sync.OnceValue(func() *sfnt.Font {
	f, err := sfnt.Parse(gobold.TTF)
	if err != nil {
		panic(err) // it is part of the program
	}
	return f
})

const em = 64

// text returns the outlines of a line of text: its capitals are one high, its middle is at 0 and it
// stands on 0; x to the right, y up.
func text(s string) [][]Point {
	f, buf := letters(), &sfnt.Buffer{}
	high := 0.0
	if m, err := f.Metrics(buf, fixed.I(em), font.HintingNone); err == nil {
		high = float64(m.CapHeight) / 64
	}
	var outlines [][]Point
	var pen float64
	for _, r := range s {
		i, err := f.GlyphIndex(buf, r)
		if err != nil {
			continue
		}
		segments, err := f.LoadGlyph(buf, i, fixed.I(em), nil)
		if err != nil {
			continue
		}
		at := func(p fixed.Point26_6) Point { return Point{(pen + float64(p.X)/64) / high, -float64(p.Y) / 64 / high} }
		for _, g := range segments {
			last := len(outlines) - 1
			switch g.Op {
			case sfnt.SegmentOpMoveTo:
				outlines = append(outlines, []Point{at(g.Args[0])})
			case sfnt.SegmentOpLineTo:
				outlines[last] = append(outlines[last], at(g.Args[0]))
			case sfnt.SegmentOpQuadTo:
				a, b, c := outlines[last][len(outlines[last])-1], at(g.Args[0]), at(g.Args[1])
				for k := 1; k <= 4; k++ {
					s := float64(k) / 4
					outlines[last] = append(outlines[last], Point{(1-s)*(1-s)*a.X + 2*s*(1-s)*b.X + s*s*c.X, (1-s)*(1-s)*a.Y + 2*s*(1-s)*b.Y + s*s*c.Y})
				}
			case sfnt.SegmentOpCubeTo: // the font has none
			}
		}
		if wide, err := f.GlyphAdvance(buf, i, fixed.I(em), font.HintingNone); err == nil {
			pen += float64(wide) / 64
		}
	}
	for _, o := range outlines {
		for i := range o {
			o[i].X -= pen / high / 2
		}
	}
	return outlines
}
