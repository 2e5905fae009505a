package product_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"math/rand/v2"
	"net/http"
	"os/exec"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gocloud.dev/blob"
	"gocloud.dev/blob/memblob"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/demo/footage"
	film "nineyard/internal/footage"
	"nineyard/internal/product"
)

// tus sends a request of the protocol by which videos come.
func (s *site) tus(method, path string, body io.Reader, headers map[string]string) (*http.Response, string) {
	s.t.Helper()
	if !strings.HasPrefix(path, "http") {
		path = s.server.URL + film.UploadPath + path
	}
	r, err := http.NewRequest(method, path, body)
	require.NoError(s.t, err)
	r.Header.Set("Tus-Resumable", "1.0.0")
	r.Header.Set("X-CSRF-Token", s.csrf)
	for k, v := range headers {
		r.Header.Set(k, v)
	}
	answer, err := s.client.Do(r)
	if err != nil {
		return nil, err.Error()
	}
	defer func() { _ = answer.Body.Close() }()
	text, err := io.ReadAll(answer.Body)
	require.NoError(s.t, err)
	return answer, string(text)
}

// said is what a browser says of a video.
func said(change map[string]string) string {
	all := map[string]string{"filename": "Saturday, wide.webm", "view": "wide", "width": "640", "height": "360", "fps_num": "30", "fps_den": "1", "frames": "150"}
	maps.Copy(all, change)
	var list []string
	for _, k := range slices.Sorted(maps.Keys(all)) {
		list = append(list, k+" "+base64.StdEncoding.EncodeToString([]byte(all[k])))
	}
	return strings.Join(list, ",")
}

func (s *site) begin(size int, change map[string]string) (*http.Response, string) {
	return s.tus("POST", "", nil, map[string]string{"Upload-Length": fmt.Sprint(size), "Upload-Metadata": said(change)})
}

// broken is a line that breaks when so much of it was read.
type broken struct {
	io.Reader
	left int
}

func (b *broken) Read(p []byte) (int, error) {
	if b.left == 0 {
		return 0, errors.New("the line broke")
	}
	n, err := b.Reader.Read(p[:min(len(p), b.left)])
	b.left -= n
	return n, err
}

func (s *site) arrived(at string) string {
	answer, _ := s.tus("HEAD", at, nil, nil)
	require.Equal(s.t, http.StatusOK, answer.StatusCode)
	return answer.Header.Get("Upload-Offset")
}

func (s *site) patch(at, offset string, body io.Reader) (*http.Response, string) {
	return s.tus("PATCH", at, body, map[string]string{"Content-Type": "application/offset+octet-stream", "Upload-Offset": offset})
}

