package season_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/season"
)

func TestWeek(t *testing.T) {
	start := season.Must("2026-08-31")
	for _, c := range []struct {
		date string
		week int
	}{
		{"2026-08-31", 1}, {"2026-09-06", 1}, {"2026-09-07", 2}, {"2026-10-13", 7},
		{"2026-08-30", 0}, {"2026-08-24", 0}, {"2026-08-23", -1},
	} {
		assert.Equal(t, c.week, season.Week(start, season.Must(c.date)), c.date)
	}
	assert.Equal(t, season.Must("2026-10-12"), season.WeekStart(start, 7))
	assert.Equal(t, time.Tuesday, season.Must("2026-10-13").Weekday())
}

func TestWeekIsFloorOfDays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		start := season.Date(rapid.IntRange(-9000, 40000).Draw(t, "start"))
		days := rapid.IntRange(-400, 400).Draw(t, "days")
		want := 1 + int(math.Floor(float64(days)/7))
		if got := season.Week(start, start+season.Date(days)); got != want {
			t.Fatalf("week of day %d = %d, want %d", days, got, want)
		}
	})
}

func TestDateRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := season.Date(rapid.IntRange(-25000, 80000).Draw(t, "day"))
		back, err := season.Parse(d.String())
		if err != nil || back != d {
			t.Fatalf("%v → %v, %v", d, back, err)
		}
	})
}

func TestParseRefuses(t *testing.T) {
	for _, s := range []string{"", "2026-2-3", "2026-02-30", "02/03/2026", "0026-01-01", "2026-01-01T00:00:00Z"} {
		_, err := season.Parse(s)
		require.Error(t, err, s)
	}
}

func TestWithinASeason(t *testing.T) {
	start := season.Must("2026-08-31")
	require.Equal(t, "2026-11-01", season.End(start, 9).String())
	for day, in := range map[string]bool{"2026-08-30": false, "2026-08-31": true, "2026-11-01": true, "2026-11-02": false} {
		require.Equal(t, in, season.Within(start, 9, season.Must(day)), day)
	}
}
