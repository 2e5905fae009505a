// Package reel is what the film room offers to other features: the plays of games.
package reel

import (
	"context"

	"github.com/google/uuid"

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
	Practice bool // it is a team period of a practice, and Opponent says which
	Plays    []Play
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
	// Aliases are what other words under the labels mean.
	Aliases(ctx context.Context) ([]play.Alias, error)
	// Game reads a game with its plays; false when it is not there.
	Game(ctx context.Context, id uuid.UUID) (g Game, found bool, err error)
}
