package reps

import (
	"math"

	"nineyard/core/invalid"
)

// MaxMinutes is the longest block the arithmetic accepts, in minutes.
const MaxMinutes = 240

// Block is a drill put into a number of minutes for a number of players.
type Block struct {
	Players      int     // 1–200, those who may work and help
	HelpOnly     int     // 0–200, more who may only help: kept out of contact, say
	HelpSeats    int     // of Helping, the turns in each lane that are open to those; zero means all of them
	Minutes      int     // 1–240
	SetupSeconds float64 // ≥ 0; zero when nothing is set up
	Lanes        int     // 1–50, lanes available
	Working      int     // ≥ 1, players working in each lane in each cycle
	Helping      int     // ≥ 0, players helping in each lane in each cycle
	RepSeconds   float64 // > 0
	ResetSeconds float64 // ≥ 0
	Sides        int     // 1, or 2 for a drill done left and right; zero means 1
	TargetReps   int     // working reps wanted for every player; zero means no target
}

// PerPlayer says how the working reps fall when they are shared as evenly as they can be.
type PerPlayer struct {
	Min, Max int
	Mean     float64
}

// Yield is what a Block gives.
type Yield struct {
	LanesUsed    int
	Cycles       int
	WorkingReps  int
	PerPlayer    PerPlayer
	PerSideMin   int     // ⌊Min / sides⌋
	WorkShare    float64 // of a player's time, 0–1
	HelpingShare float64
	WaitingShare float64
	// RestPerWork is the time not working divided by the time working. It is
	// only meaningful when Works is true.
	RestPerWork float64
	Works       bool // at least one rep fits
	// MinutesForTarget is the fewest whole minutes (≤ MaxMinutes) that give
	// every player TargetReps; zero when there is no target or none is enough.
	MinutesForTarget int
}

// validate returns an invalid.Error for the first field out of its range.
func (b Block) validate() error {
	switch {
	case b.Players < 1 || b.Players > 200:
		return invalid.IntRange("players", b.Players, 1, 200)
	case b.Minutes < 1 || b.Minutes > MaxMinutes:
		return invalid.IntRange("minutes", b.Minutes, 1, MaxMinutes)
	case b.Lanes < 1 || b.Lanes > 50:
		return invalid.IntRange("lanes", b.Lanes, 1, 50)
	case b.Working < 1 || b.Working > 200:
		return invalid.IntRange("working", b.Working, 1, 200)
	case b.Helping < 0 || b.Helping > 200:
		return invalid.IntRange("helping", b.Helping, 0, 200)
	case b.HelpOnly < 0 || b.HelpOnly > 200:
		return invalid.IntRange("help_only", b.HelpOnly, 0, 200)
	case b.HelpSeats < 0 || b.HelpSeats > b.Helping:
		return invalid.IntRange("help_seats", b.HelpSeats, 0, b.Helping)
	case b.Sides < 0 || b.Sides > 2:
		return invalid.IntRange("sides", b.Sides, 1, 2)
	case b.TargetReps < 0:
		return invalid.Field("target_reps", "target_reps must be at least 1, got %d", b.TargetReps)
	case !(b.SetupSeconds >= 0) || math.IsInf(b.SetupSeconds, 0):
		return invalid.Field("setup_seconds", "setup_seconds must be 0 or more, got %v", b.SetupSeconds)
	case !(b.RepSeconds > 0) || math.IsInf(b.RepSeconds, 0):
		return invalid.Field("rep_seconds", "rep_seconds must be more than 0, got %v", b.RepSeconds)
	case !(b.ResetSeconds >= 0) || math.IsInf(b.ResetSeconds, 0):
		return invalid.Field("reset_seconds", "reset_seconds must be 0 or more, got %v", b.ResetSeconds)
	}
	if there := b.Players + b.helpOnly(1); b.Players < b.Working || there < b.Working+b.Helping {
		return invalid.Field("players", "one lane needs %d players (%d working, %d helping), got %d",
			b.Working+b.Helping, b.Working, b.Helping, there)
	}
	if cycles := (60*float64(b.Minutes) + b.ResetSeconds) / (b.RepSeconds + b.ResetSeconds); cycles > 1e9 {
		return invalid.Field("rep_seconds", "rep_seconds is too short to count: %v", b.RepSeconds)
	}
	return nil
}

// Of returns what the block gives to a player who may work. It returns an invalid.Error naming the field
// when a value is out of its range or when not even one lane can be filled.
func Of(b Block) (Yield, error) {
	if err := b.validate(); err != nil {
		return Yield{}, err
	}
	sides := max(b.Sides, 1)
	y := Yield{LanesUsed: min(b.Lanes, b.fill())}
	y.Cycles = b.cycles(b.Minutes)
	y.WorkingReps = y.LanesUsed * b.Working * y.Cycles
	y.PerPlayer = PerPlayer{
		Min:  y.WorkingReps / b.Players,
		Max:  (y.WorkingReps + b.Players - 1) / b.Players,
		Mean: float64(y.WorkingReps) / float64(b.Players),
	}
	y.PerSideMin = y.PerPlayer.Min / sides

	if seconds := 60*float64(b.Minutes) - b.SetupSeconds; seconds > 0 {
		work := y.PerPlayer.Mean * b.RepSeconds
		help := float64(b.helpers(y.LanesUsed)*y.Cycles) * b.RepSeconds / float64(b.Players)
		y.WorkShare = work / seconds
		y.HelpingShare = help / seconds
		y.WaitingShare = 1 - y.WorkShare - y.HelpingShare
		if work > 0 {
			y.RestPerWork = (seconds - work) / work
			y.Works = true
		}
	}
	y.MinutesForTarget = b.minutesFor(b.TargetReps, y.LanesUsed)
	return y, nil
}

// helpOnly is how many of those who may only help can do so at once in so many lanes.
func (b Block) helpOnly(lanes int) int {
	seats := b.HelpSeats
	if seats == 0 {
		seats = b.Helping
	}
	return min(b.HelpOnly, lanes*seats)
}

// fill is how many lanes the players can fill. Without players who only help it is
// ⌊players / (working + helping)⌋; each more lane asks for no fewer of those who may work.
func (b Block) fill() int {
	lanes := b.Players / b.Working
	for lanes > 0 && lanes*(b.Working+b.Helping) > b.Players+b.helpOnly(lanes) {
		lanes--
	}
	return lanes
}

// helpers is how many of those who may work have to help in each cycle: players who may
// only help come first, so that the others are free to work.
func (b Block) helpers(lanes int) int { return lanes*b.Helping - b.helpOnly(lanes) }

// cycles counts the reps of one lane in the given minutes. The quotient is nudged
// by one part in 10¹², so that 60.2 s over 0.1 s + 0.2 s counts as the decimal
// fraction that was written down and not as its nearest binary neighbour.
func (b Block) cycles(minutes int) int {
	seconds := 60*float64(minutes) - b.SetupSeconds
	if seconds < b.RepSeconds {
		return 0
	}
	q := (seconds + b.ResetSeconds) / (b.RepSeconds + b.ResetSeconds)
	return int(math.Floor(q * (1 + 1e-12)))
}

// minutesFor returns the fewest minutes that give every player target reps in the
// given lanes, or zero.
func (b Block) minutesFor(target, lanes int) int {
	if target < 1 {
		return 0
	}
	for m := 1; m <= MaxMinutes; m++ {
		if lanes*b.Working*b.cycles(m)/b.Players >= target {
			return m
		}
	}
	return 0
}
