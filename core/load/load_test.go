package load_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"nineyard/core/load"
)

func ExampleOf() {
	given := []load.Given{{"64", 5, 50, false}, {"64", 5, 20, true}, {"64", 6, 70, true}, {"64", 7, 60, false}, {"64", 7, 60, true}}
	l := load.Of(7, given)[0]
	fmt.Printf("planned %.0f, %.0f of them high; %.0f %% over the average of %.0f\n", l.Planned.All, l.Planned.High, 100*l.Over.All, l.Average.All)
	// Output: planned 120, 60 of them high; 71 % over the average of 70
}

func TestWhatIsNoJump(t *testing.T) {
	weeks := func(reps ...float64) load.Line {
		var given []load.Given
		for i, n := range reps {
			if n > 0 {
				given = append(given, load.Given{Player: "7", Week: 7 - len(reps) + 1 + i, Reps: n, High: true})
			}
		}
		return load.Of(7, given)[0]
	}
	assert.Zero(t, weeks(100, 100, 130).Over.High, "thirty per cent is no jump yet")
	assert.InDelta(t, .31, weeks(100, 100, 131).Over.High, 1e-9)
	assert.Zero(t, weeks(100, 300).Over.High, "one week is no average")
	assert.Zero(t, weeks(4, 4, 12).Over.All, "a handful of reps")
	assert.InDelta(t, 1, weeks(50, 0, 50, 100).Over.All, 1e-9, "a week without reps is not counted")
	assert.InDelta(t, 0, weeks(500, 100, 100, 100, 100, 120).Over.All, 1e-9, "five weeks ago is too long ago")
	assert.Empty(t, load.Of(7, []load.Given{{Player: "7", Week: 6, Reps: 5}}), "nothing is planned for him")
}

// TestAgainstARecount: sums are those of a plain recount, and only a rise is flagged.
func TestAgainstARecount(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		given := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) load.Given {
			return load.Given{Player: rapid.SampledFrom([]string{"7", "64"}).Draw(t, "player"), Week: rapid.IntRange(1, 8).Draw(t, "week"), Reps: float64(rapid.IntRange(1, 40).Draw(t, "reps")), High: rapid.Bool().Draw(t, "high")}
		}), 0, 30).Draw(t, "given")
		for _, l := range load.Of(7, given) {
			sum := 0.0
			for _, g := range given {
				if g.Player == l.Player && g.Week == 7 {
					sum += g.Reps
				}
			}
			assert.InDelta(t, sum, l.Planned.All, 1e-9)
			assert.LessOrEqual(t, l.Planned.High, l.Planned.All)
			if l.Over.All > 0 {
				assert.Greater(t, l.Planned.All, 1.3*l.Average.All)
			}
		}
	})
}
