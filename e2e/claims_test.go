package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestWhatMayBeClaimedIsSaidAndNoMore walks from Today to what is behind a claim, and then the
// head coach changes how a rep is judged, in front of a coach who looks at his numbers.
func TestWhatMayBeClaimedIsSaidAndNoMore(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.see("[aria-labelledby=voices]", "more than the others do")
	c.see("[aria-labelledby=voices]", "than before")
	c.see("[aria-labelledby=voices]", "more than the others have")
	c.see("[aria-labelledby=voices]", "about one in ten is false")
	c.click("[aria-labelledby=voices] a", "64 Sato")
	c.see("h1", "Jun Sato")
	c.see("[aria-labelledby=plainly]", "Close, then turn back drops in games more than the others do")
	c.see("[aria-label='Techniques by week']", "no claim")
	assert.NotContains(t, c.text("main"), "steady", "that nothing is claimed does not say that nothing changed")
	c.at("/g/ol/w/7/players")
	c.see("[role=grid]", "improved more than the others")
	c.see("[role=grid] th", "practice, ")
	c.at("/g/ol/w/7/teaching?technique=close_turn")
	c.see("[aria-labelledby=group-form]", "That is a number of the group: games are harder for everybody.")
	c.see("[aria-labelledby=group-form]", "64 Sato")

	// Only the head coach decides how a rep is judged.
	c.at("/g/ol/w/7/teaching/house")
	c.see("[aria-labelledby=judged]", "The head coach decides this.")
	c.at("/g/ol/w/7/players")
	before := c.text("[role=grid] tbody tr:first-child")
	head := signIn(t, app, "M. Orrin")
	head.at("/g/ol/w/7/teaching/house")
	head.see("[aria-labelledby=judged]", "As shipped.")
	head.click("[aria-labelledby=judged] label", "^Technique")
	head.click("[aria-labelledby=judged] label", "^Assignment")
	head.see("[aria-labelledby=judged] [role=alert]", "At least one facet must decide")
	head.click("[aria-labelledby=judged] label", "^Finish")
	head.click("button", "Judge by this")
	head.see("[aria-labelledby=judged]", "Version 1, by M. Orrin")
	head.eventually("all marks are judged anew", func() bool { return head.count("[role=progressbar]") == 0 })
	c.eventually("the numbers on the other coach's screen follow", func() bool { return c.text("[role=grid] tbody tr:first-child") != before })
	assert.Zero(t, c.number(`SELECT sum(wrong_sums(id)) FROM clubs`))
}
