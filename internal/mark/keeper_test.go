package mark_test

import (
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/marks"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/mark"
	"nineyard/internal/platform/pg"
)

// finishing is a scheme in which finish decides alone.
func finishing() marks.House {
	return marks.House{Scheme: marks.Scheme{Kind: marks.Facets, Facets: []marks.Facet{{Key: "finish", Weight: 2, Clean: true}}}}
}

func clock() time.Time { return demo.Now() }

// count reads one number of the demo's club.
func count(t require.TestingT, db *pg.DB, query string) (n int) {
	type row struct {
		N int `db:"n"`
	}
	require.NoError(t, db.InClub(context.Background(), demotest.World().ClubID, func(ctx context.Context) error {
		r, _, err := pg.One[row](ctx, query, nil)
		n = r.N
		return err
	}))
	return n
}

func choose(t require.TestingT, db *pg.DB, version int, scheme marks.House) {
	require.NoError(t, db.InClub(context.Background(), demotest.World().ClubID, func(ctx context.Context) error {
		put, err := mark.SQL{}.PutScheme(ctx, version, scheme, demotest.World().Users[0].ID, demo.Now())
		assert.True(t, put)
		return err
	}))
}

// TestAllMarksFollowTheScheme: as each would be judged by itself, and the sums with them.
func TestAllMarksFollowTheScheme(t *testing.T) {
	app, _ := demotest.Open(t)
	k := &mark.Keeper{DB: app, Log: slog.New(slog.DiscardHandler)}
	require.NoError(t, k.Judge(context.Background(), clock), "there is nothing to do")
	choose(t, app, 1, finishing())
	require.NoError(t, k.Judge(context.Background(), clock))
	want := map[string]int{}
	for _, m := range demotest.World().Marks {
		v := finishing().See(marks.State(m.State), marks.Seen{Assignment: m.Assignment, Technique: m.Technique, Finish: m.Finish, Result: m.Result})
		want[v.Word()]++
	}
	for word, n := range want {
		assert.Equal(t, n, count(t, app, `SELECT count(*)::int AS n FROM mark_slots WHERE club_id = @club AND scheme = 1 AND verdict = '`+word+`'`), word)
	}
	assert.Positive(t, want["empty"], "most marks say nothing of the finish")
	wrong, err := k.Check(context.Background())
	require.NoError(t, err)
	assert.Empty(t, wrong)
	assert.Positive(t, count(t, app, `SELECT count(*)::int AS n FROM changes WHERE club_id = @club AND operation = 'judgeMarks'`), "screens are told")

	require.NoError(t, app.InClub(context.Background(), demotest.World().ClubID, func(ctx context.Context) error {
		put, err := mark.SQL{}.PutScheme(ctx, 1, marks.House{Scheme: marks.Shipped()}, uuid.New(), demo.Now())
		assert.False(t, put, "somebody else was quicker")
		return err
	}))

	// Groups that judge otherwise, their marks of old among them: as each would be judged by itself.
	house := marks.House{Scheme: marks.Shipped(), Groups: map[string]marks.Scheme{"ol": {Kind: marks.PlusMinus, ByResult: true}, "wr": finishing().Scheme}}
	choose(t, app, 2, house)
	require.NoError(t, k.Judge(context.Background(), clock))
	groups := map[uuid.UUID]string{}
	for _, p := range demotest.World().Placements {
		groups[p.ID] = p.Group
	}
	want = map[string]int{}
	for _, m := range demotest.World().Marks {
		group := demotest.World().GroupOf[m.PlayerID]
		if m.PlacementID != nil {
			group = groups[*m.PlacementID]
		}
		v := house.For(group).See(marks.State(m.State), marks.Seen{Assignment: m.Assignment, Technique: m.Technique, Finish: m.Finish, Result: m.Result})
		want[v.Word()]++
	}
	for word, n := range want {
		assert.Equal(t, n, count(t, app, `SELECT count(*)::int AS n FROM mark_slots WHERE club_id = @club AND scheme = 2 AND verdict = '`+word+`'`), word)
	}
	wrong, err = k.Check(context.Background())
	require.NoError(t, err)
	assert.Empty(t, wrong)
}

// TestWrongSumsAreFoundAndPutRight, when they were changed past the database's own rules.
func TestWrongSumsAreFoundAndPutRight(t *testing.T) {
	app, owner := demotest.Open(t)
	k := &mark.Keeper{DB: app, Log: slog.New(slog.DiscardHandler)}
	check := func() int64 {
		wrong, err := k.Check(context.Background())
		require.NoError(t, err)
		return wrong[demotest.World().ClubID]
	}
	assert.Zero(t, check())
	require.NoError(t, owner.InClub(context.Background(), demotest.World().ClubID, func(ctx context.Context) error {
		for _, q := range []string{
			`UPDATE mark_days SET clean = clean + 1 WHERE (player_id, on_date, technique_key) = (SELECT player_id, on_date, technique_key FROM mark_days LIMIT 1)`,
			`DELETE FROM mark_fault_days WHERE fault = 'base_hands_wide'`,
			`UPDATE mark_runs SET reps = reps || 'c' WHERE place_id = (SELECT place_id FROM mark_runs LIMIT 1)`,
		} {
			if _, err := pg.Exec(ctx, q, nil); err != nil {
				return err
			}
		}
		return nil
	}))
	assert.Positive(t, check())
	require.NoError(t, k.Rebuild(context.Background()))
	assert.Zero(t, check())
}

// TestOldSeasonsAreRetired: the single marks go, the sums stay and are still right.
func TestOldSeasonsAreRetired(t *testing.T) {
	app, owner := demotest.Open(t)
	require.NoError(t, demotest.Earlier(context.Background(), owner))
	k := &mark.Keeper{DB: app, Log: slog.New(slog.DiscardHandler), Keep: 1}
	sums := count(t, app, `SELECT sum(clean + faulty + not_graded)::int AS n FROM mark_days WHERE club_id = @club`)
	all := len(demotest.World().Marks)
	assert.Equal(t, 2*all, count(t, app, `SELECT count(*)::int AS n FROM mark_slots WHERE club_id = @club`))
	require.NoError(t, k.Retire(context.Background()))
	assert.Equal(t, all, count(t, app, `SELECT count(*)::int AS n FROM mark_slots WHERE club_id = @club`))
	assert.Equal(t, all, count(t, app, `SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club`))
	wrong, err := k.Check(context.Background())
	require.NoError(t, err)
	assert.Empty(t, wrong)
	require.NoError(t, k.Rebuild(context.Background()))
	assert.Equal(t, sums, count(t, app, `SELECT sum(clean + faulty + not_graded)::int AS n FROM mark_days WHERE club_id = @club`), "a rebuilding leaves them")
	k.Keep = 0
	require.NoError(t, k.Retire(context.Background()), "by default nothing is retired")
}

// BenchmarkScheme changes how the demo's club judges, all of its marks.
func BenchmarkScheme(b *testing.B) {
	app, _ := demotest.Open(b)
	k := &mark.Keeper{DB: app, Log: slog.New(slog.DiscardHandler)}
	version := 0
	for b.Loop() {
		version++
		choose(b, app, version, []marks.House{finishing(), {Scheme: marks.Shipped()}}[version%2])
		require.NoError(b, k.Judge(context.Background(), clock))
	}
	b.ReportMetric(float64(len(demotest.World().Marks)), "marks")
}
