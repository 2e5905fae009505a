package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/google/uuid"

	"nineyard/core/house"
	"nineyard/core/teaching"
	"nineyard/library"
)

// House is what a club teaches: its own layer over the shipped library. It is not
// changed once it is made; requests share it.
type House struct {
	Version   int
	Digest    string // of the shipped edition beneath
	Shipped   []house.Entry
	Layer     house.Layer
	Entries   []house.Entry     // shipped and layer merged, every school, without what is retired
	All       *teaching.Library // of Entries
	Library   *teaching.Library // as it is taught: the chosen schools only
	Known     *teaching.Library // with what is retired, for the marks of old
	Conflicts []house.Conflict
}

// lib is what is taught at the actor's club.
func (a Actor) lib() *teaching.Library { return a.House.Library }

// newHouse lays a layer over an edition.
func newHouse(version int, digest string, shipped []house.Entry, layer house.Layer) (*House, error) {
	h := &House{Version: version, Digest: digest, Shipped: shipped, Layer: layer}
	h.Entries, h.Conflicts = house.Merge(shipped, layer)
	var err error
	if h.All, err = library.Build(h.Entries); err != nil {
		return nil, err
	}
	h.Library = h.All.Resolve()
	kept := slices.Clone(layer)
	retired := false
	for i := range kept {
		retired = retired || kept[i].Retired
		kept[i].Retired = false
	}
	if h.Known = h.All; retired {
		known, _ := house.Merge(shipped, kept)
		if h.Known, err = library.Build(known); err != nil {
			return nil, err
		}
	}
	return h, nil
}

// with returns the house as it would be next, with another layer.
func (h *House) with(layer house.Layer) (*House, error) {
	return newHouse(h.Version+1, h.Digest, h.Shipped, layer)
}

// houseCache keeps the houses of the clubs at their latest versions. Every request reads
// the version's number with its actor, so that replicas never serve an old one.
type houseCache struct {
	mu sync.Mutex
	by map[uuid.UUID]*House
}

func (c *houseCache) get(club uuid.UUID, version int) *House {
	c.mu.Lock()
	defer c.mu.Unlock()
	if h := c.by[club]; h != nil && h.Version == version {
		return h
	}
	return nil
}

func (c *houseCache) put(club uuid.UUID, h *House) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.by == nil {
		c.by = map[uuid.UUID]*House{}
	}
	if old := c.by[club]; old == nil || old.Version < h.Version {
		c.by[club] = h
	}
}

// Actor reads a member of the staff with what is taught at his club.
func (s *Service) Actor(ctx context.Context, id uuid.UUID) (Actor, error) {
	a, err := s.Store.Actor(ctx, id)
	if err != nil {
		return a, err
	}
	if a.HouseLatest == 0 { // a club made since the server started
		if err := s.adopt(ctx, a.ClubID); err != nil {
			return a, err
		}
		if a, err = s.Store.Actor(ctx, id); err != nil {
			return a, err
		}
	}
	if a.House = s.houses.get(a.ClubID, a.HouseLatest); a.House != nil {
		return a, nil
	}
	a.House, err = s.latestHouse(ctx, s.Store, a.ClubID)
	if err == nil {
		s.houses.put(a.ClubID, a.House)
	}
	return a, err
}

// latestHouse reads the club's standards as they now are.
func (s *Service) latestHouse(ctx context.Context, store Store, club uuid.UUID) (*House, error) {
	v, err := store.HouseVersion(ctx, club, 0)
	if err != nil {
		return nil, err
	}
	return s.houseAt(ctx, store, v)
}

func (s *Service) houseAt(ctx context.Context, store Store, v HouseVersion) (*House, error) {
	shipped := s.Edition.Entries
	if v.Digest != s.Edition.Digest { // another replica is newer, or the version is old
		var err error
		if shipped, err = store.Edition(ctx, v.Digest); err != nil {
			return nil, err
		}
	}
	return newHouse(v.Version, v.Digest, shipped, v.Layer)
}

// AdoptEdition lets every club that never had this edition of the shipped library have
// it beneath its own layer. It is called once, when the server starts.
func (s *Service) AdoptEdition(ctx context.Context) error {
	if err := s.Store.RememberEdition(ctx, s.Edition.Digest, s.Edition.Entries); err != nil {
		return err
	}
	clubs, err := s.Store.Clubs(ctx, s.Edition.Digest)
	if err != nil {
		return err
	}
	for _, club := range clubs {
		if err := s.adopt(ctx, club); err != nil {
			return fmt.Errorf("taking the library in: %w", err)
		}
	}
	return nil
}

