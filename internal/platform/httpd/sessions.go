package httpd

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

// How long a session lives where nothing else is set.
const (
	DefaultIdle = 12 * time.Hour      // unused
	DefaultLife = 14 * 24 * time.Hour // used or not
)

const (
	seenEvery   = 5 * time.Minute // how exactly it is known when a session was used last
	sessionWait = 5 * time.Second // for the database, before anything is known of who asks
	maxAgent    = 200             // bytes of what a browser says of itself that are kept
)

// SessionOptions say how sessions are kept.
type SessionOptions struct {
	Who   string        // a query that answers with one value, as JSON, about the person s.person of a session s
	Plain bool          // plain http is answered: the server is reached from its own machine alone
	Idle  time.Duration // after which an unused session ends; DefaultIdle when zero
	Life  time.Duration // after which any session ends; DefaultLife when zero
}

// Sessions are the browser sessions, kept in the database so that any replica knows them.
// A visitor who has not signed in has none.
type Sessions struct {
	secure, plain *scs.SessionManager // over TLS, and on loopback without; they share what they keep
	store         *sessionStore
	db            *pg.DB
	allowPlain    bool
	proxies       proxies
	fail          func(http.ResponseWriter, *http.Request, error)
}

// Names of the cookie. A browser takes the one with the prefix over TLS alone, for this host
// alone and for all of its addresses.
const (
	cookieName   = "nineyard_session"
	secureCookie = "__Host-" + cookieName
)

// NewSessions keeps sessions in the database.
func NewSessions(db *pg.DB, o SessionOptions) *Sessions {
	s := &Sessions{secure: scs.New(), allowPlain: o.Plain, db: db,
		store: &sessionStore{postgresstore.NewWithCleanupInterval(db.Pool(), 10*time.Minute), db.Pool(), o.Who, cmp.Or(o.Idle, DefaultIdle)}}
	s.secure.Store = s.store
	s.secure.Lifetime = cmp.Or(o.Life, DefaultLife)
	s.secure.Cookie.SameSite = http.SameSiteLaxMode
	s.secure.Cookie.HttpOnly = true
	s.secure.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) { s.fail(w, r, err) }
	plain := *s.secure
	s.plain = &plain
	s.secure.Cookie.Name, s.secure.Cookie.Secure = secureCookie, true
	s.plain.Cookie.Name = cookieName
	return s
}

// sessionStore keeps sessions in the table sessions with whose they are, so that who asks is
// read together with his session. Of a token it keeps the digest: who reads the table can
// come in with nothing of it.
type sessionStore struct {
	*postgresstore.PostgresStore // clears away what expired
	db                           *sql.DB
	who                          string // a query with one value, about the person of the session s
	idle                         time.Duration
}

var _ scs.CtxStore = (*sessionStore)(nil)

// whoever is what goes with the session of a request: what was read of its person along with
// it, and what is kept of the request when it is written.
type whoever struct {
	says           json.RawMessage
	session        uuid.UUID
	agent, address string
	still          bool // it is only looked whether the session lives: that does not keep it alive
}

func digestOf(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// FindCtx reads a session, and whose it is into the request's context.
func (s *sessionStore) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	ctx, cancel := context.WithTimeout(ctx, sessionWait)
	defer cancel()
	w, ok := ctx.Value(keyWho).(*whoever)
	if !ok {
		w = &whoever{still: true}
	}
	const live = ` s.token = $1 AND s.expiry > now() AND s.seen_at > now() - make_interval(secs => $2) `
	query := `SELECT s.id, s.data, (` + s.who + `) FROM sessions s WHERE ` + live
	args := []any{digestOf(token), s.idle.Seconds()}
	if !w.still {
		query = `WITH seen AS (UPDATE sessions s SET seen_at = now() WHERE ` + live + ` AND s.seen_at < now() - make_interval(secs => $3)) ` + query
		args = append(args, seenEvery.Seconds())
	}
	var data, says []byte
	err := s.db.QueryRowContext(ctx, query, args...).Scan(&w.session, &data, &says)
	w.says = says
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// CommitCtx keeps a session and whose it is.
func (s *sessionStore) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	ctx, cancel := context.WithTimeout(ctx, sessionWait)
	defer cancel()
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return err
	}
	var person *string
	if id, ok := values[keyPerson].(string); ok && id != "" {
		person = &id
	}
	if person == nil { // a passkey is asked for, or a second factor
		expiry = minTime(expiry, time.Now().Add(halfLife))
	}
	w, ok := ctx.Value(keyWho).(*whoever)
	if !ok {
		w = &whoever{}
	}
	_, err = s.db.ExecContext(ctx, `INSERT INTO sessions (token, data, expiry, person, agent, address) VALUES ($1, $2, $3, $4::uuid, $5, $6)
		ON CONFLICT (token) DO UPDATE SET data = excluded.data, expiry = excluded.expiry, person = excluded.person`, digestOf(token), data, expiry, person, w.agent, w.address)
	return err
}

