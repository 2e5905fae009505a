package ladder_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/season"
)

var start = season.Must("2026-08-31")

func stages() []ladder.Gate {
	return []ladder.Gate{
		{Key: "fit", Window: 5, Clean: 4, MaxSessions: 1},
		{Key: "two_step", Window: 8, Clean: 6, Sessions: 2},
		{Key: "partner", Window: 4, Clean: 3, FromWeek: 3},
	}
}

// day puts reps at a stage on a season day; 'c' is clean, 'x' is not.
func day(n int, stage, marks string) []ladder.Rep {
	var reps []ladder.Rep
	for _, m := range marks {
		reps = append(reps, ladder.Rep{Date: start + season.Date(n), Stage: stage, Clean: m == 'c'})
	}
	return reps
}

func join(days ...[]ladder.Rep) []ladder.Rep {
	var all []ladder.Rep
	for _, d := range days {
		all = append(all, d...)
	}
	return all
}

func TestOfByHand(t *testing.T) {
	for _, c := range []struct {
		name      string
		returning bool
		week      int
		reps      []ladder.Rep
		current   string
		status    ladder.Status
	}{
		{"no reps", false, 1, nil, "fit", ladder.Working},
		{"four clean pass before the window is full", false, 1, day(0, "fit", "cccc"), "two_step", ladder.Working},
		{"three of five do not", false, 1, day(0, "fit", "cxcxc"), "fit", ladder.Working},
		{"the window moves on", false, 1, day(0, "fit", "xxcccc"), "two_step", ladder.Working},
		{"one session is not two", false, 2, join(day(0, "fit", "cccc"), day(1, "two_step", "cccccc")), "two_step", ladder.Working},
		{"two sessions are", false, 2, join(day(0, "fit", "cccc"), day(1, "two_step", "ccccc"), day(2, "two_step", "c")), "partner", ladder.Waiting},
		{"the week comes", false, 3, join(day(0, "fit", "cccc"), day(1, "two_step", "ccccc"), day(2, "two_step", "c")), "partner", ladder.Working},
		{"reps before the stage opened are exposure", false, 2, join(day(0, "two_step", "cccccccc"), day(1, "fit", "cccc")), "two_step", ladder.Working},
		{"reps before the stage's week do not count", false, 3,
			join(day(0, "fit", "cccc"), day(1, "two_step", "ccccc"), day(2, "two_step", "c"), day(3, "partner", "cccc")), "partner", ladder.Working},
		{"a returner needs half", true, 1, join(day(0, "fit", "cc"), day(0, "fit", "c")), "two_step", ladder.Working},
		{"and one session", true, 3, join(day(0, "fit", "ccc"), day(1, "two_step", "ccc")), "partner", ladder.Working},
		{"few clean: step back", false, 2, join(day(0, "fit", "cccc"), day(1, "two_step", "cccxxxxx")), "two_step", ladder.StepBack},
		{"half clean is not few", false, 2, join(day(0, "fit", "cccc"), day(1, "two_step", "ccccxxxx")), "two_step", ladder.Working},
		{"never back from stage one", false, 1, day(0, "fit", "xxxxxxx"), "fit", ladder.Working},
		{"last season is forgotten", false, 1, day(-3, "fit", "cccc"), "fit", ladder.Working},
		{"the future is not known", false, 1, day(30, "fit", "cccc"), "fit", ladder.Working},
		{"all passed", false, 3, join(day(0, "fit", "cccc"), day(1, "two_step", "ccccc"), day(2, "two_step", "c"), day(14, "partner", "ccc")), "", ""},
	} {
		got, err := ladder.Of(ladder.Input{AsOf: season.WeekStart(start, c.week) + 6, SeasonStart: start, Returning: c.returning, Stages: stages(), Reps: c.reps})
		require.NoError(t, err, c.name)
		assert.Equal(t, c.current, got.Current, c.name)
		assert.Equal(t, c.status, got.Status, c.name)
		assert.Equal(t, c.current == "", got.Done, c.name)
		assert.Equal(t, c.week, got.Week, c.name)
	}
}

func TestExposureAndOverexposure(t *testing.T) {
	got, err := ladder.Of(ladder.Input{AsOf: start + 6, SeasonStart: start, Stages: stages(),
		Reps: join(day(0, "fit", "xxx"), day(1, "fit", "cccx"), day(1, "partner", "cx"))})
	require.NoError(t, err)
	assert.Equal(t, []string{"fit"}, got.Overexposed)
	fit := got.Stages[0]
	assert.Equal(t, 7, fit.Reps)
	assert.Equal(t, 5, fit.RecentReps)
	assert.Equal(t, 3, fit.RecentClean)
	assert.Equal(t, 2, fit.Sessions)
	assert.False(t, fit.Passed)
	assert.True(t, fit.Open)
	assert.Equal(t, 2, got.Stages[2].Reps)
	assert.False(t, got.Stages[2].Open)
}

