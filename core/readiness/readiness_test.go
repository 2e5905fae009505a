package readiness_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/ladder"
	"nineyard/core/pace"
	"nineyard/core/readiness"
	"nineyard/core/season"
)

var (
	start = season.Must("2026-09-01") // a Tuesday
	today = season.Must("2026-10-13")
)

// days are practices to come: Tuesday, Wednesday, Thursday.
func days(n int) (list []season.Date) {
	for d := today; len(list) < n; d++ {
		if w := int(d.Weekday()); w >= 2 && w <= 4 {
			list = append(list, d)
		}
	}
	return list
}

var gates = []ladder.Gate{{Key: "fit", Window: 2, Clean: 2}, {Key: "partner", Window: 4, Clean: 3, Sessions: 2}, {Key: "group", Window: 20, Clean: 10, FromWeek: 8}, {Key: "game", Window: 4, Clean: 3}}

// player is one with these reps, a word "fit+" a clean one at the stage on its day.
func player(t require.TestingT, reps ...ladder.Rep) (ladder.Input, ladder.Standing) {
	in := ladder.Input{AsOf: today, SeasonStart: start, Stages: gates, Reps: reps}
	st, err := ladder.Of(in)
	require.NoError(t, err)
	return in, st
}

func rep(on, stage string, clean bool) ladder.Rep {
	return ladder.Rep{Date: season.Must(on), Stage: stage, Clean: clean}
}

func TestWayOf(t *testing.T) {
	in, st := player(t, rep("2026-09-08", "fit", true), rep("2026-09-08", "fit", true), rep("2026-09-09", "partner", true), rep("2026-09-10", "partner", false), rep("2026-09-10", "partner", true))
	w := readiness.WayOf(in, st, 2, .8, 5)
	assert.Equal(t, readiness.Way{Passed: 1, CleanRate: .8, PerPractice: 5,
		Left: []pace.Stage{{Key: "partner", Window: 4, Clean: 3, Sessions: 2},
			{Key: "group", Window: 12, Clean: 6, Sessions: 1, NotBefore: start + 49}}, // twenty reps are more than is counted
		SoFar: []pace.Made{{Date: season.Must("2026-09-09"), Clean: []bool{true}}, {Date: season.Must("2026-09-10"), Clean: []bool{false, true}}}}, w)
	assert.Empty(t, readiness.WayOf(in, st, 0, .8, 5).Left, "he has passed all that is asked")

	in.Returning = true
	st, err := ladder.Of(in)
	require.NoError(t, err)
	w = readiness.WayOf(in, st, 1, .8, 5)
	assert.Equal(t, []pace.Stage{{Key: "partner", Window: 2, Clean: 2, Sessions: 1}}, w.Left, "a returning player's gate is halved")
	assert.Equal(t, []pace.Made{{Date: season.Must("2026-09-10"), Clean: []bool{false, true}}}, w.SoFar)
}

func TestFormRateAndPace(t *testing.T) {
	in, _ := player(t, rep("2026-09-08", "fit", true), rep("2026-09-30", "fit", true), rep("2026-10-01", "partner", false), rep("2026-10-10", "game", true))
	own := readiness.FormOf(in, "game", season.Must("2026-10-01"))
	assert.Equal(t, readiness.Form{Clean: 1, Graded: 2, Made: 1}, own)
	group := own.Add(readiness.Form{Clean: 7, Graded: 8, Made: 9})
	assert.Equal(t, readiness.Form{Clean: 8, Graded: 10, Made: 10}, group)
	assert.InDelta(t, (1+4*.8)/6, readiness.Rate(own, group), 1e-12)
	assert.InDelta(t, .5, readiness.Rate(readiness.Form{}, readiness.Form{}), 1e-12, "nothing is known")
	assert.Equal(t, []int{0, 7, 8, 0, 40}, []int{readiness.PerPractice(5, 0), readiness.PerPractice(44, 6), readiness.PerPractice(45, 6), readiness.PerPractice(2, 6), readiness.PerPractice(900, 6)})
}

// track is somebody's who needs so many clean reps in a row, of so many a practice.
func track(t require.TestingT, clean int, rate float64, per, practices int) readiness.Track {
	w := readiness.Way{CleanRate: rate, PerPractice: per}
	if clean > 0 {
		w.Left = []pace.Stage{{Key: "a", Window: clean, Clean: clean, Sessions: 1}}
	} else {
		w.Passed = 1
	}
	tr, err := w.Track(days(practices))
	require.NoError(t, err)
	return tr
}

