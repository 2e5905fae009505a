package product_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gocloud.dev/blob/memblob"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/product"
)

// TestFilmIsServedToTheClubAlone, whole or in ranges, and everybody has a place of his own in it.
func TestFilmIsServedToTheClubAlone(t *testing.T) {
	files := memblob.OpenBucket(nil)
	s := openWith(t, product.Options{Film: files, Now: demo.Now})
	require.NoError(t, demo.Film(t.Context(), files, s.world.ClubID))
	require.NoError(t, demo.Film(t.Context(), files, s.world.ClubID), "what is there is left")
	s.found(access.Founding{Club: "Other", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Ther", Email: "o@other.example", Password: demo.Password})
	line := s.signIn(demo.LineCoachEmail)
	game := s.world.Games[demo.Week-2].ID.String()
	var of contract.Footage
	line.get("/games/"+game+"/footage", &of)
	require.Len(t, of.Films, 2*demo.FilmedPlays)
	require.Len(t, of.Clips, 2*demo.FilmedPlays)
	film := of.Films[0]
	assert.Equal(t, []any{"video/webm", 30, 1, 150}, []any{film.MediaType, film.FpsNum, film.FpsDen, film.Frames})

	var views []string
	for _, c := range of.Clips[:4] {
		views = append(views, c.View)
	}
	assert.Equal(t, []string{"wide", "end", "wide", "end"}, views, "play by play, as they were played")
	assert.Equal(t, of.Clips[0].PlayID, of.Clips[1].PlayID)
	assert.Equal(t, s.world.Footage[0].Clips[0].PlayID, of.Clips[0].PlayID)

	address := "/films/" + film.ID.String() + "/content"
	status, whole := line.do("GET", address, nil)
	require.Equal(t, http.StatusOK, status)
	require.Len(t, whole, int(film.Size))
	for asked, want := range map[string]string{"bytes=0-9": whole[:10], "bytes=1000-1999": whole[1000:2000], "bytes=-7": whole[len(whole)-7:], "bytes=5-": whole[5:]} {
		status, got := line.do("GET", address, nil, "Range", asked)
		assert.Equal(t, http.StatusPartialContent, status, asked)
		assert.True(t, got == want, asked)
	}
	for _, method := range []string{"PUT", "POST", "DELETE"} {
		status, _ = line.do(method, address, nil)
		assert.Equal(t, http.StatusMethodNotAllowed, status)
	}

	var drill contract.Footage
	last := s.world.Footage[len(s.world.Footage)-1]
	line.get("/placements/"+last.Clips[0].PlacementID.String()+"/footage", &drill)
	require.Len(t, drill.Films, 1)
	require.Len(t, drill.Clips, len(last.Clips))
	for _, c := range drill.Clips {
		assert.True(t, c.PlayerID != nil && *c.Rep == *last.Clips[0].Rep && c.PlayID == nil)
	}

	var all contract.OnFilm
	line.get("/groups/ol/footage", &all)
	assert.Equal(t, []contract.GameOnFilm{{GameID: s.world.Games[demo.Week-2].ID, Plays: demo.FilmedPlays}}, all.Games)
	require.Len(t, all.Drills, 1)
	assert.Equal(t, []any{*last.Clips[0].PlacementID, "Kick on the line", len(last.Clips)}, []any{all.Drills[0].PlacementID, all.Drills[0].Drill, all.Drills[0].Reps})
	line.get("/groups/db/footage", &all)
	assert.Empty(t, all.Drills)

	// One's own place, and nobody else's.
	watch := func(who *site, body map[string]any) (w contract.Watching) {
		status, text := who.do("POST", "/watching/"+game, body)
		require.Equal(t, http.StatusOK, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &w))
		return w
	}
	assert.Nil(t, watch(line, map[string]any{}).Place)
	clip := of.Clips[7].ID
	watch(line, map[string]any{"place": map[string]any{"clip_id": of.Clips[3].ID, "frame": 1}})
	watch(line, map[string]any{"place": map[string]any{"clip_id": clip, "frame": 44}})
	assert.Equal(t, &contract.Place{ClipID: clip, Frame: 44}, watch(line, map[string]any{}).Place)
	head := line.visitor().signIn(demo.HeadCoachEmail)
	assert.Nil(t, watch(head, map[string]any{}).Place)
	status, _ = line.do("POST", "/watching/"+game, map[string]any{"place": map[string]any{"clip_id": uuid.New(), "frame": 1}})
	assert.Equal(t, http.StatusNotFound, status)
	status, text := line.do("POST", "/watching/"+game, map[string]any{"place": map[string]any{"clip_id": clip, "frame": -1}})
	assert.Equal(t, http.StatusBadRequest, status)
	assert.Contains(t, text, "frame")

	// Another club, and nobody at all.
	other := line.visitor().signIn("o@other.example")
	status, _ = other.do("GET", address, nil)
	assert.Equal(t, http.StatusNotFound, status)
	other.get("/games/"+game+"/footage", &of)
	assert.Empty(t, of.Films)
	status, _ = other.do("POST", "/watching/"+game, map[string]any{"place": map[string]any{"clip_id": clip, "frame": 1}})
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = line.visitor().do("GET", address, nil)
	assert.Equal(t, http.StatusUnauthorized, status)
}

// TestADrawingIsKeptWithTheClip: on a frame of it, by whoever drew it; two who draw on one frame both have their own.
func TestADrawingIsKeptWithTheClip(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	game := "/games/" + line.world.Games[demo.Week-2].ID.String() + "/footage"
	read := func(s *site) []contract.Drawing {
		var of contract.Footage
		s.get(game, &of)
		return of.Drawings
	}
	clip := line.world.Footage[0].Clips[0].ID.String()
	arrow := map[string]any{"kind": "arrow", "x1": 100, "y1": 200, "x2": 3000, "y2": 9999}
	put := func(s *site, id uuid.UUID, version, frame int, shapes ...any) (int, string) {
		return s.do("PUT", "/clips/"+clip+"/drawings/"+id.String(), map[string]any{"version": version, "frame": frame, "shapes": shapes})
	}
	require.Empty(t, read(line))
	id := uuid.New()
	status, text := put(line, id, 0, 40, arrow)
	require.Equal(t, http.StatusOK, status, text)
	status, _ = put(line, id, 0, 40, arrow)
	assert.Equal(t, http.StatusOK, status, "sent again after a lost answer")
	status, text = put(line, id, 1, 40, arrow, map[string]any{"kind": "circle", "x1": 5000, "y1": 5000, "x2": 5400, "y2": 5000})
	require.Equal(t, http.StatusOK, status, text)
	list := read(line)
	require.Len(t, list, 1)
	assert.Equal(t, []any{id, 40, 2, 2, "R. Kell"}, []any{list[0].ID, list[0].Frame, len(list[0].Shapes), list[0].Version, list[0].ByName})
	assert.Equal(t, contract.Shape{Kind: "arrow", X1: 100, Y1: 200, X2: 3000, Y2: 9999}, list[0].Shapes[0])

	status, text = put(line, id, 1, 40, arrow)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, text, `"current"`)
	for _, bad := range []struct {
		field  string
		frame  int
		shapes []any
	}{
		{"frame", 150, []any{arrow}}, {"shapes", 40, []any{}}, {"kind", 40, []any{map[string]any{"kind": "house", "x1": 1, "y1": 1, "x2": 1, "y2": 1}}},
		{"x2", 40, []any{map[string]any{"kind": "line", "x1": 1, "y1": 1, "x2": 10001, "y2": 1}}},
	} {
		status, text = put(line, uuid.New(), 0, bad.frame, bad.shapes...)
		assert.Less(t, status, 500)
		assert.GreaterOrEqual(t, status, 400)
		assert.Contains(t, *problem(t, text).Field, bad.field, text)
	}

	// Another coach has his own on the same frame, and may not change this one; the head coach may.
	other := line.visitor().signIn(demo.SecondCoachEmail)
	status, _ = put(other, id, 2, 40, arrow)
	assert.Equal(t, http.StatusForbidden, status)
	status, _ = other.do("DELETE", "/clips/"+clip+"/drawings/"+id.String(), nil, "If-Match", `"2"`)
	assert.Equal(t, http.StatusForbidden, status)
	status, _ = put(other, uuid.New(), 0, 40, arrow)
	assert.Equal(t, http.StatusOK, status)
	assert.Len(t, read(other), 2)
	head := line.visitor().signIn(demo.HeadCoachEmail)
	status, text = head.do("DELETE", "/clips/"+clip+"/drawings/"+id.String(), nil, "If-Match", `"2"`)
	assert.Equal(t, http.StatusOK, status, text)
	assert.Len(t, read(line), 1)
	status, _ = head.do("DELETE", "/clips/"+clip+"/drawings/"+id.String(), nil, "If-Match", `"2"`)
	assert.Equal(t, http.StatusOK, status, "what is gone is gone")
	status, _ = line.do("PUT", "/clips/"+uuid.NewString()+"/drawings/"+uuid.NewString(), map[string]any{"version": 0, "frame": 1, "shapes": []any{arrow}})
	assert.Equal(t, http.StatusNotFound, status)
}