func minTime(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

// DeleteCtx ends a session.
func (s *sessionStore) DeleteCtx(ctx context.Context, token string) error {
	ctx, cancel := context.WithTimeout(ctx, sessionWait)
	defer cancel()
	_, err := s.db.ExecContext(ctx, `DELETE FROM sessions WHERE token = $1`, digestOf(token))
	return err
}

// load reads the session of each request, and whose it is, and keeps what became of it.
func (s *Sessions) load(next http.Handler) http.Handler {
	secure, plain := s.secure.LoadAndSave(next), s.plain.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		inner := secure
		if s.allowPlain && !s.proxies.secure(r) {
			inner = plain
		}
		who := &whoever{agent: printable(r.UserAgent(), maxAgent), address: s.proxies.client(r)}
		inner.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), keyWho, who)))
	})
}

// printable is the ASCII of a text, up to a length.
func printable(text string, most int) string {
	var out []byte
	for i := 0; i < len(text) && len(out) < most; i++ {
		if text[i] >= ' ' && text[i] <= '~' {
			out = append(out, text[i])
		}
	}
	return string(out)
}

// Keys of the session.
const (
	keyPerson = "user_id"
	keyToken  = "csrf"
	keyHalf   = "half"       // who has shown his password and owes a second factor
	keySince  = "half_since" // when he has
	keyTask   = "task"       // what a passkey is asked to sign
	keyEnter  = "entered"    // when the session was given to its person
)

// halfLife is how long a second factor is waited for.
const halfLife = 10 * time.Minute

// within is the context the session lives in.
func within(ctx context.Context) context.Context {
	if c, ok := ctx.(*gin.Context); ok {
		return c.Request.Context()
	}
	return ctx
}

// Token is the session's request token; empty without a session.
func (s *Sessions) Token(ctx context.Context) string {
	return s.secure.GetString(within(ctx), keyToken)
}

// Person is who the session belongs to, if anybody, with what was read of a person along
// with the session: nothing, or of the one before, when it was given to him just now.
func (s *Sessions) Person(ctx context.Context) (id uuid.UUID, says json.RawMessage, ok bool) {
	ctx = within(ctx)
	if w, ok := ctx.Value(keyWho).(*whoever); ok {
		says = w.says
	}
	id, err := uuid.Parse(s.secure.GetString(ctx, keyPerson))
	return id, says, err == nil
}

// Current is the id by which a session is listed; uuid.Nil for one that began with this request.
func (s *Sessions) Current(ctx context.Context) uuid.UUID {
	if w, ok := within(ctx).Value(keyWho).(*whoever); ok {
		return w.session
	}
	return uuid.Nil
}

// again reads anew who the session of a long answer belongs to. That an answer goes on is no use of it.
func (s *Sessions) again(ctx context.Context, who identify) (p Passed, found bool, err error) {
	w := &whoever{still: true}
	ctx = context.WithValue(ctx, keyWho, w)
	data, found, err := s.store.FindCtx(ctx, s.secure.Token(ctx))
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
	if err := s.secure.RenewToken(ctx); err != nil {
		return err
	}
	for _, key := range []string{keyHalf, keySince, keyTask} {
		s.secure.Remove(ctx, key)
	}
	s.secure.Put(ctx, keyPerson, person.String())
	s.secure.Put(ctx, keyToken, rand.Text())
	s.secure.Put(ctx, keyEnter, time.Now().Unix())
	return nil
}

