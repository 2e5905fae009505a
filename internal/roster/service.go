// Package roster is the list of the players: who they are, in which groups, and what they
// may take part in by day; lists taken in and given out.
package roster

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/roster"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// Entry is a player as the roster keeps him.
type Entry struct {
	ID       uuid.UUID
	Version  int // raised by every change
	Person   roster.Person
	Groups   []string // keys, in the order of the lanes
	Archived bool
	Marks    int // current marks of the season
	Spells   []Spell
}

// Spell is a stretch of days as it is recorded.
type Spell struct {
	ID         uuid.UUID
	PlayerID   uuid.UUID
	Version    int
	Is         availability.Spell
	By         string
	At         time.Time
	RecordedBy string // who wrote a clearance down
}

// Store keeps the players of the context's club.
type Store interface {
	squad.Source
	// Entries lists everybody but those who were merged away, by number, with all that is
	// recorded of their availability.
	Entries(ctx context.Context, season access.Season) ([]Entry, error)
	// Entry reads one and holds it until the transaction ends.
	Entry(ctx context.Context, season access.Season, id uuid.UUID) (e Entry, found bool, err error)
	// Save writes a player, new when his version is 0, and his groups.
	Save(ctx context.Context, e Entry, by uuid.UUID) error
	// Merge gives everything of one player to another and returns how many marks moved.
	Merge(ctx context.Context, gone, kept uuid.UUID) (int, error)
}

// Spells keeps what players may take part in.
type Spells interface {
	// Spell reads one and holds it until the transaction ends.
	Spell(ctx context.Context, id uuid.UUID) (s Spell, found bool, err error)
	// SaveSpell writes one, new when its version is 0.
	SaveSpell(ctx context.Context, s Spell, by uuid.UUID, at time.Time) error
	// WithdrawSpell takes one back; it stays on the record.
	WithdrawSpell(ctx context.Context, id uuid.UUID, at time.Time) error
}

// Service runs the use cases.
type Service struct {
	Store     Store
	Spells    Spells
	Lists     Lists
	Proposals Proposals
	Now       func() time.Time
}

var _ squad.Source = (*Service)(nil)

// Group lists the players of a group as of a day.
func (s *Service) Group(ctx context.Context, group string, day season.Date) ([]squad.Player, error) {
	return s.Store.Group(ctx, group, day)
}

// All lists everybody as of a day.
func (s *Service) All(ctx context.Context, day season.Date) ([]squad.Player, error) {
	return s.Store.All(ctx, day)
}

// mayEdit reports whether a coach may change a player: he is in a group of his.
func mayEdit(c access.Coach, e Entry) bool { return c.IsHead() || c.MayEditAny(e.Groups) }

// mayRecord reports whether somebody may say when a player takes part: his coaches, and the
// athletic-health staff of everybody.
func mayRecord(c access.Coach, e Entry) bool { return c.IsHealth() || mayEdit(c, e) }

// view words a player as of a day.
func view(c access.Coach, e Entry, day season.Date) contract.RosterPlayer {
	p := e.Person
	v := contract.RosterPlayer{ID: e.ID, Version: e.Version, Jersey: p.Jersey, FirstName: p.First, LastName: p.Last, Groups: append([]string{}, e.Groups...),
		Position: p.Position, Returning: p.Returning, Archived: e.Archived, Status: contract.AvailabilityAvailable, Marks: e.Marks, Spells: len(e.Spells), Editable: mayEdit(c, e), Recordable: mayRecord(c, e)}
	if p.HeightIn != 0 {
		v.HeightIn = &p.HeightIn
	}
	if p.WeightLb != 0 {
		v.WeightLb = new(int(p.WeightLb))
	}
	if x, holds := availability.On(facts(e.Spells), day); holds {
		v.Status, v.Note = contract.Availability(x.Status), x.Reason
		if x.To != nil {
			v.Until = new(x.To.String())
		}
	}
	return v
}

func facts(spells []Spell) []availability.Spell {
	out := make([]availability.Spell, len(spells))
	for i, s := range spells {
		out[i] = s.Is
	}
	return out
}

// List returns every player with what he may take part in on a day; today when it is empty.
func (s *Service) List(ctx context.Context, c access.Coach, on string) (contract.Roster, error) {
	day := c.Today(s.Now())
	if on != "" {
		var err error
		if day, err = season.Parse(on); err != nil {
			return contract.Roster{}, invalid.Field("on", "%s", err)
		}
	}
	entries, err := s.Store.Entries(ctx, c.Season)
	out := contract.Roster{On: day.String(), Players: []contract.RosterPlayer{}, Editable: c.MayEditAny(c.Club.Groups.Keys())}
	if err != nil {
		return out, err
	}
	for _, e := range entries {
		out.Players = append(out.Players, view(c, e, day))
	}
	out.Proposals, err = s.proposals(ctx, c, entries)
	return out, err
}

