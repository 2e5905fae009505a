package growth_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"nineyard/core/growth"
	"nineyard/core/invalid"
	"nineyard/core/season"
)

var today = season.Must("2026-10-13")

func one(rows ...growth.Row) growth.Estimate {
	r, err := growth.Of(today, growth.Default(), rows)
	if err != nil {
		panic(err)
	}
	return r.Rows[0]
}

func row(age, clean, faulty int, source growth.Source) growth.Row {
	return growth.Row{Player: "14", Technique: "reach", Date: today - season.Date(age), Source: source, Clean: clean, Faulty: faulty}
}

func TestEstimateByHand(t *testing.T) {
	// One row, 21 days old: w = ½. c = 3.5, f = 1; μ = 4/5.5; posterior mean (8μ + 3.5)/12.5.
	e := one(row(21, 7, 2, growth.Game))
	mu := 4.0 / 5.5
	assert.InDelta(t, (8*mu+3.5)/12.5, e.Estimate, 1e-12)
	assert.InDelta(t, 4.5, e.EffectiveReps, 1e-12)
	assert.Equal(t, 9, e.Reps)
	d := distuv.Beta{Alpha: 8*mu + 3.5, Beta: 8*(1-mu) + 1}
	assert.InDelta(t, 0.1, d.CDF(e.Low), 1e-10)
	assert.InDelta(t, 0.9, d.CDF(e.High), 1e-10)
	assert.Equal(t, growth.TooFew, e.Trend)
	assert.Equal(t, growth.Count{Clean: 7, Faulty: 2}, e.Game)
}

func TestTrendAndCarryEdges(t *testing.T) {
	// 13 days is recent, 14 is not; 34 days enters the carry-over, 35 does not.
	e := one(row(13, 20, 0, growth.Practice), row(14, 5, 15, growth.Practice))
	assert.Equal(t, growth.Improving, e.Trend)
	assert.True(t, e.TrendClaimed)
	e = one(row(13, 3, 2, growth.Practice), row(14, 5, 15, growth.Practice))
	assert.Equal(t, growth.TooFew, e.Trend)
	e = one(row(34, 20, 0, growth.Practice), row(1, 4, 6, growth.Game))
	assert.Equal(t, growth.NotCarrying, e.Carry)
	e = one(row(35, 20, 0, growth.Practice), row(1, 4, 6, growth.Game))
	assert.Equal(t, growth.CarryTooFew, e.Carry)
	e = one(row(1, 10, 10, growth.Practice), row(1, 19, 1, growth.Game))
	assert.Equal(t, growth.Carrying, e.Carry)
	assert.False(t, e.CarryClaimed)
}

// quadrature integrates pdf_x·cdf_y, which shares no code with the finite sum.
func quadrature(x, y growth.Count) float64 {
	dx := distuv.Beta{Alpha: float64(x.Clean + 1), Beta: float64(x.Faulty + 1)}
	dy := distuv.Beta{Alpha: float64(y.Clean + 1), Beta: float64(y.Faulty + 1)}
	return quad.Fixed(func(v float64) float64 { return dx.Prob(v) * dy.CDF(v) }, 0, 1, 400, nil, 0)
}

func TestPGreaterAgainstQuadrature(t *testing.T) {
	count := rapid.Custom(func(t *rapid.T) growth.Count {
		return growth.Count{Clean: rapid.IntRange(0, 150).Draw(t, "clean"), Faulty: rapid.IntRange(0, 150).Draw(t, "faulty")}
	})
	rapid.Check(t, func(t *rapid.T) {
		x, y := count.Draw(t, "x"), count.Draw(t, "y")
		p := growth.PGreater(x, y)
		require.InDelta(t, quadrature(x, y), p, 1e-7)
		require.InDelta(t, 1-p, growth.PGreater(y, x), 1e-9)
	})
	assert.InDelta(t, 0.5, growth.PGreater(growth.Count{Clean: 400000, Faulty: 90000}, growth.Count{Clean: 400000, Faulty: 90000}), 1e-6)
	assert.InDelta(t, 1, growth.PGreater(growth.Count{Clean: 900000, Faulty: 9}, growth.Count{Clean: 9, Faulty: 900000}), 1e-12)
}