// Switch gives the session to the same human as a member of another club.
func (s *Sessions) Switch(ctx context.Context, person uuid.UUID) {
	s.secure.Put(within(ctx), keyPerson, person.String())
}

// Fresh reports whether the session was entered within a while.
func (s *Sessions) Fresh(ctx context.Context, while time.Duration) bool {
	in := within(ctx)
	return time.Since(time.Unix(s.secure.GetInt64(in, keyEnter), 0)) < while
}

// Half keeps who has shown his password and owes a second factor, under a new session. He is not in by that.
func (s *Sessions) Half(ctx context.Context, account uuid.UUID) error {
	ctx = within(ctx)
	if err := s.secure.RenewToken(ctx); err != nil {
		return err
	}
	s.secure.Remove(ctx, keyPerson)
	s.secure.Put(ctx, keyHalf, account.String())
	s.secure.Put(ctx, keySince, time.Now().Unix())
	s.secure.Put(ctx, keyToken, rand.Text())
	return nil
}

// Halfway is who owes a second factor, if anybody and not for too long.
func (s *Sessions) Halfway(ctx context.Context) (uuid.UUID, bool) {
	ctx = within(ctx)
	id, err := uuid.Parse(s.secure.GetString(ctx, keyHalf))
	return id, err == nil && time.Since(time.Unix(s.secure.GetInt64(ctx, keySince), 0)) < halfLife
}

// Task keeps what a passkey is asked to sign; it is taken once.
func (s *Sessions) Task(ctx context.Context, task []byte) { s.secure.Put(within(ctx), keyTask, task) }

// TakeTask takes what a passkey was asked to sign.
func (s *Sessions) TakeTask(ctx context.Context) []byte {
	return s.secure.PopBytes(within(ctx), keyTask)
}

// Leave ends the session.
func (s *Sessions) Leave(ctx context.Context) error { return s.secure.Destroy(within(ctx)) }

// ClientIP is the address a request comes from, past trusted proxies.
func ClientIP(ctx context.Context) string {
	if w, ok := within(ctx).Value(keyWho).(*whoever); ok {
		return w.address
	}
	return ""
}

// Open is a session as it is listed.
type Open struct {
	ID, Person        uuid.UUID
	StartedAt, SeenAt time.Time
	Agent, Address    string
}

// Of lists the sessions of some people that have not ended, the latest used first.
func (s *Sessions) Of(ctx context.Context, people []uuid.UUID) ([]Open, error) {
	return pg.SelectBeside[Open](within(ctx), s.db, `SELECT id, person, started_at, seen_at, agent, address FROM sessions
		WHERE person = ANY (@people::uuid[]) AND expiry > now() AND seen_at > now() - make_interval(secs => @idle) ORDER BY seen_at DESC LIMIT 1000`,
		pg.Args{"people": texts(people), "idle": s.store.idle.Seconds()})
}

// End ends the sessions of some people but one: all of them when it is uuid.Nil.
func (s *Sessions) End(ctx context.Context, people []uuid.UUID, but uuid.UUID) error {
	return s.end(ctx, `DELETE FROM sessions WHERE person = ANY (@people::uuid[]) AND id <> @one`, people, but)
}

// EndOne ends one session of some people.
func (s *Sessions) EndOne(ctx context.Context, people []uuid.UUID, one uuid.UUID) error {
	return s.end(ctx, `DELETE FROM sessions WHERE person = ANY (@people::uuid[]) AND id = @one`, people, one)
}

func (s *Sessions) end(ctx context.Context, query string, people []uuid.UUID, one uuid.UUID) error {
	_, err := pg.ExecBeside(within(ctx), s.db, query, pg.Args{"people": texts(people), "one": one})
	return err
}

func texts(ids []uuid.UUID) []string {
	out := make([]string, len(ids))
	for i, id := range ids {
		out[i] = id.String()
	}
	return out
}
