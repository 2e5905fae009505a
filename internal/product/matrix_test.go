package product_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/attack"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
)

// roles are the columns of docs/permissions.md.
var roles = []string{access.Head, access.Position, access.Assistant, access.Health, access.Reader, "nobody"}

// permissions reads docs/permissions.md: what each role may of each operation.
func permissions(t *testing.T) map[string][]string {
	t.Helper()
	text, err := os.ReadFile("../../docs/permissions.md")
	require.NoError(t, err)
	table := map[string][]string{}
	for _, line := range strings.Split(string(text), "\n") {
		cells := strings.Split(strings.Trim(line, "| "), " | ")
		if len(cells) != 8 || cells[0] == "operation" || strings.HasPrefix(cells[0], "---") {
			continue
		}
		for _, c := range cells[2:] {
			require.Contains(t, []string{"yes", "own", "–"}, c, line)
		}
		table[cells[0]] = cells[2:]
	}
	return table
}

// TestTheTableAndTheContractAgree: neither names an operation, or somebody who may, that the other does not.
func TestTheTableAndTheContractAgree(t *testing.T) {
	table := permissions(t)
	c, err := attack.Open()
	require.NoError(t, err)
	require.Len(t, table, len(c.Operations))
	for _, op := range c.Operations {
		cells, ok := table[op.OperationID]
		if !assert.True(t, ok, op.OperationID) {
			continue
		}
		word, said := op.Extensions["x-may"].(string)
		if !said {
			if word = "plans"; op.Method == http.MethodGet {
				word = "anyone"
			}
		}
		assert.Contains(t, access.MayWords(), word, op.OperationID)
		open := op.Security != nil && len(*op.Security) == 0
		for i, role := range roles {
			may := open || role != "nobody" && access.May(role, word)
			assert.Equal(t, may, cells[i] != "–", "%s: %s", op.OperationID, role)
		}
	}
}

// troupe is a browser for each role, in a group of the line's.
func troupe(t *testing.T, s *site) map[string]*site {
	out := map[string]*site{"nobody": s.visitor(), access.Head: s.visitor().signIn(demo.HeadCoachEmail), access.Position: s.visitor().signIn(demo.LineCoachEmail)}
	for _, role := range []string{access.Assistant, access.Health, access.Reader} {
		require.NoError(t, access.Join(context.Background(), s.owner, access.Joining{With: demo.HeadCoachEmail, Name: "N. " + role, Email: role + "@lamplighters.example", Role: role, Groups: []string{"ol"}, Password: demo.Password}))
		out[role] = s.visitor().signIn(role + "@lamplighters.example")
	}
	return out
}

// fires sends a request of the attack as somebody and returns the status and the answer.
func (s *site) fires(source *attack.Source, op attack.Operation) (int, string) {
	s.t.Helper()
	r, _, err := source.Request(s.server.URL, op)
	require.NoError(s.t, err)
	r.Header.Set("X-CSRF-Token", s.csrf)
	r.Header.Set("Origin", s.server.URL)
	if r.Method != http.MethodGet {
		r.Header.Set("Change-Id", made())
	}
	return s.asked(r)
}

// TestEveryOperationAsEveryRole as the table says: who may not is refused before anything of the request is looked at.
func TestEveryOperationAsEveryRole(t *testing.T) {
	s := open(t)
	people, table := troupe(t, s), permissions(t)
	c, err := attack.Open()
	require.NoError(t, err)
	source := &attack.Source{Rand: rand.New(rand.NewPCG(11, 7)), Keys: []string{"ol"}}
	for _, p := range s.world.Players[:3] {
		source.IDs = append(source.IDs, p.ID.String())
	}
	requests, refused := 0, 0
	for _, op := range c.Operations {
		for i, role := range roles {
			if slices.Contains([]string{"signOut", "endOtherSessions", "removeMember", "putMember", "putStaffRules", "endMemberSessions", "putPassword"}, op.OperationID) && table[op.OperationID][i] != "–" {
				continue // they have tests of their own, and would end this one
			}
			status, text := people[role].fires(source, op)
			requests++
			switch cell := table[op.OperationID][i]; {
			case cell == "–" && role == "nobody":
				assert.Equal(t, http.StatusUnauthorized, status, "%s as %s: %s", op.OperationID, role, text)
				refused++
			case cell == "–":
				assert.Equal(t, http.StatusForbidden, status, "%s as %s: %s", op.OperationID, role, text)
				refused++
			case op.OperationID == "signIn" || op.OperationID == "showFactor" || op.OperationID == "showPasskey": // whose 401 is another
			case cell == "yes" && role != "nobody":
				assert.NotContains(t, []int{http.StatusUnauthorized}, status, "%s as %s: %s", op.OperationID, role, text)
				if status == http.StatusForbidden {
					assert.NotContains(t, text, "Your role", "%s as %s", op.OperationID, role)
				}
			}
			assert.Less(t, status, 500, "%s as %s: %s", op.OperationID, role, text)
		}
	}
	t.Logf("%d requests, %d refused as the table says", requests, refused)
}

