// Package club is the club itself: its name, where it is, its position groups, and how the first one begins.
package club

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"slices"
	"strings"
	"sync"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
)

// Store keeps the context's club.
type Store interface {
	// Rename changes name and time zone.
	Rename(ctx context.Context, name, timezone string) error
	// Used lists the keys of the groups of which there are players or plans.
	Used(ctx context.Context) ([]string, error)
	// Groups reads the groups and holds them until the transaction ends.
	Groups(ctx context.Context) (group.List, error)
	// SetGroups writes the groups in their order; one that is not in the list is taken away.
	SetGroups(ctx context.Context, list group.List) error
	// Clubs counts all clubs of the database, of whomever.
	Clubs(ctx context.Context) (int, error)
}

// Service runs the use cases.
type Service struct {
	Store Store
	// Found makes a club as the database's owner; nil where the first club is not made by the screens.
	Found func(ctx context.Context, f access.Founding) (uuid.UUID, error)

	first sync.Mutex // one club is made at a time
	word  string     // that the server printed; empty where no club is made by the screens
}

// Word makes the word by which the first club is made, once.
func (s *Service) Word() string {
	s.first.Lock()
	defer s.first.Unlock()
	if s.word == "" {
		s.word = strings.ToLower(rand.Text()[:20]) // 100 bits
	}
	return s.word
}

// First reports whether the first club is still to be made.
func (s *Service) First(ctx context.Context) (bool, error) {
	if s.Found == nil {
		return false, nil
	}
	n, err := s.Store.Clubs(ctx)
	return n == 0, err
}

// Begin makes the first club and its head coach. Once there is one it is over: more are made by whoever runs the server.
func (s *Service) Begin(ctx context.Context, word string, f access.Founding) (uuid.UUID, error) {
	if s.Found == nil {
		return uuid.Nil, problem.ErrNotFound
	}
	want := s.Word()
	s.first.Lock()
	defer s.first.Unlock()
	if n, err := s.Store.Clubs(ctx); err != nil || n > 0 {
		return uuid.Nil, problem.Found(false, err)
	}
	if subtle.ConstantTimeCompare([]byte(strings.ToLower(strings.TrimSpace(word))), []byte(want)) != 1 {
		return uuid.Nil, invalid.Field("word", "this is not the word that the server printed when it started")
	}
	return s.Found(ctx, f)
}

// View is the club and its groups.
func (s *Service) View(ctx context.Context, c access.Coach) (contract.Club, error) {
	out := contract.Club{Name: c.Club.Name, Timezone: c.Club.Timezone, Editable: c.IsHead(), Groups: []contract.ClubGroup{}}
	used, err := s.Store.Used(ctx)
	for _, g := range c.Club.Groups {
		out.Groups = append(out.Groups, contract.ClubGroup{Key: g.Key, Name: g.Name, Short: g.Short, Side: string(g.Side), Positions: append([]string{}, g.Positions...), Used: slices.Contains(used, g.Key)})
	}
	return out, err
}

// Rename changes the club's name and time zone.
func (s *Service) Rename(ctx context.Context, name, timezone string) error {
	if name = strings.TrimSpace(name); name == "" {
		return invalid.Field("name", "the club needs a name")
	}
	if err := access.CheckTimezone(timezone); err != nil {
		return err
	}
	return s.Store.Rename(ctx, name, timezone)
}

// PutGroup adds a group at its place among the others, or changes one. Of the list's own errors the field is the form's.
func (s *Service) PutGroup(ctx context.Context, g group.Group, place int) error {
	list, err := s.Store.Groups(ctx)
	if err != nil {
		return err
	}
	list = slices.DeleteFunc(list, func(x group.Group) bool { return x.Key == g.Key })
	for _, x := range list {
		if strings.EqualFold(x.Name, g.Name) {
			return invalid.Field("name", "there is a group of this name")
		}
		if strings.EqualFold(x.Short, g.Short) {
			return invalid.Field("short", "%s has this short name", x.Name)
		}
	}
	list = slices.Insert(list, min(max(place-1, 0), len(list)), g)
	if err := list.Check(); err != nil {
		if e, ok := invalid.As(err); ok {
			_, field, _ := strings.Cut(e.Field, ".")
			if field == "" {
				field = "name"
			}
			return invalid.Field(field, "%s", e.Message)
		}
		return err
	}
	return s.Store.SetGroups(ctx, list)
}

// DropGroup takes away a group of which nothing is recorded.
func (s *Service) DropGroup(ctx context.Context, key string) error {
	list, err := s.Store.Groups(ctx)
	if err != nil {
		return err
	}
	left := slices.DeleteFunc(slices.Clone(list), func(x group.Group) bool { return x.Key == key })
	if len(left) == len(list) {
		return problem.ErrNotFound
	}
	used, err := s.Store.Used(ctx)
	switch {
	case err != nil:
		return err
	case slices.Contains(used, key):
		return invalid.Field("group", "players or plans are of this group; move them first")
	case len(left) == 0:
		return invalid.Field("group", "a club has at least one position group")
	}
	return s.Store.SetGroups(ctx, left)
}
