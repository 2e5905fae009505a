package access

import (
	"context"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base32"
	"errors"
	"log/slog"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"github.com/pquerna/otp/hotp"
)

// What signing in may answer with.
var (
	ErrCredentials  = errors.New("e-mail or password is wrong")
	ErrTooManyTries = errors.New("too many tries to sign in")
	ErrBusy         = errors.New("too many people are signing in at once")
	ErrNoClub       = errors.New("the account is on no club's staff")
	ErrSecond       = errors.New("the second factor is wrong")
	ErrHalf         = errors.New("nobody has shown a password")
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
	Role  string // one of Roles
}

// Account is who signs in.
type Account struct {
	ID           uuid.UUID
	Email, Name  string
	PasswordHash string // empty: he has none
	TotpSecret   []byte // nil: none
	TotpOn       bool   // it was shown to work
	Passkeys     int
	CodesLeft    int // recovery codes that are not used
}

// HasFactor reports whether a password alone does not let him in.
func (a Account) HasFactor() bool { return a.TotpOn || a.Passkeys > 0 }

// Membership is a place on a club's staff.
type Membership struct {
	ID, ClubID    uuid.UUID
	ClubName      string
	Role          string
	RequireFactor bool
}

// Store knows who may sign in. It is asked before any club is known.
type Store interface {
	// Coach reads a member of the staff with his club, its latest season and its groups; not one who is suspended or removed.
	Coach(ctx context.Context, id uuid.UUID) (c Coach, found bool, err error)
	// Account reads whoever has the e-mail, whatever its case.
	Account(ctx context.Context, email string) (a Account, found bool, err error)
	// AccountOf reads an account by its id.
	AccountOf(ctx context.Context, id uuid.UUID) (a Account, found bool, err error)
	// Memberships lists where an account is on the staff, and not suspended.
	Memberships(ctx context.Context, account uuid.UUID) ([]Membership, error)
	// Entered remembers when an account came in last.
	Entered(ctx context.Context, account uuid.UUID, at time.Time) error
	// Try records a try to sign in and counts those since a moment, this one included.
	Try(ctx context.Context, email, ip string, at, since time.Time) (Tries, error)
	// CameIn forgets the tries of an e-mail from an address and remembers that it has signed in from there.
	CameIn(ctx context.Context, email, ip string, at time.Time) error
	// UseStep takes a step of a time-based code; false when it, or a later one, was taken before.
	UseStep(ctx context.Context, account uuid.UUID, step int64) (bool, error)
	// UseCode takes a recovery code by its digest; false when it is none, or was taken before.
	UseCode(ctx context.Context, account uuid.UUID, digest []byte, at time.Time) (bool, error)
	// Staff lists the staff of a club that is on it now, in the order of their titles.
	Staff(ctx context.Context, club uuid.UUID) ([]Member, error)
}

