package mark

import (
	"cmp"
	"context"
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/change"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/internal/mark/record"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory: a plain reading of the events.
type memory struct {
	events     []Event
	groups     map[uuid.UUID][]string // by player
	placements map[uuid.UUID]record.Work
	games      []record.Work
	gameOf     map[uuid.UUID]uuid.UUID // by play
	offense    map[uuid.UUID]bool      // by play
}

func (m *memory) Add(_ context.Context, events []Event) (added int, _ error) {
	for _, e := range events {
		if !slices.ContainsFunc(m.events, func(x Event) bool { return x.ID == e.ID }) {
			m.events = append(m.events, e)
			added++
		}
	}
	return added, nil
}

func (m *memory) Known(_ context.Context, ids []uuid.UUID) (list []Event, _ error) {
	for _, e := range m.events {
		if slices.Contains(ids, e.ID) {
			list = append(list, e)
		}
	}
	return list, nil
}

// made is what decides whether an event holds.
func made(e Event, seq int) change.Made {
	out := change.Made{ID: e.ID.String(), At: e.CreatedAt, Seq: int64(seq)}
	if e.MadeAt != nil {
		out.At = *e.MadeAt
	}
	if e.OnMark != nil {
		out.On = e.OnMark.String()
	}
	return out
}

type slot struct {
	player, placement, play uuid.UUID
	rep                     int
}

func slotOf(e Event) slot {
	s := slot{player: e.PlayerID}
	if e.PlacementID != nil {
		s.placement, s.rep = *e.PlacementID, *e.Rep
	}
	if e.PlayID != nil {
		s.play = *e.PlayID
	}
	return s
}

// current lists the event of each slot that holds and is not withdrawn, in the order in
// which they came in.
func (m *memory) current() []Event {
	last := map[slot]int{}
	for i, e := range m.events {
		standing, there := last[slotOf(e)]
		if !there || change.Holds(made(m.events[standing], standing), made(e, i)) {
			last[slotOf(e)] = i
		}
	}
	var list []Event
	for i, e := range m.events {
		if last[slotOf(e)] == i && e.State != string(marks.Withdrawn) {
			list = append(list, e)
		}
	}
	return list
}

func (m *memory) on(e Event) (day season.Date, game *uuid.UUID) {
	if e.PlayID != nil {
		g := m.gameOf[*e.PlayID]
		for _, w := range m.games {
			if w.ID == g {
				day = w.On
			}
		}
		return day, &g
	}
	return m.placements[*e.PlacementID].On, nil
}

func (m *memory) detail(e Event) record.Detail {
	d := record.Detail{ID: e.ID, PlayerID: e.PlayerID, PlacementID: e.PlacementID, Rep: e.Rep, TechniqueKey: e.TechniqueKey, State: marks.State(e.State),
		Assignment: e.Assignment, Technique: e.Technique, Finish: e.Finish, Praise: e.Praise, Note: e.Note, Side: e.Side, Standard: e.Standard, Source: "practice",
		Seq: int64(1 + slices.IndexFunc(m.events, func(x Event) bool { return x.ID == e.ID }))}
	d.On, _ = m.on(e)
	if e.PlayID != nil {
		d.Source = "game"
	}
	_ = json.Unmarshal(e.Faults, &d.Faults)
	_ = json.Unmarshal(e.Measures, &d.Measures)
	return d
}

func (m *memory) OfPlacement(_ context.Context, placement uuid.UUID) ([]record.Detail, error) {
	list := []record.Detail{}
	for _, e := range m.current() {
		if e.PlacementID != nil && *e.PlacementID == placement {
			list = append(list, m.detail(e))
		}
	}
	slices.SortStableFunc(list, func(a, b record.Detail) int { return cmp.Compare(*a.Rep, *b.Rep) })
	return list, nil
}

func (m *memory) inGroup(group string, from, to season.Date) []Event {
	return slices.DeleteFunc(m.current(), func(e Event) bool {
		day, _ := m.on(e)
		return day < from || day > to || !slices.Contains(m.groups[e.PlayerID], group)
	})
}

func (m *memory) Season(_ context.Context, group string, from, to season.Date) (record.Sums, error) {
	var all counts
	for _, e := range m.inGroup(group, from, to) {
		d := m.detail(e)
		_, game := m.on(e)
		c := counted{player: e.PlayerID, technique: e.TechniqueKey, on: d.On, game: game != nil, state: d.State, faults: d.Faults, n: 1,
			verdict: judge.Of(d.State, d.Assignment, d.Technique)}
		if e.Side != nil {
			c.side = *e.Side
		}
		all.add(c)
	}
	return all.sums(), nil
}

func (m *memory) Runs(_ context.Context, group string, player *uuid.UUID, from, to season.Date) ([]record.Run, error) {
	list := []record.Run{}
	events := m.inGroup(group, from, to)
	slices.SortStableFunc(events, func(a, b Event) int {
		x, _ := m.on(a)
		y, _ := m.on(b)
		return cmp.Or(cmp.Compare(x, y), cmp.Compare(rep(a), rep(b)))
	})
	at := map[slot]int{}
	for _, e := range events {
		if player != nil && *player != e.PlayerID {
			continue
		}
		k := slotOf(e)
		k.rep = 0
		if e.PlayID != nil {
			k.play = m.gameOf[*e.PlayID]
		}
		i, ok := at[k]
		if !ok {
			i = len(list)
			at[k] = i
			r := record.Run{PlayerID: e.PlayerID, TechniqueKey: e.TechniqueKey}
			r.On, _ = m.on(e)
			if e.PlacementID != nil {
				r.DrillKey = m.placements[*e.PlacementID].DrillKey
			}
			list = append(list, r)
		}
		v := judge.Of(marks.State(e.State), e.Assignment, e.Technique)
		r := record.Rep{Graded: v.Graded, Clean: v.Clean}
		list[i].Reps = append(list[i].Reps, r)
		var shown []record.Fault
		if _ = json.Unmarshal(e.Faults, &shown); e.State == string(marks.Looked) && len(shown) > 0 {
			list[i].Faults = once(append(list[i].Faults, shown...))
		}
	}
	return list, nil
}

func rep(e Event) int {
	if e.Rep == nil {
		return 0
	}
	return *e.Rep
}

func (m *memory) Evidence(_ context.Context, player uuid.UUID, w record.Which) ([]record.Detail, error) {
	list := []record.Detail{}
	for _, e := range m.current() {
		d := m.detail(e)
		if e.PlayerID == player && d.On >= w.From && d.On <= w.To && (w.Technique == "" || w.Technique == d.TechniqueKey) &&
			(w.Fault == "" || slices.ContainsFunc(d.Faults, func(f record.Fault) bool { return f.Key == w.Fault })) &&
			(w.After == nil || w.After.Before(d.Place())) {
			list = append(list, d)
		}
	}
	slices.SortFunc(list, func(a, b record.Detail) int {
		if a.Place().Before(b.Place()) {
			return -1
		}
		return 1
	})
	return list[:min(len(list), cmp.Or(w.Limit, record.Page))], nil
}

func (m *memory) Work(_ context.Context, _ uuid.UUID, _ string, sides []bool, from, to season.Date) ([]record.Work, error) {
	list := []record.Work{}
	for id, w := range m.placements {
		for _, e := range m.current() {
			if e.PlacementID != nil && *e.PlacementID == id {
				w.Marked++
			}
		}
		list = append(list, w)
	}
	for _, w := range m.games {
		plays := map[uuid.UUID]bool{}
		for _, e := range m.current() {
			if e.PlayID != nil && m.gameOf[*e.PlayID] == w.ID {
				plays[*e.PlayID] = true
			}
		}
		w.Marked = len(plays)
		for play, g := range m.gameOf {
			if g == w.ID && slices.Contains(sides, m.offense[play]) {
				w.Plays++
			}
		}
		list = append(list, w)
	}
	list = slices.DeleteFunc(list, func(w record.Work) bool { return w.On < from || w.On > to })
	slices.SortFunc(list, func(a, b record.Work) int { return cmp.Or(cmp.Compare(b.On, a.On), slices.Compare(a.ID[:], b.ID[:])) })
	return list, nil
}

// shelf is a Store with two placed drills of a Tuesday and one play of a Saturday.
type shelf struct {
	Store
	season, player, mate, play uuid.UUID
	placed                     []uuid.UUID // pull_bag, base_fit
	in                         func(func(ctx context.Context) error) error
	move                       func(by int) // moves the practice to another day
}

var drills = []string{"pull_bag", "base_fit"}

func inMemory(*testing.T) shelf {
	s := shelf{season: uuid.New(), player: uuid.New(), mate: uuid.New(), play: uuid.New(), placed: []uuid.UUID{uuid.New(), uuid.New()}}
	game := uuid.New()
	m := &memory{groups: map[uuid.UUID][]string{s.player: {"ol"}, s.mate: {"ol"}}, placements: map[uuid.UUID]record.Work{},
		games: []record.Work{{Game: true, ID: game, Title: "Dunmere", On: testkit.Day + 3}}, gameOf: map[uuid.UUID]uuid.UUID{s.play: game}, offense: map[uuid.UUID]bool{s.play: true}}
	for i, id := range s.placed {
		m.placements[id] = record.Work{ID: id, DrillKey: &drills[i], Minutes: 5, Lanes: 2, Title: "Tuesday", On: testkit.Day}
	}
	s.Store = m
	s.in = func(do func(context.Context) error) error { return do(context.Background()) }
	s.move = func(by int) {
		for id, w := range m.placements {
			w.On += season.Date(by)
			m.placements[id] = w
		}
	}
	return s
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	s := shelf{Store: SQL{}, season: f.Season.ID, player: f.Player, mate: f.Mate, play: f.Play, placed: []uuid.UUID{uuid.New(), uuid.New()}, in: f.In}
	require.NoError(t, f.In(func(ctx context.Context) error {
		for i, id := range s.placed {
			if _, err := pg.Exec(ctx, `INSERT INTO placements (id, club_id, period_id, drill_key, start, minutes, lanes) VALUES (@id, @club, @period, @drill, @start, 5, 2)`,
				pg.Args{"id": id, "period": f.Period, "drill": drills[i], "start": 5 * i}); err != nil {
				return err
			}
		}
		return nil
	}))
	s.move = func(by int) {
		require.NoError(t, f.In(func(ctx context.Context) error {
			_, err := pg.Exec(ctx, `UPDATE practices SET on_date = on_date + @by::int WHERE club_id = @club`, pg.Args{"by": by})
			return err
		}))
	}
	return s
}

func (s shelf) event(placement, r int, state marks.State, technique *int, faults string) Event {
	return Event{ID: uuid.New(), PlayerID: s.player, PlacementID: &s.placed[placement], Rep: &r, TechniqueKey: "base_block", State: string(state),
		Assignment: technique, Technique: technique, Faults: json.RawMessage(faults), Measures: json.RawMessage("[]"), Standard: 1, CreatedAt: testkit.Now()}
}

func (s shelf) onFilm(technique *int) Event {
	e := s.event(0, 1, marks.Looked, technique, `[]`)
	e.PlacementID, e.Rep, e.PlayID = nil, nil, &s.play
	return e
}

func (s shelf) add(t *testing.T, events ...Event) {
	t.Helper()
	require.NoError(t, s.in(func(ctx context.Context) error { _, err := s.Add(ctx, events); return err }))
}

const widely = `[{"key":"base_hands_wide"}]`

var stores = map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range stores {
		t.Run(name, func(t *testing.T) {
			t.Run("a mark sent again changes nothing", func(t *testing.T) { sentAgain(t, open(t)) })
			t.Run("a withdrawn mark is gone from every view", func(t *testing.T) { withdrawn(t, open(t)) })
			t.Run("views agree with the events", func(t *testing.T) { agree(t, open(t)) })
			t.Run("what is to grade", func(t *testing.T) { work(t, open(t)) })
			t.Run("a moved practice takes its marks along", func(t *testing.T) { moved(t, open(t)) })
			t.Run("evidence", func(t *testing.T) { evidence(t, open(t)) })
		})
	}
}

