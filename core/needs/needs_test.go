package needs_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/needs"
)

func TestRankByHand(t *testing.T) {
	got, err := needs.Rank(needs.Input{
		Severity: map[string]float64{"late_hat": 2, "ducks": 3},
		Exposure: map[string]float64{"reach": 18, "base": 10},
		Players:  []needs.Player{{"14", 0.9}, {"64", 0.5}},
		Counts: []needs.Count{
			{"14", "reach", "late_hat", 5, 22}, {"64", "reach", "late_hat", 1, 8},
			{"14", "base", "ducks", 1, 40}, {"99", "base", "ducks", 4, 4},
		},
		Safety: map[string]bool{"ducks": true},
	})
	require.NoError(t, err)
	require.Len(t, got, 2)
	assert.Equal(t, "ducks", got[0].Fault, "safety first, however small")
	n := got[1]
	assert.InDelta(t, 0.2, n.Rate, 1e-12) // 6 of 30
	e14, e64 := (5+6*0.2)/28, (1+6*0.2)/14
	assert.InDelta(t, 0.9*e14*18*2+0.5*e64*18*2, n.Need, 1e-12)
	assert.Equal(t, "14", n.Players[0].Player)
	assert.InDelta(t, e64, n.Players[1].Rate, 1e-12)
	assert.Len(t, got[0].Players, 1, "a player who is not listed does not play")
}

func TestLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := needs.Input{Severity: map[string]float64{"b": 3}, Exposure: map[string]float64{"x": 4, "y": 9}, Safety: map[string]bool{"c": true}}
		for i := range 3 {
			in.Players = append(in.Players, needs.Player{Key: fmt.Sprint(i), SnapShare: float64(rapid.IntRange(0, 10).Draw(t, "share")) / 10})
		}
		for range rapid.IntRange(0, 15).Draw(t, "counts") {
			n := rapid.IntRange(0, 20).Draw(t, "n")
			in.Counts = append(in.Counts, needs.Count{Player: fmt.Sprint(rapid.IntRange(0, 3).Draw(t, "p")), Technique: rapid.SampledFrom([]string{"x", "y"}).Draw(t, "t"),
				Fault: rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "f"), N: n, Faulty: rapid.IntRange(0, n).Draw(t, "faulty")})
		}
		got, err := needs.Rank(in)
		require.NoError(t, err)
		for i, n := range got {
			total := 0.0
			for _, p := range n.Players {
				total += p.Part
				require.True(t, p.Rate >= 0 && p.Rate <= 1)
			}
			require.InDelta(t, n.Need, total, 1e-12)
			if i > 0 {
				require.False(t, n.Safety && !got[i-1].Safety)
				require.True(t, n.Safety != got[i-1].Safety || n.Need <= got[i-1].Need+1e-9, "but for the last digits, within which they are even")
			}
		}
	})
}

// TestTiesAreTiesButForTheLastDigit: 0.1 + 0.2 is a little more than 0.3.
func TestTiesAreTiesButForTheLastDigit(t *testing.T) {
	got, err := needs.Rank(needs.Input{
		Exposure:  map[string]float64{"reach": 1, "base": 1},
		Players:   []needs.Player{{"1", 0.1}, {"2", 0.2}, {"3", 0.3}},
		Counts:    []needs.Count{{"1", "reach", "late", 8, 8}, {"2", "reach", "late", 8, 8}, {"3", "base", "late", 8, 8}},
		PriorReps: 6,
	})
	require.NoError(t, err)
	require.Greater(t, got[1].Need, got[0].Need)
	assert.Equal(t, "base", got[0].Technique)
}

func TestRefuses(t *testing.T) {
	_, err := needs.Rank(needs.Input{Counts: []needs.Count{{"1", "x", "a", 3, 2}}})
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "faults[0].faulty", e.Field)
	_, err = needs.Rank(needs.Input{Players: []needs.Player{{"1", .5}, {"1", .5}}})
	require.ErrorContains(t, err, "players[1].key")
	_, err = needs.Rank(needs.Input{Players: []needs.Player{{"1", 1.5}}})
	require.ErrorContains(t, err, "players[0].snap_share")
}

func TestExpectByHand(t *testing.T) {
	// Two games: 14 played 40 snaps, 64 played 20. Shares 1 and ½.
	exposure, players := needs.Expect([]needs.Use{{"14", "reach", 30}, {"14", "base", 10}, {"64", "reach", 20}}, 2)
	assert.Equal(t, []needs.Player{{"14", 1}, {"64", 0.5}}, players)
	assert.InDelta(t, 50/(2*1.5), exposure["reach"], 1e-12)
	assert.InDelta(t, 10/(2*1.5), exposure["base"], 1e-12)
	exposure, players = needs.Expect(nil, 0)
	assert.Empty(t, exposure)
	assert.Empty(t, players)
}
