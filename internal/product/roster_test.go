package product_test

import (
	"bytes"
	"encoding/json"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
)

// send uploads a list.
func (s *site) send(id, group, text string) (int, string) {
	s.t.Helper()
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	f, err := w.CreateFormFile("file", "list.csv")
	require.NoError(s.t, err)
	_, _ = f.Write([]byte(text))
	require.NoError(s.t, w.WriteField("id", id))
	require.NoError(s.t, w.WriteField("group", group))
	require.NoError(s.t, w.Close())
	return s.do("POST", "/roster/uploads", b.String(), "Content-Type", w.FormDataContentType())
}

func (s *site) roster() map[string]contract.RosterPlayer {
	s.t.Helper()
	var r contract.Roster
	s.get("/roster/players", &r)
	players := map[string]contract.RosterPlayer{}
	for _, p := range r.Players {
		players[p.Jersey+" "+p.LastName] = p
	}
	return players
}

func input(p contract.RosterPlayer, change func(map[string]any)) map[string]any {
	in := map[string]any{"version": p.Version, "jersey": p.Jersey, "first_name": p.FirstName, "last_name": p.LastName, "groups": p.Groups,
		"position": p.Position, "height_in": p.HeightIn, "weight_lb": p.WeightLb, "returning": p.Returning, "archived": p.Archived}
	change(in)
	return in
}

func (s *site) putPlayer(id string, body map[string]any) (int, contract.RosterPlayer, string) {
	s.t.Helper()
	status, text := s.do("PUT", "/roster/players/"+id, body)
	var p contract.RosterPlayer
	_ = json.Unmarshal([]byte(text), &p)
	return status, p, text
}

func TestAListIsReadOnceAndImportedWholeOrNotAtAll(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	list := "No,Name,Pos\n07,Tam Vosper,C\nbad!,Bo Lind,LT\n"
	id := made()
	status, body := s.send(id, "ol", list)
	require.Equal(t, http.StatusOK, status, body)
	var p contract.RosterPreview
	require.NoError(t, json.Unmarshal([]byte(body), &p))
	assert.Equal(t, []int{1, 0, 0, 1}, []int{p.Create, p.Update, p.Same, p.Problems})
	assert.Equal(t, id, p.ID.String())
	before := s.count("SELECT count(*)::int AS n FROM players", nil)

	// Other columns, without sending the list again.
	status, body = s.do("POST", "/roster/uploads/"+id+"/preview", map[string]any{"group": "ol", "mapping": map[string]int{"last_name": 1}})
	require.Equal(t, http.StatusOK, status, body)
	require.NoError(t, json.Unmarshal([]byte(body), &p))
	assert.Equal(t, 2, p.Create)
	status, body = s.do("POST", "/roster/uploads/"+id+"/preview", map[string]any{"group": "ol", "mapping": map[string]int{"last_name": 9}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "mapping.last_name", *problem(t, body).Field)

	var first, again string
	for _, into := range []*string{&first, &again} { // sent again after a lost answer
		status, *into = s.do("POST", "/roster/uploads/"+id+"/import", map[string]any{"group": "ol"})
		require.Equal(t, http.StatusOK, status, *into+s.log.String())
	}
	assert.JSONEq(t, first, again)
	assert.Equal(t, before+1, s.count("SELECT count(*)::int AS n FROM players", nil))
	assert.Equal(t, []string{"ol"}, s.roster()["07 Vosper"].Groups)

	// The same list under another id doubles nobody; the columns are those of last time.
	status, body = s.send(made(), "ol", list)
	require.Equal(t, http.StatusOK, status, body)
	require.NoError(t, json.Unmarshal([]byte(body), &p))
	assert.Equal(t, []int{0, 0, 1, 1}, []int{p.Create, p.Update, p.Same, p.Problems})
	assert.True(t, *p.Remembered)

	status, body = s.send(made(), "nope", list)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "group", *problem(t, body).Field)
	status, _ = s.send(made(), "db", list)
	assert.Equal(t, http.StatusForbidden, status)
	status, body = s.send("17", "ol", list)
	assert.Equal(t, "id", *problem(t, body).Field, status)
	status, body = s.send(made(), "ol", strings.Repeat("x", 11<<20))
	assert.Equal(t, http.StatusRequestEntityTooLarge, status, body)
	other := s.visitor().signIn(demo.SecondCoachEmail)
	status, body = other.send(id, "db", "No,Name\n1,Ek\n")
	assert.Equal(t, http.StatusConflict, status, body)
	status, _ = s.do("POST", "/roster/uploads/"+uuid.NewString()+"/import", map[string]any{"group": "ol"})
	assert.Equal(t, http.StatusNotFound, status)
}

