package growth

import (
	"math"
	"slices"
)

// slack is how near a value may lie to a threshold to count as having reached it.
const slack = 1e-9

// worded puts a probability into one of three words.
func worded[T any](p, low float64, above, below, between T) T {
	switch {
	case p >= 0.9-slack:
		return above
	case p <= low+slack:
		return below
	}
	return between
}

func trendOf(p float64) Trend   { return worded(p, 0.1, Improving, Slipping, Steady) }
func carryOf(p float64) Carry   { return worded(p, 0.5, NotCarrying, Carrying, Unclear) }
func betterOf(p float64) Better { return worded(p, 0.1, LeftBetter, RightBetter, Even) }

// trend fills in a row's trend.
func (e *Estimate) trend(c comparison, ok bool, s Settings) {
	e.Trend, e.Recent, e.Older = TooFew, c.a.count(), c.b.count()
	if ok && c.enough(s) {
		e.PImproved = phi(c.delta * math.Sqrt(c.w))
		e.Trend = trendOf(e.PImproved)
	}
}

// carry fills in a row's carry-over.
func (e *Estimate) carry(c comparison, ok bool, s Settings) {
	e.Carry, e.CarryPractice, e.CarryGame = CarryTooFew, c.a.count(), c.b.count()
	if ok && c.enough(s) {
		e.PDrop = phi(towards0(c.delta, c.h) * math.Sqrt(c.w))
		e.Carry = carryOf(e.PDrop)
	}
}

// sides fills in a row's sides.
func (e *Estimate) sides(c comparison, ok bool, s Settings) {
	e.Sides, e.Left, e.Right = SidesTooFew, c.a.count(), c.b.count()
	if ok && c.enough(s) {
		e.PLeftBetter = phi(towards0(c.delta, c.h) * math.Sqrt(c.w))
		e.Sides = betterOf(e.PLeftBetter)
	}
}

// claim marks what may be spoken of, each of the five families by itself.
func claim(r *Report, level float64) {
	claimed(r.Rows, level, func(e *Estimate) (float64, bool, *bool) {
		return twoSided(e.PImproved), e.Trend != TooFew, &e.TrendClaimed
	})
	claimed(r.Rows, level, func(e *Estimate) (float64, bool, *bool) { return 1 - e.PDrop, e.Carry != CarryTooFew, &e.CarryClaimed })
	claimed(r.Rows, level, func(e *Estimate) (float64, bool, *bool) {
		return twoSided(e.PLeftBetter), e.Sides != SidesTooFew, &e.SidesClaimed
	})
	claimed(r.Players, level, func(p *Player) (float64, bool, *bool) {
		return twoSided(p.PImproved), p.Trend != TooFew, &p.TrendClaimed
	})
	claimed(r.Players, level, func(p *Player) (float64, bool, *bool) { return 1 - p.PDrop, p.Carry != CarryTooFew, &p.CarryClaimed })
}

func twoSided(p float64) float64 { return 2 * min(p, 1-p) }

// claimed sets the claims of one family. of returns a member's value, whether it has one,
// and where its claim stands.
func claimed[T any](list []T, level float64, of func(*T) (float64, bool, *bool)) {
	values := make([]float64, 0, len(list))
	for i := range list {
		if v, has, _ := of(&list[i]); has {
			values = append(values, v)
		}
	}
	cut := benjaminiHochberg(values, level)
	for i := range list {
		v, has, claim := of(&list[i])
		*claim = has && v <= cut+slack
	}
}

// benjaminiHochberg returns the largest value v₍ⱼ₎ of m with v₍ⱼ₎ ≤ j/m·level, or −1. It
// sorts its argument.
func benjaminiHochberg(v []float64, level float64) float64 {
	slices.Sort(v)
	for j := len(v); j >= 1; j-- {
		if v[j-1] <= float64(j)/float64(len(v))*level+slack {
			return v[j-1]
		}
	}
	return -1
}
