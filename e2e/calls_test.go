package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const call = "[aria-label='The chosen call']"

// calls opens the calls by way of the season.
func (c *coach) calls() {
	c.t.Helper()
	c.click("nav a", "Season")
	c.click("nav a", "Calls")
	c.see("h1", "Calls")
}

// TestWillWeBeReady: a call that outruns its technique is flagged weeks ahead, with what would mend
// it; it is moved by one press, written by hand, and taken back.
func TestWillWeBeReady(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("nav a", "Season")
	c.see(days, "Tue 20 Oct: Tuesday practice.*install of Harbour double, will not be ready")
	c.see("tfoot th", "Two-man combination")
	c.click("nav a", "Calls")
	c.see("p", "1 call will not be ready: Harbour double on Tue 20 Oct")
	c.see(call+" h3", "Will not be ready by Tue 20 Oct")
	c.see(call+" [aria-label='What would mend it'] li", "minutes of Double to the linebacker a practice, \\d+ reps a player instead of \\d")
	c.see(call+" td", "64 Sato")
	c.see("[aria-label=Ladders] li", "Two-man combination: \\d+ reps a player to “In the group”.*at [\\d.]+ a practice that is \\d+ practices, the install of Harbour double is in 3")

	// Asked for less, it is in time: up to the bag, which all but one have passed.
	c.click(call+" button", "up to the group stage")
	c.click("[role=menuitemradio]", "up to the bag stage")
	c.see(call+" h3", "Will be ready")
	c.saved()
	c.press('z')
	c.see(call+" h3", "Will not be ready")
	c.saved()

	// A call that needs a little more time is moved to when it is ready.
	c.click("[aria-label=Calls] button", "Quick lantern")
	c.see(call+" h3", "Will be ready")
	c.click(call+" label", "Installed on")
	c.typed("10142026")
	c.see(call+" h3", "(In doubt|Will not be ready) by Wed 14 Oct")
	c.click(call+" button", "Install it then")
	c.see(call+" h3", "Will be ready by")
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM calls WHERE name = 'Quick lantern' AND install_on = '2026-10-14'`))

	// A new one by hand: its name, a need, the spots.
	c.press(input.Escape)
	c.click("h1", "Calls")
	c.press('n')
	c.eventually("its name is asked for", func() bool { return c.MustElement(call+" input").MustProperty("value").String() == "New call" })
	c.typed("Anchor wide")
	c.press(input.Enter)
	c.see("[aria-label=Calls] button", "Anchor wide")
	c.see(call+" h3", "Needs nothing")
	c.click(call+" button", "^OL")
	c.see(call+" h3", "No day is set")
	c.click(call+" [role=group] label", "LT")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM calls WHERE name = 'Anchor wide' AND needs->0->'spots' = '["LT"]'`))
	c.click(call+" button", "Take the call out")
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM calls WHERE name = 'Anchor wide'`))

	// The other side's calls are read, not written.
	c.click("[aria-label=Calls] button", "Four across")
	c.see(call+" h2", "Four across")
	assert.Empty(t, c.MustElements(call+" input"))
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestCallsAreReadFromALine: typed one a line, wrong by line and column, then from a file.
func TestCallsAreReadFromALine(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.calls()
	c.press('t')
	c.see("[role=dialog] h2", "Type or read a list")
	c.typed("Bow sweep | run | OL Base block > fit [LT]; TE Off-the-ball landmark | 3 | 22 Oct | sweep\nStern draw | run | OL Wiggle\nfive-step | pass | OL Kick and slide > fit | 31")
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
	c.see("[role=dialog] [role=status]", "1 new call, 1 changed, 0 already there, 1 with a problem")
	c.see("[role=dialog] li", "Line 2.*Needs: there is no technique \"Wiggle\"")
	c.click("[role=dialog] button", "Take 2 calls")
	c.see("[aria-label=Calls] button", "Bow sweep")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM calls WHERE name = 'Bow sweep' AND install_on = '2026-10-22' AND aliases = '{sweep}'`))
	assert.Equal(t, 31, c.number(`SELECT share FROM calls WHERE name = 'five-step'`), "the call that was called so")
	c.press('z')
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM calls WHERE name = 'Bow sweep'`), "one step takes all of them back")

	// A list as it is kept elsewhere.
	file := filepath.Join(t.TempDir(), "calls.csv")
	require.NoError(t, os.WriteFile(file, []byte("Play;Type;Techniques;%\nBow sweep;run;OL Base block > fit;4\n"), 0o600))
	c.press('t')
	c.MustElement("[role=dialog] input[type=file]").MustSetFiles(file)
	c.see("[role=dialog] [role=status]", "1 new call")
	c.click("[role=dialog] button", "Take 1 call")
	c.see("[aria-label=Calls] button", "Bow sweep")
	c.saved()
	assert.Equal(t, 4, c.number(`SELECT share FROM calls WHERE name = 'Bow sweep'`))
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// at is where a player stands at a spot of the line's line-up, from 1; 0 for nowhere.
func (c *coach) stands(spot, jersey string) int {
	c.t.Helper()
	return c.number(`SELECT coalesce(max(p.n), 0)::int FROM (SELECT spots FROM line_ups WHERE group_key = 'ol' ORDER BY week DESC LIMIT 1) l, jsonb_array_elements(l.spots) s,
		jsonb_array_elements(s->'players') WITH ORDINALITY p(player, n) JOIN players x ON x.id = (p.player->>'player')::uuid WHERE s->>'name' = $1 AND x.jersey = $2`, spot, jersey)
}

// TestALineUpIsTheCoachs: ordered by pointer and by keys, shares given, carried to the next week.
func TestALineUpIsTheCoachs(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("nav a", "Season")
	c.click("nav a", "Line-up")
	c.see("h1", "Line-up, Offensive line")
	c.see("header p", "Week 7, as since week 1")
	require.Equal(t, []int{1, 2}, []int{c.stands("LT", "70"), c.stands("LT", "73")})

	// By keys: the second becomes the first, then goes to the next spot, and the keyboard with him.
	c.click("[aria-label='Players at LT'] button", "73\\s+Veil")
	require.NoError(t, c.KeyActions().Press(input.AltLeft).Type(input.ArrowUp).Do())
	c.saved()
	assert.Equal(t, []int{2, 1}, []int{c.stands("LT", "70"), c.stands("LT", "73")})
	require.NoError(t, c.KeyActions().Press(input.AltLeft).Type(input.ArrowRight).Do())
	c.see("[aria-label='Players at LG'] button", "73\\s+Veil")
	c.saved()
	assert.Equal(t, []int{0, 3}, []int{c.stands("LT", "73"), c.stands("LG", "73")})
	c.press('z', 'z')
	c.saved()
	assert.Equal(t, []int{1, 2}, []int{c.stands("LT", "70"), c.stands("LT", "73")})

	// By pointer: from the group to a spot, and his share written.
	from := c.see("[aria-label='The group'] button", "66\\s+Quill").MustShape().Box()
	to := c.see("[aria-label='Players at C']", "Ilvar").MustShape().Box()
	c.move(from.X+20, from.Y+8, to.X+30-from.X-20, to.Y+to.Height+4-from.Y-8)
	c.see("[aria-label='Players at C'] button", "66\\s+Quill")
	c.saved()
	assert.Equal(t, 2, c.stands("C", "66"))
	field := c.see("[aria-label='Players at C'] li", "Ilvar").MustElement("input")
	field.MustClick()
	c.replace("75")
	c.press(input.Enter)
	c.see("[aria-label=Spots] li", "25 % open")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM line_ups WHERE group_key = 'ol' AND week = 7`), "from this week on")
	c.see("header p", "Week 7, changed in it by R. Kell")
	c.at("/g/ol/w/8/season/line-up")
	c.see("header p", "Week 8, as since week 7")
	c.at("/g/ol/w/6/season/line-up")
	c.see("header p", "Week 6, as since week 1")
	assert.Empty(t, c.MustElements("[aria-label='Players at C'] input[value='75']"), "what held before holds before")

	// Another group's is read.
	c.at("/g/db/w/7/season/line-up")
	c.see("[aria-label=Spots] h2", "Left corner")
	assert.Empty(t, c.MustElements("[aria-label=Spots] input"))
	assert.Empty(t, c.MustElements("[role=alert]"))
}
