package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// open are the numbers of Saturday's plays of the offense that nobody of the line has graded yet.
func (c *coach) open(i int) int {
	c.t.Helper()
	return c.number(`SELECT y.number FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND y.unit = 'offense' AND y.number > 60 ORDER BY y.number OFFSET $1 LIMIT 1`, i)
}

// all is how many plays of the offense there are on Saturday.
func (c *coach) all() int {
	c.t.Helper()
	return c.number(`SELECT count(*) FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND y.unit = 'offense'`)
}

// TestAGameIsGraded by keys alone, from Today on: by exception, a player in and out, another technique,
// undone, over a killed server; and what was marked stands behind a player's numbers.
func TestAGameIsGraded(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("section[aria-labelledby='to-grade'] li a", "Grade")
	c.see("h1", "Saltmarsh Cross, away")
	first, second, third := c.open(0), c.open(1), c.open(2)
	call := c.word(`SELECT y.call FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND y.number = $1`, first)
	c.see("[aria-label='The play']", fmt.Sprintf("Play %d \\d\\w\\w & \\d+, (own|opp) \\d+ · Q\\d · .*%s · .*yd", first, call))
	marks := func(where string, args ...any) int {
		return c.number(`SELECT count(*) FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN players p ON p.id = m.player_id
			WHERE m.stands AND m.state <> 'withdrawn' AND m.on_date = '2026-10-10' AND y.unit = 'offense' AND y.number > 60 AND `+where, args...)
	}
	require.Zero(t, marks("true"))

	// One fault of one player; whoever else is on the field is clean once the coach moves on.
	c.press('2')
	c.see("[aria-label='Current play']", "64 Sato")
	fault := c.text("[aria-label='Current play'] li .kbd")
	c.press(input.Key(fault[0]))
	c.press(input.Space)
	c.saved()
	assert.Equal(t, 5, marks("y.number = $1", first))
	assert.Equal(t, 1, marks("y.number = $1 AND p.last_name = 'Sato' AND m.state = 'looked' AND m.technique = 0", first))
	assert.Equal(t, 4, marks("y.number = $1 AND m.state = 'assumed'", first))

	// Sato goes out, Veil comes in, and it is carried on from play to play.
	c.press('-', '6', '-', input.Space, input.Space)
	c.saved()
	assert.Zero(t, marks("y.number IN ($1, $2) AND p.last_name = 'Sato'", second, third))
	assert.Equal(t, 2, marks("y.number IN ($1, $2) AND p.last_name = 'Veil' AND m.state = 'assumed'", second, third))

	// What it is a mark of is corrected by a key; the one that stood gives way, and undo brings it back.
	c.back()
	c.press('3')
	before := c.number(`SELECT count(DISTINCT m.technique_key) FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN players p ON p.id = m.player_id WHERE m.stands AND m.state <> 'withdrawn' AND y.number = $1 AND m.on_date = '2026-10-10' AND p.last_name = 'Ilvar'`, third)
	require.Equal(t, 1, before)
	was := c.text("[aria-label='Current play'] button.field")
	c.press(']')
	c.saved()
	assert.NotEqual(t, was, c.text("[aria-label='Current play'] button.field"))
	assert.Equal(t, 1, marks("y.number = $1 AND p.last_name = 'Ilvar'", third), "one mark, of the other technique")
	c.press('z')
	c.saved()
	assert.Equal(t, was, c.text("[aria-label='Current play'] button.field"))
	assert.Equal(t, 1, marks("y.number = $1 AND p.last_name = 'Ilvar'", third))

	// The server is killed in the middle; what is marked meanwhile is kept and sent.
	c.press(input.PageDown)
	app.Kill()
	c.press('3', 'q', '4', 'u', '5', 'p', input.Space, input.Space)
	c.eventually("it waits", func() bool { return c.saving() != "" })
	require.NoError(t, app.Run(c.GetContext()))
	c.saved()
	graded := c.number(`SELECT count(DISTINCT y.number) FROM mark_slots m JOIN plays y ON y.id = m.play_id WHERE m.stands AND m.state <> 'withdrawn' AND m.on_date = '2026-10-10' AND y.unit = 'offense' AND y.number > 60`)
	assert.Equal(t, 5, graded)
	assert.Equal(t, 1, marks("m.state = 'unseen'"))
	assert.Equal(t, 1, marks("m.praise"))
	// Leaving says what is left and leads there; who leaves it so is on Today.
	c.press(input.Enter)
	c.see("[role=dialog] li", "plays not marked yet")
	c.see("[role=dialog] li", "open question").MustElementR("button", "^To play \\d+, \\d+ \\w+$").MustClick()
	c.see("[aria-label='What stands in it']", "open question")
	c.press(input.Enter)
	c.see("[role=dialog] li", "\\d open questions?: (it charges|they charge) nobody")
	c.press(input.Enter)
	c.see("h1", "Tue 13 Oct")
	c.saved()

	// Every play leads back: the evidence of Sato names the play.
	c.click("nav a", "Players")
	c.click("th a", "64 Sato")
	c.see("h1", "Jun Sato")
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// back goes to the play before: with film the arrows are the frames'.
func (c *coach) back() {
	c.t.Helper()
	c.shift(input.Space)
}

// TestSeventyPlaysFiveMen counts the keys of a whole game for five men, with a fault on every sixth play.
func TestSeventyPlaysFiveMen(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	game := "SELECT id FROM games WHERE on_date = '2026-10-10'"
	c.sql(`DELETE FROM plays WHERE game_id = (` + game + `) AND NOT EXISTS (SELECT 1 FROM mark_events m WHERE m.play_id = plays.id)`)
	c.sql(`INSERT INTO plays (id, club_id, game_id, number, offense, unit, call) SELECT gen_random_uuid(), g.club_id, g.id, 200 + n, true, 'offense', 'Zone left' FROM games g, generate_series(1, 70) n WHERE g.on_date = '2026-10-10'`)
	c.at("/g/ol/w/7/today")
	c.click("section[aria-labelledby='to-grade'] li a", "Grade")
	c.see("[aria-label='The play']", "Play 201")
	keys, began := 0, time.Now()
	press := func(list ...input.Key) {
		keys += len(list)
		c.press(list...)
	}
	for n := range 70 {
		if n%6 == 0 {
			press([]input.Key{'1', '2', '3', '4', '5'}[n/6%5])
			letter := c.text("[aria-label='Current play'] li .kbd")
			press(input.Key(letter[0]))
		}
		press(input.Space)
	}
	typed := time.Since(began)
	c.saved()
	t.Logf("70 plays, 5 men, 12 faults: %d keys in %s, saved %s after the last", keys, typed.Round(time.Second/10), (time.Since(began) - typed).Round(time.Second/10))
	assert.LessOrEqual(t, keys, 300)
	assert.Equal(t, 350, c.number(`SELECT count(*) FROM mark_slots m JOIN plays y ON y.id = m.play_id WHERE m.stands AND m.state <> 'withdrawn' AND y.number > 200`))
}

// TestAFaultOfATeammate is charged to him, and drew a flag; the plays of a player are walked, and those with a fault.
func TestAFaultOfATeammate(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	first := fmt.Sprintf("Play %d", c.open(0))
	c.see("[aria-label='The play']", first+" ")
	c.press('2')
	c.see("[aria-label='Current play']", "64 Sato")
	fault := c.text("[aria-label='Current play'] li .kbd")
	c.press(input.Key(fault[0]), ',')
	c.see("[aria-label='Current play'] label", "WHO CAUSED IT")
	c.typed("70")
	c.see("[aria-label='What stands in it']", "caused by a teammate$")
	c.press(';')
	c.see("[aria-label='What stands in it']", "caused by a teammate, drew a flag")
	c.press(input.Space)
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN mark_faults f ON f.mark_id = m.id AND f.year = m.year JOIN players cause ON cause.id = f.caused_by
		WHERE m.stands AND y.number = $1 AND m.on_date = '2026-10-10' AND m.technique = 1 AND f.penalty AND cause.last_name = 'Marsh'`, c.open(0)))
	c.MustReload()
	c.see("[aria-label='The play']", fmt.Sprintf("Play %d ", c.open(1)))
	c.press('2')
	c.back()
	c.see("[aria-label='What stands in it']", "caused by a teammate, drew a flag")

	// The fault is not his: walking back by his faults passes it by.
	walk := func(with, key input.Key) (play string) {
		require.NoError(t, c.KeyActions().Press(with).Type(key).Release(with).Do())
		return c.text("[aria-label='The play'] b")
	}
	require.Equal(t, first, c.text("[aria-label='The play'] b"))
	require.NotEqual(t, first, walk(input.ControlLeft, input.ArrowLeft))
	assert.Equal(t, 1, c.count("[role=gridcell][aria-selected=true] .text-fault"), "a fault of his own")
	require.NotEqual(t, first, walk(input.ControlLeft, input.ArrowRight), "nor is it found on the way forth")
	for range 60 {
		if walk(input.ShiftLeft, input.ArrowRight) == first {
			break
		}
	}
	assert.Equal(t, first, walk(input.ShiftLeft, input.ArrowRight), "the last that he has")
	c.see("[aria-label='What stands in it']", "caused by a teammate, drew a flag")
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestPlaysAreWritten: typed as they are watched, corrected, read from a list with headers of its own, and
// undone.
func TestPlaysAreWritten(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.at("/g/ol/w/7/film")
	c.click("main li a", "Saltmarsh Cross, away")
	c.click("main a", "Plays")
	c.see("[aria-label='The plays'] tbody tr", "Gap lead")
	n := func(where string) int {
		return c.number(`SELECT count(*) FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND ` + where)
	}
	all := n("true")

	// A correction.
	c.click("[aria-label='The plays'] tbody button", "^Play 2$|2")
	c.see("section[aria-label^='Play '] label", "Call")
	c.eventually("the core is there", func() bool { return c.count("section[aria-label^='Play '] input") > 10 })
	field := func(label, text string) {
		c.t.Helper()
		c.click("section[aria-label^='Play '] label", "^"+label)
		c.replace(text)
		c.press(input.Enter)
	}
	field("Front", "Bear")
	field("Spot", "+31")
	c.saved()
	assert.Equal(t, 1, n("y.front = 'Bear' AND y.spot = 'opp 31' AND y.version = 3"))

	// New ones, each following from the one before.
	c.press(input.Escape)
	c.click("button", "^New play")
	c.see("section h2", fmt.Sprintf("Play %d", all+1))
	c.saved()
	field("Down", "1")
	field("Distance", "10")
	field("Spot", "own 40")
	field("Gain", "12")
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
	c.see("section h2", fmt.Sprintf("Play %d", all+2))
	c.saved()
	assert.Equal(t, 1, n(fmt.Sprintf("y.number = %d AND y.down = 1 AND y.distance = 10 AND y.spot = 'opp 48'", all+2)), "the chains have moved")
	c.click("button", "^Undo") // the keyboard is in a field
	c.saved()
	assert.Equal(t, all+1, n("true"))

	// A list with headers of its own; one of them is told what it is.
	list := fmt.Sprintf("No;Side;Dn;Play name;Yds won\n2;O;2;Gap lead left;4\n%d;K;;Punt;41\n%d;O;7;;\n%d;O;1;;x\n", all+5, all+6, all+7)
	c.click("button", "Read a list")
	c.MustElement("[role=dialog] input[type=file]").MustSetFiles(file(t, "saturday.csv", []byte(list)))
	c.see("[role=dialog] [role=status]", "2 new plays, 1 changed, 0 already there, 1 with a problem")
	c.see("[role=dialog] li", "Line 4.*Down: .*between 0 and 4")
	c.click("[role=dialog] summary", "Which column is what")
	c.click("[role=dialog] button", "Gain")
	c.click("[role=menuitemradio]", "Yds won")
	c.see("[role=dialog] li", "Line 5.*Gain: a whole number")
	c.click("[role=dialog] button", "Take 2 plays")
	c.saved()
	assert.Equal(t, all+2, n("true"))
	assert.Equal(t, 1, n("y.number = 2 AND y.call = 'Gap lead left' AND y.gain = 4"))
	assert.Equal(t, 1, n("y.unit = 'units' AND y.call = 'Punt' AND y.gain = 41"))
	c.press('z')
	c.saved()
	assert.Equal(t, all+1, n("true"), "one step takes a whole list back")
	assert.Empty(t, c.MustElements("[role=alert]"))

	// The line's coach does not label what the defence does.
	line := signIn(t, app, "R. Kell")
	line.at(c.MustInfo().URL[len(app.URL):])
	theirs := line.number(`SELECT min(y.number) FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND y.unit = 'defense'`)
	line.click("[aria-label='The plays'] tbody button", fmt.Sprintf("(^|\\D)%d(\\D|$)", theirs))
	line.eventually("it is read only", func() bool {
		return line.count(fmt.Sprintf("section[aria-label='Play %d'] input[readonly]", theirs)) > 10
	})
}

// TestACutUpIsAnAddress that plays: typed, sent to another coach, gone through with its picture and graded; what is not
// understood is said, and all plays come back.
func TestACutUpIsAnAddress(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.film()
	all := c.all()
	c.shift('c')
	c.see("[role=dialog] label", "Plays that are all of this")
	c.typed("70 at fault, play 1 to 60")
	c.press(input.Enter)
	n := c.number(`SELECT count(DISTINCT y.id) FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN players p ON p.id = m.player_id JOIN mark_faults f ON f.mark_id = m.id AND f.year = m.year
		WHERE m.stands AND m.on_date = '2026-10-10' AND y.number <= 60 AND (p.last_name = 'Marsh' AND coalesce(f.caused_by, '00000000-0000-0000-0000-000000000000') = '00000000-0000-0000-0000-000000000000' OR f.caused_by = (SELECT id FROM players WHERE last_name = 'Marsh'))`)
	require.Greater(t, n, 2)
	c.see("[aria-label='The cut-up']", fmt.Sprintf("^%d of %d plays", n, all))
	require.Equal(t, n, c.count("[role=grid] [role=row]:nth-of-type(2) [role=gridcell][aria-label]"))
	first := c.text("[aria-label='The play'] b")

	// The address is the cut-up.
	address := c.MustInfo().URL[len(app.URL):]
	other := signIn(t, app, "M. Orrin")
	other.at(address)
	other.see("[aria-label='The cut-up']", fmt.Sprintf("^%d of %d plays", n, all))
	assert.Equal(t, first, other.text("[aria-label='The play'] b"))

	// Graded in it: a play stays under the hand though it is in the cut-up no longer.
	c.press('1', '.')
	c.saved()
	assert.Equal(t, n, c.count("[role=grid] [role=row]:nth-of-type(2) [role=gridcell][aria-label]"))
	c.MustReload()
	c.see("[aria-label='The cut-up']", fmt.Sprintf("^%d of %d plays", n-1, all))

	c.shift('c')
	c.see("[role=dialog] label", "Plays that are all of this")
	c.replace("weather wet")
	c.press(input.Enter)
	c.see("[aria-label='The cut-up']", "weather wet.*a term begins with down")
	c.click("[aria-label='The cut-up'] button", "All plays")
	c.eventually("all of them", func() bool {
		return c.count("[role=grid] [role=row]:nth-of-type(2) [role=gridcell][aria-label]") == all
	})
	c.shift('c')
	c.click("[role=dialog] button", "odd front")
	c.see("[aria-label='The cut-up']", fmt.Sprintf("of %d plays", all))
	assert.Empty(t, c.MustElements("[role=alert]"))
}
