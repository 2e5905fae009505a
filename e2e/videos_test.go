package e2e

import (
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/demo/footage"
)

// long is one of the demo's videos with so much of nothing behind it: a part that players pass over.
func long(t *testing.T, name string, size int) []byte {
	t.Helper()
	content, err := footage.Read(name)
	require.NoError(t, err)
	void := make([]byte, max(size-len(content), 64<<10))
	void[0] = 0xec
	binary.BigEndian.PutUint64(void[1:], 1<<56|uint64(len(void)-9))
	return append(content, void...)
}

// frames is how long the simulated camera ran.
func frames(t *testing.T, clip string) int {
	t.Helper()
	truth, err := footage.Read(clip + ".json")
	require.NoError(t, err)
	var shot struct{ Frames int }
	require.NoError(t, json.Unmarshal(truth, &shot))
	return shot.Frames
}

// TestAGameIsSentAndItsPlaysAreMarked: 200 MB over a line that breaks twice, because the server is killed, arrive
// whole; where the plays are is marked by keys, and they are graded from there.
func TestAGameIsSentAndItsPlaysAreMarked(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] li a", "Videos[\\s\\S]*Garrow Flats")
	c.see("main", "No video of this game yet")
	c.MustElement("input[type=file]").MustSetFiles(file(t, "notes.webm", []byte("no video at all")))
	c.see("[role=alert]", "notes.webm cannot be used: this browser cannot play it")

	content := long(t, "kick_line-side.webm", 200<<20)
	c.MustElement("input[type=file]").MustSetFiles(file(t, "Saturday, wide.webm", content))
	c.see("main", "960 × 540, 30 pictures a second")
	c.click("button", "Send it")
	arrived := func() int { return c.number(`SELECT coalesce(max(arrived), 0) FROM film_uploads`) }
	for _, far := range []int{20 << 20, 90 << 20} {
		c.eventually("some of it has arrived", func() bool { return arrived() > far })
		app.Kill()
		c.see("li[aria-label='Saturday, wide.webm']", "the line broke, it goes on by itself")
		require.NoError(t, app.Run(context.Background()))
	}
	assert.Less(t, arrived(), len(content), "it was broken off on the way")
	c.see("ul[aria-label=Videos] li", "Saturday, wide.webm[\\s\\S]*No play is marked in it yet")
	sum := fmt.Sprintf("%x", sha256.Sum256(content))
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM films WHERE digest = $1 AND size = $2`, sum, len(content)), "it arrived whole")
	if _, err := exec.LookPath("ffmpeg"); err == nil {
		c.within(2*time.Minute, "it is quick to step", func() bool {
			return c.count("[aria-label='How Saturday, wide.webm is coming on']") == 1 && strings.HasPrefix(c.text("[aria-label='How Saturday, wide.webm is coming on']"), "Quick to step")
		})
		assert.Equal(t, 1, c.number(`SELECT count(*) FROM films WHERE digest = $1 AND frames BETWEEN $2 AND $2 + 1 AND proxy_size < 10000000`, sum, frames(t, "kick_line")))
	}

	// In, snap and out by keys; the next play comes by itself.
	c.click("a", "Mark its plays")
	c.see("[aria-label='Its plays'] li[aria-current]", "^1\\s")
	c.see("[aria-label='Where it stands']", "frame 0$")
	for range 3 {
		c.shift(input.ArrowRight)
	}
	c.press('i')
	c.see("[aria-label='Where it stands']", "frame 90 · begins at 0:03.00")
	c.shift(input.ArrowRight)
	c.press('s')
	c.shift(input.ArrowRight)
	c.shift(input.ArrowRight)
	c.press('o')
	c.see("[aria-label='Its plays'] li", "^1\\s[\\s\\S]*0:03.00–0:06.00$")
	c.see("[aria-label='Its plays'] li[aria-current]", "^2\\s")
	c.shift(input.ArrowRight)
	c.press('s') // it begins a second before the snap
	c.press(input.PageDown)
	c.press('o')
	c.see("[aria-label='Its plays'] li", "^2\\s[\\s\\S]*0:06.00–0:17.00$")
	c.saved()
	clips := func(where string) int {
		return c.number(`SELECT count(*) FROM clips c JOIN films f ON f.id = c.film_id JOIN plays y ON y.id = c.play_id WHERE f.digest = '` + sum + `' AND ` + where)
	}
	assert.Equal(t, 1, clips("y.number = 1 AND (first_frame, snap_frame, last_frame) = (90, 120, 180)"))
	assert.Equal(t, 1, clips("y.number = 2 AND (first_frame, snap_frame, last_frame) = (180, 210, 510)"))

	// Changed where it stands, undone, taken out.
	c.press(input.ArrowUp, input.Enter)
	c.see("[aria-label='Where it stands']", "frame 210$")
	c.press(input.ArrowRight, 's')
	c.saved()
	assert.Equal(t, 1, clips("y.number = 2 AND snap_frame = 211"))
	c.press('z')
	c.saved()
	assert.Equal(t, 1, clips("y.number = 2 AND snap_frame = 210"))
	c.press(input.Delete)
	c.saved()
	assert.Equal(t, 1, clips("true"))
	newAuditor(t).everywhere(c, "plays in a video", "[aria-label='Its plays'] li", "^1\\s")

	// It is graded from there.
	c.click("a", "Grade")
	for c.text("[aria-label='The play'] b") != "Play 1" {
		require.NoError(t, c.KeyActions().Press(input.ShiftLeft).Type(input.Space).Do())
	}
	c.MustElement("[aria-label='The picture'] [aria-label=Frame]")
	assert.Equal(t, "90", *c.MustElement("[aria-label=Frame]").MustAttribute("min"))

	// Somebody else sees it, and may not take it out.
	other := signIn(t, app, "I. Vance")
	other.at(strings.TrimPrefix(c.MustInfo().URL, app.URL) + "/videos")
	other.see("ul[aria-label=Videos] li", "1 play marked in it")
	assert.NotContains(t, other.text("ul[aria-label=Videos]"), "Take it out")
}

// TestADrillIsSent: a video of a practice drill in the same room: sent from the drill, its reps marked by keys, seen
// where the drill is marked.
func TestADrillIsSent(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.tonight()
	c.openMarkSheet("Two steps and freeze")
	c.see("h1", "Two steps and freeze")
	c.click("main a", "^Videos$")
	c.see("main", "No video of this drill yet")
	c.MustElement("input[type=file]").MustSetFiles(file(t, "Tuesday, close.webm", long(t, "kick_line-side.webm", 2<<20)))
	c.see("main", "960 × 540, 30 pictures a second")
	c.click("button", "Send it")
	c.see("ul[aria-label=Videos] li", "Tuesday, close.webm[\\s\\S]*No rep is marked in it yet")
	c.click("a", "Mark its reps")
	c.see("[aria-label='Its reps'] li[aria-current]", "^52\\s[\\s\\S]*Ilvar, rep 1")
	c.see("[aria-label='Where it stands']", "frame 0$") // the picture is there to be stepped
	c.press('i')
	c.shift(input.ArrowRight)
	c.press('s')
	c.shift(input.ArrowRight)
	c.press('o')
	c.see("[aria-label='Its reps'] li", "^52\\s[\\s\\S]*rep 1[\\s\\S]*0:00.00–0:02.00$")
	c.see("[aria-label='Its reps'] li[aria-current]", "^58\\s")
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM clips c JOIN films f ON f.id = c.film_id AND f.name = 'Tuesday, close.webm' JOIN players p ON p.id = c.player_id WHERE c.placement_id = f.placement_id AND c.rep = 1 AND p.jersey = '52' AND c.snap_frame = 30`))
	newAuditor(t).in(c, "reps in a video", []view{views[0], views[3]}, func() { c.see("[aria-label='Its reps'] li", "^52") })
	c.click("a", "Mark it")
	c.see("h1", "Two steps and freeze")
	c.MustElement("[aria-label='The picture'] [aria-label=Frame]")
	c.click("nav a", "Film")
	c.see("section[aria-labelledby=drills-on-film] li", "Two steps and freeze[\\s\\S]*1 rep on film")
	assert.Empty(t, c.MustElements("[role=alert]"))
}

