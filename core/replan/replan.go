// Package replan shortens a practice that runs late: which periods keep how many of their
// minutes, so that what is left is worth most.
//
// A period of planned minutes p that is worth v gives v·f(m/p) when it keeps m of them, with
// f(x) = 1 − (1 − x)²: the first minutes teach most. Each keeps between its least and its planned
// minutes, or none when it may be dropped. The answer is the exact optimum; of answers within
// 1e-9 of it the one with the fewest changed periods, then the one that keeps earlier periods
// longer. Water has a least of all its minutes: it is never cut.
package replan

import (
	"fmt"
	"math"

	"nineyard/core/invalid"
)

// Bounds of a question.
const (
	MaxPeriods   = 40
	MaxAvailable = 300 // minutes
	MaxPlanned   = 1440
	MaxValue     = 1e6
)

// Period is what is left of a script, in its order.
type Period struct {
	Key       string
	Planned   int // minutes, ≥ 1
	Min       int // that it keeps if it is not dropped, 0 to Planned
	Droppable bool
	Value     float64 // of all its minutes, ≥ 0
}

// Plan is what each period keeps.
type Plan struct {
	Minutes   []int   // in the order of the periods; 0: dropped
	Value     float64 // of what is kept
	FullValue float64 // if nothing were cut
}

// worth is the value of keeping m minutes.
func (p Period) worth(m int) float64 {
	left := 1 - float64(m)/float64(p.Planned)
	return p.Value * (1 - left*left)
}

// allows reports whether the period may keep m minutes.
func (p Period) allows(m int) bool { return m >= p.Min && m <= p.Planned || m == 0 && p.Droppable }

// Least is the fewest minutes that the periods can be brought down to.
func Least(periods []Period) (n int) {
	for _, p := range periods {
		if !p.Droppable {
			n += p.Min
		}
	}
	return n
}

func check(available int, periods []Period) error {
	if err := invalid.IntRange("available", available, 0, MaxAvailable); err != nil {
		return err
	}
	if len(periods) > MaxPeriods {
		return invalid.Field("periods", "at most %d periods, got %d", MaxPeriods, len(periods))
	}
	seen := map[string]bool{}
	for i, p := range periods {
		at := fmt.Sprintf("periods[%d].", i)
		if p.Key == "" || seen[p.Key] {
			return invalid.Field(at+"key", "%skey is empty or there before: %q", at, p.Key)
		}
		seen[p.Key] = true
		if err := invalid.IntRange(at+"planned", p.Planned, 1, MaxPlanned); err != nil {
			return err
		}
		if err := invalid.IntRange(at+"min", p.Min, 0, p.Planned); err != nil {
			return err
		}
		if !(p.Value >= 0 && p.Value <= MaxValue) {
			return invalid.Field(at+"value", "%svalue must be between 0 and %g, got %v", at, MaxValue, p.Value)
		}
	}
	if least := Least(periods); least > available {
		return invalid.Field("available", "%d minutes are too few: what may not be dropped needs at least %d", available, least)
	}
	return nil
}

// tie is how far values may lie apart and still be equal.
const tie = 1e-9

// Of returns the best plan for the minutes available. It returns an invalid.Error naming the
// field for input out of range, and on "available" with the least minutes needed when they are
// not there.
//
// best(i, c, u) is the most that the periods from i on can give in c minutes when u of them keep
// all of theirs. There are few u for long periods and few m for short ones, so that the time
// grows with periods times the square of the minutes at most.
func Of(available int, periods []Period) (Plan, error) {
	if err := check(available, periods); err != nil {
		return Plan{}, err
	}
	t := tableOf(available, periods)
	n, c, u := len(periods), available, 0
	optimum := math.Inf(-1)
	for k := range t.whole + 1 {
		optimum = max(optimum, t.at(0, c, k))
	}
	slack := tie * max(1, optimum/1e4) // beyond which rounding is more
	for k := range t.whole + 1 {
		if t.at(0, c, k) >= optimum-slack {
			u = k // the most that keep all: the fewest that are changed
		}
	}
	plan := Plan{Minutes: make([]int, n)}
	for i, p := range periods {
		plan.FullValue += p.Value
		for m := min(p.Planned, c); m >= 0; m-- {
			keeps := 0
			if m == p.Planned {
				keeps = 1
			}
			if keeps > u || !p.allows(m) || plan.Value+p.worth(m)+t.at(i+1, c-m, u-keeps) < optimum-slack {
				continue
			}
			plan.Minutes[i], plan.Value = m, plan.Value+p.worth(m)
			c, u = c-m, u-keeps
			break
		}
	}
	return plan, nil
}

// table holds best(i, c, u).
type table struct {
	available, whole int // minutes, and how many periods can keep all of theirs at most
	best             []float64
}

func (t table) index(i, c, u int) int { return (i*(t.whole+1)+u)*(t.available+1) + c }

func (t table) at(i, c, u int) float64 { return t.best[t.index(i, c, u)] }

func tableOf(available int, periods []Period) table {
	t := table{available: available, whole: wholes(available, periods)}
	t.best = make([]float64, (len(periods)+1)*(t.whole+1)*(available+1))
	for i := range t.best {
		t.best[i] = math.Inf(-1)
	}
	for c := range available + 1 {
		t.best[t.index(len(periods), c, 0)] = 0
	}
	for i := len(periods) - 1; i >= 0; i-- {
		p := periods[i]
		for u := range t.whole + 1 {
			into := t.best[t.index(i, 0, u):][:available+1]
			take := func(m, u int) {
				if u < 0 {
					return
				}
				worth, from := p.worth(m), t.best[t.index(i+1, 0, u):][:available+1]
				for c := m; c <= available; c++ {
					into[c] = max(into[c], worth+from[c-m])
				}
			}
			if p.Droppable && p.Min > 0 {
				take(0, u)
			}
			for m := p.Min; m < p.Planned && m <= available; m++ {
				take(m, u)
			}
			if p.Planned <= available {
				take(p.Planned, u-1)
			}
		}
	}
	return t
}

// wholes is how many periods can keep all of their minutes at most: the shortest ones.
func wholes(available int, periods []Period) int {
	var of [MaxAvailable + 1]int
	for _, p := range periods {
		if p.Planned <= available {
			of[p.Planned]++
		}
	}
	n, left := 0, available
	for m := 1; m <= available; m++ {
		fit := min(of[m], left/m)
		n, left = n+fit, left-fit*m
	}
	return n
}
