// Package players is the players' development: the group as a matrix of techniques, one
// player's sheet with the evidence behind every number, the group on its ladders, and what
// a coach decides about single players: stages passed on his word, ranges of their own.
package players

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Override is a stage that a player passed on a coach's word.
type Override struct {
	ID        uuid.UUID // made by the client
	PlayerID  uuid.UUID
	LadderKey string
	StageKey  string
	On        season.Date
	Reason    string
	By        uuid.UUID
	ByName    string // read only
	At        time.Time
}

// NewRange is a range of a player's own as it is recorded.
type NewRange struct {
	ID         uuid.UUID // made by the client
	PlayerID   uuid.UUID
	Checkpoint string
	Own        standard.OwnRange
	Reason     string
	By         uuid.UUID
	At         time.Time
}

// Decisions are what coaches decided about single players, as far as it holds; each oldest
// first.
type Decisions struct {
	Overrides []Override // of a season
	Ranges    []standing.Range
}

// Store keeps what coaches of the context's club decided about single players. Nothing is
// deleted: what is withdrawn stays on the record.
type Store interface {
	// Decisions reads what holds in a season.
	Decisions(ctx context.Context, season uuid.UUID) (Decisions, error)
	// AddOverride records one; the same id again changes nothing.
	AddOverride(ctx context.Context, season uuid.UUID, o Override) error
	// WithdrawOverride takes one back and returns it.
	WithdrawOverride(ctx context.Context, id uuid.UUID, at time.Time) (o Override, found bool, err error)
	// Ranges lists the ranges of Decisions alone, for marking.
	Ranges(ctx context.Context) ([]standing.Range, error)
	// PutRange records one in place of the one before; the same id again changes nothing.
	PutRange(ctx context.Context, r NewRange) error
	// WithdrawRange takes one back.
	WithdrawRange(ctx context.Context, player uuid.UUID, checkpoint string, at time.Time) (found bool, err error)
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
	Squad  squad.Source
	Marks  record.Source
	Plans  script.Source
	Now    func() time.Time
}

var (
	_ standing.Source   = (*Service)(nil)
	_ standing.Climbers = (*Service)(nil)
)

// Ranges lists the ranges of their own that players of the club have.
func (s *Service) Ranges(ctx context.Context) ([]standing.Range, error) { return s.Store.Ranges(ctx) }

// view is what a screen of a group rests on.
type view struct {
	coach   access.Coach
	house   *house.House
	group   string
	asOf    season.Date
	players []squad.Player
}

// reading asks for a part of what a screen rests on; it knows the view but for its players.
type reading func(ctx context.Context, v view) error

// open reads what a screen of a group rests on, as of the end of a week, and what else it is asked
// for in the same turn to the database.
func (s *Service) open(ctx context.Context, c access.Coach, group string, week int, more ...reading) (view, error) {
	asOf, err := c.WeekEnd(week, s.Now())
	if err != nil {
		return view{}, err
	}
	return s.openOn(ctx, c, group, asOf, more...)
}

func (s *Service) openOn(ctx context.Context, c access.Coach, group string, asOf season.Date, more ...reading) (view, error) {
	v := view{coach: c, group: group, asOf: asOf}
	if _, err := c.Group(group); err != nil {
		return v, err
	}
	var err error
	if v.house, err = s.Houses.Of(ctx, c); err != nil {
		return v, err
	}
	known := v
	parts := []func(context.Context) error{func(ctx context.Context) (err error) {
		v.players, err = s.Squad.Group(ctx, group, asOf)
		return err
	}}
	for _, r := range more {
		parts = append(parts, func(ctx context.Context) error { return r(ctx, known) })
	}
	err = aside.Together(ctx, parts...)
	return v, err
}

// player returns the player of the group, or problem.ErrNotFound.
func (v view) player(id uuid.UUID) (squad.Player, error) {
	if p, ok := squad.ByID(v.players)[id]; ok {
		return p, nil
	}
	return squad.Player{}, problem.ErrNotFound
}

// coaches returns the group in which the coach teaches the technique to the player; it refuses
// a coach who has neither of them in a group of his.
func (s *Service) coaches(ctx context.Context, c access.Coach, player uuid.UUID, t teaching.Technique) (group string, err error) {
	all, err := s.Squad.All(ctx, c.Today(s.Now()))
	if err != nil {
		return "", err
	}
	p, ok := squad.ByID(all)[player]
	if !ok {
		return "", problem.ErrNotFound
	}
	for _, group := range t.Groups {
		if c.MayEdit(group) && slices.Contains(p.Groups, group) {
			return group, nil
		}
	}
	return "", problem.ErrForbidden
}
