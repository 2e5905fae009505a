package needs_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/needs"
)

// TestASharedFaultIsOneNeed: two in ten reps of one block and one in ten of another are three in twenty.
func TestASharedFaultIsOneNeed(t *testing.T) {
	in := needs.Input{Severity: map[string]float64{"head_down": 3, "wide": 2}, Exposure: map[string]float64{"base": 12, "reach": 8, "climb": 4}, Safety: map[string]bool{"head_down": true},
		Players: []needs.Player{{Key: "64", SnapShare: 1}},
		Counts: []needs.Count{{Player: "64", Technique: "base", Fault: "head_down", Faulty: 2, N: 10}, {Player: "64", Technique: "base", Fault: "wide", Faulty: 1, N: 10},
			{Player: "64", Technique: "reach", Fault: "head_down", Faulty: 1, N: 10}}}
	list, err := needs.Rank(needs.Together(in, map[string][]string{"head_down": {"base", "reach", "climb"}}))
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, "head_down", list[0].Fault)
	assert.InDelta(t, .15, list[0].Rate, 1e-12)
	assert.InDelta(t, 24*.15*3, list[0].Need, 1e-9, "it is as exposed as the three blocks together")
	assert.Equal(t, "base", list[1].Technique)
	assert.Len(t, in.Counts, 3, "what was given stays")
}

// TestTogetherKeepsEveryRep: nothing is lost or counted twice.
func TestTogetherKeepsEveryRep(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var in needs.Input
		faulty, n := map[[2]string]int{}, map[[2]string]int{}
		for range rapid.IntRange(0, 20).Draw(t, "counts") {
			c := needs.Count{Player: rapid.SampledFrom([]string{"64", "70"}).Draw(t, "player"), Technique: rapid.SampledFrom([]string{"base", "reach"}).Draw(t, "technique"),
				Fault: rapid.SampledFrom([]string{"head_down", "wide"}).Draw(t, "fault"), N: rapid.IntRange(0, 9).Draw(t, "n")}
			c.Faulty = rapid.IntRange(0, c.N).Draw(t, "faulty")
			in.Counts = append(in.Counts, c)
			faulty[[2]string{c.Player, c.Fault}] += c.Faulty
			n[[2]string{c.Player, c.Fault}] += c.N
		}
		once := map[[2]string]bool{}
		for _, c := range needs.Together(in, map[string][]string{"head_down": {"base", "reach"}}).Counts {
			k := [2]string{c.Player, c.Fault}
			if c.Fault == "head_down" {
				require.False(t, once[k], "a player has it once")
				once[k] = true
			}
			faulty[k] -= c.Faulty
			n[k] -= c.N
		}
		for k := range n {
			require.Zero(t, faulty[k])
			require.Zero(t, n[k])
		}
	})
}
