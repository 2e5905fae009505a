package availability_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/season"
)

var monday = season.Must("2026-10-12")

func until(d season.Date) *season.Date { return &d }

func ExampleOn() {
	spells := []availability.Spell{
		{Status: availability.Limited, From: monday, To: until(monday + 6), Reason: "wrist"},
		{Status: availability.Out, From: monday + 1, To: until(monday + 2), Reason: "work"},
	}
	for day := monday - 1; day <= monday+7; day += 2 {
		s, found := availability.On(spells, day)
		fmt.Println(day, s.Status, found)
	}
	// Output:
	// 2026-10-11  false
	// 2026-10-13 out true
	// 2026-10-15 limited true
	// 2026-10-17 limited true
	// 2026-10-19  false
}

func TestWhoTakesPart(t *testing.T) {
	for status, takes := range map[availability.Status]bool{availability.Available: true, availability.Limited: true, availability.Out: false, availability.HeadHold: false} {
		assert.Equal(t, takes, status.TakesPart(), status)
	}
}

func TestASpellHoldsToItsLastDay(t *testing.T) {
	s := availability.Spell{Status: availability.Out, From: monday, To: until(monday + 2)}
	assert.Equal(t, []bool{false, true, true, false}, []bool{s.Holds(monday - 1), s.Holds(monday), s.Holds(monday + 2), s.Holds(monday + 3)})
}

func TestAHoldEndsByAWrittenClearanceAlone(t *testing.T) {
	hold := availability.Spell{Status: availability.HeadHold, From: monday, Reason: "Suspected head injury"}
	require.NoError(t, hold.Check())
	assert.True(t, hold.Holds(monday+10000), "it does not run out")

	for field, to := range map[string]availability.Spell{
		"status": {Status: availability.Limited, From: monday, Reason: "better"},
		"from":   {Status: availability.HeadHold, From: monday + 3, Reason: "later"},
		"to":     {Status: availability.HeadHold, From: monday, To: until(monday + 1), Reason: "short"},
	} {
		_, err := hold.Change(to)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	for field, c := range map[string]availability.Clearance{
		"by":       {By: " ", On: monday + 7},
		"on":       {By: "Dr. A. Fell, physician", Document: "letter", On: monday - 1},
		"document": {By: "Dr. A. Fell, physician", Document: " ", On: monday + 7},
	} {
		_, err := hold.Clear(c, monday+8)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	_, err := hold.Clear(availability.Clearance{By: "Dr. A. Fell, physician", Document: "letter", On: monday + 9}, monday+8)
	require.ErrorContains(t, err, "future")

	cleared, err := hold.Clear(availability.Clearance{By: " Dr. A. Fell, physician ", Document: " letter 12 ", On: monday + 7}, monday+8)
	require.NoError(t, err)
	assert.Equal(t, "Dr. A. Fell, physician", cleared.Cleared.By)
	assert.Equal(t, "letter 12", cleared.Cleared.Document)
	assert.True(t, cleared.Holds(monday+6))
	assert.False(t, cleared.Holds(monday+7), "he is available from the day it was written")
	assert.Nil(t, hold.Cleared, "the argument is not changed")
	_, err = cleared.Clear(availability.Clearance{By: "Someone else", Document: "letter", On: monday + 7}, monday+8)
	require.Error(t, err)
	_, err = cleared.Change(hold)
	require.Error(t, err)
	_, err = availability.Spell{Status: availability.Out, From: monday, Reason: "x"}.Clear(*cleared.Cleared, monday+8)
	require.Error(t, err)
}

func TestCheckNamesTheField(t *testing.T) {
	good := availability.Spell{Status: availability.Limited, From: monday, To: until(monday), Reason: "ankle"}
	require.NoError(t, good.Check(), "one day is a spell")
	for field, spoil := range map[string]func(*availability.Spell){
		"status":  func(s *availability.Spell) { s.Status = availability.Available },
		"to":      func(s *availability.Spell) { s.To = until(monday - 1) },
		"reason":  func(s *availability.Spell) { s.Reason = "  " },
		"reason ": func(s *availability.Spell) { s.Reason = strings.Repeat("é", availability.MaxReason+1) },
	} {
		s := good
		spoil(&s)
		e, ok := invalid.As(s.Check())
		require.True(t, ok, field)
		assert.Equal(t, strings.TrimSpace(field), e.Field)
	}
}

// TestTheStrictestHolds against a plain search, in any order of the spells.
func TestTheStrictestHolds(t *testing.T) {
	all := []availability.Status{availability.Limited, availability.Out, availability.HeadHold}
	rapid.Check(t, func(t *rapid.T) {
		var spells []availability.Spell
		for range rapid.IntRange(0, 6).Draw(t, "spells") {
			s := availability.Spell{Status: rapid.SampledFrom(all).Draw(t, "status"), From: monday + season.Date(rapid.IntRange(-5, 5).Draw(t, "from")), Reason: "r"}
			length := season.Date(rapid.IntRange(0, 6).Draw(t, "length"))
			switch {
			case s.Status == availability.HeadHold && rapid.Bool().Draw(t, "cleared"):
				s.Cleared = &availability.Clearance{By: "Dr. Fell", On: s.From + length}
			case s.Status != availability.HeadHold && rapid.Bool().Draw(t, "ends"):
				s.To = until(s.From + length)
			}
			spells = append(spells, s)
		}
		day := monday + season.Date(rapid.IntRange(-8, 12).Draw(t, "day"))
		want := availability.Available
		for _, status := range all { // from loose to strict: the last that holds stays
			for _, s := range spells {
				if s.Status == status && s.Holds(day) {
					want = status
				}
			}
		}
		got, found := availability.On(spells, day)
		require.Equal(t, want != availability.Available, found)
		if found {
			require.Equal(t, want, got.Status)
		}
		again, _ := availability.On(rapid.Permutation(spells).Draw(t, "order"), day)
		require.Equal(t, got.Status, again.Status)
		require.Equal(t, got.From, again.From)
	})
}
