package conditions_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/conditions"
	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/core/season"
)

func ExampleFirstDays_Returning() {
	f, _ := conditions.Shipped()
	d := season.Must
	practices := []season.Date{d("2026-09-01"), d("2026-09-22"), d("2026-09-24"), d("2026-09-29")}
	r, back := f.Returning(practices, []conditions.Absence{{From: d("2026-09-02"), To: d("2026-09-20")}}, d("2026-09-24"))
	step, _ := f.On(r.Day)
	fmt.Println(back, r.Away, "days away, day", r.Day, "nothing above", step.Contact)
	// Output: true 19 days away, day 2 nothing above air
}

func script() schedule.Script {
	return schedule.Script{Minutes: 130, Groups: []string{"ol", "dl"}, Names: map[string]string{"a": "Individual", "b": "Inside run"}, Periods: []schedule.Period{
		{Key: "a", Start: 0, Minutes: 20, Kind: "individual", Groups: []string{"ol"}, Contact: practice.Bag},
		{Key: "b", Start: 20, Minutes: 10, Kind: "group", Groups: []string{"ol", "dl"}, Contact: practice.Thud}}}
}

func TestLook(t *testing.T) {
	f, bands := conditions.Shipped()
	messages := func(day int, index float64) (list []string) {
		var step *conditions.Step
		var heat *conditions.Band
		if s, ok := f.On(day); ok {
			step = &s
		}
		if b, ok := conditions.BandAt(bands, index); ok {
			heat = &b
		}
		for _, x := range conditions.Look(script(), day, step, index, heat) {
			list = append(list, x.Message)
		}
		return list
	}
	assert.Empty(t, messages(6, 20))
	assert.Empty(t, messages(0, 27), "an unknown day is no first day, and the first band is about water")
	assert.Equal(t, []string{
		"On day 1 of practice (helmets) nothing is above air: Individual is bag, Inside run is thud; check your league's rule",
		"On day 1 of practice (helmets) a practice has 120 minutes at most: this one has 130; check your league's rule"}, messages(1, 0))
	assert.Equal(t, []string{
		"At a heat index of 29.5 nothing is above control: Inside run is thud; check your league's rule",
		"At a heat index of 29.5 a practice has 120 minutes at most: this one has 130; check your league's rule"}, messages(9, 29.5))
	assert.Equal(t, []string{"At a heat index of 33 there is no practice; check your league's rule"}, messages(9, 33))

	heat := &bands[1]
	assert.Equal(t, 15, *conditions.Limit(schedule.Limits{WaterEvery: new(30)}, heat).WaterEvery)
	assert.Equal(t, 10, *conditions.Limit(schedule.Limits{WaterEvery: new(10)}, heat).WaterEvery)
	assert.Equal(t, 15, *conditions.Limit(schedule.Limits{}, heat).WaterEvery)
	assert.Nil(t, conditions.Limit(schedule.Limits{}, nil).WaterEvery)
}

func TestSettingsThatCannotBe(t *testing.T) {
	field := func(err error) string {
		e, ok := invalid.As(err)
		require.True(t, ok)
		return e.Field
	}
	f, bands := conditions.Shipped()
	require.NoError(t, conditions.CheckFirstDays(f))
	require.NoError(t, conditions.CheckBands(bands))
	require.NoError(t, conditions.CheckFirstDays(conditions.FirstDays{}))
	for want, f := range map[string]conditions.FirstDays{
		"steps[1].through": {Steps: []conditions.Step{{Through: 3}, {Through: 3}}},
		"steps[0].through": {Steps: []conditions.Step{{Through: 61}}},
		"steps[0].minutes": {Steps: []conditions.Step{{Through: 1, Minutes: 301}}},
		"absence_days":     {AbsenceDays: -1},
		"steps":            {Steps: make([]conditions.Step, 11)},
	} {
		assert.Equal(t, want, field(conditions.CheckFirstDays(f)))
	}
	for want, b := range map[string][]conditions.Band{
		"heat_bands[1].from":        {{From: 30}, {From: 30}},
		"heat_bands[0].from":        {{From: 201}},
		"heat_bands[0].water_every": {{From: 1, WaterEvery: -1}},
		"heat_bands[0].minutes":     {{From: 1, Minutes: 301}},
		"heat_bands":                make([]conditions.Band, 11),
	} {
		assert.Equal(t, want, field(conditions.CheckBands(b)))
	}
}

// TestOneFindingForAll: however many periods have too much contact, it is said once and names them all
// to who mends it.
func TestOneFindingForAll(t *testing.T) {
	s := script()
	for i := range 5 {
		s.Periods = append(s.Periods, schedule.Period{Key: fmt.Sprint("p", i), Start: 40 + i, Minutes: 1, Kind: "team", Groups: []string{"dl"}, Contact: practice.Live})
	}
	list := conditions.Look(s, 0, nil, 31, &conditions.Band{From: 30, Contact: practice.Bag})
	require.Len(t, list, 1)
	assert.Equal(t, []string{"b", "p0", "p1", "p2", "p3", "p4"}, list[0].Periods)
	assert.Equal(t, []string{"ol", "dl"}, list[0].Groups)
	assert.Equal(t, schedule.Span{Start: 20, End: 45}, list[0].Span)
	assert.Equal(t, "At a heat index of 31 nothing is above bag: Inside run is thud, p0 is live, p1 is live, and 3 more; check your league's rule", list[0].Message)
}

// TestReturningAgainstADiary: walking the days one by one says the same.
func TestReturningAgainstADiary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		const days = 60
		f := conditions.FirstDays{AbsenceDays: rapid.IntRange(0, 12).Draw(t, "absence"), Steps: []conditions.Step{{Through: 2}, {Through: 4, Contact: practice.Bag}}}
		var absences []conditions.Absence
		gone := [days + 1]bool{}
		for range rapid.IntRange(0, 4).Draw(t, "absences") {
			from := rapid.IntRange(1, days).Draw(t, "from")
			to := rapid.IntRange(0, days).Draw(t, "to")
			if to != 0 && to < from {
				continue
			}
			absences = append(absences, conditions.Absence{From: season.Date(from), To: season.Date(to)})
			for d := from; d <= days && (to == 0 || d <= to); d++ {
				gone[d] = true
			}
		}
		var practices []season.Date
		for d := 1; d <= days; d++ {
			if rapid.Bool().Draw(t, "practice") {
				practices = append(practices, season.Date(d))
			}
		}
		on := rapid.IntRange(1, days).Draw(t, "on")
		got, back := f.Returning(practices, absences, season.Date(on))

		// The diary: days away in a row, and days of practice since the last long row of them.
		row, since, day, long := 0, 0, 0, false
		for d := 1; d <= on; d++ {
			if gone[d] {
				row++
				continue
			}
			if row > 0 && row >= f.AbsenceDays {
				since, day, long = row, 0, true
			}
			row = 0
			if slices.Contains(practices, season.Date(d)) {
				day++
			}
		}
		want := f.AbsenceDays > 0 && long && !gone[on] && day >= 1 && day <= 4
		require.Equal(t, want, back)
		if back {
			require.Equal(t, []int{since, day}, []int{got.Away, got.Day})
		}
	})
}

func TestDayOf(t *testing.T) {
	list := []season.Date{10, 10, 12, 14}
	assert.Equal(t, []int{1, 2, 3, 0}, []int{conditions.DayOf(list, 10), conditions.DayOf(list, 12), conditions.DayOf(list, 14), conditions.DayOf(list, 11)})
}
