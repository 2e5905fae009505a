package agreement

import (
	"fmt"
	"math"

	"nineyard/core/invalid"
)

// Scale says how far apart two values are.
type Scale string

// The scales: of a nominal one two values are the same or not, of an ordinal one the nearer the better.
const (
	Nominal Scale = "nominal"
	Ordinal Scale = "ordinal"
)

// MaxPairs and MaxFacets bound what is looked at in one go, MaxValue a value either way.
const (
	MaxPairs  = 1_000_000
	MaxFacets = 100
	MaxValue  = 1_000_000
)

// Pair is what two coaches said of one facet of one rep.
type Pair struct {
	Facet string
	A, B  int
}

// Alike is how far they agree. Observed, Expected and Kappa are fractions, NaN where there is no pair;
// Kappa is NaN as well where both said one and the same of everything, for chance would do as well.
type Alike struct {
	Facet    string // empty for all pairs together
	N        int
	Observed float64
	Expected float64
	Kappa    float64
}

// Report is the result of Of.
type Report struct {
	Facets  []Alike // in the order in which they were asked for
	Overall Alike   // over all pairs together
}

// Of compares two coaches facet by facet and over all pairs. It returns an invalid.Error for an unknown
// scale, a facet named twice or not asked for, a value beyond ±MaxValue, and more than MaxPairs pairs.
func Of(scale Scale, facets []string, pairs []Pair) (Report, error) {
	if scale != Nominal && scale != Ordinal {
		return Report{}, invalid.Field("scale", "scale must be nominal or ordinal, got %q", scale)
	}
	if len(facets) > MaxFacets {
		return Report{}, invalid.Field("facets", "facets has more than %d items", MaxFacets)
	}
	if len(pairs) > MaxPairs {
		return Report{}, invalid.Field("pairs", "pairs has more than %d items", MaxPairs)
	}
	of := map[string][]Pair{}
	for i, f := range facets {
		if _, twice := of[f]; twice {
			return Report{}, invalid.Field(fmt.Sprintf("facets[%d]", i), "facets[%d] names %q a second time", i, f)
		}
		of[f] = nil
	}
	for i, p := range pairs {
		if _, known := of[p.Facet]; !known {
			return Report{}, invalid.Field(fmt.Sprintf("pairs[%d].facet", i), "pairs[%d].facet is %q, which is not among the facets", i, p.Facet)
		}
		for _, v := range []struct {
			key  string
			said int
		}{{"a", p.A}, {"b", p.B}} {
			if err := invalid.IntRange(fmt.Sprintf("pairs[%d].%s", i, v.key), v.said, -MaxValue, MaxValue); err != nil {
				return Report{}, err
			}
		}
		of[p.Facet] = append(of[p.Facet], p)
	}
	r := Report{Overall: alike(scale, "", pairs)}
	for _, f := range facets {
		r.Facets = append(r.Facets, alike(scale, f, of[f]))
	}
	return r, nil
}

func alike(scale Scale, facet string, pairs []Pair) Alike {
	a := Alike{Facet: facet, N: len(pairs), Observed: math.NaN(), Expected: math.NaN(), Kappa: math.NaN()}
	if len(pairs) == 0 {
		return a
	}
	low, high := pairs[0].A, pairs[0].A
	for _, p := range pairs {
		low, high = min(low, p.A, p.B), max(high, p.A, p.B)
	}
	weigh := same
	if scale == Ordinal {
		weigh = near
	}
	a.Observed, a.Expected = weigh(pairs, low, high)
	// Chance agrees on everything exactly when there is but one value: told by the values, for a
	// quotient may come out beside 1.
	if low < high {
		a.Kappa = (a.Observed - a.Expected) / (1 - a.Expected)
	}
	return a
}

// same counts pairs, and pairings, that say the same.
func same(pairs []Pair, _, _ int) (observed, expected float64) {
	said, equal := map[int]int{}, 0
	for _, p := range pairs {
		said[p.A]++
		if p.A == p.B {
			equal++
		}
	}
	pairings := 0 // at most 10¹²
	for _, p := range pairs {
		pairings += said[p.B]
	}
	n := float64(len(pairs))
	return float64(equal) / n, float64(pairings) / (n * n)
}

// near weighs pairs, and pairings, by the square of their distance, whose mean over all pairings is
// (Σa² + Σb²)/n − 2 (Σa/n)(Σb/n). The sums are whole numbers below 2⁶³.
func near(pairs []Pair, low, high int) (observed, expected float64) {
	if low == high {
		return 1, 1
	}
	var apart, squares, sumA, sumB int64
	for _, p := range pairs {
		a, b := int64(p.A-low), int64(p.B-low)
		apart += (a - b) * (a - b)
		squares += a*a + b*b
		sumA += a
		sumB += b
	}
	n, span := float64(len(pairs)), float64(high-low)
	return 1 - float64(apart)/n/span/span, 1 - (float64(squares)/n-2*(float64(sumA)/n)*(float64(sumB)/n))/span/span
}
