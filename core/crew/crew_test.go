package crew_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/crew"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

func TestLimitedPlayersStayOutOfContact(t *testing.T) {
	lib := teachingtest.Library()
	a := crew.Attendance{Players: 9, Limited: 2}
	low, _ := lib.Drill("low")
	high, _ := lib.Drill("high")
	assert.Equal(t, crew.Crew{Full: 9}, a.For(low))
	assert.Equal(t, crew.Crew{Full: 7, HelpOnly: 2}, a.For(high), "they may help where helping has no contact")
	assert.Equal(t, 1, crew.Seats(high))
	for _, struck := range []string{"bag", "control", ""} {
		high.Help = []teaching.Help{{Role: "holds the bag and is struck", Men: 1, Contact: struck}}
		assert.Equal(t, crew.Crew{Full: 7}, a.For(high), "who is struck is met by another, whatever he holds")
	}
	_, y, advice := crew.Planned(high, crew.Attendance{Players: 2, Limited: 1}, 5, 1)
	assert.Zero(t, y.WorkingReps)
	assert.Contains(t, advice, "needs 2 players a lane and 1 can take part")
	high.Contact = "rough"
	assert.Equal(t, crew.NoPart, crew.PartOf(high, true), "what is not known counts as contact")
}

// TestMinutesFor: the fewest minutes are enough, and one less is not.
func TestMinutesFor(t *testing.T) {
	d := teaching.Drill{Name: "Bag", Working: 1, Lanes: 2, RepSeconds: 5, ResetSeconds: 20, Sides: 1, MinMinutes: 3, Contact: "bag"}
	rapid.Check(t, func(t *rapid.T) {
		a := crew.Attendance{Players: rapid.IntRange(0, 9).Draw(t, "players")}
		wanted := rapid.IntRange(0, 20).Draw(t, "reps")
		given := func(m int) int { _, y, _ := crew.Planned(d, a, m, 2); return y.PerPlayer.Min }
		m, ok := crew.MinutesFor(d, a, 2, wanted, 40)
		if !ok {
			require.Less(t, given(40), wanted)
			return
		}
		require.GreaterOrEqual(t, given(m), wanted)
		require.True(t, m == 3 || given(m-1) < wanted)
	})
}

// TestALimitedPlayerTakesNoSeatThatIsStruck: of two helping roles only the one on air is his, in every lane.
func TestALimitedPlayerTakesNoSeatThatIsStruck(t *testing.T) {
	d := teaching.Drill{Name: "Shield and ball", Working: 1, Lanes: 2, RepSeconds: 5, ResetSeconds: 20, MinMinutes: 3, Contact: "control",
		Help: []teaching.Help{{Role: "is struck", Men: 1, Contact: "control"}, {Role: "moves the ball", Men: 1, Contact: "air"}}}
	c, y, _ := crew.Planned(d, crew.Attendance{Players: 6, Limited: 2}, 5, 2)
	assert.Equal(t, crew.Crew{Full: 4, HelpOnly: 2}, c)
	assert.Equal(t, 2, y.LanesUsed, "each of the two moves a ball")
	_, y, _ = crew.Planned(d, crew.Attendance{Players: 6, Limited: 3}, 5, 2)
	assert.Equal(t, 1, y.LanesUsed, "three who may play fill one lane: the seats on air do not make a struck one")
}

// TestACoachFeedsSoManyLanes: lanes that nobody feeds do not run.
func TestACoachFeedsSoManyLanes(t *testing.T) {
	d := teaching.Drill{Name: "Fed", Working: 1, Lanes: 4, RepSeconds: 5, ResetSeconds: 20, MinMinutes: 3, Contact: "air", FedBy: teaching.FedByCoach, Feeds: 1}
	_, y, _ := crew.Planned(d, crew.Attendance{Players: 8}, 5, 4)
	assert.Equal(t, 1, y.LanesUsed)
	for by, feeds := range map[string]int{teaching.FedByHelper: 1, teaching.FedByNobody: 0, teaching.FedByCoach: 0, "": 0} {
		d.FedBy, d.Feeds = by, feeds
		assert.Equal(t, 4, crew.Lanes(d, 4), "a role that feeds stands in every lane: %q", by)
	}
}
