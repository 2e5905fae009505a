package demo_test

import (
	"context"
	"fmt"
	"log/slog"
	"maps"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/marks"
	core "nineyard/core/roster"
	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	film "nineyard/internal/footage"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
	"nineyard/internal/players"
	"nineyard/internal/product"
	"nineyard/internal/roster"
	"nineyard/internal/staff"
	"nineyard/internal/teach"
)

// structure says everything of the schema but its rows, and the parts of tables that are made
// with a season.
const structure = `
	SELECT format('column %s.%s %s %s %s %s', table_name, column_name, data_type, is_nullable, column_default, generation_expression) AS says
	FROM information_schema.columns WHERE table_schema = 'public' AND table_name !~ @part
	UNION ALL SELECT 'index ' || indexdef FROM pg_indexes WHERE schemaname = 'public' AND tablename !~ @part
	UNION ALL SELECT format('constraint %s on %s: %s', conname, conrelid::regclass, pg_get_constraintdef(oid)) FROM pg_constraint
	WHERE connamespace = 'public'::regnamespace AND conrelid::regclass::text !~ @part AND confrelid::regclass::text !~ @part
	UNION ALL SELECT format('policy %s on %s: %s %s %s', policyname, tablename, roles, qual, with_check) FROM pg_policies WHERE schemaname = 'public'
	UNION ALL SELECT format('security of %s: %s', relname, relrowsecurity) FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p') AND NOT relispartition
	UNION ALL SELECT format('view %s: %s', viewname, definition) FROM pg_views WHERE schemaname = 'public'
	UNION ALL SELECT 'trigger ' || pg_get_triggerdef(t.oid) FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid WHERE NOT tgisinternal AND c.relnamespace = 'public'::regnamespace AND NOT c.relispartition
	UNION ALL SELECT 'function ' || pg_get_functiondef(p.oid) FROM pg_proc p
	WHERE pronamespace = 'public'::regnamespace AND prokind = 'f' AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
	ORDER BY 1`

// sight is a database as it is: what its schema says, and how many rows each table has.
type sight struct {
	says []string
	rows map[string]int
}

func see(t *testing.T, url string) sight {
	t.Helper()
	d, err := pg.OpenOwner(url, 1)
	require.NoError(t, err)
	defer func() { _ = d.Close() }()
	s := sight{rows: map[string]int{}}
	require.NoError(t, d.Anywhere(context.Background(), func(ctx context.Context) error {
		type row struct{ Says string }
		lines, err := pg.Select[row](ctx, structure, pg.Args{"part": `_[0-9]{4}$`})
		require.NoError(t, err)
		for _, l := range lines {
			s.says = append(s.says, l.Says)
		}
		type table struct{ Name string }
		tables, err := pg.Select[table](ctx, `SELECT tablename::text AS name FROM pg_tables WHERE schemaname = 'public' AND tablename <> 'goose_db_version' AND tablename !~ '_[0-9]{4}$'`, pg.Args{})
		require.NoError(t, err)
		for _, x := range tables {
			type count struct{ N int }
			n, _, err := pg.One[count](ctx, fmt.Sprintf(`SELECT count(*)::int AS n FROM %q`, x.Name), pg.Args{})
			require.NoError(t, err)
			s.rows[x.Name] = n.N
		}
		return nil
	}))
	return s
}

