// Package onfilm is what footage offers to other features: what can be seen.
package onfilm

import (
	"context"

	"github.com/google/uuid"
)

// Source says what is on film.
type Source interface {
	// Plays lists the plays of a game that are on film.
	Plays(ctx context.Context, game uuid.UUID) ([]uuid.UUID, error)
}
