package product_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// site is a server with the demo club, and one visitor's browser.
type site struct {
	t       *testing.T
	server  *httptest.Server
	client  *http.Client
	csrf    string
	world   *demo.World
	log     *bytes.Buffer
	owner   *pg.DB
	product *product.Product
	sent    *pg.Statements // everything that requests sent
	metrics http.Handler
}

func open(t *testing.T) *site {
	return openWith(t, product.Options{Now: demo.Now, Demo: demotest.World().ClubID})
}

func openWith(t *testing.T, o product.Options) *site {
	t.Helper()
	s := &site{t: t, world: demotest.World(), log: &bytes.Buffer{}}
	if o.DB == nil {
		o.DB, s.owner = demotest.Open(t)
	}
	s.product = product.New(o)
	api, err := s.product.Server(product.Surface{Loopback: true, Proxies: []string{"127.0.0.0/8"}, Log: slog.New(slog.NewTextHandler(s.log, nil)),
		Web: fstest.MapFS{"index.html": {Data: []byte(`<meta nonce="__NONCE__"><p>page`)}}})
	require.NoError(t, err)
	t.Cleanup(api.Close)
	s.metrics = api.Metrics
	s.server = httptest.NewUnstartedServer(api)
	var base context.Context
	base, s.sent = pg.Counting(context.Background())
	s.server.Config.BaseContext = func(net.Listener) context.Context { return base }
	s.server.Start()
	t.Cleanup(s.server.Close)
	return s.visitor()
}

// exec runs a statement past the product, as the database's owner.
func (s *site) exec(query string, args pg.Args) error {
	return s.owner.InClub(context.Background(), s.world.ClubID, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, query, args)
		return err
	})
}

// count reads one number past the product.
func (s *site) count(query string, args pg.Args) (n int) {
	s.t.Helper()
	type row struct {
		N int `db:"n"`
	}
	require.NoError(s.t, s.owner.InClub(context.Background(), s.world.ClubID, func(ctx context.Context) error {
		r, _, err := pg.One[row](ctx, query, args)
		n = r.N
		return err
	}))
	return n
}

// found makes another club on the same server.
func (s *site) found(f access.Founding) {
	s.t.Helper()
	_, err := access.Found(context.Background(), s.owner, f)
	require.NoError(s.t, err)
}

// visitor is another browser at the same server.
func (s *site) visitor() *site {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	v := *s
	v.client, v.csrf = &http.Client{Jar: jar}, ""
	return &v
}

// do sends a request and returns the status and the body.
func (s *site) do(method, path string, body any, headers ...string) (int, string) {
	s.t.Helper()
	var r io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		r = strings.NewReader(b)
	case map[string]any:
		// The version a change was made on goes by If-Match.
		if v, ok := b["version"]; ok {
			headers = append([]string{"If-Match", fmt.Sprintf(`"%v"`, v)}, headers...)
			b = maps.Clone(b)
			delete(b, "version")
		}
		text, err := json.Marshal(b)
		require.NoError(s.t, err)
		r = bytes.NewReader(text)
	default:
		text, err := json.Marshal(body)
		require.NoError(s.t, err)
		r = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, s.server.URL+"/api/v1"+path, r)
	require.NoError(s.t, err)
	if r != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	req.Header.Set("X-CSRF-Token", s.csrf)
	if method != http.MethodGet {
		req.Header.Set("Change-Id", made())
	}
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	return s.asked(req)
}

// asked sends a request and reads the answer; one that refuses is a problem document.
func (s *site) asked(r *http.Request) (int, string) {
	s.t.Helper()
	resp, err := s.client.Do(r)
	require.NoError(s.t, err)
	defer func() { _ = resp.Body.Close() }()
	text, err := io.ReadAll(resp.Body)
	require.NoError(s.t, err)
	if resp.StatusCode >= 400 {
		assert.Equal(s.t, "application/problem+json", resp.Header.Get("Content-Type"), "%s %s", r.Method, r.URL)
	}
	return resp.StatusCode, string(text)
}

