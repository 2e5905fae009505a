package practice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/practice"
)

func TestCheckPlacements(t *testing.T) {
	for _, c := range []struct {
		name   string
		drills []practice.Placement
		field  string
	}{
		{"empty", nil, ""},
		{"side by side", []practice.Placement{{Start: 0, Minutes: 5}, {Start: 5, Minutes: 15}}, ""},
		{"out of order", []practice.Placement{{Start: 10, Minutes: 10}, {Start: 0, Minutes: 10}}, ""},
		{"negative minutes", []practice.Placement{{Start: 0, Minutes: 5}, {Start: 5, Minutes: -1}}, "placements[1].minutes"},
		{"longer than the period", []practice.Placement{{Start: 0, Minutes: 21}}, "placements[0].minutes"},
		{"past the end", []practice.Placement{{Start: 16, Minutes: 5}}, "placements[0].start"},
		{"before the start", []practice.Placement{{Start: -1, Minutes: 5}}, "placements[0].start"},
		{"overlap", []practice.Placement{{Start: 0, Minutes: 6}, {Start: 10, Minutes: 3}, {Start: 5, Minutes: 3}}, "placements[2].start"},
	} {
		err := practice.CheckPlacements(20, c.drills)
		if c.field == "" {
			assert.NoError(t, err, c.name)
			continue
		}
		e, ok := invalid.As(err)
		require.True(t, ok, c.name)
		assert.Equal(t, c.field, e.Field, c.name)
	}
}

func TestFitByHand(t *testing.T) {
	got, cuts, err := practice.Fit(20, []practice.Placement{{Start: 0, Minutes: 5}, {Start: 12, Minutes: 8}}, 5, 3, 3)
	require.NoError(t, err)
	assert.Empty(t, cuts)
	assert.Equal(t, practice.Placement{Start: 5, Minutes: 5}, got[2])

	got, cuts, err = practice.Fit(20, []practice.Placement{{Start: 0, Minutes: 8}, {Start: 12, Minutes: 8}}, 5, 3, 3)
	require.NoError(t, err)
	assert.Empty(t, cuts)
	assert.Equal(t, practice.Placement{Start: 8, Minutes: 4}, got[2])

	got, cuts, err = practice.Fit(20, []practice.Placement{{Start: 0, Minutes: 9}, {Start: 9, Minutes: 11}}, 5, 3, 3)
	require.NoError(t, err)
	assert.Equal(t, []practice.Cut{{0, 9, 8}, {1, 11, 9}}, cuts)
	assert.Equal(t, []practice.Placement{{Start: 0, Minutes: 8}, {Start: 8, Minutes: 9}, {Start: 17, Minutes: 3}}, got)

	_, _, err = practice.Fit(6, []practice.Placement{{Start: 0, Minutes: 3}, {Start: 3, Minutes: 3}}, 5, 3, 3)
	require.ErrorContains(t, err, "full")
}

func TestFitAlwaysFits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		period := rapid.IntRange(5, 40).Draw(t, "period")
		var drills []practice.Placement
		for at := 0; ; {
			at += rapid.IntRange(0, 4).Draw(t, "gap")
			m := rapid.IntRange(1, 9).Draw(t, "minutes")
			if at+m > period {
				break
			}
			drills = append(drills, practice.Placement{Start: at, Minutes: m})
			at += m
		}
		before := append([]practice.Placement(nil), drills...)
		got, cuts, err := practice.Fit(period, drills, 5, 3, 2)
		require.Equal(t, before, drills, "the argument is not changed")
		if err != nil {
			least := 0
			for _, d := range drills {
				least += min(d.Minutes, 2)
			}
			require.Greater(t, least+3, period, "it gives up only when it must")
			return
		}
		require.NoError(t, practice.CheckPlacements(period, got))
		require.Len(t, got, len(drills)+1)
		require.GreaterOrEqual(t, got[len(drills)].Minutes, 3)
		for i, d := range drills {
			require.GreaterOrEqual(t, got[i].Minutes, min(d.Minutes, 2))
			require.LessOrEqual(t, got[i].Minutes, d.Minutes)
		}
		for _, c := range cuts {
			require.Equal(t, drills[c.Index].Minutes, c.From)
			require.Equal(t, got[c.Index].Minutes, c.To)
		}
	})
}

func TestContact(t *testing.T) {
	for i, name := range []string{"air", "bag", "control", "thud", "live"} {
		c, err := practice.ParseContact(name)
		require.NoError(t, err)
		assert.Equal(t, practice.Contact(i), c)
		assert.Equal(t, name, c.String())
		assert.Equal(t, i >= 2, c.Collides())
	}
	_, err := practice.ParseContact("full")
	require.Error(t, err)
	assert.True(t, practice.IsKind("individual"))
	assert.False(t, practice.IsKind("indy"))
}

