package growth_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

func TestMoreCleanRepsNeverLowerTheEstimate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := seasons().Draw(t, "rows")
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
		"reps[0].clean":  func(_ *growth.Settings, r *growth.Row) { r.Clean = -1 },
		"reps[0].faulty": func(_ *growth.Settings, r *growth.Row) { r.Faulty = growth.MaxCount + 1 },
		"reps[0].source": func(_ *growth.Settings, r *growth.Row) { r.Source = 2 },
		"reps[0].side":   func(_ *growth.Settings, r *growth.Row) { r.Side = 3 },
	} {
		s, r := growth.Default(), row(0, 1, 1, growth.Game)
		change(&s, &r)
		_, err := growth.Of(today, s, []growth.Row{r})
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
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

// many is a season in which player 14 is unlike the three others, who stay as they are: reps
// of twelve days, three of every kind.
func many(of func(age int, game bool) (clean, faulty int)) []growth.Row {
	var rows []growth.Row
	for _, p := range []string{"14", "7", "64", "88"} {
		for i := range 12 {
			for _, source := range []growth.Source{growth.Practice, growth.Game} {
				r := row(1+i*3+int(source), 7, 2+(i+len(p))%2, source)
				if r.Player = p; p == "14" {
					r.Clean, r.Faulty = of(1+i*3, source == growth.Game)
				}
				rows = append(rows, r)
			}
		}
	}
	return rows
}

func of14(t *testing.T, rows []growth.Row) (growth.Estimate, growth.Player) {
	t.Helper()
	r, err := growth.Of(today, growth.Default(), rows)
	require.NoError(t, err)
	assert.Equal(t, "14", r.Rows[0].Player)
	for _, e := range r.Rows[1:] {
		assert.Empty(t, e.Say(), "nothing is claimed of %s", e.Player)
	}
	return r.Rows[0], r.Players[0]
}

func TestSayOnlyWhatMayBeClaimed(t *testing.T) {
	e, p := of14(t, many(func(age int, _ bool) (int, int) {
		if age < 14 {
			return 10, 0
		}
		return 4, 6
	}))
	assert.Equal(t, "is better than before: 90 of 90 clean lately, 66 of 150 before.", e.Say())
	assert.Equal(t, "Over all his techniques he has improved more than the others have: 90 of 90 clean lately, 66 of 150 before.", p.Say())

	e, p = of14(t, many(func(_ int, game bool) (int, int) {
		if game {
			return 3, 7
		}
		return 9, 1
	}))
	assert.Equal(t, "drops in games more than the others do: 108 of 120 clean in practice, 33 of 110 in games.", e.Say())
	assert.Equal(t, "Over all his techniques he drops in games more than the others do: 108 of 120 clean in practice, 33 of 110 in games.", p.Say())

	e, p = of14(t, many(func(int, bool) (int, int) { return 8, 2 }))
	assert.Empty(t, e.Say())
	assert.Empty(t, p.Say())
	assert.Equal(t, growth.Steady, e.Trend)
	assert.Equal(t, growth.Carrying, e.Carry)
}

// TestWhatGamesDoToAllIsNobodysFault: everybody drops alike in games.
func TestWhatGamesDoToAllIsNobodysFault(t *testing.T) {
	rows := many(func(int, bool) (int, int) { return 0, 0 })
	for i := range rows {
		rows[i].Clean, rows[i].Faulty = 18, 2
		if rows[i].Source == growth.Game {
			rows[i].Clean, rows[i].Faulty = 9, 11
		}
	}
	r, err := growth.Of(today, growth.Default(), rows)
	require.NoError(t, err)
	for i, e := range r.Rows {
		assert.Less(t, e.PDrop, 0.6)
		assert.Less(t, r.Players[i].PDrop, 0.6)
	}
	practice, game, ok := r.Group[0].Beside()
	assert.Equal(t, []any{0.9, 0.45, true}, []any{practice, game, ok}, "864 of 960 and 396 of 880")
	_, _, ok = growth.GroupRate{Practice: growth.Count{Clean: 40}, Game: growth.Count{Clean: 5}}.Beside()
	assert.False(t, ok)
}

// TestAllCleanInPracticeAndInGamesIsNoDrop: nine players of 80 of 80 and 6 of 6.
func TestAllCleanInPracticeAndInGamesIsNoDrop(t *testing.T) {
	var rows []growth.Row
	for p := range 9 {
		for i := range 8 {
			rows = append(rows, growth.Row{Player: fmt.Sprint(p), Technique: "reach", Date: today - season.Date(4*i), Clean: 10})
		}
		for i := range 3 {
			rows = append(rows, growth.Row{Player: fmt.Sprint(p), Technique: "reach", Date: today - season.Date(7*i), Source: growth.Game, Clean: 2})
		}
	}
	r, err := growth.Of(today, growth.Default(), rows)
	require.NoError(t, err)
	for i, e := range r.Rows {
		assert.Equal(t, growth.Carrying, e.Carry)
		assert.False(t, e.CarryClaimed || e.TrendClaimed || r.Players[i].CarryClaimed || r.Players[i].TrendClaimed)
	}
}

func TestSides(t *testing.T) {
	rows := many(func(int, bool) (int, int) { return 0, 0 })
	for i := range rows {
		r := &rows[i]
		r.Side, r.Clean, r.Faulty = growth.Left, 9, 1
		if i%2 == 1 {
			r.Side = growth.Right
			if r.Player == "14" {
				r.Clean, r.Faulty = 4, 6
			}
		}
		r.Source = growth.Practice
	}
	r, err := growth.Of(today, growth.Default(), rows)
	require.NoError(t, err)
	assert.Equal(t, "Worse to the right: 44 of 110 clean, to the left 108 of 120.", r.Rows[0].SaySides())
	for i := range rows {
		rows[i].Side = 3 - rows[i].Side
	}
	r, err = growth.Of(today, growth.Default(), rows)
	require.NoError(t, err)
	assert.Equal(t, "Worse to the left: 44 of 110 clean, to the right 108 of 120.", r.Rows[0].SaySides())
	for _, e := range r.Rows[1:] {
		assert.Empty(t, e.SaySides())
	}
}

func TestAgeEdges(t *testing.T) {
	// 13 days is recent, 14 is not; 34 days enters the carry-over, 35 does not.
	e := one(row(13, 4, 0, growth.Practice), row(14, 0, 3, growth.Practice), row(34, 5, 0, growth.Game), row(35, 0, 7, growth.Game))
	assert.Equal(t, growth.Count{Clean: 4}, e.Recent)
	assert.Equal(t, growth.Count{Clean: 5, Faulty: 10}, e.Older)
	assert.Equal(t, growth.Count{Clean: 4, Faulty: 3}, e.CarryPractice)
	assert.Equal(t, growth.Count{Clean: 5}, e.CarryGame)
}

// same compares two reports but for the last digits.
func same(t require.TestingT, a, b growth.Report) {
	require.Len(t, b.Rows, len(a.Rows))
	near := func(x, y float64) { require.InDelta(t, x, y, 1e-9) }
	for i, e := range a.Rows {
		f := b.Rows[i]
		near(e.Estimate, f.Estimate)
		near(e.Low, f.Low)
		near(e.High, f.High)
		near(e.PImproved, f.PImproved)
		near(e.PDrop, f.PDrop)
		near(e.PLeftBetter, f.PLeftBetter)
		near(e.EffectiveReps, f.EffectiveReps)
		for _, x := range []*growth.Estimate{&e, &f} {
			x.Estimate, x.Low, x.High, x.PImproved, x.PDrop, x.PLeftBetter, x.EffectiveReps = 0, 0, 0, 0, 0, 0, 0
		}
		require.Equal(t, e, f)
	}
	for i, p := range a.Players {
		q := b.Players[i]
		near(p.PImproved, q.PImproved)
		near(p.PDrop, q.PDrop)
		require.Equal(t, p.TrendClaimed, q.TrendClaimed)
		require.Equal(t, p.CarryClaimed, q.CarryClaimed)
	}
}

func TestLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := seasons().Draw(t, "rows")
		kept := append([]growth.Row{}, in...)
		got, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)
		require.Equal(t, kept, in, "the rows stay as they are")
		again, err := growth.Of(today, growth.Default(), in)
		require.NoError(t, err)
		require.Equal(t, got, again, "the same input gives the same answer")

		var cut []growth.Row // every row cut into two
		for _, r := range in {
			first := r
			first.Clean, first.Faulty = r.Clean/3, r.Faulty/2
			r.Clean -= first.Clean
			r.Faulty -= first.Faulty
			cut = append(cut, first, r)
		}
		rand.New(rand.NewPCG(1, uint64(len(in)))).Shuffle(len(cut), func(i, j int) { cut[i], cut[j] = cut[j], cut[i] })
		other, err := growth.Of(today, growth.Default(), cut)
		require.NoError(t, err)
		same(t, got, other)

		for i, e := range got.Rows {
			require.Less(t, e.Low, e.High)
			require.True(t, e.Low > 0 && e.High <= 1 && e.Estimate > 0 && e.Estimate < 1)
			if i > 0 {
				p := got.Rows[i-1]
				require.True(t, p.Player < e.Player || p.Player == e.Player && p.Technique < e.Technique)
			}
		}
		bruteClaims(t, got)
	})
}

