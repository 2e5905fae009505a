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
		assert.True(t, c.PlayerID != nil && *c.Rep == 1 && c.PlayID == nil)
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
