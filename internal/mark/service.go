// Package mark is what coaches record: the sheet on which the reps of a placed drill are
// marked, and the marks of a season as other features read them.
package mark

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Event is what a coach recorded, once. It is never changed: a correction is a new event.
type Event struct {
	ID           uuid.UUID `gorm:"primaryKey"` // made by the client
	ClubID       uuid.UUID
	PlayerID     uuid.UUID
	PlacementID  *uuid.UUID
	Rep          *int
	PlayID       *uuid.UUID
	TechniqueKey string
	State        string
	Assignment   *int
	Technique    *int
	Finish       *int
	Faults       json.RawMessage `gorm:"type:jsonb"` // of record.Fault
	Measures     json.RawMessage `gorm:"type:jsonb"` // of record.Measured
	Praise       bool
	Note         string
	Side         *string
	Standard     int // version of the house it was made by
	CreatedBy    *uuid.UUID
	CreatedAt    time.Time
	MadeAt       *time.Time // by the coach, by the server's clock; nil: when it was created
	Device       *uuid.UUID // it was made on
	OnMark       *uuid.UUID // that he saw standing in its place
}

// TableName is mark_events.
func (Event) TableName() string { return "mark_events" }

// Store keeps the marks of the context's club.
type Store interface {
	// Add appends the events and counts them; one whose id is already there is left alone. Of
	// two events of a slot that one holds which change.Holds says.
	Add(ctx context.Context, events []Event) (added int, err error)
	// Known reads the events that have these ids.
	Known(ctx context.Context, ids []uuid.UUID) ([]Event, error)
	// OfPlacement lists the current marks of a placed drill by player and rep.
	OfPlacement(ctx context.Context, placement uuid.UUID) ([]record.Detail, error)
	// Season, Runs and Evidence are record.Source's.
	Season(ctx context.Context, group string, from, to season.Date) (record.Sums, error)
	Runs(ctx context.Context, group string, player *uuid.UUID, from, to season.Date) ([]record.Run, error)
	Evidence(ctx context.Context, player uuid.UUID, which record.Which) ([]record.Detail, error)
	// Work lists what the group has to grade; sides says for which plays of a game it is on
	// the field: those of the club's offence (true), of its defence (false).
	Work(ctx context.Context, season uuid.UUID, group string, sides []bool, from, to season.Date) ([]record.Work, error)
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
	Squad  squad.Source
	Plans  script.Source
	Ranges standing.Source
	Now    func() time.Time
	Clock  func() time.Time // the wall clock, by which it is said when a mark was made
}

var _ record.Source = (*Service)(nil)

// Season counts the group's marks from day to day.
func (s *Service) Season(ctx context.Context, group string, from, to season.Date) (record.Sums, error) {
	return s.Store.Season(ctx, group, from, to)
}

// Runs lists the group's marks, or one of its players', in the order of the season.
func (s *Service) Runs(ctx context.Context, group string, player *uuid.UUID, from, to season.Date) ([]record.Run, error) {
	return s.Store.Runs(ctx, group, player, from, to)
}

// Evidence lists a player's marks, newest first.
func (s *Service) Evidence(ctx context.Context, player uuid.UUID, which record.Which) ([]record.Detail, error) {
	return s.Store.Evidence(ctx, player, which)
}

// Work lists what a group has to grade from day to day, newest first.
func (s *Service) Work(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]record.Work, error) {
	g, err := c.Group(group)
	if err != nil {
		return nil, err
	}
	sides := []bool{}
	for _, offense := range []bool{true, false} {
		if g.Side.Plays(offense) {
			sides = append(sides, offense)
		}
	}
	return s.Store.Work(ctx, c.Season.ID, group, sides, from, to)
}
