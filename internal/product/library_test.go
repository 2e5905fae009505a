package product_test

import (
	"bytes"
	"encoding/json"
	"maps"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/merge"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/product"
	"nineyard/library"
)

func made() string { return uuid.Must(uuid.NewV7()).String() }

func (s *site) entry(kind, key string) (e contract.Entry) {
	s.t.Helper()
	s.get("/library/entries/"+kind+"/"+key, &e)
	return e
}

// put changes an entry and returns the status, the entry and the body.
func (s *site) put(kind, key string, version int, fields map[string]any, more ...any) (int, contract.Entry, string) {
	s.t.Helper()
	body := map[string]any{"id": made(), "version": version}
	if fields != nil {
		body["fields"] = fields
	}
	for i := 0; i+1 < len(more); i += 2 {
		body[more[i].(string)] = more[i+1]
	}
	status, text := s.do(http.MethodPut, "/library/entries/"+kind+"/"+key, body)
	var e contract.Entry
	_ = json.Unmarshal([]byte(text), &e)
	return status, e, text
}

func (s *site) find(q string) (hits []contract.Hit) {
	s.t.Helper()
	s.get("/library/find?group=ol&q="+strings.ReplaceAll(q, " ", "+"), &hits)
	return hits
}

func TestRenamingKeepsTheOldTermAndMakesAVersion(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	e := s.entry("technique", "kick_slide")
	assert.Equal(t, 1, e.Version)
	assert.Empty(t, e.Changed)
	fields := e.Fields
	fields["name"] = "Glide set"
	status, after, text := s.put("technique", "kick_slide", e.Version, fields)
	require.Equal(t, http.StatusOK, status, text)
	assert.Equal(t, 2, after.Version)
	assert.Equal(t, []string{"aliases", "name"}, after.Changed)
	assert.Contains(t, after.Fields["aliases"], "Kick and slide")
	require.Len(t, after.Versions, 1)
	assert.Equal(t, "R. Kell", after.Versions[0].By)

	// Two coaches' words meet at one technique, mistyped or not.
	for _, q := range []string{"glide set", "kick and slide", "kik slide", "vertical set", "glid"} {
		hits := s.find(q)
		require.NotEmpty(t, hits, q)
		assert.Equal(t, "kick_slide", hits[0].Technique, q)
	}
	for _, q := range []string{"frist step", "fisrt setp", "hnads wide"} {
		assert.NotEmpty(t, s.find(q), "%s: swapped letters", q)
	}
	hit := s.find("glide set")[0]
	assert.Equal(t, contract.HitKindTechnique, hit.Kind)
	assert.Positive(t, hit.Use.Marks)
	assert.Equal(t, []string{"Kick and slide"}, hit.Ladders)

	// Old marks keep the version they were made by, new ones have the new one.
	var sheet contract.Library
	s.get("/groups/ol/library", &sheet)
	assert.Contains(t, toJSON(t, sheet), "Glide set")

	// As it shipped again: nothing is left of the change, and history stays.
	shipped := *e.Shipped
	status, after, text = s.put("technique", "kick_slide", 2, shipped)
	require.Equal(t, http.StatusOK, status, text)
	assert.Contains(t, after.Changed, "aliases", "the word of the house stays findable")
	assert.Len(t, after.Versions, 2)
}

func toJSON(t *testing.T, v any) string {
	t.Helper()
	text, err := json.Marshal(v)
	require.NoError(t, err)
	return string(text)
}

