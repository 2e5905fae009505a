package feedback_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/feedback"
	"nineyard/core/marks"
)

func seen(player string, number int, technique string, change ...func(*feedback.Seen)) feedback.Seen {
	s := feedback.Seen{Player: player, Play: fmt.Sprint("p", number), Number: number, Technique: technique, Look: "odd", Looked: true, Verdict: marks.Verdict{Graded: true, Clean: true}}
	for _, f := range change {
		f(&s)
	}
	return s
}

func wrong(faults ...string) func(*feedback.Seen) {
	return func(s *feedback.Seen) { s.Faults, s.Verdict.Clean = faults, false }
}
func praised(s *feedback.Seen) { s.Praise = true }
func assumed(s *feedback.Seen) { s.Looked = false }
func against(look string) func(*feedback.Seen) {
	return func(s *feedback.Seen) { s.Look = look }
}

// TestASheetByHand: a guard who pulled well once, is often wide with his hands, and once ducked his head.
func TestASheetByHand(t *testing.T) {
	sheet := feedback.Of("64", []feedback.Seen{
		seen("64", 1, "base", assumed), seen("64", 2, "base", wrong("wide")), seen("64", 3, "base", wrong("wide"), against("over")), seen("64", 4, "base", wrong("wide", "high")),
		seen("64", 5, "base"), seen("64", 6, "pull", praised), seen("64", 7, "pull", assumed), seen("64", 8, "reach", wrong("ducks")), seen("64", 9, "reach", assumed, against("over")),
		seen("70", 3, "base", praised, against("Over")), seen("70", 8, "base"), seen("64", 10, "pull", func(s *feedback.Seen) { s.Verdict = marks.Verdict{Reason: marks.Unseen} }),
	}, map[string]feedback.Weight{"wide": {Severity: 2}, "high": {Severity: 3}, "ducks": {Severity: 1, Safety: true}})
	assert.Equal(t, &feedback.Best{Technique: "pull", Clean: 2, Graded: 2, Plays: []string{"p6", "p7"}}, sheet.Best)
	require.Len(t, sheet.Fixes, 2)
	assert.Equal(t, feedback.Fix{Fault: "ducks", Technique: "reach", N: 1, Graded: 2, Plays: []string{"p8"}}, sheet.Fixes[0], "safety first; nobody did it right against that look")
	assert.Equal(t, feedback.Fix{Fault: "wide", Technique: "base", N: 3, Graded: 5, Plays: []string{"p2", "p3", "p4"}, Wrong: "p2",
		Right: &feedback.Right{Player: "64", Play: "p5"}}, sheet.Fixes[1], "2 × 3 before 3 × 1; his own clean rep against the same look, the one looked at")
}

func TestTheContrast(t *testing.T) {
	for name, c := range map[string]struct {
		others []feedback.Seen
		right  *feedback.Right
	}{
		"nobody":                       {nil, nil},
		"what can be shown first":      {[]feedback.Seen{seen("64", 3, "base", praised), seen("70", 20, "base", func(s *feedback.Seen) { s.Filmed = true })}, &feedback.Right{Player: "70", Play: "p20"}},
		"another look":                 {[]feedback.Seen{seen("70", 9, "base", against("over"))}, nil},
		"no look said":                 {[]feedback.Seen{seen("70", 9, "base", against(""))}, nil},
		"another technique":            {[]feedback.Seen{seen("70", 9, "reach")}, nil},
		"a teammate on the same play":  {[]feedback.Seen{seen("70", 2, "base")}, &feedback.Right{Player: "70", Play: "p2"}},
		"his own before a teammate's":  {[]feedback.Seen{seen("70", 2, "base", praised), seen("64", 30, "base", assumed)}, &feedback.Right{Player: "64", Play: "p30"}},
		"praised before nearer":        {[]feedback.Seen{seen("70", 3, "base"), seen("70", 30, "base", praised)}, &feedback.Right{Player: "70", Play: "p30"}},
		"of those alike, the nearest":  {[]feedback.Seen{seen("70", 12, "base"), seen("70", 4, "base"), seen("70", 6, "base")}, &feedback.Right{Player: "70", Play: "p4"}},
		"what is not right is no help": {[]feedback.Seen{seen("70", 3, "base", wrong("high"))}, nil},
	} {
		sheet := feedback.Of("64", append(c.others, seen("64", 2, "base", wrong("wide"))), nil)
		assert.Equal(t, c.right, sheet.Fixes[0].Right, name)
	}
}

func TestNothingToSay(t *testing.T) {
	assert.Equal(t, feedback.Sheet{Fixes: []feedback.Fix{}}, feedback.Of("64", nil, nil))
	sheet := feedback.Of("64", []feedback.Seen{seen("64", 1, "base", wrong("wide")), seen("70", 1, "base")}, nil)
	assert.Nil(t, sheet.Best, "nothing was right")
}

// TestAgainstAPlainCount: the order of the marks does not matter; what is told is his own, graded, and counted.
func TestAgainstAPlainCount(t *testing.T) {
	weights := map[string]feedback.Weight{"a": {Severity: 1}, "b": {Severity: 3}, "s": {Severity: 1, Safety: true}}
	rapid.Check(t, func(t *rapid.T) {
		n := 0
		all := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) feedback.Seen {
			n++
			s := seen(rapid.SampledFrom([]string{"64", "70"}).Draw(t, "player"), n, rapid.SampledFrom([]string{"base", "pull"}).Draw(t, "technique"))
			s.Faults = rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"a", "b", "s"}), 0, 2, rapid.ID[string]).Draw(t, "faults")
			s.Verdict = marks.Verdict{Graded: rapid.Bool().Draw(t, "graded"), Clean: len(s.Faults) == 0}
			s.Praise, s.Looked = rapid.Bool().Draw(t, "praise"), rapid.Bool().Draw(t, "looked")
			return s
		}), 0, 14).Draw(t, "seen")
		got := feedback.Of("64", all, weights)
		turned := slices.Clone(all)
		slices.Reverse(turned)
		require.Equal(t, got, feedback.Of("64", turned, weights))

		shown, clean, graded := map[string]int{}, map[string]int{}, map[string]int{}
		for _, s := range all {
			if s.Player != "64" || !s.Verdict.Graded {
				continue
			}
			graded[s.Technique]++
			if s.Verdict.Clean {
				clean[s.Technique]++
			}
			for _, f := range s.Faults {
				shown[f]++
			}
		}
		require.LessOrEqual(t, len(got.Fixes), feedback.MaxFixes)
		require.Equal(t, min(len(shown), feedback.MaxFixes), len(got.Fixes))
		for i, f := range got.Fixes {
			require.Equal(t, shown[f.Fault], f.N)
			require.NotEmpty(t, f.Plays)
			require.LessOrEqual(t, len(f.Plays), feedback.MaxPlays)
			if i == 0 && shown["s"] > 0 {
				require.Equal(t, "s", f.Fault, "safety first")
			}
			if f.Right != nil {
				require.Contains(t, f.Plays, f.Wrong)
			}
		}
		if got.Best != nil {
			require.Equal(t, [2]int{clean[got.Best.Technique], graded[got.Best.Technique]}, [2]int{got.Best.Clean, got.Best.Graded})
		} else {
			require.Empty(t, clean)
		}
	})
}
