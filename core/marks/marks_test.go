package marks_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/marks"
)

func mark(player string, a, t, f float64, faults ...marks.Fault) marks.Mark {
	m := marks.Mark{Player: player, Play: "g3-07", Weight: 1, Graded: true, Values: map[string]float64{}, Faults: faults}
	for k, v := range map[string]float64{"assignment": a, "technique": t, "finish": f} {
		if !math.IsNaN(v) {
			m.Values[k] = v
		}
	}
	return m
}

var null = math.NaN()

func TestGradeByHand(t *testing.T) {
	late := marks.Fault{Key: "second_step_back"}
	alone := marks.Fault{Key: "runs_past", CausedBy: "72"}
	assumed := mark("14", 1, 1, 1)
	assumed.Assumed = true
	heavy := mark("14", 1, 0, 1, late, late)
	heavy.Weight = 3
	unseen := marks.Mark{Player: "64", Reason: marks.Unseen, Faults: []marks.Fault{late}}
	r, err := marks.Grade(marks.Shipped(), []marks.Mark{
		assumed, heavy, unseen, mark("64", 1, null, 0, alone), mark("64", null, null, 1), mark("72", 0, 1, 1),
	})
	require.NoError(t, err)
	require.Len(t, r.Players, 3)

	p := r.Players[0] // 14: scores 1 and (1+0+0.5)/2.5 = 0.6 with weight 3
	assert.Equal(t, "14", p.Player)
	assert.InDelta(t, (1+3*0.6)/4, p.Score, 1e-12)
	assert.Equal(t, 1, p.Clean)
	assert.Equal(t, 0.5, p.CleanRate)
	assert.Equal(t, 1, p.Assumed)
	assert.Equal(t, marks.FacetMean{N: 2, Mean: 0.25}, p.Facets["technique"])
	assert.Equal(t, []marks.FaultCount{{Key: "second_step_back", N: 1, Rate: 0.5}}, p.Faults)

	p = r.Players[1] // 64: one unseen, one graded without technique, one empty
	assert.Equal(t, 3, p.Marks)
	assert.Equal(t, 1, p.Graded)
	assert.Equal(t, map[marks.Reason]int{marks.Unseen: 1, marks.Empty: 1}, p.Reasons)
	assert.Equal(t, 1, p.Clean, "finish does not decide cleanness")
	assert.InDelta(t, 1/1.5, p.Score, 1e-12)
	assert.Empty(t, p.Faults, "the cause is counted with the teammate")

	p = r.Players[2]
	assert.Equal(t, "72", p.Player)
	assert.Equal(t, []marks.FaultCount{{Key: "runs_past", N: 1}}, p.Caused)
	assert.Equal(t, 0, p.Clean)

	assert.Equal(t, 6, r.Group.Marks)
	assert.Equal(t, 4, r.Group.Graded)
}

func TestPointsAndPlusMinus(t *testing.T) {
	points := marks.Scheme{Kind: marks.Points, Max: 4, CleanAt: 3}
	m := func(v float64) marks.Mark {
		return marks.Mark{Player: "1", Weight: 1, Graded: true, Values: map[string]float64{"grade": v}}
	}
	r, err := marks.Grade(points, []marks.Mark{m(4), m(3), m(1)})
	require.NoError(t, err)
	assert.Equal(t, 2, r.Group.Clean)
	assert.InDelta(t, 2.0/3, r.Group.Score, 1e-12)
	_, err = marks.Grade(points, []marks.Mark{m(5)})
	require.ErrorContains(t, err, "values.grade")
	r, err = marks.Grade(marks.Scheme{Kind: marks.PlusMinus}, []marks.Mark{m(1), m(0)})
	require.NoError(t, err)
	assert.Equal(t, 0.5, r.Group.CleanRate)
}

// TestLaws checks what must hold for any marks: the group is the sum of its
// players, every mark is graded or not, and ungraded marks change nothing else.
func TestLaws(t *testing.T) {
	value := rapid.SampledFrom([]float64{0, 1, null})
	one := rapid.Custom(func(t *rapid.T) marks.Mark {
		m := mark(rapid.SampledFrom([]string{"1", "2", "3"}).Draw(t, "player"), value.Draw(t, "a"), value.Draw(t, "t"), value.Draw(t, "f"))
		m.Weight = float64(rapid.IntRange(0, 3).Draw(t, "weight"))
		if rapid.IntRange(0, 4).Draw(t, "ungraded") == 0 {
			m.Graded, m.Reason = false, marks.Unsettled
		}
		for range rapid.IntRange(0, 2).Draw(t, "faults") {
			m.Faults = append(m.Faults, marks.Fault{Key: rapid.SampledFrom([]string{"x", "y"}).Draw(t, "fault"),
				CausedBy: rapid.SampledFrom([]string{"", "4", "5"}).Draw(t, "cause")})
		}
		return m
	})
	rapid.Check(t, func(t *rapid.T) {
		in := rapid.SliceOfN(one, 0, 30).Draw(t, "marks")
		r, err := marks.Grade(marks.Shipped(), in)
		require.NoError(t, err)
		sum := marks.Summary{}
		var kept []marks.Mark
		for _, p := range r.Players {
			require.Equal(t, p.Marks, p.Graded+p.NotGraded)
			sum.Marks += p.Marks
			sum.Graded += p.Graded
			sum.Clean += p.Clean
			for _, f := range p.Faults {
				require.LessOrEqual(t, f.Rate, 1.0)
				require.Positive(t, f.N)
			}
			require.GreaterOrEqual(t, p.Score, 0.0)
			require.LessOrEqual(t, p.Score, 1.0)
		}
		require.Equal(t, r.Group.Marks, sum.Marks)
		require.Equal(t, r.Group.Graded, sum.Graded)
		require.Equal(t, r.Group.Clean, sum.Clean)
		for _, m := range in {
			if marks.Shipped().Judge(m).Graded {
				kept = append(kept, m)
			}
		}
		without, err := marks.Grade(marks.Shipped(), kept)
		require.NoError(t, err)
		require.Equal(t, r.Group.Score, without.Group.Score)
		require.Equal(t, r.Group.Faults, without.Group.Faults)
	})
}

