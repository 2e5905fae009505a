// Package film is the film room: the plays of a game in the staff's words, typed or read from a list,
// and corrected while the film is watched.
package film

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/play"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/film/reel"
	"nineyard/internal/platform/problem"
)

// Entry is a play as it is kept.
type Entry struct {
	ID        uuid.UUID
	GameID    uuid.UUID
	Play      play.Play
	Version   int
	ChangedBy string
	Marks     int // of players, that stand
}

// Store keeps the plays of the context's club.
type Store interface {
	// Plays and Game are reel.Source's.
	Plays(ctx context.Context, ids []uuid.UUID) ([]reel.Play, error)
	Game(ctx context.Context, id uuid.UUID) (g reel.Game, found bool, err error)
	// Entries lists the plays of a game by number.
	Entries(ctx context.Context, game uuid.UUID) ([]Entry, error)
	// Entry reads one and holds it until the transaction ends.
	Entry(ctx context.Context, id uuid.UUID) (e Entry, found bool, err error)
	// Put writes one, new when its version is 0, and raises its version. An id that stands elsewhere
	// is problem.ErrTaken.
	Put(ctx context.Context, e Entry, by uuid.UUID, at time.Time) error
	// Delete takes one out.
	Delete(ctx context.Context, id uuid.UUID) error
}

// Service runs the use cases.
type Service struct {
	Store  Store
	Labels Labels
	Words  Words
	Now    func() time.Time
}

var _ reel.Source = (*Service)(nil)

// Plays reads plays by their ids.
func (s *Service) Plays(ctx context.Context, ids []uuid.UUID) ([]reel.Play, error) {
	return s.Store.Plays(ctx, ids)
}

// Game reads a game with its plays.
func (s *Service) Game(ctx context.Context, id uuid.UUID) (reel.Game, bool, error) {
	return s.Store.Game(ctx, id)
}

func view(e Entry) contract.GamePlay {
	v := contract.GamePlay{ID: e.ID, GameID: e.GameID, Version: e.Version, Marks: e.Marks, Play: labels.View(e.Play)}
	if e.ChangedBy != "" {
		v.ChangedBy = &e.ChangedBy
	}
	return v
}

// GamePlays returns a game with its plays.
func (s *Service) GamePlays(ctx context.Context, c access.Coach, game uuid.UUID) (contract.GamePlays, error) {
	g, found, err := s.Store.Game(ctx, game)
	if err := problem.Found(found, err); err != nil {
		return contract.GamePlays{}, err
	}
	list, err := s.Store.Entries(ctx, game)
	out := contract.GamePlays{Game: contract.GameRef{ID: g.ID, Date: g.On.String(), Opponent: g.Opponent, Home: g.Home, Practice: g.Practice}, Week: c.WeekOf(g.On), Plays: []contract.GamePlay{}, Units: []contract.Side{}}
	for _, unit := range []group.Side{group.Offense, group.Defense, group.Units} {
		if c.MayWorkSide(unit) {
			out.Units = append(out.Units, contract.Side(unit))
		}
	}
	for _, e := range list {
		out.Plays = append(out.Plays, view(e))
	}
	return out, err
}

// PutPlay writes a play, new or changed. It returns a *problem.Stale when it was changed since the
// version given, or is not there any longer.
func (s *Service) PutPlay(ctx context.Context, c access.Coach, game, id uuid.UUID, version int, in contract.PlayInput) (contract.GamePlay, error) {
	_, found, err := s.Store.Game(ctx, game)
	if err := problem.Found(found, err); err != nil {
		return contract.GamePlay{}, err
	}
	was, there, err := s.Store.Entry(ctx, id)
	if err != nil {
		return contract.GamePlay{}, err
	}
	aliases, err := s.Aliases(ctx)
	if err != nil {
		return contract.GamePlay{}, err
	}
	next := Entry{ID: id, GameID: game, Play: play.Meant(labels.Read(in), aliases), Version: was.Version}
	switch {
	case there && was.GameID != game:
		return contract.GamePlay{}, problem.ErrTaken
	case !c.MayWorkSide(next.Play.Unit), there && !c.MayWorkSide(was.Play.Unit):
		return contract.GamePlay{}, problem.ErrForbidden
	case there && same(was.Play, next.Play): // sent again after a lost answer
		return view(was), nil
	case version != was.Version:
		was.ID, was.GameID = id, game // where it is not there any longer
		return contract.GamePlay{}, &problem.Stale{What: "play", By: was.ChangedBy, Current: view(was)}
	}
	if err := next.Play.Check(); err != nil {
		return contract.GamePlay{}, err
	}
	if there && was.Marks > 0 && was.Play.Unit != next.Play.Unit {
		return contract.GamePlay{}, invalid.Field("unit", "%d marks are on record of this play; withdraw them before it becomes another unit's", was.Marks)
	}
	all, err := s.Store.Entries(ctx, game)
	if err != nil {
		return contract.GamePlay{}, err
	}
	others := slices.DeleteFunc(all, func(e Entry) bool { return e.ID == id })
	if len(others) >= play.MaxPlays {
		return contract.GamePlay{}, invalid.Field("number", "a game has at most %d plays", play.MaxPlays)
	}
	if slices.ContainsFunc(others, func(e Entry) bool { return e.Play.Number == next.Play.Number }) {
		return contract.GamePlay{}, invalid.Field("number", "there is a play %d in this game", next.Play.Number)
	}
	if err := s.Store.Put(ctx, next, c.ID, s.Now()); err != nil {
		return contract.GamePlay{}, err
	}
	now, _, err := s.Store.Entry(ctx, id)
	return view(now), err
}

func same(a, b play.Play) bool { return slices.Equal(play.Record(a), play.Record(b)) }

// DeletePlay takes a play out. It is refused when players are marked on it.
func (s *Service) DeletePlay(ctx context.Context, c access.Coach, game, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Store.Entry(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case was.GameID != game:
		return contract.Gone{}, problem.ErrNotFound
	case !c.MayWorkSide(was.Play.Unit):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "play", By: was.ChangedBy, Current: view(was)}
	case was.Marks > 0:
		return contract.Gone{}, invalid.Field("id", "%d marks are on record of this play; withdraw them first", was.Marks)
	}
	return contract.Gone{ID: id}, s.Store.Delete(ctx, id)
}
