package httpd

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// sessionStore keeps sessions in the table sessions with whose they are, so that who asks is
// read together with his session.
type sessionStore struct {
	*postgresstore.PostgresStore // clears away what expired
	db                           *sql.DB
	who                          string // a query with one value, about the person of the session s
}

var _ scs.CtxStore = (*sessionStore)(nil)

// whoever is what was read of the person along with his session.
type whoever struct{ says json.RawMessage }

// FindCtx reads a session, and whose it is into the request's context.
func (s *sessionStore) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var data, says []byte
	err := s.db.QueryRowContext(ctx, `SELECT s.data, (`+s.who+`) FROM sessions s WHERE s.token = $1 AND current_timestamp < s.expiry`, token).Scan(&data, &says)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	if w, ok := ctx.Value(keyWho).(*whoever); ok {
		w.says = says
	}
	return data, err == nil, err
}

// CommitCtx keeps a session and whose it is.
func (s *sessionStore) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return err
	}
	var person *string
	if id, ok := values[keyPerson].(string); ok && id != "" {
		person = &id
	}
	_, err = s.db.ExecContext(ctx, `INSERT INTO sessions (token, data, expiry, person) VALUES ($1, $2, $3, $4::uuid)
		ON CONFLICT (token) DO UPDATE SET data = excluded.data, expiry = excluded.expiry, person = excluded.person`, token, data, expiry, person)
	return err
}

// DeleteCtx ends a session.
func (s *sessionStore) DeleteCtx(ctx context.Context, token string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM sessions WHERE token = $1`, token)
	return err
}

// load reads the session of each request, and whose it is, and keeps what became of it.
func (s *Sessions) load(next http.Handler) http.Handler {
	inner := s.manager.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		inner.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), keyWho, &whoever{})))
	})
}

// Keys of the session.
const (
	keyPerson = "user_id"
	keyToken  = "csrf"
)

// within is the context the session lives in.
func within(ctx context.Context) context.Context {
	if c, ok := ctx.(*gin.Context); ok {
		return c.Request.Context()
	}
	return ctx
}

// Token is the session's request token, made on first sight.
func (s *Sessions) Token(ctx context.Context) string {
	ctx = within(ctx)
	token := s.manager.GetString(ctx, keyToken)
	if token == "" {
		token = rand.Text()
		s.manager.Put(ctx, keyToken, token)
	}
	return token
}

// Person is who the session belongs to, if anybody, with what was read of a person along
// with the session: nothing, or of the one before, when it was given to him just now.
func (s *Sessions) Person(ctx context.Context) (id uuid.UUID, says json.RawMessage, ok bool) {
	ctx = within(ctx)
	if w, ok := ctx.Value(keyWho).(*whoever); ok {
		says = w.says
	}
	id, err := uuid.Parse(s.manager.GetString(ctx, keyPerson))
	return id, says, err == nil
}

// again reads anew who the session of a long answer belongs to.
func (s *Sessions) again(ctx context.Context, who identify) (p Passed, found bool, err error) {
	w := &whoever{}
	ctx = context.WithValue(ctx, keyWho, w)
	data, found, err := s.store.FindCtx(ctx, s.manager.Token(ctx))
	if err != nil || !found {
		return p, false, err
	}
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return p, false, err
	}
	text, _ := values[keyPerson].(string)
	id, err := uuid.Parse(text)
	if err != nil {
		return p, false, nil //nolint:nilerr // nobody is signed in
	}
	_, p, found, err = who(ctx, id, w.says)
	return p, found, err
}

// Enter gives the session to a person, under a new session token and request token.
func (s *Sessions) Enter(ctx context.Context, person uuid.UUID) error {
	ctx = within(ctx)
	if err := s.manager.RenewToken(ctx); err != nil {
		return err
	}
	s.manager.Put(ctx, keyPerson, person.String())
	s.manager.Put(ctx, keyToken, rand.Text())
	return nil
}

// Leave ends the session.
func (s *Sessions) Leave(ctx context.Context) error { return s.manager.Destroy(within(ctx)) }

// ClientIP is the address a request comes from, past trusted proxies.
func ClientIP(ctx context.Context) string {
	if c, ok := ctx.(*gin.Context); ok {
		return c.ClientIP()
	}
	return ""
}
