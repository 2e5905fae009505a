package e2e

import (
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// fill replaces what stands in a field: the pointer goes into it, the keys to the page.
func (c *coach) fill(selector, text string) {
	c.t.Helper()
	el, err := c.Page.Timeout(20 * time.Second).Element(selector)
	require.NoError(c.t, err, selector)
	require.NoError(c.t, el.Click(proto.InputMouseButtonLeft, 1), selector)
	c.replace(text)
}

// find looks something up from anywhere by one key and opens the first hit.
func (c *coach) find(words, first string) {
	c.t.Helper()
	c.press('/')
	c.see("[role=dialog]", "Find")
	c.typed(words)
	c.see("#found li:first-child", first)
	c.press(input.Enter)
}

// TestAStaffMakesTheLibraryItsOwn changes the shipped library to house terms, as a new
// staff would in its first evening.
func TestAStaffMakesTheLibraryItsOwn(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")

	// Anything is found by one key, under any of its names, mistyped or not.
	c.find("man-on blok", "Base block")
	c.see("h1", "Base block")
	c.see("main", "7 in, OK 5–10, watch 3–13, never over 16")
	c.see("[aria-label='The rep'] a", "First step too long")
	pdf, err := harness.PDF(c.Page)
	require.NoError(t, err)
	assert.Equal(t, 1, harness.Pages(pdf), "the card is one page")

	// The house calls it something else, and loses nothing.
	c.click("a", "Edit")
	c.see("label", "Also called")
	c.fill("#f-name", "Drive the man")
	c.press(input.Enter)
	c.see("h2", "Changed by the house")
	c.see("[aria-label=Versions] li", "by R. Kell: Changed technique: Drive the man")
	c.saved()
	c.find("base block", "Drive the man")
	c.see("h1", "Drive the man")

	// A number that cannot be names its field, and what was typed stays.
	c.at("/g/ol/w/7/teaching/edit/drill/pull_bag")
	c.see("h1", "Pull and kick the bag")
	c.fill("#f-cautions", "")
	c.click("button", "Save as a version")
	c.see("[role=alert]", "Cautions is missing")
	assert.Equal(t, "true", *c.MustElement("#f-cautions").MustAttribute("aria-invalid"))
	c.fill("#f-cautions", "Head up, always.")
	c.click("button", "Save as a version")
	c.see("h2", "Changed by the house")

	// The stages of a ladder are put in order by keys, and by the hand.
	c.at("/g/ol/w/7/teaching/edit/ladder/kick_ladder")
	c.see("[aria-label=Stages]", "of the last")
	first := func() string { return c.MustElement("[aria-label='Name of stage 1']").MustProperty("value").Str() }
	require.Equal(t, "Kick on the line", first())
	c.fill("[aria-label='Clean reps of stage 1']", "6")
	for range 8 { // back to the stage's drill by the keyboard
		if here, err := c.Eval(`() => document.activeElement.getAttribute("aria-label")`); err == nil && here.Value.Str() == "Name of stage 1" {
			break
		}
		require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type(input.Tab).Release(input.ShiftLeft).Do())
	}
	require.NoError(t, c.KeyActions().Press(input.AltLeft).Type(input.ArrowDown).Do())
	c.eventually("the first stage is second", func() bool { return first() == "Medium, then full, without the line" })
	c.eventually("the keyboard went along with it", func() bool {
		return c.MustEval(`() => document.activeElement.value ?? ""`).Str() == "Kick on the line"
	})
	c.drag("[aria-label=Stages] li:nth-child(2) button", "[aria-label=Stages] li:nth-child(1)")
	c.eventually("dragged back", func() bool { return first() == "Kick on the line" })
	c.fill("[aria-label='Clean reps of stage 1']", "9")
	c.click("button", "Save as a version")
	c.see("[role=alert]", "stage 1, clean must be between 1 and 6, got 9")
	c.fill("[aria-label='Clean reps of stage 1']", "6")
	c.click("button", "Save as a version")
	c.see("h2", "Changed by the house")

	// Everything that was changed is in one place, and can be taken back.
	c.click("a", "House standards")
	c.see("h2", "3 entries changed")
	c.click("[aria-label^='Versions, newest'] li:nth-child(2) button", "back to it")
	c.click("button", "Go back to 3")
	c.see("h2", "2 entries changed")
	c.see("[aria-label^='Versions, newest'] li", "Back to version 3")
}

