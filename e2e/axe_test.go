package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// auditor looks at pages with axe-core: whatever it finds, of any impact, is a fault.
type auditor struct {
	script string
	runs   int
}

func newAuditor(t *testing.T) *auditor {
	t.Helper()
	script, err := os.ReadFile(filepath.Join(harness.Root(), "web", "node_modules", "axe-core", "axe.min.js"))
	require.NoError(t, err)
	return &auditor{script: string(script)}
}

// everywhere looks at what the page shows now in every window, by day and by night: what there must be to see is there
// in each. The window is left as the first of them.
func (a *auditor) everywhere(c *coach, what, selector, text string) {
	c.t.Helper()
	a.in(c, what, views, func() { c.there(selector, text) })
}

// in looks at what the page shows now in some windows, and leaves it in the first of them.
func (a *auditor) in(c *coach, what string, list []view, there func()) {
	c.t.Helper()
	for _, v := range list {
		c.look(v)
		there()
		a.audit(c, what+", "+v.String(), v.rules(list[0]))
	}
	c.look(list[0])
}

// rules are those of axe that can find in a window what they did not find in the first one that was looked at: the same
// page has the same words and names in all. None: all of them.
func (v view) rules(first view) (list []string) {
	if v == first || v.width < 500 && !v.night {
		return nil
	}
	if v.night != first.night {
		list = append(list, "color-contrast")
	}
	if v.width != first.width || v.zoom != first.zoom {
		list = append(list, "scrollable-region-focusable", "meta-viewport")
	}
	return list
}

// audit looks at the page as it now is, by some of axe's rules or by all.
func (a *auditor) audit(c *coach, what string, rules []string) {
	c.t.Helper()
	a.runs++
	_, err := c.Eval(`(script) => { if (!window.axe) (0, eval)(script) }`, a.script)
	if err != nil { // the page does not let text be run as a script
		_, err = proto.RuntimeEvaluate{Expression: a.script}.Call(c)
	}
	require.NoError(c.t, err)
	only := map[string]any{}
	if len(rules) > 0 {
		only["runOnly"] = rules
	}
	list, err := c.Eval(`async (only) => (await axe.run(document, { resultTypes: ["violations"], preload: false, ...only })).violations
		.map((v) => v.id + " (" + v.impact + "): " + v.nodes.slice(0, 3).map((n) => n.target.join(" ") + " " + n.html.slice(0, 120)).join(" | "))`, only)
	require.NoError(c.t, err, what)
	for _, v := range list.Value.Arr() {
		assert.Fail(c.t, v.Str(), what)
	}
	a.thumb(c, what)
	wide := c.MustEval(`() => document.documentElement.scrollWidth - document.documentElement.clientWidth`).Int()
	assert.LessOrEqual(c.t, wide, 1, "%s: wider than its window", what)
}

// thumb looks at a page as a thumb and old eyes do: what is pressed is 24 px or more, on the
// field 44 px high; words of drawings and all others are 11 px or more as they are seen.
func (a *auditor) thumb(c *coach, what string) {
	c.t.Helper()
	list, err := c.Eval(`() => {
		const found = [];
		const coarse = matchMedia("(pointer: coarse)").matches;
		const field = /\/practice\/[^/]+/.test(location.pathname);
		const least = coarse && field ? 44 : 24;
		const seen = (e) => e.checkVisibility({ visibilityProperty: true, opacityProperty: true }) && !e.closest(".print-only");
		for (const e of document.querySelectorAll("a[href],button,input,textarea,[role=menuitem],[role=menuitemradio],[role=option],[role=gridcell][tabindex]")) {
			// The score of a game is as narrow as its plays are many: keys and two buttons walk it too.
			if (!coarse && e.matches("[aria-label='Players by plays'] [role=gridcell]")) continue;
			// A way within a sentence is as high as its line.
			if (!seen(e) || e.closest("[aria-hidden=true],[inert]") || getComputedStyle(e).display === "inline") continue;
			const own = e.matches("[type=checkbox],[type=radio],[type=file]") ? [...(e.labels ?? [])] : [];
			const boxes = [e, ...own].map((x) => x.getBoundingClientRect());
			const r = boxes[0];
			if (own.length === 0 && (r.width <= 1 || r.height <= 1)) continue; // only heard
			if (!boxes.some((b) => b.height >= least - 0.5 && b.width >= 24 - 0.5)) found.push(Math.round(r.width) + " x " + Math.round(r.height) + " px: " + e.outerHTML.slice(0, 90));
		}
		const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
		while (texts.nextNode()) {
			const e = texts.currentNode.parentElement;
			if (!texts.currentNode.data.trim() || !seen(e) || e.closest("script,style,.sr-only")) continue;
			const scale = e instanceof SVGElement ? e.getScreenCTM().a : 1;
			const size = parseFloat(getComputedStyle(e).fontSize) * scale;
			if (size < 10.9) found.push(size.toFixed(1) + " px: " + texts.currentNode.data.slice(0, 40));
		}
		return [...new Set(found)].slice(0, 6);
	}`)
	require.NoError(c.t, err, what)
	for _, v := range list.Value.Arr() {
		assert.Fail(c.t, v.Str(), what)
	}
}

