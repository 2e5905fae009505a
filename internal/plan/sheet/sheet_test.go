package sheet_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/plan/sheet"
)

func period(id string, start, minutes int, kind contract.PeriodKind, groups ...string) contract.ScriptPeriod {
	return contract.ScriptPeriod{ID: id, Start: start, Minutes: minutes, Kind: kind, Name: "Individual", Contact: "air", Groups: groups, Coaches: []string{}, Equipment: []contract.EquipmentUse{}, NeedsGroups: []string{}}
}

func evening() contract.ScriptSheet {
	return contract.ScriptSheet{Minutes: 30, StartMinute: 18 * 60, Groups: []contract.Named{{Key: "ol", Name: "OL"}, {Key: "dl", Name: "DL"}, {Key: "db", Name: "DB"}},
		Settings: contract.PracticeSettings{Places: []contract.PracticePlace{{Key: "north", Name: "North end", Capacity: 1}}, Equipment: []contract.EquipmentStock{{Key: "chutes", Name: "Chutes", Count: 5}},
			Staff: []contract.StaffMember{{Key: "k", Name: "R. Kell"}}},
		Periods: []contract.ScriptPeriod{period("a", 0, 10, "individual", "ol"), period("b", 5, 10, "individual", "ol", "dl")}}
}

// TestLookSpeaksOfThings by their names, by the clock, and says once what is true of several.
func TestLookSpeaksOfThings(t *testing.T) {
	l := sheet.Look(evening())
	var said []string
	for _, f := range l.Findings {
		said = append(said, f.Message)
	}
	assert.Equal(t, []string{
		"DB has nothing to do from 18:00 to 18:30",
		"DL has nothing to do from 18:00 to 18:05",
		"OL: Individual (OL) and Individual (OL DL) at the same time from 18:05",
		"OL and DL have nothing to do from 18:15 to 18:30",
	}, said)
	assert.Equal(t, []contract.FreeWindow{{Groups: []string{"dl", "db"}, Start: 0, End: 5}, {Groups: []string{"ol", "dl", "db"}, Start: 15, End: 30}}, l.Free)
	assert.Len(t, l.Contact, 3)
	mends := sheet.Mends(evening(), l.Findings[2], "new")
	require.NotEmpty(t, mends)
	assert.Equal(t, "Move Individual (OL DL) to 18:10", mends[0].Say)
}

func TestWhatTheListsDoNotKnowIsLookedAtAllTheSame(t *testing.T) {
	s := evening()
	s.Periods[0].Place, s.Periods[1].Place = "gone", "gone"
	s.Periods[0].Equipment = []contract.EquipmentUse{{Key: "sled", Count: 3}}
	s.Periods[0].Coaches = []string{"somebody"}
	for _, f := range sheet.Look(s).Findings {
		assert.NotContains(t, []string{"place_full", "equipment_short", "not_a_script"}, f.Code)
	}
	s.Periods[0].Groups = []string{"xx"}
	assert.Equal(t, "not_a_script", sheet.Look(s).Findings[0].Code)
}

// TestLateNamesWhatItCuts, and says how many minutes there are when there are too few.
func TestLateNamesWhatItCuts(t *testing.T) {
	s := evening()
	s.Periods[1].Start = 10
	l := sheet.Late(s, 0, 12)
	assert.Empty(t, l.Wrong)
	assert.Equal(t, []contract.LateCut{{ID: "a", Name: "Individual (OL)", From: 10, To: 9}, {ID: "b", Name: "Individual (OL DL)", From: 10, To: 9}}, l.Cuts)
	assert.Equal(t, 9, l.Periods[1].Start)
	s.Periods[0].Kind, s.Periods[1].Kind = "water", "water"
	assert.Contains(t, sheet.Late(s, 0, 11).Wrong, "10 at most")
}

// TestATextReadsBack and keeps the ids of what stays.
func TestATextReadsBack(t *testing.T) {
	s := evening()
	s.Periods[0].Place, s.Periods[0].Coaches, s.Periods[0].Equipment = "north", []string{"k"}, []contract.EquipmentUse{{Key: "chutes", Count: 2}}
	text := sheet.Write(s)
	assert.Equal(t, "18:00 10 individual OL @\"North end\" with \"R. Kell\" uses Chutes:2\n18:05 10 individual OL,DL\n", text)
	n := 0
	next := func() string { n++; return fmt.Sprint("n", n) }
	read := sheet.Read(s, text+"18:15 5 water all\n", next)
	require.Empty(t, read.Problems)
	assert.Equal(t, s.Periods, read.Periods[:2])
	assert.Equal(t, "n1", read.Periods[2].ID)
	read = sheet.Read(s, "18:00 ten", next)
	assert.Equal(t, 1, read.Problems[0].Line)
	assert.Empty(t, read.Periods)
}

// TestTheDayIsChecked: the first days of a season and the heat speak in the checks, tighten the water,
// and one change brings all periods down.
func TestTheDayIsChecked(t *testing.T) {
	s := evening()
	s.Settings.Limits = contract.PracticeLimits{WaterEvery: new(30),
		FirstDays: &contract.FirstDays{SeasonStart: true, Steps: []contract.FirstDaysStep{{Through: 2, Contact: "air", Gear: "helmets"}}},
		HeatBands: &[]contract.HeatBand{{From: 30, WaterEvery: new(10), Contact: "bag"}, {From: 33, Contact: "air", Off: true}}}
	s.Periods[0].Contact, s.Periods[1].Contact = "thud", "bag"
	said := func() (codes []string) {
		for _, f := range sheet.Look(s).Findings {
			if f.Code == "first_days" || f.Code == "heat" {
				codes = append(codes, f.Code)
			}
		}
		return codes
	}
	assert.Empty(t, said(), "an unknown day, and no index")
	s.PracticeDay, s.HeatIndex = new(2), new(30.5)
	assert.Equal(t, []string{"first_days", "heat"}, said())
	assert.Equal(t, 10, *sheet.Script(s).Limits.WaterEvery)
	mends := sheet.Mends(s, sheet.Look(s).Findings[0], "new")
	require.Len(t, mends, 1)
	assert.Equal(t, "Make these 2 periods air", mends[0].Say)
	s.Periods = mends[0].Periods
	assert.Empty(t, said())
	s.HeatIndex = new(33.0)
	assert.Equal(t, []string{"heat"}, said(), "no practice")
	assert.Empty(t, sheet.Mends(s, sheet.Look(s).Findings[0], "new"))
	s.HeatIndex, s.Settings.Limits.FirstDays.SeasonStart = nil, false
	s.Periods[0].Contact = "thud"
	assert.Empty(t, said(), "the first days hold for who comes back alone")
}
