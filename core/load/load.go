package load

import (
	"math"
	"slices"
)

// What a jump is.
const (
	Weeks     = 4   // looked back
	Jump      = 0.3 // over the average
	LeastReps = 20  // of a week, below which nothing is flagged
)

// Reps are of a week.
type Reps struct{ All, High float64 }

// Given is what a drill of a day gives a player.
type Given struct {
	Player string
	Week   int
	Reps   float64
	High   bool // players meet each other in it
}

// Line is what the week asks of a player.
type Line struct {
	Player  string
	Planned Reps
	Average Reps // of the weeks before in which he had reps; 0 when there were fewer than two
	Over    Reps // how far over it the week is flagged, as a share; 0 when it is not
}

// Of sums up a week for every player who has reps in it, by name.
func Of(week int, given []Given) []Line {
	sums := map[string]map[int]*Reps{}
	for _, g := range given {
		if g.Week > week || g.Week < week-Weeks {
			continue
		}
		of := sums[g.Player]
		if of == nil {
			of = map[int]*Reps{}
			sums[g.Player] = of
		}
		if of[g.Week] == nil {
			of[g.Week] = &Reps{}
		}
		of[g.Week].All += g.Reps
		if g.High {
			of[g.Week].High += g.Reps
		}
	}
	var names []string
	for p := range sums {
		names = append(names, p)
	}
	slices.Sort(names)
	lines := []Line{}
	for _, p := range names {
		of := sums[p]
		if of[week] == nil {
			continue
		}
		l := Line{Player: p, Planned: *of[week]}
		l.Average = Reps{All: average(week, of, func(r Reps) float64 { return r.All }), High: average(week, of, func(r Reps) float64 { return r.High })}
		l.Over = Reps{All: over(l.Planned.All, l.Average.All), High: over(l.Planned.High, l.Average.High)}
		lines = append(lines, l)
	}
	return lines
}

// average is the mean of the weeks before in which there were reps.
func average(week int, of map[int]*Reps, which func(Reps) float64) float64 {
	sum, n := 0.0, 0
	for w := week - Weeks; w < week; w++ {
		if r := of[w]; r != nil && r.All > 0 {
			sum += which(*r)
			n++
		}
	}
	if n < 2 {
		return 0
	}
	return sum / float64(n)
}

// over is how far a number lies over its average when that is flagged.
func over(planned, average float64) float64 {
	if average <= 0 || planned < LeastReps {
		return 0
	}
	if x := planned/average - 1; x > Jump+1e-9 {
		return math.Round(x*1000) / 1000
	}
	return 0
}
