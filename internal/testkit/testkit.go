// Package testkit is what the tests of the features share: a coach, the shipped library,
// stand-ins for the ports that features offer, and a small club in a database of its own.
package testkit

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/group"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/mark/record"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
	"nineyard/library"
)

// Day is the Tuesday of the seventh week on which the tests stand.
var Day = season.Must("2026-10-13")

// Now is the moment they stand at: five in the afternoon.
func Now() time.Time { return Day.Time().Add(17 * time.Hour) }

// Coach coaches the groups given.
func Coach(groups ...string) access.Coach {
	return access.Coach{ID: uuid.New(), Name: "R. Kell", Role: "coach", Own: groups,
		Club:   access.Club{ID: uuid.New(), Name: "Marrow Point", Timezone: "UTC", Groups: group.Usual(), Library: 1},
		Season: access.Season{ID: uuid.New(), Start: season.Must("2026-08-31"), Weeks: 9}}
}

// Head is the head coach.
func Head() access.Coach {
	c := Coach()
	c.Name, c.Role = "M. Orrin", access.Head
	return c
}

// Houses is a house.Source of one house.
type Houses struct{ House *house.House }

// Of returns it.
func (h Houses) Of(context.Context, access.Coach) (*house.House, error) { return h.House, nil }

// Shipped is the house of a club that has changed nothing.
func Shipped(t testing.TB) Houses {
	t.Helper()
	e, err := library.Shipped()
	if err != nil {
		t.Fatal(err)
	}
	h, err := house.New(1, e, nil)
	if err != nil {
		t.Fatal(err)
	}
	return Houses{h}
}

// Squad is a squad.Source of a list of players; Status says who is not available on a day.
type Squad struct {
	Players []squad.Player
	Status  func(p squad.Player, day season.Date) availability.Status
}

// Group lists the players of a group.
func (s Squad) Group(ctx context.Context, group string, day season.Date) ([]squad.Player, error) {
	all, err := s.All(ctx, day)
	var list []squad.Player
	for _, p := range all {
		for _, g := range p.Groups {
			if g == group {
				list = append(list, p)
			}
		}
	}
	return list, err
}

// All lists everybody.
func (s Squad) All(_ context.Context, day season.Date) ([]squad.Player, error) {
	list := make([]squad.Player, len(s.Players))
	for i, p := range s.Players {
		if s.Status != nil {
			p.Status = s.Status(p, day)
		}
		list[i] = p
	}
	return list, nil
}

// Line makes n players of a group, all available.
func Line(group string, n int) Squad {
	var s Squad
	for i := range n {
		s.Players = append(s.Players, squad.Player{ID: uuid.New(), Jersey: fmt.Sprint(60 + i), FirstName: "P.", LastName: fmt.Sprintf("Player%d", i), Groups: []string{group}, Status: availability.Available})
	}
	return s
}

// Standings is a standing.Source that answers the same of every ladder.
type Standings struct {
	At  standing.Group
	Own []standing.Range
}

// GroupOn returns where the group stands.
func (s Standings) GroupOn(context.Context, access.Coach, string, teaching.Ladder, season.Date) (standing.Group, error) {
	return s.At, nil
}

// Ranges lists the ranges.
func (s Standings) Ranges(context.Context) ([]standing.Range, error) { return s.Own, nil }

// Plans is a script.Source of fixed plans.
type Plans struct {
	NextPlan *script.Next
	On       []script.PlacedOn
}

// Next returns the next plan, if there is one.
func (p Plans) Next(context.Context, access.Coach, string, season.Date) (script.Next, bool, error) {
	if p.NextPlan == nil {
		return script.Next{}, false, nil
	}
	return *p.NextPlan, true, nil
}

// Placed reads placements by their ids.
func (p Plans) Placed(_ context.Context, ids []uuid.UUID) ([]script.PlacedOn, error) {
	var list []script.PlacedOn
	for _, x := range p.On {
		for _, id := range ids {
			if x.ID == id {
				list = append(list, x)
			}
		}
	}
	return list, nil
}

// Marks is a record.Source of fixed marks.
type Marks struct {
	Sums    record.Sums
	AllRuns []record.Run
	Details []record.Detail
	ToDo    []record.Work
}

// Season lists the sums from day to day, and the faults from a later day on.
func (m Marks) Season(_ context.Context, _ string, from, to, faultsFrom season.Date) (record.Sums, error) {
	var sums record.Sums
	for _, d := range m.Sums.Days {
		if d.On >= from && d.On <= to {
			sums.Days = append(sums.Days, d)
		}
	}
	for _, f := range m.Sums.Faults {
		if f.On >= faultsFrom && f.On <= to {
			sums.Faults = append(sums.Faults, f)
		}
	}
	return sums, nil
}

// Add adds n reps of a player at a technique on a day; faults make them faulty unless a
// teammate caused them.
func (m *Marks) Add(player uuid.UUID, technique string, on season.Date, game bool, n int, faults ...record.Fault) {
	d := record.Day{PlayerID: player, TechniqueKey: technique, On: on, Game: game, Clean: n}
	if len(faults) == 0 {
		d.Assumed = n
	}
	for _, f := range faults {
		x := record.FaultDay{PlayerID: player, TechniqueKey: technique, On: on, Game: game, Fault: f.Key, N: n}
		if f.CausedBy == "" {
			d.Clean, d.Faulty = 0, n
		} else {
			x.CausedBy = new(uuid.MustParse(f.CausedBy))
		}
		m.Sums.Faults = append(m.Sums.Faults, x)
	}
	m.Sums.Days = append(m.Sums.Days, d)
}

