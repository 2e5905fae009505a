package mark

import (
	"bytes"
	"cmp"
	"context"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/change"
	"nineyard/core/marks"
	"nineyard/core/palette"
	"nineyard/core/season"
	"nineyard/internal/contract"
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
	version    int                     // of the scheme
	scheme     marks.House
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

func (m *memory) Before(_ context.Context, ids []uuid.UUID) (Before, error) {
	b := Before{Version: m.version, Scheme: m.scheme}
	if m.version == 0 {
		b.Scheme = marks.House{Scheme: marks.Shipped()}
	}
	for _, e := range m.events {
		if slices.Contains(ids, e.ID) {
			b.Known = append(b.Known, e)
		}
	}
	return b, nil
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

// slot is what a mark is of; without its grader, a rep.
type slot struct {
	player, placement, play, grader uuid.UUID
	technique                       string
	rep                             int
}

func slotOf(e Event) slot {
	s := slot{player: e.PlayerID, technique: e.TechniqueKey, grader: e.Grader}
	if e.PlacementID != nil {
		s.placement, s.rep = *e.PlacementID, *e.Rep
	}
	if e.PlayID != nil {
		s.play = *e.PlayID
	}
	return s
}

// holding is which event holds of each slot.
func (m *memory) holding() map[slot]int {
	last := map[slot]int{}
	for i, e := range m.events {
		standing, there := last[slotOf(e)]
		if !there || change.Holds(made(m.events[standing], standing), made(e, i)) {
			last[slotOf(e)] = i
		}
	}
	return last
}

// current lists the marks that stand, in the order in which they came in: of each slot the
// event that holds; of the slots of a rep the settled one, else the latest that is not
// withdrawn.
func (m *memory) current() []Event {
	best := map[slot]int{}
	for s, i := range m.holding() {
		if m.events[i].State == string(marks.Withdrawn) {
			continue
		}
		rep := s
		rep.grader = uuid.Nil
		k, there := best[rep]
		a, b := made(m.events[i], i), change.Made{}
		if there {
			b = made(m.events[k], k)
			b.ID, a.On = "", ""
		}
		switch {
		case !there, s.grader == Settled, m.events[k].Grader != Settled && change.Holds(b, a):
			best[rep] = i
		}
	}
	var list []Event
	for i := range m.events {
		if slices.Contains(slices.Collect(maps.Values(best)), i) {
			list = append(list, m.events[i])
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
	d := record.Detail{ID: e.ID, PlayerID: e.PlayerID, PlacementID: e.PlacementID, Rep: e.Rep, PlayID: e.PlayID, TechniqueKey: e.TechniqueKey, State: marks.State(e.State),
		Assignment: e.Assignment, Technique: e.Technique, Finish: e.Finish, Praise: e.Praise, Note: e.Note, Side: e.Side, Result: e.Result, Tallies: e.Tallies, Asked: e.Asked, Grade: gradeOf(e), GroupKey: e.GroupKey, Standard: e.Standard, Source: "practice",
		Grader: e.Grader, Verdict: marks.VerdictOf(e.Verdict), Scheme: e.Scheme, Faults: e.Faults, Measures: e.Measures,
		Seq: int64(1 + slices.IndexFunc(m.events, func(x Event) bool { return x.ID == e.ID }))}
	d.On, _ = m.on(e)
	if e.PlayID != nil {
		d.Source = "game"
	}
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

func (m *memory) Questions(_ context.Context, coach uuid.UUID) ([]record.Detail, error) {
	list := []record.Detail{}
	for _, e := range m.current() {
		if e.State == string(marks.StateOpen) && contract.Value(e.Asked) == coach && e.PlayID != nil {
			list = append(list, m.detail(e))
		}
	}
	slices.Reverse(list)
	return list, nil
}

func (m *memory) inGroup(group string, from, to season.Date) []Event {
	return slices.DeleteFunc(m.current(), func(e Event) bool {
		day, _ := m.on(e)
		return day < from || day > to || !slices.Contains(m.groups[e.PlayerID], group)
	})
}

func (m *memory) Usual(_ context.Context, group string, from, to season.Date) ([]palette.Count, error) {
	n := map[palette.Count]float64{}
	for _, e := range m.inGroup(group, from, to) {
		for _, f := range e.Faults {
			n[palette.Count{Player: e.PlayerID.String(), Technique: e.TechniqueKey, Fault: f.Key}]++
		}
	}
	list := []palette.Count{}
	for c, times := range n {
		c.N = times
		list = append(list, c)
	}
	return list, nil
}

func (m *memory) Season(_ context.Context, group string, from, to, faultsFrom season.Date) (record.Sums, error) {
	sums := m.sums(func(player uuid.UUID) bool { return slices.Contains(m.groups[player], group) }, from, to)
	sums.Faults = slices.DeleteFunc(sums.Faults, func(f record.FaultDay) bool { return f.On < faultsFrom })
	return sums, nil
}

// inOrder sorts sums, which a Store lists in no order.
func inOrder(sums record.Sums) record.Sums {
	bit := map[bool]int{true: 1}
	slices.SortFunc(sums.Days, func(a, b record.Day) int {
		return cmp.Or(bytes.Compare(a.PlayerID[:], b.PlayerID[:]), cmp.Compare(a.TechniqueKey, b.TechniqueKey), cmp.Compare(a.On, b.On),
			cmp.Compare(bit[a.Game], bit[b.Game]), cmp.Compare(a.Side, b.Side), cmp.Compare(a.Scheme, b.Scheme))
	})
	slices.SortFunc(sums.Faults, func(a, b record.FaultDay) int {
		x, y := contract.Value(a.CausedBy), contract.Value(b.CausedBy)
		return cmp.Or(bytes.Compare(a.PlayerID[:], b.PlayerID[:]), cmp.Compare(a.TechniqueKey, b.TechniqueKey), cmp.Compare(a.On, b.On),
			cmp.Compare(bit[a.Game], bit[b.Game]), cmp.Compare(a.Fault, b.Fault), bytes.Compare(x[:], y[:]))
	})
	return sums
}

// sums counts the marks one by one.
func (m *memory) sums(in func(player uuid.UUID) bool, from, to season.Date) (sums record.Sums) {
	for _, e := range m.current() {
		day, game := m.on(e)
		if day < from || day > to {
			continue
		}
		v := marks.VerdictOf(e.Verdict)
		if in(e.PlayerID) {
			d := record.Day{PlayerID: e.PlayerID, TechniqueKey: e.TechniqueKey, On: day, Game: game != nil, Side: contract.Value(e.Side), Scheme: e.Scheme}
			i := slices.IndexFunc(sums.Days, func(x record.Day) bool {
				x.Clean, x.Faulty, x.NotGraded, x.Assumed = 0, 0, 0, 0
				return x == d
			})
			if i < 0 {
				i = len(sums.Days)
				sums.Days = append(sums.Days, d)
			}
			at := &sums.Days[i]
			switch {
			case !v.Graded:
				at.NotGraded++
			case v.Clean:
				at.Clean++
			default:
				at.Faulty++
			}
			if v.Graded && e.State == string(marks.Assumed) {
				at.Assumed++
			}
		}
		for _, f := range e.Faults {
			x := record.FaultDay{PlayerID: e.PlayerID, TechniqueKey: e.TechniqueKey, On: day, Game: game != nil, Fault: f.Key}
			if f.CausedBy != "" {
				x.CausedBy = new(uuid.MustParse(f.CausedBy))
			}
			if !v.Graded || !in(e.PlayerID) && (x.CausedBy == nil || !in(*x.CausedBy)) {
				continue
			}
			i := slices.IndexFunc(sums.Faults, func(y record.FaultDay) bool {
				return y.PlayerID == x.PlayerID && y.TechniqueKey == x.TechniqueKey && y.On == x.On && y.Game == x.Game && y.Fault == x.Fault && contract.Value(y.CausedBy) == contract.Value(x.CausedBy)
			})
			if i < 0 {
				i = len(sums.Faults)
				sums.Faults = append(sums.Faults, x)
			}
			sums.Faults[i].N++
		}
	}
	return sums
}

func (m *memory) Judging(ctx context.Context) (Judging, error) {
	b, err := m.Before(ctx, nil)
	j := Judging{Version: b.Version, Scheme: b.Scheme}
	for _, e := range m.current() {
		if j.Marks++; e.Scheme == j.Version {
			j.JudgedAnew++
		}
	}
	return j, err
}

func (m *memory) House(context.Context) (marks.House, error) { return m.scheme, nil }

func (m *memory) PutScheme(_ context.Context, version int, scheme marks.House, _ uuid.UUID, _ time.Time) (bool, error) {
	if version != m.version+1 {
		return false, nil
	}
	m.version, m.scheme = version, scheme
	return true, nil
}

func (m *memory) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
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
		k.rep, k.grader = 0, uuid.Nil
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
		v := marks.VerdictOf(e.Verdict)
		list[i].Reps = append(list[i].Reps, record.Rep{Graded: v.Graded, Clean: v.Clean})
	}
	sums, err := m.Season(ctx, group, from, to, faultsFrom)
	var own []record.FaultDay
	for _, f := range sums.Faults {
		if f.CausedBy == nil && (player == nil || f.PlayerID == *player) {
			own = append(own, f)
		}
	}
	return list, own, err
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

func (m *memory) OfGame(_ context.Context, game uuid.UUID, group string, graders ...uuid.UUID) ([]record.Detail, error) {
	list := []record.Detail{}
	of := m.current()
	if len(graders) > 0 {
		of = slices.DeleteFunc(m.said(), func(e Event) bool { return !slices.Contains(graders, e.Grader) })
	}
	for _, e := range of {
		if e.PlayID != nil && m.gameOf[*e.PlayID] == game && slices.Contains(m.groups[e.PlayerID], group) {
			list = append(list, m.detail(e))
		}
	}
	return list, nil
}

func (m *memory) Graders(_ context.Context, game uuid.UUID, group string) ([]Grader, error) {
	list := []Grader{}
	for _, e := range m.said() {
		if e.PlayID == nil || m.gameOf[*e.PlayID] != game || !slices.Contains(m.groups[e.PlayerID], group) || e.Grader == Settled {
			continue
		}
		i := slices.IndexFunc(list, func(g Grader) bool { return g.ID == e.Grader })
		if i < 0 {
			i, list = len(list), append(list, Grader{ID: e.Grader})
		}
		list[i].Marks++
	}
	slices.SortFunc(list, func(a, b Grader) int {
		return cmp.Or(cmp.Compare(b.Marks, a.Marks), cmp.Compare(a.ID.String(), b.ID.String()))
	})
	return list, nil
}

// said is what every grader's slots hold.
func (m *memory) said() []Event {
	var list []Event
	for _, i := range slices.Sorted(maps.Values(m.holding())) {
		if m.events[i].State != string(marks.Withdrawn) {
			list = append(list, m.events[i])
		}
	}
	return list
}

func (m *memory) Work(_ context.Context, _ uuid.UUID, _, unit string, from, to season.Date) ([]record.Work, error) {
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
			if g == w.ID && (unit == "offense") == m.offense[play] && unit != "units" {
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
	coach, other               uuid.UUID   // who grade
	placed                     []uuid.UUID // pull_bag, base_fit
	in                         func(func(ctx context.Context) error) error
	move                       func(by int) // moves the practice to another day
}

var drills = []string{"pull_bag", "base_fit"}

func inMemory(*testing.T) shelf {
	s := shelf{coach: uuid.New(), other: uuid.New(), season: uuid.New(), player: uuid.New(), mate: uuid.New(), play: uuid.New(), placed: []uuid.UUID{uuid.New(), uuid.New()}}
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
	s := shelf{coach: uuid.New(), other: uuid.New(), Store: SQL{}, season: f.Season.ID, player: f.Player, mate: f.Mate, play: f.Play, placed: []uuid.UUID{uuid.New(), uuid.New()}, in: f.In}
	require.NoError(t, f.In(func(ctx context.Context) error {
		for i, id := range s.placed {
			if _, err := pg.Exec(ctx, `INSERT INTO placements (id, club_id, period_id, group_key, drill_key, start, minutes, lanes) VALUES (@id, @club, @period, 'ol', @drill, @start, 5, 2)`,
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

func (s shelf) event(placement, r int, state marks.State, technique *int, faults ...record.Fault) Event {
	return Event{ID: uuid.New(), PlayerID: s.player, PlacementID: &s.placed[placement], Rep: &r, TechniqueKey: "base_block", State: string(state), Grader: s.coach,
		Assignment: technique, Technique: technique, Faults: append([]record.Fault{}, faults...), Measures: []record.Measured{}, Standard: 1, CreatedAt: testkit.Now(),
		Verdict: verdictOf(marks.Shipped(), state, marks.Seen{Assignment: technique, Technique: technique})}
}

func (s shelf) onFilm(technique *int) Event {
	e := s.event(0, 1, marks.Looked, technique)
	e.PlacementID, e.Rep, e.PlayID = nil, nil, &s.play
	return e
}

func (s shelf) add(t *testing.T, events ...Event) {
	t.Helper()
	require.NoError(t, s.in(func(ctx context.Context) error { _, err := s.Add(ctx, events); return err }))
}

var widely = record.Fault{Key: "base_hands_wide"}

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
			t.Run("open questions", func(t *testing.T) { questions(t, open(t)) })
			t.Run("what is usual", func(t *testing.T) { usual(t, open(t)) })
			t.Run("evidence", func(t *testing.T) { evidence(t, open(t)) })
		})
	}
}

func sentAgain(t *testing.T, s shelf) {
	first := s.event(0, 1, marks.Looked, new(0), widely)
	corrected := s.event(0, 1, marks.Looked, new(1))
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

// usual counts the faults of marks that stand, of the days asked for.
func usual(t *testing.T, s shelf) {
	s.add(t, s.event(0, 1, marks.Looked, new(0), widely))
	s.add(t, s.event(0, 2, marks.Looked, new(0), widely))
	s.add(t, s.event(0, 3, marks.Looked, new(1)))
	of := func(from, to season.Date) (n float64) {
		require.NoError(t, s.in(func(ctx context.Context) error {
			list, err := s.Usual(ctx, "ol", from, to)
			for _, c := range list {
				assert.NotEmpty(t, c.Player)
				assert.NotEmpty(t, c.Technique)
				assert.Equal(t, widely.Key, c.Fault)
				n += c.N
			}
			return err
		}))
		return n
	}
	assert.InDelta(t, 2, of(testkit.Day-56, testkit.Day+7), 0)
	assert.Zero(t, of(testkit.Day-56, testkit.Day-30))
	s.add(t, s.event(0, 2, marks.Looked, new(1)))
	assert.InDelta(t, 1, of(testkit.Day-56, testkit.Day+7), 0, "corrected")
}

// questions are those that stand, of whoever is asked, until something else stands in their place.
func questions(t *testing.T, s shelf) {
	asked := func(coach uuid.UUID) (ids []uuid.UUID) {
		require.NoError(t, s.in(func(ctx context.Context) error {
			list, err := s.Questions(ctx, coach)
			for _, m := range list {
				ids = append(ids, m.ID)
			}
			return err
		}))
		return ids
	}
	ask := func(player, whom uuid.UUID) Event {
		e := s.onFilm(nil)
		e.PlayerID, e.State, e.Verdict, e.Asked, e.Result, e.Tallies = player, "unsettled", "unsettled", &whom, nil, []marks.Tally{marks.Effort}
		return e
	}
	first, second := ask(s.player, s.other), ask(s.mate, s.other)
	s.add(t, first)
	s.add(t, second)
	assert.Equal(t, []uuid.UUID{second.ID, first.ID}, asked(s.other), "the latest first")
	assert.Empty(t, asked(s.coach))
	turned := ask(s.player, s.coach)
	s.add(t, turned)
	assert.Equal(t, []uuid.UUID{second.ID}, asked(s.other))
	assert.Equal(t, []uuid.UUID{turned.ID}, asked(s.coach), "he turned to somebody else")
	answer := s.onFilm(new(1))
	answer.Result, answer.Tallies = new(0), []marks.Tally{marks.NoEffort, marks.CallEchoed}
	s.add(t, answer)
	assert.Empty(t, asked(s.coach))
	settled := s.onFilm(new(1))
	settled.PlayerID, settled.Grader = s.mate, Settled
	s.add(t, settled)
	assert.Empty(t, asked(s.other), "the club settled it")
	settled.ID, settled.State, settled.Verdict = uuid.New(), "withdrawn", "withdrawn"
	s.add(t, settled)
	assert.Equal(t, []uuid.UUID{second.ID}, asked(s.other), "and opened it again")
	require.NoError(t, s.in(func(ctx context.Context) error {
		list, err := s.Evidence(ctx, s.player, record.Which{From: 0, To: testkit.Day + 400})
		require.Len(t, list, 1)
		assert.Equal(t, []any{0, []marks.Tally{marks.NoEffort, marks.CallEchoed}}, []any{*list[0].Result, list[0].Tallies})
		return err
	}))
}

func withdrawn(t *testing.T, s shelf) {
	count := func() (n []int) {
		require.NoError(t, s.in(func(ctx context.Context) error {
			a, err := s.OfPlacement(ctx, s.placed[0])
			require.NoError(t, err)
			b, err := s.Season(ctx, "ol", testkit.Day, testkit.Day, testkit.Day)
			require.NoError(t, err)
			c, _, err := s.Runs(ctx, "ol", nil, testkit.Day, testkit.Day, testkit.Day)
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
	s.add(t, s.event(0, 1, marks.Withdrawn, nil))
	assert.Equal(t, []int{0, 0, 0, 0}, count())
}

// agree writes marks at random, by two coaches and settled ones, of two techniques, with
// corrections and withdrawals among them, and compares what the store reads with a plain
// count of the events, also when the practice is moved to another day.
func agree(t *testing.T, s shelf) {
	plain := inMemory(t).Store.(*memory)
	plain.groups = map[uuid.UUID][]string{s.player: {"ol"}, s.mate: {"ol"}}
	plain.placements = map[uuid.UUID]record.Work{}
	for i, id := range s.placed {
		plain.placements[id] = record.Work{ID: id, DrillKey: &drills[i], On: testkit.Day}
	}
	random := rand.New(rand.NewPCG(7, 1))
	for range 40 {
		batch := s.random(random, plain.events, false)
		s.add(t, batch...)
		_, err := plain.Add(context.Background(), batch)
		require.NoError(t, err)
	}
	s.alike(t, plain, testkit.Day)
	s.move(3)
	for id, w := range plain.placements {
		w.On += 3
		plain.placements[id] = w
	}
	s.alike(t, plain, testkit.Day+3)
}

// random makes a batch of marks, of one player or of both.
func (s shelf) random(random *rand.Rand, before []Event, mates bool) (batch []Event) {
	for range 1 + random.IntN(8) {
		state := []marks.State{marks.Assumed, marks.Looked, marks.Looked, marks.StateUnseen, marks.Withdrawn}[random.IntN(5)]
		e := s.event(random.IntN(2), 1+random.IntN(6), state, nil)
		switch state {
		case marks.Assumed:
			e.Assignment, e.Technique = new(1), new(1)
		case marks.Looked:
			if random.IntN(6) > 0 { // else nothing was judged
				e.Assignment, e.Technique = new(random.IntN(2)), new(random.IntN(2))
			}
			for _, f := range []record.Fault{widely, {Key: "base_hands_wide", CausedBy: s.mate.String()}, {Key: "base_second_behind", Penalty: true}} {
				if random.IntN(3) == 0 {
					e.Faults = append(e.Faults, f)
				}
			}
			e.Side = new([]string{"left", "right"}[random.IntN(2)])
		}
		e.Verdict = verdictOf(marks.Shipped(), state, marks.Seen{Assignment: e.Assignment, Technique: e.Technique})
		e.TechniqueKey = []string{"base_block", "pull_kick"}[random.IntN(2)]
		if mates && random.IntN(2) == 0 {
			e.PlayerID = s.mate
			for i := range e.Faults {
				if e.Faults[i].CausedBy != "" {
					e.Faults[i].CausedBy = s.player.String()
				}
			}
		}
		e.Grader = []uuid.UUID{s.coach, s.coach, s.other, Settled}[random.IntN(4)]
		if random.IntN(2) == 0 { // of one of a few moments, or made on a mark that he saw
			e.MadeAt = new(testkit.Now().Add(time.Duration(random.IntN(4)) * time.Second))
		}
		if n := len(before); n > 0 && random.IntN(3) == 0 {
			e.OnMark = new(before[random.IntN(n)].ID)
		}
		batch = append(batch, e)
	}
	return batch
}

// alike compares what the store reads of a day with a plain count.
func (s shelf) alike(t *testing.T, plain *memory, on season.Date) {
	t.Helper()
	require.NoError(t, s.in(func(ctx context.Context) error {
		want, _ := plain.Season(ctx, "ol", on, on, on)
		sums, err := s.Season(ctx, "ol", on, on, on)
		require.NoError(t, err)
		assert.Equal(t, inOrder(want), inOrder(sums))
		for _, player := range []*uuid.UUID{nil, &s.player, new(uuid.New())} {
			want, wantFaults, _ := plain.Runs(ctx, "ol", player, on, on, on)
			got, faults, err := s.Runs(ctx, "ol", player, on, on, on)
			require.NoError(t, err)
			assert.ElementsMatch(t, want, got)
			assert.Equal(t, inOrder(record.Sums{Faults: wantFaults}), inOrder(record.Sums{Faults: faults}))
		}
		for _, id := range s.placed {
			want, _ := plain.OfPlacement(ctx, id)
			got, err := s.OfPlacement(ctx, id)
			require.NoError(t, err)
			assert.ElementsMatch(t, ids(want), ids(got))
			for _, d := range got {
				i := slices.IndexFunc(want, func(x record.Detail) bool { return x.ID == d.ID })
				assert.Equal(t, want[i].Faults, d.Faults)
				assert.Equal(t, want[i].Verdict, d.Verdict)
			}
		}
		none, err := s.Season(ctx, "db", on, on, on)
		require.NoError(t, err)
		assert.Empty(t, none.Days, "another group")
		return nil
	}))
}

// TestMarksFollow whatever is corrected beneath them, each time as a plain count of the events
// says: a practice is moved to another day, what was marked in a drill is called by another
// technique, two entries of one player become one.
func TestMarksFollow(t *testing.T) {
	s := inPostgres(t)
	random := rand.New(rand.NewPCG(11, 3))
	plain := inMemory(t).Store.(*memory)
	plain.groups = map[uuid.UUID][]string{s.player: {"ol"}, s.mate: {"ol"}}
	plain.placements = map[uuid.UUID]record.Work{}
	for i, id := range s.placed {
		plain.placements[id] = record.Work{ID: id, DrillKey: &drills[i], On: testkit.Day}
	}
	on := testkit.Day
	do := func(query string, args pg.Args) {
		t.Helper()
		require.NoError(t, s.in(func(ctx context.Context) error { _, err := pg.Exec(ctx, query, args); return err }))
	}
	right := func() {
		t.Helper()
		s.alike(t, plain, on)
		require.NoError(t, s.in(func(ctx context.Context) error {
			type row struct{ Wrong int }
			r, _, err := pg.One[row](ctx, `SELECT wrong_sums(@club)::int AS wrong`, nil)
			assert.Zero(t, r.Wrong)
			return err
		}))
	}
	mark := func(mates bool) {
		for range 6 {
			batch := s.random(random, plain.events, mates)
			s.add(t, batch...)
			_, _ = plain.Add(context.Background(), batch)
		}
		right()
	}
	mark(true)
	for range 6 {
		if random.IntN(2) == 0 {
			by := 1 + random.IntN(5)
			s.move(by)
			on += season.Date(by)
			for id, w := range plain.placements {
				w.On = on
				plain.placements[id] = w
			}
		} else {
			place := s.placed[random.IntN(2)]
			was, now := "base_block", "pull_kick"
			if random.IntN(2) == 0 {
				was, now = now, was
			}
			do(`SELECT relabel_marks(@club, @place, @was, @now)`, pg.Args{"place": place, "was": was, "now": now})
			for i := range plain.events {
				if e := &plain.events[i]; *e.PlacementID == place && e.TechniqueKey == was {
					e.TechniqueKey = now
				}
			}
		}
		right()
		mark(true)
	}
	do(`SELECT merge_players(@gone, @kept)`, pg.Args{"gone": s.mate, "kept": s.player})
	delete(plain.groups, s.mate)
	for i := range plain.events {
		e := &plain.events[i]
		e.PlayerID = s.player
		var faults []record.Fault
		for _, f := range e.Faults {
			if f.CausedBy != "" { // whoever of the two it was, it is his own now
				f.CausedBy = ""
			}
			if !slices.ContainsFunc(faults, func(x record.Fault) bool { return x.Key == f.Key && x.CausedBy == f.CausedBy }) {
				faults = append(faults, f)
			}
		}
		e.Faults = append([]record.Fault{}, faults...)
	}
	right()
	s.mate = uuid.New()
	require.Error(t, s.in(func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `UPDATE mark_faults SET penalty = true WHERE club_id = @club`, nil)
		return err
	}), "history again")
}

// TestTwoGradeBlind: each has a mark of his own, the later one stands, one is taken back
// without the other, and what the club settles stands over both.
func TestTwoGradeBlind(t *testing.T) {
	s := inPostgres(t)
	stands := func() uuid.UUID {
		var id uuid.UUID
		require.NoError(t, s.in(func(ctx context.Context) error {
			list, err := s.OfPlacement(ctx, s.placed[0])
			if len(list) > 0 {
				id = list[0].ID
			}
			assert.LessOrEqual(t, len(list), 1)
			return err
		}))
		return id
	}
	at := func(e Event, second int, grader uuid.UUID) Event {
		e.MadeAt, e.Grader = new(testkit.Now().Add(time.Duration(second)*time.Second)), grader
		return e
	}
	one, two := at(s.event(0, 1, marks.Looked, new(0), widely), 5, s.coach), at(s.event(0, 1, marks.Looked, new(1)), 9, s.other)
	s.add(t, one, two)
	assert.Equal(t, two.ID, stands())
	settled := at(s.event(0, 1, marks.Looked, new(0)), 1, Settled)
	s.add(t, settled)
	assert.Equal(t, settled.ID, stands())
	s.add(t, at(s.event(0, 1, marks.Withdrawn, nil), 2, Settled))
	assert.Equal(t, two.ID, stands())
	s.add(t, at(s.event(0, 1, marks.Withdrawn, nil), 10, s.other))
	assert.Equal(t, one.ID, stands())
}

func ids(list []record.Detail) []uuid.UUID {
	out := make([]uuid.UUID, len(list))
	for i, d := range list {
		out[i] = d.ID
	}
	return out
}

func work(t *testing.T, s shelf) {
	s.add(t, s.event(0, 1, marks.Assumed, new(1)), s.event(0, 2, marks.StateUnseen, nil), s.event(0, 3, marks.Withdrawn, nil), s.onFilm(new(1)))
	read := func(unit string, from, to season.Date) (list []record.Work) {
		require.NoError(t, s.in(func(ctx context.Context) (err error) {
			list, err = s.Work(ctx, s.season, "ol", unit, from, to)
			return err
		}))
		return list
	}
	list := read("offense", testkit.Day, testkit.Day+7)
	require.Len(t, list, 3)
	assert.True(t, list[0].Game, "newest first")
	assert.Equal(t, []any{"Dunmere", 1, 1}, []any{list[0].Title, list[0].Plays, list[0].Marked})
	marked := map[string]int{}
	for _, w := range list[1:] {
		marked[*w.DrillKey] = w.Marked
	}
	assert.Equal(t, map[string]int{"pull_bag": 2, "base_fit": 0}, marked)
	assert.Zero(t, read("defense", testkit.Day, testkit.Day+7)[0].Plays, "the other side of the ball")
	assert.Zero(t, read("units", testkit.Day, testkit.Day+7)[0].Plays, "a group of the kicking units")
	assert.Len(t, read("offense", testkit.Day, testkit.Day), 2)
}

func moved(t *testing.T, s shelf) {
	s.add(t, s.event(0, 1, marks.Looked, new(1)))
	s.move(1)
	require.NoError(t, s.in(func(ctx context.Context) error {
		old, err := s.Season(ctx, "ol", testkit.Day, testkit.Day, testkit.Day)
		require.NoError(t, err)
		assert.Empty(t, old.Days)
		now, err := s.Season(ctx, "ol", testkit.Day+1, testkit.Day+1, testkit.Day+1)
		require.NoError(t, err)
		assert.Len(t, now.Days, 1)
		return nil
	}))
}

func evidence(t *testing.T, s shelf) {
	fault := s.event(0, 1, marks.Looked, new(0), widely)
	fault.Measures = []record.Measured{{Checkpoint: "base_first", Value: 12, Verdict: "watch"}}
	fault.Note = "late"
	s.add(t, fault, s.event(0, 2, marks.Assumed, new(1)), s.onFilm(new(1)))
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
		s.add(t, s.event(rep%2, rep, marks.Looked, new(1)))
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
	e := Event{ID: uuid.New(), PlayerID: f.Player, PlayID: &play, TechniqueKey: "base_block", State: "looked", Verdict: "empty", Grader: uuid.New(), Faults: []record.Fault{}, Measures: []record.Measured{}, Standard: 1, CreatedAt: testkit.Now()}
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
		list, err := SQL{}.Season(ctx, "ol", testkit.Day, testkit.Day+7, testkit.Day)
		require.NoError(t, err)
		require.Len(t, list.Days, 1, "none of a refused batch is kept")
		return nil
	}))
	require.NoError(t, f.InOther(func(ctx context.Context) error {
		list, err := SQL{}.Season(ctx, "ol", testkit.Day, testkit.Day+7, testkit.Day)
		require.NoError(t, err)
		assert.Empty(t, list.Days)
		details, err := SQL{}.Evidence(ctx, f.Player, record.Which{From: testkit.Day, To: testkit.Day + 7})
		require.NoError(t, err)
		assert.Empty(t, details)
		return nil
	}))
}