func (s *site) get(path string, into any) {
	s.t.Helper()
	status, body := s.do(http.MethodGet, path, nil)
	require.Equal(s.t, http.StatusOK, status, body)
	require.NoError(s.t, json.Unmarshal([]byte(body), into))
}

func (s *site) signIn(email string) *site {
	s.t.Helper()
	var session contract.Session
	s.get("/session", &session)
	s.csrf = session.Csrf
	status, body := s.do(http.MethodPost, "/session", map[string]string{"email": email, "password": demo.Password})
	require.Equal(s.t, http.StatusOK, status, body)
	require.NoError(s.t, json.Unmarshal([]byte(body), &session))
	s.csrf = session.Csrf
	return s
}

func (s *site) tonight() (practice string, own contract.Period) {
	s.t.Helper()
	practice = s.world.Practices[18].ID.String()
	var p contract.Practice
	s.get("/practices/"+practice+"?group=ol", &p)
	for _, e := range p.Periods {
		if e.Own {
			return practice, e
		}
	}
	s.t.Fatal("no own period")
	return
}

func problem(t *testing.T, body string) (p contract.Problem) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(body), &p), body)
	return p
}

func TestNotSignedInGetsNothing(t *testing.T) {
	s := open(t)
	id := uuid.NewString()
	for _, r := range [][2]string{
		{"GET", "/frame"}, {"GET", "/groups/ol/today?week=7"}, {"GET", "/groups/ol/players?week=7"}, {"GET", "/groups/ol/library"},
		{"GET", "/players/" + id + "?group=ol&week=7"}, {"GET", "/players/" + id + "/evidence?group=ol&week=7"}, {"GET", "/practices/" + id + "?group=ol"},
		{"GET", "/placements/" + id + "/marks"}, {"POST", "/marks"}, {"PUT", "/periods/" + id + "/placements"}, {"POST", "/reps/preview"},
		{"GET", "/roster/players"}, {"PUT", "/roster/players/" + id}, {"POST", "/roster/players/" + id + "/merge"}, {"GET", "/roster/export"},
		{"GET", "/roster/players/" + id + "/availability"}, {"PUT", "/roster/players/" + id + "/availability/" + id}, {"DELETE", "/roster/players/" + id + "/availability/" + id},
		{"PUT", "/roster/players/" + id + "/availability/" + id + "/clearance"},
		{"POST", "/roster/uploads"}, {"POST", "/roster/uploads/" + id + "/preview"}, {"POST", "/roster/uploads/" + id + "/import"}, {"POST", "/groups/ol/fixes"}, {"DELETE", "/session"},
		{"GET", "/groups/ol/drills/pull_bag"}, {"GET", "/groups/ol/ladders?week=7"}, {"POST", "/groups/ol/ladders/base_ladder/move"},
		{"POST", "/players/" + id + "/overrides"}, {"DELETE", "/overrides/" + id}, {"PUT", "/players/" + id + "/ranges/base_first"},
		{"GET", "/library/find?q=base&group=ol"}, {"GET", "/library/house"}, {"GET", "/library/entries/drill/pull_bag"}, {"PUT", "/library/entries/drill/pull_bag"},
		{"POST", "/library/versions/1/restore"}, {"GET", "/library/export"}, {"GET", "/library/schema"}, {"POST", "/library/import/preview"}, {"POST", "/library/import"},
	} {
		status, body := s.do(r[0], r[1], nil)
		assert.Equal(t, http.StatusUnauthorized, status, "%v %s", r, body)
		assert.NotContains(t, body, "Sato")
	}
}

