package e2e

import (
	"io"
	"net/http"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTheSeasonIsSubscribedTo: an address is made, read by a program that nobody has signed in, and
// revoked.
func TestTheSeasonIsSubscribedTo(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	read := func(address string) (int, string) {
		t.Helper()
		resp, err := http.Get(address) //nolint:noctx // a program of somebody else's
		require.NoError(t, err)
		defer func() { _ = resp.Body.Close() }()
		text, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return resp.StatusCode, string(text)
	}
	c.click("nav a", "Season")
	c.click("button", "Other calendars")
	c.see("[role=dialog] label", "An address to subscribe to")
	c.typed("Phone")
	c.press(input.Enter)
	c.see("[role=dialog] [role=status]", "Phone: copy it now")
	address := c.MustElement("[role=dialog] [role=status] input").MustProperty("value").String()
	status, text := read(address)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, text, "BEGIN:VCALENDAR")
	assert.Contains(t, text, "Game against Pell Harbour")
	assert.NotContains(t, text, "Sato", "no player is in it")
	c.see("[aria-label='Addresses in use'] li", "Phone")
	c.click("[aria-label='Addresses in use'] button", "Revoke")
	c.eventually("it is revoked", func() bool { s, _ := read(address); return s == http.StatusNotFound })
	assert.Empty(t, c.MustElements("[role=alert]"))
}
