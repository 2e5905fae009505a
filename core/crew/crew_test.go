package crew_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/crew"
	"nineyard/core/teaching/teachingtest"
)

func TestLimitedPlayersStayOutOfContact(t *testing.T) {
	lib := teachingtest.Library()
	a := crew.Attendance{Players: 9, Limited: 2}
	low, _ := lib.Drill("low")
	high, _ := lib.Drill("high")
	assert.Equal(t, crew.Crew{Full: 9}, a.For(low))
	assert.Equal(t, crew.Crew{Full: 7, HelpOnly: 2}, a.For(high), "they may help where helping has no contact")
	high.HelpContact = ""
	assert.Equal(t, crew.Crew{Full: 7}, a.For(high))
	_, y, advice := crew.Planned(high, crew.Attendance{Players: 2, Limited: 1}, 5, 1)
	assert.Zero(t, y.WorkingReps)
	assert.Contains(t, advice, "needs 2 players a lane and 1 can take part")
	high.Contact = "rough"
	assert.Equal(t, crew.NoPart, crew.PartOf(high, true), "what is not known counts as contact")
}