// drag moves the pointer from one element to another as a hand would.
func (c *coach) drag(from, to string) {
	c.t.Helper()
	at := func(selector string) proto.Point {
		el, err := c.Page.Element(selector)
		require.NoError(c.t, err, selector)
		require.NoError(c.t, el.ScrollIntoView())
		shape, err := el.Shape()
		require.NoError(c.t, err)
		return *shape.OnePointInside()
	}
	start, end := at(from), at(to)
	require.NoError(c.t, c.Mouse.MoveTo(start))
	require.NoError(c.t, c.Mouse.Down(proto.InputMouseButtonLeft, 1))
	require.NoError(c.t, c.Mouse.MoveLinear(end, 12))
	require.NoError(c.t, c.Mouse.Up(proto.InputMouseButtonLeft, 1))
}

// TestTwoSchoolsAndTwoCoaches: a staff picks a school, and two coaches change one entry.
func TestTwoSchoolsAndTwoCoaches(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "I. Vance")
	c.at("/g/db/w/7/teaching/schools")
	q := "#leverage_footwork "
	c.see(q, "Drill: Weave mirror")
	c.there(q+"input[type=radio]:enabled", "") // it is known who may change it
	c.click(q+"label", "Two short steps and back to the pedal")
	c.fill("#why-leverage_footwork", "Our corners turn their shoulders.")
	c.click(q+"button", "Teach it so")
	c.see(q, "Our corners turn their shoulders|taught here")
	c.saved()
	c.at("/g/db/w/7/teaching?technique=leverage")
	c.see("[aria-label='The rep']", "Two short steps, then straight back")
	c.see("main a", "Two and back")

	// What others are taught too has drills of this group's own at a stage, and theirs stay.
	c.at("/g/db/w/7/teaching?technique=tackle")
	c.see("[aria-labelledby=ladder] li:nth-child(6)", "Against the look[^]*Run cards")
	c.at("/g/db/w/7/teaching/edit/ladder/tackle_ladder")
	c.see("[aria-label=Stages]", "Secondary instead:")
	c.click("[aria-label=Stages] li:nth-child(6) button", "Run cards")
	c.click("[aria-label=Stages] button", "Add a drill to stage 6 for Secondary")
	c.typed("tackle cards")
	c.press(input.Enter)
	c.see("[aria-label=Stages] li:nth-child(6) button", "Tackle cards")
	c.click("button", "Save as a version")
	c.see("h2", "Changed by the house")
	c.at("/g/db/w/7/teaching?technique=tackle")
	c.see("[aria-labelledby=ladder] li:nth-child(6)", "Against the look[^]*Tackle cards")
	c.at("/g/lb/w/7/teaching?technique=tackle")
	c.see("[aria-labelledby=ladder] li:nth-child(6)", "Against the look[^]*Play cards for backers")

	c.at("/g/db/w/7/teaching/edit/fault/pd_rounds")
	c.see("h1", "Rounds the break")
	head := signIn(t, app, "M. Orrin")
	head.at("/g/db/w/7/teaching/edit/fault/pd_rounds")
	head.see("h1", "Rounds the break")
	head.fill("#f-effect", "The ball is there before he is.")
	c.fill("#f-name", "Banana break")
	c.click("button", "Save as a version")
	c.see("h2", "Changed by the house")
	head.click("button", "Save as a version")
	head.see("[role=alertdialog]", "I. Vance changed this entry while you did")
	head.see("[role=alertdialog] label", "Banana break")
	head.click("button", "Take theirs")
	head.see("h1", "Banana break")
	head.fill("#f-effect", "The ball is there before he is.")
	head.click("button", "Save as a version")
	head.see("[aria-label=Versions] li", "M. Orrin")
}

