package practice_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"nineyard/core/practice"
)

func ExampleMisplaced() {
	for _, says := range practice.Misplaced(120, []practice.Run{
		{Name: "Fit on the move", Technique: "tackle", Start: 14, Contact: practice.Control, Early: true},
		{Name: "Walk fit", Technique: "tackle", Start: 20, Early: true},
		{Name: "Tag at the sideline", Technique: "tackle", Start: 70, Early: true},
	}) {
		fmt.Println(says)
	}
	// Output:
	// Fit on the move (control) comes before Walk fit (air): contact rises from drill to drill
	// Tag at the sideline belongs into the first half of the practice: tired players lose their form
}

func TestMisplaced(t *testing.T) {
	for _, c := range []struct {
		name string
		runs []practice.Run
		says int
	}{
		{"none", nil, 0},
		{"in the middle it is late", []practice.Run{{Start: 60, Early: true}}, 1},
		{"a minute before it is not", []practice.Run{{Start: 59, Early: true}}, 0},
		{"conditioning is said once", []practice.Run{{Start: 100, Early: true, Conditioning: true}}, 1},
		{"bag before air is how one learns a step again", []practice.Run{{Start: 1, Contact: practice.Bag}, {Start: 2}}, 0},
		{"of another technique", []practice.Run{{Start: 1, Contact: practice.Thud, Technique: "a"}, {Start: 2, Technique: "b"}}, 0},
		{"as they are run, not as they are listed", []practice.Run{{Start: 9, Contact: practice.Thud}, {Start: 2, Contact: practice.Bag}}, 0},
	} {
		assert.Len(t, practice.Misplaced(120, c.runs), c.says, c.name)
	}
}

// TestRisingContactIsNeverMisplaced, whatever is run.
func TestRisingContactIsNeverMisplaced(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 8).Draw(t, "drills")
		runs := make([]practice.Run, n)
		level := practice.Air
		for i := range runs {
			level = min(practice.Live, level+practice.Contact(rapid.IntRange(0, 1).Draw(t, "step")))
			runs[i] = practice.Run{Start: i, Contact: level, Technique: rapid.SampledFrom([]string{"a", "b"}).Draw(t, "technique")}
		}
		assert.Empty(t, practice.Misplaced(120, rapid.Permutation(runs).Draw(t, "order")))
	})
}
