package product_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	marking "nineyard/internal/mark"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/players"
	"nineyard/internal/product"
	"nineyard/internal/teach"
	"nineyard/library"
)

// screen is what a screen asks of the product when it opens.
type screen struct {
	name string
	most int // statements at most; zero for no bound of its own
	open func(ctx context.Context, p *product.Product, c access.Coach) error
}

// screens are those of a coach of the line on the demo's day.
func screens() []screen {
	w := demotest.World()
	inGroup := func(group string) (list []demo.Player) {
		for _, x := range w.Players {
			if w.GroupOf[x.ID] == group {
				list = append(list, x)
			}
		}
		return list
	}
	var practice, placement, player, own uuid.UUID
	for _, x := range w.Practices {
		if x.OnDate.Format("2006-01-02") == demo.Now().Format("2006-01-02") {
			practice = x.ID
		}
	}
	for _, e := range w.Periods {
		for _, x := range w.Placements {
			if e.PracticeID == practice && x.PeriodID == e.ID && slices.Contains(e.Groups, "ol") {
				placement, own = x.ID, e.ID
			}
		}
	}
	for _, x := range w.Players {
		if w.GroupOf[x.ID] == "ol" {
			player = x.ID
			break
		}
	}
	return []screen{
		{"Today", 4, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Today.Today(ctx, c, "ol", demo.Week)
			return err
		}},
		{"Board", 4, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Players.Board(ctx, c, "ol", demo.Week)
			return err
		}},
		{"Player", 4, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Players.Sheet(ctx, c, player, "ol", demo.Week)
			return err
		}},
		{"Players", 2, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Players.Matrix(ctx, c, "ol", demo.Week)
			return err
		}},
		{"Evidence", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Players.Evidence(ctx, c, player, players.Asked{Group: "ol", Week: demo.Week, Technique: "base_block"})
			return err
		}},
		{"Frame", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Plan.Frame(ctx, c)
			return err
		}},
		{"Season", 5, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Plan.Season(ctx, c)
			return err
		}},
		{"Calls", 2, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Calls.Calls(ctx, c)
			return err
		}},
		{"Line-up", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Calls.LineUp(ctx, c, "ol", demo.Week)
			return err
		}},
		// Three, and three for each group that a call needs or that is looked at.
		{"Will we be ready?", 3 + 3*7, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Calls.Readiness(ctx, c, "ol", demo.Week)
			return err
		}},
		{"What to put in", 20, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Today.Suggestions(ctx, c, "ol", own)
			return err
		}},
		// One, and the squad of each day of five weeks.
		{"Planned reps of the week", 1 + 3*5, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Today.Load(ctx, c, "ol", demo.Week)
			return err
		}},
		{"Practice", 5, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Plan.Practice(ctx, c, practice, "ol")
			return err
		}},
		{"Rotation", 5, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Plan.Rotation(ctx, c, practice, placement)
			return err
		}},
		{"Marking", 7, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Mark.Sheet(ctx, c, placement)
			return err
		}},
		{"Open questions", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Mark.Questions(ctx, c)
			return err
		}},
		{"What players are told", 6, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Tell.List(ctx, c, w.Games[demo.Week-2].ID, "ol")
			return err
		}},
		// With where he stands on his ladders.
		{"A player's sheet of a game", 9, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Tell.Feedback(ctx, c, w.Games[demo.Week-2].ID, "ol", inGroup("ol")[3].ID)
			return err
		}},
		{"Meeting", 7, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Tell.Meeting(ctx, c, w.Games[demo.Week-2].ID, "ol")
			return err
		}},
		{"Videos", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Footage.Videos(ctx, c, &w.Games[demo.Week-2].ID, nil)
			return err
		}},
		{"NineMarks", 4, func(ctx context.Context, p *product.Product, c access.Coach) error {
			var list []contract.MarkInput
			for i, x := range inGroup("ol") {
				m := contract.MarkInput{ID: uuid.New(), PlacementID: &placement, PlayerID: x.ID, Rep: new(1 + time.Now().Nanosecond()/1000%6), State: contract.MarkInputStateLooked}
				if i%3 == 0 {
					m.Faults = &[]contract.MarkFaultInput{{Key: "kick_leans"}}
				}
				list = append(list, m)
			}
			posted, err := p.Mark.Post(ctx, c, marking.Sender{}, list[:9])
			if err == nil && len(posted.Saved) < 8 { // one of the nine is held out
				err = fmt.Errorf("%v", posted.Refused)
			}
			return err
		}},
		{"Game", 6, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Mark.GameSheet(ctx, c, w.Games[demo.Week-2].ID, "ol", false)
			return err
		}},
		{"Agreement", 6, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Mark.Agreement(ctx, c, w.Games[demo.Week-2].ID, "ol", nil, nil)
			return err
		}},
		{"Plays", 2, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Film.GamePlays(ctx, c, w.Games[demo.Week-2].ID)
			return err
		}},
		{"Library", 1, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Teach.LibraryOf(ctx, c, "ol")
			return err
		}},
		{"Drill", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Teach.DrillPage(ctx, c, "ol", "pull_bag", nil, nil)
			return err
		}},
		{"Find", 3, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Find.Find(ctx, c, "base block", "ol")
			return err
		}},
		{"Mistyped", 5, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Find.Find(ctx, c, "hans wide", "ol")
			return err
		}},
		{"House", 2, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Teach.HouseOf(ctx, c)
			return err
		}},
		{"Roster", 2, func(ctx context.Context, p *product.Product, c access.Coach) error {
			_, err := p.Roster.List(ctx, c, "")
			return err
		}},
	}
}

