package marks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/marks"
	"nineyard/core/season"
)

func TestWhatIsStillToGrade(t *testing.T) {
	today := season.Must("2026-10-13")
	for _, c := range []struct {
		name         string
		on           season.Date
		marked, reps int
		due          bool
	}{
		{"yesterday, nothing marked", today - 1, 0, 20, true},
		{"yesterday, less than half", today - 1, 9, 20, true},
		{"half is enough", today - 1, 10, 20, false},
		{"tonight, not begun", today, 0, 20, false},
		{"tonight, begun", today, 1, 20, true},
		{"tomorrow", today + 1, 1, 20, false},
		{"a drill nobody could run", today - 1, 0, 0, false},
	} {
		assert.Equal(t, c.due, marks.DrillDue(c.on, today, c.marked, c.reps), c.name)
	}
	assert.True(t, marks.GameDue(today-3, today, 69, 70))
	assert.False(t, marks.GameDue(today-3, today, 70, 70))
	assert.False(t, marks.GameDue(today+4, today, 0, 70), "not played yet")
	assert.True(t, marks.Due(today-10, today))
	assert.False(t, marks.Due(today-11, today))
	assert.False(t, marks.Due(today+1, today))
}

// TestTheJudgeIsTheScheme: the shared table says what the scheme says of each mark.
func TestTheJudgeIsTheScheme(t *testing.T) {
	j := marks.NewJudge()
	zero, one := 0, 1
	bits := []*int{nil, &zero, &one}
	rapid.Check(t, func(t *rapid.T) {
		state := rapid.SampledFrom([]marks.State{marks.Assumed, marks.Looked, marks.StateUnseen, marks.StateOpen, marks.StateNone}).Draw(t, "state")
		seen := marks.Seen{Assignment: rapid.SampledFrom(bits).Draw(t, "a"), Technique: rapid.SampledFrom(bits).Draw(t, "t"), Finish: rapid.SampledFrom(bits).Draw(t, "f")}
		want := marks.Shipped().Judge(state.Mark(seen))
		got := j.Of(state, seen.Assignment, seen.Technique)
		require.Equal(t, want.Clean, got.Clean)
		if state.Graded() && seen.Finish != nil && seen.Assignment == nil && seen.Technique == nil {
			require.False(t, got.Graded)
			return
		}
		require.Equal(t, want.Graded, got.Graded)
		require.Equal(t, want.Reason, got.Reason)
	})
	assert.False(t, j.Of(marks.Withdrawn, &one, &one).Graded)
}

func TestSafetyThenOftenTimesBad(t *testing.T) {
	safety := marks.Weighed{N: 1, Severity: 1, Safety: true}
	often := marks.Weighed{N: 5, Severity: 1}
	bad := marks.Weighed{N: 2, Severity: 3}
	assert.True(t, safety.Before(bad))
	assert.False(t, bad.Before(safety))
	assert.True(t, bad.Before(often), "severity counts: 6 before 5")
	assert.False(t, often.Before(bad))
	assert.False(t, often.Before(often))
}
