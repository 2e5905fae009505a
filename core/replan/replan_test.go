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
)

func of(t *testing.T, available int, periods ...replan.Period) replan.Plan {
	t.Helper()
	for i := range periods {
		periods[i].Key = fmt.Sprint("p", i)
	}
	p, err := replan.Of(available, periods)
	require.NoError(t, err)
	return p
}

func TestByHand(t *testing.T) {
	// Two alike: the loss is v·(1−x)² each, least when it is shared.
	p := of(t, 16, replan.Period{Planned: 10, Value: 5}, replan.Period{Planned: 10, Value: 5})
	assert.Equal(t, []int{8, 8}, p.Minutes)
	assert.InDelta(t, 10-2*5*0.04, p.Value, 1e-12)
	assert.Equal(t, 10.0, p.FullValue)
	// An odd minute goes to the earlier one.
	assert.Equal(t, []int{8, 7}, of(t, 15, replan.Period{Planned: 10, Value: 5}, replan.Period{Planned: 10, Value: 5}).Minutes)
	// Water is not cut, what is worth nothing goes first.
	assert.Equal(t, []int{12, 4, 0}, of(t, 16, replan.Period{Planned: 12, Min: 8, Value: 9}, replan.Period{Planned: 4, Min: 4}, replan.Period{Planned: 10, Droppable: true, Min: 5}).Minutes)
	// Enough time: nothing is changed, though some of it is worth nothing.
	assert.Equal(t, []int{5, 6}, of(t, 11, replan.Period{Planned: 5}, replan.Period{Planned: 6, Value: 1}).Minutes)
	// Of equals the fewest are changed: 3 minutes off one, not 1 and 2 off two.
	assert.Equal(t, []int{4, 4, 1}, of(t, 9, replan.Period{Planned: 4}, replan.Period{Planned: 4}, replan.Period{Planned: 4}).Minutes)
	assert.Empty(t, of(t, 0).Minutes)
}

func TestRefusals(t *testing.T) {
	for field, periods := range map[string][]replan.Period{
		"available":          {{Key: "a", Planned: 5, Min: 4}, {Key: "b", Planned: 5, Min: 2}},
		"periods[0].planned": {{Key: "a"}},
		"periods[0].min":     {{Key: "a", Planned: 3, Min: 4}},
		"periods[0].value":   {{Key: "a", Planned: 3, Value: -1}},
		"periods[1].key":     {{Key: "a", Planned: 3}, {Key: "a", Planned: 3}},
		"periods":            make([]replan.Period, 41),
	} {
		_, err := replan.Of(5, periods)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
		if field == "available" {
			assert.Contains(t, e.Message, "at least 6")
		}
	}
	_, err := replan.Of(301, nil)
	require.Error(t, err)
}

// TestAgainstEveryPlan tries all of them.
func TestAgainstEveryPlan(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var periods []replan.Period
		for i := range rapid.IntRange(0, 4).Draw(t, "periods") {
			p := replan.Period{Key: fmt.Sprint("p", i), Planned: rapid.IntRange(1, 7).Draw(t, "planned"), Droppable: rapid.Bool().Draw(t, "droppable"), Value: float64(rapid.IntRange(0, 3).Draw(t, "value"))}
			p.Min = rapid.IntRange(0, p.Planned).Draw(t, "min")
			periods = append(periods, p)
		}
		available := rapid.IntRange(0, 30).Draw(t, "available")
		worth := func(m []int) (v float64) {
			for i, p := range periods {
				x := float64(m[i]) / float64(p.Planned)
				v += p.Value * (1 - (1-x)*(1-x))
			}
			return v
		}
		changed := func(m []int) (n int) {
			for i, p := range periods {
				if m[i] != p.Planned {
					n++
				}
			}
			return n
		}
		var all [][]int
		var try func(m []int, left int)
		try = func(m []int, left int) {
			if len(m) == len(periods) {
				all = append(all, slices.Clone(m))
				return
			}
			p := periods[len(m)]
			for k := 0; k <= min(p.Planned, left); k++ {
				if k >= p.Min || k == 0 && p.Droppable {
					try(append(slices.Clone(m), k), left-k)
				}
			}
		}
		try(nil, available)
		plan, err := replan.Of(available, periods)
		if len(all) == 0 {
			require.Error(t, err)
			require.Greater(t, replan.Least(periods), available)
			return
		}
		require.NoError(t, err)
		best := all[0]
		for _, m := range all[1:] {
			switch a, b := worth(m), worth(best); {
			case a > b+1e-9:
				best = m
			case a < b-1e-9, changed(m) > changed(best):
			case changed(m) < changed(best) || slices.Compare(m, best) > 0:
				best = m
			}
		}
		require.Equal(t, len(best), len(plan.Minutes))
		if len(best) > 0 {
			require.Equal(t, best, plan.Minutes)
		}
		require.InDelta(t, worth(best), plan.Value, 1e-9)
	})
}

func BenchmarkForty(b *testing.B) {
	for _, planned := range []int{8, 20, 60, 300} {
		b.Run(fmt.Sprint(planned), func(b *testing.B) {
			var periods []replan.Period
			for i := range replan.MaxPeriods {
				periods = append(periods, replan.Period{Key: fmt.Sprint(i), Planned: planned, Droppable: i%2 == 0, Value: float64(1 + i%7)})
			}
			for b.Loop() {
				if _, err := replan.Of(replan.MaxAvailable, periods); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