// TestATeamPeriodIsFilmed: the plays of a team period are written, cut and marked as those of a game, and what is
// marked counts as practice.
func TestATeamPeriodIsFilmed(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.tonight()
	c.click("[aria-label='Master script'] button", "^Team")
	c.click("a", "Plays and film")
	c.see("h1", "^Team, Tuesday practice$")
	assert.Zero(t, c.number(`SELECT count(*) FROM games WHERE period_id IS NOT NULL`), "looking makes nothing")
	c.click("a", "Write its plays")
	c.see("main", "No play is written down yet")
	c.press('n')
	c.see("section[aria-label='Play 1'] label", "Call")
	c.click("section[aria-label='Play 1'] label", "^Call$")
	c.typed("Zone left")
	require.NoError(t, c.KeyActions().Press(input.ControlLeft).Type(input.Enter).Do())
	c.see("section[aria-label='Play 2'] label", "Call")
	c.saved()
	c.click("a", "Videos")
	c.MustElement("input[type=file]").MustSetFiles(file(t, "Team, wide.webm", long(t, "kick_line-side.webm", 2<<20)))
	c.click("button", "Send it")
	c.click("a", "Mark its plays")
	c.see("[aria-label='Where it stands']", "frame 0$")
	c.press('i')
	c.shift(input.ArrowRight)
	c.press('o')
	c.saved()
	c.click("a", "Grade")
	c.see("[aria-label='The play']", "Play 1 [\\s\\S]*Zone left")
	c.MustElement("[aria-label='The picture'] [aria-label=Frame]")
	c.press('1')
	fault := c.text("[aria-label='Current play'] li .kbd")
	c.press(input.Key(fault[0]), input.Space)
	c.saved()
	assert.Equal(t, 1, c.number(`SELECT sum(faulty) FROM mark_days d JOIN seasons s ON s.club_id = d.club_id WHERE NOT d.game AND d.on_date = '2026-10-13'`))
	assert.Zero(t, c.number(`SELECT wrong_sums(id)::int FROM clubs`))
	assert.Zero(t, c.number(`SELECT count(*) FROM mark_days WHERE game AND on_date = '2026-10-13'`), "no game was played")
	c.click("nav a", "Film")
	c.see("section[aria-labelledby=periods-on-film] li", "Team, Tuesday practice[\\s\\S]*1 play on film")
	assert.NotContains(t, c.text("ul[aria-label=Games]"), "Tuesday")
	newAuditor(t).in(c, "the film room", []view{views[0], views[3]}, func() { c.see("h1", "Film") })
	c.click("nav a", "Today")
	c.see("h1", "Tue 13 Oct")
	assert.NotContains(t, c.text("section[aria-labelledby=to-grade]"), "Game against Team")

	// It moves with its practice.
	c.sql(`UPDATE practices SET on_date = '2026-10-14' WHERE id = (SELECT e.practice_id FROM games g JOIN periods e ON e.id = g.period_id)`)
	assert.Equal(t, 1, c.number(`SELECT sum(faulty) FROM mark_days WHERE NOT game AND on_date = '2026-10-14'`))
	assert.Zero(t, c.number(`SELECT wrong_sums(id)::int FROM clubs`))
}