func sentAgain(t *testing.T, s shelf) {
	first := s.event(0, 1, marks.Looked, new(0), widely)
	corrected := s.event(0, 1, marks.Looked, new(1), `[]`)
	corrected.Standard = 4
	s.add(t, first)
	s.add(t, corrected)
	s.add(t, first, corrected) // the outbox sends again after a lost answer
	require.NoError(t, s.in(func(ctx context.Context) error {
		got, err := s.OfPlacement(ctx, s.placed[0])
		require.NoError(t, err)
		require.Len(t, got, 1)
		assert.Equal(t, corrected.ID, got[0].ID, "the newest event of a slot holds, whatever is sent again")
		assert.Equal(t, []int{1, 4}, []int{*got[0].Technique, got[0].Standard}, "with the version of the house it was made by")
		assert.Empty(t, got[0].Faults)
		return nil
	}))
}

func withdrawn(t *testing.T, s shelf) {
	count := func() (n []int) {
		require.NoError(t, s.in(func(ctx context.Context) error {
			a, err := s.OfPlacement(ctx, s.placed[0])
			require.NoError(t, err)
			b, err := s.Season(ctx, "ol", testkit.Day, testkit.Day)
			require.NoError(t, err)
			c, err := s.Runs(ctx, "ol", nil, testkit.Day, testkit.Day)
			require.NoError(t, err)
			d, err := s.Evidence(ctx, s.player, record.Which{Technique: "base_block", Fault: "base_hands_wide", From: testkit.Day, To: testkit.Day})
			require.NoError(t, err)
			n = []int{len(a), len(b.Days), len(c), len(d)}
			return nil
		}))
		return n
	}
	s.add(t, s.event(0, 1, marks.Looked, new(0), widely))
	assert.Equal(t, []int{1, 1, 1, 1}, count())
	s.add(t, s.event(0, 1, marks.Withdrawn, nil, `[]`))
	assert.Equal(t, []int{0, 0, 0, 0}, count())
}

