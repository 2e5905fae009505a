package product_test

import (
	"crypto/sha256"
	"encoding/hex"
	"io"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
)

// ask sends a plain request and returns the answer with its body read.
func (s *site) ask(method, path, body string, headers ...string) (*http.Response, string) {
	s.t.Helper()
	r, err := http.NewRequest(method, s.server.URL+path, strings.NewReader(body))
	require.NoError(s.t, err)
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	answer, err := http.DefaultClient.Do(r)
	require.NoError(s.t, err)
	defer func() { _ = answer.Body.Close() }()
	text, err := io.ReadAll(answer.Body)
	require.NoError(s.t, err)
	return answer, string(text)
}

const enters = `{"email": "` + demo.LineCoachEmail + `", "password": "` + demo.Password + `"}`

// TestAVisitorHasNoSession: no cookie, no row, until he has signed in.
func TestAVisitorHasNoSession(t *testing.T) {
	s := open(t)
	sessions := func() int { return s.count(`SELECT count(*)::int AS n FROM sessions`, nil) }
	for range 3 {
		answer, body := s.ask("GET", "/api/v1/session", "")
		assert.Equal(t, http.StatusOK, answer.StatusCode)
		assert.Empty(t, answer.Header.Get("Set-Cookie"))
		assert.Contains(t, body, `"csrf":""`)
	}
	_, _ = s.ask("POST", "/api/v1/session", `{"email": "x@y.example", "password": "guess"}`, "Content-Type", "application/json")
	assert.Zero(t, sessions())
	answer, _ := s.ask("POST", "/api/v1/session", enters, "Content-Type", "application/json")
	require.Equal(t, http.StatusOK, answer.StatusCode)
	assert.Equal(t, 1, sessions())
	c := answer.Cookies()[0]
	assert.Equal(t, []any{"nineyard_session", true, http.SameSiteLaxMode, false}, []any{c.Name, c.HttpOnly, c.SameSite, c.Secure}, "plain http on loopback")
	sum := sha256.Sum256([]byte(c.Value))
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM sessions WHERE token = @digest`, pg.Args{"digest": hex.EncodeToString(sum[:])}), "the digest is kept")
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM sessions WHERE token = @token`, pg.Args{"token": c.Value}), "the token is not")
	assert.NotContains(t, s.log.String(), c.Value)
}

