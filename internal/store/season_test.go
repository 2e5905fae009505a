package store_test

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/app"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/store"
)

// field is a shelf with one practice of the first club: a period of the line's own, and
// one game of a single play.
type field struct {
	shelf
	*store.Store
	practice, period, play uuid.UUID
	day                    time.Time
}

func openField(t *testing.T) field {
	t.Helper()
	s := open(t)
	f := field{shelf: s, Store: s.HouseStore.(*store.Store), practice: uuid.New(), period: uuid.New(), play: uuid.New(),
		day: time.Date(2026, 10, 13, 0, 0, 0, 0, time.UTC)}
	game := uuid.New()
	for _, step := range []struct {
		sql  string
		args []any
	}{
		{`INSERT INTO practices (id, club_id, season_id, on_date, title, start_minute, minutes) VALUES (?, ?, ?, ?, 'Tuesday', 1080, 90)`, []any{f.practice, s.club, s.season, f.day}},
		{`INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact) VALUES (?, ?, ?, 10, 20, 'individual', 'Line', 'bag')`, []any{f.period, s.club, f.practice}},
		{`INSERT INTO period_groups VALUES (?, ?, 'ol')`, []any{s.club, f.period}},
		{`INSERT INTO player_groups VALUES (?, ?, 'ol')`, []any{s.club, s.player}},
		{`INSERT INTO player_groups VALUES (?, ?, 'ol')`, []any{s.other, s.theirs}},
		{`INSERT INTO games (id, club_id, season_id, on_date, opponent, home) VALUES (?, ?, ?, ?, 'Dunmere', true)`, []any{game, s.club, s.season, f.day.AddDate(0, 0, 3)}},
		{`INSERT INTO plays (id, club_id, game_id, number, offense) VALUES (?, ?, ?, 1, true)`, []any{f.play, s.club, game}},
	} {
		require.NoError(t, f.DB().Exec(step.sql, step.args...).Error, step.sql)
	}
	return f
}

// place puts drills into the period, one behind the other.
func (f field) place(drills ...string) []app.Placement {
	f.t.Helper()
	placed := make([]app.Placement, len(drills))
	for i, d := range drills {
		placed[i] = app.Placement{ID: uuid.New(), DrillKey: d, Start: 5 * i, Minutes: 5, Lanes: 2}
	}
	require.NoError(f.t, f.ReplacePlacements(f.ctx, f.club, f.period, uuid.New(), f.now, placed))
	return placed
}

func (f field) mark(placement uuid.UUID, rep int, state string, technique *int, faults string) app.MarkEvent {
	return app.MarkEvent{ID: uuid.New(), ClubID: f.club, PlayerID: f.player, PlacementID: &placement, Rep: &rep, TechniqueKey: "base_block",
		State: state, Assignment: technique, Technique: technique, Faults: json.RawMessage(faults), Measures: json.RawMessage("[]"), Standard: 1, CreatedAt: f.now}
}

func bit(v int) *int { return &v }

// TestReplicasMigrateTogether starts several at once on an empty database, as a rollout
// does.
func TestReplicasMigrateTogether(t *testing.T) {
	url := pgtest.URL(t)
	var wait sync.WaitGroup
	versions, errs := make([]int64, 4), make([]error, 4)
	for i := range versions {
		_, pool, err := store.Open(url, 2)
		require.NoError(t, err)
		t.Cleanup(func() { _ = pool.Close() })
		wait.Go(func() { versions[i], errs[i] = store.Migrate(context.Background(), pool) })
	}
	wait.Wait()
	for i := range versions {
		require.NoError(t, errs[i])
		assert.Equal(t, versions[0], versions[i])
	}
}