// TestOwnIsOnesOwnGroup: what the table gives of one's own is refused of another's.
func TestOwnIsOnesOwnGroup(t *testing.T) {
	s := open(t)
	people, table := troupe(t, s), permissions(t)
	of := s.things(t)
	tried := map[string]bool{}
	for _, x := range of {
		cells := table[x.op]
		require.NotNil(t, cells, x.op)
		for i, role := range roles {
			if cells[i] != "own" {
				continue
			}
			tried[x.op] = true
			who := people[role]
			if x.file != "" {
				status, text := who.takeIn(x.theirs, "list", []byte(x.file), x.form("db"))
				assert.Equal(t, http.StatusForbidden, status, "%s of another group as %s: %s", x.op, role, text)
				continue
			}
			status, text := who.do(x.method, x.theirs, x.body, x.headers...)
			if x.op == "postMarks" { // each mark is answered by itself
				assert.Contains(t, text, `"status":403`, "%s as %s", x.op, role)
				assert.Contains(t, text, `"saved":[]`, "%s as %s", x.op, role)
			} else {
				assert.Contains(t, []int{http.StatusForbidden, http.StatusNotFound}, status, "%s of another group as %s: %s", x.op, role, text)
			}
			status, text = who.do(x.method, x.mine, x.own, x.headers...)
			assert.NotContains(t, []int{http.StatusForbidden, http.StatusUnauthorized}, status, "%s of his own group as %s: %s", x.op, role, text)
		}
	}
	for op, cells := range table {
		if slices.Contains(cells, "own") && !tried[op] {
			t.Errorf("%s is not tried with a thing of another group", op)
		}
	}
	t.Logf("%d operations with what is another group's", len(tried))
}

// thing is an operation with what is of the line, and with what is of the secondary.
type thing struct {
	op, method, mine, theirs string
	own, body                any // to mine, to theirs
	headers                  []string
	file                     string // what is sent as a file, of the secondary
}

// form are the fields beside a file.
func (x thing) form(group string) map[string]string {
	if x.op == "uploadRoster" {
		return map[string]string{"id": made(), "group": group}
	}
	return map[string]string{"id": made()}
}

// sound is a body that the contract takes, with some of it as it is said.
func sound(t *testing.T, operation string, said map[string]any) map[string]any {
	t.Helper()
	c, err := attack.Open()
	require.NoError(t, err)
	source := &attack.Source{Rand: rand.New(rand.NewPCG(1, 1)), Keys: []string{"db"}}
	for _, op := range c.Operations {
		if op.OperationID == operation {
			body := source.Value(op.RequestBody.Value.Content["application/json"].Schema, 0).(map[string]any)
			for k, v := range said {
				body[k] = v
			}
			return body
		}
	}
	t.Fatal("no operation", operation)
	return nil
}

