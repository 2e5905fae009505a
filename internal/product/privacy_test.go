package product_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/attack"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
	"nineyard/internal/privacy"
)

// TestWhoChangedWhatIsRead by the head coach: of players and their availability, and who took personal data out.
func TestWhoChangedWhatIsRead(t *testing.T) {
	s := open(t)
	line := s.visitor().signIn(demo.LineCoachEmail)
	head := s.visitor().signIn(demo.HeadCoachEmail)
	player := s.world.Players[0]
	line.takes(200, "PUT", "/roster/players/"+player.ID.String()+"/availability/"+made(), map[string]any{"status": "out", "from": "2026-10-12", "reason": "knee"}, "If-Match", `"0"`)
	line.takes(200, "GET", "/roster/export?format=csv", nil)
	line.takes(http.StatusForbidden, "GET", "/audit", nil)
	audit := func(query string) contract.Audit {
		var v contract.Audit
		head.get("/audit"+query, &v)
		return v
	}
	all := audit("")
	require.Len(t, all.Changes, 2)
	assert.Equal(t, []string{"R. Kell", "took the roster out", "exports"}, []string{all.Changes[0].By, all.Changes[0].Did, all.Changes[0].Kind})
	assert.Equal(t, []string{"recorded availability", player.Jersey + " " + player.FirstName + " " + player.LastName}, []string{all.Changes[1].Did, all.Changes[1].Of})
	assert.NotEmpty(t, all.People)
	assert.Len(t, audit("?kind=availability").Changes, 1)
	assert.Empty(t, audit("?kind=marks").Changes)
	assert.Len(t, audit("?person="+s.world.Users[1].ID.String()).Changes, 2)
	assert.Empty(t, audit("?person="+s.world.Users[0].ID.String()).Changes)
	today := time.Now().UTC()
	assert.Empty(t, audit("?to="+today.AddDate(0, 0, -2).Format("2006-01-02")).Changes)
	assert.Len(t, audit("?from="+today.AddDate(0, 0, -2).Format("2006-01-02")).Changes, 2)
	for i := range 105 {
		require.NoError(t, s.exec(`INSERT INTO changes (club_id, number, id, person, operation, record, digest, made_at, at, status) VALUES (@club, @n, gen_random_uuid(), @by, 'putPlayer', '/roster/players', '', now(), now(), 200)`,
			pg.Args{"n": 1000 + i, "by": s.world.Users[0].ID}))
	}
	first := audit("?kind=people")
	require.Len(t, first.Changes, 100)
	require.NotNil(t, first.Next)
	assert.Len(t, audit("?kind=people&before=1005").Changes, 5)
	text := head.takes(200, "GET", "/audit/export?format=csv&kind=exports", nil)
	assert.Contains(t, text, "took the roster out")
	assert.Equal(t, "took this log out", audit("?kind=exports").Changes[0].Did, "which is in it, too")
}

// TestEverythingInTheLogHasWords: every operation that can be in it.
func TestEverythingInTheLogHasWords(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	c, err := attack.Open()
	require.NoError(t, err)
	n := 1000
	logged := map[string]bool{}
	for _, op := range c.Operations {
		_, asks := op.Extensions["x-asks"]
		_, personal := op.Extensions["x-personal"]
		if op.Method == http.MethodGet && !personal || asks {
			continue
		}
		n++
		logged[op.OperationID] = true
		require.NoError(t, s.exec(`INSERT INTO changes (club_id, number, id, person, operation, record, digest, made_at, at, status) VALUES (@club, @n, gen_random_uuid(), @by, @op, '/x', '', now(), now(), 200)`,
			pg.Args{"n": n, "by": s.world.Users[0].ID, "op": op.OperationID}))
	}
	var v contract.Audit
	s.get("/audit", &v)
	require.Len(t, v.Changes, len(logged))
	for _, l := range v.Changes {
		assert.False(t, logged[l.Did], "%s has no words", l.Did)
	}
}

