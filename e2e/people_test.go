package e2e

import (
	"context"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
	"nineyard/internal/demo"
)

// visit opens a browser of its own at an address.
func visit(t *testing.T, app *harness.App, name, address string) *coach {
	t.Helper()
	page, err := harness.Page(browser, 1280, 800)
	require.NoError(t, err)
	pictured(t, page, name)
	c := &coach{page.Timeout(5 * time.Minute), t, app}
	require.NoError(t, c.Navigate(address))
	return c
}

// filled types into the field of a label.
func (c *coach) filled(label, text string) {
	c.t.Helper()
	within := ""
	if c.count("[role=dialog]") > 0 {
		within = "[role=dialog] "
	}
	c.click(within+"label", label)
	c.replace(text)
}

// chosen ticks a box or a choice by its words.
func (c *coach) chosen(label string) {
	c.t.Helper()
	c.click("label", label)
}

const ours = "gravel heron umbrella"

// TestAClubFromNothing: from an empty database to the first planned practice with two coaches, all by the screens.
func TestAClubFromNothing(t *testing.T) {
	t.Parallel()
	app, err := cluster.Empty(context.Background())
	require.NoError(t, err)
	t.Cleanup(app.Stop)
	word := regexp.MustCompile(`with this word: ([a-z2-7]+)`).FindStringSubmatch(app.Log())
	require.NotNil(t, word, app.Log())
	began := time.Now()
	c := visit(t, app, "head", app.URL)
	c.see("h1", "The first club")
	c.filled("Word that the server printed", "wrong")
	c.filled("^Club", "Dunmere Otters")
	c.filled("^Weeks", "8")
	c.filled("Time zone", "Europe/Dublin")
	c.filled("Your name", "O. Tarn")
	c.filled("Your e-mail", "o.tarn@otters.example")
	c.filled("^Password", "otters")
	c.click("button", "Make the club")
	c.see("main", "this is not the word that the server printed|at least 15 characters")
	c.filled("Word that the server printed", word[1])
	c.filled("^Password", ours)
	c.click("button", "Make the club")
	c.see("h1", "\\d+ \\w+")

	// A position group of their own, and a second coach by a link that is handed over.
	c.click("header button", "O. Tarn")
	c.click("[role=menuitem]", "The club and its groups")
	c.click("button", "Add a group")
	c.filled("^Name", "Long snappers")
	c.filled("^Short", "LS")
	c.chosen("Kicking")
	c.filled("Positions", "LS, Snapper")
	c.click("[role=dialog] button", "^Save")
	c.see("[aria-label='Position groups'] li", "Long snappers")
	c.click("header button", "O. Tarn")
	c.click("[role=menuitem]", "Staff")
	c.click("button", "Ask somebody in")
	c.filled("^Name", "N. Aide")
	c.filled("E-mail", "n.aide@otters.example")
	c.filled("Title", "Offensive line")
	c.click("[role=dialog] button", "Make the link")
	c.see("[role=dialog]", "work with at least one group")
	c.chosen("^Offensive line")
	c.click("[role=dialog] button", "Make the link")
	c.see("[role=dialog]", "Hand this link over")
	link := c.MustElement("[aria-label='Link for N. Aide']").MustProperty("value").Str()
	c.click("[role=dialog] button", "Done")
	c.see("section", "Asked, not here yet[\\s\\S]*N. Aide")
	n := visit(t, app, "aide", link)
	n.see("h1", "Onto the staff of Dunmere Otters")
	n.filled("^Password", "copper walnut ladder")
	n.click("button", "Join Dunmere Otters")
	n.see("header button", "N. Aide")
	again := visit(t, app, "again", link)
	again.see("main", "this link has been used")
	c.eventually("the staff is two", func() bool { return c.count("tbody tr") == 2 })

	// The season is laid, a player is there, and the second coach plans his first drill.
	c.click("nav a", "Season")
	c.see("[aria-label='Begin here'] h2", "Begin here")
	c.click("[aria-label='Begin here'] button:not([aria-disabled])", "Lay [1-9]\\d* practices")
	c.within(time.Minute, "every practice has its script", func() bool {
		return c.number(`SELECT count(*)::int FROM practices p WHERE NOT EXISTS (SELECT FROM periods e WHERE e.practice_id = p.id)`) == 0
	})
	c.saved()
	n.click("nav a", "Roster")
	n.click("button", "Add a player")
	n.typed("64")
	n.press(input.Tab)
	n.typed("Ida")
	n.press(input.Tab)
	n.typed("Brook")
	n.press(input.Enter)
	n.see("tbody th, tbody td", "Brook")
	n.saved()
	n.click("nav a", "Practice")
	n.click("main a[href*='/practice/']", "practice")
	n.see("h1", "practice")
	n.see("button", "Add a drill")
	n.press('d')
	n.typed("two steps")
	n.press(input.Enter, input.Escape)
	n.see("ol[aria-label='Drills'] li, li", "Two steps")
	n.saved()
	t.Logf("from an empty database to two coaches and a season: %.1f s", time.Since(began).Seconds())
	assert.Equal(t, 2, c.number(`SELECT count(*) FROM users WHERE removed_at IS NULL`))
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM placements`), "the first drill is planned, by the second coach")
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM players WHERE last_name = 'Brook'`))
}

