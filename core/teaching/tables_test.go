package teaching_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nineyard/core/teaching"
)

// TestAskedMoreWithMoreToGo by hand: a yard more for each five beyond ten, so twelve deep is thirteen from 15 to go on.
func TestAskedMoreWithMoreToGo(t *testing.T) {
	tb := teaching.Table{Add: teaching.Add{Column: "depth", By: 1, Per: 5, Beyond: 10}}
	row := teaching.Row{Call: "free", Numbers: map[string]float64{"depth": 12, "width": 0}}
	assert.Equal(t, []teaching.Longer{{15, 13}, {20, 14}, {25, 15}, {30, 16}, {35, 17}, {40, 18}}, tb.Longer(row, "depth"))
	assert.Empty(t, tb.Longer(row, "width"), "of another column")
	assert.Empty(t, tb.Longer(teaching.Row{Call: "words only"}, "depth"))
	assert.Empty(t, teaching.Table{}.Longer(row, "depth"))
	tb.Add = teaching.Add{Column: "depth", By: -.5, Per: 2.5, Beyond: 36}
	assert.Equal(t, []teaching.Longer{{39, 11.5}}, tb.Longer(row, "depth"))
}
