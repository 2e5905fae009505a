package marks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/marks"
)

var (
	plusMinus = marks.Scheme{Kind: marks.PlusMinus}
	four      = marks.Scheme{Kind: marks.Points, Max: 4, CleanAt: 3}
)

func TestAGradeByException(t *testing.T) {
	for name, c := range map[string]struct {
		scheme marks.Scheme
		given  *int
		own    []int
		value  int
	}{
		"a plus":                        {plusMinus, nil, nil, 1},
		"a minus for a fault":           {plusMinus, nil, []int{1}, 0},
		"a plus all the same":           {plusMinus, new(1), []int{3}, 1},
		"all points":                    {four, nil, nil, 4},
		"less what the faults weigh":    {four, nil, []int{1, 2}, 1},
		"never less than none":          {four, nil, []int{3, 3}, 0},
		"a fault without a weight is 1": {four, nil, []int{0}, 3},
		"what the coach gives":          {four, new(2), []int{1}, 2},
	} {
		assert.Equal(t, c.value, c.scheme.Given(c.given, false, c.own).Value, name)
	}
	assert.Zero(t, four.Given(nil, true, nil).Value, "wrong as by facets")
	assert.Equal(t, 3, four.Given(new(3), true, nil).Value)
	_, scaled := marks.Shipped().Scale()
	assert.False(t, scaled)
}

// TestWhatIsSoundIsKept when a club changes how it marks: whether a rep was clean, whatever it was made by.
func TestWhatIsSoundIsKept(t *testing.T) {
	seen := func(a, tech int) marks.Seen { return marks.Seen{Assignment: &a, Technique: &tech} }
	grade := func(value, of, clean int) marks.Seen {
		return marks.Seen{Grade: &marks.OneGrade{Value: value, Of: of, CleanAt: clean}}
	}
	for name, c := range map[string]struct {
		by    marks.Scheme
		seen  marks.Seen
		clean bool
		score float64
	}{
		"right by facets, as a plus":     {plusMinus, seen(1, 1), true, 1},
		"a wrong step, as a minus":       {plusMinus, seen(1, 0), false, 0},
		"a wrong man, in points":         {four, seen(0, 1), false, 0},
		"three of four, on its scale":    {four, grade(3, 4, 3), true, .75},
		"two of four, by facets":         {marks.Shipped(), grade(2, 4, 3), false, .5},
		"a plus, by facets":              {marks.Shipped(), grade(1, 1, 1), true, 1},
		"three of five, as it was given": {four, grade(3, 5, 4), false, .6},
	} {
		v := c.by.See(marks.Looked, c.seen)
		assert.Equal(t, []any{true, c.clean}, []any{v.Graded, v.Clean}, name)
		assert.InDelta(t, c.score, v.Score, 1e-12, name)
	}
	assert.Equal(t, marks.Empty, plusMinus.See(marks.Looked, marks.Seen{Finish: new(1)}).Reason)
	assert.Equal(t, marks.Unseen, plusMinus.See(marks.StateUnseen, marks.Seen{}).Reason)
	for _, a := range []marks.Kind{marks.Facets, marks.PlusMinus, marks.Points} {
		for _, b := range []marks.Kind{marks.Facets, marks.PlusMinus, marks.Points} {
			assert.Equal(t, a == b || a == marks.Points && b == marks.PlusMinus, marks.Kept(a, b) == "", "%s by %s", a, b)
		}
	}
}

// TestALostRep counts as a win, or by its result, as the staff teaches; what is not said counts for nothing.
func TestALostRep(t *testing.T) {
	one, zero := 1, 0
	lost := marks.Seen{Assignment: &one, Technique: &one, Result: &zero}
	assert.True(t, marks.Shipped().See(marks.Looked, lost).Clean)
	byResult := marks.Shipped()
	byResult.ByResult = true
	assert.False(t, byResult.See(marks.Looked, lost).Clean)
	won := marks.Seen{Assignment: &one, Technique: &zero, Result: &one}
	assert.True(t, byResult.See(marks.Looked, won).Clean)
	lost.Result = nil
	assert.True(t, byResult.See(marks.Looked, lost).Clean)
	assert.False(t, byResult.See(marks.StateUnseen, won).Graded)
}

func TestGroupsMayHaveTheirOwn(t *testing.T) {
	h := marks.House{Scheme: marks.Shipped(), Groups: map[string]marks.Scheme{"ol": four, "te": four, "db": plusMinus}}
	require.NoError(t, h.CheckHouse())
	assert.Equal(t, marks.Points, h.For("te").Kind)
	assert.Equal(t, marks.Facets, h.For("qb").Kind)
	list, of := h.Distinct()
	assert.Len(t, list, 3)
	assert.Equal(t, of["ol"], of["te"])
	assert.Equal(t, plusMinus, list[of["db"]])
	h.Groups["lb"] = marks.Scheme{Kind: marks.Points, Max: 11, CleanAt: 3}
	e, ok := invalid.As(h.CheckHouse())
	require.True(t, ok)
	assert.Equal(t, "groups.lb.scheme.max", e.Field)
}