// TestAVideoBrokenOffTwiceArrivesWhole: each time it goes on where it broke, and what arrives is what was sent.
func TestAVideoBrokenOffTwiceArrivesWhole(t *testing.T) {
	files := memblob.OpenBucket(nil)
	line := openWith(t, product.Options{Film: files, Now: demo.Now, Log: slog.Default()}).signIn(demo.LineCoachEmail)
	game := line.world.Games[0].ID.String()
	whole := make([]byte, 20<<20)
	copy(whole, []byte{0x1a, 0x45, 0xdf, 0xa3, 'w', 'e', 'b', 'm'})
	random := rand.NewChaCha8([32]byte{1})
	_, _ = random.Read(whole[64:])

	answer, text := line.begin(len(whole), map[string]string{"game": game})
	require.Equal(t, http.StatusCreated, answer.StatusCode, text)
	at := answer.Header.Get("Location")
	require.Equal(t, "0", line.arrived(at))
	for _, breaks := range []int{3 << 20, 9 << 20} {
		offset := line.arrived(at)
		var from int
		_, err := fmt.Sscan(offset, &from)
		require.NoError(t, err)
		line.patch(at, offset, &broken{bytes.NewReader(whole[from:]), breaks})
		require.Eventually(t, func() bool { return line.arrived(at) != offset }, 15*time.Second, 50*time.Millisecond, "what came before the line broke is kept")
	}
	offset := line.arrived(at)
	var from int
	_, err := fmt.Sscan(offset, &from)
	require.NoError(t, err)
	answer, text = line.patch(at, "0", bytes.NewReader(whole))
	assert.Equal(t, http.StatusConflict, answer.StatusCode, "not from where it stands: %s", text)
	answer, text = line.patch(at, offset, bytes.NewReader(whole[from:]))
	require.Equal(t, http.StatusNoContent, answer.StatusCode, text)
	assert.Equal(t, fmt.Sprint(len(whole)), line.arrived(at), "whoever lost the answer need not send it again")

	var v contract.Videos
	line.get("/videos?game="+game, &v)
	require.Len(t, v.Videos, 1)
	f := v.Videos[0]
	assert.Equal(t, []any{"Saturday, wide.webm", "wide", "video/webm", int64(len(whole)), true, false}, []any{f.Name, f.View, f.MediaType, f.Size, f.Mine, f.Local})
	assert.Greater(t, v.Used, f.Size, "the demo has some of its own")
	status, got := line.do("GET", "/films/"+f.ID.String()+"/content", nil)
	require.Equal(t, http.StatusOK, status)
	assert.True(t, got == string(whole), "it is what was sent")
	list := files.List(&blob.ListOptions{Prefix: "uploads/"})
	_, err = list.Next(t.Context())
	assert.ErrorIs(t, err, io.EOF, "nothing is left of the pieces")

	// It goes when it is taken out, by whoever brought it or the head coach.
	other := line.visitor().signIn(demo.SecondCoachEmail)
	status, _ = other.do("DELETE", "/films/"+f.ID.String(), nil, "If-Match", fmt.Sprintf(`"%d"`, f.Version))
	assert.Equal(t, http.StatusForbidden, status)
	status, text = line.do("DELETE", "/films/"+f.ID.String(), nil, "If-Match", fmt.Sprintf(`"%d"`, f.Version))
	require.Equal(t, http.StatusOK, status, text)
	line.get("/videos?game="+game, &v)
	assert.Empty(t, v.Videos)
	assert.Equal(t, 1, line.count(`SELECT count(*)::int AS n FROM river.river_job WHERE kind = 'film_sweep'`, nil))
}