// view is a window a coach may have.
type view struct {
	width, height int
	zoom          float64
	night         bool
}

func (v view) String() string {
	s := fmt.Sprintf("%d px", v.width)
	if v.zoom != 1 {
		s += fmt.Sprintf(" at %.0f %%", 100*v.zoom)
	}
	if v.night {
		s += ", night"
	}
	return s
}

// look sets the window. Zoomed in, a window has so many pixels less for a screen.
func (c *coach) look(v view) {
	c.t.Helper()
	width, height := int(float64(v.width)/v.zoom), int(float64(v.height)/v.zoom)
	require.NoError(c.t, c.SetViewport(&proto.EmulationSetDeviceMetricsOverride{Width: width, Height: height, DeviceScaleFactor: v.zoom, Mobile: v.width < 500}))
	require.NoError(c.t, proto.EmulationSetTouchEmulationEnabled{Enabled: v.width < 500}.Call(c))
	theme := "day"
	if v.night {
		theme = "night"
	}
	c.MustEval(`(theme) => { localStorage.setItem("nineyard.theme", theme); document.documentElement.dataset.theme = theme }`, theme)
}

var views = []view{{1280, 800, 1, false}, {1280, 800, 1, true}, {390, 844, 1, false}, {360, 740, 1, true}, {1920, 1080, 1, false}, {1280, 800, 2, false}, {1280, 1024, 4, false}}

// page is an address, and what must be there for it to have come.
type page struct{ path, there string }

// pages looks at pages everywhere.
func (a *auditor) pages(c *coach, list []page) {
	for _, p := range list {
		c.at(p.path)
		c.MustElement(p.there)
		a.everywhere(c, p.path, p.there, "")
	}
}

// TestNothingForAxeToFind on any screen of the line, in every window by day and by night.
func TestNothingForAxeToFind(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.Page = c.Page.CancelTimeout()
	a := newAuditor(t)
	c.tonight()
	practice := strings.TrimPrefix(c.MustInfo().URL, app.URL)
	marks := *c.MustElement("a[href*='/mark/']").MustAttribute("href")
	c.at("/g/ol/w/7/players")
	player := *c.MustElement("th a").MustAttribute("href")
	a.pages(c, []page{
		{"/g/ol/w/7/today", "h1"},
		{"/g/ol/w/7/practice", "h1"},
		{practice, "li[aria-label='Two steps and freeze']"},
		{marks, "[role=gridcell]"},
		{"/g/ol/w/7/players", "tbody th"},
		{player, "h1"},
		{player + "?technique=kick_slide", "#evidence"},
		{"/g/ol/w/7/teaching", "[aria-label='The rep']"},
		{"/g/ol/w/7/teaching/drills", "tbody td"},
		{"/g/ol/w/7/teaching/drills/pull_bag", "table[aria-label=Rotation]"},
		{"/g/ol/w/7/teaching/ladders", "[aria-label='Who stands where'] li"},
		{"/g/ol/w/7/teaching/schools", "[role=radiogroup]"},
		{"/g/ol/w/7/teaching/house", "[aria-label^=Versions]"},
		{"/g/ol/w/7/teaching/edit/ladder/base_ladder", "[aria-label=Stages] li"},
		{"/g/ol/w/7/teaching/edit/drill/pull_bag", "figure"},
		{"/g/ol/w/7/teaching/edit/checkpoint/base_first", "form"},
		{"/g/ol/w/7/roster", "tbody th"},
		{"/g/ol/w/7/roster/import", "input[type=file]"},
		{"/g/ol/w/7/nowhere", "h1"},
		{"/nowhere", "h1"},
	})
	t.Logf("%d pages looked at", a.runs)
}

