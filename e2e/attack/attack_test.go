// Package attack_test attacks the real binary on a real PostgreSQL, bounded in time. NINEYARD_ATTACK says for how long
// the contract is fuzzed; what was found out is printed.
package attack_test

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"net/http/cookiejar"
	"os"
	"slices"
	"sort"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
	"nineyard/internal/attack"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
)

var cluster *harness.Cluster

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	dir, err := os.MkdirTemp("", "nineyard-attack-")
	if err != nil {
		panic(err)
	}
	defer func() { _ = os.RemoveAll(dir) }()
	binary, err := harness.Build(dir)
	if err != nil {
		panic(err)
	}
	if cluster, err = harness.NewCluster(context.Background(), binary); err != nil {
		panic(err)
	}
	defer cluster.Stop()
	return m.Run()
}

// budget is for how long the contract is fuzzed.
func budget() time.Duration {
	if d, err := time.ParseDuration(os.Getenv("NINEYARD_ATTACK")); err == nil {
		return d
	}
	return 12 * time.Second
}

func start(t *testing.T) *harness.App {
	t.Helper()
	app, err := cluster.Start(context.Background())
	require.NoError(t, err)
	t.Cleanup(app.Stop)
	return app
}

// person is a browser of somebody's.
type person struct {
	app    *harness.App
	client *http.Client
	csrf   string
	id     uuid.UUID
}

func enter(t *testing.T, app *harness.App, id uuid.UUID) *person {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	p := &person{app: app, client: &http.Client{Jar: jar, Timeout: time.Minute}, id: id}
	require.NoError(t, p.enter())
	return p
}

func (p *person) enter() error {
	r, err := p.client.Post(p.app.URL+"/api/v1/demo/session", "application/json", strings.NewReader(fmt.Sprintf(`{"user_id": %q}`, p.id)))
	if err != nil {
		return err
	}
	defer func() { _ = r.Body.Close() }()
	var s struct{ Csrf string }
	if err := json.NewDecoder(r.Body).Decode(&s); err != nil {
		return err
	}
	p.csrf = s.Csrf
	return nil
}

// do sends a request as the person and reads the answer.
func (p *person) do(r *http.Request) (int, http.Header, []byte, error) {
	r.Header.Set("X-CSRF-Token", p.csrf)
	if r.Method != http.MethodGet && r.Header.Get("Change-Id") == "" {
		r.Header.Set("Change-Id", uuid.NewString())
	}
	answer, err := p.client.Do(r)
	if err != nil {
		return 0, nil, nil, err
	}
	defer func() { _ = answer.Body.Close() }()
	body, err := io.ReadAll(answer.Body)
	return answer.StatusCode, answer.Header, body, err
}

func world(u *attack.Source) {
	w := demotest.World()
	for _, p := range w.Players[:12] {
		u.IDs = append(u.IDs, p.ID.String())
	}
	for _, p := range w.Placements[len(w.Placements)-6:] {
		u.IDs = append(u.IDs, p.ID.String(), p.PeriodID.String())
	}
	for _, p := range w.Practices[14:22] {
		u.IDs = append(u.IDs, p.ID.String())
	}
	for _, g := range w.Games {
		u.IDs = append(u.IDs, g.ID.String())
	}
	for _, p := range w.Plays[:6] {
		u.IDs = append(u.IDs, p.ID.String())
	}
	u.IDs = append(u.IDs, w.Footage[0].Clips[0].ID.String())
	u.Keys = []string{"ol", "db", "te", "drill", "technique", "fault", "ladder", "base_block", "close_bag", "base_ladder", "base_first", "new_one"}
}

// locksOut are operations that may keep out who attacks; they come last.
var locksOut = map[string]bool{"putStaffRules": true, "putMember": true, "removeMember": true, "endMemberSessions": true, "signOut": true, "endOtherSessions": true, "foundClub": true, "putPassword": true}

