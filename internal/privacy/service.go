// Package privacy is what a club owes the people it keeps records of: to hand over all that is kept of one, to take it
// away, and to keep nothing for longer than it wants to.
package privacy

import (
	"context"
	"encoding/json"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Store keeps the records of the context's club.
type Store interface {
	// LastName is a player's, to be sure who is meant.
	LastName(ctx context.Context, player uuid.UUID) (name string, found bool, err error)
	// All reads everything that is kept of a player, by the tables it is kept in.
	All(ctx context.Context, player uuid.UUID) (json.RawMessage, error)
	// Erase takes everything away by which a player is known.
	Erase(ctx context.Context, player uuid.UUID, keepMarks bool) (found bool, err error)
	Retention(ctx context.Context) (contract.Retention, error)
	SetRetention(ctx context.Context, r contract.Retention) error
}

// Service runs the use cases.
type Service struct {
	Store Store
	Now   func() time.Time
}

// Export writes everything that is kept of a player as a JSON file.
func (s *Service) Export(ctx context.Context, player uuid.UUID) (name string, content []byte, err error) {
	last, found, err := s.Store.LastName(ctx, player)
	if err := problem.Found(found, err); err != nil {
		return "", nil, err
	}
	all, err := s.Store.All(ctx, player)
	if err != nil {
		return "", nil, err
	}
	content, err = json.MarshalIndent(struct {
		Says string          `json:"says"`
		At   time.Time       `json:"at"`
		Kept json.RawMessage `json:"kept"`
	}{"Everything that Nine Yard keeps of this player", s.Now().UTC(), all}, "", "  ")
	file := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' {
			return r
		}
		return -1
	}, strings.ToLower(last))
	return "player-" + file + ".json", content, err
}

// Erase takes everything away by which a player is known. His last name is said again, so that it is he.
func (s *Service) Erase(ctx context.Context, player uuid.UUID, keepMarks bool, lastName string) error {
	last, found, err := s.Store.LastName(ctx, player)
	if err := problem.Found(found, err); err != nil {
		return err
	}
	if !strings.EqualFold(strings.TrimSpace(lastName), last) {
		return invalid.Field("last_name", "this is not his last name")
	}
	gone, err := s.Store.Erase(ctx, player, keepMarks)
	return problem.Found(gone, err)
}
