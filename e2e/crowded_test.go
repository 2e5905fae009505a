package e2e

import (
	"context"
	"database/sql"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// crowd fills tonight's script of the line with forty periods of three minutes and long names.
func crowd(t *testing.T, app *harness.App, practice string) {
	t.Helper()
	db, err := sql.Open("pgx", app.DatabaseURL())
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	_, err = db.ExecContext(context.Background(), `
		WITH p AS (SELECT club_id, id FROM practices WHERE id = $1),
		gone AS (DELETE FROM periods WHERE practice_id = $1 AND kind <> 'individual'),
		new AS (
			INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact)
			SELECT gen_random_uuid(), p.club_id, p.id, 3 * n, 3, 'group', 'Combination against an odd front, walk and then run ' || n, 'thud'
			FROM p, generate_series(0, 39) n
			RETURNING club_id, id)
		INSERT INTO period_groups (club_id, period_id, group_key) SELECT club_id, id, 'ol' FROM new`, practice)
	require.NoError(t, err)
}

// TestAScriptOfFortyPeriods is read by touch and by key though its bars are narrow, and
// printed on one page.
func TestAScriptOfFortyPeriods(t *testing.T) {
	app := start(t)
	c := signIn(t, app, "R. Kell")
	c.tonight()
	path := strings.Split(strings.TrimPrefix(c.MustInfo().URL, app.URL), "/")
	crowd(t, app, path[len(path)-1])
	c.MustReload()
	c.see("[aria-label='Master script'] button", "walk and then run 39")
	c.click("[aria-label='Master script'] button", "walk and then run 17")
	c.see("[role=dialog]", "walk and then run 17, .*3 minutes")

	pdf, err := harness.PDF(c.Page)
	require.NoError(t, err)
	assert.Equal(t, 1, harness.Pages(pdf), "forty periods go on one page")
}
