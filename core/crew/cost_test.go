package crew_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/crew"
	"nineyard/core/teaching"
)

// TestLadderMinutes by hand: six players in two lanes of one who works and one who helps; 5 s and 10 s give
// (5·60 − 45 + 10) ÷ 15 = 17 cycles, so 17 · 2 ÷ 6 = 5.67 reps a player in five minutes; six clean of 7.5 take 6.6 minutes.
func TestLadderMinutes(t *testing.T) {
	d := teaching.Drill{Key: "d", Working: 1, Lanes: 2, Help: []teaching.Help{{Role: "stands", Men: 1, Contact: "air"}}, RepSeconds: 5, ResetSeconds: 10, SetupSeconds: 45, Minutes: 5, Contact: "air", Sides: 1}
	crowd := d
	crowd.Key, crowd.Working = "crowd", 40
	lib := (&teaching.Library{Drills: []teaching.Drill{d, crowd}}).Link()
	stage := teaching.Stage{Kind: teaching.Bag, Clean: 6, Window: 8, Drills: []string{"d"}}
	game := teaching.Stage{Kind: teaching.Game, Clean: 6, Window: 8}
	want := 6 / .8 * 5 / (17 * 2 / 6.)
	assert.InDelta(t, want, crew.StageMinutes(lib, stage, "lb", .8), 1e-9)
	assert.InDelta(t, 2*want, crew.LadderMinutes(lib, teaching.Ladder{Stages: []teaching.Stage{stage, stage, game}}, "lb", .8), 1e-9)
	own := teaching.Stage{Kind: teaching.Bag, Clean: 6, Drills: []string{"crowd"}, ByGroup: map[string][]string{"lb": {"d"}}}
	assert.InDelta(t, want, crew.StageMinutes(lib, own, "lb", .8), 1e-9, "by the drill of this group")
	assert.True(t, math.IsInf(crew.StageMinutes(lib, own, "te", .8), 1), "four players cannot run a drill of forty")
	assert.Zero(t, crew.StageMinutes(lib, teaching.Stage{Kind: teaching.Bag, Clean: 6, Drills: []string{"gone"}}, "lb", .8))
	assert.Equal(t, 600, crew.SeasonMinutes(10))
	assert.Equal(t, []int{9, 8}, []int{crew.UsualPlayers("ol"), crew.UsualPlayers("snappers")})
}