func TestEditingRefusesWhatCannotBe(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	e := s.entry("drill", "pull_bag")
	for field, change := range map[string]func(map[string]any){
		"fields.minutes":     func(f map[string]any) { f["minutes"] = -3 },
		"fields.rep_seconds": func(f map[string]any) { f["rep_seconds"] = "fast" },
		"fields.cautions":    func(f map[string]any) { f["cautions"] = "" },
		"fields.works_on":    func(f map[string]any) { f["works_on"] = []string{"no_such_fault"} },
		"fields.colour":      func(f map[string]any) { f["colour"] = "red" },
		"fields.name":        func(f map[string]any) { f["name"] = "Pull round the cones" },
	} {
		f := s.entry("drill", "pull_bag").Fields
		change(f)
		status, _, text := s.put("drill", "pull_bag", e.Version, f)
		require.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Equal(t, field, *problem(t, text).Field, text)
	}
	assert.Equal(t, e.Fields, s.entry("drill", "pull_bag").Fields, "nothing was changed")

	// Another group's coach may look and not touch; the head coach may.
	status, _, text := s.put("drill", "pedal_line", 1, s.entry("drill", "pedal_line").Fields, "retired", true)
	assert.Equal(t, http.StatusForbidden, status, text)
	status, _ = s.do("GET", "/library/entries/drill/no_such", nil)
	assert.Equal(t, http.StatusNotFound, status)
	status, text = s.do("GET", "/library/entries/play/x", nil)
	assert.Equal(t, http.StatusNotFound, status, text)
}

func TestTwoCoachesOneEntry(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	head := s.visitor().signIn(demo.HeadCoachEmail)
	fields := s.entry("fault", "kick_leans").Fields
	fields["severity"] = 3
	status, _, text := s.put("fault", "kick_leans", 1, fields)
	require.Equal(t, http.StatusOK, status, text)

	// The head coach read version 1 and changes the same entry: both versions are shown.
	fields["severity"] = 1
	status, _, text = head.put("fault", "kick_leans", 1, fields)
	require.Equal(t, http.StatusConflict, status, text)
	var conflict contract.EntryConflict
	require.NoError(t, json.Unmarshal([]byte(text), &conflict))
	assert.Equal(t, "This entry was changed by R. Kell.", conflict.Title)
	assert.InDelta(t, 3, conflict.Current.Fields["severity"], 0)

	// Another entry, read at the same time, is no conflict.
	other := head.entry("fault", "kick_rises").Fields
	other["severity"] = 3
	status, _, text = head.put("fault", "kick_rises", 1, other)
	require.Equal(t, http.StatusOK, status, text)

	// The same request again answers the same and makes no version.
	body := map[string]any{"id": made(), "version": 3, "fields": fields, "note": "after the film"}
	for range 2 {
		status, text = head.do("PUT", "/library/entries/fault/kick_leans", body)
		require.Equal(t, http.StatusOK, status, text)
	}
	var h contract.House
	s.get("/library/house", &h)
	assert.Equal(t, 4, h.Version)
	assert.Len(t, h.Changes, 2)
	var page contract.VersionPage
	s.get("/library/versions", &page)
	require.Len(t, page.Versions, 4)
	assert.Nil(t, page.Next, "there are no more")
	assert.Contains(t, page.Versions[0].Summary, "after the film")
	s.get("/library/versions?before=3", &page)
	require.Len(t, page.Versions, 2)
	assert.Equal(t, 2, page.Versions[0].Version)

	// And back to the beginning, as a version of its own.
	status, text = head.do("POST", "/library/versions/1/restore", map[string]string{"id": made()})
	require.Equal(t, http.StatusOK, status, text)
	require.NoError(t, json.Unmarshal([]byte(text), &h))
	assert.Equal(t, 5, h.Version)
	assert.Empty(t, h.Changes)
}

func TestRetireAndAdd(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	status, e, text := s.put("drill", "lead_window", 1, nil, "retired", true)
	require.Equal(t, http.StatusOK, status, text)
	assert.True(t, e.Retired)
	var lib contract.Library
	s.get("/groups/ol/library", &lib)
	assert.NotContains(t, toJSON(t, lib), `"lead_window"`, "it is gone from drills, ladders and faults")
	var practice contract.Practice
	s.get("/practices/"+s.world.Practices[0].ID.String()+"?group=ol", &practice) // the past still names its drills
	var h contract.House
	s.get("/library/house", &h)
	assert.Contains(t, strings.Join(h.Missing, "\n"), "Gives depth on the pull: no drill trains it away")

	status, e, text = s.put("fault", "kick_looks_in", e.Version, map[string]any{"technique": "kick_slide", "at": "kick_square", "name": "Looks inside first", "effect": "The edge man has a step before he is seen.", "severity": 2})
	require.Equal(t, http.StatusOK, status, text)
	assert.True(t, e.Added)
	assert.NotEmpty(t, s.find("looks inside"))
	status, _, text = s.put("fault", "pd_new", e.Version, map[string]any{"technique": "pedal_drive", "at": "pd_plant", "name": "New one", "effect": "Something.", "severity": 2})
	assert.Equal(t, http.StatusForbidden, status, text)
}

