package camera_test

import (
	"encoding/json"
	"image"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/internal/demo/camera"
)

// script is a play in which nothing is wrong.
func script(call string, pass bool) camera.Script {
	work := map[string][]string{
		"Gap lead left": {"base_block", "two_man", "close_turn", "pull_kick", "close_turn"},
		"Zone right":    {"close_turn", "close_turn", "two_man", "two_man", "base_block"},
		"Drop-back":     {"kick_slide", "kick_slide", "kick_slide", "kick_slide", "kick_slide"},
	}[call]
	p := camera.Script{Name: "t", Play: 1, Call: call, Pass: pass, Left: call == "Gap lead left", Gain: 5, X: 45, Y: camera.Width / 2, Formation: "Doubles", TwoHigh: true, Seed: 3,
		Players: map[camera.Spot]camera.Marked{"TE": {Jersey: "80"}, "QB": {Jersey: "7"}, "RB": {Jersey: "22"}, "X": {Jersey: "1"}, "H": {Jersey: "5"}, "Z": {Jersey: "11"}}}
	for i, spot := range []camera.Spot{"LT", "LG", "C", "RG", "RT"} {
		p.Players[spot] = camera.Marked{Jersey: []string{"70", "64", "52", "61", "77"}[i], Technique: work[i]}
	}
	return p
}

func at(t *testing.T, c *camera.Clip, jersey string) camera.PlayerTruth {
	t.Helper()
	for _, p := range c.Truth.Players {
		if p.Home && p.Jersey == jersey {
			return p
		}
	}
	t.Fatalf("%s is not there", jersey)
	return camera.PlayerTruth{}
}

// with plays a script in which a player does one thing wrong.
func with(call string, spot camera.Spot, m camera.Manner) *camera.Clip {
	p := script(call, call == "Drop-back")
	x := p.Players[spot]
	x.Fault, x.Manner = "planted", m
	p.Players[spot] = x
	return camera.Play(p)
}

// TestWhatIsPlantedIsToBeSeen: a heel that swings in swings in, a second foot that is behind is behind.
func TestWhatIsPlantedIsToBeSeen(t *testing.T) {
	outside := func(c *camera.Clip) (most float64) {
		for _, s := range at(t, c, "77").Steps {
			if s.Foot == "right" && s.Frame < 75 {
				most = min(most, s.Turned)
			}
		}
		return most
	}
	assert.Greater(t, outside(with("Drop-back", "RT", camera.None)), -40.0)
	assert.Less(t, outside(with("Drop-back", "RT", camera.HeelIn)), -60.0, "the toe turns out")

	second := func(c *camera.Clip) float64 {
		s := at(t, c, "70").Steps
		return s[1].X - s[0].X
	}
	assert.Greater(t, second(with("Gap lead left", "LT", camera.None)), 0.0)
	assert.Less(t, second(with("Gap lead left", "LT", camera.BehindSecond)), -.3)
	assert.Less(t, second(with("Gap lead left", "LT", camera.LongFirst)), 0.0, "the second cannot follow so far")

	far := func(c *camera.Clip, jersey string, frame int) (x, y float64) {
		p := at(t, c, jersey).Places[frame]
		return float64(p[0]) / 100, float64(p[1]) / 100
	}
	x0, y0 := far(with("Gap lead left", "RG", camera.None), "61", 60)
	x1, _ := far(with("Gap lead left", "RG", camera.Deep), "61", 60)
	assert.Less(t, x1, x0-1, "deep")
	x2, _ := far(with("Gap lead left", "RG", camera.RunsPast), "61", 120)
	x3, _ := far(with("Gap lead left", "RG", camera.None), "61", 120)
	assert.Greater(t, x2, x3+3, "past the man he should kick")
	_, y2 := far(with("Gap lead left", "LT", camera.Wanders), "70", 60)
	_, y3 := far(with("Gap lead left", "LT", camera.None), "70", 60)
	assert.Greater(t, math.Abs(y2-y3), .5)
	assert.Greater(t, y0, camera.Width/2, "the puller is across")

	turned := func(m camera.Manner) int {
		return at(t, with("Gap lead left", "RT", m), "77").Places[camera.SnapFrame+14][2]
	}
	assert.Less(t, math.Abs(float64(turned(camera.None))), 20.0)
	assert.Greater(t, math.Abs(float64(turned(camera.TurnsEarly))), 40.0)
}

// pixels counts how many of a picture differ from another's.
func pixels(a, b *image.RGBA) (n int) {
	for i := 0; i < len(a.Pix); i += 4 {
		if a.Pix[i] != b.Pix[i] || a.Pix[i+1] != b.Pix[i+1] || a.Pix[i+2] != b.Pix[i+2] {
			n++
		}
	}
	return n
}

