package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// TestLabelsAreCorrected: one play's beside its picture by a key, with what stood there before; many at once as one
// step; and a cut-up that is kept by a name finds them.
func TestLabelsAreCorrected(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	other := signIn(t, app, "M. Orrin")
	for _, x := range []*coach{c, other} {
		x.at("/g/ol/w/7/film")
		x.click("ul[aria-label=Games] a", "Saltmarsh Cross")
		x.see("[aria-label='The play']", fmt.Sprintf("Play %d ", c.open(0)))
	}
	front := c.word(`SELECT y.front FROM plays y JOIN games g ON g.id = y.game_id WHERE g.on_date = '2026-10-10' AND y.number = $1`, c.open(0))
	c.shift('l')
	c.MustElement("[role=dialog] input:focus")
	c.MustElement("[role=dialog] input[list=front-said]").MustClick()
	c.replace("Tilt")
	c.press(input.Enter)
	c.click("[role=dialog] summary", "What was corrected \\(1\\)")
	c.see("[role=dialog] [aria-label='What was corrected']", "Front “"+front+"” is “Tilt”")
	c.press(input.Escape)
	c.see("[aria-label='The play']", "Tilt")
	other.see("[aria-label='The play']", "Tilt") // and everybody else reads it

	// Kept by a name, for any game.
	c.shift('c')
	c.typed("front tilt")
	c.press(input.Enter)
	c.see("[aria-label='The cut-up']", "1 of \\d+ plays")
	c.shift('c')
	c.MustElement("[aria-label='Kept cut-ups'] input").MustClick()
	c.typed("Their tilt")
	c.press(input.Enter)
	c.see("[aria-label='Kept cut-ups'] li", "Their tilt\\s+front tilt")
	c.press(input.Escape)
	c.saved()
	c.click("button", "All plays")
	c.eventually("all plays are there", func() bool {
		return c.count("[aria-label='The cut-up']") == 0 && c.count("[role=gridcell][aria-selected=true]") == 1
	})
	c.shift('c')
	c.click("[aria-label='Kept cut-ups'] button", "Their tilt")
	c.see("[aria-label='The cut-up']", "1 of \\d+ plays")

	// Many at once.
	c.click("a", "Plays")
	c.click("button", "Correct many at once")
	tilted := func() int {
		return c.number(`SELECT count(*) FROM plays y JOIN games g ON g.id = y.game_id WHERE g.opponent = 'Saltmarsh Cross' AND y.front = 'Tilt'`)
	}
	over := c.number(`SELECT count(*) FROM plays y JOIN games g ON g.id = y.game_id WHERE g.opponent = 'Saltmarsh Cross' AND y.unit = 'offense' AND y.front = 'Over'`)
	c.MustElement("[aria-label='Correct many at once'] form input").MustClick()
	c.typed("front over")
	c.press(input.Enter)
	c.MustElement("[aria-label='Correct many at once'] input[list=bulk-said]").MustClick()
	c.typed("Tilt")
	c.click("[aria-label='Correct many at once'] button", "^Correct \\d+ plays")
	c.eventually("all of them are corrected", func() bool { return tilted() == 1+over })
	c.saved()
	c.MustElement("h1").MustClick()
	c.press('z')
	c.saved()
	assert.Equal(t, 1, tilted(), "one step back")
	c.click("[aria-label='Correct many at once'] button", "Done")

	// What another word means is said once: plays that say it are corrected, and whoever types it means it.
	other.click("a", "Plays")
	c.click("button", "^Words$")
	c.see("[role=dialog]", "Every word means itself")
	c.click("[role=dialog] label", "Who writes")
	c.typed("Tilt")
	c.press(input.Tab)
	c.typed("Over")
	c.press(input.Enter)
	c.see("[role=dialog] [role=status]", "One play was corrected")
	c.see("[aria-label='What words mean'] li", "“Tilt” is Over")
	assert.Zero(t, tilted())
	newAuditor(t).in(c, "the words", []view{views[0], views[3]}, func() { c.see("[role=dialog] li", "Tilt") })
	c.press(input.Escape)
	other.click("[aria-label='The plays'] tbody button", fmt.Sprintf("(^|\\D)%d(\\D|$)", c.open(0)))
	other.click(fmt.Sprintf("section[aria-label^='Play %d'] label", c.open(0)), "^Front$")
	other.replace("tilt")
	other.press(input.Enter)
	other.saved()
	other.eventually("it is the staff's word", func() bool {
		v, err := other.MustElement("input[list=front-said]").Property("value")
		return err == nil && v.Str() == "Over"
	})
	assert.Zero(t, tilted())
	c.click("button", "Correct many at once")
	newAuditor(t).everywhere(c, "many plays corrected", "[aria-label='Correct many at once'] button", "Done")
}