func TestChoosingASchoolSwitchesWhatFollows(t *testing.T) {
	s := open(t).signIn(demo.SecondCoachEmail)
	fields := s.entry("question", "leverage_footwork").Fields
	fields["house"] = "two_steps"
	fields["why"] = ""
	status, _, text := s.put("question", "leverage_footwork", 1, fields)
	require.Equal(t, http.StatusUnprocessableEntity, status, text)
	assert.Equal(t, "fields.why", *problem(t, text).Field)
	fields["why"] = "Our corners turn their shoulders."
	status, _, text = s.put("question", "leverage_footwork", 1, fields)
	require.Equal(t, http.StatusOK, status, text)
	var lib contract.Library
	s.get("/groups/db/library", &lib)
	text = toJSON(t, lib)
	assert.Contains(t, text, `"key":"two_step_mirror"`)
	assert.NotContains(t, text, `"key":"weave_mirror"`)
	assert.NotContains(t, text, `"key":"lv_crosses_feet"`)
	for _, q := range lib.Questions {
		if q.Key == "leverage_footwork" {
			assert.False(t, q.Shipped)
			assert.Equal(t, "Our corners turn their shoulders.", q.Why)
			assert.Contains(t, q.Brings[q.Schools[1].Key], "Drill: Two and back")
		}
	}
}

func (s *site) takeIn(path, name string, content []byte, fields map[string]string) (int, string) {
	s.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile("file", name)
	require.NoError(s.t, err)
	_, err = part.Write(content)
	require.NoError(s.t, err)
	for k, v := range fields {
		require.NoError(s.t, form.WriteField(k, v))
	}
	require.NoError(s.t, form.Close())
	return s.do("POST", path, body.String(), "Content-Type", form.FormDataContentType())
}