// brute restates the rule of the handbook's arithmetic the slow way: for every
// stage try every rep as the passing one and look at all reps before it.
func brute(in ladder.Input) []int {
	var reps []ladder.Rep
	for d := in.SeasonStart; d <= in.AsOf; d++ {
		for _, r := range in.Reps {
			if r.Date == d {
				reps = append(reps, r)
			}
		}
	}
	passed, after := []int{}, -1
	for _, s := range in.Stages {
		window, need, sessions := s.Window, s.Clean, max(s.Sessions, 1)
		if in.Returning {
			w := (window + 1) / 2
			need, window, sessions = (need*w+window-1)/window, w, 1
		}
		found := -1
		for at := after + 1; at < len(reps) && found < 0; at++ {
			if reps[at].Stage != s.Key {
				continue
			}
			n, ok, on := 0, 0, map[season.Date]bool{}
			for j := at; j > after && n < window; j-- {
				if reps[j].Stage == s.Key && 1+int(reps[j].Date-in.SeasonStart)/7 >= s.FromWeek {
					n++
					on[reps[j].Date] = true
					if reps[j].Clean {
						ok++
					}
				}
			}
			counts := 1+int(reps[at].Date-in.SeasonStart)/7 >= s.FromWeek
			if counts && ok >= need && len(on) >= sessions {
				found = at
			}
		}
		if found < 0 {
			break
		}
		passed, after = append(passed, int(reps[found].Date)), found
	}
	return passed
}

func TestAgainstBruteForce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := ladder.Input{SeasonStart: start, Returning: rapid.Bool().Draw(t, "returning")}
		in.AsOf = start + season.Date(rapid.IntRange(0, 27).Draw(t, "as of"))
		for i := range rapid.IntRange(1, 4).Draw(t, "stages") {
			w := rapid.IntRange(1, 5).Draw(t, "window")
			in.Stages = append(in.Stages, ladder.Gate{Key: fmt.Sprint(i), Window: w, Clean: rapid.IntRange(1, w).Draw(t, "clean"),
				Sessions: rapid.IntRange(0, 2).Draw(t, "sessions"), FromWeek: rapid.IntRange(0, 3).Draw(t, "week")})
		}
		for range rapid.IntRange(0, 40).Draw(t, "reps") {
			in.Reps = append(in.Reps, ladder.Rep{Date: start + season.Date(rapid.IntRange(-2, 30).Draw(t, "day")),
				Stage: fmt.Sprint(rapid.IntRange(0, len(in.Stages)-1).Draw(t, "stage")), Clean: rapid.Bool().Draw(t, "clean rep")})
		}
		got, err := ladder.Of(in)
		require.NoError(t, err)
		var passed []int
		for _, s := range got.Stages {
			if s.Passed {
				passed = append(passed, int(s.PassedOn))
			}
		}
		require.ElementsMatch(t, brute(in), passed)
		require.Equal(t, len(passed) == len(in.Stages), got.Done)
	})
}