// TestTheContractIsHeldUnderFire: whatever is asked, the answer is one of the contract's, in the product's words.
func TestTheContractIsHeldUnderFire(t *testing.T) {
	app := start(t)
	contract, err := attack.Open()
	require.NoError(t, err)
	until := time.Now().Add(budget())
	var requests, sound atomic.Int64
	var mu sync.Mutex
	statuses, wrong := map[int]int{}, map[string]string{}
	taken := map[string]bool{}
	var wait sync.WaitGroup
	for worker := range 4 {
		wait.Go(func() {
			seed := uint64(time.Now().UnixNano()) + uint64(worker)
			source := &attack.Source{Rand: rand.New(rand.NewPCG(seed, 7))}
			world(source)
			p := enter(t, app, demotest.World().Users[worker%3].ID)
			for i := 0; time.Now().Before(until); i++ {
				op := contract.Operations[source.IntN(len(contract.Operations))]
				if locksOut[op.OperationID] && time.Until(until) > budget()/8 {
					continue
				}
				if i < len(contract.Operations) && worker == 0 && !locksOut[contract.Operations[i].OperationID] {
					op = contract.Operations[i] // each at least once
				}
				source.Spoils = []int{0, 4, 15}[source.IntN(3)]
				r, spoilt, err := source.Request(app.URL, op)
				if err != nil {
					continue // it cannot even be sent
				}
				sent := r.Clone(context.Background())
				status, header, body, err := p.do(r)
				if err != nil {
					mu.Lock()
					wrong["no answer to "+op.OperationID] = err.Error()
					mu.Unlock()
					continue
				}
				requests.Add(1)
				if !spoilt {
					sound.Add(1)
				}
				why := contract.Check(sent, status, header, body)
				mu.Lock()
				statuses[status]++
				taken[op.OperationID] = taken[op.OperationID] || status < 300
				if why != "" && len(wrong) < 40 {
					wrong[op.OperationID+" "+why[:min(len(why), 60)]] = fmt.Sprintf("%s %s (seed %d): %s", r.Method, r.URL, seed, why)
				}
				mu.Unlock()
				if status == http.StatusUnauthorized || status == http.StatusForbidden && source.IntN(40) == 0 {
					_ = p.enter()
				}
			}
		})
	}
	wait.Wait()
	_, peak, err := app.Memory()
	require.NoError(t, err)
	fives := 0
	for status, n := range statuses {
		if status >= 500 && status != http.StatusServiceUnavailable {
			fives += n
		}
	}
	done := 0
	for _, ok := range taken {
		if ok {
			done++
		}
	}
	t.Logf("%d requests to %d operations, %d of them sound; %d operations were carried out; answers %v; 5xx %d; peak memory %d MiB", requests.Load(), len(contract.Operations), sound.Load(), done, statuses, fives, peak)
	for _, says := range sorted(wrong) {
		t.Error(says)
	}
	for _, line := range strings.Split(app.Log(), "\n") {
		if strings.Contains(line, "level=ERROR") && !t.Failed() {
			t.Error("the server's log: ", line)
		}
	}
	assert.Zero(t, fives)
}

func sorted(m map[string]string) []string {
	var keys, out []string
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	for _, k := range keys {
		out = append(out, m[k])
	}
	return out
}

// form is a multipart body with a file.
func form(file []byte, fields map[string]string) (io.Reader, string) {
	var out bytes.Buffer
	w := multipart.NewWriter(&out)
	for k, v := range fields {
		_ = w.WriteField(k, v)
	}
	f, _ := w.CreateFormFile("file", "list")
	_, _ = f.Write(file)
	_ = w.Close()
	return &out, w.FormDataContentType()
}

