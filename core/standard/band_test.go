package standard_test

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/standard"
)

func TestABandMayBeOpenOnASide(t *testing.T) {
	for text, want := range map[string]standard.Band{
		`[1,2.5]`: {Low: 1, High: 2.5}, `[1,null]`: {Low: 1, High: math.Inf(1)}, `[null,-3]`: {Low: math.Inf(-1), High: -3}, `[null,null]`: {Low: math.Inf(-1), High: math.Inf(1)},
	} {
		var b standard.Band
		require.NoError(t, json.Unmarshal([]byte(text), &b))
		assert.Equal(t, want, b)
		again, err := json.Marshal(b)
		require.NoError(t, err)
		assert.Equal(t, text, string(again))
	}
	for _, text := range []string{`[1]`, `[1,2,3]`, `{}`, `["a",1]`} {
		assert.Error(t, json.Unmarshal([]byte(text), new(standard.Band)), text)
	}
	still := standard.Measure{Unit: "s", Read: "clock", Target: 1, OK: standard.Band{Low: 1, High: math.Inf(1)}, Watch: standard.Band{Low: .5, High: math.Inf(1)}}
	require.NoError(t, still.Check())
	assert.Equal(t, standard.Right, still.Judge(3600))
	assert.Equal(t, standard.Watch, still.Judge(.7))
	assert.Equal(t, standard.Beyond, still.Judge(.2))
}
