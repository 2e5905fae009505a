package pg

import (
	"context"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/problem"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func migrated(t *testing.T) (url string, owner *DB) {
	t.Helper()
	url = pgtest.Copy(t, "empty", func(url string) error { _, err := Migrate(context.Background(), url); return err })
	owner, err := OpenOwner(url, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = owner.Close() })
	return url, owner
}

// TestEveryConstraintNamesItsField: a constraint of the schema that input can break has its
// field; the rest are keys and references that only the program could get wrong.
func TestEveryConstraintNamesItsField(t *testing.T) {
	_, d := migrated(t)
	rows, err := d.pool.Query(`
		SELECT conname FROM pg_constraint WHERE connamespace = 'public'::regnamespace AND contype <> 't'
		UNION SELECT indexrelid::regclass::text FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid
		WHERE indisunique AND c.relnamespace = 'public'::regnamespace`)
	require.NoError(t, err)
	defer func() { _ = rows.Close() }()
	structural := func(name string) bool {
		for _, end := range []string{"_pkey", "_club_id_id_key", "_club_id_fkey", "_digest_fkey", "_seq_key", "changes_number"} {
			if strings.HasSuffix(name, end) {
				return true
			}
		}
		for _, begin := range []string{"mark_slots_", "house_versions_", "goose_", "period_groups_club_id_period", "periods_club_id_practice", "placements_club_id_period", "plays_club_id_game", "games_club_id_season", "practices_club_id_season", "user_groups_club_id_user"} {
			if strings.HasPrefix(name, begin) {
				return true
			}
		}
		return false
	}
	seen := map[string]bool{}
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		seen[name] = true
		if _, ok := constraints[name]; !ok {
			assert.True(t, structural(name), "constraint %s names no field", name)
		}
	}
	require.NoError(t, rows.Err())
	for name := range constraints {
		assert.True(t, seen[name], "there is no constraint %s", name)
	}
}

func TestABrokenConstraintSaysItsFieldAndKeepsItsCause(t *testing.T) {
	_, d := migrated(t)
	ctx := context.Background()
	club := uuid.New()
	err := d.InClub(ctx, club, func(ctx context.Context) error {
		_, err := Exec(ctx, `INSERT INTO clubs (id, name, timezone) VALUES (@club, '', 'UTC')`, nil)
		return err
	})
	e, ok := invalid.As(Meaning(err))
	require.True(t, ok)
	assert.Equal(t, "club", e.Field)
	assert.ErrorContains(t, e.Unwrap(), "clubs_name_check", "the driver's words are for the log")
	insert := func(ctx context.Context) error {
		_, err := Exec(ctx, `INSERT INTO clubs (id, name, timezone) VALUES (@club, 'Marrow Point', 'UTC')`, nil)
		return err
	}
	require.NoError(t, d.InClub(ctx, club, insert))
	assert.ErrorIs(t, Meaning(d.InClub(ctx, club, insert)), problem.ErrTaken)
	assert.NoError(t, Meaning(nil))
	assert.ErrorIs(t, Meaning(context.Canceled), context.Canceled)
}

// TestReplicasMigrateTogether starts several at once on an empty database, as a rollout
// does.
func TestReplicasMigrateTogether(t *testing.T) {
	url := pgtest.URL(t)
	var wait sync.WaitGroup
	versions, errs := make([]int64, 4), make([]error, 4)
	for i := range versions {
		wait.Go(func() { versions[i], errs[i] = Migrate(context.Background(), url) })
	}
	wait.Wait()
	for i := range versions {
		require.NoError(t, errs[i])
		assert.Equal(t, versions[0], versions[i])
	}
}