// TestWhatOneRequestMayTake: the files and the tries that once took gigabytes and minutes, and another coach who
// works meanwhile.
func TestWhatOneRequestMayTake(t *testing.T) {
	w := demotest.World()
	many := func(what string, n int) []byte { return []byte(strings.Repeat(what, n/len(what))) }
	files := map[string]struct {
		path string
		file []byte
	}{
		"9 MB of commas as a roster":     {"/roster/uploads", many(",", 9<<20)},
		"9 MB of quotes as a roster":     {"/roster/uploads", many("\"", 9<<20)},
		"9 MB of short lines":            {"/roster/uploads", append([]byte("No,Name\n"), many("1,a\n", 9<<20)...)},
		"9 MB of UTF-16":                 {"/roster/uploads", append([]byte{0xff, 0xfe}, many("1\x00,\x00a\x00\n\x00", 9<<20)...)},
		"9 MB of empty drills":           {"/library/import/preview", append([]byte("drills:\n"), many("- {}\n", 9<<20)...)},
		"1 MB of empty drills":           {"/library/import/preview", append([]byte("drills:\n"), many("- {}\n", 900<<10)...)},
		"2 MB of one key":                {"/library/import/preview", append([]byte("drills:\n- "), many("key: 1\n  ", 1500<<10)...)},
		"2 MB of brackets":               {"/library/import/preview", many("[", 2<<20)},
		"half a MB of entries to import": {"/library/import", entries(1500)},
	}
	for name, f := range files {
		app := start(t)
		p, other := enter(t, app, w.Users[1].ID), enter(t, app, w.Users[2].ID)
		r, err := http.NewRequest("GET", app.URL+"/api/v1/roster/players", nil)
		require.NoError(t, err)
		_, _, _, err = p.do(r)
		require.NoError(t, err)
		before, _, err := app.Memory()
		require.NoError(t, err)
		body, kind := form(f.file, map[string]string{"id": uuid.NewString(), "group": "ol"})
		if strings.HasPrefix(f.path, "/library/import") {
			fields := map[string]string{"id": uuid.NewString()}
			if strings.HasSuffix(f.path, "preview") {
				fields = map[string]string{}
			}
			body, kind = form(f.file, fields)
		}
		stop, slowest := make(chan struct{}), time.Duration(0)
		var wait sync.WaitGroup
		wait.Go(func() { // another coach of the club writes meanwhile
			for {
				select {
				case <-stop:
					return
				default:
				}
				began := time.Now()
				r, _ := http.NewRequest("PUT", app.URL+"/api/v1/roster/players/"+uuid.NewString(), strings.NewReader(`{"jersey": "", "first_name": "A", "last_name": "B", "groups": ["te"], "position": "TE", "returning": false, "archived": false}`))
				r.Header.Set("Content-Type", "application/json")
				r.Header.Set("If-Match", `"0"`)
				status, _, text, err := other.do(r)
				if assert.NoError(t, err) {
					assert.Equal(t, http.StatusOK, status, string(text))
				}
				slowest = max(slowest, time.Since(began))
			}
		})
		time.Sleep(50 * time.Millisecond)
		began := time.Now()
		r, err = http.NewRequest("POST", app.URL+"/api/v1"+f.path, body)
		require.NoError(t, err)
		r.Header.Set("Content-Type", kind)
		status, _, text, err := p.do(r)
		took := time.Since(began)
		close(stop)
		wait.Wait()
		require.NoError(t, err)
		_, peak, err := app.Memory()
		require.NoError(t, err)
		t.Logf("%s: %d in %s, %d MiB more; another coach waited %s at most", name, status, took.Round(time.Millisecond), peak-before, slowest.Round(time.Millisecond))
		assert.Contains(t, []int{200, 413, 422}, status, "%s: %s", name, text[:min(len(text), 200)])
		assert.LessOrEqual(t, peak-before, 64+32, "%s: memory, with what the other coach takes", name)
		app.Stop()
	}
}

// entries is a library of sound drills.
func entries(n int) []byte {
	var b strings.Builder
	b.WriteString("drills:\n")
	for i := range n {
		fmt.Fprintf(&b, "  - {key: own_%d, name: Own %d, trains: [kick_first], works_on: [kick_heel_in], working: 1, helping: 0, roles: Each alone, lanes: 3, rep_seconds: 4, reset_seconds: 12, setup_seconds: 0, minutes: 3, min_minutes: 2, contact: air, equipment: none, space_yd: [4, 2], coach_at: Behind, watch: Heel, self_check: Line, alone: Yes, game: Passes, cautions: None}\n", i, i)
	}
	return []byte(b.String())
}