// bruteClaims checks Benjamini–Hochberg by its definition, family by family.
func bruteClaims(t *rapid.T, r growth.Report) {
	type member struct {
		v       float64
		claimed bool
	}
	families := make([][]member, 5)
	two := func(p float64) float64 { return 2 * math.Min(p, 1-p) }
	add := func(family int, has bool, v float64, claimed bool) {
		if has {
			families[family] = append(families[family], member{v, claimed})
		} else {
			require.False(t, claimed)
		}
	}
	for _, e := range r.Rows {
		add(0, e.Trend != growth.TooFew, two(e.PImproved), e.TrendClaimed)
		add(1, e.Carry != growth.CarryTooFew, 1-e.PDrop, e.CarryClaimed)
		add(2, e.Sides != growth.SidesTooFew, two(e.PLeftBetter), e.SidesClaimed)
	}
	for _, p := range r.Players {
		add(3, p.Trend != growth.TooFew, two(p.PImproved), p.TrendClaimed)
		add(4, p.Carry != growth.CarryTooFew, 1-p.PDrop, p.CarryClaimed)
	}
	for _, family := range families {
		for _, e := range family {
			want := false
			for _, f := range family { // is there a value at or above e's that k values reach, and that lies below k/m·0.1?
				k := 0
				for _, g := range family {
					if g.v <= f.v {
						k++
					}
				}
				want = want || f.v >= e.v && f.v <= float64(k)/float64(len(family))*0.1
			}
			require.Equal(t, want, e.claimed)
		}
	}
}