func (s *site) things(t *testing.T) []thing {
	w := s.world
	player := func(group string) string {
		for _, p := range w.Players {
			if w.GroupOf[p.ID] == group && !p.Limited {
				return p.ID.String()
			}
		}
		t.Fatal("nobody plays in", group)
		return ""
	}
	placement := func(group string) (string, string) {
		for _, p := range w.Placements {
			if p.Group == group {
				return p.ID.String(), p.PeriodID.String()
			}
		}
		t.Fatal("nothing is placed for", group)
		return "", ""
	}
	mine, theirs := player("ol"), player("db")
	myDrill, myPeriod := placement("ol")
	hisDrill, hisPeriod := placement("db")
	var practice, hisPractice string
	for _, p := range w.Periods {
		if p.ID.String() == myPeriod {
			practice = p.PracticeID.String()
		}
		if p.ID.String() == hisPeriod {
			hisPractice = p.PracticeID.String()
		}
	}
	game := w.Games[demo.Week-2].ID.String()
	myPlay, hisPlay := "", ""
	for _, p := range w.Plays {
		if p.GameID.String() == game && p.Offense {
			myPlay = p.ID.String()
		}
		if p.GameID.String() == game && !p.Offense {
			hisPlay = p.ID.String()
		}
	}
	v1, v0 := []string{"If-Match", `"1"`}, []string{"If-Match", `"0"`}
	person := func(group string) map[string]any {
		return map[string]any{"jersey": "", "first_name": "A", "last_name": "B", "groups": []string{group}, "position": "", "returning": false, "archived": false}
	}
	period := sound(t, "putPeriod", map[string]any{"groups": []string{"db"}})
	spell := map[string]any{"status": "out", "from": "2026-10-01", "reason": "knee"}
	play := sound(t, "putPlay", map[string]any{"number": 99, "unit": "offense"})
	his := sound(t, "putPlay", map[string]any{"number": 98, "unit": "defense"})
	clip := w.Footage[0].Clips[0].ID.String()
	mark := func(placement, player string) map[string]any {
		return map[string]any{"marks": []any{map[string]any{"id": made(), "placement_id": placement, "player_id": player, "rep": 1, "state": "assumed"}}}
	}
	entry := map[string]any{"id": made(), "version": 1, "retired": true}
	reason := func(ladder, stage string) map[string]any {
		return map[string]any{"id": made(), "ladder": ladder, "stage": stage, "reason": "seen it"}
	}
	call := func(side string) map[string]any {
		return sound(t, "putCall", map[string]any{"name": "Zed " + side, "side": side, "needs": []any{}})
	}
	list := []thing{
		{op: "putPlacements", method: "PUT", mine: "/periods/" + myPeriod + "/placements", theirs: "/periods/" + hisPeriod + "/placements", body: map[string]any{"placements": []any{}}, own: map[string]any{"placements": []any{}}, headers: v1},
		{op: "putPeriod", method: "PUT", mine: "/practices/" + practice + "/periods/" + myPeriod, theirs: "/practices/" + hisPractice + "/periods/" + hisPeriod, body: period, own: map[string]any{}, headers: v1},
		{op: "deletePeriod", method: "DELETE", mine: "/practices/" + practice + "/periods/" + myPeriod, theirs: "/practices/" + hisPractice + "/periods/" + hisPeriod, headers: v1},
		{op: "putFix", method: "POST", mine: "/groups/ol/fixes", theirs: "/groups/db/fixes", body: map[string]any{"id": made(), "fault": "pd_rises"}, own: map[string]any{"id": made(), "fault": "base_hands_wide"}},
		{op: "moveLadder", method: "POST", mine: "/groups/ol/ladders/base_ladder/move", theirs: "/groups/db/ladders/pedal_ladder/move", body: map[string]any{"id": made()}, own: map[string]any{"id": made()}},
		{op: "putDrillSet", method: "PUT", mine: "/groups/ol/drill-sets/" + made(), theirs: "/groups/db/drill-sets/" + made(), body: sound(t, "putDrillSet", map[string]any{"name": "x"}), own: map[string]any{}, headers: v0},
		{op: "deleteDrillSet", method: "DELETE", mine: "/groups/ol/drill-sets/" + made(), theirs: "/groups/db/drill-sets/" + s.row(t, `INSERT INTO drill_sets (club_id, id, group_key, name, every_day, drills) VALUES (@club, @id::uuid, 'db', 'Kept', false, '[]')`), headers: v1},
		{op: "putCutUp", method: "PUT", mine: "/groups/ol/cut-ups/" + made(), theirs: "/groups/db/cut-ups/" + made(), body: map[string]any{"name": "x", "cut": "third"}, own: map[string]any{}, headers: v0},
		{op: "deleteCutUp", method: "DELETE", mine: "/groups/ol/cut-ups/" + made(), theirs: "/groups/db/cut-ups/" + s.row(t, `INSERT INTO cut_ups (club_id, id, group_key, name, cut) VALUES (@club, @id::uuid, 'db', 'Kept', 'third')`), headers: v1},
		{op: "postMarks", method: "POST", mine: "/marks", theirs: "/marks", own: mark(myDrill, mine), body: mark(hisDrill, theirs)},
		{op: "putPlay", method: "PUT", mine: "/games/" + game + "/plays/" + made(), theirs: "/games/" + game + "/plays/" + made(), own: play, body: his, headers: v0},
		{op: "deletePlay", method: "DELETE", mine: "/games/" + game + "/plays/" + myPlay, theirs: "/games/" + game + "/plays/" + hisPlay, headers: v1},
		{op: "putMeeting", method: "PUT", mine: "/games/" + game + "/meeting?group=ol", theirs: "/games/" + game + "/meeting?group=db", body: map[string]any{"items": []any{}}, own: map[string]any{}, headers: v0},
		{op: "putFeedback", method: "PUT", mine: "/games/" + game + "/feedback/" + mine + "?group=ol", theirs: "/games/" + game + "/feedback/" + theirs + "?group=db", body: map[string]any{"fixes": []any{}, "note": "x"}, own: map[string]any{}, headers: v0},
		{op: "deleteFeedback", method: "DELETE", mine: "/games/" + game + "/feedback/" + mine + "?group=ol", theirs: "/games/" + game + "/feedback/" + theirs + "?group=db", headers: v1},
		{op: "putLineUp", method: "PUT", mine: "/groups/ol/line-up?week=7", theirs: "/groups/db/line-up?week=7", body: map[string]any{"spots": []any{}}, own: map[string]any{}, headers: v0},
		{op: "putCall", method: "PUT", mine: "/calls/" + made(), theirs: "/calls/" + made(), body: call("defense"), own: call("offense"), headers: v0},
		{op: "deleteCall", method: "DELETE", mine: "/calls/" + made(), theirs: "/calls/" + s.defenseCall(t), headers: v1},
		{op: "putPlayer", method: "PUT", mine: "/roster/players/" + made(), theirs: "/roster/players/" + made(), own: person("ol"), body: person("db"), headers: v0},
		{op: "mergePlayers", method: "POST", mine: "/roster/players/" + mine + "/merge", theirs: "/roster/players/" + theirs + "/merge", own: map[string]any{"into": mine}, body: map[string]any{"into": mine}},
		{op: "decideProposal", method: "POST", mine: "/roster/proposals/" + s.proposal(t, "ol"), theirs: "/roster/proposals/" + s.proposal(t, "db"), own: map[string]any{"take": false}, body: map[string]any{"take": true}},
		{op: "previewRoster", method: "POST", mine: "/roster/uploads/" + made() + "/preview", theirs: "/roster/uploads/" + s.upload(t) + "/preview", own: map[string]any{"group": "ol"}, body: map[string]any{"group": "db"}},
		{op: "importRoster", method: "POST", mine: "/roster/uploads/" + made() + "/import", theirs: "/roster/uploads/" + s.upload(t) + "/import", own: map[string]any{"group": "ol"}, body: map[string]any{"group": "db"}},
		{op: "addOverride", method: "POST", mine: "/players/" + mine + "/overrides", theirs: "/players/" + theirs + "/overrides", own: reason("base_ladder", "fit"), body: reason("pedal_ladder", "line")},
		{op: "withdrawOverride", method: "DELETE", mine: "/overrides/" + made(), theirs: "/overrides/" + s.override(t, theirs)},
		{op: "putOwnRange", method: "PUT", mine: "/players/" + mine + "/ranges/base_first", theirs: "/players/" + theirs + "/ranges/pd_depth", own: map[string]any{}, body: map[string]any{"id": made(), "ok_low": 4, "ok_high": 5, "watch_low": 3, "watch_high": 6, "reason": "x"}},
		{op: "withdrawOwnRange", method: "DELETE", mine: "/players/" + mine + "/ranges/base_first", theirs: "/players/" + theirs + "/ranges/pd_depth"},
		{op: "putEntry", method: "PUT", mine: "/library/entries/drill/pull_bag", theirs: "/library/entries/drill/pedal_line", own: entry, body: entry, headers: v1},
		{op: "checkEntry", method: "POST", mine: "/library/entries/drill/pull_bag/check", theirs: "/library/entries/drill/pedal_line/check", own: map[string]any{"fields": map[string]any{"name": "x"}}, body: map[string]any{"fields": map[string]any{"name": "x"}}},
		{op: "putSpell", method: "PUT", mine: "/roster/players/" + mine + "/availability/" + made(), theirs: "/roster/players/" + theirs + "/availability/" + made(), own: spell, body: spell, headers: v0},
		{op: "withdrawSpell", method: "DELETE", mine: "/roster/players/" + mine + "/availability/" + made(), theirs: "/roster/players/" + theirs + "/availability/" + made()},
		{op: "deleteFilm", method: "DELETE", mine: "/films/" + made(), theirs: "/films/" + w.Footage[0].ID.String(), headers: v1},
		{op: "putDrawing", method: "PUT", mine: "/clips/" + clip + "/drawings/" + made(), theirs: "/clips/" + clip + "/drawings/" + s.row(t, drawn), own: map[string]any{}, body: map[string]any{"frame": 7, "shapes": []any{map[string]any{"kind": "arrow", "x1": 0, "y1": 0, "x2": 9, "y2": 9}}}, headers: v1},
		{op: "deleteDrawing", method: "DELETE", mine: "/clips/" + clip + "/drawings/" + made(), theirs: "/clips/" + clip + "/drawings/" + s.row(t, drawn), headers: v1},
		{op: "uploadRoster", theirs: "/roster/uploads", file: "No,Name\n21,Ora Quill\n"},
		{op: "importLibrary", theirs: "/library/import", file: "drills:\n  - {key: pedal_line, name: Mine now, trains: [pd_pedal], works_on: [], working: 1, helping: 0, roles: r, lanes: 3, rep_seconds: 4, reset_seconds: 12, setup_seconds: 0, minutes: 3, min_minutes: 2, contact: air, equipment: none, space_yd: [4, 2], coach_at: a, watch: b, self_check: c, alone: d, game: e, cautions: f}\n"},
	}
	return list
}

