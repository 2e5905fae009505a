package agreement_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/agreement"
	"nineyard/core/invalid"
)

func ExampleOf() {
	// Ten reps: both say right of six and wrong of two, and they differ on two.
	var pairs []agreement.Pair
	for range 6 {
		pairs = append(pairs, agreement.Pair{Facet: "technique", A: 1, B: 1})
	}
	for range 2 {
		pairs = append(pairs, agreement.Pair{Facet: "technique", A: 0, B: 0}, agreement.Pair{Facet: "technique", A: 1, B: 0})
	}
	r, _ := agreement.Of(agreement.Nominal, []string{"technique"}, pairs)
	a := r.Facets[0]
	fmt.Printf("%d reps: observed %.2f, by chance %.2f, kappa %.3f", a.N, a.Observed, a.Expected, a.Kappa)
	// Output: 10 reps: observed 0.80, by chance 0.56, kappa 0.545
}

// TestByHand: n, observed, expected and kappa worked out on paper.
func TestByHand(t *testing.T) {
	none := math.NaN()
	for name, c := range map[string]struct {
		scale                     agreement.Scale
		pairs                     [][2]int
		observed, expected, kappa float64
	}{
		"nothing":             {agreement.Nominal, nil, none, none, none},
		"one value":           {agreement.Nominal, [][2]int{{1, 1}, {1, 1}}, 1, 1, none},
		"one value, in order": {agreement.Ordinal, [][2]int{{3, 3}}, 1, 1, none},
		"never":               {agreement.Nominal, [][2]int{{1, 0}, {0, 1}}, 0, .5, -1},
		// a: 0 1 2 2, b: 0 2 2 1. Pairings that agree: 0: 1·1, 1: 1·1, 2: 2·2, of 16.
		"three values": {agreement.Nominal, [][2]int{{0, 0}, {1, 2}, {2, 2}, {2, 1}}, .5, 6. / 16, .2},
		// The same on a scale of 0 to 2: two pairs are a step apart, 1 − 1/4. Pairings: squares of distance
		// from 0: 0 4 4 1, from 1: 1 1 1 0, from 2 twice: 4 0 0 1; sum 22 of 16·4.
		"in order": {agreement.Ordinal, [][2]int{{0, 0}, {1, 2}, {2, 2}, {2, 1}}, 1 - 2./16, 1 - 22./64, 1 - (2./16)/(22./64)},
	} {
		pairs := make([]agreement.Pair, len(c.pairs))
		for i, p := range c.pairs {
			pairs[i] = agreement.Pair{Facet: "grade", A: p[0], B: p[1]}
		}
		r, err := agreement.Of(c.scale, []string{"grade"}, pairs)
		require.NoError(t, err, name)
		for _, a := range []agreement.Alike{r.Facets[0], r.Overall} {
			assert.Equal(t, len(c.pairs), a.N, name)
			for i, w := range [][2]float64{{c.observed, a.Observed}, {c.expected, a.Expected}, {c.kappa, a.Kappa}} {
				if math.IsNaN(w[0]) {
					assert.True(t, math.IsNaN(w[1]), "%s, number %d is %v", name, i, w[1])
				} else {
					assert.InDelta(t, w[0], w[1], 1e-12, "%s, number %d", name, i)
				}
			}
		}
	}
}

// TestAsDefined: the sums are those of the definition, pairing by pairing.
func TestAsDefined(t *testing.T) {
	value := rapid.IntRange(-3, 3)
	rapid.Check(t, func(t *rapid.T) {
		scale := rapid.SampledFrom([]agreement.Scale{agreement.Nominal, agreement.Ordinal}).Draw(t, "scale")
		pairs := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) agreement.Pair {
			return agreement.Pair{Facet: rapid.SampledFrom([]string{"assignment", "technique"}).Draw(t, "facet"), A: value.Draw(t, "a"), B: value.Draw(t, "b")}
		}), 1, 30).Draw(t, "pairs")
		r, err := agreement.Of(scale, []string{"technique", "assignment"}, pairs)
		require.NoError(t, err)
		require.Equal(t, len(pairs), r.Facets[0].N+r.Facets[1].N)
		low, high := 9, -9
		for _, p := range pairs {
			low, high = min(low, p.A, p.B), max(high, p.A, p.B)
		}
		weight := func(a, b int) float64 {
			switch {
			case a == b:
				return 1
			case scale == agreement.Nominal:
				return 0
			}
			d := float64(a-b) / float64(high-low)
			return 1 - d*d
		}
		var observed, expected float64
		for _, p := range pairs {
			observed += weight(p.A, p.B) / float64(len(pairs))
			for _, q := range pairs {
				expected += weight(p.A, q.B) / float64(len(pairs)*len(pairs))
			}
		}
		require.InDelta(t, observed, r.Overall.Observed, 1e-9)
		require.InDelta(t, expected, r.Overall.Expected, 1e-9)
		require.Equal(t, low == high, math.IsNaN(r.Overall.Kappa))
		if low < high {
			require.InDelta(t, (observed-expected)/(1-expected), r.Overall.Kappa, 1e-6)
			require.LessOrEqual(t, r.Overall.Kappa, 1+1e-9)
		}
	})
}

func TestRefused(t *testing.T) {
	ok := []string{"technique"}
	for field, of := range map[string]func() (agreement.Report, error){
		"scale":     func() (agreement.Report, error) { return agreement.Of("fine", ok, nil) },
		"facets":    func() (agreement.Report, error) { return agreement.Of(agreement.Nominal, make([]string, 101), nil) },
		"facets[1]": func() (agreement.Report, error) { return agreement.Of(agreement.Nominal, []string{"a", "a"}, nil) },
		"pairs": func() (agreement.Report, error) {
			return agreement.Of(agreement.Nominal, ok, make([]agreement.Pair, agreement.MaxPairs+1))
		},
		"pairs[0].facet": func() (agreement.Report, error) {
			return agreement.Of(agreement.Nominal, ok, []agreement.Pair{{Facet: "finish"}})
		},
		"pairs[0].b": func() (agreement.Report, error) {
			return agreement.Of(agreement.Nominal, ok, []agreement.Pair{{Facet: "technique", B: agreement.MaxValue + 1}})
		},
	} {
		_, err := of()
		e, bad := invalid.As(err)
		if assert.True(t, bad, field) {
			assert.Equal(t, field, e.Field)
		}
	}
}
