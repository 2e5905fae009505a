package product_test

import (
	"bufio"
	"compress/gzip"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/internal/access"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
)

func (s *site) changes(id string) int {
	s.t.Helper()
	return s.count(`SELECT count(*)::int AS n FROM changes WHERE id = @id`, pg.Args{"id": id})
}

// TestAChangeSentAgainIsAnsweredAsTheFirstTime, whatever was changed since; anything else
// under its id is refused.
func TestAChangeSentAgainIsAnsweredAsTheFirstTime(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	head := s.visitor().signIn(demo.HeadCoachEmail)
	sato := s.roster()["64 Sato"]
	path, id := "/roster/players/"+sato.ID.String(), made()
	body := func(name string, version int) map[string]any {
		return input(sato, func(m map[string]any) { m["first_name"], m["version"] = name, version })
	}
	status, first := s.do("PUT", path, body("Kimo", 1), "Change-Id", id)
	require.Equal(t, http.StatusOK, status, first)
	status, text := head.do("PUT", path, body("Taro", 2))
	require.Equal(t, http.StatusOK, status, text)

	status, again := s.do("PUT", path, body("Kimo", 1), "Change-Id", id)
	assert.Equal(t, http.StatusOK, status)
	assert.JSONEq(t, first, again)
	assert.Equal(t, "Taro", s.roster()["64 Sato"].FirstName, "and nothing is done again")
	assert.Equal(t, 1, s.changes(id))

	for name, send := range map[string]func() (int, string){
		"other content":  func() (int, string) { return s.do("PUT", path, body("Other", 1), "Change-Id", id) },
		"other version":  func() (int, string) { return s.do("PUT", path, body("Kimo", 3), "Change-Id", id) },
		"other address":  func() (int, string) { return s.do("DELETE", "/overrides/"+uuid.NewString(), nil, "Change-Id", id) },
		"another person": func() (int, string) { return head.do("PUT", path, body("Kimo", 1), "Change-Id", id) },
	} {
		status, text := send()
		assert.Equal(t, http.StatusConflict, status, "%s: %s", name, text)
		assert.Equal(t, "id", *problem(t, text).Field, name)
	}
	assert.Equal(t, "Taro", s.roster()["64 Sato"].FirstName)
	kept := s.count(`SELECT count(*)::int AS n FROM changes WHERE id = @id AND operation = 'putPlayer' AND record = @path AND version = 1 AND status = 200`, pg.Args{"id": id, "path": path})
	assert.Equal(t, 1, kept, "the log says what was changed")
}

// TestOneChangeSentManyTimesAtOnce is made once, and everybody gets its answer.
func TestOneChangeSentManyTimesAtOnce(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	for _, c := range []struct {
		method, path string
		body         map[string]any
	}{
		{"POST", "/groups/ol/fixes", map[string]any{"id": made(), "fault": "close_second_behind"}},
		{"PUT", "/library/entries/drill/pull_bag", map[string]any{"id": made(), "version": 1, "retired": true}},
		{"PUT", "/roster/players/" + made(), map[string]any{"version": 0, "jersey": "97", "first_name": "Bo", "last_name": "Ek", "groups": []string{"ol"}, "position": "", "returning": false, "archived": false}},
	} {
		id := made()
		answers := make([]string, 6)
		var wait sync.WaitGroup
		for i := range answers {
			wait.Go(func() {
				status, text := s.do(c.method, c.path, c.body, "Change-Id", id)
				answers[i] = fmt.Sprint(status, " ", strings.TrimSpace(text))
			})
		}
		wait.Wait()
		for _, a := range answers {
			require.True(t, strings.HasPrefix(a, "200 "), "%s: %s", c.path, a)
			assert.JSONEq(t, answers[0][4:], a[4:], c.path)
		}
		assert.Equal(t, 1, s.changes(id), c.path)
	}
}

