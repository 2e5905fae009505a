package calc

import (
	"math"

	"nineyard/core/agreement"
)

type alikeAnswer struct {
	Facet    *string  `json:"facet,omitempty"`
	N        int      `json:"n"`
	Observed *float64 `json:"observed"`
	Expected *float64 `json:"expected"`
	Kappa    *float64 `json:"kappa"`
}

func agreementOf(r *reader) func() (any, error) {
	facets := r.names("facets", true, agreement.MaxFacets)
	scale := agreement.Scale(r.oneOf("scale", true, string(agreement.Nominal), string(agreement.Ordinal)))
	var pairs []agreement.Pair
	value := func(r *reader, key string) int {
		return r.integer(key, true, 0, -agreement.MaxValue, agreement.MaxValue)
	}
	r.list("pairs", true, agreement.MaxPairs, func(r *reader) {
		pairs = append(pairs, agreement.Pair{Facet: r.text("facet", true), A: value(r, "a"), B: value(r, "b")})
	})
	return func() (any, error) {
		report, err := agreement.Of(scale, facets, pairs)
		if err != nil {
			return nil, err
		}
		list := make([]alikeAnswer, len(report.Facets))
		for i, a := range report.Facets {
			list[i] = alikeIn(a)
			list[i].Facet = &report.Facets[i].Facet
		}
		return struct {
			Facets  []alikeAnswer `json:"facets"`
			Overall alikeAnswer   `json:"overall"`
		}{list, alikeIn(report.Overall)}, nil
	}
}

func alikeIn(a agreement.Alike) alikeAnswer {
	number := func(v float64) *float64 {
		if math.IsNaN(v) {
			return nil
		}
		return &v
	}
	return alikeAnswer{N: a.N, Observed: number(a.Observed), Expected: number(a.Expected), Kappa: number(a.Kappa)}
}
