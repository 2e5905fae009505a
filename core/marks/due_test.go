package marks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
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

// TestCasesAreEveryMarkThereCanBe: each is judged as by itself, and a verdict is what its word
// says.
func TestCasesAreEveryMarkThereCanBe(t *testing.T) {
	cases := marks.Shipped().Cases()
	require.Len(t, cases, 6*27*9)
	seen := map[string]int{}
	for _, c := range cases {
		want := marks.Shipped().See(c.State, c.Seen)
		require.Equal(t, want, c.Verdict)
		word := want.Word()
		seen[word]++
		want.Score = 0
		require.Equal(t, want, marks.VerdictOf(word))
		require.Equal(t, c.State == marks.Withdrawn, word == "withdrawn")
	}
	// Of 27 marks that were looked at, 3 judge neither assignment nor technique and 9 are clean.
	// Each with three results, which do not count here, and three grades, which count where no facet was judged.
	assert.Equal(t, map[string]int{"clean": 9*18 + 2*3, "faulty": 9*30 + 2*3, "empty": 9*6 - 4*3, "unseen": 9 * 27, "unsettled": 9 * 27, "not_gradable": 9 * 27, "withdrawn": 9 * 27}, seen)
}

func TestASchemeOfAHouse(t *testing.T) {
	require.NoError(t, marks.House{Scheme: marks.Shipped()}.CheckHouse())
	for field, s := range map[string]marks.Scheme{
		"scheme.kind":             {Kind: "stars"},
		"scheme.max":              {Kind: marks.Points, Max: 4.5, CleanAt: 3},
		"scheme.facets":           {Kind: marks.Facets},
		"scheme.facets[0].key":    {Kind: marks.Facets, Facets: []marks.Facet{{Key: "effort", Weight: 1, Clean: true}}},
		"scheme.facets[0].weight": {Kind: marks.Facets, Facets: []marks.Facet{{Key: "finish", Weight: 11, Clean: true}}},
	} {
		e, ok := invalid.As(marks.House{Scheme: s}.CheckHouse())
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
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
