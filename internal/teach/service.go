// Package teach is what a club teaches: its house over the shipped edition, changed entry
// by entry and version by version, taken from and given to files, and the drill pages.
package teach

import (
	"context"
	"fmt"
	"sync"
	"time"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"nineyard/core/merge"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
	"nineyard/library"
)

// Version is one version of a club's house.
type Version struct {
	Version   int
	ID        uuid.UUID   // made by the client
	Digest    string      // of the edition it lies on
	Layer     merge.Layer // left out of lists
	Touched   []string    // "kind key" of the entries that changed
	Summary   string
	CreatedBy *uuid.UUID
	CreatedAt time.Time
	ByName    string // of CreatedBy
}

// Store keeps the versions of the house of the context's club, and the editions that this
// database has met, which no club owns.
type Store interface {
	// Version reads a version, or the latest when it is zero.
	Version(ctx context.Context, version int) (v Version, found bool, err error)
	// VersionByID finds the version a request made before.
	VersionByID(ctx context.Context, id uuid.UUID) (v Version, found bool, err error)
	// Versions lists the versions older than one (0: all) that touched an entry ("kind key";
	// empty: any), newest first. Layers are left out.
	Versions(ctx context.Context, entry string, before, limit int) ([]Version, error)
	// Add appends a version; its number and id must be new, its edition remembered.
	Add(ctx context.Context, v Version) error
	// Lock holds the club's house until the transaction ends.
	Lock(ctx context.Context) error
	// Met reports whether the club's house ever lay on an edition.
	Met(ctx context.Context, digest string) (bool, error)
	// Edition reads the entries of an edition by its digest.
	Edition(ctx context.Context, digest string) (entries []merge.Entry, found bool, err error)
	// Remember keeps an edition, once.
	Remember(ctx context.Context, digest string, entries []merge.Entry) error
}

// Index is what finding offers: it keeps what can be found in step with the house.
type Index interface {
	// Keep makes what can be found follow from the house, if it does not already.
	Keep(ctx context.Context, h *house.House) error
	// DrillUse tells where a drill is used in the season.
	DrillUse(ctx context.Context, c access.Coach, drill string) (contract.Use, error)
}

// Bounds of what is kept in memory: houses of clubs that are asked for, which share what
// they took over from an edition, and editions of old.
const (
	keptHouses   = 256
	keptEditions = 4
)

// Service runs the use cases.
type Service struct {
	Store   Store
	Index   Index
	Squad   squad.Source
	Schools record.Schools                   // hears of answers that say how marks are judged
	Edition func() (*library.Edition, error) // what ships; read at the first request
	Now     func() time.Time

	start    sync.Once
	houses   *lru.Cache[uuid.UUID, *house.House]
	editions *lru.Cache[string, *library.Edition]
}

var _ house.Source = (*Service)(nil)

func (s *Service) init() {
	s.start.Do(func() {
		var err error
		if s.houses, err = lru.New[uuid.UUID, *house.House](keptHouses); err != nil {
			panic(err) // the size is a constant above zero
		}
		if s.editions, err = lru.New[string, *library.Edition](keptEditions); err != nil {
			panic(err)
		}
	})
}

// Of returns the house of the coach's club. The number of its latest version is read with
// the coach, so that replicas never serve an old one. A club that never had the edition
// which ships takes it in here, at its first request.
func (s *Service) Of(ctx context.Context, c access.Coach) (*house.House, error) {
	s.init()
	if h, ok := s.houses.Get(c.Club.ID); ok && h.Version == c.Club.Library {
		return h, nil
	}
	v, found, err := s.Store.Version(ctx, 0)
	if err != nil {
		return nil, err
	}
	news, err := s.isNews(ctx, v, found)
	if err != nil {
		return nil, err
	}
	if news {
		// Not kept in memory: the transaction may yet be given up.
		return s.adopt(ctx)
	}
	h, err := s.at(ctx, v)
	if err != nil {
		return nil, err
	}
	if err := s.Index.Keep(ctx, h); err != nil {
		return nil, err
	}
	if v.Version == c.Club.Library { // else it was made in this very transaction
		s.houses.Add(c.Club.ID, h)
	}
	return h, nil
}

// isNews reports whether the edition that ships is news to a club at its latest version.
func (s *Service) isNews(ctx context.Context, latest Version, found bool) (bool, error) {
	ships, err := s.Edition()
	if err != nil || !found {
		return true, err
	}
	if latest.Digest == ships.Digest {
		return false, nil
	}
	met, err := s.Store.Met(ctx, ships.Digest) // another replica may be newer than this one
	return !met, err
}

// latest reads the house as it now is.
func (s *Service) latest(ctx context.Context) (*house.House, error) {
	v, found, err := s.Store.Version(ctx, 0)
	if err != nil {
		return nil, err
	}
	if !found {
		return s.adopt(ctx)
	}
	return s.at(ctx, v)
}

func (s *Service) at(ctx context.Context, v Version) (*house.House, error) {
	e, err := s.edition(ctx, v.Digest)
	if err != nil {
		return nil, err
	}
	return house.New(v.Version, e, e.Layer(v.Layer))
}

// edition returns an edition by its digest: the one that ships, or one of old.
func (s *Service) edition(ctx context.Context, digest string) (*library.Edition, error) {
	s.init()
	ships, err := s.Edition()
	if err != nil || ships.Digest == digest {
		return ships, err
	}
	if e, ok := s.editions.Get(digest); ok {
		return e, nil
	}
	entries, found, err := s.Store.Edition(ctx, digest)
	if err != nil {
		return nil, err
	}
	if !found {
		return nil, fmt.Errorf("the edition %s of a house is not in the database", digest)
	}
	e, err := library.NewEdition(entries)
	if err != nil {
		return nil, err
	}
	e.Digest = digest // as it was named then
	s.editions.Add(digest, e)
	return e, nil
}

// adopt lays the club's layer over the edition that ships, as a new version.
func (s *Service) adopt(ctx context.Context) (*house.House, error) {
	if err := s.Store.Lock(ctx); err != nil {
		return nil, err
	}
	ships, err := s.Edition()
	if err != nil {
		return nil, err
	}
	latest, found, err := s.Store.Version(ctx, 0) // again, now that nobody else changes it
	if err != nil {
		return nil, err
	}
	if news, err := s.isNews(ctx, latest, found); err != nil {
		return nil, err
	} else if !news {
		return s.at(ctx, latest)
	}
	if err := s.Store.Remember(ctx, ships.Digest, ships.Entries); err != nil {
		return nil, err
	}
	next := Version{Version: 1, Digest: ships.Digest, Touched: []string{}, Summary: "The shipped library", CreatedAt: s.Now()}
	if found {
		old, err := s.edition(ctx, latest.Digest)
		if err != nil {
			return nil, err
		}
		for _, d := range merge.Compare(old.Entries, ships.Entries) {
			if d.New || len(d.Fields) > 0 {
				next.Touched = append(next.Touched, d.String())
			}
		}
		next.Version, next.Layer = latest.Version+1, latest.Layer
		next.Summary = fmt.Sprintf("The shipped library was updated: %d entries", len(next.Touched))
	}
	if next.ID, err = uuid.NewV7(); err != nil {
		return nil, err
	}
	h, err := s.at(ctx, next)
	if err != nil {
		return nil, err
	}
	return h, s.save(ctx, next, h)
}

// save appends a version, which makes the house h, and what can be found in it.
func (s *Service) save(ctx context.Context, v Version, h *house.House) error {
	if err := s.Store.Add(ctx, v); err != nil {
		return err
	}
	return s.Index.Keep(ctx, h)
}
