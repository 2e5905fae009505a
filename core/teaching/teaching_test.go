package teaching_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/teaching"
)

func library() *teaching.Library {
	return &teaching.Library{
		Techniques: []teaching.Technique{{Key: "t", Name: "T", Group: "ol", Faults: []teaching.Fault{{Key: "f", Name: "F"}}}},
		Drills: []teaching.Drill{
			{Key: "low", Name: "Low", Group: "ol", Technique: "t", WorksOn: []string{"f"}, Contact: "bag", Working: 1, RepSeconds: 5, ResetSeconds: 20},
			{Key: "high", Name: "High", Group: "ol", Technique: "t", WorksOn: []string{"f"}, Contact: "control", Working: 1, Helping: 1, RepSeconds: 12},
		},
		Ladders: []teaching.Ladder{{Key: "l", Name: "L", Technique: "t", Stages: []teaching.Stage{
			{Key: "a", Drills: []string{"low"}, Window: 2, Clean: 1}, {Key: "b", Drills: []string{"high"}, Window: 2, Clean: 1}}}},
	}
}

func TestLimitedMenStayOutOfContact(t *testing.T) {
	lib := library()
	a := teaching.Attendance{Players: 9, Limited: 2}
	assert.Equal(t, 9, a.For(lib.Drills[0]))
	assert.Equal(t, 7, a.For(lib.Drills[1]))
	_, y, advice := lib.Drills[1].Planned(teaching.Attendance{Players: 2, Limited: 1}, 5, 1)
	assert.Zero(t, y.WorkingReps)
	assert.Contains(t, advice, "needs 2 men a lane and 1 can take part")
}

func TestDrillForKeepsToTheStage(t *testing.T) {
	lib := library()
	for reached, want := range map[int]string{-1: "low", 0: "low", 1: "high"} {
		d, ok := lib.DrillFor("f", reached)
		assert.True(t, ok)
		assert.Equal(t, want, d.Key, "stage %d", reached)
	}
	_, stage, ok := lib.StageOf(lib.Drills[1])
	assert.True(t, ok)
	assert.Equal(t, "b", stage)
}

func TestCheckFindsWhatIsMissing(t *testing.T) {
	text := ""
	for _, issue := range library().Check() {
		text += issue.Error() + "\n"
	}
	for _, want := range []string{"4 to 8 checkpoints", "needs its cautions", "longer than a play", "self_check: must not be empty"} {
		assert.Contains(t, text, want)
	}
}
