// Package plan is the calendar and the practice scripts: what a coach places in his own
// periods, what it gives, and the drill that is put in because a fault or a ladder asks for
// it.
package plan

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// ErrNoPractice says that no practice to come has a period of the group's own.
var ErrNoPractice = errors.New("no practice to come has a period of the group's own")

// Game is one game of the calendar.
type Game struct {
	ID        uuid.UUID
	On        season.Date
	Opponent  string
	Home      bool
	Version   int
	Cancelled string // why it is called off; "" while it is on
}

// Store keeps the calendar and the scripts of the context's club.
type Store interface {
	// Calendar lists a season's practices and games by date.
	Calendar(ctx context.Context, season uuid.UUID) ([]script.Practice, []Game, error)
	// Practice reads one practice.
	Practice(ctx context.Context, id uuid.UUID) (p script.Practice, found bool, err error)
	// Script lists the periods of a practice by their start, with what is placed in them.
	Script(ctx context.Context, practice uuid.UUID) ([]script.Period, error)
	// PracticeOf reads the practice in which a period lies.
	PracticeOf(ctx context.Context, period uuid.UUID) (p script.Practice, found bool, err error)
	// Period reads one period and holds it until the transaction ends.
	Period(ctx context.Context, id uuid.UUID) (p script.Period, found bool, err error)
	// Replace makes the placements that groups have in a period those given and raises its version,
	// at which their drills then stand. An id that stands elsewhere is problem.ErrTaken.
	Replace(ctx context.Context, period uuid.UUID, groups []string, by uuid.UUID, at time.Time, placements []script.Placement) error
	// Relabel makes what was marked in a placement as one technique marks of another.
	Relabel(ctx context.Context, placement uuid.UUID, was, now string) error
	// Next reads the first practice on or after a day that has an individual period of the
	// group alone, with those periods and those that it shares with another.
	Next(ctx context.Context, season uuid.UUID, group string, from season.Date) (n script.Next, found bool, err error)
	// Placed reads placements with their practice.
	Placed(ctx context.Context, ids []uuid.UUID) ([]script.PlacedOn, error)
	// Between lists what a group has placed in practices that are not called off, by day, without
	// what is marked in it.
	Between(ctx context.Context, season uuid.UUID, group string, from, to season.Date) ([]script.PlacedOn, error)
}

// Conditions keeps what is known of a practice's day beside its script.
type Conditions interface {
	// Day reads it, with the absences of a group's players; of nobody's where the group is "".
	Day(ctx context.Context, p script.Practice, season uuid.UUID, group string) (Day, error)
	// PutReading enters a heat index; the same id again changes nothing.
	PutReading(ctx context.Context, practice uuid.UUID, r Reading, by uuid.UUID) error
}

// Sets keeps drills that are put into a period whole.
type Sets interface {
	// Sets lists those of a group, the every-day ones first, then by name.
	Sets(ctx context.Context, group string) ([]Set, error)
	// Set reads one and holds it until the transaction ends.
	Set(ctx context.Context, id uuid.UUID) (s Set, found bool, err error)
	// PutSet writes one, new when its version is 0, and raises its version. An id that stands
	// elsewhere is problem.ErrTaken.
	PutSet(ctx context.Context, s Set, by uuid.UUID, at time.Time) error
	// DeleteSet forgets one.
	DeleteSet(ctx context.Context, id uuid.UUID) error
}

// Templates keeps practices and weeks that are laid again.
type Templates interface {
	// Templates lists those of the club, weeks first, then by name.
	Templates(ctx context.Context) ([]Template, error)
	// Template reads one and holds it until the transaction ends.
	Template(ctx context.Context, id uuid.UUID) (t Template, found bool, err error)
	// PutTemplate writes one, new when its version is 0, and raises its version. An id that stands
	// elsewhere is problem.ErrTaken.
	PutTemplate(ctx context.Context, t Template, by uuid.UUID, at time.Time) error
	// DeleteTemplate forgets one.
	DeleteTemplate(ctx context.Context, id uuid.UUID) error
}

// Calendar keeps what is put on the calendar.
type Calendar interface {
	// Days reads a season's practices and games with what is on record of them, by date, and the
	// periods with thud and live of every practice.
	Days(ctx context.Context, c access.Season) (Days, error)
	// PutPractice and PutGame write one, new when its version is 0, and raise its version. An id
	// that stands elsewhere is problem.ErrTaken.
	PutPractice(ctx context.Context, season uuid.UUID, p script.Practice, by uuid.UUID, at time.Time) error
	PutGame(ctx context.Context, season uuid.UUID, g Game, by uuid.UUID, at time.Time) error
	// CopyScript gives a practice the periods of another, without the drills placed in them.
	CopyScript(ctx context.Context, from, to, by uuid.UUID, at time.Time) error
	// Entry reads one practice or game as it stands on the calendar.
	PracticeEntry(ctx context.Context, id uuid.UUID) (p PracticeEntry, found bool, err error)
	GameEntry(ctx context.Context, id uuid.UUID) (g GameEntry, found bool, err error)
	// Span reads the dates of a season; PutSpan writes them and raises their version.
	Span(ctx context.Context, season uuid.UUID) (Span, error)
	PutSpan(ctx context.Context, season uuid.UUID, s Span, by uuid.UUID, at time.Time) error
	// Dates lists the days with practice of a season in order.
	Dates(ctx context.Context, season uuid.UUID) ([]script.Dated, error)
	// DeletePractice and DeleteGame take one off, with all that belongs to it.
	DeletePractice(ctx context.Context, id uuid.UUID) error
	DeleteGame(ctx context.Context, id uuid.UUID) error
}

