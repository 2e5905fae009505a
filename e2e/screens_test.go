package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// faultsOfPage looks for what no screen may have: a part that is wider than the window, a
// heading that is missing or stands twice, ids that repeat, fields without a name.
const faultsOfPage = `() => {
	const wrong = [];
	const wide = document.documentElement.scrollWidth - window.innerWidth;
	if (wide > 1) wrong.push("wider than the window by " + wide);
	const h1 = [...document.querySelectorAll("h1")].filter((e) => e.offsetParent).length;
	if (h1 !== 1) wrong.push(h1 + " headings of the first rank");
	const ids = [...document.querySelectorAll("[id]")].map((e) => e.id);
	for (const id of new Set(ids)) if (ids.filter((x) => x === id).length > 1) wrong.push("id twice: " + id);
	for (const f of document.querySelectorAll("input, select, textarea")) {
		if (!f.offsetParent || f.closest("[aria-hidden=true]")) continue;
		const named = f.getAttribute("aria-label") || f.closest("label") || (f.id && document.querySelector("label[for='" + CSS.escape(f.id) + "']"));
		if (!named) wrong.push("a field without a name: " + f.outerHTML.slice(0, 80));
	}
	for (const b of document.querySelectorAll("button, a[href]")) {
		if (b.offsetParent && !(b.textContent.trim() || b.getAttribute("aria-label"))) wrong.push("a control without a name: " + b.outerHTML.slice(0, 80));
	}
	for (const a of document.querySelectorAll("nav a")) {
		const box = a.getBoundingClientRect();
		if (box.width && (box.right > window.innerWidth + 1 || a.scrollWidth > a.clientWidth + 1)) wrong.push("cut off: " + a.textContent);
	}
	if (document.querySelector("main [role=alert]")) wrong.push("an alert: " + document.querySelector("main [role=alert]").textContent);
	return wrong;
}`

// width sets the window to a laptop's or a phone's.
func (c *coach) width(width, height int) {
	c.t.Helper()
	require.NoError(c.t, c.SetViewport(&proto.EmulationSetDeviceMetricsOverride{Width: width, Height: height, DeviceScaleFactor: 1, Mobile: width < 500}))
}

// check looks at the screen at an address once it is there.
func (c *coach) check(path, selector string) {
	c.t.Helper()
	c.at(path)
	_, err := c.Page.Element(selector)
	require.NoError(c.t, err, "%s: %s", path, selector)
	list, err := c.Eval(faultsOfPage)
	require.NoError(c.t, err)
	for _, w := range list.Value.Arr() {
		assert.Fail(c.t, w.Str(), path)
	}
}

// TestEveryScreenOfEveryGroup opens each screen for each group, on a laptop and on a
// phone: it is there, fits, and everything on it has a name.
func TestEveryScreenOfEveryGroup(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	ladders := map[string]string{"ol": "base_ladder", "te": "cross_ladder", "rb": "zone_ladder", "qb": "drop_ladder", "wr": "slant_ladder", "dl": "get_off_ladder", "lb": "tackle_ladder", "db": "alley_ladder"}
	drills := map[string]string{"ol": "pull_bag", "te": "slip_catch", "rb": "edge_read", "qb": "climb_pocket", "wr": "roll_rules", "dl": "chase_angle", "lb": "tackle_wheel", "db": "deep_two"}
	for _, group := range []string{"ol", "te", "rb", "qb", "wr", "dl", "lb", "db"} {
		for _, width := range []int{1280, 390} {
			c.width(width, 844)
			base := fmt.Sprintf("/g/%s/w/7", group)
			c.check(base+"/today", "h1")
			c.check(base+"/players", "tbody th")
			c.check(base+"/teaching", "[aria-label='The rep']")
			c.check(base+"/teaching/drills", "tbody td")
			c.check(base+"/teaching/drills/"+drills[group], "table[aria-label=Rotation]")
			c.check(base+"/teaching/ladders?ladder="+ladders[group], "[aria-label='Who stands where'] li")
		}
		// The editor is a desk's screen; its drawing and its stages are there for every group.
		c.width(1280, 844)
		c.check(fmt.Sprintf("/g/%s/w/7/teaching/edit/ladder/%s", group, ladders[group]), "[aria-label=Stages] li")
		c.check(fmt.Sprintf("/g/%s/w/7/teaching/edit/drill/%s", group, drills[group]), "figure")
	}
	c.check("/g/ol/w/7/teaching/schools", "[role=radiogroup]")
	c.check("/g/ol/w/7/teaching/house", "[aria-label^='Versions, newest']")
	for _, width := range []int{1280, 390, 360} {
		c.width(width, 844)
		c.check("/g/ol/w/7/roster", "tbody th")
		c.check("/g/ol/w/7/season", "tbody th")
		c.check("/g/ol/w/7/season/calls", "[aria-label='Player by player'] td")
		c.check("/g/ol/w/7/season/line-up", "[aria-label=Spots] li")
		c.check("/g/ol/w/7/practice/settings", "[aria-label=Limits]")
		c.check("/g/ol/w/7/roster/import", "input[type=file]")
		c.check("/g/ol/w/7/film", "[aria-label=Games] li")
		game := c.MustElement("[aria-label=Games] a").MustProperty("pathname").Str()
		c.check(game, "[role=gridcell]")
		c.check(game+"/plays", "tbody td")
		c.check(game+"/two", "main a[href$='blind=1']")
	}
}