// used makes a day's use of every table: a word of the club's own, a list that was sent, a
// coach's word for a player and a range of his own.
func used(t *testing.T, url string) {
	t.Helper()
	app, err := pg.Open(url, 2)
	require.NoError(t, err)
	defer func() { _ = app.Close() }()
	p := product.New(product.Options{DB: app, Now: demo.Now, Demo: demotest.World().ClubID})
	var c access.Coach
	for _, u := range demotest.World().Users {
		if u.Email == demo.LineCoachEmail {
			c, _, err = p.Access.Coach(context.Background(), u.ID)
			require.NoError(t, err)
		}
	}
	require.NoError(t, app.InClub(context.Background(), c.Club.ID, func(ctx context.Context) error {
		_, err := p.Teach.PutEntry(ctx, c, "drill", "pull_bag", teach.EntryChange{ID: uuid.New(), Version: 1, Retired: new(true)})
		require.NoError(t, err)
		id := uuid.New()
		_, err = p.Roster.Send(ctx, c, id, "ol", strings.NewReader("No,Name\n07,Tam Vosper\n"))
		require.NoError(t, err)
		_, err = p.Roster.Import(ctx, c, id, contract.RosterChoice{Group: "ol"})
		require.NoError(t, err)
		require.NoError(t, p.Roster.Proposals.Propose(ctx, []roster.Proposal{{ID: uuid.New(), Group: "db", Person: core.Person{Last: "Quill"}}}, c.ID, demo.Now()))
		player, day := demotest.World().Players[0].ID, season.Of(demo.Now())
		require.NoError(t, p.Players.Store.AddOverride(ctx, c.Season.ID, players.Override{ID: uuid.New(), PlayerID: player, LadderKey: "base_ladder", StageKey: "drive",
			On: day, Reason: "spring", By: c.ID, At: demo.Now()}))
		_, err = p.Plan.PutCalendarLink(ctx, c, uuid.New(), "Phone", strings.Repeat("ab23", 13))
		require.NoError(t, err)
		_, err = p.Plan.PutHeat(ctx, c, demotest.World().Practices[0].ID, uuid.New(), new(24.5))
		require.NoError(t, err)
		watched := demotest.World().Footage[0].Clips[0]
		_, err = p.Footage.Watch(ctx, c, *watched.PlayID, contract.Watching{Place: &contract.Place{ClipID: watched.ID, Frame: 7}})
		require.NoError(t, err)
		_, err = p.Footage.PutDrawing(ctx, c, watched.ID, uuid.New(), 0, contract.DrawingInput{Frame: 7, Shapes: []contract.Shape{{Kind: "arrow", X2: 9, Y2: 9}}})
		require.NoError(t, err)
		require.NoError(t, p.Footage.Uploads.NewUpload(ctx, film.Upload{ID: "one", GameID: &demotest.World().Games[0].ID, Size: 9, By: c.ID}, demo.Now()))
		played := demotest.World().Plays[0]
		entry, _, err := p.Film.Store.Entry(ctx, played.ID)
		require.NoError(t, err)
		entry.Play.Front = "Odd"
		require.NoError(t, p.Film.Store.Put(ctx, entry, c.ID, demo.Now()))
		require.NoError(t, p.Film.Labels.KeepMapping(ctx, "no", map[string]string{"Play": "no"}))
		_, err = p.Film.PutCutUp(ctx, c, "ol", uuid.New(), 0, contract.CutUpInput{Name: "Third", Cut: "third"})
		require.NoError(t, err)
		_, err = p.Film.PutLabelWord(ctx, c, uuid.New(), 0, contract.LabelWordInput{Label: "Front", Said: "Okie", Means: "Odd"})
		require.NoError(t, err)
		last := demotest.World().Games[demo.Week-2].ID
		_, err = p.Tell.PutFeedback(ctx, c, last, "ol", player, 0, contract.FeedbackInput{Fixes: []contract.PointInput{}, Note: "Good week."})
		require.NoError(t, err)
		_, err = p.Tell.PutMeeting(ctx, c, last, "ol", 0, []contract.MeetingItem{})
		require.NoError(t, err)
		_, err = p.Mark.Store.PutScheme(ctx, 1, marks.House{Scheme: marks.Shipped()}, c.ID, demo.Now())
		require.NoError(t, err)
		return p.Players.Store.PutRange(ctx, players.NewRange{ID: uuid.New(), PlayerID: player, Checkpoint: "base_first",
			Own: standard.OwnRange{OK: standard.Band{Low: 6, High: 9}, Watch: standard.Band{Low: 4, High: 12}}, Reason: "long legs", By: c.ID, At: demo.Now()})
	}))
	bg := context.Background()
	head, _, err := p.Access.Coach(bg, demotest.World().Users[0].ID)
	require.NoError(t, err)
	server, err := p.Server(product.Surface{Loopback: true, Web: fstest.MapFS{}, Log: slog.New(slog.DiscardHandler)}) // which gives the staff its sessions
	require.NoError(t, err)
	defer server.Close()
	require.NoError(t, app.InClub(bg, c.Club.ID, func(ctx context.Context) error {
		_, err := p.Staff.Invite(ctx, head, staff.Invite{ID: uuid.New(), Email: "new@club.example", Name: "N. Aide", Role: access.Reader}, strings.Repeat("ab23", 13))
		require.NoError(t, err)
		_, err = p.Account.FinishAuthenticator(ctx, c, "000000")
		require.Error(t, err)
		require.NoError(t, p.Account.Store.AddKey(ctx, c.Account, "Phone", webauthn.Credential{ID: []byte{1}}, demo.Now()))
		require.NoError(t, p.Account.Store.SetCodes(ctx, c.Account, [][]byte{{1}}))
		require.NoError(t, p.Account.Store.Notice(ctx, c.Account, "A passkey was added", demo.Now()))
		return p.Account.AskRecovery(ctx, demo.LineCoachEmail, "10.0.0.1")
	}))
	require.NoError(t, app.InClub(context.Background(), c.Club.ID, func(ctx context.Context) error {
		_, err := changes.Append(ctx, changes.Change{ID: uuid.New(), Person: c.ID, Operation: "putOwnRange", Record: "/players", MadeAt: demo.Now(), At: demo.Now(), Status: 204, Digest: []byte{1}})
		return err
	}))
}