// TestNoClubReachesAnother: every operation, by the head coach of another club, with this club's ids. Nothing of it is
// answered, and nothing of it changes.
func TestNoClubReachesAnother(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Dunmere Otters", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Tarn", Email: "o@otters.example", Password: words})
	other := s.visitor()
	other.enters(other.takes(200, "POST", "/session", map[string]string{"email": "o@otters.example", "password": words}))
	c, err := attack.Open()
	require.NoError(t, err)
	source := &attack.Source{Rand: rand.New(rand.NewPCG(3, 7)), Keys: []string{"ol", "db", "drill", "fault", "base_block", "pull_bag"}, Most: true}
	ids := []uuid.UUID{}
	for _, p := range s.world.Players[:8] {
		ids = append(ids, p.ID)
	}
	for _, p := range s.world.Placements[:4] {
		ids = append(ids, p.ID, p.PeriodID)
	}
	for _, p := range s.world.Practices[:4] {
		ids = append(ids, p.ID)
	}
	for _, g := range s.world.Games[:4] {
		ids = append(ids, g.ID)
	}
	for _, p := range s.world.Plays[:4] {
		ids = append(ids, p.ID)
	}
	for _, u := range s.world.Users[:3] {
		ids = append(ids, u.ID)
	}
	ids = append(ids, s.world.Footage[0].ID, s.world.Footage[0].Clips[0].ID)
	for _, id := range ids {
		source.IDs = append(source.IDs, id.String())
	}
	before := s.sight()
	requests, crossings := 0, 0
	for range 6 {
		for _, op := range c.Operations {
			if op.OperationID == "signOut" || op.OperationID == "demoSignIn" || op.OperationID == "listDemoStaff" || op.OperationID == "putStaffRules" || op.Security != nil && len(*op.Security) == 0 {
				continue // which are for anybody
			}
			status, text := other.fires(source, op)
			requests++
			assert.Less(t, status, 500, "%s: %s", op.OperationID, text)
			assert.NotEqual(t, http.StatusUnauthorized, status, op.OperationID)
			if status >= 400 {
				continue
			}
			for _, p := range s.world.Players {
				if op.Method == http.MethodGet && strings.Contains(text, p.LastName+`"`) { // an id may be one that it gave itself
					crossings++
					t.Errorf("%s tells another club of %s: %s", op.OperationID, p.LastName, text[:min(len(text), 300)])
					break
				}
			}
		}
	}
	after := s.sight()
	for table, was := range before {
		if after[table] != was {
			crossings++
			t.Errorf("rows of %s were changed from another club", table)
		}
	}
	t.Logf("%d requests of another club with this club's ids, %d crossings", requests, crossings)
}

