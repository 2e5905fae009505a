package growth_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/growth"
)

func ExampleImbalance() {
	fmt.Println(growth.Imbalance(growth.Count{Clean: 12, Faulty: 12}, growth.Count{Clean: 24, Faulty: 2}))
	// Output: Worse to the left: clean on 12 of 24, to the right on 24 of 26.
}

func TestImbalanceNeedsReps(t *testing.T) {
	assert.Empty(t, growth.Imbalance(growth.Count{Faulty: 11}, growth.Count{Clean: 40}), "eleven are too few")
	assert.NotEmpty(t, growth.Imbalance(growth.Count{Faulty: 12}, growth.Count{Clean: 40}))
}

// TestImbalanceIsSaidWhenItIsNearlySure: 12 of 20 beside 17 of 20 is worse at 96 in 100, which
// among sixty pairs is chance.
func TestImbalanceIsSaidWhenItIsNearlySure(t *testing.T) {
	left, right := growth.Count{Clean: 12, Faulty: 8}, growth.Count{Clean: 17, Faulty: 3}
	p := growth.PGreater(right, left)
	require.True(t, p > 0.95 && p < 0.99, "%v", p)
	assert.Empty(t, growth.Imbalance(left, right))
}

// TestImbalanceIsMirrored: exchanging the sides exchanges the words and nothing else.
func TestImbalanceIsMirrored(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		count := rapid.Custom(func(t *rapid.T) growth.Count {
			return growth.Count{Clean: rapid.IntRange(0, 60).Draw(t, "clean"), Faulty: rapid.IntRange(0, 30).Draw(t, "faulty")}
		})
		left, right := count.Draw(t, "left"), count.Draw(t, "right")
		a, b := growth.Imbalance(left, right), growth.Imbalance(right, left)
		require.Equal(t, a, strings.NewReplacer("left", "right", "right", "left").Replace(b))
	})
}