// TestEveryMannerChangesThePicture, but the one of which there is nothing to be seen.
func TestEveryMannerChangesThePicture(t *testing.T) {
	for call, manners := range map[string][]camera.Manner{
		"Gap lead left": {camera.LongFirst, camera.BehindSecond, camera.Under, camera.WideHands, camera.HeadDown, camera.Together, camera.StopsFeet, camera.Rises, camera.EyesOut,
			camera.EyesDown, camera.GivesGround, camera.EdgeOpen, camera.Wanders, camera.Late, camera.Early, camera.Apart},
		"Drop-back": {camera.TurnsEarly, camera.HeelIn, camera.Leans, camera.WeightOut, camera.WeightIn, camera.Rises, camera.LongFirst, camera.TwoPushes},
	} {
		clean := with(call, "LT", camera.None)
		for _, m := range manners {
			most := 0
			wrong := with(call, "LT", m)
			for _, frame := range []int{camera.SnapFrame + 8, camera.SnapFrame + 18, camera.SnapFrame + 40} {
				most = max(most, pixels(clean.Frame(camera.End, frame), wrong.Frame(camera.End, frame)))
			}
			assert.Greater(t, most, 60, "%s in %s", m, call)
		}
		assert.Zero(t, pixels(clean.Frame(camera.End, 60), with(call, "LT", camera.Unseen).Frame(camera.End, 60)))
	}
}

// TestAScriptIsAPlay: the same script is the same film; eleven are on each side and in the picture of the press box;
// nobody leaps; a foot that is down stays where it is.
func TestAScriptIsAPlay(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		call := rapid.SampledFrom([]string{"Gap lead left", "Zone right", "Drop-back"}).Draw(r, "call")
		p := script(call, call == "Drop-back")
		p.Gain = rapid.IntRange(-4, 14).Draw(r, "gain")
		p.X = float64(rapid.IntRange(15, 100).Draw(r, "x"))
		p.Y = rapid.SampledFrom([]float64{camera.LeftHash, camera.Width / 2, camera.RightHash}).Draw(r, "y")
		p.Formation = rapid.SampledFrom([]string{"Doubles", "Trips left", "Trips right"}).Draw(r, "formation")
		p.Odd, p.TwoHigh = rapid.Bool().Draw(r, "odd"), rapid.Bool().Draw(r, "two high")
		p.Seed = rapid.Uint64Range(1, 400).Draw(r, "seed")
		c := camera.Play(p)
		a, err := json.Marshal(c.Truth)
		require.NoError(r, err)
		b, err := json.Marshal(camera.Play(p).Truth)
		require.NoError(r, err)
		require.Equal(r, a, b)
		count := map[bool]int{}
		worn := map[string]bool{}
		lens := c.Truth.Cameras[camera.Wide][0]
		for _, who := range c.Truth.Players {
			count[who.Home]++
			key := who.Jersey
			if !who.Home {
				key += " visitor"
			}
			if worn[key] {
				r.Fatalf("%s is there twice", key)
			}
			worn[key] = true
			seen := lens.Project(camera.Vec{X: float64(who.Places[0][0]) / 100, Y: float64(who.Places[0][1]) / 100, Z: .8})
			if seen.X < 0 || seen.X > camera.PictureWidth || seen.Y < 0 || seen.Y > camera.PictureHeight {
				r.Fatalf("%s stands outside of the picture, at %v", who.Jersey, seen)
			}
			for i := 1; i < len(who.Places); i++ {
				d := math.Hypot(float64(who.Places[i][0]-who.Places[i-1][0]), float64(who.Places[i][1]-who.Places[i-1][1])) / 100
				if d*camera.FPS > 13 {
					r.Fatalf("%s does %.1f yards a second at frame %d", who.Jersey, d*camera.FPS, i)
				}
			}
		}
		require.Equal(r, map[bool]int{true: 11, false: 11}, count)
	})
}

// TestTheTimecodeIsInThePicture, for people and for programs.
func TestTheTimecodeIsInThePicture(t *testing.T) {
	c := camera.Drill("d", "kick_line", []camera.Rep{{Spot: "LT", Marked: camera.Marked{Jersey: "70", Technique: "kick_slide"}}, {Spot: "RT", Marked: camera.Marked{Jersey: "77", Technique: "kick_slide", Manner: camera.HeelIn}}}, 1)
	require.Equal(t, 2*camera.RepFrames, c.Truth.Frames)
	for i := 0; i < c.Truth.Frames; i += 13 {
		pic := c.Frame(camera.Side, i)
		assert.Equal(t, i, camera.ReadTimecode(func(x, y float64) float64 {
			r, _, _, _ := pic.At(int(x*camera.PictureWidth), int(y*camera.PictureHeight)).RGBA()
			return float64(r) / 0xffff
		}))
	}
}

// TestEveryFaultShows: by its key, as what is at risk, by its phase, or as something that comes late.
func TestEveryFaultShows(t *testing.T) {
	assert.Equal(t, camera.HeelIn, camera.Shows("kick_heel_in", "set", false))
	assert.Equal(t, camera.HeadDown, camera.Shows("whatever", "strike", true))
	assert.Equal(t, camera.WideHands, camera.Shows("whatever", "strike", false))
	assert.Equal(t, camera.Late, camera.Shows("whatever", "somewhere", false))
}