func rows() *rapid.Generator[[]growth.Row] {
	return rapid.SliceOfN(rapid.Custom(func(t *rapid.T) growth.Row {
		return growth.Row{
			Player:    rapid.SampledFrom([]string{"14", "7", "64"}).Draw(t, "player"),
			Technique: rapid.SampledFrom([]string{"reach", "base"}).Draw(t, "technique"),
			Date:      today - season.Date(rapid.IntRange(0, 60).Draw(t, "age")),
			Source:    growth.Source(rapid.IntRange(0, 1).Draw(t, "source")),
			Clean:     rapid.IntRange(0, 12).Draw(t, "clean"),
			Faulty:    rapid.IntRange(0, 12).Draw(t, "faulty"),
		}
	}), 0, 40)
}

func TestLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := rows().Draw(t, "rows")
		got, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)

		again, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)
		require.Equal(t, got, again, "the same input gives the same answer")

		shuffled := append([]growth.Row(nil), in...)
		rand.New(rand.NewPCG(1, uint64(len(in)))).Shuffle(len(in), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		other, err := growth.Of(today, growth.Default(), shuffled)
		require.NoError(t, err)
		require.Len(t, other.Rows, len(got.Rows))

		trends := 0
		for i, e := range got.Rows {
			require.InDelta(t, e.Estimate, other.Rows[i].Estimate, 1e-12)
			require.Less(t, e.Low, e.High)
			require.True(t, e.Low > 0 && e.High < 1)
			require.Equal(t, e.Trend, other.Rows[i].Trend)
			if e.Trend != growth.TooFew {
				trends++
			}
			if i > 0 {
				p := got.Rows[i-1]
				require.True(t, p.Player < e.Player || p.Player == e.Player && p.Technique < e.Technique)
			}
		}
		bruteClaims(t, got.Rows, trends)
	})
}

// bruteClaims checks Benjamini–Hochberg by its definition, row by row.
func bruteClaims(t *rapid.T, rows []growth.Estimate, m int) {
	v := func(e growth.Estimate) float64 { return 2 * math.Min(e.PImproved, 1-e.PImproved) }
	for _, e := range rows {
		want := false
		for _, f := range rows { // is there a threshold v(f) ≥ v(e) that k values reach, with v(f) ≤ k/m·0.1?
			if e.Trend == growth.TooFew || f.Trend == growth.TooFew || v(f) < v(e) {
				continue
			}
			k := 0
			for _, g := range rows {
				if g.Trend != growth.TooFew && v(g) <= v(f) {
					k++
				}
			}
			want = want || v(f) <= float64(k)/float64(m)*0.1
		}
		require.Equal(t, want, e.TrendClaimed)
	}
}

func TestMoreCleanRepsNeverLowerTheEstimate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := rows().Draw(t, "rows")
		in = append(in, row(3, 1, 1, growth.Practice))
		before, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)
		in[len(in)-1].Clean++
		after, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)
		for i, e := range before.Rows {
			if e.Player == "14" && e.Technique == "reach" {
				require.Greater(t, after.Rows[i].Estimate, e.Estimate)
			}
		}
	})
}

