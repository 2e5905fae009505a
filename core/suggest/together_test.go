package suggest_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/group"
	"nineyard/core/suggest"
)

func joints() []suggest.Joint {
	return []suggest.Joint{
		{"stack", "Call, echo, exchange", []string{"db"}, "Two men face two receivers who set a stack.", 6, 4},
		{"menu", "Route menu", []string{"db"}, "One man covers a receiver who runs one of six routes.", 6, 5},
		{"race", "Race for the hip", []string{"db"}, "One man opens with a receiver who goes deep.", 12, 5},
		{"leverage", "Corner's menu", []string{"wr"}, "One man gets a route and meets a corner who shows one of four leverages.", 6, 3},
		{"fit", "Pull and fit", []string{"ol"}, "One man pulls and fits into a bag carried by the linebacker.", 5, 3},
		{"fake", "Mesh and look", []string{"rb"}, "One man runs from the quarterback's mesh against a linebacker.", 5, 3},
		{"pedal", "Pedal the line", []string{"db"}, "Every man pedals ten yards.", 5, 3},
		{"long", "Scrimmage of two", []string{"wr"}, "Receivers against safeties.", 20, 15},
	}
}

func ExampleTogether() {
	for _, p := range suggest.Together([]string{"wr", "db"}, 12, group.Usual(), joints()) {
		fmt.Println(p.Drill.Name, p.Of, p.With)
	}
	// Output:
	// Race for the hip db wr
	// Call, echo, exchange db wr
	// Corner's menu wr db
	// Route menu db wr
}

func TestTogether(t *testing.T) {
	names := func(minutes int, free ...string) (list []string) {
		for _, p := range suggest.Together(free, minutes, group.Usual(), joints()) {
			list = append(list, p.Drill.Key)
		}
		return list
	}
	assert.Equal(t, []string{"race", "stack", "fit"}, names(12, "wr", "db", "ol", "lb"), "no two groups take all of it")
	assert.Equal(t, []string{"leverage"}, names(3, "wr", "db"))
	assert.Empty(t, names(12, "rb", "lb"), "the quarterback it needs is not free")
	assert.Empty(t, names(12, "db", "qb"))
	assert.Equal(t, []string{"qb", "lb"}, suggest.Called(joints()[5], group.Usual()))
}

// TestTogetherNeedsNobodyElse: whoever is free, a drill that is named is done by one of them and calls
// for none but them, and there is time for it.
func TestTogetherNeedsNobodyElse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		free := rapid.SliceOfNDistinct(rapid.SampledFrom(group.Usual().Keys()), 0, 8, rapid.ID[string]).Draw(t, "free")
		minutes := rapid.IntRange(0, 25).Draw(t, "minutes")
		got := suggest.Together(free, minutes, group.Usual(), joints())
		require.LessOrEqual(t, len(got), suggest.MostTogether)
		for _, p := range got {
			require.Contains(t, free, p.Of)
			require.Contains(t, p.Drill.Groups, p.Of)
			require.Equal(t, []string{p.With}, suggest.Called(p.Drill, group.Usual()))
			require.Contains(t, free, p.With)
			require.LessOrEqual(t, p.Drill.MinMinutes, minutes)
		}
		require.Equal(t, got, suggest.Together(slices.Clone(free), minutes, group.Usual(), joints()))
	})
}
