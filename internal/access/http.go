package access

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/httpd"
	"nineyard/internal/platform/problem"
)

// Sessions are the browser sessions, as signing in and out needs them.
type Sessions interface {
	// Token is the session's request token, made on first sight.
	Token(ctx context.Context) string
	// Person is who the session belongs to, if anybody, with what was read of a person along
	// with the session (see Who).
	Person(ctx context.Context) (id uuid.UUID, says json.RawMessage, ok bool)
	// Enter gives the session to a person, under new tokens.
	Enter(ctx context.Context, person uuid.UUID) error
	// Switch gives it to the same human as a member of another club.
	Switch(ctx context.Context, person uuid.UUID)
	// Half keeps which account has shown its password and owes a second factor; Halfway reads it.
	Half(ctx context.Context, account uuid.UUID) error
	Halfway(ctx context.Context) (account uuid.UUID, ok bool)
	// Task keeps what a passkey is asked to sign; TakeTask takes it, once.
	Task(ctx context.Context, task []byte)
	TakeTask(ctx context.Context) []byte
	// Leave ends the session.
	Leave(ctx context.Context) error
}

var _ Sessions = (*httpd.Sessions)(nil)

// API is the operations of signing in and out.
type API struct {
	Access   *Service
	Sessions Sessions
	Today    func() time.Time                                                        // the clock of the club's days: pinned in the demo
	Notices  func(ctx context.Context, account uuid.UUID) ([]contract.Notice, error) // what an account is told of itself; nil for none
	First    func(ctx context.Context) (bool, error)                                 // whether there is no club yet; nil where that is not offered
	origin   func(ctx context.Context) string                                        // httpd.Origin; tests say theirs
}

// Identify says who a session belongs to.
func (a API) Identify(ctx context.Context, person uuid.UUID, says json.RawMessage) (context.Context, httpd.Passed, bool, error) {
	c, found, err := a.coach(ctx, person, says)
	if err != nil || !found {
		return ctx, httpd.Passed{}, false, err
	}
	return With(ctx, c), httpd.Passed{Person: c.ID, Club: c.Club.ID, Role: c.Role, FactorDue: c.FactorDue, Clock: c.Club.Clock, Day: c.Today(a.Today()).String()}, true, nil
}

// coach is a person as he was read along with his session, or is read here.
func (a API) coach(ctx context.Context, person uuid.UUID, says json.RawMessage) (Coach, bool, error) {
	c, found, err := readCoach(says)
	if err == nil && (!found || c.ID != person) {
		return a.Access.Coach(ctx, person)
	}
	return c, found, err
}

// Word says what an error of signing in means.
func Word(err error) (httpd.Said, bool) {
	switch {
	case errors.Is(err, ErrCredentials):
		return httpd.Said{Status: http.StatusUnauthorized, Title: "E-mail or password is wrong", Field: "password"}, true
	case errors.Is(err, ErrTooManyTries):
		return httpd.Said{Status: http.StatusTooManyRequests, Title: "Too many tries", Detail: "Wait a quarter of an hour and try again.", Field: "email", RetryAfter: tryWindow}, true
	case errors.Is(err, ErrNoClub):
		return httpd.Said{Status: http.StatusForbidden, Title: "You are on no club's staff", Detail: "Ask the head coach to let you in, or to send you a link.", Field: "email"}, true
	case errors.Is(err, ErrSecond):
		return httpd.Said{Status: http.StatusUnauthorized, Title: "This code is not right", Detail: "A code of an authenticator counts for half a minute and once; so does each recovery code.", Field: "code"}, true
	case errors.Is(err, ErrHalf):
		return httpd.Said{Status: http.StatusUnauthorized, Title: "Sign in with your password first", Field: "password"}, true
	case errors.Is(err, ErrPasskey):
		return httpd.Said{Status: http.StatusUnauthorized, Title: "This passkey lets nobody in here", Field: "credential"}, true
	case errors.Is(err, ErrPasskeyPlace):
		return httpd.Said{Status: http.StatusUnprocessableEntity, Title: "Passkeys need a name instead of a number", Detail: "Open Nine Yard by its name, such as https://nineyard.example or http://localhost:8080.", Field: "credential"}, true
	case errors.Is(err, ErrBusy):
		return httpd.Said{Status: http.StatusServiceUnavailable, Title: "Too many people are signing in at once", Detail: "Try again in a moment.", RetryAfter: 2 * time.Second}, true
	}
	return httpd.Said{}, false
}