// Runs lists the runs of the group, or of one player, and the faults from a later day on.
func (m Marks) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
	var list []record.Run
	for _, r := range m.AllRuns {
		if r.On >= from && r.On <= to && (player == nil || r.PlayerID == *player) {
			list = append(list, r)
		}
	}
	sums, err := m.Season(ctx, group, from, to, faultsFrom)
	return list, sums.Faults, err
}

// Evidence lists the details of a player.
func (m Marks) Evidence(_ context.Context, player uuid.UUID, w record.Which) ([]record.Detail, error) {
	var list []record.Detail
	for _, d := range m.Details {
		if d.PlayerID == player && d.On >= w.From && d.On <= w.To && (w.Technique == "" || d.TechniqueKey == w.Technique) {
			list = append(list, d)
		}
	}
	return list, nil
}

// Work lists what is to grade.
func (m Marks) Work(_ context.Context, _ access.Coach, _ string, from, to season.Date) ([]record.Work, error) {
	var list []record.Work
	for _, w := range m.ToDo {
		if w.On >= from && w.On <= to {
			list = append(list, w)
		}
	}
	return list, nil
}

// Field is a migrated database with two clubs. The first has two players of the line, one
// practice on Day with a period of the line's own, and a game of one play three days later;
// the second has one player of its line.
type Field struct {
	App, Owner           *pg.DB
	Club, Other          uuid.UUID
	Season               access.Season // of the first club
	Player, Mate, Theirs uuid.UUID
	Practice, Period     uuid.UUID
	Game, Play           uuid.UUID
	HeadCoach            uuid.UUID // of the first club
}

// OpenField makes a field of its own for a test.
func OpenField(t testing.TB) Field {
	t.Helper()
	ctx := context.Background()
	url := pgtest.Copy(t, "empty", func(url string) error { _, err := pg.Migrate(context.Background(), url); return err })
	f := Field{Player: uuid.New(), Mate: uuid.New(), Theirs: uuid.New(), Practice: uuid.New(), Period: uuid.New(), Game: uuid.New(), Play: uuid.New()}
	must := func(err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
	}
	var err error
	f.App, err = pg.Open(url, 4)
	must(err)
	f.Owner, err = pg.OpenOwner(url, 2)
	must(err)
	t.Cleanup(func() { _, _ = f.App.Close(), f.Owner.Close() })
	for i, club := range []*uuid.UUID{&f.Club, &f.Other} {
		*club, err = access.CreateClub(ctx, f.Owner, access.NewClub{Club: fmt.Sprintf("Club %d", i), Timezone: "UTC", SeasonStart: season.Must("2026-08-31"), Weeks: 9,
			Name: "H. Coach", Email: fmt.Sprintf("h%d@club.example", i), PasswordHash: "-", Groups: group.Usual()})
		must(err)
	}
	store := access.SQL{DB: f.App}
	account, _, err := store.Account(ctx, "h0@club.example")
	must(err)
	places, err := store.Memberships(ctx, account.ID)
	must(err)
	f.HeadCoach = places[0].ID
	head, _, err := store.Coach(ctx, f.HeadCoach)
	must(err)
	f.Season = head.Season
	must(f.In(func(ctx context.Context) error {
		return exec(ctx, pg.Args{"season": f.Season.ID, "player": f.Player, "mate": f.Mate, "practice": f.Practice, "period": f.Period, "game": f.Game, "play": f.Play, "day": Day.Time(), "saturday": (Day + 3).Time()},
			`INSERT INTO players (id, club_id, jersey, first_name, last_name) VALUES (@player, @club, '64', 'Jun', 'Sato'), (@mate, @club, '7', 'Bo', 'Lind')`,
			`INSERT INTO player_groups (club_id, player_id, group_key) VALUES (@club, @player, 'ol'), (@club, @mate, 'ol')`,
			`INSERT INTO practices (id, club_id, season_id, on_date, title, start_minute, minutes) VALUES (@practice, @club, @season, @day, 'Tuesday', 1080, 90)`,
			`INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact) VALUES (@period, @club, @practice, 10, 20, 'individual', 'Line', 'bag')`,
			`INSERT INTO period_groups (club_id, period_id, group_key) VALUES (@club, @period, 'ol')`,
			`INSERT INTO games (id, club_id, season_id, on_date, opponent, home) VALUES (@game, @club, @season, @saturday, 'Dunmere', true)`,
			`INSERT INTO plays (id, club_id, game_id, number, offense) VALUES (@play, @club, @game, 1, true)`)
	}))
	must(f.App.InClub(ctx, f.Other, func(ctx context.Context) error {
		return exec(ctx, pg.Args{"theirs": f.Theirs},
			`INSERT INTO players (id, club_id, last_name) VALUES (@theirs, @club, 'Marsh')`,
			`INSERT INTO player_groups (club_id, player_id, group_key) VALUES (@club, @theirs, 'ol')`)
	}))
	return f
}

func exec(ctx context.Context, args pg.Args, steps ...string) error {
	for _, s := range steps {
		if _, err := pg.Exec(ctx, s, args); err != nil {
			return fmt.Errorf("%s: %w", s, err)
		}
	}
	return nil
}

// In runs f as a request of the first club.
func (f Field) In(do func(ctx context.Context) error) error {
	return f.App.InClub(context.Background(), f.Club, do)
}

// InOther runs f as a request of the second club.
func (f Field) InOther(do func(ctx context.Context) error) error {
	return f.App.InClub(context.Background(), f.Other, do)
}
