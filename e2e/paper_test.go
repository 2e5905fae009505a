package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// onPaper prints the page as it is and reads it back: one page, with these words.
func (c *coach) onPaper(what string, words ...string) {
	c.t.Helper()
	pdf, err := harness.PDF(c.Page)
	require.NoError(c.t, err, what)
	assert.Equal(c.t, 1, harness.Pages(pdf), "%s is one page", what)
	text, err := harness.Text(pdf)
	require.NoError(c.t, err, what)
	for _, w := range words {
		assert.Regexp(c.t, w, text, what)
	}
	assert.NotContains(c.t, text, "Undo", "%s: nothing of the screen", what)
}

// TestPaper: the own period, the pocket card, the drills with drawings and who works when, the
// script for the wall and the week, each on one page whose words can be read.
func TestPaper(t *testing.T) {
	app := start(t)
	// What is printed is measured as whoever prints has it: by a browser with windows, where there is one.
	b, stop, err := harness.Browser("chromium")
	require.NoError(t, err)
	t.Cleanup(stop)
	c := signInWith(t, b, app, "R. Kell")
	c.tonight()
	c.onPaper("the practice", "Offensive line: Tuesday practice, Tue 13 Oct", "Two steps and freeze", "Your league.s rules")
	c.press('k')
	c.MustElement("[data-paper=pocket]")
	c.onPaper("the pocket card", "Offensive line: Tuesday practice", `18:10 Individual`, "Kick on the line", "11 reps", "66 Quill", "What hurts most", "Head down at contact")
	c.click("button", "With drawings")
	c.MustElement("[data-paper=drawn][data-ready]")
	c.onPaper("the drills with drawings", "18:10 Two steps and freeze", "Kick on the line", `52 Ilvar`, "coach")
	c.press('e')
	c.see("h1", "Script of Tuesday practice")
	c.MustElement("[data-paper=wall]")
	c.onPaper("the script for the wall", "Tuesday practice, Tue 13 Oct", "TE Individual 18:10", "DB", "SP", "Inside run 18:34", "thud", "Two-minute 19:34", "20:00")
	c.at("/g/ol/w/8/season")
	c.see("h1", "Season")
	c.eventually("the installs are there", func() bool { return c.count("[data-paper=week] td p") > 5 })
	c.onPaper("the week", "Week 8", "Tue 20 Oct", "Tuesday practice, Gap day, 18:00–20:00, East field", "Install: Harbour double", "Game against Wether Hill, away", "OL 82", "90 a week")

	// Forty periods go on the wall's page too.
	c.tonight()
	crowd(t, app, c.MustInfo().URL[strings.LastIndex(c.MustInfo().URL, "/")+1:])
	c.press('e')
	c.see("h1", "Script of Tuesday practice")
	c.MustReload()
	c.see("[aria-label='Master script'] button", "walk and then run 39")
	c.onPaper("a crowded script", "Tue 13 Oct", "odd front,? walk and then run 39")
}