// TestBehindAProxyThatSpeaksTLS the cookie is Secure and this host's alone; a stranger's word on that counts for nothing.
func TestBehindAProxyThatSpeaksTLS(t *testing.T) {
	s := open(t)
	answer, _ := s.ask("POST", "/api/v1/session", enters, "Content-Type", "application/json", "X-Forwarded-Proto", "https", "X-Forwarded-For", "203.0.113.9")
	require.Equal(t, http.StatusOK, answer.StatusCode)
	c := answer.Cookies()[0]
	assert.Equal(t, []any{"__Host-nineyard_session", true, true, "/", ""}, []any{c.Name, c.HttpOnly, c.Secure, c.Path, c.Domain})
	assert.Contains(t, answer.Header.Get("Strict-Transport-Security"), "max-age=")
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM sessions WHERE address = '203.0.113.9'`, nil), "whence it came, past the proxy")
	signedIn := func(cookie string, headers ...string) bool {
		_, body := s.ask("GET", "/api/v1/session", "", append(headers, "Cookie", cookie)...)
		return strings.Contains(body, `"user"`)
	}
	assert.True(t, signedIn(c.Name+"="+c.Value, "X-Forwarded-Proto", "https"))
	assert.False(t, signedIn("nineyard_session="+c.Value, "X-Forwarded-Proto", "https"), "under the name without the prefix it may have been set by anybody")
	answer, _ = s.ask("GET", "/", "")
	assert.Empty(t, answer.Header.Get("Strict-Transport-Security"), "over plain http it means nothing")
}

// TestASessionEnds when it lies unused, and when it is old.
func TestASessionEnds(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	frame := func() int { status, _ := s.do("GET", "/frame", nil); return status }
	assert.Equal(t, http.StatusOK, frame())
	require.NoError(t, s.exec(`UPDATE sessions SET seen_at = now() - interval '11 hours'`, nil))
	assert.Equal(t, http.StatusOK, frame(), "and now it was used")
	require.NoError(t, s.exec(`UPDATE sessions SET seen_at = seen_at - interval '11 hours'`, nil))
	assert.Equal(t, http.StatusOK, frame())
	require.NoError(t, s.exec(`UPDATE sessions SET seen_at = now() - interval '12 hours 1 minute'`, nil))
	assert.Equal(t, http.StatusUnauthorized, frame())
	s.signIn(demo.LineCoachEmail)
	require.NoError(t, s.exec(`UPDATE sessions SET expiry = now() - interval '1 second'`, nil))
	assert.Equal(t, http.StatusUnauthorized, frame())
	var session contract.Session
	s.get("/session", &session)
	assert.Nil(t, session.User)
}

// TestEveryAnswerIsGuarded by its headers, and whatever goes wrong is a problem document.
func TestEveryAnswerIsGuarded(t *testing.T) {
	s := open(t)
	for _, path := range []string{"/", "/g/ol/w/1/today", "/api/v1/session", "/api/v1/frame", "/assets/none.js", "/healthz"} {
		answer, _ := s.ask("GET", path, "")
		h := answer.Header
		assert.Equal(t, "same-origin", h.Get("Cross-Origin-Opener-Policy"), path)
		assert.Equal(t, "nosniff", h.Get("X-Content-Type-Options"), path)
		assert.Contains(t, h.Get("Permissions-Policy"), "camera=()", path)
		assert.NotContains(t, h.Get("Content-Security-Policy"), "unsafe-inline", path)
		assert.Contains(t, h.Get("Content-Security-Policy"), "frame-ancestors 'none'", path)
		if strings.HasPrefix(path, "/api") {
			assert.Contains(t, h.Get("Cache-Control"), "no-store", path)
		}
	}
	nonces := map[string]bool{}
	for range 2 {
		answer, page := s.ask("GET", "/", "")
		nonce := regexp.MustCompile(`<meta nonce="([A-Z2-7]{26})">`).FindStringSubmatch(page)
		require.NotNil(t, nonce, page)
		assert.Contains(t, answer.Header.Get("Content-Security-Policy"), "'nonce-"+nonce[1]+"'")
		nonces[nonce[1]] = true
	}
	assert.Len(t, nonces, 2, "a nonce is used once")
	for _, r := range [][]string{
		{"POST", "/api/v1/session", "Sec-Fetch-Site", "cross-site"}, {"POST", "/api/v1/session", "Origin", "https://elsewhere.example"},
		{"POST", "/", "Accept", "*/*"}, {"GET", "/assets/none.js", "Accept", "*/*"}, {"GET", "/api/v1/nothing", "Accept", "*/*"}, {"GET", "/api/v1/frame", "Accept", "*/*"},
		{"PATCH", "/api/v1/session", "Accept", "*/*"}, {"HEAD", "/api/v1/uploads/none", "Accept", "*/*"},
	} {
		answer, _ := s.ask(r[0], r[1], "", r[2], r[3])
		assert.GreaterOrEqual(t, answer.StatusCode, 400, r)
		assert.Equal(t, "application/problem+json", answer.Header.Get("Content-Type"), r)
	}
}

// TestMetricsAreNotForCoaches: they are served by a handler of their own.
func TestMetricsAreNotForCoaches(t *testing.T) {
	s := open(t)
	_, page := s.ask("GET", "/metrics", "")
	assert.NotContains(t, page, "nineyard_request_seconds")
	s.do("GET", "/session", nil)
	w := httptest.NewRecorder()
	s.metrics.ServeHTTP(w, httptest.NewRequest("GET", "/metrics", nil))
	assert.Contains(t, w.Body.String(), "nineyard_request_seconds")
}