// TestHistoryIsTheReportOfEachDay compares with whole reports.
func TestHistoryIsTheReportOfEachDay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rows := seasons().Draw(t, "rows")
		ends := []season.Date{today - 30, today - 11, today}
		got, err := growth.History(ends, growth.Default(), rows, "14")
		require.NoError(t, err)
		for i, end := range ends {
			var upTo []growth.Row
			for _, r := range rows {
				if r.Date <= end {
					upTo = append(upTo, r)
				}
			}
			report, err := growth.Of(end, growth.Default(), upTo)
			require.NoError(t, err)
			for _, e := range report.Rows {
				if e.Player != "14" {
					continue
				}
				require.NotEmpty(t, got)
				require.Equal(t, e.Technique, got[0].Technique)
				require.Equal(t, i, got[0].End)
				require.InDelta(t, e.Estimate, got[0].Estimate, 1e-9)
				require.InDelta(t, e.Low, got[0].Low, 1e-9)
				require.InDelta(t, e.High, got[0].High, 1e-9)
				got = got[1:]
			}
		}
		require.Empty(t, got)
	})
	_, err := growth.History([]season.Date{today}, growth.Default(), []growth.Row{row(-1, 1, 0, growth.Game)}, "14")
	field, _ := invalid.As(err)
	require.NotNil(t, field)
	assert.Equal(t, "reps[0].date", field.Field)
}

func ExampleOf() {
	day := season.Must("2026-10-13")
	r, _ := growth.Of(day, growth.Default(), []growth.Row{
		{Player: "64", Technique: "reach", Date: day - 3, Source: growth.Practice, Clean: 11, Faulty: 1},
		{Player: "72", Technique: "reach", Date: day - 3, Source: growth.Practice, Clean: 3, Faulty: 1},
	})
	for _, e := range r.Rows {
		fmt.Printf("%s: %.2f, between %.2f and %.2f\n", e.Player, e.Estimate, e.Low, e.High)
	}
	// Output:
	// 64: 0.89, between 0.79 and 0.97
	// 72: 0.82, between 0.67 and 0.94
}

// million is the rows of a large club in any order.
func million(most int) []growth.Row {
	rng := rand.New(rand.NewPCG(9, 9))
	rows := make([]growth.Row, 1_000_000)
	for i := range rows {
		rows[i] = growth.Row{Player: fmt.Sprint("player ", rng.IntN(500)), Technique: fmt.Sprint("technique ", rng.IntN(40)), Date: today - season.Date(rng.IntN(70)),
			Source: growth.Source(rng.IntN(2)), Side: growth.Side(rng.IntN(3)), Clean: rng.IntN(most + 1), Faulty: rng.IntN(most + 1)}
	}
	return rows
}

func BenchmarkOf(b *testing.B) {
	for _, most := range []int{1, 1_000_000} {
		rows := million(most)
		b.Run(fmt.Sprintf("1,000,000 rows of counts up to %d", most), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := growth.Of(today, growth.Default(), rows); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkGroup is a plain loop over the same rows, beside which Of is measured.
func BenchmarkGroup(b *testing.B) {
	rows := million(1)
	type key struct {
		player, technique string
		on                season.Date
	}
	b.ReportAllocs()
	for b.Loop() {
		sums := map[key]growth.Count{}
		for _, r := range rows {
			k := key{r.Player, r.Technique, r.Date}
			sums[k] = sums[k].Plus(growth.Count{Clean: r.Clean, Faulty: r.Faulty})
		}
	}
}