// TestAVideoThatStays on the coach's machine: none of it is sent, its plays are marked all the same, and where the
// page was opened anew its file is asked for.
func TestAVideoThatStays(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.at("/g/ol/w/7/film")
	c.click("ul[aria-label=Games] li a", "Videos[\\s\\S]*Garrow Flats")
	path := file(t, "End zone.webm", long(t, "kick_line-side.webm", 2<<20))
	c.MustElement("input[type=file]").MustSetFiles(path)
	c.see("main", "960 × 540, 30 pictures a second")
	c.click("button", "Leave it on this machine")
	c.see("ul[aria-label=Videos] li", "End zone.webm[\\s\\S]*It stays on this machine")
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM film_uploads`))
	assert.NotContains(t, app.Log(), "/uploads/")
	c.click("a", "Mark its plays")
	c.see("[aria-label='Where it stands']", "frame 0$")
	c.press('i')
	c.shift(input.ArrowRight)
	c.press('o')
	c.see("[aria-label='Its plays'] li", "^1\\s[\\s\\S]*0:00.00–0:01.00")
	c.saved()

	c.MustReload()
	c.see("main", "stays on the machine of whoever has it")
	c.click("a", "Choose its file")
	c.MustElement("ul[aria-label=Videos] input[type=file]").MustSetFiles(file(t, "another.webm", long(t, "kick_line-side.webm", 1<<20)))
	c.see("[role=alert]", "another.webm is another file than End zone.webm")
	c.MustElement("ul[aria-label=Videos] input[type=file]").MustSetFiles(path)
	c.see("ul[aria-label=Videos] li", "It stays on this machine")
	newAuditor(t).everywhere(c, "videos", "ul[aria-label=Videos] li", "End zone.webm")
	c.click("a", "Mark its plays")
	c.see("[aria-label='Where it stands']", "frame 30$")
	assert.Zero(t, c.count("[aria-label='The picture'] [role=alert]"))
	c.click("a", "Videos")
	c.click("button", "Take it out")
	c.see("[role=alertdialog]", "Where its play is goes with it, and what is drawn on it. Marks stay. The file itself is left")
	c.click("[role=alertdialog] button", "Take it out")
	c.see("main", "No video of this game yet")
	c.saved()
	assert.Zero(t, c.number(`SELECT count(*) FROM films WHERE local`))
}
