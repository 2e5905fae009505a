package roster

import (
	"context"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/roster"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Proposal is what a list says of a player who is another coach's: it is his to decide.
type Proposal struct {
	ID       uuid.UUID
	PlayerID *uuid.UUID // nil: he would be new
	Group    string     // in which he would be
	Person   roster.Person
	By       string // name of who proposes; empty when it is written
	At       time.Time
}

// subject names what a proposal is about: a later one about the same takes its place.
func (p Proposal) subject() string {
	if p.PlayerID != nil {
		return p.PlayerID.String()
	}
	return strings.ToLower(nameOf(p.Person)) + " " + p.Person.Jersey
}

func nameOf(p roster.Person) string { return strings.TrimSpace(p.First + " " + p.Last) }

// numbered is somebody as he is named beside others: number and name.
func numbered(p roster.Person) string { return strings.TrimSpace(p.Jersey + " " + nameOf(p)) }

// Proposals keeps what is proposed until it is decided.
type Proposals interface {
	// Propose keeps proposals; each takes the place of an earlier one about the same.
	Propose(ctx context.Context, list []Proposal, by uuid.UUID, at time.Time) error
	// Proposed lists those that are open, oldest first.
	Proposed(ctx context.Context) ([]Proposal, error)
	// Decided reads one and takes it away.
	Decided(ctx context.Context, id uuid.UUID) (p Proposal, found bool, err error)
}

// theirs reports whether a line is about another coach's player: one of none of the coach's groups, or a new one who
// would be in a group that is not his.
func theirs(c access.Coach, l roster.Line, known map[string]Entry, fallback string) bool {
	switch l.Action {
	case roster.Create:
		return !c.MayEdit(groupFor(c, l.Person, fallback))
	case roster.Update:
		return !mayEdit(c, known[l.ID])
	}
	return false
}

// decides reports whether somebody decides a proposal about a player, or a new one when he is nil.
func decides(c access.Coach, p Proposal, e *Entry) bool {
	if e == nil {
		return c.MayEdit(p.Group)
	}
	return mayEdit(c, *e)
}

// proposals words what is proposed, beside the players as they are.
func (s *Service) proposals(ctx context.Context, c access.Coach, entries []Entry) ([]contract.RosterProposal, error) {
	open, err := s.Proposals.Proposed(ctx)
	out := []contract.RosterProposal{}
	for _, p := range open {
		v := contract.RosterProposal{ID: p.ID, PlayerID: p.PlayerID, Group: p.Group, Name: numbered(p.Person), By: p.By, At: p.At, Changes: []string{}}
		var e *Entry
		if p.PlayerID != nil {
			i := slices.IndexFunc(entries, func(e Entry) bool { return e.ID == *p.PlayerID })
			if i < 0 {
				continue // he was merged away
			}
			e = &entries[i]
			v.Changes = append(v.Changes, roster.Changes(e.Person, p.Person)...)
			v.Name = numbered(e.Person)
		}
		v.Decidable = decides(c, p, e)
		out = append(out, v)
	}
	return out, err
}

// Decide takes a proposal, or leaves it; it is then gone. Who may change the player decides.
func (s *Service) Decide(ctx context.Context, c access.Coach, id uuid.UUID, take bool) error {
	p, found, err := s.Proposals.Decided(ctx, id)
	if err = problem.Found(found, err); err != nil {
		return err
	}
	e, known := Entry{ID: uuid.New(), Person: p.Person, Groups: []string{p.Group}}, false
	if p.PlayerID != nil {
		if e, known, err = s.Store.Entry(ctx, c.Season, *p.PlayerID); err == nil && !known {
			err = problem.ErrNotFound
		}
		if err != nil {
			return err
		}
		e.Person = roster.Merge(e.Person, p.Person)
		e.Archived = false
	}
	subject := &e
	if !known {
		subject = nil
	}
	if !decides(c, p, subject) {
		return problem.ErrForbidden
	}
	if !take {
		return nil
	}
	e.Person.WeightLb = math.Round(e.Person.WeightLb)
	e.Person.SaysReturning = false
	return s.Store.Save(ctx, e, c.ID)
}
