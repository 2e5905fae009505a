package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// TestTheWholeLoop walks plan → run → grade → find → tell → plan as one coach would.
func TestTheWholeLoop(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")

	// Today: the next practice, what is still to grade, what the marks say.
	c.see("h2 ~ p", "Tuesday practice, 13 Oct")
	c.see("li", "Game against Saltmarsh Cross")
	c.see("li", "Rush cards, Thursday practice")
	c.see("li[aria-label='Second foot steps back from the gap']", "Second foot steps back from the gap")
	c.see("li", "head-injury hold")
	c.see("p", "Close, then turn back drops in games more than the others do")

	// The roster, as he has it.
	c.click("nav a", "Roster")
	c.click("a", "Import a list")
	c.MustElement("input[type=file]").MustSetFiles(file(t, "liste.csv", []byte("\xef\xbb\xbfNr;Name;Pos;Größe;kg Gewicht\r\n64;\"Sato, Jun\";LG;6'2\";296\r\n\r\n07;Tam Vosper;C;191 cm;301\r\n")))
	c.see("main [role=status]", "1 new, 0 changed, 1 already right, 0 with a problem")
	c.click("button", "Import 1 player")
	c.see("main [role=status]", "1 player added")

	// His practice: the master script on the ruler, and his own period under it.
	c.click("nav a", "Practice")
	c.click("a", "Tuesday practice")
	c.see("[aria-label='Master script']", "Inside run")
	c.see("h2 ~ span", "9 of 20 min")
	c.see("h2 ~ span", "10 players") // Vosper is in
	c.press('d')
	c.typed("pull and kick")
	c.press(input.Enter, input.Escape)
	c.see("li[aria-label='Pull and kick the bag']", "Pull and kick the bag")
	c.saved()
	// Fewer lanes turn the arithmetic into a sentence, by keyboard.
	c.press(',', ',')
	c.see("[role=note]", "10 players, 1 lane: each waits 5 of 6 minutes; \\d lanes would give")
	c.press('z')
	c.eventually("two lanes again", func() bool {
		return c.MustElement(`[aria-label="Lanes of Pull and kick the bag"]`).MustProperty("value").Str() == "2"
	})
	c.saved()

	// Mark the reps of a drill by exception.
	c.openMarkSheet("Two steps and freeze")
	c.see("h1", "Two steps and freeze")
	c.press('1', 's', input.Space, '3', 's', input.Space, input.Enter)
	c.see("h1", "Tuesday practice")
	c.saved()
	c.see("li[aria-label='Two steps and freeze']", "30 marks")

	// From the worst fault that is no safety fault, its drill goes into the next practice.
	c.click("nav a", "Today")
	c.click("li[aria-label='Second foot steps back from the gap'] button", "Put in")
	c.see("li[aria-label='Second foot steps back from the gap'] [role=status]", "is in")
	c.click("li[aria-label='Second foot steps back from the gap'] [role=status] a", "Tue 13 Oct")
	c.see("li[aria-label^='Close'] p b", `[1-9]`) // it stands there with its reps

	// A player: estimates with range and count, ladder, and the reps behind a number.
	c.click("nav a", "Players")
	c.click("th a", "64 Sato")
	c.see("h1", "Jun Sato")
	c.see("button", `\d+% · \d+–\d+`)
	c.see("section", "Ladder: ")
	c.click("button", `drops in games`)
	c.see("[aria-labelledby=evidence]", "Behind the number")
	c.see("[aria-labelledby=evidence] td", "play \\d+: ")
	assert.Greater(t, c.count("[aria-labelledby=evidence] tr"), 20)
	c.MustReload()
	c.see("[aria-labelledby=evidence]", "Behind the number") // every view has an address

	// Print the practice on one page.
	c.click("nav a", "Practice")
	c.click("a", "Tuesday practice")
	c.see("li[aria-label^='Close']", "Close")
	pdf, err := harness.PDF(c.Page)
	require.NoError(t, err)
	assert.Equal(t, 1, harness.Pages(pdf))
}

// TestKeysAndPlaces checks what holds on every screen.
func TestKeysAndPlaces(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.press('?')
	c.see("[role=dialog]", "Keys of this screen")
	c.press(input.Escape)
	c.at("/g/ol/w/7/nowhere")
	c.see("h1", "Out of bounds")
	c.at("/g/xx/w/7/today")
	c.see("h1", "Out of bounds")
	c.at("/g/db/w/7/practice")
	c.click("a", "Tuesday practice")
	c.see("li[aria-label='Pedal on the line']", "Pedal on the line")
	assert.True(t, c.MustElement(`[aria-label="Minutes of Pedal on the line"]`).MustProperty("disabled").Bool(), "another coach's period is read only")
	c.at("/g/te/w/7/teaching")
	c.see("h1", "Off-the-ball landmark")
	c.see("nav a", "Base block") // a tight end learns the line's blocks too
	c.at("/g/te/w/7/players")
	c.see("th a", "80 Sandahl")
	c.click("button", "R. Kell")
	c.click("[role=menuitem]", "Sign out")
	c.see("h1", "NINE YARD")
}

// TestSignInForm checks the real way in.
func TestSignInForm(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("button", "R. Kell")
	c.click("[role=menuitem]", "Sign out")
	c.see("button", "Sign in")
	c.fill("input[type=email]", "r.kell@lamplighters.example")
	c.fill("input[type=password]", "wrong")
	c.press(input.Enter)
	c.see("[role=alert]", "E-mail or password is wrong")
	c.fill("input[type=password]", "seven lamps at low tide")
	c.press(input.Enter)
	c.see("h1", "Tue 13 Oct")
}
