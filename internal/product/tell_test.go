package product_test

import (
	"encoding/json"
	"net/http"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// TestAPlayerIsToldThreeThings: as proposed from the marks, until a coach writes on it; two who write meet; it goes
// back to what is proposed.
func TestAPlayerIsToldThreeThings(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	game := line.world.Games[demo.Week-3].ID.String()
	var list contract.FeedbackList
	line.get("/games/"+game+"/feedback?group=ol", &list)
	require.NotEmpty(t, list.Players)
	i := slices.IndexFunc(list.Players, func(p contract.FeedbackLine) bool { return p.Jersey == "64" })
	require.GreaterOrEqual(t, i, 0)
	sato := list.Players[i]
	assert.True(t, sato.Proposed && sato.Best != nil && len(sato.Fixes) > 0)
	assert.LessOrEqual(t, len(sato.Fixes), 2)

	address := "/games/" + game + "/feedback/" + sato.PlayerID.String() + "?group=ol"
	var sheet contract.Feedback
	line.get(address, &sheet)
	assert.Equal(t, []any{"Sato", true, 0, *sato.Best}, []any{sheet.Player.LastName, sheet.Proposed, sheet.Version, sheet.Best.Title})
	assert.Positive(t, sheet.Best.N)
	fix := sheet.Fixes[0]
	assert.True(t, fix.Text != "" && fix.Drill != nil && fix.Stage != nil && len(fix.Plays) > 0, "%+v", fix)
	number := map[uuid.UUID]int{}
	for _, p := range sheet.Plays {
		number[p.ID] = p.Play.Number
		assert.True(t, !p.His || *p.Says != "")
	}
	for _, id := range fix.Plays {
		assert.NotZero(t, number[id], "each play can be seen")
	}

	write := func(s *site, version int, change func(*contract.FeedbackInput)) (int, string) {
		in := contract.FeedbackInput{Best: &contract.PointInput{Technique: sheet.Best.Technique, Text: "As we drilled it.", Plays: sheet.Best.Plays},
			Fixes: []contract.PointInput{{Technique: fix.Technique, Fault: fix.Fault, Text: "Second foot first.", Plays: fix.Plays[:1], Drill: fix.DrillKey, Pair: fix.Pair}}, Note: "See me before stretch."}
		if change != nil {
			change(&in)
		}
		text, err := json.Marshal(in)
		require.NoError(t, err)
		var body map[string]any
		require.NoError(t, json.Unmarshal(text, &body))
		body["version"] = version
		return s.do("PUT", address, body)
	}
	for field, change := range map[string]func(*contract.FeedbackInput){
		"fixes[0].fault":     func(in *contract.FeedbackInput) { in.Fixes[0].Fault = nil },
		"best.technique":     func(in *contract.FeedbackInput) { in.Best.Technique = "no_such" },
		"fixes[0].drill":     func(in *contract.FeedbackInput) { in.Fixes[0].Drill = new("no_such") },
		"fixes[0].plays[0]":  func(in *contract.FeedbackInput) { in.Fixes[0].Plays = []uuid.UUID{uuid.New()} },
		"fixes[0].technique": func(in *contract.FeedbackInput) { in.Fixes[0].Technique = "no_such" },
	} {
		status, text := write(line, 0, change)
		assert.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Equal(t, field, *problem(t, text).Field)
	}
	status, text := write(line, 0, nil)
	require.Equal(t, http.StatusOK, status, text)
	status, _ = write(line, 0, nil)
	require.Equal(t, http.StatusOK, status, "sent again after a lost answer")
	line.get(address, &sheet)
	assert.Equal(t, []any{false, 1, "As we drilled it.", "Second foot first.", "See me before stretch.", "R. Kell"},
		[]any{sheet.Proposed, sheet.Version, sheet.Best.Text, sheet.Fixes[0].Text, sheet.Note, *sheet.By})
	head := line.visitor().signIn(demo.HeadCoachEmail)
	status, text = write(head, 0, func(in *contract.FeedbackInput) { in.Note = "Mine." })
	require.Equal(t, http.StatusConflict, status, text)
	status, _ = write(head, 1, func(in *contract.FeedbackInput) { in.Note = "Mine." })
	require.Equal(t, http.StatusOK, status)
	other := line.visitor().signIn(demo.SecondCoachEmail)
	status, _ = write(other, 2, nil)
	assert.Equal(t, http.StatusForbidden, status)
	status, _ = line.do("DELETE", address, nil, "If-Match", `"1"`)
	assert.Equal(t, http.StatusConflict, status)
	status, _ = line.do("DELETE", address, nil, "If-Match", `"2"`)
	require.Equal(t, http.StatusOK, status)
	line.get(address, &sheet)
	assert.True(t, sheet.Proposed)
	status, _ = line.do("GET", "/games/"+game+"/feedback/"+uuid.NewString()+"?group=ol", nil)
	assert.Equal(t, http.StatusNotFound, status)
}

// TestAGroupMeets: over the plays its players have to see, ordered as the coach likes.
func TestAGroupMeets(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	game := line.world.Games[demo.Week-3].ID.String()
	address := "/games/" + game + "/meeting?group=ol"
	var m contract.Meeting
	line.get(address, &m)
	require.True(t, m.Proposed && len(m.Items) > 1)
	number := map[uuid.UUID]int{}
	for _, p := range m.Plays {
		number[p.ID] = p.Play.Number
	}
	for i, x := range m.Items {
		assert.True(t, len(x.Players) > 0 && x.Note != "")
		if i > 0 {
			assert.Less(t, number[m.Items[i-1].PlayID], number[x.PlayID], "as they were played")
		}
	}
	put := func(version int, items ...contract.MeetingItem) (int, string) {
		text, err := json.Marshal(items)
		require.NoError(t, err)
		var list []any
		require.NoError(t, json.Unmarshal(text, &list))
		return line.do("PUT", address, map[string]any{"version": version, "items": list})
	}
	turned := []contract.MeetingItem{m.Items[1], m.Items[0]}
	status, text := put(0, turned...)
	require.Equal(t, http.StatusOK, status, text)
	status, _ = put(0, m.Items[0])
	assert.Equal(t, http.StatusConflict, status)
	status, text = put(1, m.Items[0], m.Items[0])
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "items[1].play_id", *problem(t, text).Field)
	stranger := m.Items[0]
	stranger.Players = []uuid.UUID{uuid.New()}
	status, text = put(1, stranger)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "items[0].players[0]", *problem(t, text).Field)
	id := m.ID
	m = contract.Meeting{}
	line.get(address, &m)
	assert.Equal(t, []any{turned, id, "R. Kell", false}, []any{m.Items, m.ID, *m.By, m.Proposed})
}