// Describe describes the session.
func (a API) Describe(ctx context.Context) (contract.Session, error) {
	out := contract.Session{Csrf: a.Sessions.Token(ctx), Demo: a.Access.Demo != uuid.Nil}
	id, says, ok := a.Sessions.Person(ctx)
	if !ok {
		return a.outside(ctx, out)
	}
	c, found, err := a.coach(ctx, id, says)
	if err != nil || !found {
		return out, err
	}
	out.User = &contract.User{ID: c.ID, Name: c.Name, Role: contract.UserRole(c.Role), Groups: append([]string{}, c.Own...)}
	if c.FactorDue {
		out.FactorDue = new(true)
	}
	places, err := a.Access.Store.Memberships(ctx, c.Account)
	if err != nil {
		return out, err
	}
	if len(places) > 1 {
		list := []contract.ClubPlace{}
		for _, p := range places {
			list = append(list, contract.ClubPlace{Member: p.ID, Club: p.ClubName, Here: p.ID == c.ID})
		}
		out.Clubs = &list
	}
	if a.Notices != nil {
		notices, err := a.Notices(ctx, c.Account)
		if err != nil {
			return out, err
		}
		if len(notices) > 0 {
			out.Notices = &notices
		}
	}
	return out, nil
}

// outside describes the session of who is not in: nobody's, or of who owes a second factor.
func (a API) outside(ctx context.Context, out contract.Session) (contract.Session, error) {
	if id, half := a.Sessions.Halfway(ctx); half {
		acct, _, err := a.Access.Store.AccountOf(ctx, id)
		out.Second = &contract.Second{Code: acct.TotpOn || acct.CodesLeft > 0, Passkey: acct.Passkeys > 0}
		return out, err
	}
	if a.First == nil {
		return out, nil
	}
	first, err := a.First(ctx)
	if first {
		out.First = &first
	}
	return out, err
}

func (a API) answer(ctx context.Context, err error) (gen.SessionJSONResponse, error) {
	if err != nil {
		return gen.SessionJSONResponse{}, err
	}
	s, err := a.Describe(ctx)
	return gen.SessionJSONResponse(s), err
}

// Enter lets an account in that has shown all it must: as a member of the first of its clubs.
func (a API) Enter(ctx context.Context, account uuid.UUID) error {
	places, err := a.Access.Store.Memberships(ctx, account)
	if err != nil {
		return err
	}
	if len(places) == 0 {
		return ErrNoClub
	}
	return a.As(ctx, account, places[0].ID)
}

// GetSession says who is signed in.
func (a API) GetSession(ctx context.Context, _ gen.GetSessionRequestObject) (gen.GetSessionResponseObject, error) {
	s, err := a.answer(ctx, nil)
	return gen.GetSession200JSONResponse{SessionJSONResponse: s}, err
}

// SignIn signs in by e-mail and password; who has a second factor then owes it.
func (a API) SignIn(ctx context.Context, r gen.SignInRequestObject) (gen.SignInResponseObject, error) {
	acct, err := a.Access.SignIn(ctx, r.Body.Email, r.Body.Password, httpd.ClientIP(ctx))
	switch {
	case err != nil:
	case acct.HasFactor():
		err = a.Sessions.Half(ctx, acct.ID)
	default:
		err = a.Enter(ctx, acct.ID)
	}
	s, err := a.answer(ctx, err)
	return gen.SignIn200JSONResponse{SessionJSONResponse: s}, err
}

// ShowFactor shows the second factor.
func (a API) ShowFactor(ctx context.Context, r gen.ShowFactorRequestObject) (gen.ShowFactorResponseObject, error) {
	account, ok := a.Sessions.Halfway(ctx)
	if !ok {
		return nil, ErrHalf
	}
	err := a.Access.Second(ctx, account, r.Body.Code, httpd.ClientIP(ctx))
	if err == nil {
		err = a.Enter(ctx, account)
	}
	s, err := a.answer(ctx, err)
	return gen.ShowFactor200JSONResponse{SessionJSONResponse: s}, err
}

// BeginPasskey says what a passkey is to sign.
func (a API) BeginPasskey(ctx context.Context, _ gen.BeginPasskeyRequestObject) (gen.BeginPasskeyResponseObject, error) {
	options, task, err := a.Access.PasskeyTask(a.from(ctx))
	if err == nil {
		a.Sessions.Task(ctx, task)
	}
	return gen.BeginPasskey200JSONResponse{Options: options}, err
}

