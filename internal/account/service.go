// Package account is one's own account: name, password, e-mail, second factors, sessions, and coming back in after a
// password was forgotten.
package account

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/post"
	"nineyard/internal/platform/problem"
)

// Kinds of links.
const (
	linkRecover = "recover"
	linkEmail   = "email"
)

// How long links count, and what is known of an account may be used without asking for its password again.
const (
	recoverFor = time.Hour
	confirmFor = 24 * time.Hour
	freshFor   = 10 * time.Minute
)

// Limits of an account.
const (
	maxPasskeys   = 10
	recoveryCodes = 10
	noticesFor    = 30 * 24 * time.Hour
)

// Link is a secret that was sent to somebody.
type Link struct {
	Account uuid.UUID
	Kind    string
	Email   string // the one to come, of a link that confirms it
}

// Key is a passkey as its owner names it.
type Key struct {
	ID        []byte
	Name      string
	CreatedAt time.Time
	UsedAt    *time.Time
}

// Store keeps accounts. None of it is of any club.
type Store interface {
	access.PasskeyStore
	SetName(ctx context.Context, account uuid.UUID, name string) error
	SetPassword(ctx context.Context, account uuid.UUID, hash string) error
	// SetEmail changes the e-mail; an invalid.Error when somebody else has it.
	SetEmail(ctx context.Context, account uuid.UUID, email string) error
	// NewLink keeps the digest of a link's secret; earlier ones of its kind count no more.
	NewLink(ctx context.Context, digest []byte, l Link, at, until time.Time) error
	// TakeLink takes a link that counts, once.
	TakeLink(ctx context.Context, digest []byte, kind string, at time.Time) (l Link, found bool, err error)
	// SetAuthenticator keeps a secret; it counts from since, not yet when that is nil. No secret takes it away.
	SetAuthenticator(ctx context.Context, account uuid.UUID, secret []byte, since *time.Time) error
	// SetCodes puts recovery codes in the place of those of before.
	SetCodes(ctx context.Context, account uuid.UUID, digests [][]byte) error
	Keys(ctx context.Context, account uuid.UUID) ([]Key, error)
	AddKey(ctx context.Context, account uuid.UUID, name string, c webauthn.Credential, at time.Time) error
	DropKey(ctx context.Context, account uuid.UUID, id []byte) (bool, error)
	// Notice tells an account something of itself.
	Notice(ctx context.Context, account uuid.UUID, says string, at time.Time) error
	Notices(ctx context.Context, account uuid.UUID, since time.Time) ([]contract.Notice, error)
	SeeNotice(ctx context.Context, account, id uuid.UUID, at time.Time) error
	// All reads everything that is kept of an account, but for secrets.
	All(ctx context.Context, account uuid.UUID) (json.RawMessage, error)
	// Members lists as whom an account is known in all clubs, suspended or not.
	Members(ctx context.Context, account uuid.UUID) ([]uuid.UUID, error)
}

// Sessions are the open sessions of people.
type Sessions interface {
	Of(ctx context.Context, people []uuid.UUID) ([]httpd.Open, error)
	End(ctx context.Context, people []uuid.UUID, but uuid.UUID) error
	EndOne(ctx context.Context, people []uuid.UUID, one uuid.UUID) error
	Current(ctx context.Context) uuid.UUID
	Fresh(ctx context.Context, while time.Duration) bool
	Task(ctx context.Context, task []byte)
	TakeTask(ctx context.Context) []byte
}

// Service runs the use cases.
type Service struct {
	Store    Store
	Access   *access.Service
	Sessions Sessions
	Mail     post.Mailer
	Address  func(ctx context.Context) string // where the product is reached, as links begin
	Now      func() time.Time                 // the wall clock: links must run out, in the demo too
}

// own reads one's own account.
func (s *Service) own(ctx context.Context, c access.Coach) (access.Account, error) {
	a, found, err := s.Access.Store.AccountOf(ctx, c.Account)
	return a, problem.Found(found, err)
}

// confirmed reads one's own account once the password has been said again; who has none has come in just now.
func (s *Service) confirmed(ctx context.Context, c access.Coach, password string) (access.Account, error) {
	a, err := s.own(ctx, c)
	if err != nil {
		return a, err
	}
	if a.PasswordHash == "" {
		if !s.Sessions.Fresh(ctx, freshFor) {
			return a, invalid.Field("password", "sign out and in again; then this can be changed for ten minutes")
		}
		return a, nil
	}
	err = s.Access.Verify(ctx, a, password, httpd.ClientIP(ctx))
	if errors.Is(err, access.ErrCredentials) {
		err = invalid.Field("password", "this is not your password")
	}
	return a, err
}

