package e2e

import (
	"context"
	"database/sql"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// newSeason gives the club a season with nothing in it, as a new club has it.
func newSeason(t *testing.T, app *harness.App) {
	t.Helper()
	db, err := sql.Open("pgx", app.DatabaseURL())
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	_, err = db.ExecContext(context.Background(), `INSERT INTO seasons (id, club_id, name, starts_on, weeks) SELECT gen_random_uuid(), id, 'New', '2026-10-05', 6 FROM clubs`)
	require.NoError(t, err)
}

// TestANewClubBegins: season dates, practice days and a first script, all by the screens.
func TestANewClubBegins(t *testing.T) {
	app := start(t)
	newSeason(t, app)
	page, err := harness.Page(browser, 1280, 800)
	require.NoError(t, err)
	pictured(t, page, "M. Orrin")
	c := &coach{page.Timeout(5 * time.Minute), t, app}
	c.MustNavigate(app.URL)
	c.click("button", "M. Orrin")
	began := time.Now()
	c.click("nav a", "Season")
	c.see("[aria-label='Begin here'] h2", "Begin here")

	// Its dates and phases.
	c.click("[aria-label='Begin here'] button", "dates and phases")
	c.see("[role=dialog] label", "First day")
	c.press(input.Tab, input.Tab, input.Tab)
	c.click("[role=dialog] label", "Weeks")
	c.replace("8")
	c.click("[role=dialog] button", "One more phase")
	c.click("[role=dialog] button", "Save the dates")
	c.see("header p", "5 Oct to 29 Nov · 8 weeks")
	c.see("[aria-label=Phases] li", "Off-season")
	assert.Equal(t, 1, c.number(`SELECT count(*) FROM seasons WHERE name = 'New' AND weeks = 8 AND version = 2 AND jsonb_array_length(phases) = 1`))

	// Practice days, and a script for all of them.
	c.click("[aria-label='Begin here'] label", "Thu")
	c.click("[aria-label='Begin here'] label", "Place")
	c.typed("Old mill field")
	c.click("[aria-label='Begin here'] button", "Full Tuesday") // the club's own come first
	c.click("[role=menuitemradio]", "Full practice, 120 min")
	c.click("[aria-label='Begin here'] button", "Lay 14 practices")
	c.see(days, "Tue 24 Nov: Tue practice, 18:00, 120 minutes")
	c.saved()
	took := time.Since(began)
	assert.Equal(t, 14, c.number(`SELECT count(*) FROM practices p JOIN seasons s ON s.id = p.season_id WHERE s.name = 'New' AND p.place = 'Old mill field'`))
	each := c.number(`SELECT count(*)::int FROM periods e JOIN practices p ON p.id = e.practice_id JOIN seasons s ON s.id = p.season_id WHERE s.name = 'New' AND p.on_date = '2026-10-13'`)
	assert.Greater(t, each, 8, "a whole script")
	assert.Equal(t, 14*each, c.number(`SELECT count(*)::int FROM periods e JOIN practices p ON p.id = e.practice_id JOIN seasons s ON s.id = p.season_id WHERE s.name = 'New'`), "and every practice has it")
	assert.Empty(t, c.MustElements("[aria-label='Begin here']"))
	assert.Empty(t, c.MustElements("[role=alert]"))
	assert.Less(t, took, 2*time.Minute, "a season is laid in less than two minutes")
	t.Logf("from the first look to a season of 14 scripts: %.1f s", took.Seconds())

	// A season that would leave a practice outside is refused, and says which.
	c.click("header button", "Dates and phases")
	c.click("[role=dialog] label", "Weeks")
	c.replace("3")
	c.click("[role=dialog] button", "Save the dates")
	c.see("[role=dialog]", "practice on 2026-1\\d-\\d\\d would lie outside of the season")
	c.click("[role=dialog] button", "Leave them")
	c.see("header p", "8 weeks")
}