// Scripts keeps what is written into scripts and the club's settings for them.
type Scripts interface {
	// Put writes a period with its groups, new when its version is 0, and raises its version. An
	// id that stands elsewhere is problem.ErrTaken.
	Put(ctx context.Context, p script.Period, by uuid.UUID, at time.Time) error
	// Delete takes a period out, with what is placed in it.
	Delete(ctx context.Context, id uuid.UUID) error
	// Settings reads the club's settings with its staff; Begin when nothing is set.
	Settings(ctx context.Context) (Settings, error)
	// PutSettings writes them as a version; false when it is not the one that comes next.
	PutSettings(ctx context.Context, version int, k Kept, by uuid.UUID, at time.Time) (bool, error)
}

// Service runs the use cases.
type Service struct {
	Store      Store
	Scripts    Scripts
	Calendar   Calendar
	Sets       Sets
	Conditions Conditions
	Templates  Templates
	Links      Links
	Coaches    Coaches
	Houses     house.Source
	Squad      squad.Source
	Standings  standing.Source
	Now        func() time.Time
}

var (
	_ script.Source  = (*Service)(nil)
	_ script.Dates   = (*Service)(nil)
	_ script.Scripts = (*Service)(nil)
)

// Around reads the practice in which a period lies.
func (s *Service) Around(ctx context.Context, period uuid.UUID) (w script.Whole, found bool, err error) {
	if w.Practice, found, err = s.Store.PracticeOf(ctx, period); err != nil || !found {
		return w, false, err
	}
	if w.Periods, err = s.Store.Script(ctx, w.Practice.ID); err != nil {
		return w, false, err
	}
	set, err := s.Scripts.Settings(ctx)
	w.Stock = set.Equipment
	return w, true, err
}

// Between lists what a group has placed from day to day.
func (s *Service) Between(ctx context.Context, c access.Coach, group string, from, to season.Date) ([]script.PlacedOn, error) {
	return s.Store.Between(ctx, c.Season.ID, group, from, to)
}

// Dates lists the days of the season with practice.
func (s *Service) Dates(ctx context.Context, c access.Coach) ([]script.Dated, error) {
	return s.Calendar.Dates(ctx, c.Season.ID)
}

// Next reads the group's plan of its next practice.
func (s *Service) Next(ctx context.Context, c access.Coach, group string, from season.Date) (script.Next, bool, error) {
	return s.Store.Next(ctx, c.Season.ID, group, from)
}

// Placed reads placements by their ids.
func (s *Service) Placed(ctx context.Context, ids []uuid.UUID) ([]script.PlacedOn, error) {
	return s.Store.Placed(ctx, ids)
}

// Frame returns what holds for every screen.
func (s *Service) Frame(ctx context.Context, c access.Coach) (contract.Frame, error) {
	practices, games, err := s.Store.Calendar(ctx, c.Season.ID)
	if err != nil {
		return contract.Frame{}, err
	}
	today := c.Today(s.Now())
	f := contract.Frame{Club: c.Club.Name, Today: today.String(), Week: min(max(c.WeekOf(today), 1), c.Season.Weeks), Groups: []contract.GroupRef{}, Weeks: []contract.SeasonWeek{}}
	for _, g := range c.Club.Groups {
		f.Groups = append(f.Groups, contract.GroupRef{Key: g.Key, Name: g.Name, Short: g.Short, Side: contract.GroupRefSide(g.Side), Positions: append([]string{}, g.Positions...), Mine: slices.Contains(c.Own, g.Key)})
	}
	for w := 1; w <= c.Season.Weeks; w++ {
		f.Weeks = append(f.Weeks, contract.SeasonWeek{Week: w, Starts: season.WeekStart(c.Season.Start, w).String(),
			Practices: []contract.PracticeRef{}, Games: []contract.GameRef{}})
	}
	for _, p := range practices {
		if w := c.WeekOf(p.On); w >= 1 && w <= c.Season.Weeks {
			f.Weeks[w-1].Practices = append(f.Weeks[w-1].Practices, script.Ref(p))
		}
	}
	for _, g := range games {
		if w := c.WeekOf(g.On); w >= 1 && w <= c.Season.Weeks {
			f.Weeks[w-1].Games = append(f.Weeks[w-1].Games, gameRef(g))
		}
	}
	return f, nil
}

func gameRef(g Game) contract.GameRef {
	ref := contract.GameRef{ID: g.ID, Date: g.On.String(), Opponent: g.Opponent, Home: g.Home}
	if g.Cancelled != "" {
		ref.Cancelled = &g.Cancelled
	}
	return ref
}
