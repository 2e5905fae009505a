package access

import (
	"context"
	"errors"
	"log/slog"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
)

// What signing in may answer with.
var (
	ErrCredentials  = errors.New("e-mail or password is wrong")
	ErrTooManyTries = errors.New("too many tries to sign in")
	ErrBusy         = errors.New("too many people are signing in at once")
)

// Limits of tries to sign in within tryWindow. Who guesses is stopped where he is: a stranger elsewhere cannot keep
// somebody out who comes from an address from which he has come in before, nor for longer than the window, nor from
// coming in by a passkey.
const (
	tryWindow      = 15 * time.Minute
	maxTriesHere   = 8  // of one e-mail from one address; one that succeeds frees them
	maxTriesByIP   = 60 // a whole staff may sit behind one address
	maxTriesAbroad = 40 // of one e-mail from addresses that are strange to it
	knownFor       = 90 * 24 * time.Hour
)

// Tries are how often somebody tried to sign in within the window, the present try included.
type Tries struct {
	Here   int  // the e-mail from the address
	ByIP   int  // any e-mail from the address
	Abroad int  // the e-mail from addresses that are strange to it
	Known  bool // the e-mail has signed in from the address
}

// tooMany reports whether a try is one too many.
func (t Tries) tooMany() bool {
	return t.Here > maxTriesHere || t.ByIP > maxTriesByIP || !t.Known && t.Abroad > maxTriesAbroad
}

// Limits of hashing. One password takes hashing.Memory KiB; so many are tried at once and
// so many more may wait, whatever is asked.
const (
	hashesAtOnce = 2
	hashesWait   = 16
)

// hashing is how new passwords are hashed: the least that OWASP's Password Storage Cheat
// Sheet names for argon2id.
var hashing = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// Hash hashes a new password.
func Hash(password string) (string, error) { return argon2id.CreateHash(password, hashing) }

// Member is one of the staff, as others name him.
type Member struct {
	ID    uuid.UUID
	Name  string
	Title string
	Email string
	Role  string // head, coach or health
}

// Store knows who may sign in. It is asked before any club is known.
type Store interface {
	// Coach reads a member of the staff with his club, its latest season and its groups.
	Coach(ctx context.Context, id uuid.UUID) (c Coach, found bool, err error)
	// Password reads the hash of whoever has the e-mail, whatever its case.
	Password(ctx context.Context, email string) (id uuid.UUID, hash string, found bool, err error)
	// Try records a try to sign in and counts those since a moment, this one included.
	Try(ctx context.Context, email, ip string, at, since time.Time) (Tries, error)
	// CameIn forgets the tries of an e-mail from an address and remembers that it has signed in from there.
	CameIn(ctx context.Context, email, ip string, at time.Time) error
	// Staff lists the staff of a club in the order of their titles.
	Staff(ctx context.Context, club uuid.UUID) ([]Member, error)
}

// Service signs people in.
type Service struct {
	Store Store
	Now   func() time.Time // the wall clock: limits must run out, in the demo too
	Demo  uuid.UUID        // the demo's club, whose staff sign in with one click; uuid.Nil elsewhere
	Log   *slog.Logger     // of who came in and who was refused; none when nil

	start sync.Once
	hash  chan struct{}                             // a place for each password that is tried at once
	wait  chan struct{}                             // and for each that may wait
	match func(password, hash string) (bool, error) // argon2id; tests watch it
}

// decoy is compared against when there is no such user, so that the answer takes as long
// as a wrong password.
var decoy = sync.OnceValues(func() (string, error) { return Hash("nobody") })

// SignIn checks e-mail and password. The try is counted, in the database and so over all
// replicas, before the password is looked at; passwords are hashed a few at a time.
func (s *Service) SignIn(ctx context.Context, email, password, ip string) (uuid.UUID, error) {
	email = strings.ToLower(strings.TrimSpace(email))
	now := s.Now()
	tries, err := s.Store.Try(ctx, email, ip, now, now.Add(-tryWindow))
	if err != nil {
		return uuid.Nil, err
	}
	id, hash, found, err := s.Store.Password(ctx, email)
	if err != nil {
		return uuid.Nil, err
	}
	if tries.tooMany() {
		s.log(ctx, "sign-in refused: too many tries", id, ip)
		return uuid.Nil, ErrTooManyTries
	}
	if !found {
		if hash, err = decoy(); err != nil {
			return uuid.Nil, err
		}
	}
	match, err := s.compare(ctx, password, hash)
	if err != nil {
		return uuid.Nil, err
	}
	if !found || !match {
		s.log(ctx, "sign-in refused", id, ip)
		return uuid.Nil, ErrCredentials
	}
	s.log(ctx, "signed in", id, ip)
	return id, s.Store.CameIn(ctx, email, ip, now)
}

// log says who came from where. What was typed is never said: people type their password where the e-mail goes.
func (s *Service) log(ctx context.Context, what string, person uuid.UUID, ip string) {
	if s.Log == nil {
		return
	}
	who := person.String()
	if person == uuid.Nil {
		who = "unknown"
	}
	s.Log.InfoContext(ctx, what, "person", who, "from", ip)
}

// compare waits for its turn and compares. ErrBusy says that too many wait.
func (s *Service) compare(ctx context.Context, password, hash string) (bool, error) {
	s.start.Do(func() {
		s.hash, s.wait = make(chan struct{}, hashesAtOnce), make(chan struct{}, hashesAtOnce+hashesWait)
		if s.match == nil {
			s.match = argon2id.ComparePasswordAndHash
		}
	})
	select {
	case s.wait <- struct{}{}:
		defer func() { <-s.wait }()
	default:
		return false, ErrBusy
	}
	select {
	case s.hash <- struct{}{}:
		defer func() { <-s.hash }()
	case <-ctx.Done():
		return false, ctx.Err()
	}
	return s.match(password, hash)
}

// Coach reads who is signed in.
func (s *Service) Coach(ctx context.Context, id uuid.UUID) (Coach, bool, error) {
	return s.Store.Coach(ctx, id)
}

// Coaches lists those of a club's staff who coach, the head coach first: all but the athletic-health
// staff, who judge no play.
func (s *Service) Coaches(ctx context.Context, club uuid.UUID) ([]Member, error) {
	staff, err := s.Store.Staff(ctx, club)
	return slices.DeleteFunc(staff, func(m Member) bool { return m.Role == Health }), err
}

// DemoStaff lists the staff for one-click sign-in; empty unless this is the demo.
func (s *Service) DemoStaff(ctx context.Context) ([]Member, error) {
	if s.Demo == uuid.Nil {
		return []Member{}, nil
	}
	return s.Store.Staff(ctx, s.Demo)
}

// DemoSignIn reports whether somebody may come in with one click: one of the demo's staff.
func (s *Service) DemoSignIn(ctx context.Context, id uuid.UUID) (bool, error) {
	if s.Demo == uuid.Nil {
		return false, nil
	}
	c, found, err := s.Store.Coach(ctx, id)
	return found && c.Club.ID == s.Demo, err
}
