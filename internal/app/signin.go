package app

import (
	"context"
	"errors"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"nineyard/internal/contract"
)

// Limits of failed sign-ins within failureWindow.
const (
	failureWindow      = 15 * time.Minute
	maxFailuresByEmail = 8
	maxFailuresByIP    = 40
)

// decoy is compared against when there is no such user, so that the answer takes as
// long as a wrong password.
var decoy = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash("nobody", argon2id.DefaultParams)
	if err != nil {
		panic(err) // no randomness on this machine: nothing else would work either
	}
	return hash
})

// SignIn checks e-mail and password. Failures are counted in the database, so the
// limit holds over all replicas.
func (s *Service) SignIn(ctx context.Context, email, password, ip string) (uuid.UUID, error) {
	now := time.Now() // not the pinned clock: the limit must run out
	byEmail, byIP, err := s.Store.SignInFailures(ctx, email, ip, now.Add(-failureWindow))
	if err != nil {
		return uuid.Nil, err
	}
	if byEmail >= maxFailuresByEmail || byIP >= maxFailuresByIP {
		return uuid.Nil, ErrTooManyTries
	}
	user, err := s.Store.UserByEmail(ctx, email)
	hash := user.PasswordHash
	switch {
	case errors.Is(err, ErrNotFound):
		hash = decoy()
	case err != nil:
		return uuid.Nil, err
	}
	match, matchErr := argon2id.ComparePasswordAndHash(password, hash)
	if matchErr != nil {
		return uuid.Nil, matchErr
	}
	if err != nil || !match {
		if err := s.Store.AddSignInFailure(ctx, email, ip, now); err != nil {
			return uuid.Nil, err
		}
		return uuid.Nil, ErrCredentials
	}
	return user.ID, nil
}

// DemoStaff lists the staff for one-click sign-in; empty unless this is the demo.
func (s *Service) DemoStaff(ctx context.Context) ([]contract.DemoStaff, error) {
	list := []contract.DemoStaff{}
	if !s.Demo {
		return list, nil
	}
	users, err := s.Store.Staff(ctx)
	for _, u := range users {
		list = append(list, contract.DemoStaff{ID: u.ID, Name: u.Name, Title: u.Title, Email: u.Email})
	}
	return list, err
}

// DemoSignIn signs in as one of the demo's staff; ErrNotFound unless this is the demo.
func (s *Service) DemoSignIn(ctx context.Context, id uuid.UUID) error {
	if !s.Demo {
		return ErrNotFound
	}
	_, err := s.Store.Actor(ctx, id)
	return err
}