// sight is a digest of the club's rows of every table.
func (s *site) sight() map[string]string {
	s.t.Helper()
	out := map[string]string{}
	require.NoError(s.t, s.owner.InClub(context.Background(), s.world.ClubID, func(ctx context.Context) error {
		type table struct{ Name string }
		tables, err := pg.Select[table](ctx, `SELECT c.table_name::text AS name FROM information_schema.columns c JOIN information_schema.tables b USING (table_schema, table_name)
			WHERE c.table_schema = 'public' AND c.column_name = 'club_id' AND b.table_type = 'BASE TABLE' AND c.table_name !~ '_[0-9]{4}$'`, nil)
		for _, x := range tables {
			type sum struct{ Sum string }
			r, _, err := pg.One[sum](ctx, fmt.Sprintf(`SELECT count(*) || coalesce(md5(string_agg(md5(t::text), '' ORDER BY md5(t::text))), '') AS sum FROM %q t WHERE t.club_id = @club`, x.Name), nil)
			if err != nil {
				return err
			}
			out[x.Name] = r.Sum
		}
		return err
	}))
	return out
}

// defenseCall is a call of the other side of the ball.
func (s *site) defenseCall(t *testing.T) string {
	for _, c := range s.world.Calls {
		if c.Side == "defense" {
			return c.ID.String()
		}
	}
	t.Fatal("the demo has no call of the defense")
	return ""
}