func TestAMarkSentAgainChangesNothing(t *testing.T) {
	f := openField(t)
	pl := f.place("pull_bag")[0]
	first := f.mark(pl.ID, 1, "looked", bit(0), `[{"key":"base_hands_wide"}]`)
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{first}))
	corrected := f.mark(pl.ID, 1, "looked", bit(1), `[]`)
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{corrected}))
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{first, corrected}), "the outbox sends again after a lost answer")

	got, err := f.PlacementMarks(f.ctx, f.club, pl.ID)
	require.NoError(t, err)
	require.Len(t, got, 1)
	assert.Equal(t, corrected.ID, got[0].ID, "the newest event of a slot holds, whatever is sent again")
	assert.Equal(t, 1, *got[0].Technique)
	var events int
	require.NoError(t, f.DB().Raw(`SELECT count(*) FROM mark_events`).Scan(&events).Error)
	assert.Equal(t, 2, events, "what was corrected stays on record")
	assert.ErrorContains(t, f.DB().Exec(`UPDATE mark_events SET note = 'x'`).Error, "append only")
}

func TestAWithdrawnMarkIsGoneFromEveryView(t *testing.T) {
	f := openField(t)
	pl := f.place("pull_bag")[0]
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{f.mark(pl.ID, 1, "looked", bit(0), `[{"key":"base_hands_wide"}]`)}))
	count := func() (marks, tallies, faults, reps, evidence int) {
		a, err := f.PlacementMarks(f.ctx, f.club, pl.ID)
		require.NoError(t, err)
		b, err := f.MarkTallies(f.ctx, f.club, "ol", f.day, f.day)
		require.NoError(t, err)
		c, err := f.FaultTallies(f.ctx, f.club, "ol", f.day, f.day)
		require.NoError(t, err)
		d, err := f.StageRuns(f.ctx, f.club, "ol", nil, f.day, f.day)
		require.NoError(t, err)
		e, err := f.Evidence(f.ctx, f.club, f.player, "base_block", "base_hands_wide", f.day, f.day)
		require.NoError(t, err)
		return len(a), len(b), len(c), len(d), len(e)
	}
	one := func(a, b, c, d, e int) []int { return []int{a, b, c, d, e} }
	assert.Equal(t, []int{1, 1, 1, 1, 1}, one(count()))
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{f.mark(pl.ID, 1, "withdrawn", nil, `[]`)}))
	assert.Equal(t, []int{0, 0, 0, 0, 0}, one(count()))
	placed, err := f.PeriodPlacements(f.ctx, f.club, f.period)
	require.NoError(t, err)
	assert.Zero(t, placed[0].Marks)
}

