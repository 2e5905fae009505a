package teaching_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/teaching"
)

func TestGatesFollowFromHowOftenATechniqueOccurs(t *testing.T) {
	climb := func(occurs string, own teaching.Stage) []teaching.Stage {
		l := &teaching.Library{
			Techniques: []teaching.Technique{{Key: "t", Occurs: occurs, Checkpoints: []teaching.Checkpoint{{Key: "c"}}}},
			Drills:     []teaching.Drill{{Key: "air", Name: "On air", Trains: []string{"c"}, Contact: "air"}, {Key: "bag", Name: "On a bag", Trains: []string{"c"}, Contact: "bag"}},
			Ladders:    []teaching.Ladder{{Key: "l", Technique: "t"}},
		}
		for _, kind := range teaching.StageKinds() {
			s := teaching.Stage{Key: kind, Kind: kind, Drills: []string{"air"}}
			if kind == teaching.Bag || kind == teaching.Partner {
				s.Drills = []string{"bag", "air"}
			}
			if kind == teaching.Game {
				s.Drills = nil
			}
			if kind == own.Kind {
				s = own
			}
			l.Ladders[0].Stages = append(l.Ladders[0].Stages, s)
		}
		ld, ok := l.Link().LadderOf("t")
		require.True(t, ok)
		return ld.Stages
	}
	// Clean, window and days of fit, freeze, steps, bag, partner, look, group and game.
	for occurs, want := range map[string][8][3]int{
		teaching.Every: {{5, 6, 1}, {4, 5, 1}, {5, 6, 1}, {7, 8, 2}, {7, 8, 2}, {5, 6, 2}, {6, 8, 2}, {9, 12, 2}},
		teaching.Often: {{5, 6, 1}, {4, 5, 1}, {5, 6, 1}, {6, 8, 2}, {6, 8, 2}, {5, 6, 1}, {5, 6, 1}, {6, 8, 2}},
		teaching.Some:  {{4, 5, 1}, {4, 5, 1}, {4, 5, 1}, {5, 6, 1}, {5, 6, 1}, {4, 5, 1}, {4, 5, 1}, {4, 5, 2}},
		teaching.Rare:  {{4, 5, 1}, {4, 5, 1}, {4, 5, 1}, {5, 6, 1}, {5, 6, 1}, {3, 4, 1}, {3, 4, 1}, {3, 4, 1}},
		"":             {{5, 6, 1}, {4, 5, 1}, {5, 6, 1}, {6, 8, 2}, {6, 8, 2}, {5, 6, 1}, {5, 6, 1}, {6, 8, 2}},
	} {
		for i, s := range climb(occurs, teaching.Stage{}) {
			assert.Equal(t, want[i], [3]int{s.Clean, s.Window, s.Sessions}, "%s %s", occurs, s.Kind)
			contact := s.Kind == teaching.Bag || s.Kind == teaching.Partner
			assert.Equal(t, map[bool]int{true: teaching.HeadReps}[contact], s.Head, "the head is looked at where there is contact: %s", s.Kind)
		}
	}
	stages := climb(teaching.Every, teaching.Stage{Key: "bag", Kind: teaching.Bag, Name: "Our own", Clean: 3, Window: 4, Head: 9, Drills: []string{"bag"}})
	assert.Equal(t, [3]int{3, 4, 0}, [3]int{stages[3].Clean, stages[3].Window, stages[3].Sessions}, "what a ladder says of its own holds")
	assert.Equal(t, 9, stages[3].Head)
	assert.Equal(t, []string{"On air", "Our own", "On a bag", "In the game"}, []string{stages[0].Name, stages[3].Name, stages[4].Name, stages[7].Name})
}

// TestASharedFaultBelongsToEachTechnique: it is one fault, found at each technique's own checkpoint.
func TestASharedFaultBelongsToEachTechnique(t *testing.T) {
	own := []teaching.Fault{{Key: "own", Name: "Own", Checkpoint: "a"}}
	l := (&teaching.Library{
		Techniques: []teaching.Technique{{Key: "t", Checkpoints: []teaching.Checkpoint{{Key: "a"}}, Faults: own}, {Key: "u", Checkpoints: []teaching.Checkpoint{{Key: "b"}}}, {Key: "v"}},
		Shared:     []teaching.Fault{{Key: "head", Name: "Head down", Everywhere: []string{"b", "a", "gone"}, Say: map[string]string{"b": "eyes up"}}},
	}).Spread().Link()
	for technique, point := range map[string]string{"t": "a", "u": "b"} {
		f, ok := l.FaultOf(technique, "head")
		require.True(t, ok, technique)
		assert.True(t, f.Shared)
		assert.Equal(t, [2]string{technique, point}, [2]string{f.Technique, f.Checkpoint})
	}
	_, ok := l.FaultOf("v", "head")
	assert.False(t, ok)
	_, ok = l.FaultOf("no", "head")
	assert.False(t, ok)
	_, first, ok := l.Fault("head")
	assert.True(t, ok)
	assert.Equal(t, "t", first.Key, "found in the first of its techniques")
	assert.Len(t, own, 1, "what was given stays as it was")
	assert.False(t, l.Techniques[0].Faults[0].Shared)
	table, ok := (&teaching.Library{Tables: []teaching.Table{{Key: "x", Name: "X"}}}).Table("x")
	assert.True(t, ok)
	assert.Equal(t, "X", table.Name)
	_, ok = l.Table("x")
	assert.False(t, ok)
}

func TestWordsOfADrill(t *testing.T) {
	for want, c := range map[string]teaching.Coach{
		"": {}, "Behind the row": {At: "Behind the row"},
		"Play side": {Side: "play side", At: "not this"},
		"Play side, 4 yards off, level with the feet of the row, to see second foot": {Side: "play side", Yards: 4, Level: "with the feet of the row", Sees: "second foot"},
		"In front, a yard off": {Side: "in front", Yards: 1},
	} {
		assert.Equal(t, want, c.Words())
	}
	e := teaching.Equipment{Lane: map[string]int{"cone": 2, "bag": 1}, Once: map[string]int{"card_pack": 1, "cone": 1, "box": 2}, Text: "a cloth"}
	assert.Equal(t, map[string]int{"cone": 7, "bag": 3, "card_pack": 1, "box": 2}, e.Total(3))
	assert.Equal(t, "3 bags, 2 boxes, 1 card pack, 7 cones, a cloth", e.Words(3))
	assert.Empty(t, teaching.Equipment{}.Words(4))
	assert.Equal(t, 3, teaching.Drill{Help: []teaching.Help{{Men: 1}, {Men: 2}}}.Helping())
}

// TestLinksAreNotWritten: what follows from the rest of the library is in no file.
func TestLinksAreNotWritten(t *testing.T) {
	text, err := json.Marshal(teaching.Drill{Key: "d", DrillLinks: teaching.DrillLinks{Technique: "t", Groups: []string{"ol"}}})
	require.NoError(t, err)
	assert.JSONEq(t, `{"key": "d"}`, string(text))
}