// agree writes marks at random, corrections and withdrawals among them, and compares what
// the store reads with a plain reading of the events.
func agree(t *testing.T, s shelf) {
	plain := inMemory(t).Store.(*memory)
	plain.groups = map[uuid.UUID][]string{s.player: {"ol"}}
	plain.placements = map[uuid.UUID]record.Work{}
	for i, id := range s.placed {
		plain.placements[id] = record.Work{ID: id, DrillKey: &drills[i], On: testkit.Day}
	}
	random := rand.New(rand.NewPCG(7, 1))
	for range 40 {
		var batch []Event
		for range 1 + random.IntN(8) {
			state := []marks.State{marks.Assumed, marks.Looked, marks.Looked, marks.StateUnseen, marks.Withdrawn}[random.IntN(5)]
			e := s.event(random.IntN(2), 1+random.IntN(12), state, nil, `[]`)
			switch state {
			case marks.Assumed:
				e.Assignment, e.Technique = new(1), new(1)
			case marks.Looked:
				e.Assignment, e.Technique = new(random.IntN(2)), new(random.IntN(2))
				if *e.Technique == 0 {
					e.Faults = json.RawMessage(widely)
				}
				e.Side = new([]string{"left", "right"}[random.IntN(2)])
			}
			if random.IntN(2) == 0 { // of one of a few moments, or made on a mark that he saw
				e.MadeAt = new(testkit.Now().Add(time.Duration(random.IntN(4)) * time.Second))
			}
			if n := len(plain.events); n > 0 && random.IntN(3) == 0 {
				e.OnMark = new(plain.events[random.IntN(n)].ID)
			}
			batch = append(batch, e)
		}
		s.add(t, batch...)
		_, err := plain.Add(context.Background(), batch)
		require.NoError(t, err)
	}
	require.NoError(t, s.in(func(ctx context.Context) error {
		wantSums, _ := plain.Season(ctx, "ol", testkit.Day, testkit.Day)
		sums, err := s.Season(ctx, "ol", testkit.Day, testkit.Day)
		require.NoError(t, err)
		assert.Equal(t, wantSums, sums)
		for _, player := range []*uuid.UUID{nil, &s.player, new(uuid.New())} {
			want, _ := plain.Runs(ctx, "ol", player, testkit.Day, testkit.Day)
			got, err := s.Runs(ctx, "ol", player, testkit.Day, testkit.Day)
			require.NoError(t, err)
			assert.ElementsMatch(t, want, got)
		}
		for _, id := range s.placed {
			want, _ := plain.OfPlacement(ctx, id)
			got, err := s.OfPlacement(ctx, id)
			require.NoError(t, err)
			assert.Equal(t, ids(want), ids(got))
		}
		none, err := s.Season(ctx, "db", testkit.Day, testkit.Day)
		require.NoError(t, err)
		assert.Empty(t, none.Days, "another group")
		return nil
	}))
}

