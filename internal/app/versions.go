package app

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/house"
	"nineyard/internal/contract"
)

// HouseOf returns what the club changed, version by version.
func (s *Service) HouseOf(ctx context.Context, a Actor) (contract.House, error) {
	return s.houseView(ctx, s.Store, a, a.House)
}

func (s *Service) houseView(ctx context.Context, store Store, a Actor, h *House) (contract.House, error) {
	v := contract.House{Version: h.Version, Changes: []contract.HouseChange{}, Conflicts: conflictViews(h, house.Ref{}), Missing: []string{}}
	known := map[house.Ref]house.Fields{}
	for _, list := range [][]house.Entry{h.Shipped, h.Entries} {
		for _, e := range list {
			known[e.Ref] = e.Fields
		}
	}
	for _, c := range h.Layer {
		v.Changes = append(v.Changes, contract.HouseChange{Kind: c.Kind, Key: c.Key, Name: nameOf(known[c.Ref], c.Ref), Added: c.Added, Retired: c.Retired,
			Fields: sortedKeys(c.Fields)})
	}
	for _, i := range h.Library.Rules() {
		v.Missing = append(v.Missing, fmt.Sprintf("%s %s: %s", strings.ToUpper(i.Kind[:1])+i.Kind[1:], nameOf(known[house.Ref{Kind: i.Kind, Key: i.Key}], house.Ref{Kind: i.Kind, Key: i.Key}), i.Message))
	}
	versions, err := store.HouseVersions(ctx, a.ClubID, "", shownVersions)
	v.Versions = versionViews(versions)
	return v, err
}

// RestoreHouse makes the layer what it was in a version, as a new version.
func (s *Service) RestoreHouse(ctx context.Context, a Actor, version int, id uuid.UUID) (contract.House, error) {
	var out contract.House
	err := s.Store.InTx(ctx, func(tx Store) error {
		if err := tx.LockHouse(ctx, a.ClubID); err != nil {
			return err
		}
		h, err := s.latestHouse(ctx, tx, a.ClubID)
		if err != nil {
			return err
		}
		done, err := s.sentBefore(ctx, tx, a, id)
		if err != nil {
			return err
		}
		if !done {
			old, err := tx.HouseVersion(ctx, a.ClubID, version)
			if err != nil {
				return err
			}
			if h, err = s.restore(ctx, tx, a, h, old, id); err != nil {
				return err
			}
		}
		out, err = s.houseView(ctx, tx, a, h)
		return err
	})
	return out, err
}

func (s *Service) restore(ctx context.Context, tx Store, a Actor, h *House, old HouseVersion, id uuid.UUID) (*House, error) {
	was, err := h.with(old.Layer)
	if err != nil {
		return nil, err
	}
	var touched []house.Ref
	for _, d := range house.Compare(h.Entries, was.Entries) {
		if d.New || len(d.Fields) > 0 {
			touched = append(touched, d.Ref)
		}
	}
	for _, d := range house.Compare(was.Entries, h.Entries) {
		if d.New {
			touched = append(touched, d.Ref)
		}
	}
	for _, r := range touched {
		if !a.mayEditEntry(h, r) && !a.mayEditEntry(was, r) {
			return nil, ErrForbidden
		}
	}
	if err := h.sound(was, touched); err != nil {
		return nil, err
	}
	return was, s.commitHouse(ctx, tx, a, was, id, touched, fmt.Sprintf("Back to version %d of %s", old.Version, old.CreatedAt.Format(time.DateOnly)))
}