// TestRefusedChangesLeaveNoTrace: what was refused may be sent again once it can be.
func TestRefusedChangesLeaveNoTrace(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	sato := s.roster()["64 Sato"]
	id := made()
	status, _ := s.do("PUT", "/roster/players/"+sato.ID.String(), input(sato, func(m map[string]any) { m["version"] = 9 }), "Change-Id", id, "Device", "17")
	assert.Equal(t, http.StatusBadRequest, status)
	status, _ = s.do("PUT", "/roster/players/"+sato.ID.String(), input(sato, func(m map[string]any) { m["version"], m["last_name"] = 9, "X" }), "Change-Id", id)
	assert.Equal(t, http.StatusConflict, status)
	assert.Zero(t, s.changes(id))
	status, _ = s.do("PUT", "/roster/players/"+sato.ID.String(), input(sato, func(m map[string]any) { m["last_name"] = "X" }), "Change-Id", id)
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, 1, s.changes(id))
}

// fetch gets an address with headers and returns the whole answer.
func (s *site) fetch(path string, headers ...string) (*http.Response, []byte) {
	s.t.Helper()
	req, err := http.NewRequest(http.MethodGet, s.server.URL+"/api/v1"+path, nil)
	require.NoError(s.t, err)
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	resp, err := s.client.Do(req)
	require.NoError(s.t, err)
	defer func() { _ = resp.Body.Close() }()
	body, err := io.ReadAll(resp.Body)
	require.NoError(s.t, err)
	return resp, body
}