func TestSignIn(t *testing.T) {
	s := open(t)
	s.signIn(strings.ToUpper(demo.LineCoachEmail))
	var session contract.Session
	s.get("/session", &session)
	assert.Equal(t, "R. Kell", session.User.Name)
	status, _ := s.do("DELETE", "/session", nil, "X-CSRF-Token", "another")
	assert.Equal(t, http.StatusForbidden, status, "without the request token")
	status, _ = s.do("DELETE", "/session", nil)
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = s.do("GET", "/frame", nil)
	assert.Equal(t, http.StatusUnauthorized, status)

	// Wrong passwords run into the limit, for a user who exists and one who does not.
	for _, email := range []string{"x@nowhere.example", demo.HeadCoachEmail} {
		v := s.visitor()
		v.get("/session", &session)
		v.csrf = session.Csrf
		last := 0
		for range 9 {
			last, _ = v.do("POST", "/session", map[string]string{"email": email, "password": "guess"})
		}
		assert.Equal(t, http.StatusTooManyRequests, last, email)
	}
}

func TestAnotherClubIsNotThere(t *testing.T) {
	s := open(t)
	s.found(access.Founding{Club: "Other", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "O. Ther", Email: "o@other.example", Password: demo.Password})
	practice, own := s.visitor().signIn(demo.LineCoachEmail).tonight()
	o := s.signIn("o@other.example")
	player := s.world.Players[0].ID.String()
	for _, r := range [][2]string{
		{"GET", "/practices/" + practice + "?group=ol"}, {"GET", "/players/" + player + "?group=ol&week=1"}, {"GET", "/players/" + player + "/evidence?group=ol&week=1"},
		{"GET", "/placements/" + own.Placements[0].ID.String() + "/marks"}, {"GET", "/practices/" + practice + "/rotation/" + own.Placements[0].ID.String()},
	} {
		status, body := o.do(r[0], r[1], nil)
		assert.Equal(t, http.StatusNotFound, status, "%v %s", r, body)
	}
	status, _ := o.do("PUT", "/periods/"+own.ID.String()+"/placements", map[string]any{"version": 1, "placements": []any{}})
	assert.Equal(t, http.StatusNotFound, status)
	assert.Equal(t, http.StatusNotFound, o.refused(mark(own.Placements[0].ID, s.world.Players[0].ID, 1, "assumed")).Status)
}

func mark(placement, player uuid.UUID, rep int, state string, faults ...string) map[string]any {
	list := []any{}
	for _, f := range faults {
		list = append(list, map[string]string{"key": f})
	}
	return map[string]any{"id": uuid.Must(uuid.NewV7()).String(), "placement_id": placement, "player_id": player, "rep": rep, "state": state, "faults": list}
}

// refused sends one mark and returns why it was refused.
func (s *site) refused(m map[string]any) contract.MarkRefused {
	s.t.Helper()
	status, text := s.do("POST", "/marks", map[string]any{"marks": []any{m}})
	require.Equal(s.t, http.StatusOK, status, text)
	var out struct {
		Saved   []string
		Refused []contract.MarkRefused
	}
	require.NoError(s.t, json.Unmarshal([]byte(text), &out))
	require.Len(s.t, out.Refused, 1, text)
	require.Empty(s.t, out.Saved)
	assert.Equal(s.t, m["id"], out.Refused[0].ID.String())
	return out.Refused[0]
}

func TestAMarkThatCannotBeNamesItsField(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	_, own := s.tonight()
	first := own.Placements[0].ID
	for name, c := range map[string]struct {
		mark  map[string]any
		field string
	}{
		"unknown fault":                   {mark(first, s.world.Players[0].ID, 1, "looked", "kick_leans"), "marks[0].faults[0].key"},
		"a fault in an assumed rep":       {mark(first, s.world.Players[0].ID, 1, "assumed", "base_hands_wide"), "marks[0].faults"},
		"a player on a head-injury hold":  {mark(first, s.world.Players[4].ID, 1, "assumed"), "marks[0].player_id"},
		"a player whom the club does not": {mark(first, uuid.New(), 1, "assumed"), "marks[0].player_id"},
	} {
		why := s.refused(c.mark)
		assert.Equal(t, []any{422, c.field}, []any{why.Status, *why.Field}, name)
	}
}