// View is one's own account.
func (s *Service) View(ctx context.Context, c access.Coach) (contract.Account, error) {
	a, err := s.own(ctx, c)
	if err != nil {
		return contract.Account{}, err
	}
	out := contract.Account{Name: a.Name, Email: a.Email, HasPassword: a.PasswordHash != "", Authenticator: a.TotpOn, CodesLeft: a.CodesLeft, Passkeys: []contract.OwnPasskey{}, Sessions: []contract.OpenSession{}}
	keys, err := s.Store.Keys(ctx, a.ID)
	if err != nil {
		return out, err
	}
	for _, k := range keys {
		out.Passkeys = append(out.Passkeys, contract.OwnPasskey{Key: fmt.Sprintf("%x", k.ID), Name: k.Name, Added: k.CreatedAt, Used: k.UsedAt})
	}
	people, err := s.Store.Members(ctx, a.ID)
	if err != nil {
		return out, err
	}
	open, err := s.Sessions.Of(ctx, people)
	here := s.Sessions.Current(ctx)
	for _, o := range open {
		out.Sessions = append(out.Sessions, contract.OpenSession{ID: o.ID, Here: o.ID == here, Began: o.StartedAt, Seen: o.SeenAt, What: Browser(o.Agent), Address: o.Address})
	}
	return out, err
}

// Export writes everything that is kept of oneself as a JSON file.
func (s *Service) Export(ctx context.Context, c access.Coach) (name string, content []byte, err error) {
	all, err := s.Store.All(ctx, c.Account)
	if err != nil {
		return "", nil, err
	}
	content, err = json.MarshalIndent(struct {
		Says string          `json:"says"`
		At   time.Time       `json:"at"`
		Kept json.RawMessage `json:"kept"`
	}{"Everything that Nine Yard keeps of you as who signs in", s.Now().UTC(), all}, "", "  ")
	return "your-account.json", content, err
}

// SetName changes one's own name, in every club.
func (s *Service) SetName(ctx context.Context, c access.Coach, name string) error {
	name = strings.TrimSpace(name)
	if name == "" {
		return invalid.Field("name", "the name is missing")
	}
	return s.Store.SetName(ctx, c.Account, name)
}

// SetPassword changes the password. All other sessions end, and the account is told.
func (s *Service) SetPassword(ctx context.Context, c access.Coach, password, next string) error {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return err
	}
	if err := access.CheckPassword(next, a.Name, a.Email, c.Club.Name); err != nil {
		return within("next", err)
	}
	return s.passwordOf(ctx, a, next, s.Sessions.Current(ctx))
}

// within names the field of a new password as the form has it.
func within(field string, err error) error {
	if e, ok := invalid.As(err); ok {
		return invalid.Field(field, "%s", e.Message)
	}
	return err
}

func (s *Service) passwordOf(ctx context.Context, a access.Account, next string, stays uuid.UUID) error {
	hash, err := s.Access.Hash(ctx, next)
	if err != nil {
		return err
	}
	if err := s.Store.SetPassword(ctx, a.ID, hash); err != nil {
		return err
	}
	return s.tell(ctx, a, "Your password was changed", stays)
}

// tell ends the other sessions of an account and tells it what was changed: in the product, and by a letter.
func (s *Service) tell(ctx context.Context, a access.Account, says string, stays uuid.UUID) error {
	people, err := s.Store.Members(ctx, a.ID)
	if err != nil {
		return err
	}
	if err := s.Sessions.End(ctx, people, stays); err != nil {
		return err
	}
	return s.notice(ctx, a, says, a.Email)
}

func (s *Service) notice(ctx context.Context, a access.Account, says, to string) error {
	if err := s.Store.Notice(ctx, a.ID, says, s.Now()); err != nil {
		return err
	}
	return s.Mail.Send(ctx, post.Letter{To: to, Subject: says, Body: says + ".\n\nIf that was you, nothing needs to be done. If it was not: open " + s.Address(ctx) + "/recover, choose a new password, and tell your head coach.\n"})
}

// secret makes the secret of a link, and what is kept of it.
func secret() (text string, digest []byte) {
	text = strings.ToLower(rand.Text() + rand.Text())
	return text, access.LinkDigest(text)
}

// AskEmail sends a link to a new e-mail, which counts once it is opened.
func (s *Service) AskEmail(ctx context.Context, c access.Coach, email, password string) error {
	a, err := s.confirmed(ctx, c, password)
	if err != nil {
		return err
	}
	if email, err = access.CheckEmail(email); err != nil {
		return err
	}
	if !s.Mail.Mails() {
		return invalid.Field("email", "this server sends no e-mail; the head coach can invite you under the new one")
	}
	text, digest := secret()
	if err := s.Store.NewLink(ctx, digest, Link{Account: a.ID, Kind: linkEmail, Email: email}, s.Now(), s.Now().Add(confirmFor)); err != nil {
		return err
	}
	return s.Mail.Send(ctx, post.Letter{To: email, Subject: "Your new e-mail at Nine Yard", Body: "Open this within a day to use this address at Nine Yard:\n\n" + s.Address(ctx) + "/email#" + text + "\n\nIf you did not ask for it, do nothing.\n"})
}

