package e2e

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// TestAnUpdateUnderOpenTabs: the server is updated while two tabs are open, one with a form
// half typed. Screens that were not loaded before come in the new version, what was typed is
// offered again, and what was planned while the server was away is saved.
func TestAnUpdateUnderOpenTabs(t *testing.T) {
	next, err := harness.BuildUpdate(t.TempDir())
	require.NoError(t, err)
	app := start(t)
	typing := signIn(t, app, "R. Kell")
	typing.click("nav a", "Roster")
	typing.see("tbody th", "Sato")
	typing.press('a')
	typing.typed("68\tUlf\tEk")
	planning := typing.tab()
	planning.tonight()

	app.Stop()
	planning.fill(minutesOf(kick), "7")
	planning.eventually("the light says that it waits", func() bool { return strings.HasPrefix(planning.saving(), "1 waiting") })
	app.Update(next)
	require.NoError(t, app.Run(context.Background()))
	planning.saved()
	require.Equal(t, 7, planning.minutesKept())

	// A screen that this tab has not loaded: its script of the old version is gone.
	planning.click("nav a", "Teaching")
	planning.see("h1", "[a-z]")
	planning.see("nav a", "Base block")
	typing.MustActivate()
	typing.click("nav a", "Teaching")
	typing.see("nav a", "Base block")
	typing.click("nav a", "Roster")
	typing.see("tbody th", "Sato")
	typing.press('a')
	typing.click("form button", "Take it up")
	typing.eventually("what was half typed is there", func() bool {
		return typing.MustElement("form input[name=last_name]").MustProperty("value").Str() == "Ek"
	})
	typing.click("nav a", "Practice")
	typing.click("a", "Tuesday practice")
	typing.eventually("both see the plan", func() bool { return typing.minutes(kick) == "7" })
}

// tab opens another tab of the coach's browser.
func (c *coach) tab() *coach {
	c.t.Helper()
	page, err := c.Browser().Page(proto.TargetCreateTarget{})
	require.NoError(c.t, err)
	pictured(c.t, page, "-tab")
	require.NoError(c.t, page.SetViewport(&proto.EmulationSetDeviceMetricsOverride{Width: 1280, Height: 800, DeviceScaleFactor: 1}))
	return &coach{page.Timeout(5 * time.Minute), c.t, c.app}
}