func TestBadInputNamesTheField(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	_, own := s.tonight()
	drill := func(change func(map[string]any)) map[string]any {
		d := map[string]any{"id": uuid.NewString(), "drill": "close_bag", "start": 12, "minutes": 5, "lanes": 3}
		change(d)
		keep := []any{}
		for _, x := range own.Placements {
			keep = append(keep, map[string]any{"id": x.ID, "drill": x.Drill, "start": x.Start, "minutes": x.Minutes, "lanes": x.Lanes})
		}
		return map[string]any{"version": own.Version, "placements": append(keep, d)}
	}
	put := "/periods/" + own.ID.String() + "/placements"
	first := own.Placements[0].ID
	for _, c := range []struct {
		name, method, path string
		body               any
		status             int
		field              string
		headers            []string
	}{
		{"negative minutes", "PUT", put, drill(func(d map[string]any) { d["minutes"] = -4 }), 422, "placements[2].minutes", nil},
		{"overlap", "PUT", put, drill(func(d map[string]any) { d["start"] = 6 }), 422, "placements[2].start", nil},
		{"longer than the period", "PUT", put, drill(func(d map[string]any) { d["minutes"] = 21 }), 422, "placements[2].minutes", nil},
		{"another group's drill", "PUT", put, drill(func(d map[string]any) { d["drill"] = "pedal_line" }), 422, "placements[2].drill", nil},
		{"wrong type", "PUT", put, drill(func(d map[string]any) { d["minutes"] = "five" }), 400, "placements[2].minutes", nil},
		{"unknown field", "PUT", put, drill(func(d map[string]any) { d["colour"] = "red" }), 400, "placements[2].colour", nil},
		{"too many lanes", "PUT", put, drill(func(d map[string]any) { d["lanes"] = 51 }), 400, "placements[2].lanes", nil},
		{"missing version", "PUT", put, map[string]any{"placements": []any{}}, 400, "If-Match", nil},
		{"version that is none", "PUT", put, map[string]any{"placements": []any{}}, 400, "If-Match", []string{"If-Match", "3"}},
		{"change without an id", "PUT", put, drill(func(map[string]any) {}), 400, "Change-Id", []string{"Change-Id", ""}},
		{"id of a change that is none", "PUT", put, drill(func(map[string]any) {}), 400, "Change-Id", []string{"Change-Id", "17"}},
		{"time that is none", "PUT", put, drill(func(map[string]any) {}), 400, "Change-Made", []string{"Change-Made", "noon"}},
		{"device that is none", "PUT", put, drill(func(map[string]any) {}), 400, "Device", []string{"Device", "phone"}},
		{"not JSON", "PUT", put, "{", 400, "body", []string{"If-Match", `"1"`}},
		{"huge body", "PUT", put, `{"version":1,"placements":[],"x":"` + strings.Repeat("x", 2<<20) + `"}`, 413, "body", []string{"If-Match", `"1"`}},
		{"week of no season", "GET", "/groups/ol/today?week=61", nil, 400, "week", nil},
		{"week outside the season", "GET", "/groups/ol/today?week=40", nil, 422, "week", nil},
		{"week missing", "GET", "/groups/ol/today", nil, 400, "week", nil},
		{"id in the body that is none", "POST", "/groups/ol/fixes", map[string]any{"id": "17", "fault": "base_hands_wide"}, 400, "id", nil},
		{"id that is none", "GET", "/practices/17?group=ol", nil, 404, "id", nil},
		{"rep 0", "POST", "/marks", map[string]any{"marks": []any{mark(first, s.world.Players[0].ID, 0, "assumed")}}, 400, "marks[0].rep", nil},
		{"unknown state", "POST", "/marks", map[string]any{"marks": []any{mark(first, s.world.Players[0].ID, 1, "great")}}, 400, "marks[0].state", nil},
		{"fix of nothing", "POST", "/groups/ol/fixes", map[string]any{"id": uuid.NewString(), "fault": "pd_rises"}, 422, "fault", nil},
		{"limited beyond players", "POST", "/reps/preview", map[string]any{"players": 3, "limited": 4, "drills": []any{}}, 422, "limited", nil},
	} {
		status, body := s.do(c.method, c.path, c.body, c.headers...)
		require.Equal(t, c.status, status, "%s: %s", c.name, body)
		p := problem(t, body)
		require.NotNil(t, p.Field, "%s: %s", c.name, body)
		assert.Equal(t, c.field, *p.Field, c.name)
	}
	var again contract.Practice
	s.get("/practices/"+s.world.Practices[18].ID.String()+"?group=ol", &again)
	for _, e := range again.Periods {
		if e.ID == own.ID {
			assert.Equal(t, own, e, "nothing was changed by what was refused")
		}
	}
	assert.NotContains(t, s.log.String(), "nineyard_session=", "cookies are not logged")
}

