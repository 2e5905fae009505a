package play_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/group"
	"nineyard/core/play"
)

func TestWhatWasCorrected(t *testing.T) {
	was := play.Play{Number: 12, Unit: group.Offense, Down: 3, Front: "Odd", Context: []string{"scout look"}}
	is := was
	is.Front, is.Gain, is.Context = "Over", new(-2), nil
	assert.Equal(t, []play.Change{{Column: play.ColFront, Was: "Odd", Is: "Over"}, {Column: play.ColGain, Is: "-2"}, {Column: play.ColContext, Was: "scout look"}}, play.Changes(play.Record(was), play.Record(is)))
	assert.Empty(t, play.Changes(play.Record(was), play.Record(was)))
	assert.Empty(t, play.Changes(nil, play.Record(is)), "nothing is known of before")
}