// drawn is a drawing of the head coach's.
const drawn = `INSERT INTO drawings (club_id, id, clip_id, frame, shapes, created_by) SELECT @club, @id::uuid, c.id, 7, '[]', u.id FROM clips c, users u WHERE c.club_id = @club AND u.club_id = @club AND u.role = 'head' LIMIT 1`

// row makes a row with an id of its own.
func (s *site) row(t *testing.T, insert string) string {
	id := made()
	require.NoError(t, s.exec(insert, pg.Args{"id": id}))
	return id
}

// proposal is what a list says of a player who would be new in a group.
func (s *site) proposal(t *testing.T, group string) string {
	id := made()
	require.NoError(t, s.exec(`INSERT INTO roster_proposals (id, club_id, subject, group_key, person, proposed_by, proposed_at) VALUES (@id::uuid, @club, @subject, @group, '{"Last": "New"}', @by, now())`,
		pg.Args{"id": id, "subject": id, "group": group, "by": s.world.Users[0].ID}))
	return id
}

// upload is a list that the head coach has sent.
func (s *site) upload(t *testing.T) string {
	id := made()
	require.NoError(t, s.exec(`INSERT INTO roster_uploads (id, club_id, content, created_by, created_at) VALUES (@id::uuid, @club, '{"Headers": ["Name"], "Rows": [{"Line": 2, "Fields": ["Ora Quill"]}]}', @by, now())`,
		pg.Args{"id": id, "by": s.world.Users[0].ID}))
	return id
}

// override is a coach's word for a player.
func (s *site) override(t *testing.T, player string) string {
	id := made()
	require.NoError(t, s.exec(`INSERT INTO gate_overrides (id, club_id, season_id, player_id, ladder_key, stage_key, on_date, reason, created_by, created_at)
		SELECT @id::uuid, @club, id, @player::uuid, 'pedal_ladder', 'air', current_date, 'seen', @by, now() FROM seasons WHERE club_id = @club`, pg.Args{"id": id, "player": player, "by": s.world.Users[0].ID}))
	return id
}