// TestFitCutsNoMoreThanItMust compares with trying every way to shorten the drills: the
// minutes taken away are the fewest that make room for what is wanted.
func TestFitCutsNoMoreThanItMust(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		period := rapid.IntRange(4, 16).Draw(t, "period")
		var drills []practice.Placement
		at := 0
		for range rapid.IntRange(0, 3).Draw(t, "drills") {
			at += rapid.IntRange(0, 2).Draw(t, "gap")
			m := rapid.IntRange(1, 7).Draw(t, "minutes")
			if at+m > period {
				break
			}
			drills = append(drills, practice.Placement{Start: at, Minutes: m})
			at += m
		}
		const want, least, keep = 4, 2, 2
		got, cuts, err := practice.Fit(period, drills, want, least, keep)
		total, possible := 0, 0
		for _, d := range drills {
			total += d.Minutes
			possible += d.Minutes - min(d.Minutes, keep)
		}
		if err != nil {
			require.Greater(t, total-possible+least, period)
			return
		}
		cut := 0
		for _, c := range cuts {
			require.Greater(t, c.From, c.To)
			cut += c.From - c.To
		}
		added := got[len(drills)].Minutes
		require.LessOrEqual(t, added, want)
		// Cutting is for the least alone: where that fits without, nothing is cut.
		if total+least <= period {
			require.Zero(t, cut, "there was room: %v in %d", drills, period)
			return
		}
		require.Equal(t, total+least-period, cut, "%v in %d", drills, period)
		require.Equal(t, least, added)
	})
}

func TestSqueezeByHand(t *testing.T) {
	drills := []practice.Placement{{Start: 10, Minutes: 8}, {Start: 0, Minutes: 6}}
	for _, c := range []struct {
		minutes int
		want    []practice.Placement
		cuts    []practice.Cut
	}{
		{20, []practice.Placement{{Start: 10, Minutes: 8}, {Start: 0, Minutes: 6}}, nil},
		{16, []practice.Placement{{Start: 8, Minutes: 8}, {Start: 0, Minutes: 6}}, nil}, // the gap gives what is needed
		{12, []practice.Placement{{Start: 6, Minutes: 6}, {Start: 0, Minutes: 6}}, []practice.Cut{{0, 8, 6}}},
		{7, []practice.Placement{{Start: 4, Minutes: 3}, {Start: 0, Minutes: 4}}, []practice.Cut{{0, 8, 3}, {1, 6, 4}}},
	} {
		got, cuts, err := practice.Squeeze(c.minutes, drills, 3)
		require.NoError(t, err)
		assert.Equal(t, c.want, got, c.minutes)
		assert.Equal(t, c.cuts, cuts, c.minutes)
	}
	_, _, err := practice.Squeeze(5, drills, 3)
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "minutes", e.Field)
}

// TestSqueezeKeepsWhatItCan: all drills stay, in their order, none below what is kept, and
// nothing is cut that need not be.
func TestSqueezeKeepsWhatItCan(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var drills []practice.Placement
		at := 0
		for range rapid.IntRange(0, 5).Draw(t, "drills") {
			at += rapid.IntRange(0, 4).Draw(t, "gap")
			d := practice.Placement{Start: at, Minutes: rapid.IntRange(1, 9).Draw(t, "minutes")}
			drills, at = append(drills, d), d.End()
		}
		period := rapid.IntRange(1, 40).Draw(t, "period")
		got, cuts, err := practice.Squeeze(period, drills, 3)
		used, least := 0, 0
		for _, d := range drills {
			used, least = used+d.Minutes, least+min(d.Minutes, 3)
		}
		if err != nil {
			require.Greater(t, least, period)
			return
		}
		require.NoError(t, practice.CheckPlacements(period, got))
		cut := 0
		for i, d := range drills {
			require.GreaterOrEqual(t, got[i].Minutes, min(d.Minutes, 3))
			require.LessOrEqual(t, got[i].Start, d.Start)
			if i > 0 {
				require.GreaterOrEqual(t, got[i].Start, got[i-1].End())
			}
		}
		for _, c := range cuts {
			cut += c.From - c.To
		}
		require.Equal(t, max(0, used-period), cut)
	})
}

// TestGroupsShareAPeriod: what holds for the drills of one group alone holds for each of two in the
// same period.
func TestGroupsShareAPeriod(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		period := rapid.IntRange(1, 30).Draw(t, "period")
		apart := map[string][]practice.Placement{}
		var both []practice.Placement
		for range rapid.IntRange(0, 6).Draw(t, "drills") {
			d := practice.Placement{Start: rapid.IntRange(0, 20).Draw(t, "start"), Minutes: rapid.IntRange(1, 9).Draw(t, "minutes"),
				Of: rapid.SampledFrom([]string{"db", "wr"}).Draw(t, "of")}
			if slices.ContainsFunc(apart[d.Of], func(e practice.Placement) bool { return d.Start < e.End() && e.Start < d.End() }) {
				continue
			}
			apart[d.Of], both = append(apart[d.Of], d), append(both, d)
		}
		fits := practice.CheckPlacements(period, both) == nil
		require.Equal(t, practice.CheckPlacements(period, apart["db"]) == nil && practice.CheckPlacements(period, apart["wr"]) == nil, fits)
		got, _, err := practice.Squeeze(period, both, 3)
		for _, of := range []string{"db", "wr"} {
			alone, _, e := practice.Squeeze(period, apart[of], 3)
			if e != nil {
				require.Error(t, err)
				return
			}
			if err == nil {
				require.ElementsMatch(t, alone, slices.DeleteFunc(slices.Clone(got), func(d practice.Placement) bool { return d.Of != of }))
			}
		}
		require.NoError(t, err)
		require.NoError(t, practice.CheckPlacements(period, got))
	})
}