// TestWhatIsReadCarriesAVersion that holds until something of the club is changed.
func TestWhatIsReadCarriesAVersion(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	head := s.visitor().signIn(demo.HeadCoachEmail)
	resp, body := s.fetch("/roster/players")
	tag := resp.Header.Get("ETag")
	require.NotEmpty(t, tag)
	require.NotEmpty(t, body)
	assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"), "personal data is not cached")

	before := len(s.sent.All())
	resp, body = s.fetch("/roster/players", "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, resp.StatusCode)
	assert.Empty(t, body)
	assert.LessOrEqual(t, len(s.sent.All())-before, 1, "only who asks was read")

	resp, _ = head.fetch("/roster/players", "If-None-Match", tag)
	assert.Equal(t, http.StatusOK, resp.StatusCode, "another sees other things")

	sato := s.roster()["64 Sato"]
	status, _ := head.do("PUT", "/roster/players/"+sato.ID.String(), input(sato, func(m map[string]any) { m["first_name"] = "Kimo" }))
	require.Equal(t, http.StatusOK, status)
	resp, body = s.fetch("/roster/players", "If-None-Match", tag)
	assert.Equal(t, http.StatusOK, resp.StatusCode)
	assert.Contains(t, string(body), "Kimo")
	assert.NotEqual(t, tag, resp.Header.Get("ETag"))

	tag = resp.Header.Get("ETag")
	status, _ = s.do("POST", "/reps/preview", map[string]any{"players": 3, "limited": 0, "drills": []any{}})
	require.Equal(t, http.StatusOK, status)
	resp, _ = s.fetch("/roster/players", "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, resp.StatusCode, "who only asks changes nothing")
}

// TestAnswersAreCompressed where it is worth it.
func TestAnswersAreCompressed(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	plain, whole := s.fetch("/groups/ol/library", "Accept-Encoding", "identity")
	assert.Empty(t, plain.Header.Get("Content-Encoding"))
	resp, zipped := s.fetch("/groups/ol/library", "Accept-Encoding", "gzip")
	require.Equal(t, "gzip", resp.Header.Get("Content-Encoding"))
	r, err := gzip.NewReader(strings.NewReader(string(zipped)))
	require.NoError(t, err)
	text, err := io.ReadAll(r)
	require.NoError(t, err)
	assert.Equal(t, string(whole), string(text))
	assert.Less(t, 3*len(zipped), len(whole))
	t.Logf("library: %d kB, %d kB compressed", len(whole)>>10, len(zipped)>>10)
	small, _ := s.fetch("/session", "Accept-Encoding", "gzip")
	assert.Empty(t, small.Header.Get("Content-Encoding"))
}

// listener reads a stream of events.
type listener struct {
	t     *testing.T
	lines chan string
	close func()
}

func (s *site) listen(path string, headers ...string) *listener {
	s.t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, s.server.URL+path, nil)
	require.NoError(s.t, err)
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	resp, err := s.client.Do(req)
	require.NoError(s.t, err)
	require.Equal(s.t, http.StatusOK, resp.StatusCode)
	require.Equal(s.t, "text/event-stream", resp.Header.Get("Content-Type"))
	l := &listener{s.t, make(chan string, 1000), cancel}
	go func() {
		defer func() { _ = resp.Body.Close() }()
		defer close(l.lines)
		for r := bufio.NewScanner(resp.Body); r.Scan(); {
			l.lines <- r.Text()
		}
	}()
	s.t.Cleanup(cancel)
	return l
}

// next waits for a line that begins so, and returns the rest of it.
func (l *listener) next(begins string) string {
	l.t.Helper()
	for timeout := time.After(10 * time.Second); ; {
		select {
		case line, open := <-l.lines:
			if !open {
				l.t.Fatalf("the stream ended before %q", begins)
			}
			if rest, ok := strings.CutPrefix(line, begins); ok {
				return strings.TrimSpace(rest)
			}
		case <-timeout:
			l.t.Fatalf("no %q came", begins)
		}
	}
}

func (l *listener) ended() {
	l.t.Helper()
	for timeout := time.After(10 * time.Second); ; {
		select {
		case _, open := <-l.lines:
			if !open {
				return
			}
		case <-timeout:
			l.t.Fatal("the stream goes on")
		}
	}
}

// replica serves the same database from another process, as it were.
func (s *site) replica(beat time.Duration) *site {
	s.t.Helper()
	p := product.New(product.Options{DB: s.product.DB, Now: demo.Now, Demo: s.world.ClubID})
	log := slog.New(slog.NewTextHandler(io.Discard, nil))
	api, err := p.Server(product.Surface{Loopback: true, Web: fstest.MapFS{}, Log: log, Beat: beat})
	require.NoError(s.t, err)
	s.t.Cleanup(api.Close)
	ctx, cancel := context.WithCancel(context.Background())
	s.t.Cleanup(cancel)
	go p.Changes.Run(ctx, p.DB, log)
	out := *s
	out.product = p
	out.server = httptest.NewUnstartedServer(api)
	out.server.Config.WriteTimeout = 300 * time.Millisecond // streams outlive it
	out.server.Start()
	s.t.Cleanup(out.server.Close)
	s.t.Cleanup(p.Changes.Close)
	return out.visitor()
}

const streamPath = "/api/v1/changes/stream"

// TestTheStreamTellsWhatIsChanged on any replica, to the club alone, and goes on where it
// was left.
func TestTheStreamTellsWhatIsChanged(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Other", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Ther", Email: "o@other.example", Password: demo.Password})
	a, b := s.replica(100*time.Millisecond), s.replica(100*time.Millisecond)
	kell, orrin := a.signIn(demo.LineCoachEmail), b.signIn(demo.HeadCoachEmail)
	stranger := b.visitor().signIn("o@other.example")
	ours, theirs := orrin.listen(streamPath), stranger.listen(streamPath)
	ours.next("event: at")
	theirs.next("event: at")

	sato := kell.roster()["64 Sato"]
	rename := func(name string, version int) string {
		id := made()
		status, text := kell.do("PUT", "/roster/players/"+sato.ID.String(), input(sato, func(m map[string]any) { m["first_name"], m["version"] = name, version }), "Change-Id", id, "Device", sato.ID.String())
		require.Equal(t, http.StatusOK, status, text)
		return id
	}
	id := rename("Kimo", 1)
	number := ours.next("id: ")
	assert.Equal(t, "change", ours.next("event: "))
	var e map[string]any
	require.NoError(t, json.Unmarshal([]byte(ours.next("data: ")), &e))
	assert.Equal(t, map[string]any{"number": float64(1), "id": id, "person": e["person"], "device": sato.ID.String(), "operation": "putPlayer", "record": "/roster/players/" + sato.ID.String()}, e)
	assert.Equal(t, "1", number)

	// The other club hears nothing but that the stream is alive, well past the server's write
	// timeout.
	for range 6 {
		assert.Equal(t, "still here", theirs.next(":"))
	}
	ours.close()
	rename("Taro", 2)
	back := orrin.listen(streamPath, "Last-Event-ID", number)
	assert.Equal(t, "2", back.next("id: "))
	assert.Equal(t, "change", back.next("event: "))
	ahead := orrin.listen(streamPath + "?after=99")
	assert.Equal(t, "anew", ahead.next("event: "), "a number of another database")

	// Who signs out hears no more.
	status, _ := orrin.do("DELETE", "/session", nil)
	require.Equal(t, http.StatusNoContent, status)
	assert.Equal(t, "ended", back.next("event: "))
	back.ended()
	resp, _ := orrin.fetch("/changes/stream")
	assert.Equal(t, http.StatusUnauthorized, resp.StatusCode)

	b.product.Changes.Close()
	theirs.ended()
}

