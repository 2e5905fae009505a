package standard_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/standard"
)

func ExampleMeasure_Judge() {
	most := 16.0
	firstStep := standard.Measure{Unit: "in", Target: 7, OK: standard.Band{Low: 5, High: 10}, Watch: standard.Band{Low: 3, High: 13}, Max: &most, Read: "line"}
	for _, v := range []float64{7, 12, 14, 17} {
		fmt.Println(v, firstStep.Judge(v))
	}
	// A longer player may take a longer step, but never beyond the hard limit.
	his, err := firstStep.For(standard.OwnRange{OK: standard.Band{Low: 6, High: 12}, Watch: standard.Band{Low: 4, High: 15}})
	fmt.Println(12, his.Judge(12), err)
	_, err = firstStep.For(standard.OwnRange{OK: standard.Band{Low: 6, High: 12}, Watch: standard.Band{Low: 4, High: 18}})
	fmt.Println(err)
	// Output:
	// 7 right
	// 12 watch
	// 14 beyond
	// 17 never
	// 12 right <nil>
	// the hard limit 16 lies inside the watch band to 18
}

// TestJudgeIsMonotone: moving away from the target never makes the verdict better, and
// the bands mean what they say.
func TestJudgeIsMonotone(t *testing.T) {
	rank := map[standard.Verdict]int{standard.Right: 0, standard.Watch: 1, standard.Beyond: 2, standard.Never: 3}
	rapid.Check(t, func(t *rapid.T) {
		cut := rapid.SliceOfN(rapid.Float64Range(-50, 50), 7, 7).Draw(t, "cuts")
		slices.Sort(cut)
		m := standard.Measure{Unit: "in", Read: "line", Min: &cut[0], Watch: standard.Band{Low: cut[1], High: cut[5]}, OK: standard.Band{Low: cut[2], High: cut[4]}, Target: cut[3], Max: &cut[6]}
		_, err := m.For(standard.OwnRange{OK: m.OK, Watch: m.Watch})
		require.NoError(t, err, "its own ranges are a range like any other")
		v := rapid.Float64Range(-60, 60).Draw(t, "value")
		further := v + (v-m.Target)*rapid.Float64Range(0, 2).Draw(t, "further")
		require.GreaterOrEqual(t, rank[m.Judge(further)], rank[m.Judge(v)])
		require.Equal(t, v < cut[0] || v > cut[6], m.Judge(v) == standard.Never)
		require.Equal(t, v >= cut[2] && v <= cut[4], m.Judge(v) == standard.Right)
		require.Equal(t, v < cut[1] || v > cut[5], m.Judge(v).Faulty())
	})
}

func TestAnOwnRangeNamesTheField(t *testing.T) {
	least := 2.0
	m := standard.Measure{Unit: "yd", Read: "cone", Target: 5, OK: standard.Band{Low: 4, High: 6}, Watch: standard.Band{Low: 3, High: 7}, Min: &least}
	for field, x := range map[string]standard.OwnRange{
		"ok":    {OK: standard.Band{Low: 6, High: 4}, Watch: standard.Band{Low: 3, High: 7}},
		"watch": {OK: standard.Band{Low: 4, High: 6}, Watch: standard.Band{Low: 5, High: 7}},
		"min":   {OK: standard.Band{Low: 4, High: 6}, Watch: standard.Band{Low: 1, High: 7}},
	} {
		_, err := m.For(x)
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
}
