package product_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// TestABundleBringsBackWhatWasWorkedOut: taken in where all is there it changes nothing; where something was changed
// or taken out since, the game is again as it was; what is refused refuses all of it.
func TestABundleBringsBackWhatWasWorkedOut(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Other", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Ther", Email: "o@other.example", Password: demo.Password})
	head := s.signIn(demo.HeadCoachEmail)
	game := s.world.Games[demo.Week-2].ID.String()
	address := "/games/" + game + "/bundle"
	clip := s.world.Footage[0].Clips[0]
	status, text := head.do("PUT", "/clips/"+clip.ID.String()+"/drawings/"+uuid.NewString(), map[string]any{"version": 0, "frame": 40, "shapes": []any{map[string]any{"kind": "arrow", "x1": 1, "y1": 2, "x2": 300, "y2": 400}}})
	require.Equal(t, http.StatusOK, status, text)
	status, first := head.do("GET", address, nil)
	require.Equal(t, http.StatusOK, status)
	var b contract.Bundle
	require.NoError(t, json.Unmarshal([]byte(first), &b))
	assert.Equal(t, []any{"nineyard-film-1", "Saltmarsh Cross", 2 * demo.FilmedPlays, 1}, []any{string(b.Form), b.Game.Opponent, len(b.Clips), len(b.Drawings)})
	assert.Greater(t, len(b.Marks), 300, "of all groups")

	take := func(content string) (taken contract.BundleTaken) {
		status, text := head.sendList(address, "bundle.json", []byte(content))
		require.Equal(t, http.StatusOK, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &taken))
		return taken
	}
	all := len(b.Plays) + len(b.Marks) + len(b.Videos) + len(b.Clips) + len(b.Drawings)
	assert.Equal(t, contract.BundleTaken{Same: all}, take(first))

	var sheet contract.GameSheet
	head.get("/games/"+game+"/marks?group=ol", &sheet)
	m := sheet.Marks[0]
	status, text = head.do("POST", "/marks", map[string]any{"marks": []any{map[string]any{"id": uuid.New(), "play_id": m.PlayID, "technique_key": m.TechniqueKey, "player_id": m.Mark.PlayerID, "on": m.Mark.ID, "state": "withdrawn"}}})
	require.Equal(t, http.StatusOK, status, text)
	require.NoError(t, s.exec(`UPDATE plays SET front = 'Bear' WHERE id = (SELECT id FROM plays WHERE game_id = '`+game+`' AND number = 3)`, nil))
	require.NoError(t, s.exec(`DELETE FROM clips WHERE id = '`+clip.ID.String()+`'`, nil))
	status, text = head.sendList(address, "bundle.json", []byte(strings.Replace(first, `"state":"unseen"`, `"state":"asleep"`, 1)))
	require.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Regexp(t, `^marks\[\d+\]\.state$`, *problem(t, text).Field)
	worse := b
	worse.Marks = append([]contract.BundleMark{}, b.Marks...)
	worse.Marks[len(worse.Marks)-1].Player.Name = "Nobody"
	broken, err := json.Marshal(worse)
	require.NoError(t, err)
	status, text = head.sendList(address, "bundle.json", broken)
	require.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Regexp(t, `^marks\[\d+\]\.player$`, *problem(t, text).Field)
	assert.Equal(t, 1, s.count(`SELECT count(*)::int AS n FROM plays WHERE front = 'Bear'`, nil), "nothing of it was taken")

	assert.Equal(t, contract.BundleTaken{Plays: 1, Marks: 1, Clips: 1, Drawings: 1, Same: all - 4}, take(first))
	status, again := head.do("GET", address, nil)
	require.Equal(t, http.StatusOK, status)
	assert.JSONEq(t, first, again)

	for says, bad := range map[string]string{"file": "no bundle", "form": `{"form":"other"}`} {
		status, text = head.sendList(address, "bundle.json", []byte(bad))
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, *problem(t, text).Field, says)
	}
	other := s.visitor().signIn("o@other.example")
	status, _ = other.do("GET", address, nil)
	assert.Equal(t, http.StatusNotFound, status)
	line := s.visitor().signIn(demo.LineCoachEmail)
	theirs := b
	theirs.Marks = append([]contract.BundleMark{}, b.Marks...)
	for i, m := range theirs.Marks {
		if m.TechniqueKey == "pedal_drive" {
			theirs.Marks[i].Note = new("Mine now.")
		}
	}
	changed, err := json.Marshal(theirs)
	require.NoError(t, err)
	status, _ = line.sendList(address, "bundle.json", changed)
	assert.Equal(t, http.StatusForbidden, status, "another group's mark is not his to make")
}
