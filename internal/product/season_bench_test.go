package product_test

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
)

// BenchmarkSeasonOf60Weeks prints how long the server works to open a season of sixty weeks with
// three scripts each; the budget is 30 ms.
func BenchmarkSeasonOf60Weeks(b *testing.B) {
	app, owner := demotest.Open(b)
	w := demotest.World()
	p := product.New(product.Options{DB: app, Now: demo.Now, Demo: w.ClubID})
	c, found, err := p.Access.Store.Coach(context.Background(), w.Users[0].ID)
	require.NoError(b, err)
	require.True(b, found)
	require.NoError(b, owner.InClub(context.Background(), w.ClubID, func(ctx context.Context) error {
		for _, q := range []string{
			`UPDATE seasons SET weeks = 60 WHERE club_id = @club`,
			`CREATE TEMP TABLE more AS SELECT gen_random_uuid() AS id, p.id AS of, p.on_date + 7 * n AS on_date FROM practices p, generate_series(9, 51) n WHERE p.club_id = @club AND p.on_date < '2026-09-07'`,
			`INSERT INTO practices (id, club_id, season_id, on_date, title, theme, place, start_minute, minutes) SELECT m.id, p.club_id, p.season_id, m.on_date, p.title, p.theme, p.place, p.start_minute, p.minutes FROM more m JOIN practices p ON p.id = m.of`,
			`CREATE TEMP TABLE lines AS SELECT gen_random_uuid() AS id, m.id AS practice_id, e.id AS of FROM more m JOIN periods e ON e.practice_id = m.of`,
			`INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact) SELECT l.id, e.club_id, l.practice_id, e.start, e.minutes, e.kind, e.name, e.contact FROM lines l JOIN periods e ON e.id = l.of`,
			`INSERT INTO period_groups (club_id, period_id, group_key) SELECT g.club_id, l.id, g.group_key FROM lines l JOIN period_groups g ON g.period_id = l.of`,
			`ANALYZE`,
		} {
			if _, err := pg.Exec(ctx, q, nil); err != nil {
				return err
			}
		}
		return nil
	}))
	c, _, err = p.Access.Store.Coach(context.Background(), w.Users[0].ID)
	require.NoError(b, err)
	var took []time.Duration
	n := 0
	for b.Loop() {
		began := time.Now()
		require.NoError(b, app.InClub(context.Background(), w.ClubID, func(ctx context.Context) error {
			s, err := p.Plan.Season(ctx, c)
			n = len(s.Practices)
			return err
		}))
		took = append(took, time.Since(began))
	}
	slices.Sort(took)
	b.ReportMetric(float64(n), "practices")
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/median")
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms/p95")
}
