package marklist_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/marklist"
	"nineyard/core/marks"
)

func read(fields map[marklist.Column]string) marklist.Line {
	at := map[marklist.Column]int{}
	var row []string
	for _, c := range marklist.Columns() {
		at[c] = len(row)
		row = append(row, fields[c])
	}
	return marklist.Read([]marklist.Row{{Number: 2, Fields: row}}, at)[0]
}

func TestALineByHand(t *testing.T) {
	l := read(map[marklist.Column]string{"Play": "41", "No": "64", "Technique": "Base block", "Faults": "Hands wide (by 72) !; Leans", "Result": "Won", "Tallies": "Effort", "Measures": "base_first=7.5", "Praise": "x", "Side": "LEFT"})
	require.Empty(t, l.Says)
	assert.Equal(t, marklist.Entry{Play: 41, Number: "64", Technique: "Base block", State: marks.Looked, Faults: []marklist.Fault{{Name: "Hands wide", By: "72", Flag: true}, {Name: "Leans"}},
		Result: new(1), Tallies: []marks.Tally{marks.Effort}, Measures: []marklist.Measure{{Checkpoint: "base_first", Value: 7.5}}, Praise: true, Side: "left"}, l.Entry)
	assert.Equal(t, marks.Assumed, read(map[marklist.Column]string{"Play": "1", "No": "64", "Technique": "Base block"}).State)
	assert.Equal(t, marks.StateOpen, read(map[marklist.Column]string{"Play": "1", "No": "64", "Technique": "Base block", "State": "open"}).State)
}

func TestWhatIsWrongNamesItsColumn(t *testing.T) {
	good := map[marklist.Column]string{"Play": "1", "No": "64", "Technique": "Base block"}
	for column, bad := range map[marklist.Column]string{"Play": "x", "No": "", "Technique": "", "State": "well", "Assignment": "2", "Finish": "yes", "Praise": "loud", "Side": "middle", "Result": "drawn",
		"Tallies": "grit", "Measures": "7.5", "Grade": "11"} {
		fields := map[marklist.Column]string{}
		for k, v := range good {
			fields[k] = v
		}
		fields[column] = bad
		l := read(fields)
		assert.Equal(t, column, l.Column, bad)
		assert.NotEmpty(t, l.Says, bad)
	}
	at := marklist.Guess([]string{"#", "Jersey", "Block"})
	lines := marklist.Read([]marklist.Row{{2, []string{"1", "64", "Base block"}}, {3, []string{"1", "64", "base  Block"}}, {4, []string{"2", "64"}}}, at)
	assert.Empty(t, lines[0].Says)
	assert.Equal(t, "the mark is in line 2 already", lines[1].Says)
	assert.Equal(t, marklist.ColTechnique, lines[2].Column, "a short line")
}

// TestWhatIsWrittenIsReadAsTheSame whatever a mark says.
func TestWhatIsWrittenIsReadAsTheSame(t *testing.T) {
	word := rapid.StringMatching(`[A-Z][a-z]{1,8}( [a-z]{1,6})?`)
	facet := rapid.SampledFrom([]*int{nil, new(0), new(1)})
	rapid.Check(t, func(t *rapid.T) {
		e := marklist.Entry{Play: rapid.IntRange(1, 999).Draw(t, "play"), Number: rapid.StringMatching(`[0-9]{1,2}`).Draw(t, "number"), Player: word.Draw(t, "player"), Technique: word.Draw(t, "technique"),
			State: rapid.SampledFrom([]marks.State{marks.Assumed, marks.Looked, marks.StateUnseen, marks.StateOpen, marks.StateNone}).Draw(t, "state"), Assignment: facet.Draw(t, "a"), Right: facet.Draw(t, "t"), Finish: facet.Draw(t, "f"),
			Praise: rapid.Bool().Draw(t, "praise"), Side: rapid.SampledFrom([]string{"", "left", "right"}).Draw(t, "side"), Result: facet.Draw(t, "result"), Grade: rapid.SampledFrom([]*int{nil, new(0), new(10)}).Draw(t, "grade"), Note: rapid.SampledFrom([]string{"", "late, again"}).Draw(t, "note"), Coach: word.Draw(t, "coach")}
		for range rapid.IntRange(0, 3).Draw(t, "faults") {
			e.Faults = append(e.Faults, marklist.Fault{Name: word.Draw(t, "fault"), By: rapid.SampledFrom([]string{"", "72"}).Draw(t, "by"), Flag: rapid.Bool().Draw(t, "flag")})
		}
		for range rapid.IntRange(0, 2).Draw(t, "tallies") {
			e.Tallies = append(e.Tallies, rapid.SampledFrom([]marks.Tally{marks.Effort, marks.CallEchoed, marks.WrongCall}).Draw(t, "tally"))
		}
		for range rapid.IntRange(0, 2).Draw(t, "measures") {
			e.Measures = append(e.Measures, marklist.Measure{Checkpoint: "base_first", Value: rapid.Float64Range(-1000, 1000).Draw(t, "value")})
		}
		at := map[marklist.Column]int{}
		for i, c := range marklist.Columns() {
			at[c] = i
		}
		l := marklist.Read([]marklist.Row{{2, marklist.Record(e)}}, at)[0]
		require.Empty(t, l.Says)
		require.Equal(t, e, l.Entry)
	})
}

func FuzzRead(f *testing.F) {
	f.Add("1", "Leans (by 72) !", "a=1", "looked")
	f.Fuzz(func(t *testing.T, play, faults, measures, state string) {
		l := read(map[marklist.Column]string{"Play": play, "No": "1", "Technique": "x", "Faults": faults, "Measures": measures, "State": state})
		if (l.Says == "") != (l.Column == "") {
			t.Fatal("what is wrong names its column")
		}
	})
}
