package camera

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// TestTheCameraSeesTrue: what it looks at is in the middle, what is twice as far is half as large, what is
// to its right is to the right and what is higher is higher.
func TestTheCameraSeesTrue(t *testing.T) {
	m := Look(Vec{0, -40, 20}, Vec{0, 0, 0}, 1000, 960, 540)
	assert.InDelta(t, 480, m.Project(Vec{}).X, 1e-9)
	assert.InDelta(t, 270, m.Project(Vec{}).Y, 1e-9)
	assert.InDelta(t, math.Hypot(40, 20), m.Depth(Vec{}), 1e-9)
	assert.Greater(t, m.Project(Vec{X: 1}).X, 480.0)
	assert.Less(t, m.Project(Vec{Z: 1}).Y, 270.0)
	away := Vec{0, 40, -20} // as far again, on the line of sight
	assert.InDelta(t, (m.Project(Vec{X: 1}).X-480)/2, m.Project(away.plus(Vec{X: 1})).X-480, 1e-9)
}

// TestClipLeavesWhatIsBeforeTheCamera: nothing behind it, and what lay before it whole stays.
func TestClipLeavesWhatIsBeforeTheCamera(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := Look(Vec{0, 0, 5}, Vec{10, 0, 0}, 500, 640, 360)
		coordinate := rapid.Float64Range(-30, 30)
		var poly []Vec
		for range rapid.IntRange(3, 6).Draw(t, "corners") {
			poly = append(poly, Vec{coordinate.Draw(t, "x"), coordinate.Draw(t, "y"), 0})
		}
		before := true
		for _, v := range poly {
			before = before && m.Depth(v) > near
		}
		out := m.clip(poly)
		for _, v := range out {
			if m.Depth(v) < near-1e-9 {
				t.Fatalf("%v is behind", v)
			}
		}
		if before && len(out) != len(poly) {
			t.Fatalf("%d corners of %d are left", len(out), len(poly))
		}
	})
}
