// Package mark is what coaches record: the sheet on which the reps of a placed drill are
// marked, and the marks of a season as other features read them.
package mark

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/marks"
	"nineyard/core/palette"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Event is what a coach recorded, once. It is never changed: a correction is a new event.
type Event struct {
	ID           uuid.UUID         `json:"id"` // made by the client
	PlayerID     uuid.UUID         `json:"player_id"`
	PlacementID  *uuid.UUID        `json:"placement_id"`
	Rep          *int              `json:"rep"`
	PlayID       *uuid.UUID        `json:"play_id"`
	TechniqueKey string            `json:"technique_key"`
	Grader       uuid.UUID         `json:"grader"` // whose mark it is; Settled: the club's
	State        string            `json:"state"`
	Assignment   *int              `json:"assignment"`
	Technique    *int              `json:"technique"`
	Finish       *int              `json:"finish"`
	Verdict      string            `json:"verdict"` // how it was judged when it was made; see verdictOf
	Scheme       int               `json:"scheme"`  // version by which it was judged
	Faults       []record.Fault    `json:"faults"`
	Measures     []record.Measured `json:"measures"`
	Praise       bool              `json:"praise"`
	Note         string            `json:"note"`
	Side         *string           `json:"side"`
	Result       *int              `json:"result"`  // of the player's own duel
	Tallies      []marks.Tally     `json:"tallies"` // counted apart
	Asked        *uuid.UUID        `json:"asked"`   // who can answer what is open
	Grade        *int              `json:"grade"`   // one for the rep, on the scale beside it
	GradeOf      *int              `json:"grade_of"`
	GradeClean   *int              `json:"grade_clean"`
	GroupKey     *string           `json:"group_key"` // by whose way of judging it was judged
	Standard     int               `json:"standard"`  // version of the house it was made by
	CreatedBy    *uuid.UUID        `json:"created_by"`
	CreatedAt    time.Time         `json:"created_at"`
	MadeAt       *time.Time        `json:"made_at"` // by the coach, by the server's clock; nil: when it was created
	Device       *uuid.UUID        `json:"device"`  // it was made on
	OnMark       *uuid.UUID        `json:"on_mark"` // that he saw standing in its place
}

// Settled is the grader of a mark that the club settled: it stands over all coaches'.
var Settled = uuid.Nil

// Grader is a coach with how many marks he has made.
type Grader struct {
	ID    uuid.UUID
	Name  string
	Marks int
}

// Before is what marks are recorded upon.
type Before struct {
	Known   []Event
	Version int // of the scheme; 0 is the shipped one
	Scheme  marks.House
}

// Store keeps the marks of the context's club.
type Store interface {
	// Add appends the events and counts them; one whose id is already there is left alone. Of
	// two events of a slot that one holds which change.Holds says.
	Add(ctx context.Context, events []Event) (added int, err error)
	// Judging is how the club judges a rep, and how far the marks are judged by it.
	Judging(ctx context.Context) (Judging, error)
	// PutScheme records a version; false when there is one already.
	PutScheme(ctx context.Context, version int, scheme marks.House, by uuid.UUID, at time.Time) (put bool, err error)
	// House is how the club judges.
	House(ctx context.Context) (marks.House, error)
	// Before reads what marks are recorded upon: the events that have these ids, with their
	// faults, and how the club judges, which does not change until the transaction ends.
	Before(ctx context.Context, ids []uuid.UUID) (Before, error)
	// OfPlacement lists the current marks of a placed drill by player and rep.
	OfPlacement(ctx context.Context, placement uuid.UUID) ([]record.Detail, error)
	// OfGame lists the marks of a game's plays that players of a group have, by player, play and
	// technique: those that stand, or where graders are named, what each of these says.
	OfGame(ctx context.Context, game uuid.UUID, group string, graders ...uuid.UUID) ([]record.Detail, error)
	// Graders lists who graded players of a group in a game, who has most marks first; what is settled is nobody's.
	Graders(ctx context.Context, game uuid.UUID, group string) ([]Grader, error)
	// Usual counts the faults that a group's players showed from day to day, by technique.
	Usual(ctx context.Context, group string, from, to season.Date) ([]palette.Count, error)
	// Questions lists what a coach is asked and has not been answered, the latest first.
	Questions(ctx context.Context, coach uuid.UUID) ([]record.Detail, error)
	// Season, Runs and Evidence are record.Source's.
	Season(ctx context.Context, group string, from, to, faultsFrom season.Date) (record.Sums, error)
	Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error)
	Evidence(ctx context.Context, player uuid.UUID, which record.Which) ([]record.Detail, error)
	// Work lists what the group has to grade; unit says for which plays of a game it is on the field.
	Work(ctx context.Context, season uuid.UUID, group, unit string, from, to season.Date) ([]record.Work, error)
}

// Staff lists who coaches at a club.
type Staff interface {
	Coaches(ctx context.Context, club uuid.UUID) ([]access.Member, error)
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Houses house.Source
	Squad  squad.Source
	Plans  script.Source
	Reels  reel.Source
	Calls  forecast.Source
	Ranges standing.Source
	Staff  Staff
	Now    func() time.Time
	Clock  func() time.Time // the wall clock, by which it is said when a mark was made
}

var (
	_ record.Source = (*Service)(nil)
	_ record.Games  = (*Service)(nil)
	_ record.Writer = (*Service)(nil)
)

// Season counts the group's marks from day to day, and faults from a later day on.
func (s *Service) Season(ctx context.Context, group string, from, to, faultsFrom season.Date) (record.Sums, error) {
	return s.Store.Season(ctx, group, from, to, faultsFrom)
}

// Runs lists the group's marks, or one of its players', in the order of the season, and the
// faults that they show from a later day on.
func (s *Service) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
	return s.Store.Runs(ctx, group, player, from, to, faultsFrom)
}

// Evidence lists a player's marks, newest first.
func (s *Service) Evidence(ctx context.Context, player uuid.UUID, which record.Which) ([]record.Detail, error) {
	return s.Store.Evidence(ctx, player, which)
}

// Game lists the marks that stand of a group's players in a game.
func (s *Service) Game(ctx context.Context, game uuid.UUID, group string) ([]record.Detail, error) {
	return s.Store.OfGame(ctx, game, group)
}

// Write records marks; the first that is refused is the error.
func (s *Service) Write(ctx context.Context, c access.Coach, in []contract.MarkInput) error {
	posted, err := s.Post(ctx, c, Sender{}, in)
	if err == nil && len(posted.Refused) > 0 {
		err = posted.Refused[0].Why
	}
	return err
}

// Work lists what a group has to grade from day to day, newest first.
func (s *Service) Work(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]record.Work, error) {
	g, err := c.Group(group)
	if err != nil {
		return nil, err
	}
	return s.Store.Work(ctx, c.Season.ID, group, string(g.Side), from, to)
}
