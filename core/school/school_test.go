package school_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/school"
	"nineyard/core/teaching"
	"nineyard/core/teaching/teachingtest"
)

// anyLibrary draws a small library whose entries follow from schools at random.
func anyLibrary(t *rapid.T) *teaching.Library {
	l := &teaching.Library{}
	schools := []string{""}
	for q := range rapid.IntRange(0, 2).Draw(t, "questions") {
		key := fmt.Sprintf("q%d", q)
		l.Questions = append(l.Questions, teaching.Question{Key: key, Name: key, Asks: "?", House: "a", Why: "w",
			Schools: []teaching.School{{Key: "a", Name: "A", Reason: "r"}, {Key: "b", Name: "B", Reason: "r"}}})
		schools = append(schools, key+"/a", key+"/b")
	}
	from := func(label string) string { return rapid.SampledFrom(schools).Draw(t, label) }
	var points, faults []string
	for i := range rapid.IntRange(1, 3).Draw(t, "techniques") {
		x := teaching.Technique{Key: fmt.Sprintf("t%d", i), Name: fmt.Sprintf("T%d", i), Groups: []string{"ol"}, Summary: "s"}
		for j := range rapid.IntRange(1, 4).Draw(t, "checkpoints") {
			key := fmt.Sprintf("c%d_%d", i, j)
			points = append(points, key)
			x.Checkpoints = append(x.Checkpoints, teaching.Checkpoint{Key: key, Name: key, Phase: "p", Cue: "c", Words: []string{"a", "b"}, Right: []string{"a"}, School: from(key)})
			if rapid.Bool().Draw(t, "fault") {
				f := "f" + key
				faults = append(faults, f)
				x.Faults = append(x.Faults, teaching.Fault{Key: f, Name: f, Checkpoint: key, Effect: "e", Severity: 1, School: from(f)})
			}
		}
		l.Techniques = append(l.Techniques, x)
	}
	some := func(from []string, label string) []string {
		return keep(from, func(string) bool { return rapid.Bool().Draw(t, label) })
	}
	for i := range rapid.IntRange(0, 5).Draw(t, "drills") {
		d := teaching.Drill{Key: fmt.Sprintf("d%d", i), Name: fmt.Sprintf("D%d", i), Trains: some(points, "trains"), WorksOn: some(faults, "works on"), Working: 1, Lanes: 1,
			RepSeconds: 4, Sides: 1, Minutes: 3, MinMinutes: 2, Contact: "air", SpaceYd: [2]float64{3, 3}, School: from("drill")}
		if len(d.Trains) == 0 {
			d.Trains = points[:1]
		}
		l.Drills = append(l.Drills, d)
	}
	l.Link()
	for i, x := range l.Techniques {
		ld := teaching.Ladder{Key: fmt.Sprintf("l%d", i), Name: fmt.Sprintf("L%d", i), Technique: x.Key}
		for _, d := range l.Drills {
			if slices.Contains(d.Techniques, x.Key) {
				ld.Stages = append(ld.Stages, teaching.Stage{Key: "s" + d.Key, Name: "S", Kind: teaching.Bag, Drills: []string{d.Key}, Window: 2, Clean: 1})
			}
		}
		ld.Stages = append(ld.Stages, teaching.Stage{Key: "game", Name: "G", Kind: teaching.Game, Window: 2, Clean: 1})
		l.Ladders = append(l.Ladders, ld)
	}
	return l.Link()
}

func keep(list []string, pass func(string) bool) []string {
	var out []string
	for _, x := range list {
		if pass(x) {
			out = append(out, x)
		}
	}
	return out
}

// TestResolvedLibrariesAreWhole: whatever is chosen, nothing that is left points to
// something that is not there; resolving again changes nothing.
func TestResolvedLibrariesAreWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLibrary(t)
		for _, q := range l.Questions {
			l = school.Choose(l, q.Key, rapid.SampledFrom([]string{"a", "b"}).Draw(t, "choice"))
		}
		r := school.Resolve(l)
		for _, x := range r.Techniques {
			for _, f := range x.Faults {
				_, owner, ok := r.Checkpoint(f.Checkpoint)
				require.True(t, ok)
				require.Equal(t, x.Key, owner.Key)
			}
		}
		for _, d := range r.Drills {
			require.NotEmpty(t, d.Trains)
			require.NotEmpty(t, d.Technique)
			for _, k := range d.Trains {
				_, owner, ok := r.Checkpoint(k)
				require.True(t, ok)
				require.Contains(t, d.Techniques, owner.Key)
			}
			for _, k := range d.WorksOn {
				_, _, ok := r.Fault(k)
				require.True(t, ok)
			}
		}
		for _, ld := range r.Ladders {
			for _, s := range ld.Stages {
				for _, k := range s.Drills {
					_, ok := r.Drill(k)
					require.True(t, ok)
				}
			}
		}
		require.Equal(t, r, school.Resolve(r), "once is enough")
	})
}

// TestResolveDependsOnTheChoicesAlone: the order in which schools are chosen does not
// matter, and choosing back brings everything back.
func TestResolveDependsOnTheChoicesAlone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := anyLibrary(t)
		if len(l.Questions) < 2 {
			return
		}
		ab := school.Resolve(school.Choose(school.Choose(l, "q0", "b"), "q1", "b"))
		ba := school.Resolve(school.Choose(school.Choose(l, "q1", "b"), "q0", "b"))
		require.Equal(t, ab, ba)
		require.Equal(t, school.Resolve(l), school.Resolve(school.Choose(school.Choose(l, "q0", "b"), "q0", "a")))
	})
}

func TestResolveKeepsTheChosenSchool(t *testing.T) {
	lib := teachingtest.Library()
	a, b := school.Resolve(lib), school.Resolve(school.Choose(lib, "q", "b"))
	keys := func(l *teaching.Library) (points, faults, drills []string, stages int) {
		t, _ := l.Technique("t")
		for _, c := range t.Checkpoints {
			points = append(points, c.Key)
		}
		for _, f := range t.Faults {
			faults = append(faults, f.Key)
		}
		for _, d := range l.Drills {
			drills = append(drills, d.Key)
		}
		ld, _ := l.LadderOf("t")
		return points, faults, drills, len(ld.Stages)
	}
	points, faults, drills, stages := keys(a)
	assert.Equal(t, []string{"c", "ca"}, points)
	assert.Equal(t, []string{"f"}, faults, "a fault goes with its checkpoint")
	assert.Equal(t, []string{"low", "high"}, drills, "a drill that trains nothing goes")
	assert.Equal(t, 2, stages, "and a stage that has no drill left")
	low, _ := a.Drill("low")
	assert.Equal(t, []string{"f"}, low.WorksOn)
	points, faults, drills, stages = keys(b)
	assert.Equal(t, []string{"c", "cb"}, points)
	assert.Equal(t, []string{"f", "fb"}, faults)
	assert.Equal(t, []string{"low", "high", "onlyb"}, drills)
	assert.Equal(t, 3, stages)
	assert.Len(t, lib.Techniques[0].Checkpoints, 3, "the library itself is not changed")
}