func ids(list []record.Detail) []uuid.UUID {
	out := make([]uuid.UUID, len(list))
	for i, d := range list {
		out[i] = d.ID
	}
	return out
}

func work(t *testing.T, s shelf) {
	s.add(t, s.event(0, 1, marks.Assumed, new(1), `[]`), s.event(0, 2, marks.StateUnseen, nil, `[]`), s.event(0, 3, marks.Withdrawn, nil, `[]`), s.onFilm(new(1)))
	read := func(sides []bool, from, to season.Date) (list []record.Work) {
		require.NoError(t, s.in(func(ctx context.Context) (err error) {
			list, err = s.Work(ctx, s.season, "ol", sides, from, to)
			return err
		}))
		return list
	}
	list := read([]bool{true}, testkit.Day, testkit.Day+7)
	require.Len(t, list, 3)
	assert.True(t, list[0].Game, "newest first")
	assert.Equal(t, []any{"Dunmere", 1, 1}, []any{list[0].Title, list[0].Plays, list[0].Marked})
	marked := map[string]int{}
	for _, w := range list[1:] {
		marked[*w.DrillKey] = w.Marked
	}
	assert.Equal(t, map[string]int{"pull_bag": 2, "base_fit": 0}, marked)
	assert.Zero(t, read([]bool{false}, testkit.Day, testkit.Day+7)[0].Plays, "the other side of the ball")
	assert.Zero(t, read([]bool{}, testkit.Day, testkit.Day+7)[0].Plays, "a group of the kicking units")
	assert.Len(t, read([]bool{true}, testkit.Day, testkit.Day), 2)
}

