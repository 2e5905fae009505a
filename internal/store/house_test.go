package store_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/house"
	"nineyard/internal/app"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// shelf is a migrated database with two clubs and a player in each.
type shelf struct {
	app.HouseStore
	t              *testing.T
	ctx            context.Context
	club, other    uuid.UUID
	season         uuid.UUID
	player, theirs uuid.UUID
	now            time.Time
}

func open(t *testing.T) shelf {
	t.Helper()
	ctx := context.Background()
	st, pool, err := store.Open(pgtest.URL(t), 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = pool.Close() })
	_, err = store.Migrate(ctx, pool)
	require.NoError(t, err)
	s := shelf{HouseStore: st, t: t, ctx: ctx, now: time.Date(2026, 10, 13, 17, 0, 0, 0, time.UTC)}
	for i, name := range []string{"Marrow Point", "Dunmere"} {
		require.NoError(t, st.CreateClub(ctx, store.NewClub{Club: name, Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "H. Coach",
			Email: fmt.Sprintf("h%d@club.example", i), Password: "a long enough one"}))
		u, err := st.UserByEmail(ctx, fmt.Sprintf("h%d@club.example", i))
		require.NoError(t, err)
		p := app.Player{ID: uuid.New(), ClubID: u.ClubID, LastName: "Sato", Status: "available"}
		require.NoError(t, st.DB().Exec(`INSERT INTO players (id, club_id, last_name) VALUES (?, ?, ?)`, p.ID, p.ClubID, p.LastName).Error)
		if i == 0 {
			a, err := st.Actor(ctx, u.ID)
			require.NoError(t, err)
			require.Zero(t, a.HouseLatest, "no version yet")
			s.club, s.player, s.season = u.ClubID, p.ID, a.SeasonID
		} else {
			s.other, s.theirs = u.ClubID, p.ID
		}
	}
	return s
}

func entries(name string) []house.Entry {
	return []house.Entry{{Ref: house.Ref{Kind: "fault", Key: "late_hat"}, Fields: house.Fields{"name": `"` + name + `"`}}}
}

func (s shelf) version(club uuid.UUID, n int, digest string, touched ...string) app.HouseVersion {
	return app.HouseVersion{ClubID: club, Version: n, ID: uuid.New(), Digest: digest, Touched: touched, Summary: fmt.Sprintf("version %d", n), CreatedAt: s.now,
		Layer: house.Layer{}.Put(entries("x")[0].Ref, nil, house.Fields{"name": fmt.Sprintf(`"%d"`, n)})}
}

func TestVersionsAreAppendedAndReadBack(t *testing.T) {
	s := open(t)
	for range 2 { // remembering twice is harmless
		require.NoError(t, s.RememberEdition(s.ctx, "d1", entries("Late hat")))
	}
	back, err := s.Edition(s.ctx, "d1")
	require.NoError(t, err)
	assert.Equal(t, entries("Late hat"), back)
	_, err = s.Edition(s.ctx, "d2")
	assert.ErrorIs(t, err, app.ErrNotFound)

	_, err = s.HouseVersion(s.ctx, s.club, 0)
	assert.ErrorIs(t, err, app.ErrNotFound)
	one, two := s.version(s.club, 1, "d1"), s.version(s.club, 2, "d1", "fault late_hat", "drill bag")
	require.NoError(t, s.AddHouseVersion(s.ctx, one))
	require.NoError(t, s.AddHouseVersion(s.ctx, two))
	assert.ErrorIs(t, s.AddHouseVersion(s.ctx, s.version(s.club, 2, "d1")), app.ErrIDTaken, "a number once")
	again := s.version(s.club, 3, "d1")
	again.ID = two.ID
	assert.ErrorIs(t, s.AddHouseVersion(s.ctx, again), app.ErrIDTaken, "an id once")
	assert.Error(t, s.AddHouseVersion(s.ctx, s.version(s.club, 3, "unknown")), "of an edition that is known")

	latest, err := s.HouseVersion(s.ctx, s.club, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, latest.Version)
	assert.Equal(t, two.Layer, latest.Layer)
	assert.Equal(t, two.Touched, latest.Touched)
	first, err := s.HouseVersion(s.ctx, s.club, 1)
	require.NoError(t, err)
	assert.Equal(t, one.Layer, first.Layer)
	byID, err := s.HouseVersionByID(s.ctx, s.club, two.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, byID.Version)

	list, err := s.HouseVersions(s.ctx, s.club, "", 10)
	require.NoError(t, err)
	assert.Len(t, list, 2)
	list, err = s.HouseVersions(s.ctx, s.club, "drill bag", 10)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, 2, list[0].Version)

	// The other club has none of it.
	_, err = s.HouseVersion(s.ctx, s.other, 0)
	assert.ErrorIs(t, err, app.ErrNotFound)
	_, err = s.HouseVersionByID(s.ctx, s.other, two.ID)
	assert.ErrorIs(t, err, app.ErrNotFound)
	clubs, err := s.Clubs(s.ctx, "d1")
	require.NoError(t, err)
	assert.Equal(t, []uuid.UUID{s.other}, clubs, "the edition is news to it")
}