// TestWhoIsWhereIsTold to the staff of the club on any replica, and is no change.
func TestWhoIsWhereIsTold(t *testing.T) {
	s := open(t)
	a, b := s.replica(time.Second), s.replica(time.Second)
	kell, orrin := a.signIn(demo.LineCoachEmail), b.signIn(demo.HeadCoachEmail)
	l := orrin.listen(streamPath)
	l.next("event: at")
	device, where := made(), "practice/"+made()
	status, text := kell.do("POST", "/presence", map[string]any{"device": device, "where": where, "what": "e1"})
	require.Equal(t, http.StatusNoContent, status, text)
	assert.Equal(t, "here", l.next("event: "))
	var h map[string]any
	require.NoError(t, json.Unmarshal([]byte(l.next("data: ")), &h))
	assert.Equal(t, map[string]any{"person": h["person"], "name": "R. Kell", "device": device, "where": where, "what": "e1"}, h)
	status, text = kell.do("POST", "/presence", map[string]any{"device": device, "where": "somewhere else", "what": ""})
	assert.Equal(t, http.StatusBadRequest, status, text)
	resp, _ := kell.fetch("/roster/players")
	tag := resp.Header.Get("ETag")
	status, _ = kell.do("POST", "/presence", map[string]any{"device": device, "where": "", "what": ""})
	require.Equal(t, http.StatusNoContent, status)
	resp, _ = kell.fetch("/roster/players", "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, resp.StatusCode)
}

// TestWhoWasAwayTooLongReadsAnew instead of being told of every change.
func TestWhoWasAwayTooLongReadsAnew(t *testing.T) {
	s := open(t)
	kell := s.replica(time.Second).signIn(demo.LineCoachEmail)
	require.NoError(t, s.exec(`INSERT INTO club_clocks (club_id, last) VALUES (@id, 600)`, pg.Args{"id": s.world.ClubID}))
	require.NoError(t, s.exec(`INSERT INTO changes (club_id, number, id, person, operation, record, digest, made_at, at, status)
		SELECT @id, n, gen_random_uuid(), @id, 'x', '/x', '\x00', now(), now(), 204 FROM generate_series(1, 600) n`, pg.Args{"id": s.world.ClubID}))
	l := kell.listen(streamPath, "Last-Event-ID", "20")
	assert.Equal(t, "600", l.next("id: "))
	assert.Equal(t, "anew", l.next("event: "))
	l = kell.listen(streamPath, "Last-Event-ID", "598")
	assert.Equal(t, "599", l.next("id: "))
	assert.Equal(t, "600", l.next("id: "))
}

// sent is a change as a device keeps it until it is answered.
type sent struct {
	id      string
	name    string
	version int
}

// TestNothingIsLostOrDoubled runs random days of two coaches on two devices each who change
// one player: sent late, sent again, answered and not heard, sent with other content under
// the same id. Whatever happens, what was answered once is answered so again, the version
// counts the changes made, and the last one stands.
func TestNothingIsLostOrDoubled(t *testing.T) {
	s := open(t)
	coaches := []*site{s.visitor().signIn(demo.LineCoachEmail), s.visitor().signIn(demo.HeadCoachEmail)}
	runs, requests := 0, 0
	require.NoError(t, flag.Set("rapid.checks", "1000"))
	t.Cleanup(func() { _ = flag.Set("rapid.checks", "100") })
	rapid.Check(t, func(r *rapid.T) {
		runs++
		path := "/roster/players/" + made()
		blank := map[string]any{"jersey": "", "first_name": "", "groups": []string{"ol"}, "position": "", "returning": false, "archived": false}
		type device struct {
			coach *site
			knows int // the version it read last
			made  []sent
		}
		devices := []*device{{coach: coaches[0]}, {coach: coaches[0]}, {coach: coaches[1]}, {coach: coaches[1]}}
		version, name := 0, ""
		answers := map[string]string{}
		put := func(d *device, c sent) (int, string) {
			requests++
			body := maps.Clone(blank)
			body["version"], body["last_name"] = c.version, c.name
			return d.coach.do("PUT", path, body, "Change-Id", c.id)
		}
		send := func(d *device, c sent, heard bool) {
			status, text := put(d, c)
			first, done := answers[c.id]
			switch {
			case done:
				require.Equal(r, http.StatusOK, status, text)
				require.JSONEq(r, first, text, "the first answer again")
			case version > 0 && c.name == name: // it stands there already
				require.Equal(r, http.StatusOK, status, text)
				answers[c.id] = text
			case version == 0 && c.version > 0:
				require.Equal(r, http.StatusNotFound, status, text)
			case c.version != version:
				require.Equal(r, http.StatusConflict, status, text)
				if heard {
					d.knows = version // it shows both, and he goes on from there
				}
			default:
				require.Equal(r, http.StatusOK, status, text)
				version, name, answers[c.id] = version+1, c.name, text
				if heard {
					d.knows = version
				}
			}
		}
		for range rapid.IntRange(3, 12).Draw(r, "steps") {
			d := devices[rapid.IntRange(0, 3).Draw(r, "device")]
			switch what := rapid.SampledFrom([]string{"edit", "edit", "edit", "again", "again", "other", "read"}).Draw(r, "what"); {
			case what == "edit":
				c := sent{made(), rapid.SampledFrom([]string{"Ek", "Lind", "Moe", "Sund", "Vik"}).Draw(r, "name"), d.knows}
				d.made = append(d.made, c)
				if !rapid.Bool().Draw(r, "not sent yet") {
					send(d, c, !rapid.Bool().Draw(r, "answer lost"))
				}
			case what == "again" && len(d.made) > 0:
				send(d, d.made[rapid.IntRange(0, len(d.made)-1).Draw(r, "which")], true)
			case what == "other" && len(d.made) > 0:
				c := d.made[rapid.IntRange(0, len(d.made)-1).Draw(r, "which")]
				if _, done := answers[c.id]; done {
					c.name += "x"
					status, text := put(d, c)
					require.Equal(r, http.StatusConflict, status, text)
				}
			case what == "read":
				d.knows = version
			}
		}
		id := strings.TrimPrefix(path, "/roster/players/")
		stands := s.count(`SELECT count(*)::int AS n FROM players WHERE id = @id AND version = @version AND last_name = @name`, pg.Args{"id": id, "version": version, "name": name})
		require.Equal(r, min(version, 1), stands, "what was changed last stands")
		require.Equal(r, len(answers), s.count(`SELECT count(*)::int AS n FROM changes WHERE record = @path`, pg.Args{"path": path}), "each change once")
		require.NoError(r, s.exec(`DELETE FROM player_groups WHERE player_id = @id`, pg.Args{"id": id}))
		require.NoError(r, s.exec(`DELETE FROM players WHERE id = @id`, pg.Args{"id": id}))
	})
	t.Logf("%d runs, %d requests: nothing lost, nothing doubled", runs, requests)
}
