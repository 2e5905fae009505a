package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// MaxSets is the most sets of a group.
const MaxSets = 200

// Set is drills that are put into a period whole, in their order.
type Set struct {
	ID        uuid.UUID
	Group     string
	Name      string
	EveryDay  bool
	Drills    []contract.SetDrill
	Version   int
	ChangedBy string
}

func (s Set) view() contract.DrillSet {
	v := contract.DrillSet{ID: s.ID, Version: s.Version, Set: contract.DrillSetInput{Name: s.Name, EveryDay: s.EveryDay, Drills: append([]contract.SetDrill{}, s.Drills...)}}
	if s.ChangedBy != "" {
		v.ChangedBy = &s.ChangedBy
	}
	return v
}

// DrillSets lists the sets of a group.
func (s *Service) DrillSets(ctx context.Context, c access.Coach, group string) ([]contract.DrillSet, error) {
	if _, err := c.Group(group); err != nil {
		return nil, err
	}
	list, err := s.Sets.Sets(ctx, group)
	out := make([]contract.DrillSet, len(list))
	for i, x := range list {
		out[i] = x.view()
	}
	return out, err
}

// EveryDay lists the keys of the drills that a group does every day.
func (s *Service) EveryDay(ctx context.Context, group string) (keys []string, err error) {
	list, err := s.Sets.Sets(ctx, group)
	for _, x := range list {
		for _, d := range x.Drills {
			if x.EveryDay && !slices.Contains(keys, d.Drill) {
				keys = append(keys, d.Drill)
			}
		}
	}
	return keys, err
}

// PutDrillSet saves a set. It returns a *problem.Stale when it was changed since the version given,
// or is not there any longer.
func (s *Service) PutDrillSet(ctx context.Context, c access.Coach, group string, id uuid.UUID, version int, in contract.DrillSetInput) (contract.DrillSet, error) {
	if _, err := c.Group(group); err != nil {
		return contract.DrillSet{}, err
	}
	if !c.MayWork(group) {
		return contract.DrillSet{}, problem.ErrForbidden
	}
	was, there, err := s.Sets.Set(ctx, id)
	if err != nil {
		return contract.DrillSet{}, err
	}
	next := Set{ID: id, Group: group, Name: strings.TrimSpace(in.Name), EveryDay: in.EveryDay, Drills: in.Drills, Version: was.Version}
	switch {
	case there && was.Group != group:
		return contract.DrillSet{}, problem.ErrTaken
	case there && was.says(next): // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		return contract.DrillSet{}, &problem.Stale{What: "set of drills", By: was.ChangedBy, Current: was.view()}
	}
	if err := s.checkSet(ctx, c, next); err != nil {
		return contract.DrillSet{}, err
	}
	if err := s.Sets.PutSet(ctx, next, c.ID, s.Now()); err != nil {
		return contract.DrillSet{}, err
	}
	next.Version++
	next.ChangedBy = c.Name
	return next.view(), nil
}

// says reports whether two sets say the same.
func (s Set) says(o Set) bool {
	return s.Name == o.Name && s.EveryDay == o.EveryDay && slices.EqualFunc(s.Drills, o.Drills, func(a, b contract.SetDrill) bool {
		return a.Drill == b.Drill && a.Minutes == b.Minutes && a.Lanes == b.Lanes && (a.Technique == nil) == (b.Technique == nil) && (a.Technique == nil || *a.Technique == *b.Technique)
	})
}

// checkSet refuses a set without a name or with that of another, and drills that the group does not
// do.
func (s *Service) checkSet(ctx context.Context, c access.Coach, next Set) error {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return err
	}
	if next.Name == "" {
		return invalid.Field("name", "a set needs a name")
	}
	for i, d := range next.Drills {
		at := fmt.Sprintf("drills[%d]", i)
		drill, ok := h.Library.Drill(d.Drill)
		if !ok || !slices.Contains(drill.Groups, next.Group) {
			return invalid.Field(at+".drill", "the group has no drill %q", d.Drill)
		}
		if d.Technique != nil && !slices.Contains(drill.Techniques, *d.Technique) {
			return invalid.Field(at+".technique", "%s does not train %q", drill.Name, *d.Technique)
		}
	}
	all, err := s.Sets.Sets(ctx, next.Group)
	if err != nil {
		return err
	}
	others := slices.DeleteFunc(all, func(x Set) bool { return x.ID == next.ID })
	if len(others) >= MaxSets {
		return invalid.Field("name", "a group has at most %d sets", MaxSets)
	}
	if slices.ContainsFunc(others, func(x Set) bool { return strings.EqualFold(x.Name, next.Name) }) {
		return invalid.Field("name", "another set is called %s", next.Name)
	}
	return nil
}

// DeleteDrillSet forgets a set; what was put in by it stays.
func (s *Service) DeleteDrillSet(ctx context.Context, c access.Coach, group string, id uuid.UUID, version int) (contract.Gone, error) {
	was, there, err := s.Sets.Set(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case was.Group != group:
		return contract.Gone{}, problem.ErrNotFound
	case !c.MayWork(group):
		return contract.Gone{}, problem.ErrForbidden
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "set of drills", By: was.ChangedBy, Current: was.view()}
	}
	return contract.Gone{ID: id}, s.Sets.DeleteSet(ctx, id)
}
