package roster

import (
	"context"
	"sort"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// SpellInput is a spell as a coach wants it to be.
type SpellInput struct {
	Version  int
	Status   string
	From, To string // days; To is empty while it is open
	Reason   string
}

// player reads a player whose availability the coach may record: he is in a group of his.
func (s *Service) player(ctx context.Context, c access.Coach, id uuid.UUID) (Entry, error) {
	e, found, err := s.Store.Entry(ctx, c.Season, id)
	switch {
	case err != nil:
		return e, err
	case !found:
		return e, problem.ErrNotFound
	case !mayRecord(c, e):
		return e, problem.ErrForbidden
	}
	return e, nil
}

// Availability lists what is recorded of a player, newest first.
func (s *Service) Availability(ctx context.Context, c access.Coach, player uuid.UUID) ([]contract.Spell, error) {
	e, found, err := s.Store.Entry(ctx, c.Season, player)
	if err != nil {
		return nil, err
	}
	if !found {
		return nil, problem.ErrNotFound
	}
	sort.SliceStable(e.Spells, func(i, j int) bool { return e.Spells[i].Is.From > e.Spells[j].Is.From })
	out := []contract.Spell{}
	for _, x := range e.Spells {
		out = append(out, spellView(x, mayRecord(c, e)))
	}
	return out, nil
}

func spellView(s Spell, editable bool) contract.Spell {
	v := contract.Spell{ID: s.ID, Version: s.Version, Status: contract.Availability(s.Is.Status), From: s.Is.From.String(), Reason: s.Is.Reason, By: s.By, At: s.At,
		Editable: editable && s.Is.Cleared == nil}
	if s.Is.To != nil {
		v.To = new(s.Is.To.String())
	}
	if c := s.Is.Cleared; c != nil {
		v.ClearedBy, v.ClearedOn, v.RecordedBy = &c.By, new(c.On.String()), &s.RecordedBy
		if c.Document != "" { // of old there was none
			v.ClearedDocument = &c.Document
		}
	}
	return v
}

// PutSpell records a spell (version 0) or changes one. It returns a *problem.Stale when it
// was changed since the version was read.
func (s *Service) PutSpell(ctx context.Context, c access.Coach, player, id uuid.UUID, in SpellInput) (contract.Spell, error) {
	if _, err := s.player(ctx, c, player); err != nil {
		return contract.Spell{}, err
	}
	want, err := in.spell()
	if err != nil {
		return contract.Spell{}, err
	}
	was, found, err := s.Spells.Spell(ctx, id)
	switch {
	case err != nil:
		return contract.Spell{}, err
	case found && was.PlayerID != player, !found && in.Version != 0:
		return contract.Spell{}, problem.ErrNotFound
	case found && equal(was.Is, want): // sent again after a lost answer
		return spellView(was, true), nil
	case found && in.Version != was.Version:
		return contract.Spell{}, &problem.Stale{What: "entry", By: was.By, Current: spellView(was, true)}
	case found:
		want, err = was.Is.Change(want)
	default:
		err = want.Check()
	}
	if err != nil {
		return contract.Spell{}, err
	}
	if err := s.Spells.SaveSpell(ctx, Spell{ID: id, PlayerID: player, Version: was.Version, Is: want}, c.ID, s.Now()); err != nil {
		return contract.Spell{}, err
	}
	after, _, err := s.Spells.Spell(ctx, id)
	return spellView(after, true), err
}

func (in SpellInput) spell() (availability.Spell, error) {
	out := availability.Spell{Status: availability.Status(in.Status), Reason: in.Reason}
	var err error
	if out.From, err = season.Parse(in.From); err != nil {
		return out, invalid.Field("from", "%s", err)
	}
	if in.To != "" {
		to, err := season.Parse(in.To)
		if err != nil {
			return out, invalid.Field("to", "%s", err)
		}
		out.To = &to
	}
	return out, nil
}

func equal(a, b availability.Spell) bool {
	day := func(d *season.Date) string {
		if d == nil {
			return ""
		}
		return d.String()
	}
	return a.Status == b.Status && a.From == b.From && day(a.To) == day(b.To) && a.Reason == b.Reason && a.Cleared == nil
}

// WithdrawSpell takes a spell back. A head-injury hold stays.
func (s *Service) WithdrawSpell(ctx context.Context, c access.Coach, player, id uuid.UUID) error {
	if _, err := s.player(ctx, c, player); err != nil {
		return err
	}
	was, found, err := s.Spells.Spell(ctx, id)
	switch {
	case err != nil:
		return err
	case !found || was.PlayerID != player:
		return problem.ErrNotFound
	case was.Is.Status == availability.HeadHold:
		return invalid.Field("id", "a head-injury hold cannot be taken back; record the written clearance of a licensed health professional")
	}
	return s.Spells.WithdrawSpell(ctx, id, s.Now())
}

// Clear records that a licensed health professional cleared a player in writing. The athletic-health
// staff alone keeps that record; every coach is refused.
func (s *Service) Clear(ctx context.Context, c access.Coach, player, id uuid.UUID, by, on, document string) (contract.Spell, error) {
	if _, err := s.player(ctx, c, player); err != nil {
		return contract.Spell{}, err
	}
	if !c.IsHealth() {
		return contract.Spell{}, problem.ErrForbidden
	}
	was, found, err := s.Spells.Spell(ctx, id)
	if err != nil {
		return contract.Spell{}, err
	}
	if !found || was.PlayerID != player {
		return contract.Spell{}, problem.ErrNotFound
	}
	day, err := season.Parse(on)
	if err != nil {
		return contract.Spell{}, invalid.Field("on", "%s", err)
	}
	if x := was.Is.Cleared; x != nil && x.By == by && x.On == day && x.Document == document { // sent again after a lost answer
		return spellView(was, true), nil
	}
	if was.Is, err = was.Is.Clear(availability.Clearance{By: by, On: day, Document: document}, c.Today(s.Now())); err != nil {
		return contract.Spell{}, err
	}
	if err := s.Spells.SaveSpell(ctx, was, c.ID, s.Now()); err != nil {
		return contract.Spell{}, err
	}
	after, _, err := s.Spells.Spell(ctx, id)
	return spellView(after, true), err
}
