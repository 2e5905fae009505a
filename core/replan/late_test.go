package replan_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/replan"
	"nineyard/core/schedule"
)

func p(key string, start, minutes int, kind string, groups ...string) schedule.Period {
	return schedule.Period{Key: key, Start: start, Minutes: minutes, Kind: kind, Groups: groups}
}

func evening() schedule.Script {
	return schedule.Script{Minutes: 100, Groups: []string{"ol", "db"}, Periods: []schedule.Period{
		p("warm", 0, 10, "warm_up", "ol", "db"), p("own_ol", 10, 20, "individual", "ol"), p("own_db", 10, 20, "individual", "db"), p("water", 30, 4, "water", "ol", "db"),
		p("inside", 36, 24, "group", "ol"), p("team", 60, 30, "team", "ol", "db"), p("walk", 90, 10, "walk_through", "ol", "db"),
	}}
}

func late(t *testing.T, s schedule.Script, from, lost int) (cuts []string, l replan.Late) {
	t.Helper()
	l, err := replan.OfScript(s, from, lost)
	require.NoError(t, err)
	for _, c := range l.Cuts {
		cuts = append(cuts, fmt.Sprintf("%s %d→%d", c.Key, c.From, c.To))
	}
	return cuts, l
}

// TestLateByHand: the free minutes go first, then the walk, and what is worth most last; what has
// begun is left alone.
func TestLateByHand(t *testing.T) {
	cuts, l := late(t, evening(), 0, 2)
	assert.Empty(t, cuts, "the two minutes before inside run are nobody's")
	assert.Equal(t, 34, l.Periods[4].Start)
	cuts, _ = late(t, evening(), 0, 12)
	assert.Equal(t, []string{"own_ol 20→18", "own_db 20→18", "inside 24→21", "team 30→28", "walk 10→7"}, cuts, "each gives the minutes it misses least")
	cuts, l = late(t, evening(), 60, 20)
	assert.Equal(t, []string{"team 30→20", "walk 10→0"}, cuts)
	assert.Len(t, l.Periods, 6)
	assert.Equal(t, 36, l.Periods[4].Start, "inside run is over")
	_, l = late(t, evening(), 15, 5)
	assert.Equal(t, evening().Periods[1], l.Periods[1], "individual has begun")

	_, err := replan.OfScript(evening(), 0, 90)
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "lost", e.Field)
	assert.Contains(t, e.Message, "86 at most")
	_, err = replan.OfScript(evening(), 0, 0)
	require.Error(t, err)
}

// TestLateHoldsToItsWord: just the minutes asked for are found, water and warm-up keep theirs,
// what is over stays, what went on at the same time still does, and nobody is twice at once who
// was not before.
func TestLateHoldsToItsWord(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := schedule.Script{Minutes: rapid.IntRange(30, 120).Draw(t, "minutes"), Groups: []string{"ol", "db"}}
		kinds := []string{"warm_up", "individual", "group", "team", "water", "walk_through", "meeting"}
		for at, i := 0, 0; at < s.Minutes; i++ {
			at += rapid.SampledFrom([]int{0, 0, 2}).Draw(t, "gap")
			minutes := min(rapid.IntRange(3, 25).Draw(t, "long"), s.Minutes-at)
			if minutes < 1 {
				break
			}
			kind := rapid.SampledFrom(kinds).Draw(t, "kind")
			if rapid.Bool().Draw(t, "apart") {
				s.Periods = append(s.Periods, p(fmt.Sprint("a", i), at, minutes, kind, "ol"), p(fmt.Sprint("b", i), at, max(1, minutes-2), kind, "db"))
			} else {
				s.Periods = append(s.Periods, p(fmt.Sprint("c", i), at, minutes, kind, "ol", "db"))
			}
			at += minutes
		}
		from, lost := rapid.IntRange(0, s.Minutes).Draw(t, "from"), rapid.IntRange(1, 40).Draw(t, "lost")
		if lost > s.Minutes {
			return
		}
		l, err := replan.OfScript(s, from, lost)
		if err != nil {
			e, ok := invalid.As(err)
			require.True(t, ok)
			require.Equal(t, "lost", e.Field)
			return
		}
		if lost == s.Minutes {
			require.Empty(t, l.Periods, "no minute is left, so nothing is")
			return
		}
		then := s
		then.Periods, then.Minutes = l.Periods, s.Minutes-lost
		after, err := schedule.Of(then)
		require.NoError(t, err)
		for _, f := range after.Findings {
			require.NotContains(t, []schedule.Code{schedule.GroupOverlap, schedule.OutsidePractice}, f.Code, f.Message)
		}
		for _, was := range s.Periods {
			i := slices.IndexFunc(l.Periods, func(x schedule.Period) bool { return x.Key == was.Key })
			switch {
			case was.Kind == "water" || was.Kind == "warm_up":
				require.GreaterOrEqual(t, i, 0)
				require.Equal(t, was.Minutes, l.Periods[i].Minutes)
			case was.Start < from:
				require.Equal(t, was, l.Periods[i])
			case i >= 0:
				require.LessOrEqual(t, l.Periods[i].Minutes, was.Minutes)
				require.LessOrEqual(t, l.Periods[i].Start, was.Start)
			}
		}
	})
}
