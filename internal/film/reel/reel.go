// Package reel is what the film room offers to other features: the plays of games.
package reel

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/play"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// Play is a play of a game with when it was played.
type Play struct {
	ID     uuid.UUID
	GameID uuid.UUID
	On     season.Date
	play.Play
}

// Game is a game with its plays by number.
type Game struct {
	ID       uuid.UUID
	On       season.Date
	Opponent string
	Home     bool
	Plays    []Play
}

// View is a play as screens are told of it.
func View(p play.Play) contract.PlayInput {
	return contract.PlayInput{Number: p.Number, Unit: contract.Side(p.Unit), Drive: p.Drive, Quarter: p.Quarter, Clock: p.Clock, Down: p.Down, Distance: p.Distance, Spot: p.Spot,
		Hash: contract.PlayInputHash(p.Hash), Personnel: p.Personnel, Formation: p.Formation, Motion: p.Motion, Call: p.Call, Front: p.Front, Coverage: p.Coverage, Result: p.Result, Gain: p.Gain,
		Context: append([]string{}, p.Context...)}
}

// Read takes a play to the core: words without spaces around them, a spot and a clock as they are
// written.
func Read(in contract.PlayInput) play.Play {
	tidy := func(s string) string { return strings.Join(strings.Fields(s), " ") }
	p := play.Play{Number: in.Number, Unit: group.Side(in.Unit), Drive: in.Drive, Quarter: in.Quarter, Clock: tidy(in.Clock), Down: in.Down, Distance: in.Distance, Spot: tidy(in.Spot), Hash: string(in.Hash),
		Personnel: tidy(in.Personnel), Formation: tidy(in.Formation), Motion: tidy(in.Motion), Call: tidy(in.Call), Front: tidy(in.Front), Coverage: tidy(in.Coverage), Result: tidy(in.Result), Gain: in.Gain}
	for _, w := range in.Context {
		p.Context = append(p.Context, tidy(w))
	}
	if spot, err := play.ParseSpot(p.Spot); err == nil {
		p.Spot = spot
	}
	if clock, err := play.ParseClock(p.Clock); err == nil {
		p.Clock = clock
	}
	return p
}

// Writer writes plays as the film room does, with all that it refuses.
type Writer interface {
	GamePlays(ctx context.Context, c access.Coach, game uuid.UUID) (contract.GamePlays, error)
	PutPlay(ctx context.Context, c access.Coach, game, id uuid.UUID, version int, in contract.PlayInput) (contract.GamePlay, error)
}

// Source reads plays.
type Source interface {
	// Plays reads plays by their ids; those that are not there are left out.
	Plays(ctx context.Context, ids []uuid.UUID) ([]Play, error)
	// Game reads a game with its plays; false when it is not there.
	Game(ctx context.Context, id uuid.UUID) (g Game, found bool, err error)
}
