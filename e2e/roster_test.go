package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
)

// TestRosterImport walks through the files coaches really have.
func TestRosterImport(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "I. Vance")
	c.click("nav a", "Roster")
	c.click("a", "Import a list")
	choose := func(name string, content string) {
		t.Helper()
		c.MustElement("input[type=file]").MustSetFiles(file(t, name, []byte(content)))
	}
	// Broken files are refused with a reason, and nothing is changed.
	choose("empty.csv", "")
	c.see("main [role=alert]", "empty")
	choose("list.xlsx.csv", "PK\x03\x04....")
	c.see("main [role=alert]", "save the list as CSV or XLSX")
	choose("quote.csv", "No,Name\n1,\"Ab Cd\n2,Ef\n3,Gh\n4,Ij\n5,Kl\n")
	c.see("main [role=alert]", "quote opened on line")

	// Windows-1252, tabs, odd headers, blank lines, problems among good lines.
	text, err := charmap.Windows1252.NewEncoder().String("Trikot\tVorname\tNachname\tGröße\tErfahrung\n8\tÅke\tSörli\t6-1\t2\n\n9X9\tBo\tLind\t6-14\t1\n07\tTam\tVosper\t188 cm\t\n")
	assert.NoError(t, err)
	choose("kader.txt", text)
	c.see("main [role=status]", "2 new, 0 changed, 0 already right, 1 with a problem")
	c.see("tr", `left out(.|\n)*jersey "9X9"`)
	// The height column has an unknown name: he maps it once.
	c.choose("Height", "Gr")
	c.see("tr", `left out(.|\n)*a foot has 12`)
	c.see("tr", `new(.|\n)*6 ft 1 in`)
	c.click("button", "Import 2 players")
	c.see("main [role=status]", "2 players added, 0 updated, 0 already right, 1 line left out")

	// The same file again updates nothing and doubles nobody; the columns are remembered.
	choose("kader.txt", text)
	c.see("main [role=status]", "0 new, 0 changed, 2 already right, 1 with a problem")
	c.see("span", "columns as last time")
	c.click("nav a", "Players")
	c.see("th a", "8 Sörli")
	assert.Len(t, c.MustElementsX(`//th/a[contains(., "Vosper")]`), 1)
}

// row is the line of a player of the roster.
func row(name string) string { return fmt.Sprintf(`tr:has([aria-label$="More for %s"])`, name) }