func TestPlanConflictShowsBothAndRepeatsAreHarmless(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	_, own := s.tonight()
	put := func(v *site, version int, minutes int) (int, string) {
		return v.do("PUT", "/periods/"+own.ID.String()+"/placements", map[string]any{"version": version, "placements": []any{
			map[string]any{"id": own.Placements[0].ID, "drill": own.Placements[0].Drill, "start": 0, "minutes": minutes, "lanes": 5}}})
	}
	status, body := put(s, own.Version, 6)
	require.Equal(t, http.StatusOK, status, body)
	status, _ = put(s, own.Version, 6)
	assert.Equal(t, http.StatusOK, status, "sent again after a lost answer")
	status, body = put(s, own.Version, 7)
	require.Equal(t, http.StatusConflict, status)
	var conflict contract.PeriodConflict
	require.NoError(t, json.Unmarshal([]byte(body), &conflict))
	assert.Equal(t, 6, conflict.Current.Placements[0].Minutes)
	assert.Contains(t, conflict.Title, "R. Kell")

	other := s.visitor().signIn(demo.SecondCoachEmail)
	status, _ = put(other, conflict.Current.Version, 7)
	assert.Equal(t, http.StatusForbidden, status, "another group's coach looks, but does not change")
	head := s.visitor().signIn(demo.HeadCoachEmail)
	status, _ = put(head, conflict.Current.Version, 7)
	assert.Equal(t, http.StatusOK, status)
}

