package invalid_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
)

func TestFieldNamesThePlace(t *testing.T) {
	err := invalid.Field("minutes", "minutes must be at least %d", 1)
	assert.EqualError(t, err, "minutes must be at least 1")
	e, ok := invalid.As(fmt.Errorf("saving: %w", err))
	require.True(t, ok, "it is found however deep it is wrapped")
	assert.Equal(t, "minutes", e.Field)
	_, ok = invalid.As(errors.New("the database is away"))
	assert.False(t, ok)
	_, ok = invalid.As(nil)
	assert.False(t, ok)
}

func TestIntRangeHoldsItsEnds(t *testing.T) {
	for v, ok := range map[int]bool{0: false, 1: true, 50: true, 51: false, -3: false} {
		err := invalid.IntRange("lanes", v, 1, 50)
		if ok {
			assert.NoError(t, err)
			continue
		}
		assert.EqualError(t, err, fmt.Sprintf("lanes must be between 1 and 50, got %d", v))
	}
}

func TestWithinPutsAFieldBelow(t *testing.T) {
	e, ok := invalid.As(invalid.Within("drills[1]", invalid.Field("minutes", "too long")))
	require.True(t, ok)
	assert.Equal(t, "drills[1].minutes", e.Field)
	e, ok = invalid.As(invalid.Within("drills[1]", invalid.Field("", "cannot be read")))
	require.True(t, ok)
	assert.Equal(t, "drills[1]", e.Field)
	other := errors.New("the database is away")
	assert.Same(t, other, invalid.Within("drills[1]", other))
	assert.NoError(t, invalid.Within("drills[1]", nil))
}
