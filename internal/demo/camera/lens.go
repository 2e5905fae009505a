package camera

import "math"

// Vec is a place or a way, in yards.
type Vec struct{ X, Y, Z float64 }

func (a Vec) plus(b Vec) Vec          { return Vec{a.X + b.X, a.Y + b.Y, a.Z + b.Z} }
func (a Vec) minus(b Vec) Vec         { return Vec{a.X - b.X, a.Y - b.Y, a.Z - b.Z} }
func (a Vec) times(s float64) Vec     { return Vec{a.X * s, a.Y * s, a.Z * s} }
func (a Vec) dot(b Vec) float64       { return a.X*b.X + a.Y*b.Y + a.Z*b.Z }
func (a Vec) length() float64         { return math.Sqrt(a.dot(a)) }
func (a Vec) unit() Vec               { return a.times(1 / a.length()) }
func (a Vec) cross(b Vec) Vec         { return Vec{a.Y*b.Z - a.Z*b.Y, a.Z*b.X - a.X*b.Z, a.X*b.Y - a.Y*b.X} }
func (a Vec) to(b Vec, s float64) Vec { return a.plus(b.minus(a).times(s)) }

// Matrix maps a place, with a 1 as its fourth, to pixels times depth.
type Matrix [3][4]float64

// Point is a place in the picture, from its upper left corner.
type Point struct{ X, Y float64 }

// near is the least depth, in yards, that is drawn.
const near = 0.5

// Look is the matrix of a pinhole camera that looks from one place at another, with the focal length and
// the size of the picture in pixels.
func Look(eye, at Vec, focal float64, width, height int) Matrix {
	ahead := at.minus(eye).unit()
	right := ahead.cross(Vec{Z: 1}).unit()
	down := ahead.cross(right)
	row := func(axis Vec, centre float64) [4]float64 {
		a := axis.times(focal).plus(ahead.times(centre))
		return [4]float64{a.X, a.Y, a.Z, -a.dot(eye)}
	}
	return Matrix{row(right, float64(width)/2), row(down, float64(height)/2), {ahead.X, ahead.Y, ahead.Z, -ahead.dot(eye)}}
}

// Depth is how far before the camera a place is.
func (m *Matrix) Depth(v Vec) float64 { return m[2][0]*v.X + m[2][1]*v.Y + m[2][2]*v.Z + m[2][3] }

// Project says where a place before the camera is seen.
func (m *Matrix) Project(v Vec) Point {
	w := m.Depth(v)
	return Point{(m[0][0]*v.X + m[0][1]*v.Y + m[0][2]*v.Z + m[0][3]) / w, (m[1][0]*v.X + m[1][1]*v.Y + m[1][2]*v.Z + m[1][3]) / w}
}

// clip cuts a polygon at the least depth.
func (m *Matrix) clip(poly []Vec) []Vec {
	var out []Vec
	for i, b := range poly {
		a := poly[(i+len(poly)-1)%len(poly)]
		da, db := m.Depth(a)-near, m.Depth(b)-near
		if da > 0 != (db > 0) {
			out = append(out, a.to(b, da/(da-db)))
		}
		if db > 0 {
			out = append(out, b)
		}
	}
	return out
}