func moved(t *testing.T, s shelf) {
	s.add(t, s.event(0, 1, marks.Looked, new(1), `[]`))
	s.move(1)
	require.NoError(t, s.in(func(ctx context.Context) error {
		old, err := s.Season(ctx, "ol", testkit.Day, testkit.Day)
		require.NoError(t, err)
		assert.Empty(t, old.Days)
		now, err := s.Season(ctx, "ol", testkit.Day+1, testkit.Day+1)
		require.NoError(t, err)
		assert.Len(t, now.Days, 1)
		return nil
	}))
}

func evidence(t *testing.T, s shelf) {
	fault := s.event(0, 1, marks.Looked, new(0), widely)
	fault.Measures = json.RawMessage(`[{"checkpoint":"base_first","value":12,"verdict":"watch"}]`)
	fault.Note = "late"
	s.add(t, fault, s.event(0, 2, marks.Assumed, new(1), `[]`), s.onFilm(new(1)))
	read := func(w record.Which) (list []record.Detail) {
		w.From, w.To = testkit.Day, testkit.Day+7
		require.NoError(t, s.in(func(ctx context.Context) (err error) {
			list, err = s.Evidence(ctx, s.player, w)
			return err
		}))
		return list
	}
	all := read(record.Which{})
	require.Len(t, all, 3)
	assert.Equal(t, "game", all[0].Source, "newest first")
	list := read(record.Which{Fault: "base_hands_wide"})
	require.Len(t, list, 1)
	assert.Equal(t, []record.Measured{{Checkpoint: "base_first", Value: 12, Verdict: "watch"}}, list[0].Measures)
	assert.Equal(t, []record.Fault{{Key: "base_hands_wide"}}, list[0].Faults)
	assert.Equal(t, "late", list[0].Note)
	assert.Empty(t, read(record.Which{Technique: "slant"}))

	// Page by page it is the same list, whatever the size of a page.
	for rep := 3; rep <= 12; rep++ {
		s.add(t, s.event(rep%2, rep, marks.Looked, new(1), `[]`))
	}
	all = read(record.Which{})
	for _, size := range []int{1, 3, 5, 20} {
		var pages []record.Detail
		w := record.Which{Limit: size}
		for {
			page := read(w)
			pages = append(pages, page...)
			if len(page) < size {
				break
			}
			place, err := record.ParsePlace(page[len(page)-1].Place().String())
			require.NoError(t, err)
			w.After = &place
		}
		assert.Equal(t, ids(all), ids(pages), "pages of %d", size)
	}
	for _, text := range []string{"", "1.2", "2026-13-40.1.2", "2026-10-13.x.2", "2026-10-13.1.y"} {
		_, err := record.ParsePlace(text)
		assert.Error(t, err, text)
	}
}