// TestSixtyTriesToSignInAtOnce take no gigabytes, and lock nobody out who comes from where he always does.
func TestSixtyTriesToSignInAtOnce(t *testing.T) {
	app := start(t)
	in := func(email, password string) int {
		r, err := http.Post(app.URL+"/api/v1/session", "application/json", strings.NewReader(fmt.Sprintf(`{"email": %q, "password": %q}`, email, password)))
		if err != nil {
			return 0
		}
		defer func() { _ = r.Body.Close() }()
		_, _ = io.Copy(io.Discard, r.Body)
		return r.StatusCode
	}
	require.Equal(t, http.StatusOK, in(demo.LineCoachEmail, demo.Password))
	before, _, err := app.Memory()
	require.NoError(t, err)
	var wait sync.WaitGroup
	var mu sync.Mutex
	statuses := map[int]int{}
	began := time.Now()
	for i := range 60 {
		wait.Go(func() {
			status := in(fmt.Sprintf("x%d@no.example", i%20), "guess")
			mu.Lock()
			defer mu.Unlock()
			statuses[status]++
		})
	}
	wait.Wait()
	_, peak, err := app.Memory()
	require.NoError(t, err)
	t.Logf("60 tries at once: %v in %s, %d MiB more", statuses, time.Since(began).Round(time.Millisecond), peak-before)
	assert.LessOrEqual(t, peak-before, 100)
	assert.Zero(t, statuses[http.StatusInternalServerError]+statuses[0])
}

