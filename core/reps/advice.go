package reps

import (
	"fmt"
	"math"
)

// Thresholds of Advise. They are house values: fewer reps than fewReps teach
// little in one block, and a player who stands for more than longWait of it cools off.
const (
	fewReps  = 6
	longWait = 0.75
	worth    = 1.25 // a remedy must give at least this many times the reps
)

// Advise returns one plain sentence about a block that gives poor value, or ""
// when it is good enough. Poor means that a player gets fewer than six reps, or
// waits more than three quarters of the time while more lanes would give him at
// least a quarter more reps. The sentence names the remedy: the fewest lanes that
// give enough reps, or as many as the players can fill; failing that, the minutes.
func Advise(b Block) string {
	y, err := Of(b)
	if err != nil {
		return err.Error()
	}
	if y.Cycles == 0 {
		return fmt.Sprintf("%s is too short: setting up takes %s and no rep fits.",
			count(b.Minutes, "minute", "minutes"), clock(b.SetupSeconds))
	}
	lanes, better := moreLanes(b, y)
	short := y.PerPlayer.Min < fewReps
	if !short && (y.WaitingShare <= longWait || lanes == 0) {
		return ""
	}
	head := fmt.Sprintf("%s, %s: %s", count(b.Players+b.HelpOnly, "player", "players"), count(y.LanesUsed, "lane", "lanes"), waits(b, y))
	if lanes > 0 {
		return fmt.Sprintf("%s; %s would give %s.", head,
			count(lanes, "lane", "lanes"), count(better.PerPlayer.Min, "rep", "reps"))
	}
	if m := b.minutesFor(fewReps, y.LanesUsed); m > 0 {
		return fmt.Sprintf("%s and gets %s; %d minutes would give %d.", head,
			count(y.PerPlayer.Min, "rep", "reps"), m, fewReps)
	}
	return fmt.Sprintf("%s and gets %s.", head, count(y.PerPlayer.Min, "rep", "reps"))
}

// moreLanes looks for the fewest lanes above those used that give everyone enough
// reps, else for the most that the players can fill, if that is worth the moving.
func moreLanes(b Block, y Yield) (int, Yield) {
	most := min(50, b.fill())
	for l := y.LanesUsed + 1; l <= most; l++ {
		b.Lanes = l
		z, err := Of(b)
		if err != nil || z.PerPlayer.Mean < worth*y.PerPlayer.Mean {
			continue
		}
		if l == most || z.PerPlayer.Min >= fewReps {
			return l, z
		}
	}
	return 0, Yield{}
}

// waits words the waiting of one player: in minutes for blocks of three minutes
// or more, in seconds below.
func waits(b Block, y Yield) string {
	seconds := y.WaitingShare * (60*float64(b.Minutes) - b.SetupSeconds)
	if b.Minutes < 3 {
		return fmt.Sprintf("each waits %.0f of %d seconds", seconds, 60*b.Minutes)
	}
	return fmt.Sprintf("each waits %.0f of %d minutes", math.Round(seconds/60), b.Minutes)
}

func clock(seconds float64) string {
	s := int(math.Round(seconds))
	return fmt.Sprintf("%d:%02d", s/60, s%60)
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}
