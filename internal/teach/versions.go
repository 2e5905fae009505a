package teach

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/complete"
	"nineyard/core/merge"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/teach/house"
)

// HouseOf returns what the club changed, version by version.
func (s *Service) HouseOf(ctx context.Context, c access.Coach) (contract.House, error) {
	h, err := s.Of(ctx, c)
	if err != nil {
		return contract.House{}, err
	}
	return s.houseView(ctx, h)
}

func (s *Service) houseView(ctx context.Context, h *house.House) (contract.House, error) {
	v := contract.House{Version: h.Version, Changes: []contract.HouseChange{}, Conflicts: conflictViews(h, merge.Ref{}), Missing: []string{}}
	known := map[merge.Ref]merge.Fields{}
	for _, list := range [][]merge.Entry{h.Edition.Entries, h.Entries} {
		for _, e := range list {
			known[e.Ref] = e.Fields
		}
	}
	for _, c := range h.Layer {
		v.Changes = append(v.Changes, contract.HouseChange{Kind: c.Kind, Key: c.Key, Name: nameOf(known[c.Ref], c.Ref), Added: c.Added, Retired: c.Retired,
			Fields: append([]string{}, slices.Sorted(maps.Keys(c.Fields))...)})
	}
	for _, i := range complete.Check(h.Library) {
		v.Missing = append(v.Missing, fmt.Sprintf("%s %s: %s", strings.ToUpper(i.Kind[:1])+i.Kind[1:], nameOf(known[merge.Ref{Kind: i.Kind, Key: i.Key}], merge.Ref{Kind: i.Kind, Key: i.Key}), i.Message))
	}
	return v, nil
}

// Versions lists the versions of the house older than one, newest first, a page at a time;
// before is 0 for the first page.
func (s *Service) Versions(ctx context.Context, before int) (contract.VersionPage, error) {
	list, err := s.Store.Versions(ctx, "", before, shownVersions+1)
	if err != nil {
		return contract.VersionPage{}, err
	}
	page := contract.VersionPage{Versions: versionViews(list)}
	if len(list) > shownVersions {
		page.Versions = page.Versions[:shownVersions]
		page.Next = &page.Versions[shownVersions-1].Version
	}
	return page, nil
}

// RestoreHouse makes the layer what it was in a version, as a new version.
func (s *Service) RestoreHouse(ctx context.Context, c access.Coach, version int, id uuid.UUID) (contract.House, error) {
	h, done, err := s.begin(ctx, id)
	if err != nil {
		return contract.House{}, err
	}
	if !done {
		old, found, err := s.Store.Version(ctx, version)
		if err != nil {
			return contract.House{}, err
		}
		if !found {
			return contract.House{}, problem.ErrNotFound
		}
		if h, err = s.restore(ctx, c, h, old, id); err != nil {
			return contract.House{}, err
		}
	}
	return s.houseView(ctx, h)
}

func (s *Service) restore(ctx context.Context, c access.Coach, h *house.House, old Version, id uuid.UUID) (*house.House, error) {
	was, err := h.With(old.Layer)
	if err != nil {
		return nil, err
	}
	var touched []merge.Ref
	for _, d := range merge.Compare(h.Entries, was.Entries) {
		if d.New || len(d.Fields) > 0 {
			touched = append(touched, d.Ref)
		}
	}
	for _, d := range merge.Compare(was.Entries, h.Entries) {
		if d.New {
			touched = append(touched, d.Ref)
		}
	}
	for _, r := range touched {
		if !mayEditEntry(c, h, r) && !mayEditEntry(c, was, r) {
			return nil, problem.ErrForbidden
		}
	}
	if err := stays(h, was, touched); err != nil {
		return nil, err
	}
	return was, s.commit(ctx, c, was, id, touched, fmt.Sprintf("Back to version %d of %s", old.Version, old.CreatedAt.Format(time.DateOnly)))
}