func TestAPlayerIsAddedEditedArchivedAndBroughtBack(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	id := made()
	fresh := map[string]any{"version": 0, "jersey": "#68", "first_name": " Ulf ", "last_name": "Ek", "groups": []string{"ol"}, "position": "RT", "height_in": 76.5, "weight_lb": 301, "returning": false, "archived": false}
	var p contract.RosterPlayer
	for range 2 { // sent again after a lost answer
		status, got, text := s.putPlayer(id, fresh)
		require.Equal(t, http.StatusOK, status, text)
		p = got
	}
	assert.Equal(t, []any{"68", "Ulf", "Ek", 1}, []any{p.Jersey, p.FirstName, p.LastName, p.Version})
	status, p2, text := s.putPlayer(id, input(p, func(m map[string]any) { m["position"], m["weight_lb"] = "LT", nil }))
	require.Equal(t, http.StatusOK, status, text)
	assert.Equal(t, 2, p2.Version)
	assert.Nil(t, p2.WeightLb)

	// Another coach, or another device, changed him meanwhile: both versions are shown.
	status, text = s.do("PUT", "/roster/players/"+id, input(p, func(m map[string]any) { m["position"] = "C" }))
	require.Equal(t, http.StatusConflict, status)
	var conflict contract.PlayerConflict
	require.NoError(t, json.Unmarshal([]byte(text), &conflict))
	assert.Equal(t, "LT", conflict.Current.Position)
	assert.Equal(t, 2, conflict.Current.Version)

	// What the contract bounds is refused at the door, what the roster's rules say behind it.
	for field, c := range map[string]struct {
		value  any
		status int
	}{
		"jersey":     {"seven", http.StatusUnprocessableEntity},
		"last_name":  {"  ", http.StatusUnprocessableEntity},
		"groups":     {[]string{}, http.StatusUnprocessableEntity},
		"height_in":  {11, http.StatusBadRequest},
		"weight_lb":  {900, http.StatusBadRequest},
		"first_name": {strings.Repeat("x", 90), http.StatusBadRequest},
	} {
		status, text = s.do("PUT", "/roster/players/"+id, input(p2, func(m map[string]any) { m[field] = c.value }))
		assert.Equal(t, c.status, status, "%s: %s", field, text)
		assert.Equal(t, field, *problem(t, text).Field)
	}
	status, _, _ = s.putPlayer(id, input(p2, func(m map[string]any) { m["groups"] = []string{"ol", "db"} }))
	assert.Equal(t, http.StatusForbidden, status, "another coach's group is not his to fill")
	sato := s.roster()["64 Sato"]
	other := s.visitor().signIn(demo.SecondCoachEmail)
	status, _, _ = other.putPlayer(sato.ID.String(), input(sato, func(m map[string]any) { m["position"] = "CB" }))
	assert.Equal(t, http.StatusForbidden, status)
	assert.False(t, other.roster()["64 Sato"].Editable)

	// Archived he is on no list and in no count; his marks stay, and so does he when back.
	status, gone, text := s.putPlayer(sato.ID.String(), input(sato, func(m map[string]any) { m["archived"] = true }))
	require.Equal(t, http.StatusOK, status, text)
	var m contract.Matrix
	s.get("/groups/ol/players?week=7", &m)
	for _, row := range m.Players {
		assert.NotEqual(t, "Sato", row.Player.LastName)
	}
	assert.True(t, s.roster()["64 Sato"].Archived)
	status, back, text := s.putPlayer(sato.ID.String(), input(gone, func(m map[string]any) { m["archived"] = false }))
	require.Equal(t, http.StatusOK, status, text)
	assert.Equal(t, sato.Marks, back.Marks)
	status, _, _ = s.putPlayer(made(), input(sato, func(map[string]any) {}))
	assert.Equal(t, http.StatusNotFound, status, "a version of somebody who is not there")
}

