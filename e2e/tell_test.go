package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAPlayerIsTold: his sheet is proposed from the marks, written on in seconds, follows a mark that is corrected as long
// as nobody wrote on it, prints on one page; one wrong beside one right runs in step.
func TestAPlayerIsTold(t *testing.T) {
	c := signIn(t, start(t), "R. Kell")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] li a", "Sheets[\\s\\S]*Saltmarsh Cross")
	c.see("ul[aria-label=Sheets] li", "\\d+ \\w+[\\s\\S]*as proposed[\\s\\S]*Best \\w[\\s\\S]*To fix \\w")
	who, wrong, first := c.filmedFault()
	fix := "section[aria-label='" + wrong + "']"
	_, wrong, _ = strings.Cut(wrong, ": ")
	c.see(fix, "\\d+ of \\d+[\\s\\S]*Drill \\w[\\s\\S]*Stage")
	c.see("[aria-label='What is seen']", "^Play \\d+")
	best := c.MustElement("section[aria-label^='Done best: ']").MustAttribute("aria-label")
	c.click(fix+" button", "^"+first+"$")
	c.see("[aria-label='What is seen']", "^"+first+"[\\s\\S]*"+wrong)
	frame := func() string {
		return *c.MustElement("[aria-label='The picture'] canvas[data-frame]").MustAttribute("data-frame")
	}
	before := frame()
	c.press(input.ArrowRight)
	c.eventually("the picture's keys work", func() bool { return frame() != before })

	// Wrong beside right, in step at the snap.
	c.click(fix+" button", "beside")
	c.eventually("both are seen", func() bool { return c.count("[aria-label='The picture'] canvas[data-frame]") == 2 })
	c.press(input.Home)
	c.eventually("at their snaps", func() bool {
		frames := c.MustElements("[aria-label='The picture'] canvas[data-frame]")
		return len(frames) == 2 && *frames[0].MustAttribute("data-frame") == *frames[1].MustAttribute("data-frame")
	})

	// Written on: kept over a reload, and taken back.
	c.MustElement("section[aria-label='" + *best + "'] textarea").MustClick()
	c.typed("Weight stayed inside all day.")
	c.MustElement(fix + " button[aria-label='Leave " + first + " out']").MustClick()
	c.saved()
	c.MustReload()
	c.see("p.label", "written on by R. Kell")
	assert.Equal(t, "Weight stayed inside all day.", c.MustElement("section[aria-label='"+*best+"'] textarea").MustProperty("value").Str())
	assert.NotContains(t, c.text(fix), first+"\n")
	c.onPaper("a player's sheet", who, "Weight stayed inside all day.", wrong)
	newAuditor(t).everywhere(c, "a player's sheet", "h1", who)
	c.click("button", "As proposed")
	c.see("p.label", "as proposed from the marks")
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM feedbacks`))
	c.see(fix, first)
}

// TestAGroupMeets: over the plays its sheets ask for, in the order and with the words the coach gives them; it fills
// the screen by one key, and goes on where it was left, on another machine too.
func TestAGroupMeets(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] li a", "Sheets[\\s\\S]*Saltmarsh Cross")
	c.click("a", "The meeting")
	list := "[aria-label='The plays, in order'] li"
	now := func() string { return c.text(list + "[aria-current] b") }
	c.see("p.label", "as the sheets ask")
	first := now()
	second := c.MustElements(list)[1].MustElement("b").MustText()
	c.press(']') // it comes later
	c.eventually("the second comes first", func() bool { return c.MustElement(list+" b").MustText() == second && now() == first })
	c.MustElement("[aria-label*='in the meeting'] input").MustClick()
	c.replace("Look at his feet.")
	c.press(input.Enter)
	c.saved()
	c.see("p.label", "as it was ordered")
	c.see("[aria-label='What is looked at']", "2 of \\d+: play "+first+"[\\s\\S]*Look at his feet.")
	c.see("[aria-labelledby=who-sees]", "64 Sato: ")

	// The room.
	c.MustElement("h1").MustClick()
	c.shift('f')
	c.eventually("it fills the screen", func() bool { return c.count(":fullscreen [aria-label='What is looked at']") == 1 })
	c.press(input.Space)
	c.see(":fullscreen [aria-label='What is looked at']", "^3 of ")
	third := c.text(":fullscreen [aria-label='What is looked at'] b")
	c.press(input.ArrowRight)
	c.shift('f')
	c.eventually("the page is there again", func() bool { return c.count(":fullscreen") == 0 })
	for c.count("[aria-label='The picture'] canvas") == 0 { // to one that is on film: where one is is kept there
		c.press(input.Space)
		third = c.text("[aria-label='What is looked at'] b")
	}
	c.press(input.ArrowRight, input.ArrowRight)
	c.eventually("the place is told", func() bool { return c.number(`SELECT count(*) FROM watchings`) == 1 })
	other := signIn(t, app, "R. Kell")
	other.at("/g/ol/w/7/film")
	other.click("ul[aria-label=Games] li a", "Sheets[\\s\\S]*Saltmarsh Cross")
	other.click("a", "The meeting")
	other.see("[aria-label='What is looked at'] b", "^"+third)
	c.onPaper("the meeting", "Look at his feet.")
	newAuditor(t).everywhere(c, "the meeting", "h2", "Who has to see what")
}

// TestAGameOutAndIn: as files, and back: a list of marks is seen line by line before anything is changed, and the
// bundle is taken whole.
func TestAGameOutAndIn(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	c.click("nav[aria-label='Of this game'] a", "Files")
	c.see("ul[aria-label=Files] li", "Grades, offensive line")
	fetch := func(path string) string {
		return c.MustEval(`async (path) => (await fetch(path)).text()`, path).String()
	}
	marks := c.MustElement("ul[aria-label=Files] a[href*='marks-list'][href$=csv]").MustAttribute("href")
	list := strings.Replace(fetch(*marks), "assumed", "unseen", 1)
	c.MustElement("ul[aria-label=Files] li:nth-child(2) input[type=file]").MustSetFiles(file(t, "marks.csv", []byte(list+"999,64,Sato,Base block\n")))
	c.see("[role=dialog]", "1 [\\s\\S]*the game has no play 999")
	c.click("[role=dialog] button", "[Tt]ake|[Ss]ave|[Pp]ut")
	c.saved()
	assert.Equal(t, strings.Count(list, ",unseen,"), strings.Count(fetch(*marks), ",unseen,"))

	href := *c.MustElement("ul[aria-label=Files] a[href$=bundle]").MustAttribute("href")
	bundle := fetch(href)
	c.MustElement("ul[aria-label=Files] li:nth-child(4) input[type=file]").MustSetFiles(file(t, "film.json", []byte(strings.Replace(bundle, `"form"`, `"from"`, 1))))
	c.see("[role=alert]", "Nothing was taken")
	c.MustElement("ul[aria-label=Files] li:nth-child(4) input[type=file]").MustSetFiles(file(t, "film.json", []byte(bundle)))
	c.see("[aria-label='What was taken']", "Taken: 0 plays, 0 marks[\\s\\S]*were there already")
	assert.Equal(t, bundle, fetch(href))
	newAuditor(t).everywhere(c, "files", "ul[aria-label=Files] li", "Everything as one file")
}

// filmedFault opens the first sheet with a fault whose play is on film, and says whose it is, which of his it is, and the play.
func (c *coach) filmedFault() (who, fix, play string) {
	c.t.Helper()
	sheets := c.MustInfo().URL
	for i := range c.count("ul[aria-label=Sheets] li") {
		c.click(fmt.Sprintf("ul[aria-label=Sheets] li:nth-child(%d) a", i+1), "")
		c.see("section[aria-label^='To fix'] button[aria-pressed]", "Play")
		for _, section := range c.MustElements("section[aria-label^='To fix']") {
			for _, button := range section.MustElements("button[aria-pressed]") {
				if said := strings.TrimSpace(button.MustText()); !strings.Contains(said, "not on film") && !strings.Contains(said, "beside") {
					return c.text("h1"), *section.MustAttribute("aria-label"), said
				}
			}
		}
		c.MustNavigate(sheets)
	}
	require.Fail(c.t, "no fault is on film")
	return "", "", ""
}