func TestRefuses(t *testing.T) {
	for field, change := range map[string]func(*growth.Settings, *growth.Row){
		"half_life_days": func(s *growth.Settings, _ *growth.Row) { s.HalfLifeDays = 0 },
		"prior_reps":     func(s *growth.Settings, _ *growth.Row) { s.PriorReps = math.NaN() },
		"interval":       func(s *growth.Settings, _ *growth.Row) { s.Interval = 1 },
		"recent_days":    func(s *growth.Settings, _ *growth.Row) { s.RecentDays = 0 },
		"carry_days":     func(s *growth.Settings, _ *growth.Row) { s.CarryDays = -1 },
		"min_reps":       func(s *growth.Settings, _ *growth.Row) { s.MinReps = 0 },
		"false_alarm":    func(s *growth.Settings, _ *growth.Row) { s.FalseAlarm = 0 },
		"reps[0].date":   func(_ *growth.Settings, r *growth.Row) { r.Date++ },
		"reps[0]":        func(_ *growth.Settings, r *growth.Row) { r.Clean = -1 },
	} {
		s, r := growth.Default(), row(0, 1, 1, growth.Game)
		change(&s, &r)
		_, err := growth.Of(today, s, []growth.Row{r})
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

func ExamplePGreater() {
	p := growth.PGreater(growth.Count{Clean: 18, Faulty: 2}, growth.Count{Clean: 9, Faulty: 11})
	fmt.Printf("%.3f\n", p)
	// Output: 0.999
}

func BenchmarkOfMillionRows(b *testing.B) {
	rng := rand.New(rand.NewPCG(9, 9))
	var players, techniques []string
	for i := range 46 {
		players = append(players, fmt.Sprint("player ", i))
	}
	for i := range 75 {
		techniques = append(techniques, fmt.Sprint("technique ", i))
	}
	in := make([]growth.Row, 1_000_000)
	for i := range in {
		in[i] = growth.Row{Player: players[rng.IntN(46)], Technique: techniques[rng.IntN(75)], Date: today - season.Date(rng.IntN(70)),
			Source: growth.Source(rng.IntN(2)), Clean: rng.IntN(2), Faulty: rng.IntN(2)}
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := growth.Of(today, growth.Default(), in); err != nil {
			b.Fatal(err)
		}
	}
}

func TestSayOnlyWhatMayBeClaimed(t *testing.T) {
	assert.Equal(t, "is improving: 20 of 20 clean lately, 5 of 20 before.",
		growth.Say(one(row(3, 20, 0, growth.Practice), row(20, 5, 15, growth.Practice))))
	assert.Equal(t, "is not carrying over: 30 of 30 clean in practice, 2 of 12 in games.",
		growth.Say(one(row(3, 15, 0, growth.Practice), row(20, 15, 0, growth.Practice), row(4, 2, 10, growth.Game))))
	assert.Empty(t, growth.Say(one(row(3, 9, 1, growth.Practice), row(20, 8, 2, growth.Practice))))
}

func TestBestNeedsReps(t *testing.T) {
	few := growth.Estimate{Technique: "a", Reps: 3, Low: 0.9}
	many := growth.Estimate{Technique: "b", Reps: 40, Low: 0.7}
	got, ok := growth.Best([]growth.Estimate{few, many})
	assert.True(t, ok)
	assert.Equal(t, "b", got.Technique)
	_, ok = growth.Best([]growth.Estimate{few})
	assert.False(t, ok)
}

// TestOfPlayerIsTheReportOfOne compares with the whole report, the claims aside.
func TestOfPlayerIsTheReportOfOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rows := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) growth.Row {
			return growth.Row{Player: rapid.SampledFrom([]string{"14", "72", "88"}).Draw(t, "player"), Technique: rapid.SampledFrom([]string{"reach", "pull"}).Draw(t, "technique"),
				Date: today - season.Date(rapid.IntRange(0, 60).Draw(t, "age")), Source: rapid.SampledFrom([]growth.Source{growth.Practice, growth.Game}).Draw(t, "source"),
				Clean: rapid.IntRange(0, 9).Draw(t, "clean"), Faulty: rapid.IntRange(0, 9).Draw(t, "faulty")}
		}), 0, 30).Draw(t, "rows")
		report, err := growth.Of(today, growth.Default(), rows)
		require.NoError(t, err)
		var want []growth.Estimate
		for _, e := range report.Rows {
			if e.TrendClaimed, e.CarryClaimed = false, false; e.Player == "72" {
				want = append(want, e)
			}
		}
		got, err := growth.OfPlayer(today, growth.Default(), rows, "72")
		require.NoError(t, err)
		require.Equal(t, want, got)
	})
	_, err := growth.OfPlayer(today, growth.Default(), []growth.Row{row(-1, 1, 0, growth.Game)}, "14")
	field, _ := invalid.As(err)
	require.NotNil(t, field)
	assert.Equal(t, "reps[0].date", field.Field)
}