// TestTwoEntriesBecomeOnePlayer: his marks follow, and what the reports say is what a plain
// recount says.
func TestTwoEntriesBecomeOnePlayer(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	players := s.roster()
	gone, kept := players["75 Trell"], players["73 Veil"]
	events := func(id uuid.UUID) int {
		return s.count("SELECT count(*)::int AS n FROM mark_events WHERE player_id = @id", pg.Args{"id": id})
	}
	before := events(gone.ID) + events(kept.ID)
	status, text := s.do("POST", "/roster/players/"+gone.ID.String()+"/merge", map[string]any{"into": kept.ID})
	require.Equal(t, http.StatusOK, status, text)
	var merged contract.Merged
	require.NoError(t, json.Unmarshal([]byte(text), &merged))
	assert.Equal(t, before, events(kept.ID))
	assert.Zero(t, events(gone.ID))
	assert.NotContains(t, s.roster(), "75 Trell")
	// The newest event of each slot holds, as a plain reading says.
	assert.Zero(t, s.count(`
		SELECT count(*)::int AS n FROM (
			SELECT DISTINCT ON (placement_id, rep, play_id, technique_key, grader) id FROM mark_events WHERE player_id = @id ORDER BY placement_id, rep, play_id, technique_key, grader, seq DESC) e
		FULL JOIN (SELECT id FROM mark_slots WHERE player_id = @id) m ON m.id = e.id WHERE e.id IS NULL OR m.id IS NULL`, pg.Args{"id": kept.ID}))
	assert.Zero(t, s.count(`SELECT wrong_sums(@club)::int AS n`, nil), "and the sums are a plain count")
	assert.Equal(t, merged.Player.Marks, s.roster()["73 Veil"].Marks)
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM mark_faults WHERE caused_by = @id`, pg.Args{"id": gone.ID}), "what he caused follows")
	assert.Zero(t, s.count(`SELECT count(*)::int AS n FROM mark_events m JOIN mark_faults f ON f.mark_id = m.id WHERE m.player_id = @id AND f.caused_by = @id`, pg.Args{"id": kept.ID}), "nobody is his own teammate")
	assert.Error(t, s.exec("UPDATE mark_events SET player_id = @id", pg.Args{"id": gone.ID}), "append only again")

	status, _ = s.do("POST", "/roster/players/"+gone.ID.String()+"/merge", map[string]any{"into": kept.ID})
	assert.Equal(t, http.StatusNotFound, status, "he is merged already")
	status, text = s.do("POST", "/roster/players/"+kept.ID.String()+"/merge", map[string]any{"into": kept.ID})
	assert.Equal(t, "into", *problem(t, text).Field, status)
	status, _ = s.do("POST", "/roster/players/"+kept.ID.String()+"/merge", map[string]any{"into": players["2 Ferreira"].ID})
	assert.Equal(t, http.StatusForbidden, status)
}

// TestAvailabilityByDayIsReadEverywhere: by plans, marks, ladders and Today.
func TestAvailabilityByDayIsReadEverywhere(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	sato := s.roster()["64 Sato"]
	spell := func(id, status, from, to, reason string, version int) (int, string) {
		body := map[string]any{"version": version, "status": status, "from": from, "reason": reason}
		if to != "" {
			body["to"] = to
		}
		return s.do("PUT", "/roster/players/"+sato.ID.String()+"/availability/"+id, body)
	}
	attending := func() (players, limited int) {
		practice, _ := s.tonight()
		var p contract.Practice
		s.get("/practices/"+practice+"?group=ol", &p)
		return p.Players, p.Limited
	}
	players, limited := attending()
	id := made()
	for range 2 {
		status, text := spell(id, "limited", "2026-10-13", "2026-10-14", "Ankle", 0)
		require.Equal(t, http.StatusOK, status, text)
	}
	p, l := attending()
	assert.Equal(t, []int{players, limited + 1}, []int{p, l})
	status, text := spell(id, "out", "2026-10-13", "2026-10-13", "Ankle", 1)
	require.Equal(t, http.StatusOK, status, text)
	p, l = attending()
	assert.Equal(t, []int{players - 1, limited}, []int{p, l})
	status, text = spell(id, "limited", "2026-10-13", "", "Ankle", 1)
	require.Equal(t, http.StatusConflict, status, text)

	var wednesday contract.Practice
	s.get("/practices/"+s.world.Practices[19].ID.String()+"?group=ol", &wednesday)
	assert.Equal(t, players, wednesday.Players, "the day after he is back")
	var today contract.Today
	s.get("/groups/ol/today?week=7", &today)
	held := map[string]contract.Availability{}
	for _, h := range today.Holds {
		held[h.Name] = h.Status
	}
	assert.Equal(t, contract.AvailabilityOut, held["Sato"])
	var board contract.Board
	s.get("/groups/ol/ladders?week=7", &board)
	for _, bp := range board.Ladders[0].Players {
		if bp.PlayerID == sato.ID {
			assert.Equal(t, contract.BoardPlayerAdviceAbsent, bp.Advice)
		}
	}
	for field, c := range map[string][4]string{
		"to":     {"out", "2026-10-13", "2026-10-12", "x"},
		"from":   {"out", "2026-13-13", "", "x"},
		"reason": {"out", "2026-10-13", "", "  "},
		"to ":    {"head_hold", "2026-10-13", "2026-10-20", "Suspected head injury"},
	} {
		status, text := spell(made(), c[0], c[1], c[2], c[3], 0)
		assert.Contains(t, []int{400, 422}, status, text)
		assert.Equal(t, strings.TrimSpace(field), *problem(t, text).Field)
	}
	status, _ = s.do("DELETE", "/roster/players/"+sato.ID.String()+"/availability/"+id, nil)
	assert.Equal(t, http.StatusNoContent, status)
	p, _ = attending()
	assert.Equal(t, players, p)
}

// TestACoachCannotClear a head-injury hold: nor shorten, change or take it back.
func TestACoachCannotClear(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	sato := s.roster()["64 Sato"]
	id := made()
	path := "/roster/players/" + sato.ID.String() + "/availability/" + id
	status, text := s.do("PUT", path, map[string]any{"version": 0, "status": "head_hold", "from": "2026-10-13", "reason": "Suspected head injury"})
	require.Equal(t, http.StatusOK, status, text)
	_, own := s.tonight()
	why := s.refused(mark(own.Placements[0].ID, sato.ID, 1, "assumed"))
	assert.Equal(t, http.StatusUnprocessableEntity, why.Status)
	assert.Contains(t, *why.Detail, "head-injury hold")

	status, text = s.do("PUT", path, map[string]any{"version": 1, "status": "limited", "from": "2026-10-13", "reason": "better"})
	assert.Equal(t, http.StatusUnprocessableEntity, status, text)
	status, _ = s.do("PUT", path, map[string]any{"version": 1, "status": "head_hold", "from": "2026-10-20", "reason": "later"})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, _ = s.do("DELETE", path, nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	clear := map[string]any{"by": "Dr. A. Fell, physician", "on": "2026-10-13", "document": "letter 12"}
	status, _ = s.do("PUT", path+"/clearance", clear)
	assert.Equal(t, http.StatusForbidden, status, "a position coach does not even keep the record")

	status, _ = s.visitor().signIn(demo.HeadCoachEmail).do("PUT", path+"/clearance", clear)
	assert.Equal(t, http.StatusForbidden, status, "nor does the head coach")
	health := s.visitor().signIn(demo.HealthEmail)
	status, text = health.do("PUT", path+"/clearance", map[string]any{"by": "Dr. A. Fell, physician", "on": "2026-10-20", "document": "letter 12"})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "on", *problem(t, text).Field)
	for range 2 {
		status, text = health.do("PUT", path+"/clearance", clear)
		require.Equal(t, http.StatusOK, status, text)
	}
	var list []contract.Spell
	s.get("/roster/players/"+sato.ID.String()+"/availability", &list)
	require.Len(t, list, 1)
	assert.Equal(t, "Dr. A. Fell, physician", *list[0].ClearedBy)
	assert.Equal(t, "N. Sollis", *list[0].RecordedBy, "who wrote it down")
	assert.False(t, list[0].Editable)
	assert.Equal(t, contract.AvailabilityAvailable, s.roster()["64 Sato"].Status)
}

// TestTheRosterGoesOutAndComesBack: what is exported is imported again without a change.
func TestTheRosterGoesOutAndComesBack(t *testing.T) {
	s := open(t).signIn(demo.HeadCoachEmail)
	for _, format := range []string{"csv", "xlsx"} {
		status, file := s.do("GET", "/roster/export?format="+format, nil)
		require.Equal(t, http.StatusOK, status)
		status, body := s.send(made(), "ol", file)
		require.Equal(t, http.StatusOK, status, body)
		var p contract.RosterPreview
		require.NoError(t, json.Unmarshal([]byte(body), &p))
		assert.Equal(t, []int{0, 0, 46, 0}, []int{p.Create, p.Update, p.Same, p.Problems}, format)
	}
	status, _ := s.do("GET", "/roster/export?format=pdf", nil)
	assert.Equal(t, http.StatusBadRequest, status)
}
