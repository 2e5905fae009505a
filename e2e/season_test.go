package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// days is where the season's days are pressed.
const days = "[aria-label='The days of the season'] button"

func (c *coach) practicesOn(day string) int {
	c.t.Helper()
	return c.number(`SELECT count(*) FROM practices WHERE on_date = $1 AND cancelled IS NULL`, day)
}

// TestASeasonIsPlanned: made, moved with all its marks, copied, called off, by pointer and by keys,
// and taken back.
func TestASeasonIsPlanned(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.click("nav a", "Season")
	c.see("h1", "Season")
	c.see(days, "Sat 17 Oct: Game against Pell Harbour, at home")
	c.see("[aria-label='Contact of the week'] li", "OL")

	// By keys: Thursday of this week to Friday, and back; its marks go with it.
	c.click(days, "Thu 8 Oct: Thursday practice")
	marks := c.number(`SELECT count(*) FROM mark_slots WHERE on_date = '2026-10-08' AND game_id IS NULL`)
	require.Positive(t, marks)
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.ArrowDown).Do())
	c.see(days, "Fri 9 Oct: Thursday practice")
	c.saved()
	assert.Equal(t, marks, c.number(`SELECT count(*) FROM mark_slots WHERE on_date = '2026-10-09' AND game_id IS NULL`), "marks follow the day")
	c.press('z')
	c.see(days, "Thu 8 Oct: Thursday practice")
	c.saved()
	assert.Equal(t, marks, c.number(`SELECT count(*) FROM mark_slots WHERE on_date = '2026-10-08' AND game_id IS NULL`))

	// By pointer: the practice of a day dragged to the day before.
	from := c.see(days, "Thu 22 Oct: Thursday practice").MustShape().Box()
	to := c.see(days, "Fri 23 Oct").MustShape().Box()
	c.move(from.X+from.Width/2, from.Y+12, 0, to.Y-from.Y+8)
	c.see(days, "Fri 23 Oct: Thursday practice")
	c.saved()
	assert.Equal(t, 1, c.practicesOn("2026-10-23"))

	// A new one, its day written; copied; the week copied to the next.
	c.click(days, "Mon 19 Oct: nothing")
	c.press('n')
	c.see(days, "Mon 19 Oct: Practice, 18:00")
	c.saved()
	c.press('c')
	c.click(days, "Sun 25 Oct: nothing")
	c.press('v')
	c.see(days, "Sun 25 Oct: Practice")
	c.saved()
	assert.Equal(t, 1, c.practicesOn("2026-10-25"))
	c.press('w')
	c.saved()
	assert.Equal(t, 1, c.practicesOn("2026-10-26"), "Monday's")
	assert.Equal(t, 1, c.practicesOn("2026-10-27"), "on Tuesday there was one")
	c.press('z')
	c.saved()
	assert.Zero(t, c.practicesOn("2026-10-26"), "one step takes the week back")

	// Called off with its reason: it stays, and is not next any more.
	c.click(days, "Tue 13 Oct, today: Tuesday practice")
	c.click("[aria-label='The chosen day'] button", "Call it off")
	c.typed("thunder")
	c.press(input.Enter)
	c.see(days, "Tue 13 Oct, today: Tuesday practice.*called off: thunder")
	c.saved()
	c.click("nav a", "Today")
	c.see("h2 ~ p", "Wednesday practice, 14 Oct")
	c.click("nav a", "Season")
	c.click(days, "Tue 13 Oct, today")
	c.click("[aria-label='The chosen day'] button", "It is on again")
	c.saved()

	// What is lost is named before it is.
	c.click("[aria-label='The chosen day'] button", "Take it off the calendar")
	c.see("[role=alertdialog]", "Its script of 19 periods and \\d+ placed drills go with it")
	c.click("[role=alertdialog] button", "Leave it")
	c.click(days, "Sun 25 Oct: Practice")
	c.click("[aria-label='The chosen day'] button", "Take it off the calendar")
	c.see(days, "Sun 25 Oct: nothing")
	c.saved()

	// A game is put on the calendar.
	c.press('g')
	c.see(days, "Sun 25 Oct: Game against Opponent")
	c.MustElement("[aria-label='The chosen day'] input").MustClick()
	c.replace("Saltmarsh Cross")
	c.press(input.Enter)
	c.see(days, "Sun 25 Oct: Game against Saltmarsh Cross")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM games WHERE on_date = '2026-10-25' AND opponent = 'Saltmarsh Cross'`))
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestASeasonIsTheHeadCoachs: everybody sees it and what changes in it, he alone changes it.
func TestASeasonIsTheHeadCoachs(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	head.click("nav a", "Season")
	line.click("nav a", "Season")
	line.see(days, "Wed 21 Oct: Wednesday practice")
	assert.Zero(t, line.count("[aria-label='The chosen day'] input"))
	head.click(days, "Wed 21 Oct: Wednesday practice")
	require.NoError(t, head.KeyActions().Press(input.ControlLeft).Type(input.ArrowRight, input.ArrowUp).Do())
	line.see(days, "Tue 27 Oct: .*Wednesday practice")
	// On a phone the week of the season is in sight.
	require.NoError(t, proto.EmulationSetDeviceMetricsOverride{Width: 390, Height: 844, DeviceScaleFactor: 1, Mobile: true}.Call(line))
	line.MustReload()
	line.see(days, "Tue 13 Oct, today")
	line.eventually("today is in sight", func() bool {
		box := line.see(days, "Tue 13 Oct, today").MustShape().Box()
		return box.X >= 0 && box.X+box.Width <= 390
	})
}