// TestEveryMigrationGoesDownAndUpAgain over the demo's data: the schema is what it was, and
// no row is lost of a table that was there before.
func TestEveryMigrationGoesDownAndUpAgain(t *testing.T) {
	ctx := context.Background()
	url := demotest.Copy(t)
	used(t, url)
	last, err := pg.Migrate(ctx, url)
	require.NoError(t, err)
	to := func(v int64) sight {
		t.Helper()
		reached, err := pg.MigrateTo(ctx, url, v)
		require.NoError(t, err, "to version %d", v)
		require.Equal(t, v, reached)
		return see(t, url)
	}
	top := see(t, url)
	for table, n := range top.rows {
		if !slices.Contains([]string{"sessions", "sign_in_failures", "sign_in_places", "library_terms", "library_words"}, table) {
			assert.NotZero(t, n, "there is a row of %s to lose", table)
		}
	}
	for v := last; v > 0; v-- {
		before := see(t, url)
		down := to(v - 1)
		for table, n := range down.rows {
			if was, ok := before.rows[table]; ok && table != "library_terms" { // which follow from the versions
				assert.Equal(t, was, n, "rows of %s after going down from version %d", table, v)
			}
		}
		up := to(v)
		assert.Equal(t, before.says, up.says, "the schema after version %d went down and up", v)
		for table, n := range down.rows {
			if _, kept := up.rows[table]; kept {
				assert.Equal(t, n, up.rows[table], "rows of %s after version %d went up again", table, v)
			}
		}
		to(v - 1)
	}
	assert.Empty(t, see(t, url).rows)
	assert.Equal(t, top.says, to(last).says)
	assert.Equal(t, slices.Sorted(maps.Keys(top.rows)), slices.Sorted(maps.Keys(see(t, url).rows)))
}

