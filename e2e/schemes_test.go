package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestAGroupIsMarkedByPoints: the head coach gives a group a way of judging of its own, the sheet of the group is marked
// by it, and what the staff teaches about marking switches the others'.
func TestAGroupIsMarkedByPoints(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	line.at("/g/ol/w/7/film")
	line.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	line.press('1')
	line.see("button", "Wrong technique")

	head.at("/g/ol/w/7/teaching/house")
	head.click("summary", "GROUPS THAT JUDGE OTHERWISE")
	head.click("button", "Offensive line is judged")
	head.click("[role=menuitemradio]", "in a way of its own")
	head.see("[aria-labelledby=judged]", "Version 1, by M. Orrin")
	head.click("button", "Offensive line: Judged by")
	head.click("[role=menuitemradio]", "Points")
	head.see("[aria-labelledby=judged]", "how many points they would have had nobody said")
	head.click("button", "Judge by this[^]*Offensive line")
	head.see("[aria-labelledby=judged]", "Version 2, by M. Orrin")
	head.eventually("all marks are judged anew", func() bool { return head.count("[role=progressbar]") == 0 })

	// The keys are those of points; four less one is clean, less two is not.
	line.MustReload()
	line.see("button", "A point less")
	line.press('1', 't')
	line.see("[aria-label='What stands in it']", "^3 points")
	line.saved()
	assert.Equal(t, 1, line.number(`SELECT count(*) FROM mark_slots WHERE stands AND grade = 3 AND grade_of = 4 AND verdict = 'clean'`))
	line.press('t')
	line.see("[aria-label='What stands in it']", "2 points")
	line.saved()
	assert.Equal(t, 1, line.number(`SELECT count(*) FROM mark_slots WHERE stands AND grade = 2 AND verdict = 'faulty'`))
	line.shift('t')
	line.see("[aria-label='What stands in it']", "3 points")
	line.saved()

	// What is taught about marking is how the other groups are marked.
	head.at("/g/db/w/7/teaching/schools")
	head.there("#marking input[type=radio]:enabled", "") // it is known who may change it
	head.click("#marking label", "plus")
	head.fill("#why-marking", "One look, one grade.")
	head.click("#marking button", "Teach it so")
	head.saved()
	head.at("/g/db/w/7/teaching/house")
	head.see("button", "^Judged by:\\s*Plus and minus")
	head.see("button", "Offensive line: Judged by:\\s*Points")
	back := signIn(t, app, "I. Vance")
	back.at("/g/db/w/7/film")
	back.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	back.see("button", "^Minus")
	back.press('1', 't')
	back.see("[aria-label='What stands in it']", "^minus")
	back.press('t')
	back.see("[aria-label='What stands in it']", "^plus")
	back.saved()
	assert.Zero(t, line.number(`SELECT sum(wrong_sums(id)) FROM clubs`))
}
