package e2e

import (
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// hand does a job by one means alone: the keyboard, the pointer, or a thumb on a phone.
type hand struct {
	*coach
	means string
	acts  int // keys pressed, or places pressed
}

// here says where the keyboard is: the words of what has it.
func (h *hand) here() string {
	h.t.Helper()
	at, err := h.Eval(`() => { const e = document.activeElement; return !e || e === document.body ? "" :
		[e.getAttribute("aria-label"), e.innerText || e.textContent, e.labels && [...e.labels].map((l) => l.innerText).join(" "), e.getAttribute("placeholder")].filter(Boolean).join(" ") || e.tagName }`)
	require.NoError(h.t, err)
	return at.Value.Str()
}

// key presses a key of a job done by the keyboard.
func (h *hand) key(k input.Key) {
	h.t.Helper()
	h.acts++
	h.press(k)
}

// to brings the keyboard to what has these words, by Tab alone.
func (h *hand) to(words string) {
	h.t.Helper()
	want := regexp.MustCompile("(?i)" + words)
	for range 120 {
		if want.MatchString(strings.Join(strings.Fields(h.here()), " ")) {
			return
		}
		h.key(input.Tab)
	}
	h.t.Fatalf("%s: %q cannot be come to; the keyboard is at %q", h.means, words, h.here())
}

// do presses what has these words.
func (h *hand) do(selector, words string) {
	h.t.Helper()
	switch h.means {
	case "keyboard":
		h.see(selector, words)
		h.to(words)
		h.key(input.Enter)
	case "pointer":
		h.acts++
		h.click(selector, words)
	case "touch":
		h.acts++
		for range 12 {
			el := h.see(selector, words)
			if err := el.Timeout(2 * time.Second).Tap(); err == nil {
				return
			}
			_ = h.Mouse.Scroll(0, 160, 1)
			time.Sleep(100 * time.Millisecond)
		}
		h.t.Fatalf("touch: %q cannot be touched", words)
	}
}

// field goes into the field of these words and writes.
func (h *hand) field(selector, words, text string) {
	h.t.Helper()
	if h.means == "keyboard" {
		h.to(words)
	} else {
		h.acts++
		el, err := h.Page.Timeout(10 * time.Second).Element(selector)
		require.NoError(h.t, err, selector)
		if h.means == "touch" {
			err = el.Tap()
		} else {
			err = el.Click("left", 1)
		}
		require.NoError(h.t, err, selector)
	}
	h.acts += len(text)
	h.replace(text)
}

// at says that the keyboard is somewhere, after what was done: it is never lost.
func (h *hand) kept(after string) {
	h.t.Helper()
	if h.means != "keyboard" {
		return
	}
	h.eventually("the keyboard is somewhere after "+after, func() bool { return h.here() != "" })
}

// jobs are those of the README, each by the same steps whatever does them.
var jobs = []struct {
	name string
	do   func(h *hand)
}{
	{"plan the rest of a period", func(h *hand) {
		h.do("nav a", "Practice")
		h.see("h1", "Practices of week")
		h.kept("a change of screen")
		h.do("a", "Tuesday practice")
		h.see("h1", "Tuesday practice")
		h.kept("a change of screen")
		h.do("button", "Add a drill")
		h.field("[aria-label='Find a drill']", "Find a drill", "pull and kick")
		h.do("[aria-label='Drills of the group'] button", `^Add(.|\n)*Pull and kick the bag`)
		h.see("li", "Pull and kick the bag")
		h.do("button", "More minutes: Pull and kick the bag")
		h.do("button", "Fewer lanes: Pull and kick the bag")
		h.see("[role=note]", "lane")
		h.do("button", "^Undo")
		h.saved()
		h.kept("undo")
	}},
	{"take a drill out and put it back", func(h *hand) {
		h.do("[aria-label='Kick on the line'] button", `out(.|\n)*take Kick on the line`)
		h.eventually("it is out", func() bool { return h.count("li[aria-label='Kick on the line']") == 0 })
		h.kept("a drill that is gone")
		h.do("button", "^Undo")
		h.see("li", "Kick on the line")
		h.saved()
	}},
	{"mark a rep with a fault and a note", func(h *hand) {
		h.do("li[aria-label='Two steps and freeze'] a", `^mark(.|\n)*Two steps`)
		h.see("h1", "Two steps and freeze")
		h.do("[aria-label='Current rep'] button", "First step too long")
		h.see("[aria-label='What stands in it']", "First step too long")
		h.do("[aria-label='This rep'] button", "^Note")
		h.field("[aria-label=Note]", "^Note", "late")
		h.do("button", "Keep the note")
		h.see("[aria-label='What stands in it']", "late")
		h.do("[aria-label='This rep'] button", "^Next rep")
		h.eventually("the rest is clean", func() bool { return h.cells("assumed clean") == 8 })
		h.saved()
		h.do("main button", "^Done")
		h.see("h1", "Tuesday practice")
		h.kept("a change of screen")
	}},
	{"see the reps behind a number", func(h *hand) {
		h.do("nav a", "Players")
		h.do("th a", "52 Ilvar")
		h.see("h1", "Osei Ilvar")
		h.do("[aria-label='Techniques by week'] button", `% · `)
		h.see("#evidence", "Behind the number")
		h.kept("the reps")
		h.do("section button", "^Close$")
		h.eventually("they are gone", func() bool { return h.count("#evidence") == 0 })
		h.kept("closing")
	}},
	{"call a thing by the house's word", func(h *hand) {
		h.do("nav a", "Teaching")
		h.see("h1", "Base block")
		h.do("main a", "^Edit$")
		h.see("label", "Also called")
		h.field("#f-name", "^Name", "Drive block")
		h.do("button", "Save as a version")
		h.see("h2", "Changed by the house")
		h.saved()
		h.kept("saving")
	}},
	{"add a player and say that he is out", func(h *hand) {
		h.do("nav a", "Roster")
		h.see("h1", "Roster")
		h.do("button", "^Add a player")
		h.see("form", "First name")
		h.field("form input", "^No\\.", "68")
		h.field("form > div:nth-of-type(3) input", "^Last name", "Ek")
		h.do("form button", "^Add$")
		h.see("tbody th", "Ek")
		h.saved()
		h.kept("saving")
		h.do("tr:has([aria-label$=' Ek']) button", `available(.|\n)*68`)
		h.see("[role=dialog]", "Availability of")
		h.field("[role=dialog] input[maxlength='200']", "^Why", "exam")
		h.do("[role=dialog] button", "^Record$")
		h.see("[role=dialog] li", "exam")
		h.do("[role=dialog] button", "^Close")
		h.see("tr:has([aria-label$=' Ek'])", "limited")
		h.kept("closing a window")
		h.saved()
	}},
}

// TestTheJobBook does every job by the keyboard alone, by the pointer alone and by touch
// on a phone, and prints what each takes.
func TestTheJobBook(t *testing.T) {
	for _, means := range []string{"keyboard", "pointer", "touch"} {
		t.Run(means, func(t *testing.T) {
			app := start(t)
			h := &hand{coach: signIn(t, app, "R. Kell"), means: means}
			h.Page = h.Page.CancelTimeout()
			if means == "touch" {
				h.look(view{390, 844, 1, false})
			}
			for _, j := range jobs {
				h.acts = 0
				began := time.Now()
				j.do(h)
				t.Logf("%-42s by %-8s %3d presses, %4.1f s", j.name, means, h.acts, time.Since(began).Seconds())
			}
		})
	}
}
