package readiness

import (
	"slices"
	"sort"

	"nineyard/core/season"
)

// What a probability is worth.
const (
	Likely = 0.9
	Even   = 0.5
)

// slack is how far below its threshold a probability may lie and still have reached it.
const slack = 1e-9

// Verdict is what is said of a call.
type Verdict string

// The verdicts.
const (
	Ready    Verdict = "ready"      // everybody who will be on the field has passed
	WillBe   Verdict = "will_be"    // Likely by the day of the install
	InDoubt  Verdict = "in_doubt"   // at least Even by that day
	WillNot  Verdict = "will_not"   // less than Even by that day
	NoDay    Verdict = "no_day"     // not ready, and no install is set
	NoLineUp Verdict = "no_line_up" // nobody is named for something that it needs
	NoNeeds  Verdict = "no_needs"   // nothing is said of what it needs
)

// Runner is a player on the field with his track on the ladder that is needed.
type Runner struct {
	Share int // of the snaps at the spot, 1–100 per cent
	Track Track
}

// Need is a stage that the players of some spots must have passed.
type Need struct {
	Stage int // index in the ladder
	Spots [][]Runner
}

// spot is how likely it is, after so many practices, that who stands at a spot has passed.
func (n Need) spot(i, practices int) float64 {
	sum, of := 0.0, 0
	for _, r := range n.Spots[i] {
		sum += float64(r.Share) * r.Track.At(n.Stage, practices)
		of += r.Share
	}
	if of == 0 {
		return 0
	}
	return sum / float64(of)
}

// At is how ready a need is after so many practices: as its least ready spot.
func (n Need) At(practices int) float64 {
	least := 1.0
	for i := range n.Spots {
		least = min(least, n.spot(i, practices))
	}
	return least
}

// has reports whether everybody has passed.
func (n Need) has() bool {
	for _, s := range n.Spots {
		for _, r := range s {
			if !r.Track.Has(n.Stage) {
				return false
			}
		}
	}
	return true
}

// Answer is how ready a call is.
type Answer struct {
	Verdict Verdict
	// After is how ready it is now and after each practice to come.
	After []float64
	// By is how ready it will be on the day of the install: after the practices before it. It
	// is that of now when the day is over or not set.
	By float64
	// Practices is how many of those there are.
	Practices int
	// Later is the first day after whose practice it is Likely to be ready; nil when there is
	// none, or it is ready by the install.
	Later *season.Date
}

// Before is how many of the days lie before a day.
func Before(days []season.Date, day season.Date) int {
	return sort.Search(len(days), func(i int) bool { return days[i] >= day })
}

// Of says how ready a call is. days are the practices to come, in order; install is nil when no day
// is set.
func Of(days []season.Date, install *season.Date, needs []Need) Answer {
	a := Answer{After: make([]float64, len(days)+1)}
	all, manned := true, true
	for _, n := range needs {
		manned = manned && len(n.Spots) > 0 && !slices.ContainsFunc(n.Spots, func(s []Runner) bool { return len(s) == 0 })
		all = all && n.has()
	}
	if len(needs) == 0 || !manned {
		a.Verdict = NoNeeds
		if len(needs) > 0 {
			a.Verdict = NoLineUp
		}
		return a
	}
	for k := range a.After {
		a.After[k] = 1
		for _, n := range needs {
			a.After[k] = min(a.After[k], n.At(k))
		}
	}
	if install != nil {
		a.Practices = Before(days, *install)
	}
	a.By = a.After[a.Practices]
	switch {
	case all:
		a.Verdict = Ready
	case install == nil:
		a.Verdict = NoDay
	case a.By >= Likely-slack:
		a.Verdict = WillBe
	case a.By >= Even-slack:
		a.Verdict = InDoubt
	default:
		a.Verdict = WillNot
	}
	if a.Verdict != Ready && a.Verdict != WillBe {
		for k, p := range a.After[1:] {
			if p >= Likely-slack {
				a.Later = &days[k]
				break
			}
		}
	}
	return a
}