// office is the product over a database, and the line coach of the demo.
type office struct {
	*product.Product
	coach access.Coach
}

func serve(t testing.TB, url string) *office {
	t.Helper()
	app, err := pg.Open(url, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = app.Close() })
	o := &office{Product: product.New(product.Options{DB: app, Now: demo.Now, Demo: demotest.World().ClubID})}
	o.again(t)
	require.NoError(t, o.do(func(ctx context.Context) error { _, err := o.Teach.Of(ctx, o.coach); return err }))
	o.again(t)
	return o
}

// again reads the coach as the next request does.
func (o *office) again(t testing.TB) {
	t.Helper()
	for _, u := range demotest.World().Users {
		if u.Email == demo.LineCoachEmail {
			c, found, err := o.Access.Coach(context.Background(), u.ID)
			require.NoError(t, err)
			require.True(t, found)
			o.coach = c
		}
	}
}

func (o *office) do(f func(ctx context.Context) error) error {
	return o.DB.InClub(context.Background(), o.coach.Club.ID, f)
}

// statements runs f as a request and returns what it sent.
func (o *office) statements(t testing.TB, f func(ctx context.Context) error) []pg.Statement {
	t.Helper()
	var sent *pg.Statements
	require.NoError(t, o.do(func(ctx context.Context) error {
		ctx, sent = pg.Counting(ctx)
		return f(ctx)
	}))
	return sent.All()
}

// listOf writes a list of n players of the line.
func listOf(n, weight int) string {
	var b strings.Builder
	b.WriteString("No,First,Last,Pos,Wt\n")
	for i := range n {
		fmt.Fprintf(&b, "%d,P%03d,Newcomer%03d,LG,%d\n", 100+i, i, i, weight)
	}
	return b.String()
}

// TestAScreenAsksTheDatabaseLittle: the bounds of the design, whatever the squad's size.
func TestAScreenAsksTheDatabaseLittle(t *testing.T) {
	o := serve(t, demotest.Copy(t))
	for _, s := range screens() {
		_ = o.statements(t, func(ctx context.Context) error { return s.open(ctx, o.Product, o.coach) }) // what is read once
		sent := o.statements(t, func(ctx context.Context) error { return s.open(ctx, o.Product, o.coach) })
		assert.LessOrEqual(t, len(sent), s.most, s.name)
	}
	for _, weight := range []int{250, 260} { // 300 created, then 300 changed
		id := uuid.New()
		sent := o.statements(t, func(ctx context.Context) error {
			_, err := o.Roster.Send(ctx, o.coach, id, "ol", strings.NewReader(listOf(300, weight)))
			return err
		})
		assert.LessOrEqual(t, len(sent), 5, "sending a list of 300")
		sent = o.statements(t, func(ctx context.Context) error {
			done, err := o.Roster.Import(ctx, o.coach, id, contract.RosterChoice{Group: "ol"})
			assert.Equal(t, 300, done.Create+done.Update)
			return err
		})
		assert.LessOrEqual(t, len(sent), 5, "importing a list of 300")
	}
}