func TestTrack(t *testing.T) {
	tr := track(t, 1, .5, 1, 3)
	assert.Equal(t, []float64{0, .5, .75, .875, .875}, []float64{tr.At(0, 0), tr.At(0, 1), tr.At(0, 2), tr.At(0, 3), tr.At(0, 9)})
	assert.False(t, tr.Has(0))
	none := track(t, 1, .5, 1, 0)
	assert.Zero(t, none.At(0, 5), "no practice to come")
	passed := track(t, 0, .5, 1, 3)
	assert.True(t, passed.Has(0))
	assert.InDelta(t, 1, passed.At(0, 0), 0)
	still := track(t, 1, .5, 0, 3)
	assert.Zero(t, still.At(0, 3), "no reps, no pass")

	// What he did today counts already: today's practice is over for him.
	w := readiness.Way{Left: []pace.Stage{{Key: "a", Window: 2, Clean: 2, Sessions: 1}}, SoFar: []pace.Made{{Date: today, Clean: []bool{true}}}, CleanRate: .5, PerPractice: 1}
	tr, err := w.Track(days(2))
	require.NoError(t, err)
	assert.Equal(t, []float64{0, 0, .5}, []float64{tr.At(0, 0), tr.At(0, 1), tr.At(0, 2)})

	_, err = readiness.Way{Left: []pace.Stage{{Key: "a"}}, PerPractice: 1}.Track(days(2))
	assert.Error(t, err, "a gate that cannot be")
}

func TestEnough(t *testing.T) {
	w := readiness.Way{Left: []pace.Stage{{Key: "a", Window: 1, Clean: 1, Sessions: 1}}, CleanRate: .5}
	reps, ok, err := w.Enough(days(2))
	require.NoError(t, err)
	assert.True(t, ok)
	assert.Equal(t, 2, reps, "four reps: 1 − ½⁴ is over nine in ten, two reps are not")
	w.CleanRate = .01
	_, ok, err = w.Enough(days(1))
	require.NoError(t, err)
	assert.False(t, ok)
	w.Left = nil
	reps, ok, err = w.Enough(nil)
	require.NoError(t, err)
	assert.True(t, ok)
	assert.Zero(t, reps)
}

func TestCall(t *testing.T) {
	on := func(share int, tr readiness.Track) readiness.Runner { return readiness.Runner{Share: share, Track: tr} }
	has, soon, slow := track(t, 0, .5, 1, 6), track(t, 1, .5, 1, 6), track(t, 3, .5, 1, 6)
	thursday := days(3)[2]
	need := func(spots ...[]readiness.Runner) []readiness.Need { return []readiness.Need{{Spots: spots}} }
	for name, c := range map[string]struct {
		install *season.Date
		needs   []readiness.Need
		verdict readiness.Verdict
		by      float64
		later   int // number of the practice after which it is likely; 0 for none
	}{
		"nothing is needed":   {&thursday, nil, readiness.NoNeeds, 0, 0},
		"nobody is named":     {&thursday, need(), readiness.NoLineUp, 0, 0},
		"all have it":         {&thursday, need([]readiness.Runner{on(100, has)}), readiness.Ready, 1, 0},
		"no day":              {nil, need([]readiness.Runner{on(100, soon)}), readiness.NoDay, 0, 4},
		"two practices":       {&thursday, need([]readiness.Runner{on(100, soon)}), readiness.InDoubt, .75, 4},
		"the weakest spot":    {&thursday, need([]readiness.Runner{on(100, has)}, []readiness.Runner{on(50, soon), on(50, slow)}), readiness.WillNot, .375, 0},
		"who plays more":      {&thursday, need([]readiness.Runner{on(80, has), on(20, soon)}), readiness.WillBe, .95, 0},
		"of several one need": {&thursday, append(need([]readiness.Runner{on(100, has)}), need([]readiness.Runner{on(100, slow)})...), readiness.WillNot, 0, 0},
	} {
		a := readiness.Of(days(6), c.install, c.needs)
		assert.Equal(t, c.verdict, a.Verdict, name)
		assert.InDelta(t, c.by, a.By, 1e-9, name)
		if c.later == 0 {
			assert.Nil(t, a.Later, name)
		} else {
			assert.Equal(t, days(6)[c.later-1], *a.Later, name)
		}
	}
	assert.Equal(t, 2, readiness.Of(days(6), &thursday, need([]readiness.Runner{on(100, has)})).Practices, "that of the install itself does not count")
}

func ExampleLine_Say() {
	l := readiness.Line{Players: 5, Reps: 38, PerPractice: 7, Practices: 6}
	fmt.Println(l.Say("Reach", "In the group", 4, "the install"))
	fmt.Println(readiness.Line{Players: 5, Passed: 5}.Say("Reach", "In the group", 4, "the install"))
	fmt.Println(readiness.Line{Players: 1, Reps: 1}.Say("Reach", "In the group", 0, "the install"))
	fmt.Println(l.Say("Reach", "In the group", 9, ""))
	// Output:
	// Reach: 38 reps a player to “In the group”; at 7 a practice that is 6 practices, the install is in 4
	// Reach: all 5 have passed “In the group”
	// Reach: 1 rep a player to “In the group”; nobody has worked on it lately, the install is before the next
	// Reach: 38 reps a player to “In the group”; at 7 a practice that is 6 practices; 9 practices left
}

