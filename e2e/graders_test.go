package e2e

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTwoGraders: a second coach grades blind, both see where they differ, one settles it by a key, and what is
// settled stands for the other too, over a reload and until it is opened again.
func TestTwoGraders(t *testing.T) {
	app := start(t)
	head, line := signIn(t, app, "M. Orrin"), signIn(t, app, "R. Kell")
	for _, c := range []*coach{head, line} {
		c.at("/g/ol/w/7/film")
		c.click("ul[aria-label=Games] a", "Saltmarsh Cross")
	}
	line.click("a", "Two graders")
	line.see("main", "R. Kell alone has graded this game")

	// Blind, nothing of the other's is there: the first play comes first. Whoever was marked clean on it is faulted.
	head.click("a", "Two graders")
	head.click("a", "Grade it blind")
	head.see("main", "You grade blind")
	head.see("[aria-label='The play']", "Play 1 ")
	assert.Zero(t, head.count("[role=gridcell]:not([aria-label$='not marked'])[aria-label*='Sato']"))
	clean := head.word(`SELECT p.jersey || ' ' || p.last_name FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN players p ON p.id = m.player_id
		WHERE m.on_date = '2026-10-10' AND y.number = 1 AND m.technique = 1 AND p.position IN ('LT', 'LG', 'C', 'RG', 'RT') LIMIT 1`)
	_, last, _ := strings.Cut(clean, " ")
	for _, key := range []input.Key{'1', '2', '3', '4', '5'} {
		head.press(key)
		if strings.Contains(head.text("[aria-label='Current play']"), clean) {
			break
		}
	}
	head.see("[aria-label='Current play']", clean)
	fault := head.text("[aria-label='Current play'] li .kbd")
	head.press(input.Key(fault[0]))
	head.press(input.Space)
	head.saved()

	// The other sees it come in.
	line.see("li", "Play 1, "+clean+"[\\s\\S]*differ on technique, what was wrong")
	line.see("[aria-label='How far they agree']", "Technique[\\s\\S]*All")
	settled := func(where string) int {
		return line.number(`SELECT count(*) FROM mark_slots m JOIN plays y ON y.id = m.play_id JOIN players p ON p.id = m.player_id
			WHERE m.grader = '00000000-0000-0000-0000-000000000000' AND m.on_date = '2026-10-10' AND y.number = 1 AND p.last_name = $1 AND `+where, last)
	}
	for line.count("li[aria-current]") == 1 && line.text("li[aria-current] b") != "Play 1, "+clean {
		line.press(input.ArrowDown)
	}
	assert.Contains(t, line.text("li[aria-current] [class*=grid]"), "M. ORRIN")
	line.press('2')
	line.see("li[aria-current]", "Settled: this stands for the club")
	line.saved()
	assert.Equal(t, 1, settled("m.stands AND m.technique = 0 AND m.state = 'looked'"))
	head.click("a", "Two graders")
	head.see("li", "Play 1, "+clean+"[\\s\\S]*Settled: this stands for the club")
	differ := line.count("main ol > li") // all of the play has come in by now
	line.MustReload()
	line.see("li", "Play 1, "+clean+"[\\s\\S]*Settled: this stands for the club")
	assert.Equal(t, differ, line.count("main ol > li"), "what both said is kept")

	// The other way by a press, then opened again: the later of the two stands once more.
	head.click("li:has([aria-pressed=true]) button[aria-pressed=false]", "Settle so")
	head.saved()
	assert.Equal(t, 1, settled("m.stands AND m.technique = 1"))
	line.see("li[aria-current], li", "R. Kell[\\s\\S]*Settled so")
	head.click("button[aria-pressed=true]", "Settled so")
	head.saved()
	assert.Zero(t, settled("m.stands"))

	newAuditor(t).everywhere(head, "two graders", "h2", "Where they differ")
	assert.Empty(t, line.MustElements("[role=alert]"))
}

// TestTwoGradersKeyToPicture measures the time from one coach's key to the other's score of the same game.
func TestTwoGradersKeyToPicture(t *testing.T) {
	app := start(t)
	a, b := signIn(t, app, "R. Kell"), signIn(t, app, "M. Orrin")
	for _, c := range []*coach{a, b} {
		c.film()
	}
	a.MustEval(`() => { window.keys = []; addEventListener("keydown", (e) => e.key === "p" && window.keys.push(Date.now()), true) }`)
	b.MustEval(`() => { window.seen = []; const is = () => document.querySelectorAll("[role=gridcell][aria-label*=praise]").length;
		let was = is(); const look = () => { const now = is(); if (now !== was) { was = now; window.seen.push(Date.now()) } requestAnimationFrame(look) }; look() }`)
	_, err := a.Activate()
	require.NoError(t, err)
	for i := range 20 {
		a.press('p')
		b.eventually("it arrives", func() bool { return b.MustEval(`() => window.seen.length`).Int() == i+1 })
	}
	took := between(a, b)
	t.Logf("from one coach's key to the other's score of the game: median %.0f ms, p95 %.0f ms (budget 300 ms p95)", share(took, .5), share(took, .95))
}
