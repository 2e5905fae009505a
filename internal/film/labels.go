package film

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/cut"
	"nineyard/core/play"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Version is what stood on a play at a version.
type Version struct {
	Version int
	Labels  []string // as play.Record writes them
	By      string
	At      time.Time
}

// CutUp is a cut-up that is kept by a name.
type CutUp struct {
	ID      uuid.UUID
	Group   string
	Name    string
	Cut     string
	Version int
	By      string
}

// Labels keeps what goes with the words of the staff, of the context's club.
type Labels interface {
	// Versions lists what stood on a play, the latest first.
	Versions(ctx context.Context, play uuid.UUID) ([]Version, error)
	// Mapping is which header stands for what in lists with these headers; false where none was chosen yet.
	Mapping(ctx context.Context, headers string) (columns map[string]string, found bool, err error)
	KeepMapping(ctx context.Context, headers string, columns map[string]string) error
	// CutUps lists those of a group by name.
	CutUps(ctx context.Context, group string) ([]CutUp, error)
	// CutUp reads one and holds it until the transaction ends.
	CutUp(ctx context.Context, id uuid.UUID) (c CutUp, found bool, err error)
	// PutCutUp writes one, new when its version is 0, and raises its version.
	PutCutUp(ctx context.Context, c CutUp, by uuid.UUID) error
	DeleteCutUp(ctx context.Context, id uuid.UUID) error
}

// History returns what was corrected on a play, the latest first.
func (s *Service) History(ctx context.Context, game, id uuid.UUID) ([]contract.PlayCorrection, error) {
	list := []contract.PlayCorrection{}
	plays, err := s.Store.Plays(ctx, []uuid.UUID{id})
	if err != nil {
		return list, err
	}
	if len(plays) == 0 || plays[0].GameID != game {
		return list, problem.ErrNotFound
	}
	versions, err := s.Labels.Versions(ctx, id)
	for i, v := range versions {
		c := contract.PlayCorrection{Version: v.Version, At: v.At, Changes: []contract.LabelChange{}}
		if v.By != "" {
			c.By = &v.By
		}
		if i+1 < len(versions) {
			for _, x := range play.Changes(versions[i+1].Labels, v.Labels) {
				c.Changes = append(c.Changes, contract.LabelChange{Label: string(x.Column), Was: x.Was, Is: x.Is})
			}
		}
		list = append(list, c)
	}
	return list, err
}

// headerKey names lists with the same columns in the same order.
func headerKey(headers []string) string { return strings.ToLower(strings.Join(headers, "\x1f")) }

func (c CutUp) view() contract.CutUp {
	return contract.CutUp{ID: c.ID, Name: c.Name, Cut: c.Cut, Version: c.Version}
}

// CutUps returns the cut-ups that a group's coaches keep.
func (s *Service) CutUps(ctx context.Context, c access.Coach, group string) ([]contract.CutUp, error) {
	list := []contract.CutUp{}
	if _, err := c.Group(group); err != nil {
		return list, err
	}
	kept, err := s.Labels.CutUps(ctx, group)
	for _, x := range kept {
		list = append(list, x.view())
	}
	return list, err
}

// PutCutUp keeps a cut-up by a name. It returns a *problem.Stale when it was changed since the version given.
func (s *Service) PutCutUp(ctx context.Context, c access.Coach, group string, id uuid.UUID, version int, in contract.CutUpInput) (contract.CutUp, error) {
	if _, err := c.Group(group); err != nil {
		return contract.CutUp{}, err
	}
	was, there, err := s.Labels.CutUp(ctx, id)
	next := CutUp{ID: id, Group: group, Name: strings.Join(strings.Fields(in.Name), " "), Cut: strings.TrimSpace(in.Cut), Version: was.Version}
	switch {
	case err != nil:
		return contract.CutUp{}, err
	case there && was.Group != group:
		return contract.CutUp{}, problem.ErrTaken
	case !c.MayWork(group):
		return contract.CutUp{}, problem.ErrForbidden
	case there && was.Name == next.Name && was.Cut == next.Cut: // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		was.ID = id
		return contract.CutUp{}, &problem.Stale{What: "cut-up", By: was.By, Current: was.view()}
	}
	if _, err := cut.Parse(next.Cut); err != nil {
		return contract.CutUp{}, err
	}
	if err := s.Labels.PutCutUp(ctx, next, c.ID); err != nil {
		return contract.CutUp{}, err
	}
	next.Version++
	return next.view(), nil
}

// DeleteCutUp forgets a cut-up.
func (s *Service) DeleteCutUp(ctx context.Context, c access.Coach, group string, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Labels.CutUp(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case was.Group != group:
		return contract.Gone{}, problem.ErrNotFound
	case !c.MayWork(group):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "cut-up", By: was.By, Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Labels.DeleteCutUp(ctx, id)
}
