package marks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/marks"
)

func TestWhatAMarkMaySayBesides(t *testing.T) {
	won, lost, two := 1, 0, 2
	for name, c := range map[string]struct {
		state marks.State
		said  marks.Said
		field string
	}{
		"nothing":                                {marks.Looked, marks.Said{}, ""},
		"won":                                    {marks.Looked, marks.Said{Result: &won}, ""},
		"lost, assumed right":                    {marks.Assumed, marks.Said{Result: &lost}, ""},
		"no such result":                         {marks.Looked, marks.Said{Result: &two}, "result"},
		"unseen, and lost":                       {marks.StateUnseen, marks.Said{Result: &lost}, "result"},
		"asked":                                  {marks.StateOpen, marks.Said{Asked: true}, ""},
		"asked about what is known":              {marks.Looked, marks.Said{Asked: true}, "asked"},
		"effort and a call":                      {marks.Looked, marks.Said{Tallies: []marks.Tally{marks.Effort, marks.CallEchoed}}, ""},
		"effort on a play that was not gradable": {marks.StateNone, marks.Said{Tallies: []marks.Tally{marks.WrongCall, marks.Effort}}, ""},
		"effort and none":                        {marks.Looked, marks.Said{Tallies: []marks.Tally{marks.Effort, marks.NoEffort}}, "tallies[1]"},
		"the same twice":                         {marks.Looked, marks.Said{Tallies: []marks.Tally{marks.CallMissing, marks.CallMissing}}, "tallies[1]"},
		"no such tally":                          {marks.Looked, marks.Said{Tallies: []marks.Tally{"grit"}}, "tallies[0]"},
		"a wrong call that charges the player":   {marks.Looked, marks.Said{Tallies: []marks.Tally{marks.WrongCall}}, "tallies[0]"},
		"taken back":                             {marks.Withdrawn, marks.Said{Tallies: []marks.Tally{marks.Effort}}, "tallies[0]"},
	} {
		err := c.said.Check(c.state)
		if c.field == "" {
			require.NoError(t, err, name)
			continue
		}
		e, ok := invalid.As(err)
		require.True(t, ok, name)
		assert.Equal(t, c.field, e.Field, name)
	}
}

func TestProcessAgainstResult(t *testing.T) {
	won, lost := 1, 0
	right, wrong := marks.Verdict{Graded: true, Clean: true}, marks.Verdict{Graded: true}
	for _, c := range []struct {
		v      marks.Verdict
		result *int
		box    marks.Box
	}{{right, &won, marks.RightWon}, {right, &lost, marks.RightLost}, {wrong, &won, marks.WrongWon}, {wrong, &lost, marks.WrongLost}} {
		box, ok := marks.BoxOf(c.v, c.result)
		require.True(t, ok)
		assert.Equal(t, c.box, box)
	}
	_, ok := marks.BoxOf(right, nil)
	assert.False(t, ok, "nobody said what became of it")
	_, ok = marks.BoxOf(marks.Verdict{Reason: marks.Unseen}, &won)
	assert.False(t, ok, "unseen is neither right nor wrong")
}