func TestALadderGoesToAnotherClubAsOneFile(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	fields := s.entry("ladder", "close_turn_ladder").Fields
	fields["name"] = "Shut the door"
	status, _, text := s.put("ladder", "close_turn_ladder", 1, fields)
	require.Equal(t, http.StatusOK, status, text)
	for _, format := range []string{"yaml", "json"} {
		status, file := s.do("GET", "/library/export?kind=ladder&key=close_turn_ladder&format="+format, nil)
		require.Equal(t, http.StatusOK, status, file)
		assert.Contains(t, file, "close_partner")
		assert.NotContains(t, file, "pedal_line")

		other := open(t).signIn(demo.HeadCoachEmail)
		status, text := other.takeIn("/library/import/preview", "ladder."+format, []byte(file), nil)
		require.Equal(t, http.StatusOK, status, text)
		var preview contract.LibraryPreview
		require.NoError(t, json.Unmarshal([]byte(text), &preview))
		assert.Equal(t, 1, preview.Change, text)
		assert.Zero(t, preview.Create)
		status, text = other.takeIn("/library/import", "ladder."+format, []byte(file), map[string]string{"id": made()})
		require.Equal(t, http.StatusOK, status, text)
		assert.Equal(t, "Shut the door", other.entry("ladder", "close_turn_ladder").Fields["name"])
	}
	status, file := s.do("GET", "/library/export", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Greater(t, len(file), 200_000)
	status, text = s.do("GET", "/library/schema", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, text, "json-schema.org")
}

func TestImportIsWholeOrNothing(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	bad := "drills:\n  - key: our_own\n    name: Our own\n    trains: [kick_first]\n    works_on: [no_such]\n    working: 1\n    helping: 0\n    roles: Each sets alone.\n    lanes: 3\n    rep_seconds: 4\n    reset_seconds: 12\n    setup_seconds: 0\n    minutes: 3\n    min_minutes: 2\n    contact: air\n    equipment: none\n    space_yd: [4, 2]\n    coach_at: Behind\n    watch: The heel\n    self_check: The line\n    alone: Together\n    game: Passes\n    cautions: None\n"
	status, text := s.takeIn("/library/import", "own.yaml", []byte(bad), map[string]string{"id": made()})
	require.Equal(t, http.StatusUnprocessableEntity, status, text)
	p := problem(t, text)
	assert.Equal(t, "file", *p.Field)
	assert.Contains(t, *p.Detail, "line 2: drill our_own: works_on")
	status, _ = s.do("GET", "/library/entries/drill/our_own", nil)
	assert.Equal(t, http.StatusNotFound, status)

	good := strings.Replace(bad, "[no_such]", "[kick_heel_in]", 1)
	status, text = s.takeIn("/library/import", "own.yaml", []byte(good), map[string]string{"id": made()})
	require.Equal(t, http.StatusOK, status, text)
	assert.Equal(t, "Our own", s.entry("drill", "our_own").Name)
	status, text = s.takeIn("/library/import", "own.yaml", []byte(good), map[string]string{"id": made()})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "there is nothing new in it: %s", text)

	for name, file := range map[string]string{"not understood": "drills: [", "a wrong field": "drils: []\n", "empty": "", "twice": "drills:\n  - {key: a}\n  - {key: a}\n"} {
		status, text = s.takeIn("/library/import/preview", "x.yaml", []byte(file), nil)
		assert.Equal(t, http.StatusUnprocessableEntity, status, name)
		assert.Equal(t, "file", *problem(t, text).Field, name)
	}
	// Another group's entry in the file: nothing of it is taken in.
	mixed := good + "  - key: pedal_line\n    name: Mine now\n    trains: [pd_pedal]\n    works_on: []\n    working: 1\n    helping: 0\n    roles: r\n    lanes: 3\n    rep_seconds: 4\n    reset_seconds: 12\n    setup_seconds: 0\n    minutes: 3\n    min_minutes: 2\n    contact: air\n    equipment: none\n    space_yd: [4, 2]\n    coach_at: a\n    watch: b\n    self_check: c\n    alone: d\n    game: e\n    cautions: f\n"
	status, text = s.takeIn("/library/import", "m.yaml", []byte(mixed), map[string]string{"id": made()})
	assert.Equal(t, http.StatusForbidden, status, text)
}

func TestBoardOverrideAndMove(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	var board contract.Board
	s.get("/groups/ol/ladders?week=7", &board)
	require.NotNil(t, board.NextPractice)
	find := func(key string) contract.BoardLadder {
		for _, l := range board.Ladders {
			if l.Key == key {
				return l
			}
		}
		t.Fatal(key)
		return contract.BoardLadder{}
	}
	kick := find("kick_ladder")
	require.Len(t, kick.Players, len(board.Players))
	var held, late int
	for i, m := range board.Players {
		if m.Jersey == demo.OnHold {
			held = i
		}
		if m.Jersey == demo.TooFew {
			late = i
		}
	}
	assert.Equal(t, contract.BoardPlayerAdviceAbsent, kick.Players[held].Advice)

	// A coach's word lets a man pass, with the reason in sight, and can be taken back.
	id := made()
	over := map[string]string{"id": id, "ladder": "kick_ladder", "stage": kick.Stages[kick.Players[late].At].Key, "reason": "Did it all spring at his last club."}
	for range 2 {
		status, text := s.do("POST", "/players/"+board.Players[late].ID.String()+"/overrides", over)
		require.Equal(t, http.StatusNoContent, status, text)
	}
	before := kick.Players[late].At
	s.get("/groups/ol/ladders?week=7", &board)
	after := find("kick_ladder").Players[late]
	assert.Greater(t, after.At, before)
	require.NotNil(t, after.Override)
	assert.Equal(t, "Did it all spring at his last club.", after.Override.Reason)
	over["id"] = made()
	status, text := s.do("POST", "/players/"+board.Players[late].ID.String()+"/overrides", over)
	assert.Equal(t, http.StatusUnprocessableEntity, status, text)
	over["stage"] = "nowhere"
	status, text = s.do("POST", "/players/"+board.Players[late].ID.String()+"/overrides", over)
	assert.Equal(t, "stage", *problem(t, text).Field)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, _ = s.do("DELETE", "/overrides/"+id, nil)
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = s.do("DELETE", "/overrides/"+id, nil)
	assert.Equal(t, http.StatusNotFound, status)

	// One action moves the next practice to the group's stage; again, it is there already.
	var move contract.Move
	status, text = s.do("POST", "/groups/ol/ladders/base_ladder/move", map[string]string{"id": made()})
	require.Equal(t, http.StatusOK, status, text)
	require.NoError(t, json.Unmarshal([]byte(text), &move))
	assert.Equal(t, "Two steps and freeze", move.Replaced, "tonight's first drill stood at a stage they have passed: %s", text)
	s.get("/groups/ol/ladders?week=7", &board)
	assert.Equal(t, move.Drill, find("base_ladder").Planned)
	status, text = s.do("POST", "/groups/ol/ladders/base_ladder/move", map[string]string{"id": made()})
	require.Equal(t, http.StatusOK, status, text)
	require.NoError(t, json.Unmarshal([]byte(text), &move))
	assert.True(t, move.Already)
	status, _ = s.do("POST", "/groups/db/ladders/pedal_ladder/move", map[string]string{"id": made()})
	assert.Equal(t, http.StatusForbidden, status)
	status, _ = s.do("POST", "/groups/ol/ladders/pedal_ladder/move", map[string]string{"id": made()})
	assert.Equal(t, http.StatusNotFound, status)
}