// TestAHoldIsNotLostByGoingBack: a player held out after a head injury is held by the
// version before availability by day, and by this one when it comes back.
func TestAHoldIsNotLostByGoingBack(t *testing.T) {
	ctx := context.Background()
	url := demotest.Copy(t)
	held := func(query string) (names []string) {
		d, err := pg.OpenOwner(url, 1)
		require.NoError(t, err)
		defer func() { _ = d.Close() }()
		type row struct{ Name string }
		require.NoError(t, d.InClub(ctx, demotest.World().ClubID, func(ctx context.Context) error {
			rows, err := pg.Select[row](ctx, query, pg.Args{})
			for _, r := range rows {
				names = append(names, r.Name)
			}
			return err
		}))
		return names
	}
	const spells = `SELECT p.last_name AS name FROM players p JOIN availability_spells s ON s.player_id = p.id
		WHERE s.club_id = @club AND s.status = 'head_hold' AND s.cleared_on IS NULL AND s.from_on <= current_date ORDER BY 1`
	now := held(spells)
	require.NotEmpty(t, now)
	_, err := pg.MigrateTo(ctx, url, 4)
	require.NoError(t, err)
	assert.Equal(t, now, held(`SELECT last_name AS name FROM players WHERE club_id = @club AND status = 'medical_hold' ORDER BY 1`))
	_, err = pg.Migrate(ctx, url)
	require.NoError(t, err)
	assert.Equal(t, now, held(spells))
}

// TestMarksAreMadeWhileTheyAreMoved to their new tables, and a practice is moved to another day:
// none is lost, and the sums are a plain count.
func TestMarksAreMadeWhileTheyAreMoved(t *testing.T) {
	ctx := context.Background()
	url := demotest.Copy(t)
	_, err := pg.MigrateTo(ctx, url, 11)
	require.NoError(t, err)
	w := demotest.World()
	old, err := pg.OpenOwner(url, 2)
	require.NoError(t, err)
	defer func() { _ = old.Close() }()
	var made []uuid.UUID
	began, stopped := make(chan struct{}), make(chan struct{})
	go func() { // as the server before it does, until its tables are gone
		defer close(stopped)
		for i := 0; ; i++ {
			id := uuid.New()
			err := old.InClub(ctx, w.ClubID, func(ctx context.Context) error {
				if _, err := pg.Exec(ctx, `INSERT INTO mark_events (id, club_id, player_id, placement_id, rep, technique_key, state, assignment, technique, faults, created_by)
					VALUES (@id, @club, @player, @placement, @rep, 'base_block', 'looked', 1, 0, '[{"key": "base_hands_wide"}]', @by)`,
					pg.Args{"id": id, "player": w.Players[i%9].ID, "placement": w.Placements[i%2].ID, "rep": 1 + i%200, "by": w.Users[0].ID}); err != nil || i%5 > 0 {
					return err
				}
				_, err := pg.Exec(ctx, `UPDATE practices SET on_date = on_date + 1 WHERE id = @id`, pg.Args{"id": w.Practices[0].ID})
				return err
			})
			if err != nil {
				return
			}
			if made = append(made, id); i == 5 {
				close(began)
			}
		}
	}()
	<-began
	_, err = pg.Migrate(ctx, url)
	require.NoError(t, err)
	<-stopped
	t.Logf("%d marks were made meanwhile", len(made))
	require.NoError(t, old.InClub(ctx, w.ClubID, func(ctx context.Context) error {
		type row struct{ Events, Slots, Faults, Wrong, Astray int }
		r, _, err := pg.One[row](ctx, `
			SELECT (SELECT count(*) FROM mark_events WHERE club_id = @club AND id = ANY (@made))::int AS events,
			       (SELECT count(*) FROM mark_slots WHERE club_id = @club AND id = ANY (@made))::int AS slots,
			       (SELECT count(*) FROM mark_faults WHERE club_id = @club AND mark_id = ANY (@made))::int AS faults, wrong_sums(@club)::int AS wrong,
			       (SELECT count(*) FROM mark_slots m JOIN placements pl ON pl.id = m.placement_id JOIN periods pe ON pe.id = pl.period_id JOIN practices p ON p.id = pe.practice_id
			        WHERE m.club_id = @club AND m.on_date <> p.on_date)::int AS astray`, pg.Args{"made": made})
		assert.Equal(t, len(made), r.Events)
		assert.Positive(t, r.Slots)
		assert.Equal(t, len(made), r.Faults)
		assert.Zero(t, r.Wrong)
		assert.Zero(t, r.Astray)
		return err
	}))
}
