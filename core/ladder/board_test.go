package ladder_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/season"
)

// climbed is a player who has passed a number of stages, with reps at the one he is at.
func climbed(stages, passed, reps int, status ladder.Status) ladder.Player {
	m := ladder.Player{Available: true}
	for i := range stages {
		st := ladder.StageStanding{Passed: i < passed}
		if i < passed {
			st.Reps = 8
		}
		if i == passed {
			st.Reps = reps
		}
		m.Standing.Stages = append(m.Standing.Stages, st)
	}
	m.Standing.Done = passed == stages
	if !m.Standing.Done {
		m.Standing.Status = status
	}
	return m
}

// TestGroupStageAgainstCounting: half of the players who take part are at the stage or
// beyond, and fewer are beyond the next.
func TestGroupStageAgainstCounting(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stages := rapid.IntRange(1, 6).Draw(t, "stages")
		players := rapid.SliceOf(rapid.Custom(func(t *rapid.T) ladder.Player {
			m := climbed(stages, rapid.IntRange(0, stages).Draw(t, "passed"), 0, ladder.Working)
			m.Available = rapid.IntRange(0, 3).Draw(t, "here") > 0
			return m
		})).Draw(t, "players")
		got := ladder.GroupStage(stages, players)
		want := 0
		for stage := range stages {
			n, reached := 0, 0
			for _, m := range players {
				if m.Available {
					n++
					if m.At() >= stage {
						reached++
					}
				}
			}
			if n > 0 && 2*reached >= n {
				want = stage
			}
		}
		require.Equal(t, want, got)
	})
}

func TestCalls(t *testing.T) {
	absent, safety := climbed(4, 1, 3, ladder.Working), climbed(4, 1, 3, ladder.Working)
	absent.Available, safety.Safety = false, true
	other, learning := climbed(4, 0, 0, ladder.Working), climbed(4, 1, 5, ladder.Working)
	other.Elsewhere, learning.Elsewhere = true, true
	assert.Equal(t, 1, ladder.GroupStage(4, []ladder.Player{other, other, other, climbed(4, 1, 3, ladder.Working)}), "whose place it is not is not counted")
	for name, c := range map[string]struct {
		player ladder.Player
		want   ladder.Advice
	}{
		"no rep at all":                     {climbed(4, 0, 0, ladder.Working), ladder.AdviseNoMarks},
		"works at the group's stage":        {climbed(4, 2, 3, ladder.Working), ladder.AdviseStay},
		"passed and not begun":              {climbed(4, 2, 0, ladder.Working), ladder.AdviseMove},
		"ahead of the group":                {climbed(4, 3, 5, ladder.Working), ladder.AdviseMove},
		"behind":                            {climbed(4, 1, 5, ladder.Working), ladder.AdviseBehind},
		"should go back":                    {climbed(4, 2, 9, ladder.StepBack), ladder.AdviseBack},
		"waits for his week":                {climbed(4, 2, 0, ladder.Waiting), ladder.AdviseWait},
		"through":                           {climbed(4, 4, 0, ""), ladder.AdviseDone},
		"absent":                            {absent, ladder.AdviseAbsent},
		"a safety fault comes before these": {safety, ladder.AdviseSafety},
		"of another place":                  {other, ladder.AdviseNotHis},
		"of another place, and learns it":   {learning, ladder.AdviseBehind},
	} {
		assert.Equal(t, c.want, ladder.AdviceFor(c.player, 2), name)
	}
}

func override() ladder.Input {
	start := season.Must("2026-08-17")
	return ladder.Input{SeasonStart: start, AsOf: start + 20,
		Stages: []ladder.Gate{{Key: "a", Window: 4, Clean: 3}, {Key: "b", Window: 2, Clean: 2}},
		Reps:   []ladder.Rep{{Date: start, Stage: "a"}, {Date: start + 1, Stage: "b", Clean: true}, {Date: start + 9, Stage: "b", Clean: true}, {Date: start + 10, Stage: "b", Clean: true}}}
}

func TestOverrideLetsHimPass(t *testing.T) {
	in := override()
	st, err := ladder.Of(in)
	require.NoError(t, err)
	require.Equal(t, "a", st.Current)

	in.Overrides = []ladder.Override{{Stage: "a", On: in.SeasonStart + 9}}
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.True(t, st.Stages[0].Overridden)
	assert.Equal(t, in.SeasonStart+9, st.Stages[0].PassedOn)
	assert.True(t, st.Done, "the reps from that day on count at the next stage")
	assert.Equal(t, in.SeasonStart+10, st.Stages[1].PassedOn, "the rep before it does not")

	in.Overrides[0].On = in.AsOf + 1
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.Equal(t, "a", st.Current, "a word of tomorrow is not known today")

	in.Overrides[0].Stage = "z"
	_, err = ladder.Of(in)
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "overrides[0].stage", e.Field)
}

// TestOverrideNeverSetsBack: with a coach's word a player is never lower than without.
func TestOverrideNeverSetsBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		start := season.Must("2026-08-17")
		in := ladder.Input{SeasonStart: start, AsOf: start + 30, Stages: []ladder.Gate{{Key: "a", Window: 3, Clean: 2}, {Key: "b", Window: 3, Clean: 2}, {Key: "c", Window: 2, Clean: 2}}}
		for range rapid.IntRange(0, 25).Draw(t, "reps") {
			in.Reps = append(in.Reps, ladder.Rep{Date: start + season.Date(rapid.IntRange(0, 30).Draw(t, "day")), Stage: rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "stage"), Clean: rapid.Bool().Draw(t, "clean")})
		}
		passed := func(in ladder.Input) int {
			st, err := ladder.Of(in)
			require.NoError(t, err)
			return ladder.Player{Standing: st}.At()
		}
		before := passed(in)
		in.Overrides = []ladder.Override{{Stage: in.Stages[min(before, 2)].Key, On: start + season.Date(rapid.IntRange(0, 30).Draw(t, "on"))}}
		require.GreaterOrEqual(t, passed(in), before)
	})
}