// marks sends marks of a drill, rep after rep, until it is stopped, and hands over what was answered to each.
func (p *person) marks(app *harness.App, stop <-chan struct{}, drill int, answered func(id string, status int, text []byte, err error)) {
	w := demotest.World()
	on, player := w.Placements[0], 0
	for _, x := range w.Placements { // a drill of a group that has players, another one for each who sends
		if player = slices.IndexFunc(w.Players, func(y demo.Player) bool { return w.GroupOf[y.ID] == x.Group }); player >= 0 {
			if on = x; drill == 0 {
				break
			}
			drill--
		}
	}
	for rep := 1; ; rep = rep%190 + 1 {
		select {
		case <-stop:
			return
		default:
		}
		id := uuid.Must(uuid.NewV7()).String()
		body := fmt.Sprintf(`{"marks": [{"id": %q, "placement_id": %q, "player_id": %q, "rep": %d, "state": "assumed"}]}`, id, on.ID, w.Players[player].ID, rep)
		r, _ := http.NewRequest("POST", app.URL+"/api/v1/marks", strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		status, _, text, err := p.do(r)
		answered(id, status, text, err)
	}
}

// TestNothingThatWasAnsweredIsLost when the server is killed, and when the database is.
func TestNothingThatWasAnsweredIsLost(t *testing.T) {
	app, w := start(t), demotest.World()
	var mu sync.Mutex
	var kept []string
	tries := 0
	stop := make(chan struct{})
	var wait sync.WaitGroup
	for worker := range 2 {
		p := enter(t, app, w.Users[0].ID)
		wait.Go(func() {
			p.marks(app, stop, worker, func(id string, status int, text []byte, err error) {
				mu.Lock()
				tries++
				if err == nil && status == http.StatusOK && bytes.Contains(text, []byte(id)) && !bytes.Contains(text, []byte(`"refused":[{`)) {
					kept = append(kept, id)
				}
				mu.Unlock()
				if err != nil {
					time.Sleep(20 * time.Millisecond)
				}
			})
		})
	}
	kills := 3
	if budget() > time.Minute {
		kills = 20
	}
	crashes := 0
	answered := func() int {
		mu.Lock()
		defer mu.Unlock()
		return len(kept)
	}
	for i := range kills {
		was := answered()
		require.Eventually(t, func() bool { return answered() > was }, 30*time.Second, 10*time.Millisecond, "marks are answered, again after %d ends", i)
		time.Sleep(time.Duration(200+rand.IntN(300)) * time.Millisecond)
		if i%3 == 2 {
			if app.CrashDatabase(context.Background()) == nil {
				crashes++
			}
			continue
		}
		app.Kill()
		require.NoError(t, app.Run(context.Background()))
	}
	was := answered()
	require.Eventually(t, func() bool { return answered() > was }, 30*time.Second, 10*time.Millisecond, "marks are answered in the end")
	close(stop)
	wait.Wait()
	db, err := sql.Open("pgx", app.DatabaseURL())
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	require.Eventually(t, func() bool { return db.Ping() == nil }, 30*time.Second, 50*time.Millisecond, "the database has recovered")
	lost := 0
	for _, id := range kept {
		var n int
		require.NoError(t, db.QueryRow(`SELECT count(*) FROM mark_events WHERE id = $1`, id).Scan(&n))
		lost += 1 - n
	}
	var wrong int
	require.NoError(t, db.QueryRow(`SELECT wrong_sums($1)`, w.ClubID.String()).Scan(&wrong))
	t.Logf("%d kills of the server, %d crashes of the database; %d marks sent, %d answered, %d lost, %d sums wrong", kills-crashes, crashes, tries, len(kept), lost, wrong)
	assert.NotEmpty(t, kept)
	assert.Zero(t, lost)
	assert.Zero(t, wrong)
}

// TestABackupIsRestored: pg_dump of a club in use, restored elsewhere. It is of one moment, works, and is what that moment was.
func TestABackupIsRestored(t *testing.T) {
	app, w := start(t), demotest.World()
	stop := make(chan struct{})
	var sent atomic.Int64
	var wait sync.WaitGroup
	p := enter(t, app, w.Users[0].ID)
	wait.Go(func() {
		p.marks(app, stop, 0, func(_ string, status int, _ []byte, err error) {
			if assert.NoError(t, err) && status == http.StatusOK {
				sent.Add(1)
			}
		})
	})
	require.Eventually(t, func() bool { return sent.Load() > 20 }, 30*time.Second, 10*time.Millisecond, "the club is in use")
	used, err := cluster.Restored(context.Background(), app)
	require.NoError(t, err)
	t.Cleanup(used.Stop)
	close(stop)
	wait.Wait()
	still, err := cluster.Restored(context.Background(), app)
	require.NoError(t, err)
	t.Cleanup(still.Stop)
	was, half, now := rows(t, app), rows(t, used), rows(t, still)
	assert.Equal(t, was, now, "the same rows, table by table")
	db, err := sql.Open("pgx", used.DatabaseURL())
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	var wrong, gaps int
	require.NoError(t, db.QueryRow(`SELECT wrong_sums($1), (SELECT (max(number) - min(number) + 1 - count(*))::int FROM changes)`, w.ClubID.String()).Scan(&wrong, &gaps))
	assert.Zero(t, wrong, "the backup of a club in use is of one moment")
	assert.Zero(t, gaps)
	again := enter(t, used, w.Users[0].ID)
	r, _ := http.NewRequest("GET", used.URL+"/api/v1/roster/players", nil)
	status, _, _, err := again.do(r)
	require.NoError(t, err)
	assert.Equal(t, http.StatusOK, status)
	t.Logf("%d marks sent while it was taken; %d tables compared; marks in the first backup %s, in the end %s", sent.Load(), len(now), half["mark_events"], was["mark_events"])
}

// rows is a digest of every table's rows, but for sessions and tries, and the ids of the marks.
func rows(t *testing.T, app *harness.App) map[string]string {
	t.Helper()
	db, err := sql.Open("pgx", app.DatabaseURL())
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	names, err := db.Query(`SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p') AND NOT relispartition AND relname !~ '^(sessions|sign_in|goose)'`)
	require.NoError(t, err)
	var tables []string
	for names.Next() {
		var name string
		require.NoError(t, names.Scan(&name))
		tables = append(tables, name)
	}
	require.NoError(t, names.Err())
	out := map[string]string{}
	for _, name := range tables {
		var sum string
		require.NoError(t, db.QueryRow(fmt.Sprintf(`SELECT count(*) || ' ' || coalesce(md5(string_agg(md5(t::text), '' ORDER BY md5(t::text))), '') FROM %q t`, name)).Scan(&sum))
		out[name] = sum
	}
	return out
}