// TestAPlayerIsTakenOutAndErased: all that is kept of him is handed over; then he is known no more, with his marks in the
// numbers or without.
func TestAPlayerIsTakenOutAndErased(t *testing.T) {
	for _, keep := range []bool{true, false} {
		s := open(t).signIn(demo.HeadCoachEmail)
		p := s.world.Players[0]
		id := p.ID.String()
		s.takes(200, "PUT", "/roster/players/"+id+"/availability/"+made(), map[string]any{"status": "out", "from": "2026-10-12", "reason": "a knee of his own"}, "If-Match", `"0"`)
		text := s.takes(200, "GET", "/persons/"+id+"/export", nil)
		var file struct {
			Kept map[string]json.RawMessage `json:"kept"`
		}
		require.NoError(t, json.Unmarshal([]byte(text), &file))
		assert.Contains(t, string(file.Kept["players"]), p.LastName)
		assert.Contains(t, string(file.Kept["availability_spells"]), "a knee of his own")
		assert.Greater(t, len(file.Kept["mark_events"]), 1000)
		marks := s.count(`SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club`, nil)
		his := s.count(`SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club AND player_id = @id::uuid`, pg.Args{"id": id})
		require.Positive(t, his)
		text = s.takes(422, "POST", "/persons/"+id+"/erase", map[string]any{"keep_marks": keep, "last_name": "Somebody"})
		assert.Equal(t, "last_name", *problem(t, text).Field)
		s.takes(204, "POST", "/persons/"+id+"/erase", map[string]any{"keep_marks": keep, "last_name": p.LastName})
		now := s.count(`SELECT count(*)::int AS n FROM mark_events WHERE club_id = @club`, nil)
		if keep {
			assert.Equal(t, marks, now)
			s.takes(422, "POST", "/persons/"+id+"/erase", map[string]any{"keep_marks": keep, "last_name": p.LastName})
		} else {
			assert.Equal(t, marks-his, now)
			s.takes(404, "POST", "/persons/"+id+"/erase", map[string]any{"keep_marks": keep, "last_name": p.LastName})
		}
		assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil), "the sums are what the marks are")
		// Nothing of any table names him.
		require.NoError(t, s.owner.InClub(context.Background(), s.world.ClubID, func(ctx context.Context) error {
			type table struct{ Name string }
			tables, err := pg.Select[table](ctx, `SELECT c.table_name::text AS name FROM information_schema.columns c JOIN information_schema.tables b USING (table_schema, table_name)
				WHERE c.table_schema = 'public' AND c.column_name = 'club_id' AND b.table_type = 'BASE TABLE' AND c.table_name !~ '_[0-9]{4}$'`, nil)
			for _, x := range tables {
				type count struct{ N int }
				r, _, err := pg.One[count](ctx, `SELECT count(*)::int AS n FROM "`+x.Name+`" t WHERE t.club_id = @club AND (t::text LIKE '%' || @name || '%' OR t::text LIKE '%a knee of his own%' OR NOT @keep AND t::text LIKE '%' || @id || '%')`,
					pg.Args{"name": p.FirstName + "%" + p.LastName, "id": id, "keep": keep || slices.Contains([]string{"changes", "mark_faults", "mark_fault_days"}, x.Name)})
				assert.NoError(t, err)
				assert.Zero(t, r.N, "%s still knows him (keep %v)", x.Name, keep)
			}
			return err
		}))
		for _, path := range []string{"/roster/players", "/groups/ol/players?week=7", "/groups/ol/today?week=7", "/groups/ol/ladders?week=7"} {
			_, text := s.do("GET", path, nil)
			assert.False(t, strings.Contains(text, p.LastName+`"`), path)
		}
		s.takes(http.StatusOK, "GET", "/audit", nil)
	}
}

// TestNothingIsKeptForLongerThanTheClubWants.
func TestNothingIsKeptForLongerThanTheClubWants(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	text := s.takes(400, "PUT", "/retention", map[string]any{"archived": 0})
	assert.Equal(t, "archived", *problem(t, text).Field)
	s.takes(204, "PUT", "/retention", map[string]any{"archived": 12, "spells": 6, "changes": 24})
	var r contract.Retention
	s.get("/retention", &r)
	assert.Equal(t, []int{12, 6, 24}, []int{*r.Archived, *r.Spells, *r.Changes})
	gone := s.world.Players[1]
	require.NoError(t, s.exec(`UPDATE players SET archived_at = now() - interval '13 months' WHERE id = @id`, pg.Args{"id": gone.ID}))
	require.NoError(t, s.exec(`UPDATE players SET archived_at = now() - interval '11 months' WHERE id = @id`, pg.Args{"id": s.world.Players[2].ID}))
	old, young := made(), made()
	for id, days := range map[string]int{old: 300, young: 30} {
		require.NoError(t, s.exec(`INSERT INTO availability_spells (id, club_id, player_id, status, from_on, to_on, reason) VALUES (@id::uuid, @club, @player, 'out', current_date - 400, current_date - @days::int, 'x')`, pg.Args{"id": id, "player": s.world.Players[3].ID, "days": days}))
	}
	require.NoError(t, s.exec(`INSERT INTO changes (club_id, number, id, person, operation, record, digest, made_at, at, status) VALUES (@club, 0, gen_random_uuid(), @by, 'putPlayer', '/x', '', now(), now() - interval '25 months', 200)`, pg.Args{"by": s.world.Users[0].ID}))
	require.NoError(t, (&privacy.Keeper{DB: s.product.DB, Log: slog.New(slog.DiscardHandler)}).Retain(context.Background(), time.Now()))
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM players WHERE club_id = @club AND last_name = 'Erased'`, nil))
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM players WHERE id = @id AND last_name = 'Erased'`, pg.Args{"id": gone.ID}))
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM availability_spells WHERE id = @id::uuid`, pg.Args{"id": old}))
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM availability_spells WHERE id = @id::uuid`, pg.Args{"id": young}))
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM changes WHERE club_id = @club AND number = 0`, nil))
	s.takes(204, "PUT", "/retention", map[string]any{"archived": nil})
	s.get("/retention", &r)
	var none contract.Retention
	s.get("/retention", &none)
	assert.Nil(t, none.Archived)
}

// TestAllThatIsKeptIsHandedOver: every table with a player's id is in the file.
func TestAllThatIsKeptIsHandedOver(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	text := s.takes(200, "GET", "/persons/"+s.world.Players[0].ID.String()+"/export", nil)
	require.NoError(t, s.owner.Anywhere(context.Background(), func(ctx context.Context) error {
		type table struct{ Name string }
		tables, err := pg.Select[table](ctx, `SELECT c.table_name::text AS name FROM information_schema.columns c JOIN information_schema.tables b USING (table_schema, table_name)
			WHERE c.table_schema = 'public' AND c.column_name = 'player_id' AND b.table_type = 'BASE TABLE' AND c.table_name !~ '_[0-9]{4}$'`, nil)
		for _, x := range tables {
			assert.Contains(t, text, `"`+x.Name+`"`)
		}
		return err
	}))
}