func TestRefuses(t *testing.T) {
	for field, change := range map[string]func(*ladder.Input){
		"stages":             func(in *ladder.Input) { in.Stages = nil },
		"stages[1].key":      func(in *ladder.Input) { in.Stages[1].Key = "fit" },
		"stages[0].window":   func(in *ladder.Input) { in.Stages[0].Window = 0 },
		"stages[2].clean":    func(in *ladder.Input) { in.Stages[2].Clean = 5 },
		"stages[0].sessions": func(in *ladder.Input) { in.Stages[0].Sessions = -1 },
		"reps[0].stage":      func(in *ladder.Input) { in.Reps = day(0, "moon", "c") },
	} {
		in := ladder.Input{AsOf: start, SeasonStart: start, Stages: stages()}
		change(&in)
		_, err := ladder.Of(in)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

func ExampleOf() {
	standing, _ := ladder.Of(ladder.Input{
		AsOf: start + 2, SeasonStart: start,
		Stages: []ladder.Gate{{Key: "fit", Window: 5, Clean: 4}, {Key: "bag", Window: 8, Clean: 6}},
		Reps:   day(0, "fit", "cxccc"),
	})
	fmt.Println(standing.Current, standing.Status)
	// Output: bag working
}

func TestUnpassed(t *testing.T) {
	in := ladder.Input{SeasonStart: start, Stages: stages(), Reps: join(day(2, "fit", "cccc"), day(3, "two_step", "cc"))}
	for _, c := range []struct {
		name  string
		word  ladder.Override
		stage string // that stands in the way
		field string // that is refused
	}{
		{"the stage at hand", ladder.Override{Stage: "two_step", On: start + 5}, "", ""},
		{"on the day on which the one before was passed", ladder.Override{Stage: "two_step", On: start + 2}, "", ""},
		{"before the one before was passed", ladder.Override{Stage: "two_step", On: start + 1}, "fit", ""},
		{"a later stage", ladder.Override{Stage: "partner", On: start + 5}, "two_step", ""},
		{"two that are not passed", ladder.Override{Stage: "partner", On: start}, "fit", ""},
		{"the first stage, at once", ladder.Override{Stage: "fit", On: start}, "", ""},
		{"one that is passed already", ladder.Override{Stage: "fit", On: start + 5}, "", ""},
		{"no stage of it", ladder.Override{Stage: "moon", On: start + 5}, "", "stage"},
		{"before the season", ladder.Override{Stage: "fit", On: start - 1}, "", "on"},
	} {
		stage, err := ladder.Unpassed(in, c.word)
		assert.Equal(t, c.stage, stage, c.name)
		if c.field == "" {
			assert.NoError(t, err, c.name)
			continue
		}
		e, ok := invalid.As(err)
		require.True(t, ok, c.name)
		assert.Equal(t, c.field, e.Field, c.name)
	}
	in.Overrides = []ladder.Override{{Stage: "two_step", On: start + 4}}
	stage, err := ladder.Unpassed(in, ladder.Override{Stage: "partner", On: start + 4})
	require.NoError(t, err)
	assert.Empty(t, stage, "one word after the other")
	stage, err = ladder.Unpassed(in, ladder.Override{Stage: "partner", On: start + 3})
	require.NoError(t, err)
	assert.Equal(t, "two_step", stage)
}

// TestStagesArePassedInOrder: whatever words coaches gave, stages are passed one after the
// other and on days that do not go back.
func TestStagesArePassedInOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := ladder.Input{SeasonStart: start, AsOf: start + 40, Stages: stages()}
		keys := []string{"fit", "two_step", "partner"}
		anyDay := rapid.IntRange(-3, 45)
		for range rapid.IntRange(0, 40).Draw(t, "reps") {
			in.Reps = append(in.Reps, ladder.Rep{Date: start + season.Date(anyDay.Draw(t, "day")), Stage: rapid.SampledFrom(keys).Draw(t, "stage"), Clean: rapid.Bool().Draw(t, "clean")})
		}
		for range rapid.IntRange(0, 4).Draw(t, "words") {
			in.Overrides = append(in.Overrides, ladder.Override{Stage: rapid.SampledFrom(keys).Draw(t, "word"), On: start + season.Date(anyDay.Draw(t, "on"))})
		}
		got, err := ladder.Of(in)
		require.NoError(t, err)
		last, open := start, true
		for _, st := range got.Stages {
			if !st.Passed {
				open = false
				continue
			}
			require.True(t, open, "a stage is passed after one that is not")
			require.GreaterOrEqual(t, st.PassedOn, last)
			last = st.PassedOn
		}
	})
}

// season100k is a season of a hundred thousand reps over a hundred stages of a window.
func season100k(stages, window int) ladder.Input {
	in := ladder.Input{SeasonStart: start, AsOf: start + 400}
	for i := range stages {
		in.Stages = append(in.Stages, ladder.Gate{Key: fmt.Sprint(i), Window: window, Clean: window, Sessions: 2})
	}
	for i := range 100_000 {
		in.Reps = append(in.Reps, ladder.Rep{Date: start + season.Date(i/300), Stage: fmt.Sprint(i % stages), Clean: i%7 != 0})
	}
	return in
}