// TestARequestAsksTheDatabaseLittle counts the session and who asks too: they are one.
func TestARequestAsksTheDatabaseLittle(t *testing.T) {
	s := open(t).signIn(demo.LineCoachEmail)
	player := s.roster()["64 Sato"].ID.String()
	for _, path := range []string{"/groups/ol/today?week=7", "/groups/ol/ladders?week=7", "/players/" + player + "?group=ol&week=7", "/groups/ol/players?week=7"} {
		var any map[string]any
		for range 2 { // the first takes the library in, the second reads it for good
			s.get(path, &any)
		}
		before := len(s.sent.All())
		s.get(path, &any)
		var sent []string
		for _, x := range s.sent.All()[before:] {
			sent = append(sent, x.SQL)
		}
		assert.LessOrEqual(t, len(sent), 5, "%s\n%s", path, strings.Join(sent, "\n---\n"))
	}
}

// many makes a database of many clubs, and sixty more that have only begun; most of them on
// an edition before the one that ships.
func many(b *testing.B, size demotest.Size) string {
	b.Helper()
	ctx := context.Background()
	url := pgtest.URL(b)
	_, err := pg.Migrate(ctx, url)
	require.NoError(b, err)
	owner, err := pg.OpenOwner(url, 2)
	require.NoError(b, err)
	defer func() { _ = owner.Close() }()
	began := time.Now()
	require.NoError(b, demotest.Seasons(ctx, owner, size))
	fmt.Printf("%d clubs with %d seasons: loaded in %s\n", size.Clubs, size.Seasons, time.Since(began).Round(time.Second))
	for i := range 60 {
		_, err := access.Found(ctx, owner, access.Founding{Club: fmt.Sprintf("Beginner %d", i), Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9,
			Name: "H. Coach", Email: fmt.Sprintf("h%d@club.example", i), Password: "a long enough one"})
		require.NoError(b, err)
	}
	return url
}

// BenchmarkScreens measures every screen at the demo's size, at that of forty clubs with ten
// seasons, and, asked by NINEYARD_LARGE, of a hundred clubs with five seasons of every mark:
// time and its median, statements, and rows read per row that was wanted.
func BenchmarkScreens(b *testing.B) {
	for _, size := range []struct {
		name string
		url  func(b *testing.B) string
	}{
		{"demo", func(b *testing.B) string { return demotest.Copy(b) }},
		{"large", func(b *testing.B) string { return many(b, demotest.Size{Clubs: 40, Seasons: 10, Share: 24}) }},
		{"largest", func(b *testing.B) string { return many(b, demotest.Size{Clubs: 100, Seasons: 5, Share: 1}) }},
	} {
		b.Run(size.name, func(b *testing.B) {
			if (size.name == "largest") != (os.Getenv("NINEYARD_LARGE") != "") {
				b.Skip("make bench-large measures this")
			}
			url := size.url(b)
			b.Run("StartToListening", func(b *testing.B) { startToListening(b, url) })
			o := serve(b, url)
			for _, s := range screens() {
				b.Run(s.name, func(b *testing.B) { o.measure(b, url, s) })
			}
			b.Run("ImportOf300", func(b *testing.B) {
				for i := range b.N {
					id := uuid.New()
					_ = o.statements(b, func(ctx context.Context) error {
						_, err := o.Roster.Send(ctx, o.coach, id, "ol", strings.NewReader(listOf(300, 250+i%2)))
						return err
					})
					sent := o.statements(b, func(ctx context.Context) error {
						_, err := o.Roster.Import(ctx, o.coach, id, contract.RosterChoice{Group: "ol"})
						return err
					})
					b.ReportMetric(float64(len(sent)), "statements")
				}
			})
			b.Run("HouseEdit", func(b *testing.B) { o.edit(b) })
		})
	}
}

func (o *office) measure(b *testing.B, url string, s screen) {
	open := func(ctx context.Context) error { return s.open(ctx, o.Product, o.coach) }
	_ = o.statements(b, open)
	sent := o.statements(b, open)
	var took []time.Duration
	b.ResetTimer()
	for range b.N {
		began := time.Now()
		require.NoError(b, o.do(open))
		took = append(took, time.Since(began))
	}
	b.StopTimer()
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "median-ms")
	read, wanted := explained(b, url, sent)
	b.ReportMetric(float64(len(sent)), "statements")
	b.ReportMetric(float64(read)/float64(max(wanted, 1)), "read/wanted")
	b.ReportMetric(float64(read), "rows-read")
}