func (s *Service) adopt(ctx context.Context, club uuid.UUID) error {
	return s.Store.InTx(ctx, func(tx Store) error {
		if err := tx.LockHouse(ctx, club); err != nil {
			return err
		}
		if err := tx.RememberEdition(ctx, s.Edition.Digest, s.Edition.Entries); err != nil {
			return err
		}
		next := HouseVersion{ClubID: club, Version: 1, Digest: s.Edition.Digest, Touched: []string{}, Summary: "The shipped library", CreatedAt: s.Clock()}
		latest, err := tx.HouseVersion(ctx, club, 0)
		switch {
		case err == nil && latest.Digest == s.Edition.Digest:
			return nil
		case err == nil:
			old, err := tx.Edition(ctx, latest.Digest)
			if err != nil {
				return err
			}
			for _, d := range house.Compare(old, s.Edition.Entries) {
				if d.New || len(d.Fields) > 0 {
					next.Touched = append(next.Touched, d.String())
				}
			}
			next.Version, next.Layer = latest.Version+1, latest.Layer
			next.Summary = fmt.Sprintf("The shipped library was updated: %d entries", len(next.Touched))
		case !errors.Is(err, ErrNotFound):
			return err
		}
		h, err := s.houseAt(ctx, tx, next)
		if err != nil {
			return err
		}
		return s.saveHouse(ctx, tx, next, h)
	})
}

// saveHouse appends a version, which makes the house h, and rewrites what can be found.
func (s *Service) saveHouse(ctx context.Context, tx Store, v HouseVersion, h *House) error {
	if v.ID == uuid.Nil {
		id, err := uuid.NewV7()
		if err != nil {
			return err
		}
		v.ID = id
	}
	if err := tx.AddHouseVersion(ctx, v); err != nil {
		return err
	}
	return tx.ReplaceTerms(ctx, v.ClubID, termsOf(h))
}

// termsOf lists what can be found: entries by their names, their aliases and the names
// they ship with, and by the words that describe them.
func termsOf(h *House) []Term {
	shipped := map[house.Ref]string{}
	if lib, err := library.Build(h.Shipped); err == nil {
		for _, t := range lib.Techniques {
			shipped[house.Ref{Kind: "technique", Key: t.Key}] = t.Name
			for _, f := range t.Faults {
				shipped[house.Ref{Kind: "fault", Key: f.Key}] = f.Name
			}
		}
		for _, d := range lib.Drills {
			shipped[house.Ref{Kind: "drill", Key: d.Key}] = d.Name
		}
	}
	var out []Term
	add := func(kind, key, technique string, groups []string, name string, aliases []string, body ...string) {
		terms := append([]string{name}, aliases...)
		if old := shipped[house.Ref{Kind: kind, Key: key}]; old != "" && !slices.ContainsFunc(terms, func(s string) bool { return strings.EqualFold(s, old) }) {
			terms = append(terms, old)
		}
		if groups == nil {
			groups = []string{}
		}
		out = append(out, Term{Kind: kind, Key: key, Technique: technique, Groups: groups, Name: name,
			Terms: strings.ToLower(strings.Join(terms, " · ")), Body: strings.Join(body, " · ")})
	}
	lib := h.Library
	for _, t := range lib.Techniques {
		add("technique", t.Key, t.Key, t.Groups, t.Name, t.Aliases, t.Summary)
		for _, c := range t.Checkpoints {
			add("checkpoint", c.Key, t.Key, t.Groups, c.Name, []string{c.Cue}, c.Cue, c.Phase, t.Name)
		}
		for _, f := range t.Faults {
			add("fault", f.Key, t.Key, t.Groups, f.Name, f.Aliases, f.Effect, t.Name)
		}
	}
	for _, d := range lib.Drills {
		add("drill", d.Key, d.Technique, d.Groups, d.Name, d.Aliases, d.Roles, d.Watch, d.Game)
	}
	for _, l := range lib.Ladders {
		t, _ := lib.Technique(l.Technique)
		add("ladder", l.Key, l.Technique, t.Groups, "Ladder: "+l.Name, nil, t.Name)
	}
	for _, q := range lib.Questions {
		var reasons []string
		for _, x := range q.Schools {
			reasons = append(reasons, x.Name, x.Reason)
		}
		add("question", q.Key, "", nil, q.Name, nil, append(reasons, q.Asks)...)
	}
	return out
}
