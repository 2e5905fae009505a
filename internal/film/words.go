package film

import (
	"cmp"
	"context"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/play"
	"nineyard/core/term"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Alias is another word of the staff's as it is kept.
type Alias struct {
	ID uuid.UUID
	play.Alias
	Version int
	By      string
}

// Use is how often a word stands under a label.
type Use struct {
	Label play.Column
	Word  string
	N     int
}

// Words keeps what the words under the labels mean, of the context's club.
type Words interface {
	// Aliases lists all, in the order of their labels and words.
	Aliases(ctx context.Context) ([]Alias, error)
	// HoldAliases lists them and holds them until the transaction ends.
	HoldAliases(ctx context.Context) ([]Alias, error)
	// PutAlias writes one, new when its version is 0, and raises its version.
	PutAlias(ctx context.Context, a Alias, by uuid.UUID) error
	DeleteAlias(ctx context.Context, id uuid.UUID) error
	// Uses counts the words that stand under the labels that have aliases.
	Uses(ctx context.Context) ([]Use, error)
	// Correct writes a word in place of others under a label, and returns in how many plays; what stood there is
	// kept as at any correction.
	Correct(ctx context.Context, label play.Column, words []string, means string, by uuid.UUID, at time.Time) (int, error)
}

func (a Alias) view() contract.LabelWord {
	return contract.LabelWord{ID: a.ID, Label: string(a.Label), Said: a.Said, Means: a.Means, Version: a.Version}
}

// Aliases returns what other words mean.
func (s *Service) Aliases(ctx context.Context) ([]play.Alias, error) {
	kept, err := s.Words.Aliases(ctx)
	return meanings(kept), err
}

func meanings(kept []Alias) []play.Alias {
	var list []play.Alias
	for _, a := range kept {
		list = append(list, a.Alias)
	}
	return list
}

// LabelWords returns the words in use, the most used first, and what others mean.
func (s *Service) LabelWords(ctx context.Context) (contract.LabelWords, error) {
	out := contract.LabelWords{Used: []contract.LabelUse{}, Aliases: []contract.LabelWord{}}
	uses, err := s.Words.Uses(ctx)
	if err != nil {
		return out, err
	}
	by := map[play.Column][]Use{}
	for _, u := range uses {
		by[u.Label] = append(by[u.Label], u)
	}
	for _, label := range slices.Sorted(maps.Keys(by)) {
		list := by[label]
		slices.SortFunc(list, func(a, b Use) int { return cmp.Or(b.N-a.N, cmp.Compare(a.Word, b.Word)) })
		use := contract.LabelUse{Label: string(label), Words: []string{}}
		for _, u := range list[:min(len(list), 500)] {
			use.Words = append(use.Words, u.Word)
		}
		out.Used = append(out.Used, use)
	}
	kept, err := s.Words.Aliases(ctx)
	for _, a := range kept {
		out.Aliases = append(out.Aliases, a.view())
	}
	return out, err
}

// others are all aliases but one, and that one.
func (s *Service) others(ctx context.Context, id uuid.UUID) (others []Alias, was Alias, there bool, err error) {
	all, err := s.Words.HoldAliases(ctx)
	was.ID = id
	for _, a := range all {
		if a.ID == id {
			was, there = a, true
			continue
		}
		others = append(others, a)
	}
	return others, was, there, err
}

// PutLabelWord says what another word means, and corrects the plays that say it. Any coach who writes plays may: it
// changes how a thing is written, not what was seen. It returns a *problem.Stale when it was changed since the version
// given.
func (s *Service) PutLabelWord(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.LabelWordInput) (contract.LabelWord, error) {
	if !mayWrite(c) {
		return contract.LabelWord{}, problem.ErrForbidden
	}
	others, was, there, err := s.others(ctx, id)
	if err != nil {
		return contract.LabelWord{}, err
	}
	tidy := func(s string) string { return strings.Join(strings.Fields(s), " ") }
	next := Alias{ID: id, Alias: play.Alias{Label: play.Column(in.Label), Said: tidy(in.Said), Means: tidy(in.Means)}, Version: was.Version}
	switch {
	case there && was.Alias == next.Alias: // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		return contract.LabelWord{}, &problem.Stale{What: "word", By: was.By, Current: was.view()}
	}
	if err := next.Check(meanings(others)); err != nil {
		return contract.LabelWord{}, err
	}
	if err := s.Words.PutAlias(ctx, next, c.ID); err != nil {
		return contract.LabelWord{}, err
	}
	uses, err := s.Words.Uses(ctx)
	if err != nil {
		return contract.LabelWord{}, err
	}
	var said []string
	for _, u := range uses {
		if u.Label == next.Label && term.Same(u.Word, next.Said) {
			said = append(said, u.Word)
		}
	}
	next.Version++
	view := next.view()
	n, err := s.Words.Correct(ctx, next.Label, said, next.Means, c.ID, s.Now())
	if n > 0 {
		view.Corrected = &n
	}
	return view, err
}

// mayWrite says whether a coach writes plays of any side.
func mayWrite(c access.Coach) bool { return c.Works() }

// DeleteLabelWord forgets another word; plays stay as they are.
func (s *Service) DeleteLabelWord(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	_, was, there, err := s.others(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case !mayWrite(c):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "word", By: was.By, Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Words.DeleteAlias(ctx, id)
}
