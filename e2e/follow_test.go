package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAnotherBrowserKeyToPaint prints how long it takes from a key in one browser until another shows
// the script as it then is.
func TestAnotherBrowserKeyToPaint(t *testing.T) {
	app := start(t)
	a, b := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	a.master("8", "Tuesday")
	b.master("8", "Tuesday")
	a.click(field, "Inside run")
	b.see(field, "Inside run")
	// What is measured is looked at, never set.
	a.MustEval(`() => { window.pressed = []; addEventListener("keydown", () => window.pressed.push(Date.now()), true) }`)
	b.MustEval(`() => { window.seen = []; const at = () => [...document.querySelectorAll("[aria-label='Master script'] button")].find((e) => e.textContent.includes("Inside run")).closest("[style]").style.left;
		let was = at(); new MutationObserver(() => { const now = at(); if (now !== was) { was = now; window.seen.push(Date.now()) } }).observe(document.querySelector("[aria-label='Master script']"), { subtree: true, attributes: true, childList: true }) }`)
	const moves = 24
	for i := range moves {
		a.press(map[bool]input.Key{true: input.ArrowRight, false: input.ArrowLeft}[i%2 == 0])
		a.eventually("the other sees it", func() bool { return b.MustEval(`() => window.seen.length`).Int() == i+1 })
	}
	var took []float64
	pressed, seen := a.MustEval(`() => window.pressed`).Arr(), b.MustEval(`() => window.seen`).Arr()
	require.Len(t, seen, moves)
	for i := range moves {
		took = append(took, seen[i].Num()-pressed[len(pressed)-moves+i].Num())
	}
	t.Logf("from a key in one browser until another shows the script: %.0f ms (p95 %.0f); budget 300 ms p95", share(took, .5), share(took, .95))
}

// TestAScriptIsTypedTwelve prints how many keys, and how many seconds of the machine's part, a script of
// two hours for eight groups takes from nothing.
func TestAScriptIsTypedTwelve(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	newSeason(t, app)
	c.MustNavigate(app.URL + "/g/ol/w/2/season")
	c.see("h1", "Season")
	keys := 0
	press := func(text string) {
		c.typed(text)
		keys += len(text)
	}
	c.click(days, "Mon 12 Oct: nothing")
	press("n")
	c.see("[aria-label='The chosen day'] label", "Minutes")
	c.saved()
	c.click("[aria-label='The chosen day'] label", "Minutes")
	c.replace("120")
	keys += 4
	c.press(input.Enter)
	c.saved()
	c.click("[aria-label='The chosen day'] a", "Script")
	c.see("h1", "Script of Practice")
	press("t")
	c.see("[role=dialog] [role=status]", "all of it can be read")
	text := strings.Join([]string{"10 warm-up all", "20 individual OL", "& individual TE", "& individual RB", "& individual QB", "& individual WR", "& individual DL", "& individual LB", "& individual DB", "4 water all",
		"14 \"Inside run\" OL,TE,RB,QB,DL,LB thud", "& \"One on one\" WR,DB control", "12 kicking all", "4 water all", "20 team all thud", "10 \"Two-minute\" all control", "4 water all", "16 team \"Third downs\" all control", "6 walk-through all"}, "\n")
	began := time.Now()
	c.replace(text)
	keys += len(text) + 1
	c.see("[role=dialog] [role=status]", "19 periods, all of it can be read")
	read := time.Since(began)
	began = time.Now()
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
	keys++
	c.see(field, "Two-minute")
	c.saved()
	took := time.Since(began)
	assert.Equal(t, 19, c.number(`SELECT count(*)::int FROM periods e JOIN practices p ON p.id = e.practice_id JOIN seasons s ON s.id = p.season_id WHERE s.name = 'New'`))
	t.Logf("two hours for eight groups from nothing: %d keys and 4 presses; every key read and checked, %.1f ms each; all 19 periods saved %.2f s after the last", keys, 1000*read.Seconds()/float64(len(text)), took.Seconds())
}
