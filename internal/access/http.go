package access

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
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
	// Leave ends the session.
	Leave(ctx context.Context) error
}

var _ Sessions = (*httpd.Sessions)(nil)

// API is the operations of signing in and out.
type API struct {
	Access   *Service
	Sessions Sessions
	Today    func() time.Time // the clock of the club's days: pinned in the demo
}

// Identify says who a session belongs to.
func (a API) Identify(ctx context.Context, person uuid.UUID, says json.RawMessage) (context.Context, httpd.Passed, bool, error) {
	c, found, err := a.coach(ctx, person, says)
	if err != nil || !found {
		return ctx, httpd.Passed{}, false, err
	}
	return With(ctx, c), httpd.Passed{Person: c.ID, Club: c.Club.ID, Clock: c.Club.Clock, Day: c.Today(a.Today()).String()}, true, nil
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
	case errors.Is(err, ErrBusy):
		return httpd.Said{Status: http.StatusServiceUnavailable, Title: "Too many people are signing in at once", Detail: "Try again in a moment.", RetryAfter: 2 * time.Second}, true
	}
	return httpd.Said{}, false
}

// session describes the session.
func (a API) session(ctx context.Context) (gen.SessionJSONResponse, error) {
	out := gen.SessionJSONResponse{Csrf: a.Sessions.Token(ctx), Demo: a.Access.Demo != uuid.Nil}
	id, says, ok := a.Sessions.Person(ctx)
	if !ok {
		return out, nil
	}
	c, found, err := a.coach(ctx, id, says)
	if err != nil || !found {
		return out, err
	}
	out.User = &contract.User{ID: c.ID, Name: c.Name, Role: contract.UserRole(c.Role), Groups: append([]string{}, c.Own...)}
	return out, nil
}

// GetSession says who is signed in.
func (a API) GetSession(ctx context.Context, _ gen.GetSessionRequestObject) (gen.GetSessionResponseObject, error) {
	s, err := a.session(ctx)
	return gen.GetSession200JSONResponse{SessionJSONResponse: s}, err
}

// SignIn signs in by e-mail and password.
func (a API) SignIn(ctx context.Context, r gen.SignInRequestObject) (gen.SignInResponseObject, error) {
	id, err := a.Access.SignIn(ctx, r.Body.Email, r.Body.Password, httpd.ClientIP(ctx))
	if err != nil {
		return nil, err
	}
	if err := a.Sessions.Enter(ctx, id); err != nil {
		return nil, err
	}
	s, err := a.session(ctx)
	return gen.SignIn200JSONResponse{SessionJSONResponse: s}, err
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
	ok, err := a.Access.DemoSignIn(ctx, r.Body.UserID)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, problem.ErrNotFound
	}
	if err := a.Sessions.Enter(ctx, r.Body.UserID); err != nil {
		return nil, err
	}
	s, err := a.session(ctx)
	return gen.DemoSignIn200JSONResponse{SessionJSONResponse: s}, err
}
