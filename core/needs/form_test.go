package needs_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/needs"
	"nineyard/core/season"
)

var today = season.Must("2026-10-13")

func TestFormByHand(t *testing.T) {
	in := needs.Form(today, []needs.Reps{
		{"14", "reach", today, "", true, 10},
		{"14", "reach", today - 3, "g1", true, 30},
		{"14", "reach", today - 3, "g1", false, 10}, // on the field, not judged
		{"64", "reach", today - 3, "g1", true, 20},
		{"70", "reach", today - 3, "g1", true, 20},  // out: not expected to play
		{"64", "base", today - 27, "", true, 8},     // the last day inside
		{"64", "reach", today - 28, "g0", true, 50}, // outside
		{"14", "reach", today - 31, "", true, 50},   // outside
	}, []needs.Shown{
		{"14", "reach", "late_hat", today - 3, "", 4},
		{"14", "reach", "late_hat", today - 3, "64", 5}, // his neighbour's doing
		{"64", "reach", "late_hat", today - 28, "", 9},
	}, []string{"14", "64"})
	// One game of three players: 40, 20 and 20 uses; shares 1, ½, ½.
	assert.Equal(t, []needs.Player{{"14", 1}, {"64", 0.5}}, in.Players)
	assert.InDelta(t, 80/(1*2.0), in.Exposure["reach"], 1e-12)
	assert.NotContains(t, in.Exposure, "base", "not used in a game")
	assert.Equal(t, []needs.Count{
		{"14", "reach", "late_hat", 4, 40},
		{"64", "reach", "late_hat", 0, 20}, // seen without the fault
		{"70", "reach", "late_hat", 0, 20},
	}, in.Counts)
}

func TestFormBeforeTheFirstGame(t *testing.T) {
	in := needs.Form(today, []needs.Reps{{"14", "reach", today, "", true, 10}}, []needs.Shown{{"14", "reach", "late_hat", today, "", 12}}, []string{"64", "14"})
	assert.Equal(t, []needs.Player{{"14", 1}, {"64", 1}}, in.Players)
	assert.Equal(t, map[string]float64{"reach": 1}, in.Exposure)
	assert.Equal(t, 10, in.Counts[0].Faulty, "never more faults than reps")
}

// TestFormLaws: the order of rows and one row cut in two change nothing; what a teammate
// caused and what lies outside the window change nothing.
func TestFormLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		key := func(label string, n int) string { return fmt.Sprint(rapid.IntRange(0, n).Draw(t, label)) }
		var reps []needs.Reps
		for range rapid.IntRange(0, 12).Draw(t, "reps") {
			game := ""
			if rapid.Bool().Draw(t, "in a game") {
				game = "g" + key("game", 2)
			}
			reps = append(reps, needs.Reps{Player: key("p", 3), Technique: key("t", 2), On: today - season.Date(rapid.IntRange(0, 40).Draw(t, "ago")),
				Game: game, Graded: rapid.Bool().Draw(t, "graded"), N: rapid.IntRange(1, 9).Draw(t, "n")})
		}
		var shown []needs.Shown
		for range rapid.IntRange(0, 12).Draw(t, "shown") {
			shown = append(shown, needs.Shown{Player: key("p", 3), Technique: key("t", 2), Fault: key("f", 2), On: today - season.Date(rapid.IntRange(0, 40).Draw(t, "ago")), N: rapid.IntRange(1, 5).Draw(t, "n")})
		}
		playing := []string{"0", "1", "2"}
		want := needs.Form(today, reps, shown, playing)
		require.Equal(t, want, needs.Form(today, rapid.Permutation(reps).Draw(t, "order"), rapid.Permutation(shown).Draw(t, "order of faults"), playing))
		more := append([]needs.Reps{}, reps...)
		for i, r := range more {
			if r.N > 1 {
				more[i].N--
				r.N = 1
				more = append(more, r)
				break
			}
		}
		more = append(more, needs.Reps{Player: "0", Technique: "0", On: today - 28, Game: "old", Graded: true, N: 100})
		extra := append(append([]needs.Shown{}, shown...), needs.Shown{Player: "0", Technique: "0", Fault: "x", On: today, CausedBy: "1", N: 3})
		require.Equal(t, want, needs.Form(today, more, extra, playing))
	})
}