// TestTheRosterIsKeptInItsPlace adds, edits, archives and merges players and records what
// they may take part in, with the keyboard where a coach would and the pointer elsewhere.
func TestTheRosterIsKeptInItsPlace(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.click("nav a", "Roster")
	c.see("h1", "Roster")
	players := c.count("tbody tr")

	// A player is added without the pointer: one key, fields in their order, Enter.
	c.press('a')
	c.typed("68\tUlf\tEk\tRT\t6\t1.5\t301")
	c.press(input.Enter)
	c.see(row("68 Ulf Ek"), "6 ft 1.5 in")
	c.see(row("68 Ulf Ek"), "301 lb")
	assert.Equal(t, players+1, c.count("tbody tr"))

	// What cannot be is said at its field, and what was typed stays; Escape leaves it.
	c.press(input.Enter) // the keyboard is where it was: at the new line's Edit
	c.see("form[aria-label='Ulf Ek'] button", "Save")
	c.typed("x9")
	c.press(input.Enter)
	c.see("form [role=alert]", "jersey")
	assert.Equal(t, 1, c.count("form input[aria-invalid=true]"))
	c.press(input.Escape)
	c.see(row("68 Ulf Ek"), "RT")

	// Two coaches change one player: both versions are shown, and nothing is lost.
	head := signIn(t, app, "M. Orrin")
	head.click("nav a", "Roster")
	head.choose("Group", "All groups")
	head.click(row("68 Ulf Ek")+" button", "Edit")
	c.click(row("68 Ulf Ek")+" button", "Edit")
	c.retype("Position", "LT")
	c.press(input.Enter)
	c.see(row("68 Ulf Ek"), "LT")
	head.retype("Position", "C")
	head.press(input.Enter)
	head.see("[role=alertdialog]", "LT")
	head.click("[role=alertdialog] button", "Keep mine")
	head.see(row("68 Ulf Ek"), "C")
	c.at("/g/ol/w/7/roster")
	c.see(row("68 Ulf Ek"), "C")

	// Sorted, filtered.
	c.click("thead button", "Weight")
	c.click("thead button", "Weight")
	assert.Contains(t, c.text("tbody tr"), "lb")
	c.see("th[aria-sort=descending]", "Weight")
	c.click("label", "Number, name or position")
	c.typed("ek")
	c.eventually("one player is left", func() bool { return c.count("tbody tr") == 1 })
	c.press(input.Backspace, input.Backspace)

	// Out for two days: the list, the plan and Today know.
	c.click(row("68 Ulf Ek")+" button", "available")
	c.click("[role=dialog] label", "^Out")
	c.click("[role=dialog] label", "Why")
	c.typed("exam")
	c.press(input.Enter)
	c.see("[role=dialog] li", "exam")
	c.press(input.Escape)
	c.see(row("68 Ulf Ek"), "Out")
	c.click("nav a", "Today")
	c.see("main", "Ek")
	c.click("nav a", "Roster")

	// A suspected head injury: no coach ends it; the athletic-health staff records who cleared him.
	c.click(row("68 Ulf Ek")+" button", "out")
	c.click("[role=dialog] label", "Suspected head injury")
	c.click("[role=dialog] label", "Why")
	c.typed("collision")
	c.press(input.Enter)
	c.see("[role=dialog] li", "collision")
	c.see("[role=dialog] li", "Only the athletic-health staff records a written clearance")
	c.press(input.Escape)
	health := signIn(t, app, "N. Sollis")
	health.at("/g/ol/w/7/roster")
	health.click("label", "Number, name or position")
	health.typed("ulf")
	health.eventually("one player is left", func() bool { return health.count("tbody tr") == 1 })
	health.click("tbody tr button", "head")
	health.click("[role=dialog] button", "Record a written clearance")
	health.click("[role=dialog] label", "Licensed health professional")
	health.typed("Dr V. Aster, physician")
	health.click("[role=dialog] label", "Document")
	health.typed("Letter of 13 October")
	health.press(input.Enter)
	health.see("[role=dialog] li", "Cleared in writing by")

	// The same player stands there twice: one entry goes, and what it holds follows.
	c.press('a')
	c.typed("86\tUlf\tEk")
	c.press(input.Enter)
	c.see(row("86 Ulf Ek"), "available")
	c.more("86 Ulf Ek", "Same player as")
	c.see("[role=dialog]", "This cannot be undone")
	c.click("[role=dialog] button", "Make them one")
	c.see("[role=status]", "are one player now")
	c.eventually("one entry is left", func() bool { return c.count(row("86 Ulf Ek")) == 0 })

	// Archived he is on no list; he can be brought back, at once or later.
	c.more("68 Ulf Ek", "Archive")
	c.see("[role=region] li", "is archived")
	c.eventually("he left the list", func() bool { return c.count(row("68 Ulf Ek")) == 0 })
	c.press(input.F8, input.Enter) // the message is reached by a key; its Undo comes first
	c.see(row("68 Ulf Ek"), "Ek")
}

// TestTheRosterOnAPhone is read and edited with the thumb.
func TestTheRosterOnAPhone(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	for _, width := range []int{390, 360} {
		c.width(width, 844)
		c.check("/g/ol/w/7/roster", "tbody th")
		c.tap("button", "Add a player")
		c.see("form", "First name")
		list, err := c.Eval(faultsOfPage)
		require.NoError(t, err)
		assert.Empty(t, list.Value.Arr())
		c.tap("form button", "Leave it")
	}
	c.tap("tbody tr:first-child button", "available")
	c.see("[role=dialog]", "Availability of")
	list, err := c.Eval(faultsOfPage)
	require.NoError(t, err)
	assert.Empty(t, list.Value.Arr())
}

// choose takes an option of a list by the keyboard.
func (c *coach) choose(label, option string) {
	c.t.Helper()
	c.click("button", "^"+label+":")
	c.see("[role=menuitemradio]", option)
	c.typed(option)
	c.see("[role=menuitemradio]:focus", option)
	c.press(input.Enter)
}

// retype replaces what stands in the field of a label, by keys.
func (c *coach) retype(label, text string) {
	c.t.Helper()
	c.click("form label", label)
	c.replace(text)
}

// more chooses from the menu of a player of the roster.
func (c *coach) more(player, item string) {
	c.t.Helper()
	c.click(row(player)+" button", "⋯")
	c.click("[role=menuitem]", item)
}

// tap touches an element.
func (c *coach) tap(selector, text string) {
	c.t.Helper()
	require.NoError(c.t, c.see(selector, text).Tap())
}
