package teaching_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/practice"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

func TestDrillForKeepsToTheStage(t *testing.T) {
	lib := teachingtest.Library()
	for reached, want := range map[int]string{-1: "low", 0: "low", 1: "high"} {
		d, ok := lib.DrillFor("f", reached)
		assert.True(t, ok)
		assert.Equal(t, want, d.Key, "stage %d", reached)
	}
	rungs := lib.RungsOf("high")
	require.Len(t, rungs, 1)
	assert.Equal(t, "b", rungs[0].Stage.Key)
	assert.Equal(t, []string{"high", "low"}, []string{lib.DrillsFor("f")[0].Key, lib.DrillsFor("f")[1].Key}, "the drill that is about it alone first")
}

// TestAGroupHasItsOwnDrillsOfAStage: what stands for a group goes before what stands for all, and either counts there.
func TestAGroupHasItsOwnDrillsOfAStage(t *testing.T) {
	look := teaching.Stage{Key: "look", Drills: []string{"line"}, ByGroup: map[string][]string{"lb": {"backers", "line"}, "db": {"backs"}, "te": {}}}
	ld := teaching.Ladder{Stages: []teaching.Stage{{Key: "steps", Drills: []string{"walk"}}, look}}
	assert.Equal(t, []string{"backers", "line"}, look.DrillsOf("lb"))
	assert.Equal(t, []string{"line"}, look.DrillsOf("dl"))
	assert.Equal(t, []string{"line"}, look.DrillsOf("te"), "an empty list is none")
	assert.Equal(t, []string{"line", "backs", "backers"}, look.AllDrills())
	assert.Equal(t, []int{0, 1, 1, -1}, []int{ld.StageOf("walk"), ld.StageOf("line"), ld.StageOf("backs"), ld.StageOf("other")})
	lib := &teaching.Library{Ladders: []teaching.Ladder{ld}}
	assert.Len(t, lib.RungsOf("backers"), 1)
}

func TestWhatASafetyFaultLeaves(t *testing.T) {
	for hold, want := range map[string]practice.Contact{"": practice.Bag, "air": practice.Air, "control": practice.Control, "hard": practice.Bag} {
		assert.Equal(t, want, teaching.Fault{Hold: hold}.Most(), hold)
	}
}

func TestKeepTerm(t *testing.T) {
	assert.Equal(t, []string{"x", "Old"}, teaching.KeepTerm([]string{"x"}, "Old", "New"))
	assert.Equal(t, []string{"Old"}, teaching.KeepTerm([]string{"new"}, "Old", "New"), "a name is no alias of itself")
	assert.Equal(t, []string{"OLD"}, teaching.KeepTerm([]string{"OLD"}, "Old", "New"))
	assert.Empty(t, teaching.KeepTerm(nil, "Same", "same"))
}

// TestGroupsSeeTheirOwnFirst: a group's part holds what is taught to it and nothing else,
// its own before what it shares.
func TestGroupsSeeTheirOwnFirst(t *testing.T) {
	l := &teaching.Library{Techniques: []teaching.Technique{
		{Key: "shared", Groups: []string{"ol", "te"}, Checkpoints: []teaching.Checkpoint{{Key: "a"}}},
		{Key: "other", Groups: []string{"db"}, Checkpoints: []teaching.Checkpoint{{Key: "b"}}},
		{Key: "own", Groups: []string{"te"}, Checkpoints: []teaching.Checkpoint{{Key: "c"}}},
	}, Drills: []teaching.Drill{{Key: "x", Trains: []string{"a"}}, {Key: "y", Trains: []string{"b", "c"}}, {Key: "z", Trains: []string{"b"}}},
		Ladders:   []teaching.Ladder{{Key: "ls", Technique: "shared"}, {Key: "lo", Technique: "own"}},
		Questions: []teaching.Question{{Key: "all"}, {Key: "db", Techniques: []string{"other"}}, {Key: "te", Techniques: []string{"own"}}}}
	part := l.Link().ForGroup("te")
	keys := func() (t, d, ld, q []string) {
		for _, x := range part.Techniques {
			t = append(t, x.Key)
		}
		for _, x := range part.Drills {
			d = append(d, x.Key)
		}
		for _, x := range part.Ladders {
			ld = append(ld, x.Key)
		}
		for _, x := range part.Questions {
			q = append(q, x.Key)
		}
		return t, d, ld, q
	}
	techniques, drills, ladders, questions := keys()
	require.Equal(t, []string{"own", "shared"}, techniques)
	require.Equal(t, []string{"x", "y"}, drills, "a drill of another technique that trains his too")
	require.Equal(t, []string{"lo", "ls"}, ladders)
	require.Equal(t, []string{"all", "te"}, questions)
}
