// Package standing is what the players' development offers to other features: where a group
// stands on a ladder, what may be claimed of its players, and the ranges of their own that
// players have.
package standing

import (
	"context"

	"github.com/google/uuid"

	"nineyard/core/ladder"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/roster/squad"
)

// Range is a player's own range at a checkpoint.
type Range struct {
	ID         uuid.UUID
	PlayerID   uuid.UUID
	Checkpoint string
	Own        standard.OwnRange
	Reason     string
	By         string
	On         season.Date
}

// Group is where a group stands on one ladder.
type Group struct {
	Stage int    // index of the stage it should work at
	Held  []Held // who goes up no contact level
}

// Held is a player whose safety fault keeps him from a higher contact level.
type Held struct {
	Player uuid.UUID
	Why    string // the fault and its day, in words
	Most   practice.Contact
}

// Climb is a player's season on one ladder.
type Climb struct {
	Player   squad.Player
	Season   ladder.Input
	Standing ladder.Standing
}

// Climbs are the seasons of a group's players on its ladders as of a day.
type Climbs struct {
	Players []squad.Player
	// On asks for those of one ladder, in the order of Players.
	On func(l teaching.Ladder) ([]Climb, error)
}

// Climbers reads how a group climbs.
type Climbers interface {
	Climbs(ctx context.Context, c access.Coach, group string, asOf season.Date) (Climbs, error)
}

// Source reads standings and ranges.
type Source interface {
	// GroupOn says where a group stands on a ladder as of a day.
	GroupOn(ctx context.Context, c access.Coach, group string, l teaching.Ladder, asOf season.Date) (Group, error)
	// Ranges lists the ranges of their own that players of the club have.
	Ranges(ctx context.Context) ([]Range, error)
}

// For returns the standard a player is held to at a checkpoint, with his own range when it
// is by one. A range that the house standard no longer allows falls back to it.
func For(c teaching.Checkpoint, player uuid.UUID, ranges []Range) (standard.Measure, *Range) {
	if c.Measure == nil {
		return standard.Measure{}, nil
	}
	for _, x := range ranges {
		if x.PlayerID == player && x.Checkpoint == c.Key {
			if m, err := c.Measure.For(x.Own); err == nil {
				return m, &x
			}
		}
	}
	return *c.Measure, nil
}

// Standards lists what can be measured at a technique, as it holds for a player; with no
// ranges, as it holds for everybody.
func Standards(t teaching.Technique, player uuid.UUID, ranges []Range) []contract.PlayerStandard {
	out := []contract.PlayerStandard{}
	for _, c := range t.Checkpoints {
		if c.Measure == nil {
			continue
		}
		m, x := For(c, player, ranges)
		v := contract.PlayerStandard{Checkpoint: c.Key, Name: c.Name, Technique: t.Key, TechniqueName: t.Name, Measure: m}
		if x != nil {
			v.Own = &contract.OwnRange{Reason: x.Reason, By: x.By, On: x.On.String(), House: *c.Measure}
		}
		out = append(out, v)
	}
	return out
}