// TestAVideoIsRefusedBeforeItIsSent, or as soon as it is seen what it is.
func TestAVideoIsRefusedBeforeItIsSent(t *testing.T) {
	s := openWith(t, product.Options{Film: memblob.OpenBucket(nil), Now: demo.Now, Limits: film.Limits{One: 1 << 20, Club: 3 << 19}})
	s.found(access.Founding{Club: "Other", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Ther", Email: "o@other.example", Password: demo.Password})
	line := s.signIn(demo.LineCoachEmail)
	game := map[string]string{"game": s.world.Games[0].ID.String()}
	require.NoError(t, s.exec(`UPDATE clubs SET film_limit = (SELECT sum(size) FROM films WHERE club_id = @club) + 1000000 WHERE id = @club`, nil))

	for name, c := range map[string]struct {
		size   int
		change map[string]string
		status int
		says   string
	}{
		"too large":             {2 << 20, nil, http.StatusRequestEntityTooLarge, ""},
		"no room left":          {1<<20 - 1, nil, http.StatusRequestEntityTooLarge, "take one out first"},
		"of no game":            {1000, map[string]string{"game": ""}, http.StatusUnprocessableEntity, "game:"},
		"of a game that is not": {1000, map[string]string{"game": uuid.NewString()}, http.StatusUnprocessableEntity, "no such game"},
		"of no id":              {1000, map[string]string{"game": "x"}, http.StatusUnprocessableEntity, "game:"},
		"without a name":        {1000, map[string]string{"filename": " "}, http.StatusUnprocessableEntity, "filename:"},
		"frames that are no":    {1000, map[string]string{"frames": "many"}, http.StatusUnprocessableEntity, "frames:"},
	} {
		all := maps.Clone(game)
		maps.Copy(all, c.change)
		answer, text := line.begin(c.size, all)
		assert.Equal(t, c.status, answer.StatusCode, name)
		assert.Contains(t, text, c.says, name)
	}
	answer, text := line.begin(600, game)
	require.Equal(t, http.StatusCreated, answer.StatusCode, text)
	at := answer.Header.Get("Location")
	other := line.visitor().signIn("o@other.example")
	answer, _ = other.tus("HEAD", at, nil, nil)
	assert.Equal(t, http.StatusNotFound, answer.StatusCode, "another club's is not there")
	answer, _ = line.visitor().tus("HEAD", at, nil, nil)
	assert.Equal(t, http.StatusUnauthorized, answer.StatusCode)
	answer, _ = line.tus("PATCH", at, strings.NewReader("x"), map[string]string{"Content-Type": "application/offset+octet-stream", "Upload-Offset": "0", "X-CSRF-Token": "old"})
	assert.Equal(t, http.StatusForbidden, answer.StatusCode)
	answer, text = line.patch(at, "0", strings.NewReader("MZ"+strings.Repeat("\x00", 598)))
	assert.Equal(t, http.StatusUnsupportedMediaType, answer.StatusCode)
	assert.Contains(t, text, "no video")
	answer, _ = line.tus("HEAD", at, nil, nil)
	assert.Equal(t, http.StatusNotFound, answer.StatusCode, "it is given up")
	health := line.visitor().signIn(demo.HealthEmail)
	answer, _ = health.begin(1000, game)
	assert.Equal(t, http.StatusForbidden, answer.StatusCode)
}

// TestAVideoIsMadeToStepQuickly: what is in it is looked into, one with many keyframes and a strip are made of
// it; a job that was begun when its server was killed is begun again.
func TestAVideoIsMadeToStepQuickly(t *testing.T) {
	if _, err := exec.LookPath("ffmpeg"); err != nil {
		t.Skip("ffmpeg is not installed; everything works on the original")
	}
	files := memblob.OpenBucket(nil)
	line := openWith(t, product.Options{Film: files, Now: demo.Now, ID: "here"}).signIn(demo.LineCoachEmail)
	game := line.world.Games[0].ID.String()
	videos, err := footage.Videos()
	require.NoError(t, err)
	content, err := footage.Read(videos[0].Name)
	require.NoError(t, err)
	answer, text := line.begin(len(content), map[string]string{"game": game, "frames": "7", "width": "1"})
	require.Equal(t, http.StatusCreated, answer.StatusCode, text)
	answer, text = line.patch(answer.Header.Get("Location"), "0", bytes.NewReader(content))
	require.Equal(t, http.StatusNoContent, answer.StatusCode, text)
	read := func() contract.Film {
		var v contract.Videos
		line.get("/videos?game="+game, &v)
		require.Len(t, v.Videos, 1)
		return v.Videos[0]
	}
	assert.Equal(t, contract.FilmWorkWaits, read().Work)
	require.NoError(t, line.exec(`UPDATE river.river_job SET state = 'running', attempt = 1, attempted_at = now(), attempted_by = '{here}'`, nil))

	ctx, stop := context.WithCancel(t.Context())
	ran := make(chan error)
	go func() { ran <- line.product.Jobs.Run(ctx) }()
	require.Eventually(t, func() bool { return read().Work == contract.FilmWorkDone }, 60*time.Second, 200*time.Millisecond)
	stop()
	require.NoError(t, <-ran)
	f := read()
	truth, err := footage.Read("kick_line.json")
	require.NoError(t, err)
	var shot struct{ Frames int }
	require.NoError(t, json.Unmarshal(truth, &shot))
	assert.Equal(t, []any{shot.Frames, 30, 1, true, true, "video/mp4"}, []any{f.Frames, f.FpsNum, f.FpsDen, f.Fast, f.Strip, f.MediaType}, "what is in it counts, not what was said")
	status, proxy := line.do("GET", "/films/"+f.ID.String()+"/content", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, "ftyp", proxy[4:8])
	status, strip := line.do("GET", "/films/"+f.ID.String()+"/strip", nil)
	require.Equal(t, http.StatusOK, status)
	assert.Equal(t, "\xff\xd8", strip[:2])
}

// TestPlaysAreMarkedInALongVideo: in and out, by the frame, of its own game's plays alone; and one that stays on a
// coach's machine is known by what it is recognised by.
func TestPlaysAreMarkedInALongVideo(t *testing.T) {
	line := openWith(t, product.Options{Film: memblob.OpenBucket(nil), Now: demo.Now}).signIn(demo.LineCoachEmail)
	game, week := line.world.Games[0], line.world.Games[1]
	play := func(of uuid.UUID) uuid.UUID {
		i := slices.IndexFunc(line.world.Plays, func(p demo.Play) bool { return p.GameID == of })
		return line.world.Plays[i].ID
	}
	id := uuid.New()
	local := map[string]any{"game_id": game.ID, "media_type": "video/mp4", "digest": strings.Repeat("ab", 32), "size": 1 << 30, "width": 1920, "height": 1080, "fps_num": 30000, "fps_den": 1001, "frames": 200000}
	put := func(version int, body map[string]any) (int, string) {
		body["version"] = version
		return line.do("PUT", "/films/"+id.String(), body)
	}
	status, text := put(0, map[string]any{"name": "Wide", "view": "wide"})
	require.Equal(t, http.StatusUnprocessableEntity, status, text)
	status, text = put(0, map[string]any{"name": "Wide", "view": "wide", "local": local})
	require.Equal(t, http.StatusOK, status, text)
	status, _ = put(0, map[string]any{"name": "Wide", "view": "wide", "local": local})
	require.Equal(t, http.StatusOK, status, "sent again")
	status, _ = put(0, map[string]any{"name": "End", "view": "end"})
	require.Equal(t, http.StatusConflict, status)
	status, text = line.do("GET", "/films/"+id.String()+"/content", nil)
	require.Equal(t, http.StatusNotFound, status, "it is not here: %s", text)

	clip := uuid.New()
	mark := func(version int, body map[string]any) (int, string) {
		body["version"], body["film_id"] = version, id
		return line.do("PUT", "/clips/"+clip.String(), body)
	}
	for field, body := range map[string]map[string]any{
		"first":   {"play_id": play(game.ID), "first": 200000, "last": 200001},
		"last":    {"play_id": play(game.ID), "first": 20, "last": 19},
		"snap":    {"play_id": play(game.ID), "first": 20, "last": 90, "snap": 91},
		"play_id": {"play_id": play(week.ID), "first": 20, "last": 90},
	} {
		status, text := mark(0, body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Equal(t, field, *problem(t, text).Field)
	}
	status, text = mark(0, map[string]any{"play_id": play(game.ID), "first": 900, "last": 1100, "snap": 930})
	require.Equal(t, http.StatusOK, status, text)
	status, text = mark(1, map[string]any{"play_id": play(game.ID), "first": 905, "last": 1100, "snap": 930})
	require.Equal(t, http.StatusOK, status, text)
	status, _ = mark(1, map[string]any{"play_id": play(game.ID), "first": 890, "last": 1100})
	assert.Equal(t, http.StatusConflict, status)
	var of contract.Footage
	line.get("/games/"+game.ID.String()+"/footage", &of)
	require.Len(t, of.Clips, 1)
	assert.Equal(t, []any{905, 1100, 930, "wide"}, []any{of.Clips[0].First, of.Clips[0].Last, *of.Clips[0].Snap, of.Clips[0].View})
	status, _ = put(1, map[string]any{"name": "End", "view": "end"})
	require.Equal(t, http.StatusOK, status)
	line.get("/games/"+game.ID.String()+"/footage", &of)
	assert.Equal(t, "end", of.Clips[0].View, "its clips follow")
	status, _ = line.do("DELETE", "/clips/"+clip.String(), nil, "If-Match", fmt.Sprintf(`"%d"`, 2))
	require.Equal(t, http.StatusOK, status)
	var gone contract.Gone
	status, text = line.do("DELETE", "/clips/"+clip.String(), nil, "If-Match", fmt.Sprintf(`"%d"`, 2))
	require.Equal(t, http.StatusOK, status)
	require.NoError(t, json.Unmarshal([]byte(text), &gone))
	assert.Equal(t, clip, gone.ID)
}
