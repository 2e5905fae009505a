package roster_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/roster"
)

func TestHeight(t *testing.T) {
	for s, want := range map[string]float64{
		"": 0, "6-2": 74, `6'2"`: 74, "6’2”": 74, "6' 2": 74, "6 ft 2 in": 74, "6ft": 72, "5-11.5": 71.5, "6'": 72,
		"188 cm": 74, "188cm": 74, "188": 74, "1.88 m": 74, "1,88m": 74, "74": 74, "74 in": 74, `74"`: 74,
	} {
		got, err := roster.Height(s)
		require.NoError(t, err, s)
		assert.Equal(t, want, got, s)
	}
	for _, s := range []string{"6-12", "tall", "12", "110", "300", "3-2", "2-Jun", "Jun-02", "285 lb", "6-2-1", "-74"} {
		_, err := roster.Height(s)
		assert.Error(t, err, s)
	}
	_, err := roster.Height("2-Jun")
	assert.ErrorContains(t, err, "spreadsheet")
}

func TestHeightRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := rapid.IntRange(48, 96).Draw(t, "inches")
		for _, s := range []string{fmt.Sprintf("%d-%d", in/12, in%12), fmt.Sprintf(`%d'%d"`, in/12, in%12), fmt.Sprintf("%.1f cm", 2.54*float64(in))} {
			got, err := roster.Height(s)
			require.NoError(t, err, s)
			require.InDelta(t, in, math.Round(got), 0, s)
		}
	})
}

func TestJerseyWeightReturning(t *testing.T) {
	for s, want := range map[string]string{"": "", "07": "07", "7": "7", "7a": "7A", "#64": "64", " 100 ": "100"} {
		got, err := roster.Jersey(s)
		require.NoError(t, err, s)
		assert.Equal(t, want, got)
	}
	for _, s := range []string{"A7", "1234", "7AB", "-7", "7.0"} {
		_, err := roster.Jersey(s)
		assert.Error(t, err, s)
	}
	for s, want := range map[string]float64{"285": 285, "285 lb": 285, "285lbs": 285, "129 kg": 284, "": 0} {
		got, err := roster.Weight(s)
		require.NoError(t, err, s)
		assert.Equal(t, want, got)
	}
	for _, s := range []string{"heavy", "20", "900", "188 cm"} {
		_, err := roster.Weight(s)
		assert.Error(t, err, s)
	}
	for s, want := range map[string][2]bool{"": {false, false}, "Yes": {true, true}, "new": {false, true}, "3": {true, true}, "1": {false, true}} {
		r, said, err := roster.Returning(s)
		require.NoError(t, err, s)
		assert.Equal(t, want, [2]bool{r, said}, s)
	}
	_, _, err := roster.Returning("maybe")
	assert.Error(t, err)
}

func TestGuess(t *testing.T) {
	for _, c := range []struct {
		headers []string
		want    map[roster.Column]int
	}{
		{[]string{"No.", "Player", "Pos", "Ht", "Wt"}, map[roster.Column]int{roster.ColJersey: 0, roster.ColName: 1, roster.ColPosition: 2, roster.ColHeight: 3, roster.ColWeight: 4}},
		{[]string{"Last Name", "FIRST_NAME", "Jersey #", "Years"}, map[roster.Column]int{roster.ColLast: 0, roster.ColFirst: 1, roster.ColJersey: 2, roster.ColReturning: 3}},
		{[]string{"Weight (kg)", "Name of player", "Height in cm", "e-mail"}, map[roster.Column]int{roster.ColWeight: 0, roster.ColName: 1, roster.ColHeight: 2}},
		{[]string{"a", "b"}, map[roster.Column]int{}},
	} {
		assert.Equal(t, c.want, roster.Guess(c.headers), "%v", c.headers)
	}
}

var mapping = map[roster.Column]int{roster.ColJersey: 0, roster.ColName: 1, roster.ColHeight: 2}

func record(n int, fields ...string) roster.Record { return roster.Record{Number: n, Fields: fields} }

func TestPlan(t *testing.T) {
	known := []roster.Known{
		{ID: "a", Person: roster.Person{First: "Jun", Last: "Sato", Jersey: "64", HeightIn: 74}},
		{ID: "b", Person: roster.Person{First: "Ode", Last: "Lund", Jersey: "79"}},
		{ID: "c", Person: roster.Person{First: "Ode", Last: "Lund", Jersey: "9"}},
	}
	lines := roster.Match(mapping, []roster.Record{
		record(2, "64", "SATO, jun", "6-2"),
		record(3, "65", "jun sato", ""),
		record(4, "9", "Ode Lund", "188 cm"),
		record(5, "", "Ode Lund", ""),
		record(6, "7A", "Ravi Quill", "6-14"),
		record(7, "07", "Tam Brandt", ""),
		record(8, "", "", ""),
		record(9, "x", "", "tall"),
	}, known)
	want := []roster.Action{roster.Same, roster.Problem, roster.Update, roster.Problem, roster.Problem, roster.Create, roster.Problem, roster.Problem}
	for i, w := range want {
		assert.Equal(t, w, lines[i].Action, "line %d: %v", lines[i].Number, lines[i].Reasons)
	}
	assert.Equal(t, "c", lines[2].ID)
	assert.Equal(t, []string{"height 0 → 74"}, lines[2].Changes)
	assert.Contains(t, lines[1].Reasons[0].Message, "line 2")
	assert.Len(t, lines[7].Reasons, 3, "every reason is given, not the first alone")
}

// TestSecondImportChangesNothing is the promise of the import: whatever was
// created or updated once is the same the second time.
func TestSecondImportChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var records []roster.Record
		for i := range rapid.IntRange(0, 12).Draw(t, "lines") {
			records = append(records, record(i+2,
				rapid.SampledFrom([]string{"", "7", "07", "64", "7A", "bad"}).Draw(t, "jersey"),
				rapid.SampledFrom([]string{"Jun Sato", "Sato, Jun", "Ode  Lund", "Lund", ""}).Draw(t, "name"),
				rapid.SampledFrom([]string{"", "6-2", "188 cm", "tall"}).Draw(t, "height")))
		}
		var known []roster.Known
		for _, l := range roster.Match(mapping, records, nil) {
			require.Contains(t, []roster.Action{roster.Create, roster.Problem}, l.Action)
			if l.Action == roster.Create {
				known = append(known, roster.Known{ID: fmt.Sprint(l.Number), Person: l.Person})
			}
		}
		for _, l := range roster.Match(mapping, records, known) {
			require.NotContains(t, []roster.Action{roster.Create, roster.Update}, l.Action, "%+v", l)
		}
	})
}

// TestTwoNewNamesakesAreTwoPlayers when their shirts differ; without a shirt the second line
// is the same player again.
func TestTwoNewNamesakesAreTwoPlayers(t *testing.T) {
	mapping := map[roster.Column]int{roster.ColJersey: 0, roster.ColName: 1}
	actions := func(jerseys ...string) (list []roster.Action) {
		var records []roster.Record
		for i, j := range jerseys {
			records = append(records, roster.Record{Number: i + 2, Fields: []string{j, "Jun Sato"}})
		}
		for _, l := range roster.Match(mapping, records, nil) {
			list = append(list, l.Action)
		}
		return list
	}
	assert.Equal(t, []roster.Action{roster.Create, roster.Create}, actions("64", "7"))
	assert.Equal(t, []roster.Action{roster.Create, roster.Problem}, actions("64", "64"))
	assert.Equal(t, []roster.Action{roster.Create, roster.Problem}, actions("", ""))
}
