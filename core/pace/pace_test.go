package pace_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/pace"
	"nineyard/core/season"
)

var day = season.Must("2026-10-13")

func sessions(reps ...int) (list []pace.Session) {
	for i, n := range reps {
		list = append(list, pace.Session{Date: day + season.Date(2*i), Reps: n})
	}
	return list
}

// TestByHand: 2 clean of the last 2, two reps a session, each clean with probability p. After
// one session p²; the second rep of a session and the first of the next count together too.
func TestByHand(t *testing.T) {
	const p = 0.5
	f, err := pace.Of(pace.Input{Stages: []pace.Stage{{Key: "fit", Window: 2, Clean: 2, Sessions: 1}}, CleanRate: p, Sessions: sessions(2, 2, 0)})
	require.NoError(t, err)
	// Of 16 outcomes of four reps those with two clean in a row: 8.
	assert.Equal(t, [][]float64{{0.25, 0.5, 0.5}}, f.Passed)
	assert.Equal(t, day+2, *f.Median)
	assert.Nil(t, f.Likely)

	// Two dates are asked for: in the first session nobody passes.
	f, err = pace.Of(pace.Input{Stages: []pace.Stage{{Key: "fit", Window: 2, Clean: 1, Sessions: 2}}, CleanRate: 1, Sessions: sessions(3, 1)})
	require.NoError(t, err)
	assert.Equal(t, []float64{0, 1}, f.Done())

	// The next stage counts from the session after; before its day nothing counts.
	f, err = pace.Of(pace.Input{Stages: []pace.Stage{{Key: "fit", Window: 1, Clean: 1, Sessions: 1}, {Key: "steps", Window: 1, Clean: 1, Sessions: 1, NotBefore: day + 4}}, CleanRate: 1, Sessions: sessions(5, 5, 5)})
	require.NoError(t, err)
	assert.Equal(t, [][]float64{{1, 1, 1}, {0, 0, 1}}, f.Passed)

	// What is made counts: one clean rep before, one more now.
	f, err = pace.Of(pace.Input{Stages: []pace.Stage{{Key: "fit", Window: 3, Clean: 2, Sessions: 1}}, SoFar: []pace.Made{{Date: day - 1, Clean: []bool{true, false}}}, CleanRate: 0.25, Sessions: sessions(1)})
	require.NoError(t, err)
	assert.Equal(t, []float64{0.25}, f.Done())
}

func TestRefusals(t *testing.T) {
	good := func() pace.Input {
		return pace.Input{Stages: []pace.Stage{{Key: "a", Window: 3, Clean: 2, Sessions: 1}}, SoFar: []pace.Made{{Date: day - 1, Clean: []bool{true, false}}}, CleanRate: 0.5, Sessions: sessions(1, 1)}
	}
	for field, do := range map[string]func(in *pace.Input){
		"stages":             func(in *pace.Input) { in.Stages = nil },
		"stages[1].key":      func(in *pace.Input) { in.Stages = append(in.Stages, in.Stages[0]) },
		"stages[0].window":   func(in *pace.Input) { in.Stages[0].Window = 13 },
		"stages[0].clean":    func(in *pace.Input) { in.Stages[0].Clean = 4 },
		"stages[0].sessions": func(in *pace.Input) { in.Stages[0].Sessions = 0 },
		"clean_rate":         func(in *pace.Input) { in.CleanRate = 1.01 },
		"so_far":             func(in *pace.Input) { in.SoFar[0].Clean[1] = true },
		"so_far[1].date":     func(in *pace.Input) { in.SoFar = append(in.SoFar, in.SoFar[0]) },
		"sessions":           func(in *pace.Input) { in.Sessions = nil },
		"sessions[0].date":   func(in *pace.Input) { in.Sessions[0].Date = day - 1 },
		"sessions[1].reps":   func(in *pace.Input) { in.Sessions[1].Reps = 41 },
	} {
		in := good()
		do(&in)
		_, err := pace.Of(in)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}

// climb plays the season with the reps given and returns the session in which each stage is
// passed, written as the rule says it.
func climb(in pace.Input, clean []bool) []int {
	type rep struct {
		date  season.Date
		clean bool
	}
	passed := make([]int, len(in.Stages))
	for i := range passed {
		passed[i] = len(in.Sessions)
	}
	stage := 0
	var reps []rep
	for _, m := range in.SoFar {
		for _, c := range m.Clean {
			reps = append(reps, rep{m.Date, c})
		}
	}
	for t, s := range in.Sessions {
		at := stage
		for range s.Reps {
			c := clean[0]
			clean = clean[1:]
			if stage > at || at == len(in.Stages) || s.Date < in.Stages[at].NotBefore {
				continue
			}
			reps = append(reps, rep{s.Date, c})
			last := reps[max(0, len(reps)-in.Stages[at].Window):]
			n, dates := 0, map[season.Date]bool{}
			for _, r := range last {
				dates[r.date] = true
				if r.clean {
					n++
				}
			}
			if n >= in.Stages[at].Clean && len(dates) >= in.Stages[at].Sessions {
				passed[at], stage, reps = t, at+1, nil
			}
		}
	}
	return passed
}

// TestAgainstEveryOutcome plays all of them.
func TestAgainstEveryOutcome(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := pace.Input{CleanRate: float64(rapid.IntRange(0, 4).Draw(t, "rate")) / 4}
		for i := range rapid.IntRange(1, 3).Draw(t, "stages") {
			s := pace.Stage{Key: fmt.Sprint(i), Window: rapid.IntRange(1, 4).Draw(t, "window")}
			s.Clean, s.Sessions = rapid.IntRange(1, s.Window).Draw(t, "clean"), rapid.IntRange(1, s.Window).Draw(t, "dates")
			if rapid.Bool().Draw(t, "waits") {
				s.NotBefore = day + season.Date(rapid.IntRange(0, 8).Draw(t, "from"))
			}
			in.Stages = append(in.Stages, s)
		}
		total := 0
		for i := range rapid.IntRange(1, 5).Draw(t, "sessions") {
			n := min(rapid.IntRange(0, 4).Draw(t, "reps"), 11-total)
			total += n
			in.Sessions = append(in.Sessions, pace.Session{Date: day + season.Date(2*i), Reps: n})
		}
		for i := range rapid.IntRange(0, 2).Draw(t, "made") {
			in.SoFar = append(in.SoFar, pace.Made{Date: day - season.Date(5-i), Clean: rapid.SliceOfN(rapid.Bool(), 0, 4).Draw(t, "reps made")})
		}
		f, err := pace.Of(in)
		if err != nil {
			e, _ := invalid.As(err)
			require.Equal(t, "so_far", e.Field)
			return
		}
		want := make([][]float64, len(in.Stages))
		for i := range want {
			want[i] = make([]float64, len(in.Sessions))
		}
		for outcome := range 1 << total {
			p := 1.0
			clean := make([]bool, total)
			for i := range clean {
				if clean[i] = outcome>>i&1 == 1; clean[i] {
					p *= in.CleanRate
				} else {
					p *= 1 - in.CleanRate
				}
			}
			for i, at := range climb(in, clean) {
				for ; at < len(in.Sessions); at++ {
					want[i][at] += p
				}
			}
		}
		for i := range want {
			for j := range want[i] {
				require.InDelta(t, want[i][j], f.Passed[i][j], 1e-9, "stage %d, session %d", i, j)
			}
		}
	})
}

