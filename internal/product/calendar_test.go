package product_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	ics "github.com/arran4/golang-ical"

	"nineyard/internal/demo"
)

// TestACalendarIsSubscribedTo: by its address alone, without signing in, as a calendar program reads
// it, until it is revoked; nobody else can revoke it, and no log has it.
func TestACalendarIsSubscribedTo(t *testing.T) {
	p := open(t)
	s, other := p.visitor().signIn(demo.LineCoachEmail), p.visitor().signIn(demo.SecondCoachEmail)
	secret, id := strings.Repeat("ab23", 13), uuid.NewString()
	status, body := s.do("PUT", "/calendar-links/"+id, `{"name": "Phone", "secret": "`+secret+`"}`)
	require.Equal(t, http.StatusOK, status, "%s", body)
	status, body = s.do("PUT", "/calendar-links/"+uuid.NewString(), `{"name": " ", "secret": "`+strings.Repeat("cd23", 13)+`"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "name", *problem(t, body).Field)
	status, _ = s.do("PUT", "/calendar-links/"+uuid.NewString(), `{"name": "Short", "secret": "abc"}`)
	assert.Equal(t, http.StatusBadRequest, status)

	stranger := p.visitor()
	read := func(secret string) (int, string) {
		status, body := stranger.do("GET", "/calendar/"+secret+".ics", nil)
		return status, body
	}
	status, text := read(secret)
	require.Equal(t, http.StatusOK, status, text)
	cal, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	assert.Greater(t, len(cal.Events()), 30, "every practice and game of the season")
	seen := map[string]bool{}
	for _, e := range cal.Events() {
		assert.False(t, seen[e.Id()], "an event has an id of its own")
		seen[e.Id()] = true
	}
	status, _ = read(strings.Repeat("zz23", 13))
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = stranger.do("GET", "/calendar-links", nil)
	assert.Equal(t, http.StatusUnauthorized, status)

	status, body = s.do("GET", "/calendar-links", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, body, `"read_at"`, "it is known that it was read")
	assert.NotContains(t, body, secret)
	status, body = other.do("GET", "/calendar-links", nil)
	require.Equal(t, http.StatusOK, status)
	assert.JSONEq(t, "[]", body, "another coach's are his own")
	status, _ = other.do("DELETE", "/calendar-links/"+id, nil)
	assert.Equal(t, http.StatusOK, status)
	status, _ = read(secret)
	assert.Equal(t, http.StatusOK, status, "he has not revoked it")
	status, _ = s.do("DELETE", "/calendar-links/"+id, nil)
	assert.Equal(t, http.StatusOK, status)
	status, _ = read(secret)
	assert.Equal(t, http.StatusNotFound, status, "it is revoked")
	assert.NotContains(t, s.log.String(), secret)
}
