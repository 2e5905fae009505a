// Package e2e drives the real binary, with a real PostgreSQL, through the coach's whole
// job in a real Chromium.
package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

var (
	cluster *harness.Cluster
	browser *rod.Browser
)

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	if _, err := os.Stat(filepath.Join(harness.Root(), "web", "dist", "index.html")); err != nil {
		fmt.Fprintln(os.Stderr, "the front end is not built: run 'make test', or 'make web' before 'go test'")
		return 1
	}
	dir, err := os.MkdirTemp("", "nineyard-e2e-bin-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer func() { _ = os.RemoveAll(dir) }()
	binary, err := harness.Build(dir)
	if err == nil {
		cluster, err = harness.NewCluster(context.Background(), binary)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer cluster.Stop()
	b, stop, err := harness.Browser()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer stop()
	browser = b
	return m.Run()
}

// coach is one coach at his own laptop.
type coach struct {
	*rod.Page
	t   *testing.T
	app *harness.App
}

// start runs a fresh demo. Each test has its own server, database and coaches, so that as many
// run side by side as the machine has cores: most of a test is waiting.
func start(t *testing.T) *harness.App {
	t.Helper()
	t.Parallel()
	app, err := cluster.Start(context.Background())
	require.NoError(t, err)
	t.Cleanup(func() {
		if t.Failed() {
			t.Log(tail(app.Log(), 30))
		}
		app.Stop()
	})
	return app
}

func tail(s string, lines int) string {
	all := strings.Split(strings.TrimSpace(s), "\n")
	return strings.Join(all[max(0, len(all)-lines):], "\n")
}

// signIn opens a browser of its own and comes in as a member of the demo's staff.
func signIn(t *testing.T, app *harness.App, name string) *coach {
	t.Helper()
	return signInWith(t, browser, app, name)
}

func signInWith(t *testing.T, b *rod.Browser, app *harness.App, name string) *coach {
	t.Helper()
	page, err := harness.Page(b, 1280, 800)
	require.NoError(t, err)
	pictured(t, page, name)
	// A page that asks before it lets itself be left has something that is not even kept on
	// the device: no screen may come to that.
	go page.EachEvent(func(e *proto.PageJavascriptDialogOpening) {
		t.Errorf("the page asks: %s %s", e.Type, e.Message)
		_ = proto.PageHandleJavaScriptDialog{Accept: true}.Call(page)
	}, func(e *proto.LogEntryAdded) {
		// Nothing of the product comes from elsewhere or stands in the page itself.
		if e.Entry.Source == proto.LogLogEntrySourceSecurity {
			t.Errorf("against the page's policy: %s", e.Entry.Text)
		}
	})()
	c := &coach{page.Timeout(5 * time.Minute), t, app}
	c.MustNavigate(app.URL)
	c.click("button", name)
	first := "Tue 13 Oct"
	if name == "N. Sollis" { // athletic health has to do with who takes part
		first = "Roster"
	}
	c.see("h1", first)
	return c
}

// pictured closes a page when the test ends, with a picture of it when the test has failed.
func pictured(t *testing.T, page *rod.Page, which string) {
	t.Helper()
	t.Cleanup(func() {
		if t.Failed() {
			path := filepath.Join(os.TempDir(), strings.ReplaceAll(t.Name(), "/", "-")+which+".png")
			if png, err := page.Screenshot(false, nil); err == nil && os.WriteFile(path, png, 0o600) == nil {
				t.Log("the page when it failed:", path)
			}
		}
		_ = page.Timeout(5 * time.Second).Close()
	})
}

// see waits until an element shows the text, in capitals or not: labels are capitals; any element when no text is given.
func (c *coach) see(selector, text string) *rod.Element {
	c.t.Helper()
	pattern := "/" + strings.ReplaceAll(text, "/", "\\/") + "/i"
	page := c.Page.Timeout(20 * time.Second)
	if text == "" {
		el, err := page.Element(selector)
		require.NoError(c.t, err, selector)
		return el
	}
	el, err := page.ElementR(selector, pattern)
	for ; err != nil && strings.Contains(err.Error(), "navigated"); el, err = page.ElementR(selector, pattern) {
		time.Sleep(50 * time.Millisecond) // the page was left while it was looked at: look at the new one
	}
	require.NoError(c.t, err, "%s with %q", selector, text)
	return el
}

// there waits for an element, with a text if one is given.
func (c *coach) there(selector, text string) {
	c.t.Helper()
	c.see(selector, text)
}

// click finds an element and clicks it, again when the page replaced it meanwhile.
func (c *coach) click(selector, text string) {
	c.t.Helper()
	var err error
	for range 10 {
		if err = c.see(selector, text).Timeout(3*time.Second).Click(proto.InputMouseButtonLeft, 1); err == nil {
			return
		}
		// Something lies over it, such as the names of the screens on a phone: turn the wheel.
		_ = c.Mouse.Scroll(0, 120, 1)
		time.Sleep(100 * time.Millisecond)
	}
	require.NoError(c.t, err, "%s with %q", selector, text)
}

// press types keys one after the other, as at the keyboard.
func (c *coach) press(keys ...input.Key) {
	c.t.Helper()
	for _, k := range keys {
		require.NoError(c.t, c.Keyboard.Type(k))
	}
}

// shift presses a key with Shift held.
func (c *coach) shift(key input.Key) {
	c.t.Helper()
	require.NoError(c.t, c.KeyActions().Press(input.ShiftLeft).Type(key).Do())
}

// typed types a text at the keyboard.
func (c *coach) typed(text string) {
	c.t.Helper()
	require.NoError(c.t, harness.Type(c.Page, text))
}

// pasted puts a text over all that stands in the field where the keyboard is, as from the clipboard.
func (c *coach) pasted(text string) {
	c.t.Helper()
	require.NoError(c.t, c.KeyActions().Press(input.ControlLeft).Type('a').Release(input.ControlLeft).Do())
	require.NoError(c.t, c.InsertText(text))
}

// replace types over all that stands in the field where the keyboard is.
func (c *coach) replace(text string) {
	c.t.Helper()
	require.NoError(c.t, harness.Replace(c.Page, text))
}

// openMarkSheet follows the link of a placed drill.
func (c *coach) openMarkSheet(drill string) {
	c.t.Helper()
	c.click("li[aria-label='"+drill+"'] a[href*='/mark/']", "mark")
}

// text is what an element shows.
func (c *coach) text(selector string) string {
	c.t.Helper()
	el, err := c.Page.Timeout(20 * time.Second).Element(selector)
	require.NoError(c.t, err, selector)
	return el.MustText()
}

// count is how many elements there are now.
func (c *coach) count(selector string) int { return len(c.MustElements(selector)) }

// eventually waits for something the page must come to.
func (c *coach) eventually(what string, ok func() bool) {
	c.t.Helper()
	c.within(20*time.Second, what, ok)
}

// within waits for what takes its time, such as work of the server beside its answers.
func (c *coach) within(wait time.Duration, what string, ok func() bool) {
	c.t.Helper()
	for deadline := time.Now().Add(wait); time.Now().Before(deadline); time.Sleep(40 * time.Millisecond) {
		if ok() {
			return
		}
	}
	c.t.Fatalf("never: %s", what)
}

// saved waits until the frame says that nothing is waiting.
func (c *coach) saved() {
	c.t.Helper()
	c.eventually("everything saved", func() bool {
		says := c.saving()
		return strings.HasPrefix(says, "Saved") || says == "" && c.count("header") == 1
	})
}

// saving is what the frame says of the saving.
func (c *coach) saving() string {
	c.t.Helper()
	list := c.MustElements("header [role=status]")
	if len(list) == 0 {
		return ""
	}
	text, err := list[0].Text()
	if err != nil {
		return "" // the page replaced it meanwhile
	}
	return text
}

func (c *coach) at(path string) {
	c.t.Helper()
	require.NoError(c.t, c.Navigate(c.app.URL+path))
}

// file writes an upload of the test.
func file(t *testing.T, name string, content []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, content, 0o600))
	return path
}

// between is how long each key of one coach took, in ms, until the other saw what it did.
func between(a, b *coach) []float64 {
	a.t.Helper()
	keys, seen := a.MustEval(`() => window.keys`).Arr(), b.MustEval(`() => window.seen`).Arr()
	require.Len(a.t, seen, len(keys))
	took := make([]float64, len(keys))
	for i := range keys {
		took[i] = seen[i].Num() - keys[i].Num()
	}
	return took
}

// share is the value below which a share of the values lies.
func share(values []float64, of float64) float64 {
	sorted := slices.Sorted(slices.Values(values))
	return sorted[min(len(sorted)-1, int(of*float64(len(sorted))))]
}
