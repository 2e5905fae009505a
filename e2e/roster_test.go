package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
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
	c.see("[data-testid=roster-error]", "empty")
	choose("list.xlsx.csv", "PK\x03\x04....")
	c.see("[data-testid=roster-error]", "save the list as CSV or XLSX")
	choose("quote.csv", "No,Name\n1,\"Ab Cd\n2,Ef\n3,Gh\n4,Ij\n5,Kl\n")
	c.see("[data-testid=roster-error]", "quote opened on line")

	// Windows-1252, tabs, odd headers, blank lines, problems among good lines.
	text, err := charmap.Windows1252.NewEncoder().String("Trikot\tVorname\tNachname\tGröße\tErfahrung\n8\tÅke\tSörli\t6-1\t2\n\n9X9\tBo\tLind\t6-14\t1\n07\tTam\tVosper\t188 cm\t\n")
	assert.NoError(t, err)
	choose("kader.txt", text)
	c.see("[data-testid=roster-summary]", "2 new, 0 changed, 0 already right, 1 with a problem")
	c.see("[data-action=problem]", "jersey \"9X9\"")
	// The height column has an unknown name: he maps it once.
	c.MustElementR("label", "/^height/i").MustElement("select").MustSelect("Größe")
	c.see("[data-action=problem]", "a foot has 12")
	c.see("[data-action=create]", "6 ft 1 in")
	c.click("button", "Import 2 players")
	c.see("[data-testid=roster-done]", "2 players added, 0 updated, 0 already right, 1 line left out")

	// The same file again updates nothing and doubles nobody; the columns are remembered.
	choose("kader.txt", text)
	c.see("[data-testid=roster-summary]", "0 new, 0 changed, 2 already right, 1 with a problem")
	c.see("span", "columns as last time")
	assert.Equal(t, 1, c.count("[data-action=problem]"))
	c.click("nav a", "Players")
	c.see("th a", "8 Sörli")
	assert.Len(t, c.MustElementsX(`//th/a[contains(., "Vosper")]`), 1)
}
