package crew

import (
	"math"

	"nineyard/core/teaching"
)

// Numbers by which what a ladder costs is told.
const (
	CleanShare    = .8 // of a new player's reps
	PracticesWeek = 3
	OwnMinutes    = 20 // that a group has for itself in a practice
)

// usual is how many players a group has.
var usual = map[string]int{"ol": 9, "te": 4, "wr": 8, "rb": 4, "qb": 3, "dl": 8, "lb": 6, "db": 9, "units": 12, "sp": 5}

// UsualPlayers is how many players a group usually has; eight where its key says nothing.
func UsualPlayers(group string) int {
	if n, ok := usual[group]; ok {
		return n
	}
	return 8
}

// SeasonMinutes is what a group has of its own in so many weeks of three practices with twenty minutes each.
func SeasonMinutes(weeks int) int { return weeks * PracticesWeek * OwnMinutes }

// StageMinutes is how long a new player works at a stage before its gate is passed: the clean reps that are asked, by the
// share of his reps that are clean, over the reps that the group's first drill of the stage gives a player a minute with as
// many as the group usually has.
// A game stage takes no practice. It is +Inf where the drill gives them no rep.
func StageMinutes(lib *teaching.Library, s teaching.Stage, group string, clean float64) float64 {
	drills := s.DrillsOf(group)
	if s.Kind == teaching.Game || len(drills) == 0 {
		return 0
	}
	d, ok := lib.Drill(drills[0])
	if !ok {
		return 0
	}
	_, y, _ := Planned(d, Attendance{Players: UsualPlayers(group)}, d.Minutes, d.Lanes)
	if y.PerPlayer.Mean == 0 {
		return math.Inf(1)
	}
	return float64(s.Clean) / clean * float64(d.Minutes) / y.PerPlayer.Mean
}

// LadderMinutes is StageMinutes over all stages of a ladder.
func LadderMinutes(lib *teaching.Library, ld teaching.Ladder, group string, clean float64) (sum float64) {
	for _, s := range ld.Stages {
		sum += StageMinutes(lib, s, group, clean)
	}
	return sum
}