// TestViewsAgreeWithTheEvents writes marks at random, corrections and withdrawals among
// them, and compares what the product reads with a plain reading of the events.
func TestViewsAgreeWithTheEvents(t *testing.T) {
	f := openField(t)
	placed := f.place("pull_bag", "fit_and_freeze")
	random := rand.New(rand.NewPCG(7, 1))
	type slot struct {
		placement uuid.UUID
		rep       int
	}
	holds := map[slot]app.MarkEvent{}
	for range 40 {
		var batch []app.MarkEvent
		for range 1 + random.IntN(8) {
			at := slot{placed[random.IntN(2)].ID, 1 + random.IntN(12)}
			state := []string{"assumed", "looked", "looked", "unseen", "withdrawn"}[random.IntN(5)]
			m := f.mark(at.placement, at.rep, state, nil, `[]`)
			switch state {
			case "assumed":
				m.Assignment, m.Technique = bit(1), bit(1)
			case "looked":
				m.Assignment, m.Technique = bit(random.IntN(2)), bit(random.IntN(2))
				if *m.Technique == 0 {
					m.Faults = json.RawMessage(`[{"key":"base_hands_wide"}]`)
				}
				side := []string{"left", "right"}[random.IntN(2)]
				m.Side = &side
			}
			holds[at] = m
			batch = append(batch, m)
		}
		require.NoError(t, f.AddMarks(f.ctx, batch))
	}

	type key struct {
		state      string
		asg, tech  int
		side, what string
	}
	value := func(v *int) int {
		if v == nil {
			return -1
		}
		return *v
	}
	wantReps, wantFaults, wantTallies := map[key]int{}, 0, map[key]int{}
	drill := map[uuid.UUID]string{placed[0].ID: "pull_bag", placed[1].ID: "fit_and_freeze"}
	for at, m := range holds {
		if m.State == "withdrawn" {
			continue
		}
		side := ""
		if m.Side != nil {
			side = *m.Side
		}
		wantReps[key{m.State, value(m.Assignment), value(m.Technique), side, drill[at.placement]}]++
		wantTallies[key{m.State, value(m.Assignment), value(m.Technique), "", ""}]++
		if string(m.Faults) != "[]" {
			wantFaults++
		}
	}
	runs, err := f.StageRuns(f.ctx, f.club, "ol", &f.player, f.day, f.day)
	require.NoError(t, err)
	gotReps := map[key]int{}
	total := 0
	for _, run := range runs {
		for _, r := range run.Reps {
			gotReps[key{r.State, value(r.Assignment), value(r.Technique), r.Side, *run.DrillKey}]++
			total++
		}
	}
	assert.Equal(t, wantReps, gotReps)
	tallies, err := f.MarkTallies(f.ctx, f.club, "ol", f.day, f.day)
	require.NoError(t, err)
	gotTallies := map[key]int{}
	for _, r := range tallies {
		gotTallies[key{r.State, value(r.Assignment), value(r.Technique), "", ""}] += r.N
	}
	assert.Equal(t, wantTallies, gotTallies)
	faults, err := f.FaultTallies(f.ctx, f.club, "ol", f.day, f.day)
	require.NoError(t, err)
	require.Len(t, faults, 1)
	assert.Equal(t, wantFaults, faults[0].N)
	states, err := f.GradeStates(f.ctx, f.club, f.season, "ol", true, f.day, f.day.AddDate(0, 0, 7))
	require.NoError(t, err)
	graded := 0
	for _, g := range states {
		if g.Kind == "drill" {
			graded += g.Graded
			continue
		}
		assert.Equal(t, "Dunmere", g.Title)
		assert.Equal(t, 1, g.Plays)
		assert.Zero(t, g.Graded)
	}
	assert.Equal(t, total, graded)
}

func TestAMovedPracticeTakesItsMarksAlong(t *testing.T) {
	f := openField(t)
	pl := f.place("pull_bag")[0]
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{f.mark(pl.ID, 1, "looked", bit(1), `[]`)}))
	require.NoError(t, f.DB().Exec(`UPDATE practices SET on_date = on_date + 1 WHERE id = ?`, f.practice).Error)
	next := f.day.AddDate(0, 0, 1)
	old, err := f.MarkTallies(f.ctx, f.club, "ol", f.day, f.day)
	require.NoError(t, err)
	assert.Empty(t, old)
	moved, err := f.MarkTallies(f.ctx, f.club, "ol", next, next)
	require.NoError(t, err)
	assert.Len(t, moved, 1)
}