// TestNothingForAxeToFindInWindows: menus, windows, lists, editors and what went wrong.
func TestNothingForAxeToFindInWindows(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.Page = c.Page.CancelTimeout()
	a := newAuditor(t)
	at := func(what string) { a.in(c, what, []view{views[0], views[2], views[3]}, func() {}) }
	c.at("/g/ol/w/7/today")
	c.see("h1", "Tue 13 Oct")
	c.click("header button", "Offensive line")
	c.see("[role=menuitem]", "Secondary")
	at("the menu of groups")
	c.press(input.Escape)
	c.click("header button", "R. Kell")
	c.see("[role=menuitem]", "Sign out")
	at("the menu of the coach")
	c.press(input.Escape)
	c.press('/')
	c.see("[role=dialog]", "Find")
	at("Find, empty")
	c.typed("kick")
	c.see("#found li", "Kick")
	at("Find")
	c.press(input.Escape)
	c.press('?')
	c.see("[role=dialog]", "Keys of this screen")
	at("the keys")
	c.press(input.Escape)
	c.click("li button", "why")
	at("why")

	c.tonight()
	c.click("[aria-label='Master script'] button", "Warm-up")
	c.see("[role=dialog]", "Warm-up, 18:00")
	at("a period of the script")
	c.press(input.Escape)
	c.click("[role=tab]", "What hurts most")
	c.click("button", "^Put in:")
	c.see("[role=status]", "Undo")
	at("a drill that was put in")
	c.click("[role=status] button", "Undo")
	c.saved()
	c.click("header button", "Saved")
	c.see("[role=dialog]", "All is saved")
	at("what is saved")
	c.press(input.Escape)
	c.click("button", "who when")
	c.see("[role=dialog] td", "52 Ilvar")
	at("the rotation")
	c.press(input.Escape)
	c.press('d')
	c.see("[aria-label='Drills of the group'] li", "min")
	at("the list of drills")

	c.at("/g/ol/w/7/teaching/ladders?ladder=base_ladder")
	c.click("[aria-label='Who stands where'] button", "64 Sato")
	c.see("[role=dialog]", "his gate is|passed every stage")
	at("a player on a ladder")
	c.press(input.Escape)
	c.at("/g/ol/w/7/teaching/edit/ladder/base_ladder")
	c.click("[aria-label=Stages] button", "add a drill")
	c.see("[role=option]", "[a-z]")
	at("a list of many")
	c.press(input.Escape)
	c.click("[aria-label=Stages] button", "Kind of stage 1")
	c.see("[role=menuitemradio]", "[a-z]")
	at("a list of few")
	c.press(input.Escape)

	c.at("/g/ol/w/7/roster")
	c.see("tbody th", "Sato")
	c.click("tbody button", "available")
	c.see("[role=dialog]", "Availability of")
	at("availability")
	c.press(input.Escape)
	c.press('a')
	c.see("form", "First name")
	at("a new player")
	c.typed("x")
	c.press(input.Enter)
	c.see("form [role=alert]", "jersey")
	at("a player who cannot be")
	c.click("form button", "Leave it")
	c.click("tbody button", "⋯")
	c.see("[role=menuitem]", "Archive")
	at("the menu of a player")
	c.click("[role=menuitem]", "Archive")
	c.see("[role=region] li", "is archived")
	at("a message")
	c.click("[role=region] li button", "Undo")
	c.saved()
	c.click("tbody th a", "Veil")
	c.see("h1", "Veil")
	c.click("li button", "his own")
	c.see("[role=dialog]", "The hard limit holds")
	at("a range of his own")
	c.click("[role=dialog] button", "Judge him by this")
	c.see("[role=dialog] [role=alert]", "Because is missing")
	at("a range without a reason")
	c.press(input.Escape)
	t.Logf("%d pages looked at", a.runs)
}