// ConfirmEmail changes the e-mail by a link.
func (s *Service) ConfirmEmail(ctx context.Context, secret string) error {
	l, found, err := s.Store.TakeLink(ctx, access.LinkDigest(secret), linkEmail, s.Now())
	if err != nil {
		return err
	}
	if !found {
		return invalid.Field("secret", "this link has been used or has run out; ask for another under your name")
	}
	a, found, err := s.Access.Store.AccountOf(ctx, l.Account)
	if err := problem.Found(found, err); err != nil {
		return err
	}
	if err := s.Store.SetEmail(ctx, a.ID, l.Email); err != nil {
		return err
	}
	return s.notice(ctx, a, "Your e-mail was changed to "+l.Email, a.Email)
}

// AskRecovery sends a link by which a new password is chosen, if the e-mail is somebody's. Nobody learns whether it is.
func (s *Service) AskRecovery(ctx context.Context, email, ip string) error {
	email = strings.ToLower(strings.TrimSpace(email))
	tries, err := s.Access.Store.Try(ctx, "recover "+email, ip, s.Now(), s.Now().Add(-time.Hour))
	if err != nil {
		return err
	}
	a, found, err := s.Access.Store.Account(ctx, email)
	if err != nil || !found || tries.Here+tries.Abroad > 6 {
		return err
	}
	text, digest := secret()
	if err := s.Store.NewLink(ctx, digest, Link{Account: a.ID, Kind: linkRecover}, s.Now(), s.Now().Add(recoverFor)); err != nil {
		return err
	}
	return s.Mail.Send(ctx, post.Letter{To: a.Email, Subject: "A new password for Nine Yard", Body: "Open this within an hour to choose a new password:\n\n" + s.Address(ctx) + "/recover#" + text + "\n\nIf you did not ask for it, do nothing; your password stays as it is.\n"})
}

// FinishRecovery chooses a new password by a link. All sessions end; a second factor is asked for as ever.
func (s *Service) FinishRecovery(ctx context.Context, secret, password string) error {
	if err := access.CheckPassword(password); err != nil { // before the link is spent
		return err
	}
	l, found, err := s.Store.TakeLink(ctx, access.LinkDigest(secret), linkRecover, s.Now())
	if err != nil {
		return err
	}
	if !found {
		return invalid.Field("secret", "this link has been used or has run out; ask for another")
	}
	a, found, err := s.Access.Store.AccountOf(ctx, l.Account)
	if err := problem.Found(found, err); err != nil {
		return err
	}
	if err := access.CheckPassword(password, a.Name, a.Email); err != nil {
		return err
	}
	return s.passwordOf(ctx, a, password, uuid.Nil)
}

// EndSession ends one of one's own sessions.
func (s *Service) EndSession(ctx context.Context, c access.Coach, id uuid.UUID) error {
	people, err := s.Store.Members(ctx, c.Account)
	if err != nil {
		return err
	}
	return s.Sessions.EndOne(ctx, people, id)
}

// EndOthers ends all of one's own sessions but this one.
func (s *Service) EndOthers(ctx context.Context, c access.Coach) error {
	people, err := s.Store.Members(ctx, c.Account)
	if err != nil {
		return err
	}
	return s.Sessions.End(ctx, people, s.Sessions.Current(ctx))
}

// Notices lists what an account is told of itself and has not put away.
func (s *Service) Notices(ctx context.Context, account uuid.UUID) ([]contract.Notice, error) {
	return s.Store.Notices(ctx, account, s.Now().Add(-noticesFor))
}

// browsers and systems, as they name themselves; the first that fits.
var (
	browsers = [][2]string{{"Edg/", "Edge"}, {"OPR/", "Opera"}, {"Firefox/", "Firefox"}, {"Chrome/", "Chrome"}, {"Safari/", "Safari"}}
	systems  = [][2]string{{"iPhone", "iPhone"}, {"iPad", "iPad"}, {"Android", "Android"}, {"Windows", "Windows"}, {"Mac OS", "Mac"}, {"Linux", "Linux"}}
)

// Browser says in words what a browser says of itself.
func Browser(agent string) string {
	find := func(list [][2]string, other string) string {
		if i := slices.IndexFunc(list, func(x [2]string) bool { return strings.Contains(agent, x[0]) }); i >= 0 {
			return list[i][1]
		}
		return other
	}
	return find(browsers, "another program") + " on " + find(systems, "another system")
}

// AddressOf is where a product is reached: as it was set, else as the browser that asks reaches it.
func AddressOf(set string) func(context.Context) string {
	return func(ctx context.Context) string {
		if u, err := url.Parse(set); err == nil && u.Host != "" {
			return strings.TrimSuffix(set, "/")
		}
		return httpd.Origin(ctx)
	}
}
