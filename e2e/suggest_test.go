package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

const putIn = "[aria-label='What to put in']"

// TestWhatToPutInIsSuggested: what speaks for a drill is said, it is added by a press, and drills
// that belong together are saved once and put in whole.
func TestWhatToPutInIsSuggested(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.tonight()
	drills := func() int { return c.count("[aria-label=Drills] > li") }
	was := drills()
	c.see(putIn+" p", "You coach alone")
	c.see(putIn+" li[aria-label='Set fit']", "Head down at contact is not safe")
	c.see(putIn+" li[aria-label='Double to the linebacker']", "Harbour double needs it by Tue 20 Oct")
	c.click(putIn+" li[aria-label='Double to the linebacker'] button", "Add")
	c.eventually("it stands in the plan", func() bool { return drills() == was+1 })
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM placements l JOIN periods e ON e.id = l.period_id JOIN practices p ON p.id = e.practice_id WHERE p.on_date = '2026-10-13' AND l.drill_key = 'two_man_read'`))
	assert.Empty(t, c.MustElements(putIn+" li[aria-label='Double to the linebacker']"), "what is in is not suggested")

	// Saved as a set, taken out, and put in whole again as one step.
	c.click(putIn+" button", "Sets")
	c.see(putIn+" li[aria-label='First ten']", "every day")
	c.click(putIn+" label", "Save the 3 drills of this plan")
	c.typed("Tuesday")
	c.click(putIn+" label", "We do it every day")
	c.click(putIn+" button", "Save the set")
	c.see(putIn+" li[aria-label='Tuesday']", "Two steps and freeze 5, Kick on the line 4, Double to the linebacker 7")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM drill_sets WHERE name = 'Tuesday' AND every_day AND jsonb_array_length(drills) = 3`))
	for range was + 1 {
		c.click("[aria-label=Drills] > li button", "^out")
	}
	c.eventually("the minutes are empty", func() bool { return drills() == 0 })
	c.click(putIn+" li[aria-label='Tuesday'] button", "Put in")
	c.see(putIn+" [role=status]", "Tuesday: 3 drills put in")
	c.eventually("all of it is in", func() bool { return drills() == 3 })
	c.saved()
	c.click(putIn+" li[aria-label='First ten'] button", "Put in")
	c.see(putIn+" [role=status]", "found no room")
	c.press(input.Escape)
	c.click("#own", "Individual")
	c.press('z', 'z')
	c.eventually("one step takes a set back", func() bool { return drills() == 0 })
	c.saved()

	c.see("[aria-label='Planned reps of the week'] h2", "Planned reps in week 7")
	c.see("[aria-label='Planned reps, player by player'] th", "52\\s+Ilvar")
	assert.Empty(t, c.MustElements("[role=alert]"))
}