func TestAPlayersOwnRangeIsUsedWhenHeIsJudged(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	var matrix contract.Matrix
	s.get("/groups/ol/players?week=7", &matrix)
	veil, sato := matrix.Players[0].Player.ID, matrix.Players[0].Player.ID
	for _, p := range matrix.Players {
		switch p.Player.Jersey {
		case "73":
			veil = p.Player.ID
		case "64":
			sato = p.Player.ID
		}
	}
	own := map[string]any{"id": made(), "ok_low": 6, "ok_high": 12, "watch_low": 4, "watch_high": 15, "reason": "Longest legs of the line."}
	path := "/players/" + veil.String() + "/ranges/base_first"
	for field, change := range map[string]map[string]any{
		"watch_high": {"watch_high": 18}, "ok_low": {"ok_low": 13}, "watch_low": {"watch_low": 7}, "reason": {"reason": " "},
	} {
		bad := map[string]any{}
		for k, v := range own {
			bad[k] = v
		}
		for k, v := range change {
			bad[k] = v
		}
		status, text := s.do("PUT", path, bad)
		require.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Equal(t, field, *problem(t, text).Field, text)
	}
	status, text := s.do("PUT", path, own)
	require.Equal(t, http.StatusNoContent, status, text)
	status, _ = s.do("PUT", "/players/"+veil.String()+"/ranges/base_strike", own)
	assert.Equal(t, http.StatusUnprocessableEntity, status, "judged by eye")

	_, period := s.tonight()
	var sheet contract.MarkSheet
	s.get("/placements/"+period.Placements[0].ID.String()+"/marks", &sheet)
	require.NotEmpty(t, sheet.Measures)
	require.Len(t, sheet.Own, 1)
	assert.Equal(t, 2, sheet.Sides)
	mark := func(player uuid.UUID, value float64) map[string]any {
		return map[string]any{"id": made(), "placement_id": sheet.PlacementID, "player_id": player, "rep": 1, "state": "looked",
			"measures": []map[string]any{{"checkpoint": "base_first", "value": value}}, "side": "left"}
	}
	status, text = s.do("POST", "/marks", map[string]any{"marks": []any{mark(veil, 12), mark(sato, 12)}})
	require.Equal(t, http.StatusOK, status, text)
	s.get("/placements/"+period.Placements[0].ID.String()+"/marks", &sheet)
	verdicts := map[uuid.UUID]contract.MarkMeasureVerdict{}
	for _, m := range sheet.Marks {
		verdicts[m.PlayerID] = m.Measures[0].Verdict
	}
	assert.Equal(t, contract.MarkMeasureVerdictRight, verdicts[veil], "12 in is right for him")
	assert.Equal(t, contract.MarkMeasureVerdictWatch, verdicts[sato], "and watched for the others")
	status, text = s.do("POST", "/marks", map[string]any{"marks": []any{mark(sato, 17)}})
	require.Equal(t, http.StatusOK, status, text)
	s.get("/placements/"+period.Placements[0].ID.String()+"/marks", &sheet)
	for _, m := range sheet.Marks {
		if m.PlayerID == sato {
			assert.Equal(t, contract.MarkMeasureVerdictNever, m.Measures[0].Verdict)
			assert.Zero(t, *m.Technique, "beyond the limit the technique is wrong")
		}
	}
	var evidence contract.EvidencePage
	s.get("/players/"+sato.String()+"/evidence?group=ol&week=7&technique=base_block", &evidence)
	assert.Contains(t, evidence.Reps[0].Measures[0], "17 in, never")
	assert.Equal(t, 1, evidence.Reps[0].Standard)
	s.get("/players/"+sato.String()+"/evidence?group=ol&week=7&fault=base_second_behind", &evidence)
	bad := mark(sato, 9)
	bad["measures"] = []map[string]any{{"checkpoint": "kick_first", "value": 3}}
	assert.Equal(t, "marks[0].measures[0].checkpoint", *s.refused(bad).Field)

	var player contract.PlayerSheet
	s.get("/players/"+veil.String()+"?group=ol&week=7", &player)
	found := false
	for _, st := range player.Standards {
		if st.Own != nil {
			found = true
			assert.Equal(t, "base_first", st.Checkpoint)
			assert.InDelta(t, 10, st.Own.House.OK.High, 0)
		}
	}
	assert.True(t, found)
	status, _ = s.do("DELETE", path, nil)
	assert.Equal(t, http.StatusNoContent, status)
	other := s.visitor().signIn(demo.SecondCoachEmail)
	own["id"] = made()
	status, _ = other.do("PUT", path, own)
	assert.Equal(t, http.StatusForbidden, status)
}