// edit changes a word of the house again and again.
func (o *office) edit(b *testing.B) {
	for i := range b.N {
		b.StopTimer()
		o.again(b)
		var e contract.Entry
		require.NoError(b, o.do(func(ctx context.Context) (err error) {
			e, err = o.Teach.Entry(ctx, o.coach, "drill", "pull_bag")
			return err
		}))
		e.Fields["name"] = fmt.Sprintf("Trap the bag %d", i)
		b.StartTimer()
		sent := o.statements(b, func(ctx context.Context) error {
			_, err := o.Teach.PutEntry(ctx, o.coach, "drill", "pull_bag", teach.EntryChange{ID: uuid.New(), Version: e.Version, Fields: e.Fields})
			return err
		})
		b.ReportMetric(float64(len(sent)), "statements")
	}
}

// node is a step of a plan, as EXPLAIN says it.
type node struct {
	Relation string  `json:"Relation Name"`
	Rows     float64 `json:"Actual Rows"`
	Loops    float64 `json:"Actual Loops"`
	Filtered float64 `json:"Rows Removed by Filter"`
	Checked  float64 `json:"Rows Removed by Index Recheck"`
	Plans    []node  `json:"Plans"`
}

// count adds up the rows that the scans of tables read, and those of them that were wanted.
func (n node) count() (read, wanted float64) {
	if n.Relation != "" {
		read, wanted = (n.Rows+n.Filtered+n.Checked)*n.Loops, n.Rows*n.Loops
	}
	for _, c := range n.Plans {
		r, w := c.count()
		read, wanted = read+r, wanted+w
	}
	return read, wanted
}

// explained explains the reads among statements, as the application's role.
func explained(t testing.TB, url string, sent []pg.Statement) (read, wanted int) {
	t.Helper()
	app, err := pg.Open(url, 1)
	require.NoError(t, err)
	defer func() { _ = app.Close() }()
	require.NoError(t, app.InClub(context.Background(), demotest.World().ClubID, func(ctx context.Context) error {
		for _, s := range sent {
			lines, err := pg.Explain(ctx, s)
			if err != nil {
				return err
			}
			var plans []struct{ Plan node }
			if err := json.Unmarshal(lines, &plans); err != nil {
				return err
			}
			r, w := plans[0].Plan.count()
			read, wanted = read+int(r), wanted+int(w)
		}
		return nil
	}))
	return read, wanted
}

// startToListening runs the binary that NINEYARD_BIN names until it answers. No club of the
// database has taken the edition in that ships.
func startToListening(b *testing.B, url string) {
	binary := os.Getenv("NINEYARD_BIN")
	if binary == "" {
		b.Skip("NINEYARD_BIN names no binary; make bench does")
	}
	for range b.N {
		b.StopTimer()
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(b, err)
		address := l.Addr().String()
		require.NoError(b, l.Close())
		cmd := exec.Command(binary, "serve")
		cmd.Env = append(os.Environ(), "DATABASE_URL="+url, "LISTEN_ADDR="+address)
		b.StartTimer()
		require.NoError(b, cmd.Start())
		for {
			if r, err := http.Get("http://" + address + "/readyz"); err == nil {
				_ = r.Body.Close()
				if r.StatusCode == http.StatusOK {
					break
				}
			}
			time.Sleep(2 * time.Millisecond)
		}
		b.StopTimer()
		require.NoError(b, cmd.Process.Signal(os.Interrupt))
		_ = cmd.Wait()
	}
}

// BenchmarkANewEdition measures the first request of a club after an update, which takes the
// edition in.
func BenchmarkANewEdition(b *testing.B) {
	url := demotest.Copy(b)
	o := serve(b, url)
	for i := range b.N {
		b.StopTimer()
		shipped, err := library.Shipped()
		require.NoError(b, err)
		entries := slices.Clone(shipped.Entries)
		entries[0].Fields = map[string]string{"name": fmt.Sprintf("%q", fmt.Sprint("Edition ", i))}
		for k, v := range shipped.Entries[0].Fields {
			if k != "name" {
				entries[0].Fields[k] = v
			}
		}
		next, err := library.NewEdition(entries)
		require.NoError(b, err)
		p := product.New(product.Options{DB: o.DB, Now: demo.Now, Edition: func() (*library.Edition, error) { return next, nil }})
		o.again(b)
		b.StartTimer()
		require.NoError(b, o.do(func(ctx context.Context) error { _, err := p.Teach.Of(ctx, o.coach); return err }))
	}
}
