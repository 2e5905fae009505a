package e2e

import (
	"bytes"
	"image/png"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/demo/camera"
)

const (
	picture = "[aria-label='The picture']"
	stage   = picture + " canvas"
)

// timecode reads from the picture, as it is seen, which frame it is.
func (c *coach) timecode(nth int) int {
	c.t.Helper()
	panes := c.MustElements(stage)
	require.Greater(c.t, len(panes), nth)
	box := panes[nth].MustShape().Box()
	shot, err := c.Screenshot(false, &proto.PageCaptureScreenshot{Clip: &proto.PageViewport{X: box.X, Y: box.Y, Width: box.Width, Height: box.Height, Scale: 1}})
	require.NoError(c.t, err)
	pic, err := png.Decode(bytes.NewReader(shot))
	require.NoError(c.t, err)
	size := pic.Bounds().Size()
	return camera.ReadTimecode(func(x, y float64) float64 {
		r, g, b, _ := pic.At(int(x*float64(size.X)), int(y*float64(size.Y))).RGBA()
		return float64(r+g+b) / 3 / 0xffff
	})
}

// says is the frame that the page says it shows.
func (c *coach) says() int {
	c.t.Helper()
	n, err := strconv.Atoi(*c.MustElement(picture + " input[type=range]").MustAttribute("value"))
	require.NoError(c.t, err)
	return n
}

// film opens Saturday's game with its picture.
func (c *coach) film() {
	c.t.Helper()
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	c.eventually("the picture stands", func() bool { return c.count(stage+"[data-frame]") > 0 })
}

// TestThePictureShowsTheVeryFrame: stepped both ways, at the snap and at the end, from both cameras at once, and in
// another play: what the timecode in the picture says is what the page says.
func TestThePictureShowsTheVeryFrame(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.film()
	exact := func(what string, frame int) {
		t.Helper()
		c.eventually(what, func() bool { return c.says() == frame && c.timecode(0) == frame })
	}
	exact("shortly before the snap", camera.SnapFrame-12)
	frame := camera.SnapFrame - 12
	for _, by := range []int{1, 1, 1, -1, 1, -1, -1, -1, -1, 1, 1, 1, 1, 1, 1} {
		frame += by
		c.press(map[int]input.Key{1: input.ArrowRight, -1: input.ArrowLeft}[by])
		exact("a step", frame)
	}
	c.press(input.Home)
	exact("the snap", camera.SnapFrame)
	c.press('v')
	c.see(picture+" button", "^end")
	exact("from the other camera", camera.SnapFrame)
	require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type('v').Do())
	c.eventually("both are there", func() bool { return c.count(stage+"[data-frame]") == 2 })
	for range 7 {
		c.press(input.ArrowRight)
	}
	c.eventually("both are in step", func() bool { return c.timecode(0) == camera.SnapFrame+7 && c.timecode(1) == camera.SnapFrame+7 })
	require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type('v').Do())

	// Every tenth frame of the clip, by the pointer on the ruler.
	box := c.MustElement(picture + " input[type=range]").MustShape().Box()
	for k := 1; k < 10; k++ {
		require.NoError(t, c.Mouse.MoveTo(proto.NewPoint(box.X+box.Width*float64(k)/10, box.Y+box.Height/2)))
		require.NoError(t, c.Mouse.Click(proto.InputMouseButtonLeft, 1))
		c.eventually("the frame under the pointer", func() bool {
			f := c.says()
			return f > (k-1)*15-8 && f < k*15+8 && c.timecode(0) == f
		})
	}

	// The next play is another clip; the camera stays.
	c.press(input.Space)
	c.see("[aria-label='The play']", "Play 67 ")
	exact("the next play", camera.SnapFrame-12)
	c.see(picture+" button", "^end")
	c.saved()
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestThePictureRuns: at its pace, over and over a stretch, back and forth while a key is held; and it is gone on
// from where it was left, on another machine.
func TestThePictureRuns(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.film()
	c.press('y')
	c.eventually("it runs past the snap", func() bool { return c.says() > camera.SnapFrame+20 })
	c.press('y')
	stood := c.says()
	time.Sleep(150 * time.Millisecond)
	c.eventually("it stands where it was stopped", func() bool { return c.says() == stood && c.timecode(0) == stood })

	for k := 1; k <= 20; k++ { // frames that were kept as they went by are the ones they are said to be
		c.press(input.ArrowLeft)
		c.eventually("back over what was run", func() bool { return c.says() == stood-k && c.timecode(0) == stood-k })
	}

	// A stretch over and over.
	c.press(input.Home)
	c.press('{', input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight, '}')
	c.press('y')
	seen := map[int]bool{}
	for end := time.Now().Add(2500 * time.Millisecond); time.Now().Before(end); time.Sleep(15 * time.Millisecond) {
		seen[c.says()] = true
	}
	c.press('y')
	for f := range seen {
		assert.True(t, f >= camera.SnapFrame && f <= camera.SnapFrame+9, "frame %d is outside of the stretch", f)
	}
	assert.Greater(t, len(seen), 4)
	require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type('b').Do())

	// Held, it rocks; let go, it stands. Every frame in between is shown, none twice as far from the one before.
	c.press(input.Home)
	time.Sleep(1500 * time.Millisecond) // the frames around it are fetched
	shown := c.MustEval(`() => { const list = []; const c = document.querySelector("` + stage + `"); new MutationObserver(() => list.push(Number(c.dataset.frame))).observe(c, { attributes: true, attributeFilter: ["data-frame"] }); window.rocked = list; return 0 }`)
	require.Zero(t, shown.Int())
	require.NoError(t, c.Keyboard.Press('b'))
	time.Sleep(3 * time.Second)
	require.NoError(t, c.Keyboard.Release('b'))
	var frames []int
	require.NoError(t, c.MustEval(`() => window.rocked`).Unmarshal(&frames))
	frames = slices.Compact(frames) // where it stops a frame is drawn once more
	require.Greater(t, len(frames), 40, "in three seconds")
	lowest, highest, turns := frames[0], frames[0], 0
	for i := 1; i < len(frames); i++ {
		step := frames[i] - frames[i-1]
		assert.Contains(t, []int{-1, 1}, step, "from %d to %d", frames[i-1], frames[i])
		lowest, highest = min(lowest, frames[i]), max(highest, frames[i])
		if i > 1 && step != frames[i-1]-frames[i-2] {
			turns++
		}
	}
	assert.GreaterOrEqual(t, turns, 1)
	assert.Less(t, lowest, camera.SnapFrame)
	assert.Greater(t, highest, camera.SnapFrame+6)

	// Another play, another frame; on the other machine it is gone on there.
	c.press(input.PageDown)
	c.press(input.Home, input.ArrowRight, input.ArrowRight, 'v')
	c.eventually("the other camera stands", func() bool { return c.timecode(0) == camera.SnapFrame+2 })
	play := c.text("[aria-label='The play'] b")
	time.Sleep(time.Second)
	other := signIn(t, app, "R. Kell")
	other.film()
	assert.Equal(t, play, other.text("[aria-label='The play'] b"))
	other.eventually("the frame where it was left", func() bool { return other.timecode(0) == camera.SnapFrame+2 })
	other.see(picture+" button", "^end")
	assert.Empty(t, other.MustElements("[role=alert]"))
}
