package product_test

import (
	"context"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
)

// TestTheOperationDecidesTheContentType: a body that says it is something else passes by no
// check of the contract; it is refused.
func TestTheOperationDecidesTheContentType(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	marks := `{"marks": [{"id": "x"}]}`
	for _, kind := range []string{"application/x-www-form-urlencoded", "text/plain", "multipart/form-data; boundary=x", "application/xml", "", "application/json5"} {
		status, body := s.do("POST", "/marks", marks, "Content-Type", kind)
		assert.Equal(t, http.StatusUnsupportedMediaType, status, "%q %s", kind, body)
		assert.Equal(t, "Content-Type", *problem(t, body).Field)
	}
	status, body := s.do("POST", "/marks", marks, "Content-Type", "application/json; charset=utf-8")
	assert.Equal(t, http.StatusBadRequest, status, "as JSON it is held to the contract")
	assert.Equal(t, "marks[0].id", *problem(t, body).Field)
	status, _ = s.do("POST", "/roster/uploads", `{}`)
	assert.Equal(t, http.StatusUnsupportedMediaType, status)
	status, _ = s.do("GET", "/frame", `{}`)
	assert.Equal(t, http.StatusUnsupportedMediaType, status, "an address that takes no body")
}

func TestWhatIsNoTextIsRefusedAtTheEdge(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	fix := func(fault string) string { return `{"id": "` + made() + `", "fault": "` + fault + `"}` }
	for name, body := range map[string]string{
		"a NUL":                fix("a\x00b"),
		"a NUL as an escape":   fix(`a\u0000b`),
		"after a backslash":    fix(`a\\\u0000b`),
		"invalid UTF-8":        fix("a\xffb"),
		"a surrogate in bytes": fix("a\xed\xa0\x80b"),
	} {
		status, text := s.do("POST", "/groups/ol/fixes", body)
		assert.Equal(t, http.StatusBadRequest, status, "%s: %s", name, text)
		assert.Contains(t, []string{"body", "fault"}, *problem(t, text).Field, name)
	}
	for name, c := range map[string]struct{ body, field string }{
		"a text that turns round":   {`{"id": "x", "fault": "a\u202eb"}`, "fault"},
		"no width, within a list":   {`{"marks": [{"id": "x", "note": "seen"}, {"note": "un\u200bseen"}]}`, "marks[1].note"},
		"a name with two lines":     {`{"players": [{"first_name": "Jun\nSato"}]}`, "players[0].first_name"},
		"a control character":       {`{"note": "\u001b[31m"}`, "note"},
		"a joiner within a name":    {`{"name": "Jun\u200dSato"}`, "name"},
		"the name of a field":       {`{"no\u2066te": 1}`, "body"},
		"deeper than anything goes": {strings.Repeat(`[`, 50), "body"},
	} {
		status, text := s.do("POST", "/groups/ol/fixes", c.body)
		assert.Equal(t, http.StatusBadRequest, status, "%s: %s", name, text)
		assert.Equal(t, c.field, *problem(t, text).Field, name)
	}
	status, _ := s.do("POST", "/groups/ol/fixes", fix(`a\\u0000b`))
	assert.Equal(t, http.StatusUnprocessableEntity, status, "a backslash and letters are text")
	for _, path := range []string{"/library/find?group=ol&q=a%00b", "/library/find?group=ol&q=a%ffb", "/library/find?group=ol%00&q=a", "/library/entries/drill/a%00b", "/library/entries/drill/%ff"} {
		status, text := s.do("GET", path, nil)
		assert.Contains(t, []int{http.StatusBadRequest, http.StatusNotFound}, status, "%s: %s", path, text)
	}
	assert.NotContains(t, s.log.String(), "use case failed", "none of it reached the database")
}

// TestTheDatabaseGivesUpWhatTakesTooLong: every request and statement has a deadline.
func TestTheDatabaseGivesUpWhatTakesTooLong(t *testing.T) {
	s := open(t)
	require.NoError(t, s.product.DB.InClub(context.Background(), s.world.ClubID, func(ctx context.Context) error {
		type row struct{ Role, Statement, Lock, Idle string }
		r, _, err := pg.One[row](ctx, `SELECT current_user::text AS role, current_setting('statement_timeout') AS statement, current_setting('lock_timeout') AS lock,
			current_setting('idle_in_transaction_session_timeout') AS idle`, nil)
		assert.Equal(t, []string{"nineyard_app", "4s", "1min"}, []string{r.Role, r.Lock, r.Idle})
		within, bad := time.ParseDuration(r.Statement)
		assert.NoError(t, bad)
		assert.LessOrEqual(t, within, 5*time.Second)
		return err
	}))
	ctx, cancel := context.WithTimeout(context.Background(), 50*time.Millisecond)
	defer cancel()
	err := s.product.DB.InClub(ctx, s.world.ClubID, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `SELECT pg_sleep(20)`, nil)
		return err
	})
	assert.Error(t, err, "a request that is given up takes its statement along")
}

func TestLargeThingsAreRefused(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	for path, body := range map[string]string{
		"/marks":           `{"marks": [` + strings.Repeat(`{"id": "x"},`, 200_000) + `{}]}`,
		"/groups/ol/fixes": `{"id": "` + strings.Repeat("x", 3<<20) + `"}`,
	} {
		status, text := s.do("POST", path, body)
		assert.Equal(t, http.StatusRequestEntityTooLarge, status, text)
	}
	status, _ := s.do("POST", "/groups/ol/fixes", `{"id": "`+made()+`", "fault": "`+strings.Repeat("x", 81)+`"}`)
	assert.Equal(t, http.StatusBadRequest, status)
}