// TestTheDatabaseKeepsHistory: events are appended and never changed, and nothing of another
// club is marked.
func TestTheDatabaseKeepsHistory(t *testing.T) {
	f := testkit.OpenField(t)
	play := f.Play
	e := Event{ID: uuid.New(), PlayerID: f.Player, PlayID: &play, TechniqueKey: "base_block", State: "looked", Faults: json.RawMessage("[]"), Measures: json.RawMessage("[]"), Standard: 1, CreatedAt: testkit.Now()}
	require.NoError(t, f.In(func(ctx context.Context) error { _, err := SQL{}.Add(ctx, []Event{e}); return err }))
	err := f.Owner.InClub(context.Background(), f.Club, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `UPDATE mark_events SET note = 'x' WHERE club_id = @club`, nil)
		return err
	})
	require.ErrorContains(t, err, "append only")
	stranger := e
	stranger.ID, stranger.PlayerID = uuid.New(), f.Theirs
	good := e
	good.ID, good.PlayerID = uuid.New(), f.Mate
	err = f.In(func(ctx context.Context) error { _, err := SQL{}.Add(ctx, []Event{good, stranger}); return err })
	require.ErrorContains(t, pg.Meaning(err), "no such player in this club")
	require.NoError(t, f.In(func(ctx context.Context) error {
		list, err := SQL{}.Season(ctx, "ol", testkit.Day, testkit.Day+7)
		require.NoError(t, err)
		require.Len(t, list.Days, 1, "none of a refused batch is kept")
		return nil
	}))
	require.NoError(t, f.InOther(func(ctx context.Context) error {
		list, err := SQL{}.Season(ctx, "ol", testkit.Day, testkit.Day+7)
		require.NoError(t, err)
		assert.Empty(t, list.Days)
		details, err := SQL{}.Evidence(ctx, f.Player, record.Which{From: testkit.Day, To: testkit.Day + 7})
		require.NoError(t, err)
		assert.Empty(t, details)
		return nil
	}))
}