// TestNothingOfAnotherClubIsReadOrWritten asks with the other club's id for everything
// the first club has.
func TestNothingOfAnotherClubIsReadOrWritten(t *testing.T) {
	f := openField(t)
	pl := f.place("pull_bag")[0]
	require.NoError(t, f.AddMarks(f.ctx, []app.MarkEvent{f.mark(pl.ID, 1, "looked", bit(0), `[{"key":"base_hands_wide"}]`)}))

	_, err := f.Practice(f.ctx, f.other, f.practice)
	assert.ErrorIs(t, err, app.ErrNotFound)
	_, err = f.Period(f.ctx, f.other, f.period, false)
	assert.ErrorIs(t, err, app.ErrNotFound)
	_, err = f.Player(f.ctx, f.other, f.player)
	assert.ErrorIs(t, err, app.ErrNotFound)
	periods, err := f.Periods(f.ctx, f.other, f.practice)
	assert.NoError(t, err)
	assert.Empty(t, periods)
	placed, err := f.Placements(f.ctx, f.other, f.practice)
	assert.NoError(t, err)
	assert.Empty(t, placed)
	byID, err := f.PlacementsByID(f.ctx, f.other, []uuid.UUID{pl.ID})
	assert.NoError(t, err)
	assert.Empty(t, byID)
	marks, err := f.PlacementMarks(f.ctx, f.other, pl.ID)
	assert.NoError(t, err)
	assert.Empty(t, marks)
	tallies, err := f.MarkTallies(f.ctx, f.other, "ol", f.day, f.day)
	assert.NoError(t, err)
	assert.Empty(t, tallies)
	evidence, err := f.Evidence(f.ctx, f.other, f.player, "", "", f.day, f.day)
	assert.NoError(t, err)
	assert.Empty(t, evidence)

	// Taking over a placement's id, or marking another club's player, is refused whole.
	thief := app.Placement{ID: pl.ID, DrillKey: "stolen", Start: 0, Minutes: 5, Lanes: 1}
	assert.Error(t, f.ReplacePlacements(f.ctx, f.other, f.period, uuid.New(), f.now, []app.Placement{thief}))
	stranger := f.mark(pl.ID, 2, "looked", bit(1), `[]`)
	stranger.PlayerID = f.theirs
	assert.Error(t, f.AddMarks(f.ctx, []app.MarkEvent{f.mark(pl.ID, 3, "looked", bit(1), `[]`), stranger}), "a player of another club")
	marks, err = f.PlacementMarks(f.ctx, f.club, pl.ID)
	require.NoError(t, err)
	assert.Len(t, marks, 1, "none of a refused batch is kept")
	placed, err = f.Placements(f.ctx, f.club, f.practice)
	require.NoError(t, err)
	assert.Equal(t, "pull_bag", placed[0].DrillKey)
}

func TestPlacementsMaySwapButNotOverlap(t *testing.T) {
	f := openField(t)
	placed := f.place("pull_bag", "fit_and_freeze")
	before, err := f.Period(f.ctx, f.club, f.period, false)
	require.NoError(t, err)
	placed[0].Start, placed[1].Start = placed[1].Start, placed[0].Start
	require.NoError(t, f.InTx(f.ctx, func(tx app.Store) error {
		return tx.ReplacePlacements(f.ctx, f.club, f.period, uuid.New(), f.now, placed)
	}))
	got, err := f.PeriodPlacements(f.ctx, f.club, f.period)
	require.NoError(t, err)
	require.Len(t, got, 2)
	assert.Equal(t, "fit_and_freeze", got[0].DrillKey)
	after, err := f.Period(f.ctx, f.club, f.period, false)
	require.NoError(t, err)
	assert.Equal(t, before.Version+1, after.Version, "every save is a version, so that two coaches see each other")
	assert.Equal(t, []string{"ol"}, after.Groups)

	placed[0].Start = placed[1].Start + 2
	assert.Error(t, f.InTx(f.ctx, func(tx app.Store) error {
		return tx.ReplacePlacements(f.ctx, f.club, f.period, uuid.New(), f.now, placed)
	}), "the last line of defence behind the rules")
	next, err := f.NextPractice(f.ctx, f.club, f.season, "ol", f.day)
	require.NoError(t, err)
	assert.Equal(t, f.practice, next.ID)
	_, err = f.NextPractice(f.ctx, f.club, f.season, "db", f.day)
	assert.ErrorIs(t, err, app.ErrNotFound)
	_, err = f.NextPractice(f.ctx, f.club, f.season, "ol", f.day.AddDate(0, 0, 1))
	assert.ErrorIs(t, err, app.ErrNotFound)
}

