package load

import (
	"cmp"
	"slices"

	"nineyard/core/season"
	"nineyard/core/teaching"
)

// What is counted of a player beside his reps.
const (
	Throws = "throws"
	Kicks  = "kicks"
	Sprint = "sprint_yd" // yards
)

// Counts are what a rep takes out of the player working, by what is counted.
func Counts(l teaching.Load) map[string]float64 {
	counts := map[string]float64{}
	for what, n := range map[string]float64{Throws: float64(l.Throws), Kicks: float64(l.Kicks), Sprint: l.SprintYd} {
		if n > 0 {
			counts[what] = n
		}
	}
	return counts
}

// Strain is what a drill of a day counts for a player.
type Strain struct {
	Player string
	On     season.Date
	What   string // Throws, Kicks or Sprint
	N      float64
}

// Limits are the house's: how much a day of what, and after how many days in a row of throws or kicks a player rests. What
// is not there, and 0, is not checked.
type Limits struct {
	Day       map[string]int
	RestAfter int
}

// Strained is a day that asks too much of a player.
type Strained struct {
	Player string
	On     season.Date
	What   string
	N      float64 // of the day
	Limit  int     // it is over; 0 when it is not
	Days   int     // it is the how manieth in a row, when he should rest; 0 when he need not
}

// Over lists the days that ask more of a player than the house lets them: more than the limit of a day, or throws or kicks
// on more days in a row than it lets pass without a rest. By day, then by player and by what. Arms and legs
// differ: it is an example for the staff's judgement, not advice on health.
func Over(limits Limits, list []Strain) []Strained {
	type key struct {
		player, what string
		on           season.Date
	}
	sums := map[key]float64{}
	for _, s := range list {
		if s.N > 0 {
			sums[key{s.Player, s.What, s.On}] += s.N
		}
	}
	out := []Strained{}
	for k, n := range sums {
		x := Strained{Player: k.player, On: k.on, What: k.what, N: n}
		if most := limits.Day[k.what]; most > 0 && n > float64(most) {
			x.Limit = most
		}
		if k.what != Sprint && limits.RestAfter > 0 {
			days := 1
			for sums[key{k.player, k.what, k.on - season.Date(days)}] > 0 {
				days++
			}
			if days > limits.RestAfter {
				x.Days = days
			}
		}
		if x.Limit > 0 || x.Days > 0 {
			out = append(out, x)
		}
	}
	slices.SortFunc(out, func(a, b Strained) int {
		return cmp.Or(cmp.Compare(a.On, b.On), cmp.Compare(a.Player, b.Player), cmp.Compare(a.What, b.What))
	})
	return out
}
