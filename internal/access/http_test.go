package access

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/problem"
)

// session is one browser's.
type session struct {
	person, half uuid.UUID
	task         []byte
	broken       error
}

func (s *session) Token(context.Context) string { return "token " + s.person.String() }
func (s *session) Person(context.Context) (uuid.UUID, json.RawMessage, bool) {
	return s.person, nil, s.person != uuid.Nil
}
func (s *session) Enter(_ context.Context, person uuid.UUID) error {
	if s.broken == nil {
		s.person = person
	}
	return s.broken
}
func (s *session) Switch(_ context.Context, person uuid.UUID) { s.person = person }
func (s *session) Half(_ context.Context, account uuid.UUID) error {
	s.half = account
	return s.broken
}
func (s *session) Halfway(context.Context) (uuid.UUID, bool) { return s.half, s.half != uuid.Nil }
func (s *session) Task(_ context.Context, task []byte)       { s.task = task }
func (s *session) TakeTask(context.Context) []byte           { return s.task }
func (s *session) Leave(context.Context) error               { s.person = uuid.Nil; return s.broken }

// TestASessionIsAPersons from signing in until signing out.
func TestASessionIsAPersons(t *testing.T) {
	ctx := context.Background()
	s := inMemory(t)
	browser := &session{}
	api := API{Access: &Service{Store: s.Store, Now: time.Now}, Sessions: browser, Today: time.Now}
	who := func() *contract.User {
		r, err := api.GetSession(ctx, gen.GetSessionRequestObject{})
		require.NoError(t, err)
		return r.(gen.GetSession200JSONResponse).User
	}
	assert.Nil(t, who())
	enter := func(password string) (gen.SignInResponseObject, error) {
		return api.SignIn(ctx, gen.SignInRequestObject{Body: &contract.SignInJSONRequestBody{Email: "h0@club.example", Password: password}})
	}
	_, err := enter("not this one at all")
	require.ErrorIs(t, err, ErrCredentials)
	assert.Nil(t, who())
	r, err := enter(password)
	require.NoError(t, err)
	in := r.(gen.SignIn200JSONResponse)
	assert.Equal(t, []any{s.head, "H. Coach", contract.UserRole(Head), false}, []any{in.User.ID, in.User.Name, in.User.Role, in.Demo})
	assert.Equal(t, "token "+s.head.String(), in.Csrf)
	assert.Equal(t, in.User, who())

	at, passed, found, err := api.Identify(ctx, s.head, nil)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, []any{s.club, s.head}, []any{passed.Club, From(at).ID})
	_, _, found, err = api.Identify(ctx, uuid.New(), nil)
	require.NoError(t, err)
	assert.False(t, found)
	other := uuid.New() // read along with the session, past the store
	says := json.RawMessage(fmt.Sprintf(`{"id": %q, "name": "R. Kell", "season_start": "2026-08-31", "own": ["ol"], "groups": [{"Key": "ol"}]}`, other))
	at, _, found, err = api.Identify(ctx, other, says)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, []any{"R. Kell", []string{"ol"}, "ol"}, []any{From(at).Name, From(at).Own, From(at).Club.Groups[0].Key})
	at, _, found, err = api.Identify(ctx, s.head, says)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, s.head, From(at).ID, "the session says whose it is, not what was read along with it")
	_, _, _, err = api.Identify(ctx, other, json.RawMessage(`{"id": 7}`))
	assert.Error(t, err)

	_, err = api.SignOut(ctx, gen.SignOutRequestObject{})
	require.NoError(t, err)
	assert.Nil(t, who())
	browser.broken = errors.New("the sessions are away")
	_, err = enter(password)
	assert.ErrorIs(t, err, browser.broken)
	browser.broken = nil
	browser.person = uuid.New() // somebody who was removed meanwhile
	assert.Nil(t, who())
}

// TestDemoStaffComesInWithOneClick into the demo, and nowhere else.
func TestDemoStaffComesInWithOneClick(t *testing.T) {
	ctx := context.Background()
	s := inMemory(t)
	api := API{Access: &Service{Store: s.Store, Now: time.Now}, Sessions: &session{}, Today: time.Now}
	click := func(id uuid.UUID) (gen.DemoSignInResponseObject, error) {
		return api.DemoSignIn(ctx, gen.DemoSignInRequestObject{Body: &contract.DemoSignInJSONRequestBody{UserID: id}})
	}
	_, err := click(s.head)
	require.ErrorIs(t, err, problem.ErrNotFound)
	list, err := api.ListDemoStaff(ctx, gen.ListDemoStaffRequestObject{})
	require.NoError(t, err)
	assert.Empty(t, list)

	api.Access.Demo = s.club
	list, err = api.ListDemoStaff(ctx, gen.ListDemoStaffRequestObject{})
	require.NoError(t, err)
	assert.Len(t, list, 1)
	r, err := click(s.head)
	require.NoError(t, err)
	assert.Equal(t, s.head, r.(gen.DemoSignIn200JSONResponse).User.ID)
	api.Sessions = &session{broken: errors.New("away")}
	_, err = click(s.head)
	assert.Error(t, err)
}