// TestUsesNameThePractices counts what is used where over a practice and a game.
func TestUsesNameThePractices(t *testing.T) {
	f := openField(t)
	pl := f.place("pull_bag", "fit_and_freeze")
	var batch []app.MarkEvent
	for rep := range 3 {
		batch = append(batch, f.mark(pl[0].ID, rep+1, "looked", bit(0), `[{"key":"base_hands_wide"}]`))
	}
	onFilm := f.mark(pl[0].ID, 1, "looked", bit(0), `[{"key":"base_hands_wide"}]`)
	onFilm.PlacementID, onFilm.Rep, onFilm.PlayID = nil, nil, &f.play
	require.NoError(t, f.AddMarks(f.ctx, append(batch, onFilm)))
	uses, err := f.Uses(f.ctx, f.club, f.season, []string{"base_block", "slant"}, []string{"pull_bag", "fit_and_freeze", "count_men"}, []string{"base_hands_wide"})
	require.NoError(t, err)
	day := []app.UseDay{{Practice: f.practice, On: f.day}}
	want := map[string]app.Use{
		"base_block":      {Kind: "technique", Key: "base_block", Practices: 1, Marks: 4, Recent: day},
		"pull_bag":        {Kind: "drill", Key: "pull_bag", Practices: 1, Marks: 3, Recent: day},
		"fit_and_freeze":  {Kind: "drill", Key: "fit_and_freeze", Practices: 1, Recent: day},
		"base_hands_wide": {Kind: "fault", Key: "base_hands_wide", Practices: 1, Marks: 4, Recent: day},
	}
	got := map[string]app.Use{}
	for _, u := range uses {
		got[u.Key] = u
	}
	assert.Equal(t, want, got)
	foreign, err := f.Uses(f.ctx, f.other, f.season, []string{"base_block"}, []string{"pull_bag"}, []string{"base_hands_wide"})
	require.NoError(t, err)
	for _, u := range foreign {
		assert.Zero(t, u.Marks)
		assert.Empty(t, u.Recent)
	}
}

func TestPlayersAreSavedWhole(t *testing.T) {
	f := openField(t)
	h := 74.5
	p := app.Player{ID: uuid.New(), ClubID: f.club, Jersey: "72", FirstName: "Omar", LastName: "Bale", Position: "LG", HeightIn: &h, Status: "available"}
	require.NoError(t, f.SavePlayers(f.ctx, []app.Player{p}, nil, uuid.New(), map[uuid.UUID]string{p.ID: "ol"}))
	got, err := f.Player(f.ctx, f.club, p.ID)
	require.NoError(t, err)
	assert.Equal(t, 74.5, *got.HeightIn)
	p.Jersey, p.Status = "7A", "limited"
	require.NoError(t, f.SavePlayers(f.ctx, nil, []app.Player{p}, uuid.New(), map[uuid.UUID]string{p.ID: "ol"}))
	group, err := f.Players(f.ctx, f.club, "ol")
	require.NoError(t, err)
	require.Len(t, group, 2)
	bad := p
	bad.ID, bad.Jersey = uuid.New(), "no number"
	good := p
	good.ID, good.LastName = uuid.New(), "Holt"
	assert.Error(t, f.InTx(f.ctx, func(tx app.Store) error {
		return tx.SavePlayers(f.ctx, []app.Player{good, bad}, nil, uuid.New(), nil)
	}))
	all, err := f.AllPlayers(f.ctx, f.club)
	require.NoError(t, err)
	assert.Len(t, all, 2, "nothing is half-imported")

	none, err := f.RosterMapping(f.ctx, f.club, "a,b")
	require.NoError(t, err)
	assert.Empty(t, none)
	for _, mapping := range []map[string]int{{"last_name": 0}, {"last_name": 1, "jersey": 0}} {
		require.NoError(t, f.SaveRosterMapping(f.ctx, f.club, "a,b", mapping))
		got, err := f.RosterMapping(f.ctx, f.club, "a,b")
		require.NoError(t, err)
		assert.Equal(t, mapping, got)
	}
}

func TestSignInFailuresAreCountedApart(t *testing.T) {
	f := openField(t)
	for i := range 3 {
		require.NoError(t, f.AddSignInFailure(f.ctx, "a@club.example", "10.0.0.1", f.now.Add(-time.Duration(i)*10*time.Minute)))
	}
	require.NoError(t, f.AddSignInFailure(f.ctx, "b@club.example", "10.0.0.1", f.now))
	byEmail, byIP, err := f.SignInFailures(f.ctx, "a@club.example", "10.0.0.1", f.now.Add(-15*time.Minute))
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3}, []int{byEmail, byIP}, "what is older than the window does not count")
}
