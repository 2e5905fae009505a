package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drillsOf counts what a group has placed in a period of a name.
func (c *coach) drillsOf(group, name string) int {
	c.t.Helper()
	return c.number(`SELECT count(*) FROM placements l JOIN periods e ON e.id = l.period_id WHERE l.group_key = $1 AND e.name = $2`, group, name)
}

// TestTwoGroupsInOnePeriod: free at the same time, they are put together with a drill that needs just
// them; each plans its own there; taking the period out and back keeps both.
func TestTwoGroupsInOnePeriod(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("8", "Tuesday")
	c.click("[aria-label='What to look at'] button", "Free together")
	c.see("[aria-label='What to look at'] li", "18:34–18:48 Receivers and Secondary are free while Inside run goes on:")
	const name = "Coverage against the routes"
	c.click("[aria-label='What to look at'] button", name)
	c.saved()
	assert.Equal(t, 1, c.drillsOf("db", name))

	// The secondary's coach sees it among his own periods; the receivers add theirs beside it.
	c.at("/g/wr/w/8/practice")
	c.click("a", "Tuesday practice")
	c.click("[aria-label='Master script'] button", name)
	c.see("h2", name)
	c.see("p", "DB beside: "+name)
	c.press('d')
	c.typed("throttle between")
	c.press(input.Enter, input.Escape)
	c.see("ol[aria-label='Drills'] li", "Throttle between two")
	c.saved()
	assert.Equal(t, []int{1, 1}, []int{c.drillsOf("db", name), c.drillsOf("wr", name)})
	c.press('z')
	c.saved()
	assert.Equal(t, []int{1, 0}, []int{c.drillsOf("db", name), c.drillsOf("wr", name)})
	require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type('z').Do())
	c.saved()
	c.at("/g/db/w/8/practice")
	c.click("a", "Tuesday practice")
	c.click("[aria-label='Master script'] button", name)
	c.see("p", "WR beside: Throttle between two")

	c.click("a", "Script")
	c.see("h1", "Script of")
	c.click(field, name)
	c.press(input.Delete)
	c.eventually("the period is gone, with the drills of both", func() bool { return c.drillsOf("db", name)+c.drillsOf("wr", name) == 0 })
	c.saved()
	c.press('z')
	c.saved()
	assert.Equal(t, []int{1, 1}, []int{c.drillsOf("db", name), c.drillsOf("wr", name)}, "with the drills of both")
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestTemplates: a week and a practice are kept under a name and laid again; one step takes it back.
func TestTemplates(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.at("/g/ol/w/8/season")
	c.click(days, "Fri 23 Oct: nothing")
	c.click("button", "^Templates")
	c.see("[role=dialog] li", "Week of three|week · Tue 120 min, Wed 120 min, Thu 120 min")
	c.click("[role=dialog] li[aria-label='Full Tuesday'] button", "Lay it on Fri 23 Oct")
	c.see("[role=dialog] [role=status]", "Full Tuesday: 1 practice laid")
	c.saved()
	laid := func(day string) int {
		return c.number(`SELECT count(*) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = $1`, day)
	}
	assert.Equal(t, 19, laid("2026-10-23"))

	c.click("[role=dialog] form button", "Keep")
	c.click("[role=menuitemradio]", "Tuesday practice, Fri 23 Oct")
	c.click("[role=dialog] form input", "")
	c.typed("Short Friday")
	c.press(input.Enter)
	c.see("[role=dialog] li[aria-label='Short Friday']", "practice · 120 min · 19 periods")
	c.saved()
	c.click("[role=dialog] li[aria-label='Week of three'] button", "Forget it")
	c.eventually("it is gone", func() bool { return c.count("[role=dialog] li[aria-label='Week of three']") == 0 })
	c.click("[role=dialog] button", "Undo")
	c.see("[role=dialog] li[aria-label='Week of three'] button", "Lay it in week 8")
	c.saved()
	assert.Equal(t, 3, c.number(`SELECT count(*) FROM plan_templates`))
	c.press(input.Escape)
	c.press('z')
	c.saved()
	assert.Zero(t, laid("2026-10-23"), "one step takes it back")
	c.press('p') // the keyboard is on the screen again: nothing else happens
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestWhoIsWhere: two coaches at one script see each other, at what, and that one has left.
func TestWhoIsWhere(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	head.master("7", "Tuesday")
	line.at("/g/ol/w/7/practice")
	line.click("a", "Tuesday practice")
	line.see("[aria-label='Here too']", "M. Orrin")
	head.see("[aria-label='Here too']", "R. Kell at Individual")
	head.see(field, "R. Kell is here")
	head.click(field, "Inside run")
	line.see("[aria-label='Here too']", "M. Orrin at Inside run")
	head.click("nav a", "Today")
	line.eventually("he has left", func() bool { return line.count("[aria-label='Here too']") == 0 })
}

// TestHeatAndFirstDays: the index is entered by whoever measured it; the script is checked by its band
// and brought down by a press; who comes back after long is named and kept out of contact by a press.
func TestHeatAndFirstDays(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	head.master("7", "Tuesday")
	line.at("/g/ol/w/7/practice")
	line.click("a", "Tuesday practice")
	line.click("a", "Script")
	line.click("button", "Heat index")
	line.see("[data-radix-popper-content-wrapper]", "check your league's rule")
	line.typed("31.5")
	line.press(input.Enter)
	line.see("[data-radix-popper-content-wrapper] p", "31.5, entered by R. Kell at .*nothing above air")
	line.saved()
	head.see("[aria-label='What to look at'] li", "At a heat index of 31.5 nothing is above air: .*check your league's rule")
	head.see("[aria-label='What to look at'] li", "120 minutes|60 minutes at most: this one has 120")
	head.click("[aria-label='What to look at'] button", "Make these \\d+ periods air")
	head.eventually("it is air", func() bool {
		has, _, err := head.HasR("[aria-label='What to look at'] li", "nothing is above air")
		return err == nil && !has
	})
	head.saved()
	head.press('z')
	head.saved()

	head.sql(`INSERT INTO availability_spells (club_id, id, player_id, status, from_on, to_on, reason, created_by, created_at)
		SELECT p.club_id, gen_random_uuid(), p.id, 'out', '2026-09-20', '2026-10-12', 'Away', (SELECT id FROM users WHERE name = 'R. Kell'), now() FROM players p WHERE p.last_name = 'Sato'`)
	line.at("/g/ol/w/7/practice")
	line.click("a", "Tuesday practice")
	line.see("[aria-label='On the way back'] li", "64 Sato day 1 of 5 after 23 days away: nothing above air")
	line.see("[aria-labelledby=own] .label", "9 players · 1 limited")
	line.click("[aria-label='On the way back'] button", "No contact for Sato that day")
	line.saved()
	line.see("[aria-labelledby=own] .label", "9 players · 2 limited")
	line.eventually("he is named with the limited", func() bool { return line.count("[aria-label='On the way back']") == 0 })
}

// TestEveryKindOfFindingIsProvokedAndMended: typed or pulled as it happens at eleven at night, seen in
// the checks, and mended by a press where a press can.
func TestEveryKindOfFindingIsProvokedAndMended(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("8", "Tuesday")
	evening := func(change ...string) string { // a whole evening in which nothing is wrong, changed
		text := "10 warm-up all\n20 individual OL bag\n& individual TE bag\n& individual RB,QB,WR bag\n& individual DL,LB,DB bag\n4 water all\n20 group \"Run\" all control\n4 water all\n22 team all control\n4 water all\n14 team \"Third downs\" all control\n4 water all\n8 meeting all\n8 walk-through all\n"
		return strings.NewReplacer(change...).Replace(text)
	}
	wrong := func(finding string) bool {
		has, _, err := c.HasR("[aria-label='What to look at'] li", finding)
		return err == nil && has
	}
	for _, x := range []struct{ kind, text, finding, mend string }{
		{"a group at two periods at once", evening("& individual TE", "& individual OL,TE"), "OL: Individual .* at the same time", "^Take OL out of Individual"},
		{"a coach at two", evening("20 individual OL bag", `20 individual OL bag with "R. Kell"`, "& individual TE bag", `& individual TE bag with "R. Kell"`), "R. Kell coaches", "^Individual .* without R. Kell"},
		{"a place too small", evening("20 individual OL bag", `20 individual OL bag @"Chute corner"`, "& individual TE bag", `& individual TE bag @"Chute corner"`), "Chute corner holds 1", " at "},
		{"too little equipment", evening("20 individual OL bag", `20 individual OL bag uses Chutes:4`, "& individual TE bag", `& individual TE bag uses Chutes:3`), "Chutes: there are 5", "^Individual .* with \\d Chutes"},
		{"outside of the practice", evening("8 walk-through all", "14 walk-through all"), "Walk-through runs from", "^End "},
		{"whom it needs is missing", evening("20 group \"Run\" all control", "20 group \"Run\" OL,TE,RB,QB,WR,DL,LB control needs DB"), "Run needs DB", "^Put DB into Run"},
		{"nothing to do", evening("20 group \"Run\" all control", "20 group \"Run\" OL,TE,RB,QB,DL,LB control"), "(WR|DB).* nothing to do", "^Put .* together"},
		{"long without water", evening("4 water all\n22 team all", "22 team all"), "without water", "^Water "},
		{"too much contact", evening("22 team all control", "22 team all thud", "14 team \"Third downs\" all control", "14 team \"Third downs\" all live"), "minutes of thud and live: 30 at most", "^(Shorten|.* with control)"},
		{"no warm-up", evening("10 warm-up all", "10 meeting \"Talk\" all"), "without a warm-up", "^Warm up "},
		{"a rep too long", evening("20 group \"Run\" all control", "20 group \"Run\" all control rep 15"), "a rep of Run lasts 15", ""},
	} {
		c.press('t')
		c.see("[role=dialog] [role=status]", "all of it can be read")
		c.pasted(x.text)
		c.see("[role=dialog] [role=status]", "all of it can be read")
		require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
		c.eventually(x.kind+" is seen", func() bool { return wrong(x.finding) })
		if x.mend == "" { // no press can say how long a rep shall be: by hand
			c.click(field, "Run[\\s\\S]*18:34")
			c.click("[aria-label='The chosen period'] summary", "Coaches, equipment")
			c.click("[aria-label='The chosen period'] label", "A rep lasts")
			c.replace("6")
			c.press(input.Enter)
		}
		for tries := 0; x.mend != "" && wrong(x.finding) && tries < 20; tries++ { // each group of several has its own, and the list moves under the pointer
			c.eventually("a mend of "+x.kind, func() bool {
				has, button, err := c.see("[aria-label='What to look at'] li", x.finding).HasR("button", x.mend)
				return err == nil && has && button.Timeout(4*time.Second).Click(proto.InputMouseButtonLeft, 1) == nil
			})
			c.saved()
		}
		c.eventually(x.kind+" is mended", func() bool { return !wrong(x.finding) })
		c.saved()
		assert.Empty(t, c.MustElements("[role=alert]"), x.kind)
	}
}