// Put adds a player (version 0), changes, archives or brings him back. It returns a
// *problem.Stale when he was changed since the version was read.
func (s *Service) Put(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.PlayerInput) (contract.RosterPlayer, error) {
	today := c.Today(s.Now())
	was, found, err := s.Store.Entry(ctx, c.Season, id)
	if err != nil {
		return contract.RosterPlayer{}, err
	}
	person := roster.Person{Jersey: in.Jersey, First: in.FirstName, Last: in.LastName, Position: in.Position, Returning: in.Returning}
	if in.HeightIn != nil {
		person.HeightIn = *in.HeightIn
	}
	if in.WeightLb != nil {
		person.WeightLb = *in.WeightLb
	}
	if person, err = roster.Normalize(person); err != nil {
		return contract.RosterPlayer{}, err
	}
	want := Entry{ID: id, Version: was.Version, Person: person, Archived: in.Archived, Marks: was.Marks, Spells: was.Spells}
	if want.Groups, err = groups(c, in.Groups); err != nil {
		return contract.RosterPlayer{}, err
	}
	switch {
	case found && same(was, want): // sent again after a lost answer
		return view(c, was, today), nil
	case found && version != was.Version:
		return contract.RosterPlayer{}, &problem.Stale{What: "player", Current: view(c, was, today)}
	case !found && version != 0:
		return contract.RosterPlayer{}, problem.ErrNotFound
	}
	if err := allowed(c, was, want, found); err != nil {
		return contract.RosterPlayer{}, err
	}
	if err := s.Store.Save(ctx, want, c.ID); err != nil {
		return contract.RosterPlayer{}, err
	}
	want.Version++
	return view(c, want, today), nil
}

// groups puts keys in the order of the lanes, each once; one that the club has not is an
// invalid.Error.
func groups(c access.Coach, keys []string) ([]string, error) {
	for _, k := range keys {
		if _, ok := c.Club.Groups.Find(k); !ok {
			return nil, invalid.Field("groups", "there is no position group %q", k)
		}
	}
	var out []string
	for _, g := range c.Club.Groups {
		if slices.Contains(keys, g.Key) {
			out = append(out, g.Key)
		}
	}
	if len(out) == 0 {
		return nil, invalid.Field("groups", "a player belongs to at least one position group")
	}
	return out, nil
}

func same(a, b Entry) bool {
	return a.Person == b.Person && a.Archived == b.Archived && slices.Equal(a.Groups, b.Groups)
}

// allowed refuses what is another coach's: a player of none of his groups, groups that are
// not his given or taken away, an archive that takes a player from another coach.
func allowed(c access.Coach, was, want Entry, found bool) error {
	if c.IsHead() {
		return nil
	}
	if found && !mayEdit(c, was) {
		return problem.ErrForbidden
	}
	for _, g := range c.Club.Groups.Keys() {
		if slices.Contains(was.Groups, g) != slices.Contains(want.Groups, g) && !c.MayEdit(g) {
			return problem.ErrForbidden
		}
	}
	if was.Archived != want.Archived {
		for _, g := range want.Groups {
			if !c.MayEdit(g) {
				return problem.ErrForbidden
			}
		}
	}
	return nil
}

// Merge gives all that is recorded of one player to another entry of the same player.
func (s *Service) Merge(ctx context.Context, c access.Coach, gone, kept uuid.UUID) (contract.Merged, error) {
	if gone == kept {
		return contract.Merged{}, invalid.Field("into", "choose another entry: this is the one that goes")
	}
	for _, id := range []uuid.UUID{gone, kept} {
		e, found, err := s.Store.Entry(ctx, c.Season, id)
		if err != nil {
			return contract.Merged{}, err
		}
		if !found {
			return contract.Merged{}, problem.ErrNotFound
		}
		for _, g := range e.Groups {
			if !c.MayEdit(g) {
				return contract.Merged{}, problem.ErrForbidden
			}
		}
		if len(e.Groups) == 0 && !c.IsHead() {
			return contract.Merged{}, problem.ErrForbidden
		}
	}
	moved, err := s.Store.Merge(ctx, gone, kept)
	if err != nil {
		return contract.Merged{}, err
	}
	after, _, err := s.Store.Entry(ctx, c.Season, kept)
	return contract.Merged{Player: view(c, after, c.Today(s.Now())), Marks: moved}, err
}