func TestTowards(t *testing.T) {
	way := func(clean int, rate float64, per int) readiness.Way {
		return readiness.Way{CleanRate: rate, PerPractice: per, Left: []pace.Stage{{Key: "a", Window: clean, Clean: clean, Sessions: 1}}}
	}
	towards := func(f readiness.Form, ways ...readiness.Way) readiness.Line {
		l, err := readiness.Towards(0, ways, f)
		require.NoError(t, err)
		return l
	}
	known := readiness.Form{Graded: 1}
	l := towards(known, way(1, .5, 7), way(2, .5, 8), readiness.Way{Passed: 1, PerPractice: 90})
	assert.Equal(t, readiness.Line{Players: 3, Passed: 1, Reps: 4, PerPractice: 7.5, Practices: 1}, l, "two and six reps are four a player; at seven and a half one practice")
	assert.Contains(t, l.Say("Reach", "it", 1, "the install"), "to “it”, for 2 of 3; at 7.5 a practice that is 1 practice, the install is in 1")
	assert.False(t, l.Short(1))
	assert.True(t, l.Short(0))
	assert.Contains(t, towards(known, way(1, 0, 7)).Say("Reach", "it", 1, "the install"), "more than 400 reps a player")
	assert.Contains(t, readiness.Line{}.Say("Reach", "it", 1, "the install"), "nobody is named")
	new := towards(readiness.Form{}, way(1, .5, 0))
	assert.Equal(t, "Reach: nobody has made a rep lately, and nothing can be told, the install is in 4", new.Say("Reach", "it", 4, "the install"))
	assert.True(t, new.Short(4))
	_, err := readiness.Towards(0, []readiness.Way{{Left: []pace.Stage{{Key: "a"}}}}, known)
	assert.Error(t, err, "a gate that cannot be")
	n, err := readiness.Way{Passed: 1, CleanRate: .5, Left: []pace.Stage{{Key: "a", Window: 1, Clean: 1, Sessions: 1}, {Key: "b", Window: 2, Clean: 2, Sessions: 1}}}.Needed(2)
	require.NoError(t, err)
	assert.InDelta(t, 8, n, 1e-6)
}

func TestStageAfter(t *testing.T) {
	way := func(passed int) readiness.Track {
		w := readiness.Way{Passed: passed, CleanRate: 1, PerPractice: 2}
		for _, g := range gates[passed:3] {
			w.Left = append(w.Left, pace.Stage{Key: g.Key, Window: 2, Clean: 2, Sessions: 1})
		}
		tr, err := w.Track(days(3))
		require.NoError(t, err)
		return tr
	}
	group := []readiness.Track{way(0), way(0), way(1), way(2)}
	assert.Equal(t, []int{1, 2, 2, 2}, []int{readiness.StageAfter(3, group, 0), readiness.StageAfter(3, group, 1), readiness.StageAfter(3, group, 2), readiness.StageAfter(3, group, 3)})
	assert.Zero(t, readiness.StageAfter(3, nil, 0))
}

// TestMoreIsNeverWorse: neither another practice nor another rep a practice makes a player less
// likely to have passed; Enough is the fewest that do.
func TestMoreIsNeverWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := readiness.Way{CleanRate: rapid.Float64Range(.3, 1).Draw(t, "rate"), PerPractice: rapid.IntRange(0, 5).Draw(t, "per")}
		for i := range rapid.IntRange(1, 2).Draw(t, "stages") {
			s := pace.Stage{Key: fmt.Sprint(i), Window: rapid.IntRange(1, 4).Draw(t, "window")}
			s.Clean = rapid.IntRange(1, s.Window).Draw(t, "clean")
			s.Sessions = rapid.IntRange(1, min(2, s.Window)).Draw(t, "sessions")
			w.Left = append(w.Left, s)
		}
		list := days(rapid.IntRange(1, 4).Draw(t, "practices"))
		last := len(w.Left) - 1
		tr, err := w.Track(list)
		require.NoError(t, err)
		for k := 1; k <= len(list); k++ {
			require.GreaterOrEqual(t, tr.At(last, k)+1e-12, tr.At(last, k-1))
			require.GreaterOrEqual(t, tr.At(0, k)+1e-12, tr.At(last, k))
		}
		more := w
		more.PerPractice++
		next, err := more.Track(list)
		require.NoError(t, err)
		require.GreaterOrEqual(t, next.At(last, len(list))+1e-12, tr.At(last, len(list)))
		enough, ok, err := w.Enough(list)
		require.NoError(t, err)
		for _, per := range []int{enough - 1, enough} {
			if per < 1 || per > pace.MaxReps || !ok {
				continue
			}
			at := w
			at.PerPractice = per
			tr, err := at.Track(list)
			require.NoError(t, err)
			require.Equal(t, per == enough, tr.At(last, len(list)) >= readiness.Likely-1e-9, "%d reps a practice", per)
		}
	})
}