// TestNothingForAxeToFindWhereTheSeasonIsPlanned: the season, the master script, what practices
// take place with, and their windows.
func TestNothingForAxeToFindWhereTheSeasonIsPlanned(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.Page = c.Page.CancelTimeout()
	a := newAuditor(t)
	at := func(what string) { a.in(c, what, views, func() {}) }
	c.at("/g/ol/w/7/season")
	c.see("[aria-label='The chosen day'] label", "Theme")
	at("the season")
	c.click("[aria-label='The chosen day'] button", "Call it off")
	c.see("[role=dialog] label", "Why")
	at("calling off")
	c.press(input.Escape)
	c.at("/g/ol/w/7/season/calls")
	c.see("[aria-label='Player by player'] td", "reps to go")
	c.see("[aria-label=Ladders] li", "Two-man combination")
	at("calls")
	c.click("button", "Type or read a list")
	c.typed("Lead left | run | OL Nothing")
	c.click("[role=dialog] button", "Read the lines")
	c.see("[role=dialog] li", "there is no technique")
	at("calls that are typed")
	c.press(input.Escape)
	c.at("/g/ol/w/7/film")
	c.see("h1", "Film")
	at("the games")
	c.click("[aria-label=Games] a", "Saltmarsh")
	c.see("[aria-label='The play']", fmt.Sprintf("Play %d", c.open(0)))
	at("a game that is graded")
	c.click("main button", "^Done")
	c.see("[role=dialog] li", "not marked yet")
	at("what is left of a game")
	c.press(input.Escape)
	c.click("main a", "Plays")
	c.click("[aria-label='The plays'] tbody button", "2")
	c.see("section[aria-label^='Play '] label", "Call")
	at("the plays of a game")
	c.click("button", "Read a list")
	at("a list of plays")
	c.press(input.Escape)
	c.at("/g/ol/w/7/season")
	c.click("button", "^Templates")
	c.see("[role=dialog] li", "Week of three|practice|week")
	at("templates")
	c.press(input.Escape)
	c.at("/g/ol/w/7/season/line-up")
	c.see("[aria-label=Spots] li", "Ilvar")
	at("the line-up")
	c.at("/g/ol/w/7/practice/settings")
	c.see("[aria-label=Limits] label", "Water at least every")
	at("places and limits")
	c.master("9", "Thursday")
	c.see("[aria-label='What to look at'] li button", "End Walk at 20:00")
	c.click("[aria-label='What to look at'] li button", "Seven on seven needs OL")
	c.see("[aria-label='The chosen period'] label", "Name")
	c.click("summary", "Coaches, equipment")
	at("the script")
	c.click("button", "Free together")
	at("who is free")
	c.click("button", "It runs late")
	c.see("[role=dialog] [role=status]", "shorter")
	at("running late")
	c.press(input.Escape)
	c.click("button", "As text")
	c.see("[role=dialog] [role=status]", "all of it can be read")
	c.replace("ten")
	c.see("[role=dialog] [role=status]", "Line 1, column 1")
	at("the script as text")
	c.press(input.Escape)
	t.Logf("%d pages looked at", a.runs)
}

// TestNothingForAxeToFindInAnyGroup: the screens that differ from group to group.
func TestNothingForAxeToFindInAnyGroup(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.Page = c.Page.CancelTimeout()
	a := newAuditor(t)
	// Each group in two windows, such that every screen is seen in all of them.
	for g, group := range []string{"te", "rb", "qb", "wr", "dl", "lb", "db"} {
		base := "/g/" + group + "/w/7"
		at := func(what, selector, text string) {
			a.in(c, base+what, []view{views[g%len(views)], views[(g+3)%len(views)]}, func() { c.there(selector, text) })
			c.look(views[0])
		}
		c.at(base + "/practice")
		c.click("a", "Tuesday practice")
		at("/practice/", "h1", "Tuesday practice")
		c.at(base + "/players")
		c.click("tbody th a", "[A-Z]")
		at("/players/", "[aria-label='Techniques by week']", "range")
		c.at(base + "/teaching/ladders")
		c.click("a", "Edit the stages")
		at("/teaching/edit/", "[aria-label=Stages]", "of the last")
		for _, s := range []struct{ path, there string }{
			{"/today", "h1"}, {"/players", "tbody th"}, {"/teaching", "[aria-label='The rep']"}, {"/teaching/drills", "tbody td"}, {"/teaching/ladders", "[aria-label='Who stands where'] li"},
		} {
			c.at(base + s.path)
			at(s.path, s.there, "")
		}
	}
	t.Logf("%d pages looked at", a.runs)
}
