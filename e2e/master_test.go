package e2e

import (
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// master opens the script of a practice of a week, and waits until it is checked while it is written.
func (c *coach) master(week, day string) {
	c.t.Helper()
	c.at("/g/ol/w/" + week + "/practice")
	c.click("a", day+" practice")
	c.click("a", "Script")
	c.see("h1", "Script of "+day)
	c.eventually("the core is there", func() bool { return c.count("button[aria-disabled='true']") <= 2 })
}

// bar finds a period of the field of minutes by what is said of it.
const field = "[aria-label='Master script'] button"

// pull presses on a period near its left edge (-1), in its middle (0) or near its right one (1), and
// lets go so many minutes later.
func (c *coach) pull(text string, where, minutes int) {
	c.t.Helper()
	el := c.see(field, text)
	require.NoError(c.t, el.ScrollIntoView())
	box := el.MustShape().Box()
	x, y := box.X+box.Width/2, box.Y+box.Height/2
	switch where {
	case -1:
		x = box.X + 2
	case 1:
		x = box.X + box.Width - 2
	}
	yard := c.MustElement("[aria-label='Master script'] .relative.mr-2[style]").MustShape().Box().Width / 120
	c.move(x, y, float64(minutes)*yard, 0)
}

// move moves the pointer with its button down, as a hand does.
func (c *coach) move(x, y, dx, dy float64) {
	c.t.Helper()
	const steps = 8
	require.NoError(c.t, c.Mouse.MoveTo(proto.NewPoint(x, y)))
	require.NoError(c.t, c.Mouse.Down(proto.InputMouseButtonLeft, 1))
	for i := 1; i <= steps; i++ {
		require.NoError(c.t, c.Mouse.MoveTo(proto.NewPoint(x+dx*float64(i)/steps, y+dy*float64(i)/steps)))
		time.Sleep(8 * time.Millisecond)
	}
	require.NoError(c.t, c.Mouse.Up(proto.InputMouseButtonLeft, 1))
}

func (c *coach) lies(day, name string) int {
	c.t.Helper()
	return c.number(`SELECT coalesce(sum(1000 * e.start + e.minutes), 0) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = $1 AND e.name = $2`, day, name)
}

// TestAScriptIsWrittenByHand: moved, stretched, laid, split, copied and taken out, by pointer and by
// keys, with everything taken back and done again.
func TestAScriptIsWrittenByHand(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("8", "Tuesday")
	const day = "2026-10-20"
	c.pull("Inside run", 0, 3)
	c.saved()
	assert.Equal(t, 37_014, c.lies(day, "Inside run"), "a minute is a yard")
	c.pull("Inside run", 1, 4)
	c.saved()
	assert.Equal(t, 37_018, c.lies(day, "Inside run"))
	c.pull("Inside run", -1, -3)
	c.saved()
	assert.Equal(t, 34_021, c.lies(day, "Inside run"))
	for range 3 {
		c.press('z')
	}
	c.saved()
	assert.Equal(t, 34_014, c.lies(day, "Inside run"), "three steps are taken back")

	// By keys: chosen by ], a minute later, longer, split, copied, taken out.
	c.click(field, "Inside run")
	c.press(input.ArrowRight, input.ArrowRight, '+', '-', '-')
	c.saved()
	assert.Equal(t, 36_013, c.lies(day, "Inside run"))
	c.press('s')
	c.saved()
	assert.Equal(t, 36_007+43_006, c.lies(day, "Inside run"), "two parts of 13 minutes")
	c.press('z', 'c')
	c.saved()
	assert.Equal(t, 36_013+49_013, c.lies(day, "Inside run"))
	c.press(input.Delete)
	c.saved()
	assert.Equal(t, 36_013, c.lies(day, "Inside run"), "the copy was chosen, and is out")

	// A new one drawn over free minutes of two lanes, and said in the panel.
	lane := c.MustElement("[aria-label='Master script'] .relative.mr-2[style]").MustShape().Box()
	yard, high := lane.Width/120, lane.Height/8
	c.move(lane.X+yard*64.2, lane.Y+high*3.5, yard*11, 0)
	c.see("[aria-label='The chosen period'] label", "Name")
	c.eventually("it stands there", func() bool { return c.lies(day, "Individual") > 0 })
	c.click("[aria-label='The chosen period'] input", "")
	c.replace("Footwork alone")
	c.press(input.Enter)
	c.saved()
	assert.Equal(t, 64_011, c.lies(day, "Footwork alone"))
	c.click("[aria-label='The chosen period'] button", "Kind")
	c.click("[role=menuitemradio]", "Meeting")
	c.click("[aria-label='The chosen period'] label", "OL")
	c.saved()
	assert.Equal(t, 2, c.number(`SELECT count(*) FROM period_groups g JOIN periods e ON e.id = g.period_id WHERE e.name = 'Footwork alone' AND e.kind = 'meeting'`))
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestAScriptIsTyped: the whole of it as text, wrong at a line and column, then right.
func TestAScriptIsTyped(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("8", "Wednesday")
	before := c.number(`SELECT count(*) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = '2026-10-21'`)
	c.press('t')
	c.see("[role=dialog] [role=status]", "all of it can be read")
	c.replace("10 warm-up all\n20 indy OL bagg\n")
	c.see("[role=dialog] [role=status]", `Line 2, column 12: who is said twice`)
	c.replace("10 warm-up all\n20 indy OL bag with \"R. Kell\" @\"Chute corner\"\n& indy DL bag\n4 water all\n14 \"Inside run\" OL,TE,RB,QB,DL,LB thud\n")
	c.see("[role=dialog] [role=status]", "5 periods")
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
	c.saved()
	assert.Equal(t, 5, c.number(`SELECT count(*) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = '2026-10-21'`))
	assert.Equal(t, 2, c.number(`SELECT count(*) FROM placements l JOIN periods e ON e.id = l.period_id JOIN practices p ON p.id = e.practice_id WHERE p.on_date = '2026-10-21'`)+2, "nobody had planned drills there")
	c.press('z')
	c.saved()
	assert.Equal(t, before, c.number(`SELECT count(*) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = '2026-10-21'`), "one step takes all of it back")

	// Or one that ships, to begin with: nothing is wrong in it.
	c.press('t')
	c.click("[role=dialog] button", "Full practice, 120 min")
	c.see("[role=dialog] [role=status]", "all of it can be read")
	c.click("[role=dialog] button", "Make this the script")
	c.see("[aria-label='What to look at'] [role=status]", "Nothing is wrong")
	c.saved()
}

// TestWhatIsWrongIsMended: in the tangled practice every finding that has a mend is mended by a press.
func TestWhatIsWrongIsMended(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("9", "Thursday")
	for _, words := range []string{"coaches Individual", "Chutes: there are 5 and 7", "begins Individual \\(OL\\) without a warm-up", "Chute corner holds 1", "Seven on seven needs OL", "a rep of Seven on seven lasts 12",
		"minutes without water", "minutes of thud and live: 30 at most", "Walk runs from 19:54", "Individual \\(DL\\) and Water", "nothing to do"} {
		c.see("[aria-label='What to look at'] li", words)
	}
	mend := func(finding, by string) {
		c.t.Helper()
		c.eventually("a mend of "+finding, func() bool {
			has, button, err := c.see("[aria-label='What to look at'] li", finding).HasR("button", by)
			return err == nil && has && button.Timeout(3*time.Second).Click(proto.InputMouseButtonLeft, 1) == nil
		})
		c.eventually(finding+" is gone", func() bool {
			has, _, err := c.HasR("[aria-label='What to look at'] li", finding)
			return err == nil && !has
		})
		c.saved()
	}
	mend("Individual \\(DL\\) and Water", "End Individual")
	mend("Walk runs from", "End Walk at 20:00")
	mend("Chute corner holds 1", "Individual \\(TE\\) at North end")
	mend("begins Individual \\(OL\\) without a warm-up", "Warm up from 18:02|Warm up from 18:10")
	mend("OL go|OL goes|without water from 18:34", "Water from")
	mend("OL.*minutes of thud and live", "control, not live|Shorten")
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestManyWriteOneScript: each sees the others at once; two periods never meet; who was cut off
// catches up; of one period both versions are shown.
func TestManyWriteOneScript(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	head.master("8", "Thursday")
	line.at("/g/ol/w/8/practice")
	line.click("a", "Thursday practice")
	line.click("a", "Script")
	line.see(field, "18:10–18:30, 20 minutes, OL")
	head.pull("Seven on seven", 0, 2)
	line.see(field, "Seven on seven[\\s\\S]*18:36")
	assert.Empty(t, line.MustElements("[aria-label='The chosen period'] input"))

	line.line(true, 0)
	line.pull("18:10–18:30, 20 minutes, OL", 1, -3)
	line.eventually("it waits", func() bool { return line.saving() != "" })
	head.pull("Pass rush", 0, 1)
	head.pull("18:10–18:30, 20 minutes, OL", 1, -5)
	head.saved()
	line.line(false, 0)
	line.see("[role=alert]", "This period was changed by M. Orrin")
	line.see("[role=alert]", "Theirs: Individual, minute 10–25")
	line.see(field, "Pass rush[\\s\\S]*18:35")
	line.click("[role=alert] button", "Keep mine")
	line.saved()
	head.see(field, "18:10–18:27, 17 minutes, OL")
	assert.Empty(t, line.MustElements("[role=alert]"))

	// What is another's is not his to move.
	line.pull("Pass rush", 0, 5)
	assert.Empty(t, line.MustElements("[role=alert]"))
	head.see(field, "Pass rush[\\s\\S]*18:35")
}

// TestPlacesAndLimits: the head coach changes them, the others see it, and the checks follow.
func TestPlacesAndLimits(t *testing.T) {
	app := start(t)
	head := signIn(t, app, "M. Orrin")
	head.at("/g/ol/w/7/practice/settings")
	head.MustElement("[aria-label='Places'] input[placeholder]").MustClick()
	head.typed("Hill")
	head.press(input.Enter)
	head.saved()
	head.see("[aria-label='Limits'] label", "Thud and live in a practice")
	head.MustElement("[aria-label='Limits'] input").MustClick()
	head.replace("20")
	head.press(input.Enter)
	head.saved()
	assert.Equal(t, 1, head.number(`SELECT count(*) FROM practice_settings WHERE settings->'limits'->>'contact_minutes' = '20' AND settings::text LIKE '%Hill%'`))
	head.master("7", "Tuesday")
	head.see("[aria-label='What to look at'] li", "minutes of thud and live: 20 at most")
	line := signIn(t, app, "R. Kell")
	line.at("/g/ol/w/7/practice/settings")
	line.see("p", "The head coach changes it")
	assert.Zero(t, line.count("[aria-label='Places'] input[placeholder]"))
}

// TestAPracticeRunsLate: so many minutes are found where they are missed least; water keeps its
// own; it is accepted, and taken back.
func TestAPracticeRunsLate(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.master("8", "Tuesday")
	const day = "2026-10-20"
	minutes := func() int {
		return c.number(`SELECT sum(e.minutes) FROM periods e JOIN practices p ON p.id = e.practice_id JOIN period_groups g ON g.period_id = e.id WHERE p.on_date = $1 AND g.group_key = 'ol'`, day)
	}
	before := minutes()
	c.click(field, "Team")
	c.press('l')
	c.see("[role=dialog] [role=status]", "Water and warm-up keep their minutes")
	c.replace("200")
	c.see("[role=dialog] [role=alert]", "200 minutes cannot be found|lost must be between")
	c.replace("15")
	c.see("[role=dialog] li", "Team")
	c.press(input.Enter)
	c.saved()
	assert.Equal(t, before-15, minutes())
	assert.Equal(t, 3, c.number(`SELECT count(*) FROM periods e JOIN practices p ON p.id = e.practice_id WHERE p.on_date = $1 AND e.kind = 'water' AND e.minutes = 4`, day))
	assert.Equal(t, 34_014, c.lies(day, "Inside run"), "what comes before is left alone")
	c.press('z')
	c.saved()
	assert.Equal(t, before, minutes())

	// Where drills are placed, what it costs in reps is said, and what they would have worked on.
	c.master("7", "Tuesday")
	c.press('l')
	c.see("[role=dialog] [role=status]", "Water and warm-up keep their minutes")
	c.replace("45")
	c.see("[role=dialog] li", "LB: \\d+ reps? a player fewer, of .*less work on \\w")
}

// TestDragToPaint prints how long the page's own work takes from a move of the hand to the picture
// in which the script and its findings have followed, on a script of fourteen groups and forty
// periods.
func TestDragToPaint(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.sql(`INSERT INTO position_groups (club_id, key, name, short, side, positions, sort) SELECT c.id, 'g' || n, 'Group ' || n, 'G' || n, 'units', '{}', 20 + n FROM clubs c, generate_series(1, 6) n`)
	c.master("8", "Tuesday")
	c.press('t')
	text := "10 warm-up all\n20 individual OL\n"
	for _, g := range []string{"TE", "RB", "QB", "WR", "DL", "LB", "DB", "G1", "G2", "G3", "G4", "G5", "G6"} {
		text += "& individual " + g + "\n"
	}
	text += "4 water all\n"
	for i, g := range []string{"OL,DL", "WR,DB", "TE,LB", "RB,QB", "G1,G2", "G3,G4", "G5,G6", "OL,DL", "WR,DB", "TE,LB", "RB,QB", "G1,G2", "G3,G4", "G5,G6"} {
		text += map[bool]string{true: "12", false: "&"}[i%7 == 0] + " group " + g + " thud\n"
	}
	text += "4 water all\n8 kicking all\n10 team all\n4 water all\n6 team \"Two-minute\" all\n4 team \"Third downs\" all\n5 meeting all\n5 walk-through all\n4 conditioning all\n2 meeting \"Captains\" all"
	c.replace(text)
	c.see("[role=dialog] [role=status]", "40 periods")
	c.click("[role=dialog] button", "Make this the script")
	c.saved()
	c.MustEval(`() => { window.steps = []; window.work = []; let moved = 0; addEventListener("mousemove", () => { moved = performance.now() }, true);
		const field = document.querySelector("[aria-label='Master script']");
		new MutationObserver(() => { if (!moved) return; const t = moved; moved = 0; window.work.push(performance.now() - t);
			requestAnimationFrame(() => { const m = new MessageChannel(); m.port1.onmessage = () => window.steps.push(performance.now() - t); m.port2.postMessage(0) }) }).observe(field, { subtree: true, attributes: true, attributeFilter: ["style"] }) }`)
	el := c.see(field, "Kicking")
	box := el.MustShape().Box()
	require.NoError(t, c.Mouse.MoveTo(proto.NewPoint(box.X+box.Width/2, box.Y+box.Height/2)))
	require.NoError(t, c.Mouse.Down(proto.InputMouseButtonLeft, 1))
	for i := range 80 { // a minute a step, there and back
		back := (i + 1) % 40
		require.NoError(t, c.Mouse.MoveTo(proto.NewPoint(box.X+box.Width/2+float64(9*min(back, 40-back)), box.Y+box.Height/2)))
		time.Sleep(20 * time.Millisecond)
	}
	require.NoError(t, c.Mouse.Up(proto.InputMouseButtonLeft, 1))
	times := func(of string) (list []float64) {
		for _, v := range c.MustEval(`(of) => window[of]`, of).Arr() {
			list = append(list, v.Num())
		}
		return list
	}
	work, steps := times("work"), times("steps")
	require.Greater(t, len(work), 30)
	t.Logf("a step of a drag, 14 groups and 40 periods: script and findings in the page after %.1f ms (p95 %.1f), in the next frame after %.1f ms (p95 %.1f); budget 16 ms p95", share(work, .5), share(work, .95), share(steps, .5), share(steps, .95))
}
