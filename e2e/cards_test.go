package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"github.com/go-rod/rod/lib/input"
)

// TestARepGoesByItsCard: a drill that is run from cards is marked card by card, each rep as the technique that its card asks
// for, with the faults of that technique.
func TestARepGoesByItsCard(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	const of = ` FROM placements l JOIN periods e ON e.id = l.period_id JOIN practices r ON r.id = e.practice_id WHERE r.on_date = '2026-10-08' AND l.drill_key = 'ol_pass_look'`
	placement := c.word(`SELECT l.id` + of)
	c.at("/g/ol/w/7/practice/" + c.word(`SELECT r.id`+of) + "/mark/" + placement)
	const card, current = "[aria-label='Card of this rep']", "[aria-label='Current rep'] button"
	c.see(card, "Card 1 of 10[\\s\\S]*Wide rusher[\\s\\S]*kick and slide[\\s\\S]*right")
	c.see(current, "Opens early")
	c.press('3', 'h', input.Space)
	c.see(card, "Card 2 of 10[\\s\\S]*Two steps up, then inside[\\s\\S]*post inside")
	c.eventually("the faults are of what the card asks for", func() bool {
		return c.count("[aria-label='Current rep'] li") > 0 && c.text("[aria-label='Current rep'] ul") != ""
	})
	c.press('5')
	c.click(current, "Foot leads on the post")
	c.press(input.Space)
	c.see(card, "Card 3 of 10[\\s\\S]*counter")
	c.saved()
	kept := func(technique, fault string, rep int) int {
		return c.number(`SELECT count(*) FROM mark_slots m JOIN mark_faults f ON f.mark_id = m.id WHERE m.placement_id = $1 AND m.technique_key = $2 AND f.fault = $3 AND m.rep = $4`, placement, technique, fault, rep)
	}
	c.eventually("both are kept, each of its technique", func() bool {
		return kept("kick_slide", "kick_heel_in", 1) == 1 && kept("post_inside", "post_foot_leads", 2) == 1
	})
	assert.Equal(t, 0, c.number(`SELECT count(*) FROM mark_slots WHERE placement_id = $1 AND rep = 2 AND technique_key <> 'post_inside'`, placement), "the rest of the rep is clean at the post")
	c.Reload()
	c.see(card, "Card 3 of 10")
}

// TestCardsInTheCoachsOrder: a drill that is placed shows the cards that the coach wants, in his order, where it is marked too;
// a practice is reached from the page of its drill whatever week it is in.
func TestCardsInTheCoachsOrder(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/teaching/drills/ol_pass_look")
	c.click("main a", "8 Oct")
	c.see("h1", "Thursday practice, Thu 8 Oct")
	const line = "li[aria-label='Rush cards'] "
	c.click(line+"button", "^cards")
	const cards = "[aria-label='Cards of Rush cards'] "
	c.see(cards+"li:nth-child(1)", "Wide rusher")
	c.click(cards+"li:nth-child(2) button", "↑")
	c.see(cards+"li:nth-child(1)", "Two steps up, then inside")
	c.click(cards+"li:nth-child(3) button", "out")
	c.see(cards+"[aria-label='Not shown'] li", "Fakes inside and goes")
	c.press(input.Escape)
	c.see(line+"button", "9 cards, own order")
	c.saved()
	const of = ` FROM placements l JOIN periods e ON e.id = l.period_id JOIN practices r ON r.id = e.practice_id WHERE r.on_date = '2026-10-08' AND l.drill_key = 'ol_pass_look'`
	assert.Regexp(t, "^inside_counter wide_speed ", c.word(`SELECT l.cards`+of))
	c.click(line+"a", "mark")
	c.see("[aria-label='Card of this rep']", "Card 1 of 9[\\s\\S]*Two steps up, then inside")
	c.Reload()
	c.see("[aria-label='Card of this rep']", "Card 1 of 9[\\s\\S]*Two steps up, then inside")
}