func TestRefuses(t *testing.T) {
	s := marks.Shipped()
	for field, m := range map[string]marks.Mark{
		"marks[0].player":              {Graded: true},
		"marks[0].weight":              {Player: "1", Graded: true, Weight: -1},
		"marks[0].reason":              {Player: "1"},
		"marks[0].values.effort":       {Player: "1", Graded: true, Values: map[string]float64{"effort": 1}},
		"marks[0].values.finish":       {Player: "1", Graded: true, Values: map[string]float64{"finish": 0.5}},
		"marks[0].faults[0].key":       {Player: "1", Graded: true, Faults: []marks.Fault{{}}},
		"marks[0].faults[1].caused_by": {Player: "1", Graded: true, Faults: []marks.Fault{{Key: "x", CausedBy: "2"}, {Key: "x", CausedBy: "1"}}},
	} {
		_, err := marks.Grade(s, []marks.Mark{m})
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	for field, s := range map[string]marks.Scheme{
		"scheme.kind":             {Kind: "stars"},
		"scheme.max":              {Kind: marks.Points},
		"scheme.clean_at":         {Kind: marks.Points, Max: 3, CleanAt: 4},
		"scheme.facets":           {Kind: marks.Facets, Facets: []marks.Facet{{Key: "a", Weight: 1}}},
		"scheme.facets[0].weight": {Kind: marks.Facets, Facets: []marks.Facet{{Key: "a", Clean: true}}},
		"scheme.facets[1].key":    {Kind: marks.Facets, Facets: []marks.Facet{{Key: "a", Weight: 1, Clean: true}, {Key: "a", Weight: 1}}},
	} {
		_, err := marks.Grade(s, nil)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

// TestSharedFault: one that two teammates caused is charged to both and is one of the group.
func TestSharedFault(t *testing.T) {
	r, err := marks.Grade(marks.Shipped(), []marks.Mark{{Player: "64", Weight: 1, Graded: true, Values: map[string]float64{"technique": 1},
		Faults: []marks.Fault{{Key: "late", CausedBy: "72"}, {Key: "late", CausedBy: "88"}, {Key: "late"}, {Key: "late"}}}})
	require.NoError(t, err)
	one := []marks.FaultCount{{Key: "late", N: 1}}
	assert.Equal(t, one, r.Group.Caused)
	assert.Equal(t, one, r.Players[1].Caused)
	assert.Equal(t, one, r.Players[2].Caused)
	assert.Equal(t, 1, r.Players[0].Faults[0].N)
	assert.Empty(t, r.Players[0].Caused)
}

func ExampleGrade() {
	r, _ := marks.Grade(marks.Shipped(), []marks.Mark{
		{Player: "64", Weight: 1, Graded: true, Values: map[string]float64{"assignment": 1, "technique": 1}},
		{Player: "64", Weight: 1, Graded: true, Values: map[string]float64{"assignment": 1, "technique": 0}, Faults: []marks.Fault{{Key: "hands_wide"}}},
		{Player: "64", Reason: marks.Unseen},
	})
	p := r.Players[0]
	fmt.Printf("%d of %d clean, %d not graded\n", p.Clean, p.Graded, p.NotGraded)
	// Output: 1 of 2 clean, 1 not graded
}

func TestFillAssumesCleanByException(t *testing.T) {
	own, caused := marks.Fault{Key: "x"}, marks.Fault{Key: "x", CausedBy: "72"}
	for _, c := range []struct {
		values map[string]float64
		faults []marks.Fault
		want   map[string]float64
	}{
		{nil, nil, map[string]float64{"assignment": 1, "technique": 1}},
		{nil, []marks.Fault{own}, map[string]float64{"assignment": 1, "technique": 0}},
		{nil, []marks.Fault{caused}, map[string]float64{"assignment": 1, "technique": 1}},
		{map[string]float64{"technique": 1, "finish": 0}, []marks.Fault{own}, map[string]float64{"assignment": 1, "technique": 1, "finish": 0}},
	} {
		assert.Equal(t, c.want, marks.Fill(c.values, c.faults))
	}
}
