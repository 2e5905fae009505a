package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// TestAskingAnotherCoach: an open question goes to a coach by a key, charges nobody, stands on his Today and
// is answered there; the game of whoever asked shows the answer. What stands beside the grades is counted.
func TestAskingAnotherCoach(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	line.see("[aria-labelledby=asked]", "80 Sandahl, play \\d+[\\s\\S]*Whose end is it")
	line.at("/g/ol/w/7/film")
	line.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	play := line.text("[aria-label='The play'] b")
	line.press('1')
	who := line.text("[aria-label='Current play'] .head")

	// By default it goes to the head coach; another is chosen by keys, and is asked from then on.
	line.press('q')
	line.see("[aria-label='What stands in it']", "open question")
	line.see("button", "Ask M. Orrin")
	line.shift('q')
	line.see("[aria-label='Who can answer it'] button:focus", "M. Orrin")
	line.press(input.Enter)
	line.press('n')
	line.typed("Mike or him?")
	line.press(input.Enter)
	line.saved()

	// Whoever is asked finds it at once, with the words and the way to the play.
	head.see("[aria-labelledby=asked] li", who+", "+"play "+play[len("Play "):]+"[\\s\\S]*Mike or him\\?[\\s\\S]*asked by R. Kell")
	head.click("[aria-labelledby=asked] li:has(a[href*='/g/ol/']) a", who)
	head.see("[aria-label='The play']", play+" ")
	head.at("/g/ol/w/7/today")
	head.click("[aria-labelledby=asked] li[aria-label^='"+who+"'] button", "Wrong assignment")
	head.saved()
	head.eventually("it is asked no longer", func() bool { return head.count("[aria-labelledby=asked] li[aria-label^='"+who+"']") == 0 })
	line.see("[aria-label='What stands in it']", "wrong assignment")
	assert.Equal(t, 1, line.number(`SELECT count(*) FROM mark_slots m JOIN users u ON u.id = m.created_by
		WHERE u.name = 'M. Orrin' AND m.stands AND m.assignment = 0 AND m.note = 'Mike or him?'`))

	// Right but lost: process and result apart, and a cut-up of both.
	line.press('2', '.')
	line.shift('w')
	line.see("[aria-label='What stands in it']", "looked at, clean, lost")
	line.shift('e')
	line.see("[aria-label='What stands in it']", "lost, effort away from the ball")
	line.press('3')
	line.shift('o')
	line.see("[aria-label='What stands in it']", "not gradable, the coach’s own wrong call")
	line.saved()
	line.see("[aria-label='Beside the grades']", "right but lost: \\d+[\\s\\S]*our own wrong calls: 1")
	line.MustReload()
	line.click("[aria-label='Beside the grades'] a", "our own wrong calls: 1")
	line.see("[aria-label='The cut-up']", "1 of \\d+ plays")
	line.see("[aria-label='The play']", play+" ")
	line.at("/g/ol/w/7/today")
	newAuditor(t).everywhere(line, "today with questions", "h2", "You are asked")
}
