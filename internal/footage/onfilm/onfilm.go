// Package onfilm is what footage offers to other features: what can be seen.
package onfilm

import (
	"context"

	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// Writer writes what is known of videos as their own screens do, with all that they refuse.
type Writer interface {
	Videos(ctx context.Context, c access.Coach, game, placement *uuid.UUID) (contract.Videos, error)
	Game(ctx context.Context, c access.Coach, game uuid.UUID) (contract.Footage, error)
	PutFilm(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.FilmInput) (contract.Film, error)
	PutClip(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.ClipInput) (contract.Clip, error)
	PutDrawing(ctx context.Context, c access.Coach, clip, id uuid.UUID, version int, in contract.DrawingInput) (contract.Drawing, error)
}

// Source says what is on film.
type Source interface {
	// Plays lists the plays of a game that are on film.
	Plays(ctx context.Context, game uuid.UUID) ([]uuid.UUID, error)
}