// ShowPasskey comes in by a passkey: it is something one has and, since it asks for a finger or a PIN, something one is or
// knows; so it is both factors.
func (a API) ShowPasskey(ctx context.Context, r gen.ShowPasskeyRequestObject) (gen.ShowPasskeyResponseObject, error) {
	account, err := a.Access.ByPasskey(ctx, a.from(ctx), a.Sessions.TakeTask(ctx), r.Body.Credential, httpd.ClientIP(ctx))
	if err == nil {
		err = a.Enter(ctx, account)
	}
	s, err := a.answer(ctx, err)
	return gen.ShowPasskey200JSONResponse{SessionJSONResponse: s}, err
}

func (a API) from(ctx context.Context) string {
	if a.origin != nil {
		return a.origin(ctx)
	}
	return httpd.Origin(ctx)
}

// SwitchClub goes on as a member of another club's staff.
func (a API) SwitchClub(ctx context.Context, r gen.SwitchClubRequestObject) (gen.SwitchClubResponseObject, error) {
	places, err := a.Access.Store.Memberships(ctx, From(ctx).Account)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(places, func(p Membership) bool { return p.ID == r.Body.Member }) {
		return nil, problem.ErrNotFound
	}
	a.Sessions.Switch(ctx, r.Body.Member)
	c, _, err := a.Access.Coach(ctx, r.Body.Member)
	user := contract.User{ID: c.ID, Name: c.Name, Role: contract.UserRole(c.Role), Groups: append([]string{}, c.Own...)}
	return gen.SwitchClub200JSONResponse{SessionJSONResponse: gen.SessionJSONResponse{Csrf: a.Sessions.Token(ctx), Demo: a.Access.Demo != uuid.Nil, User: &user}}, err
}

// SignOut ends the session.
func (a API) SignOut(ctx context.Context, _ gen.SignOutRequestObject) (gen.SignOutResponseObject, error) {
	return gen.SignOut204Response{}, a.Sessions.Leave(ctx)
}

// TellPresence tells the rest of the staff where somebody is.
func (a API) TellPresence(ctx context.Context, r gen.TellPresenceRequestObject) (gen.TellPresenceResponseObject, error) {
	c := From(ctx)
	return gen.TellPresence204Response{}, changes.Tell(ctx, changes.Here{Person: c.ID, Name: c.Name, Device: r.Body.Device, Where: r.Body.Where, What: r.Body.What})
}

// ListCoaches lists those of the staff who coach.
func (a API) ListCoaches(ctx context.Context, _ gen.ListCoachesRequestObject) (gen.ListCoachesResponseObject, error) {
	coaches, err := a.Access.Coaches(ctx, From(ctx).Club.ID)
	list := gen.ListCoaches200JSONResponse{}
	for _, m := range coaches {
		list = append(list, contract.CoachRef{ID: m.ID, Name: m.Name, Title: m.Title})
	}
	return list, err
}

// ListDemoStaff lists who may come in with one click.
func (a API) ListDemoStaff(ctx context.Context, _ gen.ListDemoStaffRequestObject) (gen.ListDemoStaffResponseObject, error) {
	staff, err := a.Access.DemoStaff(ctx)
	list := gen.ListDemoStaff200JSONResponse{}
	for _, m := range staff {
		list = append(list, contract.DemoStaff{ID: m.ID, Name: m.Name, Title: m.Title, Email: m.Email})
	}
	return list, err
}

// DemoSignIn signs in as one of the demo's staff.
func (a API) DemoSignIn(ctx context.Context, r gen.DemoSignInRequestObject) (gen.DemoSignInResponseObject, error) {
	c, ok, err := a.Access.DemoSignIn(ctx, r.Body.UserID)
	if err := problem.Found(ok, err); err != nil {
		return nil, err
	}
	if err := a.As(ctx, c.Account, c.ID); err != nil {
		return nil, err
	}
	s, err := a.answer(ctx, nil)
	return gen.DemoSignIn200JSONResponse{SessionJSONResponse: s}, err
}

// Signed is who is signed in, for operations that do not demand it.
func (a API) Signed(ctx context.Context) (Coach, bool, error) {
	id, says, ok := a.Sessions.Person(ctx)
	if !ok {
		return Coach{}, false, nil
	}
	return a.coach(ctx, id, says)
}

// As gives the session to an account as a member of a staff.
func (a API) As(ctx context.Context, account, member uuid.UUID) error {
	if err := a.Sessions.Enter(ctx, member); err != nil {
		return err
	}
	return a.Access.Store.Entered(ctx, account, a.Access.Now())
}

// Named gives the session to who has an e-mail: whoever has just founded a club with it.
func (a API) Named(ctx context.Context, email string) error {
	acct, found, err := a.Access.Store.Account(ctx, email)
	if err := problem.Found(found, err); err != nil {
		return err
	}
	return a.Enter(ctx, acct.ID)
}