func TestMarksAreIdempotentAndKeepHistory(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	_, own := s.tonight()
	placement, player := own.Placements[0].ID, s.world.Players[0].ID
	current := func() []contract.Mark {
		var sheet contract.MarkSheet
		s.get("/placements/"+placement.String()+"/marks", &sheet)
		return sheet.Marks
	}
	post := func(m ...map[string]any) {
		t.Helper()
		status, body := s.do("POST", "/marks", map[string]any{"marks": m})
		require.Equal(t, http.StatusOK, status, body)
	}
	assumed := mark(placement, player, 1, "assumed")
	fault := mark(placement, player, 1, "looked", "base_hands_wide")
	post(assumed)
	post(fault)
	post(assumed) // a late retry must not undo what came after it
	require.Len(t, current(), 1)
	assert.Equal(t, "base_hands_wide", current()[0].Faults[0].Key)
	assert.Equal(t, 0, *current()[0].Technique)
	post(mark(placement, player, 1, "withdrawn"))
	assert.Empty(t, current())
	assert.Equal(t, 3, s.count(`SELECT count(*)::int AS n FROM mark_events WHERE placement_id = @id`, pg.Args{"id": placement}), "history stays")
	assert.Error(t, s.exec("UPDATE mark_events SET note = 'x' WHERE placement_id = @id", pg.Args{"id": placement}), "append only")

	// A marked drill stays on the record.
	post(mark(placement, player, 2, "unseen"))
	status, body := s.do("PUT", "/periods/"+own.ID.String()+"/placements", map[string]any{"version": own.Version, "placements": []any{}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, body, "stays on the record")

	// One that cannot be is refused by itself.
	post(mark(placement, player, 5, "assumed"), mark(placement, uuid.New(), 5, "assumed"))
	assert.Len(t, current(), 2)
	// Another's id is refused, not answered as saved.
	other := maps.Clone(fault)
	other["rep"] = 7
	assert.Equal(t, 409, s.refused(other).Status)
	assert.Equal(t, 409, s.visitor().signIn(demo.HeadCoachEmail).refused(fault).Status, "somebody else's mark")

	// Marks follow when the practice is moved to another day.
	require.NoError(t, s.exec("UPDATE practices SET on_date = on_date - 1 WHERE id = @id", pg.Args{"id": s.world.Practices[18].ID}))
	assert.Equal(t, 1, s.count("SELECT count(DISTINCT on_date)::int AS n FROM mark_slots WHERE placement_id = @id AND on_date = '2026-10-12'", pg.Args{"id": placement}))
}

func TestFixPlacesOnceAndSaysWhatItShortened(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	id := uuid.NewString()
	var first, again contract.Fix
	for i, into := range []*contract.Fix{&first, &again} {
		status, body := s.do("POST", "/groups/ol/fixes", map[string]any{"id": id, "fault": "close_second_behind"})
		require.Equal(t, http.StatusOK, status, "%d: %s", i, body)
		require.NoError(t, json.Unmarshal([]byte(body), into))
	}
	assert.Equal(t, first.Drill, again.Drill)
	assert.Equal(t, first.Practice, again.Practice)
	_, own := s.tonight()
	require.Len(t, own.Placements, 3)
	assert.Positive(t, own.Placements[2].Reps.Min)
	shortened := 0
	for _, fault := range []string{"kick_opens_early", "two_daylight", "pull_runs_past", "base_hands_wide", "kick_leans"} {
		status, body := s.do("POST", "/groups/ol/fixes", map[string]any{"id": uuid.NewString(), "fault": fault})
		if status != http.StatusOK {
			assert.Contains(t, body, "no room for")
			continue
		}
		var f contract.Fix
		require.NoError(t, json.Unmarshal([]byte(body), &f))
		shortened += len(f.Shortened)
	}
	assert.Positive(t, shortened)
}

func TestHealthAndPages(t *testing.T) {
	s := open(t)
	for path, want := range map[string]string{"/healthz": "ok", "/readyz": "ready", "/g/ol/w/7/today": "<p>page", "/": "<p>page", "/metrics": "<p>page"} {
		resp, err := http.Get(s.server.URL + path)
		require.NoError(t, err)
		text, _ := io.ReadAll(resp.Body)
		_ = resp.Body.Close()
		assert.Equal(t, http.StatusOK, resp.StatusCode, path)
		assert.Contains(t, string(text), want, path)
	}
	status, _ := s.do("GET", "/nothing", nil)
	assert.Equal(t, http.StatusNotFound, status)
	resp, err := http.Get(s.server.URL + "/assets/none.js")
	require.NoError(t, err)
	_ = resp.Body.Close()
	assert.Equal(t, http.StatusNotFound, resp.StatusCode)
	status, _ = s.do("PATCH", "/frame", nil)
	assert.Contains(t, []int{http.StatusMethodNotAllowed, http.StatusUnauthorized}, status, fmt.Sprint(status))
}

// empty is a migrated database with no club.
func empty(t *testing.T) (app, owner *pg.DB) {
	t.Helper()
	url := pgtest.Copy(t, "empty", func(url string) error { _, err := pg.Migrate(context.Background(), url); return err })
	app, err := pg.Open(url, 4)
	require.NoError(t, err)
	owner, err = pg.OpenOwner(url, 2)
	require.NoError(t, err)
	t.Cleanup(func() { _, _ = app.Close(), owner.Close() })
	return app, owner
}

// read reads an answer.
func read[T any](t *testing.T, text string) (v T) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(text), &v), text)
	return v
}