// TestTheGroupClimbs: the board, a coach's word, a player's own range, and the next practice.
func TestTheGroupClimbs(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/teaching/ladders?ladder=base_ladder")
	c.see("h2", "The group is at stage")
	c.see("[aria-label='All ladders'] td", "out") // the player on head-injury hold
	c.click("[aria-label='Who stands where'] button", "58 Oduya")
	c.see("[role=dialog]", "his gate is")
	c.fill("[role=dialog] input[name=reason]", "Two seasons of it at his last club.")
	c.click("[role=dialog] button", "Let him pass")
	c.see("[aria-label='Who stands where']", "passed on a coach's word")
	c.click("[aria-label='Who stands where'] button", "58 Oduya")
	c.see("[role=dialog]", "R. Kell's word.*Two seasons of it")
	c.press(input.Escape)
	c.press('m')
	c.see("[aria-label='What the group needs'] [role=status]", "takes the place of Two steps and freeze")
	// Taken back it stands as it stood, and can be done again.
	c.click("[aria-label='What the group needs'] [role=status] button", "Undo")
	c.saved()
	c.see("[aria-label='What the group needs']", "Two steps and freeze, stage \\d, is planned")
	c.press('m')
	c.see("[aria-label='What the group needs'] [role=status]", "takes the place of Two steps and freeze")
	c.click("[aria-label='What the group needs'] [role=status] a", "See it")
	c.see("h1", "Tuesday practice")
	c.see("h2 ~ span", "of 20 min")
	c.eventually("the drill has made room", func() bool { return c.count("li[aria-label='Two steps and freeze'] a[href*='/mark/']") == 0 })

	// The drill has its drawing, its reps for today's players, and a rotation with sides.
	c.click("a", "set-up")
	c.see("figcaption", "works")
	c.see("table[aria-label=Rotation]", "52 Ilvar")
	before := c.text("[aria-labelledby=today] p b")
	c.click("button[aria-label='More minutes']", `\+`)
	c.eventually("more minutes, other reps", func() bool { return c.text("[aria-labelledby=today] p b") != before })
	pdf, err := harness.PDF(c.Page)
	require.NoError(t, err)
	assert.LessOrEqual(t, harness.Pages(pdf), 2)

	// A longer player has his own range, and is judged by it.
	c.click("nav a", "Players")
	c.click("th a", "73 Veil")
	c.see("li[aria-label^='Short first step']", "7 in, OK 5–10")
	c.click("li[aria-label^='Short first step'] button", "his own")
	c.fill("[role=dialog] [name=ok_high]", "20")
	c.fill("[role=dialog] [name=reason]", "Longest legs of the line")
	c.click("[role=dialog] button", "Judge him by this")
	c.see("[role=dialog] [role=alert]", "must hold the OK range|hard limit")
	c.fill("[role=dialog] [name=ok_high]", "12")
	c.click("[role=dialog] button", "Judge him by this")
	c.see("li[aria-label^='Short first step']", "His own, R. Kell.*Longest legs")

	// And measured on the field: twelve inches are right for him.
	c.click("nav a", "Practice")
	c.click("a", "Tuesday practice")
	c.see("h1", "Tuesday practice")
	c.press('d')
	c.typed("two steps")
	c.press(input.Enter, input.Escape)
	c.saved()
	c.openMarkSheet("Two steps and freeze")
	c.see("[aria-label='Current rep'] span", "left")
	row := "6"
	c.press(input.Key(row[0]), 'm')
	c.see("[aria-label=Measuring]", "Short first step|Outside foot")
	c.eventually("the first step is asked", func() bool {
		if c.MustElement("[aria-label=Measuring] .name").MustText() == "Short first step that covers the play-side edge" {
			return true
		}
		c.press(input.ArrowDown)
		return false
	})
	c.see("[aria-label=Measuring]", "his own range")
	c.press('1', '2', input.Enter)
	c.see("[aria-label='What stands in it']", "measured 12")
	c.saved()
	c.press(input.Space)
	c.see("[aria-label='Current rep'] span", "right")
	c.saved()
}

// TestLibraryFiles: a file with a mistake changes nothing and names its line; a good one
// is seen first and taken in whole.
func TestLibraryFiles(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/teaching/house")
	c.see("h2", "Nothing changed yet")
	bad := "ladders:\n  - key: kick_ladder\n    name: Kick, our way\n    technique: kick_slide\n    stages:\n      - {key: line, kind: fit, name: Line, drills: [no_such], window: 4, clean: 3}\n"
	choose := func(name, text string) {
		c.MustElement("[aria-labelledby=take-in] input[type=file]").MustSetFiles(file(t, name, []byte(text)))
	}
	choose("bad.yaml", "ladders: [")
	c.see("[aria-labelledby=take-in] [role=alert]", "line 1|yaml")
	choose("bad2.yaml", bad)
	c.see("[aria-labelledby=take-in] [role=status]", "0 new, 1 changed, 0 the same")
	c.click("button", "Take in 1 entry")
	c.see("[aria-labelledby=take-in] [role=alert]", `line 2: ladder kick_ladder: stages\[0\].drills: "no_such" is not a drill`)
	choose("good.yaml", "ladders:\n  - key: kick_ladder\n    name: Kick, our way\n    technique: kick_slide\n    stages:\n      - {key: line, kind: fit, name: Line, drills: [kick_line], window: 4, clean: 3, max_sessions: 9}\n")
	c.see("[aria-labelledby=take-in] [role=status]", "1 changed")
	c.click("button", "Take in 1 entry")
	c.see("[aria-labelledby=take-in] [role=status]", "one version")
	c.see("h2", "1 entry changed")
	c.see("h2", "1 gap") // the ladder no longer ends in the game, and it is told
}
