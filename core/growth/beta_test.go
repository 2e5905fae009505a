package growth

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mathext"
	"pgregory.net/rapid"
)

// TestQuantilesInvertTheDistribution over parameters as a prior and counts make them.
func TestQuantilesInvertTheDistribution(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		prior := rapid.Float64Range(1, 50).Draw(t, "prior")
		mu := rapid.Float64Range(0.01, 0.99).Draw(t, "mu")
		a := prior*mu + rapid.SampledFrom([]float64{0, 0.3, 7, 90, 1_900, 60_000}).Draw(t, "clean")*rapid.Float64Range(0, 1).Draw(t, "of")
		b := prior*(1-mu) + rapid.SampledFrom([]float64{0, 0.3, 7, 90, 1_900, 60_000}).Draw(t, "faulty")*rapid.Float64Range(0, 1).Draw(t, "of")
		p := rapid.Float64Range(0.005, 0.45).Draw(t, "p")
		low, high := quantiles(p, a, b)
		for _, x := range []struct{ p, at float64 }{{p, low}, {1 - p, high}} {
			under, above := mathext.RegIncBeta(a, b, math.Max(0, x.at-2e-9)), mathext.RegIncBeta(a, b, math.Min(1, x.at+2e-9))
			require.True(t, under <= x.p+1e-9 && above >= x.p-1e-9, "%v: %v … %v at %v", x.p, under, above, x.at)
		}
	})
}

// The values are from 40-digit arithmetic.
func TestQuantilesOfLargeParameters(t *testing.T) {
	for _, c := range []struct{ a, b, low, high float64 }{
		{2000, 2000, 0.48986885215845, 0.51013114784155},
		{2500, 90000, 0.026345950143959, 0.027712483415069},
		{60000.5, 2100, 0.96525112731791, 0.96711013721575},
		{1000000, 300000, 0.76875711341114, 0.76970424766871},
		{1000000, 2.3, 0.99999566982103, 0.99999930745458},
		{250000, 1999, 0.99184013735584, 0.99229304788093},
		{200000, 1999.5, 0.98981815816824, 0.99038268505019},
		{1000000000, 100000000, 0.90907980064553, 0.90910201721776},
		{50000000, 700, 0.99998531793887, 0.99998667388875},
		{20000, 20000, 0.49679613394954, 0.50320386605046},
		{20000, 1000000, 0.019432111666687, 0.019783977995755},
		{21000, 90000, 0.18768384918709, 0.19069692750253},
		{20000, 19.9, 0.99871203526008, 0.99927861558264},
		{30000, 25, 0.99894818906969, 0.9993723040696},
	} {
		low, high := quantiles(0.1, c.a, c.b)
		assert.InDelta(t, c.low, low, 2e-9, "%v", c)
		assert.InDelta(t, c.high, high, 2e-9, "%v", c)
		low, high = quantiles(0.1, c.b, c.a)
		assert.InDelta(t, 1-c.high, low, 2e-9, "%v", c)
		assert.InDelta(t, 1-c.low, high, 2e-9, "%v", c)
	}
}