func (s shelf) found(club uuid.UUID, words string) []string {
	s.t.Helper()
	hits, err := s.Find(s.ctx, club, words, "ol", 10)
	require.NoError(s.t, err)
	keys := []string{}
	for _, h := range hits {
		keys = append(keys, h.Key)
	}
	return keys
}

func TestFindIsScopedAndForgiving(t *testing.T) {
	s := open(t)
	require.NoError(t, s.ReplaceTerms(s.ctx, s.club, []app.Term{
		{Kind: "technique", Key: "kick", Technique: "kick", Groups: []string{"ol"}, Name: "Kick and slide", Terms: "kick and slide · pass set", Body: "Set between the rusher and the passer."},
		{Kind: "technique", Key: "kickout", Technique: "kickout", Groups: []string{"te"}, Name: "Kick-out", Terms: "kick-out", Body: "From the wing."},
		{Kind: "fault", Key: "lean", Technique: "kick", Groups: []string{"ol"}, Name: "Leans", Terms: "leans", Body: "A swim takes him off his feet."},
	}))
	require.NoError(t, s.ReplaceTerms(s.ctx, s.other, []app.Term{{Kind: "drill", Key: "secret", Groups: []string{}, Name: "Our secret", Terms: "our secret", Body: "kick"}}))
	for words, want := range map[string][]string{
		"kick":       {"kick", "kickout"}, // what the group is taught comes first
		"pass set":   {"kick"},
		"slide kick": {"kick"},
		"slied":      {"kick"},
		"pas set":    {"kick"},
		"swim":       {"lean"},
		"leens":      {"lean"},
		"xyzzyq":     {},
		"' & | ! :*": {},
	} {
		assert.Equal(t, want, s.found(s.club, words), words)
	}
	assert.NotContains(t, s.found(s.club, "secret"), "secret")
	require.NoError(t, s.ReplaceTerms(s.ctx, s.club, nil))
	assert.Empty(t, s.found(s.club, "kick"), "what is not taught any more is not found")
	assert.Equal(t, []string{"secret"}, s.found(s.other, "secret"))
}

func TestExceptionsReplaceAndStayOnRecord(t *testing.T) {
	s := open(t)
	x := app.Exception{ID: uuid.New(), ClubID: s.club, PlayerID: s.player, CheckpointKey: "first", OkLow: 5, OkHigh: 11, WatchLow: 4, WatchHigh: 13, Reason: "long legs", CreatedAt: s.now}
	for range 2 {
		require.NoError(t, s.PutException(s.ctx, x))
	}
	next := x
	next.ID, next.OkHigh = uuid.New(), 12
	require.NoError(t, s.PutException(s.ctx, next))
	list, err := s.Exceptions(s.ctx, s.club)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.InDelta(t, 12, list[0].OkHigh, 0)
	none, err := s.Exceptions(s.ctx, s.other)
	require.NoError(t, err)
	assert.Empty(t, none)
	foreign := x
	foreign.ID, foreign.PlayerID = uuid.New(), s.theirs
	assert.Error(t, s.PutException(s.ctx, foreign), "another club's player")
	assert.ErrorIs(t, s.WithdrawException(s.ctx, s.other, s.player, "first", s.now), app.ErrNotFound)
	require.NoError(t, s.WithdrawException(s.ctx, s.club, s.player, "first", s.now))
	assert.ErrorIs(t, s.WithdrawException(s.ctx, s.club, s.player, "first", s.now), app.ErrNotFound)
}

func TestOverridesOnceAStage(t *testing.T) {
	s := open(t)
	o := app.Override{ID: uuid.New(), ClubID: s.club, SeasonID: s.season, PlayerID: s.player, LadderKey: "l", StageKey: "a", OnDate: s.now, Reason: "did it all spring", CreatedAt: s.now}
	for range 2 {
		require.NoError(t, s.AddOverride(s.ctx, o))
	}
	second := o
	second.ID = uuid.New()
	assert.ErrorIs(t, s.AddOverride(s.ctx, second), app.ErrIDTaken)
	list, err := s.Overrides(s.ctx, s.club, s.season)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "did it all spring", list[0].Reason)
	_, err = s.WithdrawOverride(s.ctx, s.other, o.ID, s.now)
	assert.ErrorIs(t, err, app.ErrNotFound)
	back, err := s.WithdrawOverride(s.ctx, s.club, o.ID, s.now)
	require.NoError(t, err)
	assert.Equal(t, s.player, back.PlayerID)
	require.NoError(t, s.AddOverride(s.ctx, second), "and then again")
}

func TestUsesOfNothing(t *testing.T) {
	s := open(t)
	uses, err := s.Uses(s.ctx, s.club, s.season, []string{"kick"}, []string{"line"}, []string{"lean", `"quoted`})
	require.NoError(t, err)
	for _, u := range uses {
		assert.Zero(t, u.Marks)
		assert.Empty(t, u.Recent)
	}
}