// Service signs people in.
type Service struct {
	Store    Store
	Passkeys PasskeyStore
	Now      func() time.Time // the wall clock: limits must run out, in the demo too
	Demo     uuid.UUID        // the demo's club, whose staff sign in with one click; uuid.Nil elsewhere
	Log      *slog.Logger     // of who came in and who was refused; none when nil

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
func (s *Service) SignIn(ctx context.Context, email, password, ip string) (Account, error) {
	email = strings.ToLower(strings.TrimSpace(email))
	now := s.Now()
	tries, err := s.Store.Try(ctx, email, ip, now, now.Add(-tryWindow))
	if err != nil {
		return Account{}, err
	}
	a, found, err := s.Store.Account(ctx, email)
	if err != nil {
		return Account{}, err
	}
	if tries.tooMany() {
		s.log(ctx, "sign-in refused: too many tries", a.ID, ip)
		return Account{}, ErrTooManyTries
	}
	hash := a.PasswordHash
	if hash == "" {
		if hash, err = decoy(); err != nil {
			return Account{}, err
		}
	}
	match, err := s.compare(ctx, password, hash)
	if err != nil {
		return Account{}, err
	}
	if !found || !match || a.PasswordHash == "" {
		s.log(ctx, "sign-in refused", a.ID, ip)
		return Account{}, ErrCredentials
	}
	s.log(ctx, "signed in", a.ID, ip)
	return a, s.Store.CameIn(ctx, email, ip, now)
}

// Verify reports whether a password is an account's: asked again before something of the account is changed. Tries are
// counted as those to sign in.
func (s *Service) Verify(ctx context.Context, a Account, password, ip string) error {
	_, err := s.SignIn(ctx, a.Email, password, ip)
	return err
}

// codeWindow is how far a time-based code may be off, in steps of 30 s either way: RFC 6238, section 5.2.
const codeWindow = 1

// Second checks the second factor of who has shown his password: a time-based code, each once, or a recovery code. Tries
// are counted like those of a password, apart from them.
func (s *Service) Second(ctx context.Context, account uuid.UUID, code, ip string) error {
	now := s.Now()
	a, found, err := s.Store.AccountOf(ctx, account)
	if err != nil {
		return err
	}
	tries, err := s.Store.Try(ctx, account.String(), ip, now, now.Add(-tryWindow))
	switch {
	case err != nil:
		return err
	case tries.tooMany():
		s.log(ctx, "second factor refused: too many tries", account, ip)
		return ErrTooManyTries
	case !found:
		return ErrSecond
	}
	ok := false
	if step, right := StepOf(code, a.TotpSecret, now); right && a.TotpOn {
		ok, err = s.Store.UseStep(ctx, account, step)
	} else {
		ok, err = s.Store.UseCode(ctx, account, CodeDigest(code), now)
	}
	if err != nil {
		return err
	}
	if !ok {
		s.log(ctx, "second factor refused", account, ip)
		return ErrSecond
	}
	return s.Store.CameIn(ctx, account.String(), ip, now)
}

// StepOf finds the step of 30 s of which a code is, near a moment.
func StepOf(code string, secret []byte, at time.Time) (step int64, ok bool) {
	code = strings.Join(strings.Fields(code), "")
	if len(secret) == 0 || len(code) != totpDigits {
		return 0, false
	}
	now := at.Unix() / totpSeconds
	for s := now - codeWindow; s <= now+codeWindow; s++ {
		want, err := hotp.GenerateCode(Base32(secret), uint64(s))
		if err == nil && subtle.ConstantTimeCompare([]byte(want), []byte(code)) == 1 {
			step, ok = s, true
		}
	}
	return step, ok
}

// A time-based code, as authenticators everywhere take it.
const (
	totpDigits  = 6
	totpSeconds = 30
)

// Base32 is how a secret is told to an authenticator.
func Base32(secret []byte) string {
	return base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(secret)
}

// CodeDigest is what is kept of a recovery code; how it is grouped and in which case it is written does not matter.
func CodeDigest(code string) []byte {
	plain := strings.ToUpper(strings.NewReplacer(" ", "", "-", "").Replace(code))
	sum := sha256.Sum256([]byte("recovery " + plain))
	return sum[:]
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
func (s *Service) compare(ctx context.Context, password, hash string) (match bool, err error) {
	err = s.inTurn(ctx, func() error { match, err = s.match(password, hash); return err })
	return match, err
}

// Hash hashes a new password in its turn. ErrBusy says that too many wait.
func (s *Service) Hash(ctx context.Context, password string) (hash string, err error) {
	err = s.inTurn(ctx, func() error { hash, err = Hash(password); return err })
	return hash, err
}

func (s *Service) inTurn(ctx context.Context, do func() error) error {
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
		return ErrBusy
	}
	select {
	case s.hash <- struct{}{}:
		defer func() { <-s.hash }()
	case <-ctx.Done():
		return ctx.Err()
	}
	return do()
}

// Coach reads who is signed in.
func (s *Service) Coach(ctx context.Context, id uuid.UUID) (Coach, bool, error) {
	return s.Store.Coach(ctx, id)
}

// Coaches lists those of a club's staff who coach, the head coach first: all but the athletic-health
// staff and who only reads, who judge no play.
func (s *Service) Coaches(ctx context.Context, club uuid.UUID) ([]Member, error) {
	staff, err := s.Store.Staff(ctx, club)
	return slices.DeleteFunc(staff, func(m Member) bool { return m.Role == Health || m.Role == Reader }), err
}

// DemoStaff lists the staff for one-click sign-in; empty unless this is the demo.
func (s *Service) DemoStaff(ctx context.Context) ([]Member, error) {
	if s.Demo == uuid.Nil {
		return []Member{}, nil
	}
	return s.Store.Staff(ctx, s.Demo)
}

// DemoSignIn is who may come in with one click: one of the demo's staff.
func (s *Service) DemoSignIn(ctx context.Context, id uuid.UUID) (Coach, bool, error) {
	if s.Demo == uuid.Nil {
		return Coach{}, false, nil
	}
	c, found, err := s.Store.Coach(ctx, id)
	return c, found && c.Club.ID == s.Demo, err
}