// TestASecondFactorOnTheScreens: an authenticator is set up, asked for, and taken away; codes stand in for it.
func TestASecondFactorOnTheScreens(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("header button", "R. Kell")
	c.click("[role=menuitem]", "Your account")
	c.see("h1", "Your account")
	a := newAuditor(t)
	a.everywhere(c, "/account", "[aria-label='Where you are signed in'] li", "")
	c.click("button", "Set up")
	c.typed("not this one")
	c.press(input.Enter)
	c.see("[role=dialog]", "this is not your password")
	c.replace(demo.Password)
	c.press(input.Enter)
	c.see("[role=dialog] p", "Point the authenticator")
	secret := strings.ReplaceAll(c.text("[role=dialog] p.font-mono"), " ", "")
	code := func(at time.Time) string {
		text, err := totp.GenerateCode(secret, at)
		require.NoError(t, err)
		return text
	}
	c.click("[role=dialog] label", "Code that it shows")
	c.typed(code(time.Now()))
	c.press(input.Enter)
	c.see("[role=dialog]", "Write them down now")
	spare := c.text("[role=dialog] li")
	c.click("[role=dialog] button", "They are written down")
	c.see("[aria-label='Second factor'] li", "Authenticator[\\s\\S]*is asked for")
	c.see("[aria-label=Notices] li", "An authenticator was set up")
	c.click("[aria-label=Notices] button", "Seen")
	c.eventually("the notice is away", func() bool { return c.count("[aria-label=Notices] li") == 0 })

	// Without it the password lets nobody in.
	n := visit(t, app, "phone", app.URL)
	n.filled("E-mail", demo.LineCoachEmail)
	n.filled("^Password", demo.Password)
	n.press(input.Enter)
	n.see("main", "Now your second factor")
	n.click("label", "Code of your authenticator")
	n.typed("000000")
	n.press(input.Enter)
	n.see("main", "This code is not right")
	n.replace(spare)
	n.press(input.Enter)
	n.see("h1", "Tue 13 Oct")

	// The other session is seen, and ended.
	c.at("/g/ol/w/7/account")
	c.click("[aria-label='Where you are signed in'] button", "^End$")
	c.eventually("one session is left", func() bool { return c.count("[aria-label='Where you are signed in'] li") == 1 })
	n.at("/g/ol/w/7/roster")
	n.see("h1, h2, label", "NINE YARD|E-mail")
	c.click("button", "Take away")
	c.typed(demo.Password)
	c.press(input.Enter)
	c.see("[aria-label='Second factor'] li", "Authenticator[\\s\\S]*none")
}

