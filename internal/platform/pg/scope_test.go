package pg

import (
	"context"
	"errors"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/platform/aside"
)

// shirt is a record as the features have them.
type shirt struct {
	ID       uuid.UUID
	ClubID   uuid.UUID
	LastName string
}

func (shirt) TableName() string { return "players" }

// clubs is a migrated database with two clubs and a player in each, and the application's
// own connection to it.
func clubs(t *testing.T) (app, owner *DB, one, two uuid.UUID) {
	t.Helper()
	url, owner := migrated(t)
	app, err := Open(url, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = app.Close() })
	one, two = uuid.New(), uuid.New()
	for club, name := range map[uuid.UUID]string{one: "Sato", two: "Marsh"} {
		require.NoError(t, owner.InClub(context.Background(), club, func(ctx context.Context) error {
			if _, err := Exec(ctx, `INSERT INTO clubs (id, name, timezone) VALUES (@club, 'C', 'UTC')`, nil); err != nil {
				return err
			}
			return Gorm(ctx).Create(&shirt{ID: uuid.New(), LastName: name}).Error
		}))
	}
	return app, owner, one, two
}

// TestAStatementWithoutItsConditionReadsNothingOfOthers: the last line of defence is the
// database's.
func TestAStatementWithoutItsConditionReadsNothingOfOthers(t *testing.T) {
	app, _, one, two := clubs(t)
	ctx := context.Background()
	type row struct{ LastName string }
	count := func(ctx context.Context) []row {
		rows, err := Select[row](ctx, `SELECT last_name FROM players`, nil)
		require.NoError(t, err)
		return rows
	}
	require.NoError(t, app.InClub(ctx, one, func(ctx context.Context) error {
		assert.Equal(t, []row{{"Sato"}}, count(ctx))
		n, err := Exec(ctx, `UPDATE players SET position = 'LG'`, nil)
		require.NoError(t, err)
		assert.EqualValues(t, 1, n)
		n, err = Exec(ctx, `DELETE FROM players WHERE club_id = @two`, Args{"two": two})
		require.NoError(t, err)
		assert.Zero(t, n)
		return nil
	}))
	require.NoError(t, app.Anywhere(ctx, func(ctx context.Context) error {
		assert.Empty(t, count(ctx), "outside of a club there is nothing")
		return nil
	}))
	err := app.InClub(ctx, one, func(ctx context.Context) error {
		_, err := Exec(ctx, `INSERT INTO players (id, club_id, last_name) VALUES (@id, @two, 'Spy')`, Args{"id": uuid.New(), "two": two})
		return err
	})
	require.ErrorContains(t, err, "row-level security")
	require.NoError(t, app.InClub(ctx, two, func(ctx context.Context) error {
		assert.Equal(t, []row{{"Marsh"}}, count(ctx))
		return nil
	}))
}

func TestEveryTableOfAClubIsGuarded(t *testing.T) {
	_, owner, _, _ := clubs(t)
	var open []string
	rows, err := owner.pool.Query(`
		SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'club_id' AND NOT a.attisdropped
		WHERE c.relkind IN ('r', 'p') AND c.relnamespace = 'public'::regnamespace
		  AND (NOT c.relrowsecurity OR NOT EXISTS (SELECT 1 FROM pg_policies p WHERE p.tablename = c.relname))`)
	require.NoError(t, err)
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		open = append(open, name)
	}
	assert.Empty(t, open, "tables of clubs without row-level security")
}

func TestRecordsAreTheClubsOwn(t *testing.T) {
	_, owner, one, two := clubs(t) // the owner passes row-level security: this is the scope's own doing
	ctx := context.Background()
	require.NoError(t, owner.InClub(ctx, one, func(ctx context.Context) error {
		var all []shirt
		require.NoError(t, Gorm(ctx).Find(&all).Error)
		require.Len(t, all, 1)
		assert.Equal(t, one, all[0].ClubID)
		var n int64
		require.NoError(t, Gorm(ctx).Model(&shirt{}).Count(&n).Error)
		assert.EqualValues(t, 1, n)
		res := Gorm(ctx).Model(&shirt{}).Where("last_name <> ''").Update("last_name", "Satoh")
		require.NoError(t, res.Error)
		assert.EqualValues(t, 1, res.RowsAffected)
		spy := shirt{ID: uuid.New(), ClubID: two, LastName: "Spy"}
		require.NoError(t, Gorm(ctx).Create(&spy).Error)
		assert.Equal(t, one, spy.ClubID, "a new row is this club's, whatever it says")
		res = Gorm(ctx).Where("last_name <> ''").Delete(&shirt{})
		require.NoError(t, res.Error)
		assert.EqualValues(t, 2, res.RowsAffected)
		return nil
	}))
}