func BenchmarkOf(b *testing.B) {
	for name, in := range map[string]ladder.Input{"100 stages": season100k(100, 10), "window 1000": season100k(1, 1000)} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := ladder.Of(in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// headed is a season on a bag stage that asks for five clean of six and for six reps in a row with the head right.
func headed(reps ...ladder.Rep) ladder.Input {
	in := ladder.Input{SeasonStart: season.Must("2026-08-17"), AsOf: season.Must("2026-10-01"), Stages: []ladder.Gate{{Key: "bag", Window: 6, Clean: 5, Head: 6}, {Key: "look", Window: 1, Clean: 1}}}
	for i, r := range reps {
		r.Stage = "bag"
		if r.Date == 0 {
			r.Date = in.SeasonStart + season.Date(i)
		}
		in.Reps = append(in.Reps, r)
	}
	return in
}

// TestTheHeadIsLookedAtApart: however many are clean, nobody passes with a head fault among his last six.
func TestTheHeadIsLookedAtApart(t *testing.T) {
	clean, down := ladder.Rep{Clean: true}, ladder.Rep{Head: true}
	for name, c := range map[string]struct {
		reps   []ladder.Rep
		passed bool
		left   int
	}{
		"five clean reps are all there are":          {[]ladder.Rep{clean, clean, clean, clean, clean}, true, 0},
		"a head fault before them":                   {[]ladder.Rep{down, clean, clean, clean, clean, clean}, false, 1},
		"six since then":                             {[]ladder.Rep{down, clean, clean, clean, clean, clean, clean}, true, 0},
		"the newest is one":                          {[]ladder.Rep{clean, clean, clean, clean, down}, false, 6},
		"reps that are not clean count for the head": {[]ladder.Rep{down, {}, clean, clean, clean, clean, clean}, true, 0},
	} {
		for _, returning := range []bool{false, true} {
			in := headed(c.reps...)
			in.Returning = returning
			st, err := ladder.Of(in)
			require.NoError(t, err)
			if !returning {
				assert.Equal(t, c.passed, st.Stages[0].Passed, name)
				assert.Equal(t, c.left, st.Stages[0].HeadLeft, name)
				continue
			}
			for i := range c.reps { // a lighter gate is passed sooner, and never over a head fault
				if st.Stages[0].Passed && st.Stages[0].PassedOn == in.Reps[i].Date {
					for _, r := range in.Reps[max(0, i-5) : i+1] {
						assert.False(t, r.Head, name)
					}
				}
			}
		}
	}
}

// TestWhatStopsTheRepBlocksNobody: once its days are over the next stage is open, whatever its gate says.
func TestWhatStopsTheRepBlocksNobody(t *testing.T) {
	in := headed(ladder.Rep{}, ladder.Rep{})
	in.Stages[0] = ladder.Gate{Key: "bag", Window: 5, Clean: 4, MaxSessions: 1, Lapses: true}
	in.Reps[1].Date = in.Reps[0].Date // one day
	in.AsOf = in.Reps[0].Date
	st, err := ladder.Of(in)
	require.NoError(t, err)
	assert.Equal(t, "bag", st.Current, "its day is not over")
	in.AsOf++
	in.Reps = append(in.Reps, ladder.Rep{Date: in.AsOf, Stage: "look", Clean: true})
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.True(t, st.Stages[0].Lapsed)
	assert.Equal(t, in.Reps[0].Date, st.Stages[0].PassedOn)
	assert.True(t, st.Done, "the next stage counts from the day after")
	in.Stages[0].Lapses = false
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.Equal(t, "bag", st.Current)
}

// TestWhatMustBePassedFirst: nothing counts before it is.
func TestWhatMustBePassedFirst(t *testing.T) {
	in := headed(ladder.Rep{Clean: true}, ladder.Rep{Clean: true})
	in.Stages[0] = ladder.Gate{Key: "bag", Window: 2, Clean: 2, Closed: true}
	st, err := ladder.Of(in)
	require.NoError(t, err)
	assert.Equal(t, ladder.Closed, st.Status)
	assert.False(t, st.Stages[0].Open)
	assert.Equal(t, ladder.AdviseWait, ladder.AdviceFor(ladder.Player{Standing: st, Available: true}, 1))
	in.Stages[0].Closed, in.Stages[0].Opens = false, in.Reps[1].Date
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.Equal(t, "bag", st.Current, "the rep of the day before does not count")
	in.Stages[0].Opens = in.Reps[0].Date
	st, err = ladder.Of(in)
	require.NoError(t, err)
	assert.True(t, st.Stages[0].Passed)
}

// TestTheHeadNeverHelps: with head faults nobody passes sooner than without them.
func TestTheHeadNeverHelps(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var reps []ladder.Rep
		for range rapid.IntRange(0, 20).Draw(t, "reps") {
			reps = append(reps, ladder.Rep{Clean: rapid.Bool().Draw(t, "clean"), Head: rapid.IntRange(0, 5).Draw(t, "head") == 0})
		}
		with, err := ladder.Of(headed(reps...))
		require.NoError(t, err)
		for i := range reps {
			reps[i].Head = false
		}
		without, err := ladder.Of(headed(reps...))
		require.NoError(t, err)
		if with.Stages[0].Passed {
			require.True(t, without.Stages[0].Passed)
			require.LessOrEqual(t, without.Stages[0].PassedOn, with.Stages[0].PassedOn)
		}
	})
}