// TestAPasskeyLetsIn, without a password, from a device that has it.
func TestAPasskeyLetsIn(t *testing.T) {
	app := start(t)
	app.URL = strings.Replace(app.URL, "127.0.0.1", "localhost", 1) // a passkey is bound to a name
	c := signIn(t, app, "R. Kell")
	require.NoError(t, proto.WebAuthnEnable{}.Call(c))
	_, err := proto.WebAuthnAddVirtualAuthenticator{Options: &proto.WebAuthnVirtualAuthenticatorOptions{Protocol: proto.WebAuthnAuthenticatorProtocolCtap2, Transport: proto.WebAuthnAuthenticatorTransportInternal,
		HasResidentKey: true, HasUserVerification: true, IsUserVerified: true, AutomaticPresenceSimulation: true}}.Call(c)
	require.NoError(t, err)
	c.click("header button", "R. Kell")
	c.click("[role=menuitem]", "Your account")
	c.click("[aria-label='Second factor'] button", "^Add$")
	c.filled("What it is on", "office")
	c.filled("^Password", demo.Password)
	c.click("[role=dialog] button", "Add the passkey")
	c.see("[role=dialog]", "Write them down now")
	c.click("[role=dialog] button", "They are written down")
	c.see("[aria-label='Second factor'] li", "Passkey: office")
	c.click("header button", "R. Kell")
	c.click("[role=menuitem]", "Sign out")
	c.click("button", "Use a passkey")
	c.see("h1", "Tue 13 Oct")
	c.see("header button", "R. Kell")
	// It is a second factor, too.
	c.click("header button", "R. Kell")
	c.click("[role=menuitem]", "Sign out")
	c.filled("E-mail", demo.LineCoachEmail)
	c.filled("^Password", demo.Password)
	c.press(input.Enter)
	c.see("main", "Now your second factor")
	c.click("button", "Use a passkey")
	c.see("h1", "Tue 13 Oct")
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM passkeys WHERE used_at IS NOT NULL`))
}

// TestAForgottenPasswordOnTheScreens, and the staff, the log and what ships, looked at in every window.
func TestAForgottenPasswordOnTheScreens(t *testing.T) {
	app := start(t)
	c := visit(t, app, "forgot", app.URL)
	c.click("a", "The password is forgotten")
	c.filled("E-mail", demo.LineCoachEmail)
	c.click("button", "Send the link")
	c.see("main", "a link is on its way")
	c.at("/outbox")
	c.click("a", "recover#")
	c.see("h1", "Choose a new password")
	c.filled("New password", "lamplighters1")
	c.click("button", "Change the password")
	c.see("main", "at least 15 characters")
	c.filled("New password", ours)
	c.click("button", "Change the password")
	c.see("main", "The password is changed")
	c.click("a", "Sign in")
	c.filled("E-mail", demo.LineCoachEmail)
	c.filled("^Password", ours)
	c.press(input.Enter)
	c.see("h1", "Tue 13 Oct")
	c.see("[aria-label=Notices] li", "Your password was changed")

	head := signIn(t, app, "M. Orrin")
	head.Page = head.Page.CancelTimeout()
	a := newAuditor(t)
	a.pages(head, []page{
		{"/g/ol/w/7/staff", "tbody th"}, {"/g/ol/w/7/club", "[aria-label='What is kept'] button"}, {"/g/ol/w/7/log", "h1"}, {"/g/ol/w/7/about", "tbody th"}, {"/outbox", "h2"}, {"/recover", "label"},
	})
	t.Logf("%d pages looked at", a.runs)
}

// TestAPlayerIsErasedOnTheScreens: taken out as a file first, then gone, and the log says who did it.
func TestAPlayerIsErasedOnTheScreens(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "M. Orrin")
	c.at("/g/ol/w/7/roster")
	c.filled("Number, name or position", "sato")
	c.eventually("one player is left", func() bool { return c.count("tbody tr") == 1 })
	c.click("tbody tr button", "⋯")
	c.click("[role=menuitem]", "Hand over or erase")
	assert.Contains(t, *c.see("[role=dialog] a", "Take it out").MustAttribute("href"), "/export")
	c.filled("His last name, to be sure", "Somebody")
	c.click("[role=dialog] button", "^Erase")
	c.see("[role=dialog]", "this is not his last name")
	c.filled("His last name, to be sure", "Sato")
	c.click("[role=dialog] button", "^Erase")
	c.see("[role=status], [role=alert], li", "Sato is erased")
	assert.Zero(t, c.number(`SELECT count(*) FROM players WHERE last_name = 'Sato'`))
	c.click("header button", "M. Orrin")
	c.click("[role=menuitem]", "Who changed what")
	c.see("tbody tr", "M. Orrin[\\s\\S]*erased a player")
}

// TestRolesOnTheScreens: an assistant, a reader and athletic health see what they may, and no button that leads nowhere.
func TestRolesOnTheScreens(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "N. Sollis")
	assert.Equal(t, 3, c.count("nav a:not([href='/'])"), "season, practice, roster and nothing of grades")
	c.at("/g/ol/w/7/players")
	c.see("h1", "Roster")
	head := signIn(t, app, "M. Orrin")
	head.at("/g/ol/w/7/staff")
	head.click("[aria-label='Change R. Kell']", "Change")
	head.chosen("^Reader")
	head.click("[role=dialog] button", "^Save")
	head.see("tbody tr", "R. Kell[\\s\\S]*Reader")
	k := signIn(t, app, "R. Kell")
	k.at("/g/ol/w/7/roster")
	k.see("tbody th", "Ilvar|52")
	assert.Zero(t, k.count("button[class*=btn-main]"))
	k.tonight()
	assert.Zero(t, k.count("main [role=alert]"))
	head.click("tbody tr button", "Take off[\\s\\S]*R. Kell")
	head.click("[role=dialog] button", "Take off the staff")
	head.eventually("nine are left", func() bool { return head.count("tbody tr") == 9 })
	k.at("/g/ol/w/7/today")
	k.see("label", "E-mail")
}