func TestATransactionIsWholeOrNothing(t *testing.T) {
	app, _, one, two := clubs(t)
	ctx := context.Background()
	add := func(ctx context.Context) {
		require.NoError(t, Gorm(ctx).Create(&shirt{ID: uuid.New(), LastName: "New"}).Error)
	}
	count := func() (n int64) {
		require.NoError(t, app.InClub(ctx, one, func(ctx context.Context) error { return Gorm(ctx).Model(&shirt{}).Count(&n).Error }))
		return n
	}
	boom := errors.New("boom")
	require.ErrorIs(t, app.InClub(ctx, one, func(ctx context.Context) error {
		add(ctx)
		return app.InClub(ctx, one, func(ctx context.Context) error { add(ctx); return boom }) // joins
	}), boom)
	assert.EqualValues(t, 1, count())
	assert.Panics(t, func() { _ = app.InClub(ctx, one, func(ctx context.Context) error { add(ctx); panic("x") }) })
	assert.EqualValues(t, 1, count())
	require.ErrorContains(t, app.InClub(ctx, one, func(ctx context.Context) error {
		return app.InClub(ctx, two, func(context.Context) error { return nil })
	}), "inside one for")
	_, err := Exec(ctx, `SELECT 1`, nil)
	require.ErrorIs(t, err, ErrNoScope)
	assert.PanicsWithValue(t, ErrNoScope, func() { Gorm(ctx) })
	assert.Equal(t, uuid.Nil, Club(ctx))
}

func TestRowsAreReadByNameAndNothingIsPassedOver(t *testing.T) {
	app, _, one, _ := clubs(t)
	require.NoError(t, app.InClub(context.Background(), one, func(ctx context.Context) error {
		type good struct {
			LastName string
			N        int `db:"n"`
		}
		v, found, err := One[good](ctx, `SELECT last_name, 7 AS n FROM players WHERE club_id = @club`, nil)
		require.NoError(t, err)
		assert.True(t, found)
		assert.Equal(t, good{"Sato", 7}, v)
		_, err = Select[good](ctx, `SELECT last_name FROM players`, nil)
		assert.Error(t, err, "a field without a column")
		_, err = Select[good](ctx, `SELECT last_name, 7 AS n, 1 AS more FROM players`, nil)
		assert.Error(t, err, "a column without a field")
		_, found, err = One[good](ctx, `SELECT last_name, 7 AS n FROM players WHERE false`, nil)
		require.NoError(t, err)
		assert.False(t, found)
		return nil
	}))
}

func TestCounting(t *testing.T) {
	app, _, one, _ := clubs(t)
	ctx, n := Counting(context.Background())
	require.NoError(t, app.InClub(ctx, one, func(ctx context.Context) error {
		require.NoError(t, Lock(ctx, "house"))
		return Gorm(ctx).Find(&[]shirt{}).Error
	}))
	assert.Len(t, n.All(), 2, "what begins, scopes and ends the transaction is not counted")
}

// TestPartsAskInOneTurn: each gets its own rows, what it asks later too; one that fails is told so,
// and so are those whose statements came behind it.
func TestPartsAskInOneTurn(t *testing.T) {
	app, _, one, _ := clubs(t)
	number := func(ctx context.Context, query string) (n int, err error) {
		err = Each(ctx, query, Args{"add": 1}, func(scan func(...any) error) error { return scan(&n) })
		return n, err
	}
	ctx, sent := Counting(context.Background())
	require.NoError(t, app.InClub(ctx, one, func(ctx context.Context) error {
		var a, b, c, d int
		require.NoError(t, aside.Together(ctx,
			func(ctx context.Context) (err error) { a, err = number(ctx, `SELECT 1 + @add::int`); return err },
			func(ctx context.Context) (err error) {
				if b, err = number(ctx, `SELECT 2 + @add::int`); err != nil {
					return err
				}
				c, err = number(ctx, `SELECT 3 + @add::int`)
				return err
			},
			func(ctx context.Context) error {
				list, err := Select[shirt](ctx, `SELECT id, club_id, last_name FROM players WHERE club_id = @club`, nil)
				d = len(list)
				return err
			}))
		assert.Equal(t, []int{2, 3, 4, 1}, []int{a, b, c, d})
		return nil
	}))
	assert.Len(t, sent.All(), 4)

	var before, at, behind error
	err := app.InClub(context.Background(), one, func(ctx context.Context) error {
		return aside.Together(ctx,
			func(ctx context.Context) error { _, before = number(ctx, `SELECT 1 + @add::int`); return before },
			func(ctx context.Context) error { _, at = number(ctx, `SELECT @add::int / 0`); return at },
			func(ctx context.Context) error { _, behind = number(ctx, `SELECT 1 + @add::int`); return behind })
	})
	require.NoError(t, before)
	require.Error(t, behind)
	require.ErrorContains(t, err, "division by zero")
	require.Equal(t, at, err)

	require.ErrorContains(t, app.InClub(context.Background(), one, func(ctx context.Context) error {
		return aside.Together(ctx, func(ctx context.Context) error {
			return Each(ctx, `SELECT 1`, nil, func(func(...any) error) error { panic("a reader") })
		})
	}), "a reader")
	n, err := func() (n int, err error) {
		err = app.InClub(context.Background(), one, func(ctx context.Context) error { n, err = number(ctx, `SELECT @add::int`); return err })
		return n, err
	}()
	require.NoError(t, err, "the connection is whole")
	assert.Equal(t, 1, n)
}