func TestDrillPage(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	var page contract.DrillPage
	s.get("/groups/ol/drills/ol_run_look?minutes=8&lanes=1", &page)
	assert.Equal(t, 8, page.Reps.Players, "the limited player neither blocks nor is struck")
	assert.Zero(t, page.Reps.HelpOnly)
	fields := s.entry("drill", "ol_run_look").Fields
	fields["help"] = append(fields["help"].([]any), map[string]any{"role": "shows the card", "men": 1, "contact": "air"})
	status, _, text := s.put("drill", "ol_run_look", 1, fields)
	require.Equal(t, http.StatusOK, status, text)
	s.get("/groups/ol/drills/ol_run_look?minutes=8&lanes=1", &page)
	assert.Equal(t, 9, page.Reps.Players)
	assert.Equal(t, 1, page.Reps.HelpOnly, "he may show the card, which one player a lane does")
	require.Len(t, page.Rotation.Rows, 9)
	last := page.Rotation.Rows[8]
	assert.True(t, last.HelpOnly)
	assert.Zero(t, last.Working)
	assert.Positive(t, last.Helping)
	for _, r := range page.Rotation.Rows[:8] {
		assert.InDelta(t, r.Left, r.Right, 1)
		assert.Equal(t, r.Working, r.Left+r.Right)
	}
	assert.NotEmpty(t, page.Drill.Setup.Things)
	assert.NotEmpty(t, page.Drill.Rungs)
	status, text = s.do("GET", "/groups/ol/drills/ol_run_look?minutes=900", nil)
	assert.Equal(t, http.StatusBadRequest, status)
	assert.Equal(t, "minutes", *problem(t, text).Field)
	status, _ = s.do("GET", "/groups/ol/drills/nothing", nil)
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = s.do("GET", "/library/find?group=ol&q=%21%21", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}

// TestAnUpdateMergesBeneath: a later edition of the shipped library comes under the layer
// of the house; what both changed waits for a decision, shown side by side.
func TestAnUpdateMergesBeneath(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	fields := s.entry("fault", "kick_leans").Fields
	fields["name"] = "Leans on him"
	status, _, text := s.put("fault", "kick_leans", 1, fields)
	require.Equal(t, http.StatusOK, status, text)

	// The next edition words this fault and another anew, and makes this one graver.
	shipped, err := library.Shipped()
	require.NoError(t, err)
	var entries []merge.Entry
	for _, e := range shipped.Entries {
		e.Fields = maps.Clone(e.Fields)
		switch e.Ref {
		case merge.Ref{Kind: "fault", Key: "kick_leans"}:
			e.Fields["name"], e.Fields["severity"] = `"Leans into the rusher"`, "3"
		case merge.Ref{Kind: "fault", Key: "kick_rises"}:
			e.Fields["name"] = `"Stands up in the set"`
		}
		entries = append(entries, e)
	}
	next, err := library.NewEdition(entries)
	require.NoError(t, err)
	newer := openWith(t, product.Options{DB: s.product.DB, Edition: func() (*library.Edition, error) { return next, nil }, Now: demo.Now, Demo: s.world.ClubID})
	newer.owner = s.owner
	newer.signIn(demo.LineCoachEmail)
	for range 2 { // the first request takes it in; once is enough
		var h contract.House
		newer.get("/library/house", &h)
		require.Equal(t, 3, h.Version)
	}

	// The old server, still running, already serves what the club now has.
	e := s.entry("fault", "kick_leans")
	assert.Equal(t, "Leans on him", e.Fields["name"], "ours holds")
	assert.InDelta(t, 3, e.Fields["severity"], 0, "what we never touched follows")
	require.Len(t, e.Conflicts, 1)
	assert.Equal(t, "Leans", e.Conflicts[0].Base)
	assert.Equal(t, "Leans on him", e.Conflicts[0].Ours)
	assert.Equal(t, "Leans into the rusher", e.Conflicts[0].Theirs)
	assert.Equal(t, "Stands up in the set", s.entry("fault", "kick_rises").Name)
	var h contract.House
	s.get("/library/house", &h)
	require.Len(t, h.Conflicts, 1)
	assert.Equal(t, 3, h.Version)
	var page contract.VersionPage
	s.get("/library/versions", &page)
	assert.Equal(t, "The shipped library was updated: 2 entries", page.Versions[0].Summary)

	// Saving it as it is keeps ours and settles it.
	status, e, text = s.put("fault", "kick_leans", h.Version, e.Fields)
	require.Equal(t, http.StatusOK, status, text)
	assert.Empty(t, e.Conflicts)
	assert.Equal(t, "Leans on him", e.Name)
}

// TestAClubMadeWhileServing has the library from its first request on.
func TestAClubMadeWhileServing(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Dunmere", Timezone: "UTC", SeasonStart: "2026-09-07", Weeks: 9,
		Name: "H. Coach", Email: "h@dunmere.example", Password: demo.Password})
	o := s.visitor().signIn("h@dunmere.example")
	var lib contract.Library
	o.get("/groups/ol/library", &lib)
	assert.NotEmpty(t, lib.Techniques)
	assert.NotEmpty(t, o.find("kick"))

	// What one club calls its own is not the other's.
	kell := s.visitor().signIn(demo.LineCoachEmail)
	fields := kell.entry("drill", "pull_bag").Fields
	fields["name"] = "Lamplighter special"
	status, _, text := kell.put("drill", "pull_bag", 1, fields)
	require.Equal(t, http.StatusOK, status, text)
	assert.Equal(t, "Pull and kick the bag", o.entry("drill", "pull_bag").Name)
	for _, hit := range o.find("lamplighter special") {
		assert.NotEqual(t, "Lamplighter special", hit.Name)
	}
	player := s.world.Players[0].ID.String()
	status, _ = o.do("POST", "/players/"+player+"/overrides", map[string]string{"id": made(), "ladder": "base_ladder", "stage": "fit", "reason": "x"})
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = o.do("PUT", "/players/"+player+"/ranges/base_first", map[string]any{"id": made(), "ok_low": 6, "ok_high": 9, "watch_low": 4, "watch_high": 12, "reason": "x"})
	assert.Equal(t, http.StatusNotFound, status)
}