func BenchmarkOf(b *testing.B) {
	for _, c := range []struct{ stages, window, sessions, reps int }{{3, 10, 12, 8}, {20, 12, 40, 40}} {
		b.Run(fmt.Sprint(c), func(b *testing.B) {
			in := pace.Input{CleanRate: 0.7}
			for i := range c.stages {
				in.Stages = append(in.Stages, pace.Stage{Key: fmt.Sprint(i), Window: c.window, Clean: c.window - 1, Sessions: 2})
			}
			for i := range c.sessions {
				in.Sessions = append(in.Sessions, pace.Session{Date: day + season.Date(i), Reps: c.reps})
			}
			for b.Loop() {
				if _, err := pace.Of(in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestNeeded against what can be said by hand, and against how long it takes with one rep a
// session.
func TestNeeded(t *testing.T) {
	one := pace.Stage{Key: "a", Window: 1, Clean: 1, Sessions: 1}
	for _, c := range []struct {
		stage  pace.Stage
		soFar  []pace.Made
		rate   float64
		needed float64
	}{
		{one, nil, 0.5, 2},            // the first clean one: 1/p
		{one, nil, 0, pace.MaxNeeded}, // never
		{pace.Stage{Key: "a", Window: 2, Clean: 2, Sessions: 1}, nil, .5, 6}, // two in a row: 1/p + 1/p²
		{pace.Stage{Key: "a", Window: 2, Clean: 2, Sessions: 1}, []pace.Made{{Date: 1, Clean: []bool{true}}}, .5, 4},
		{pace.Stage{Key: "a", Window: 3, Clean: 1, Sessions: 3}, nil, 1, 3}, // three dates at least
		{pace.Stage{Key: "a", Window: 3, Clean: 1, Sessions: 1, NotBefore: 9e8}, nil, 1, 1},
		// The tenth and the eleventh rep leave the same part behind, and the twelfth does not. Two of the last
		// four, from the bits as they go: with q = 1-p the first clean one takes 1/p, each chance after it is p
		// in the next three reps, and after three that are not it begins anew from no clean one.
		{pace.Stage{Key: "a", Window: 4, Clean: 2, Sessions: 1}, nil, .625, (1/.625 + 1 + .375 + .375*.375) / (1 - .375*.375*.375)},
	} {
		got, err := pace.Needed(c.stage, c.soFar, c.rate)
		require.NoError(t, err)
		assert.InDelta(t, c.needed, got, 1e-6, "%+v", c)
	}
	_, err := pace.Needed(one, nil, 2)
	e, _ := invalid.As(err)
	assert.Equal(t, "clean_rate", e.Field)
	_, err = pace.Needed(one, []pace.Made{{Date: 1, Clean: []bool{true}}}, .5)
	e, _ = invalid.As(err)
	assert.Equal(t, "so_far", e.Field)

	rapid.Check(t, func(t *rapid.T) {
		s := pace.Stage{Key: "a", Window: rapid.IntRange(1, 4).Draw(t, "window")}
		s.Clean = rapid.IntRange(1, s.Window).Draw(t, "clean")
		s.Sessions = rapid.IntRange(1, s.Window).Draw(t, "sessions")
		rate := rapid.Float64Range(0.6, 1).Draw(t, "rate")
		needed, err := pace.Needed(s, nil, rate)
		require.NoError(t, err)
		in := pace.Input{Stages: []pace.Stage{s}, CleanRate: rate}
		for d := range pace.MaxSessions {
			in.Sessions = append(in.Sessions, pace.Session{Date: season.Date(d + 1), Reps: 1})
		}
		f, err := pace.Of(in)
		require.NoError(t, err)
		mean, before := 0.0, 0.0
		for i, p := range f.Done() {
			mean += float64(i+1) * (p - before)
			before = p
		}
		if before > 1-1e-7 {
			require.InDelta(t, mean, needed, 1e-4)
		}
	})
}
