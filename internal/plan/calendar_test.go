package plan

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func (m *memory) entry(p script.Practice) PracticeEntry {
	e := PracticeEntry{Practice: p, ChangedBy: m.changedBy[p.ID]}
	for _, x := range m.periods {
		if x.PracticeID != p.ID {
			continue
		}
		e.Periods++
		e.Drills += len(x.Placements)
		for _, l := range x.Placements {
			e.Marks += l.Marks
		}
	}
	return e
}

func (m *memory) Days(ctx context.Context, _ access.Season) (Days, error) {
	d := Days{Hard: map[uuid.UUID][]script.Period{}}
	practices, games, err := m.Calendar(ctx, uuid.Nil)
	for _, p := range practices {
		d.Practices = append(d.Practices, m.entry(p))
		for _, e := range m.periods {
			if e.PracticeID == p.ID && (e.Contact == "thud" || e.Contact == "live") {
				d.Hard[p.ID] = append(d.Hard[p.ID], e)
			}
		}
	}
	for _, g := range games {
		d.Games = append(d.Games, GameEntry{Game: g, ChangedBy: m.changedBy[g.ID], Plays: m.plays[g.ID]})
	}
	return d, err
}

func (m *memory) Span(context.Context, uuid.UUID) (Span, error) { return m.span, nil }

func (m *memory) PutSpan(_ context.Context, _ uuid.UUID, s Span, _ uuid.UUID, _ time.Time) error {
	s.Version++
	s.ChangedBy = "H. Coach"
	m.span = s
	return nil
}

func (m *memory) Dates(ctx context.Context, id uuid.UUID) ([]script.Dated, error) {
	practices, _, err := m.Calendar(ctx, id)
	list := []script.Dated{}
	for _, p := range practices {
		if p.Cancelled != "" {
			continue
		}
		if n := len(list); n == 0 || list[n-1].On != p.On {
			list = append(list, script.Dated{On: p.On, Own: map[string]int{}})
		}
		for _, e := range m.periods {
			if e.PracticeID == p.ID && e.Kind == "individual" {
				for _, g := range e.Groups {
					list[len(list)-1].Own[g] += e.Minutes
				}
			}
		}
	}
	return list, err
}

func (m *memory) PutPractice(_ context.Context, _ uuid.UUID, p script.Practice, _ uuid.UUID, _ time.Time) error {
	p.Version++
	m.practices[p.ID], m.changedBy[p.ID] = p, "H. Coach"
	return nil
}

func (m *memory) PutGame(_ context.Context, _ uuid.UUID, g Game, _ uuid.UUID, _ time.Time) error {
	g.Version++
	m.games = append(slices.DeleteFunc(m.games, func(x Game) bool { return x.ID == g.ID }), g)
	m.changedBy[g.ID] = "H. Coach"
	return nil
}

func (m *memory) CopyScript(_ context.Context, from, to, _ uuid.UUID, _ time.Time) error {
	for _, e := range slices.Clone(m.periods) {
		if e.PracticeID == from {
			e.ID, e.PracticeID, e.Version, e.ChangedBy, e.Placements = uuid.New(), to, 1, "H. Coach", []script.Placement{}
			m.periods = append(m.periods, e)
		}
	}
	return nil
}

func (m *memory) PracticeEntry(_ context.Context, id uuid.UUID) (PracticeEntry, bool, error) {
	p, found := m.practices[id]
	return m.entry(p), found, nil
}

func (m *memory) GameEntry(_ context.Context, id uuid.UUID) (GameEntry, bool, error) {
	for _, g := range m.games {
		if g.ID == id {
			return GameEntry{Game: g, ChangedBy: m.changedBy[id], Plays: m.plays[id]}, true, nil
		}
	}
	return GameEntry{}, false, nil
}

func (m *memory) DeletePractice(_ context.Context, id uuid.UUID) error {
	delete(m.practices, id)
	m.periods = slices.DeleteFunc(m.periods, func(e script.Period) bool { return e.PracticeID == id })
	return nil
}

func (m *memory) DeleteGame(_ context.Context, id uuid.UUID) error {
	m.games = slices.DeleteFunc(m.games, func(g Game) bool { return g.ID == id })
	return nil
}

// TestCalendarStore holds every store of the calendar to the same contract.
func TestCalendarStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			calendar := s.Store.(Calendar)
			at := access.Season{ID: s.season, Start: season.Must("2026-08-31"), Weeks: 9}
			in := func(do func(ctx context.Context) error) {
				t.Helper()
				require.NoError(t, s.in(do))
			}
			id, game := uuid.New(), uuid.New()
			p := script.Practice{ID: id, On: testkit.Day + 1, Title: "Wednesday", Theme: "Zone day", Place: "Hill", StartMinute: 600, Minutes: 90}
			in(func(ctx context.Context) error { return calendar.PutPractice(ctx, s.season, p, s.by, testkit.Now()) })
			in(func(ctx context.Context) error { return calendar.CopyScript(ctx, s.practice, id, s.by, testkit.Now()) })
			g := Game{ID: game, On: testkit.Day + 10, Opponent: "Thornwick"}
			in(func(ctx context.Context) error { return calendar.PutGame(ctx, s.season, g, s.by, testkit.Now()) })
			p.Version, p.On, p.Cancelled, p.Theme = 1, testkit.Day+2, "thunder", ""
			in(func(ctx context.Context) error { return calendar.PutPractice(ctx, s.season, p, s.by, testkit.Now()) })
			g.Version, g.Home = 1, true
			in(func(ctx context.Context) error { return calendar.PutGame(ctx, s.season, g, s.by, testkit.Now()) })
			p.Version, g.Version = 2, 2
			in(func(ctx context.Context) error {
				d, err := calendar.Days(ctx, at)
				require.NoError(t, err)
				require.Len(t, d.Practices, 2)
				assert.Equal(t, PracticeEntry{Practice: p, Periods: 1, ChangedBy: "H. Coach"}, d.Practices[1])
				require.Len(t, d.Games, 2)
				assert.Equal(t, GameEntry{Game: g, ChangedBy: "H. Coach"}, d.Games[1])
				assert.Empty(t, d.Hard)
				e, found, err := calendar.PracticeEntry(ctx, id)
				require.NoError(t, err)
				assert.True(t, found)
				assert.Equal(t, d.Practices[1], e)
				list, err := s.Script(ctx, id)
				require.NoError(t, err)
				require.Len(t, list, 1)
				assert.Equal(t, "Line", list[0].Name)
				_, found, err = s.Next(ctx, s.season, "ol", testkit.Day+1)
				require.NoError(t, err)
				if name == "postgres" {
					assert.False(t, found, "what is called off is not next")
				}
				return nil
			})
			in(func(ctx context.Context) error {
				was, err := calendar.Span(ctx, s.season)
				require.NoError(t, err)
				was.Weeks, was.Phases = 12, []season.Phase{{Name: "Camp", From: testkit.Day}}
				require.NoError(t, calendar.PutSpan(ctx, s.season, was, s.by, testkit.Now()))
				was.Version++
				was.ChangedBy = "H. Coach"
				now, err := calendar.Span(ctx, s.season)
				assert.Equal(t, was, now)
				return err
			})
			in(func(ctx context.Context) error { return calendar.DeletePractice(ctx, id) })
			in(func(ctx context.Context) error { return calendar.DeleteGame(ctx, game) })
			in(func(ctx context.Context) error {
				_, there, err := calendar.PracticeEntry(ctx, id)
				require.NoError(t, err)
				_, played, err := calendar.GameEntry(ctx, game)
				assert.False(t, there || played)
				return err
			})
		})
	}
}

func wednesday() contract.PracticeInput {
	return contract.PracticeInput{Date: "2026-10-14", Title: "Wednesday practice", Theme: "Zone day", Place: "East field", StartMinute: 1080, Minutes: 120}
}

// TestAPracticeIsPutMovedAndCalledOff: with what hangs on it, against what was read.
func TestAPracticeIsPutMovedAndCalledOff(t *testing.T) {
	b := open(t)
	ctx, head, id := context.Background(), testkit.Head(), uuid.New()
	in := wednesday()
	_, err := b.PutPractice(ctx, b.coach, id, 0, in)
	require.ErrorIs(t, err, problem.ErrForbidden)
	in.ScriptOf = &b.practice
	v, err := b.PutPractice(ctx, head, id, 0, in)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{v.Version, v.Periods}, "with the script of another")
	v, err = b.PutPractice(ctx, head, id, 0, in)
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	in.Date = "2026-10-15"
	v, err = b.PutPractice(ctx, head, id, 1, in)
	require.NoError(t, err)
	assert.Equal(t, []any{"2026-10-15", 1}, []any{v.Date, v.Periods}, "its script moves with it")
	in.Cancelled = new("thunder")
	_, err = b.PutPractice(ctx, head, id, 1, in)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	v, err = b.PutPractice(ctx, head, id, 2, in)
	require.NoError(t, err)
	assert.Equal(t, "thunder", *v.Cancelled)
	page, err := b.Season(ctx, b.coach)
	require.NoError(t, err)
	assert.Len(t, page.Practices, 2)
	assert.Len(t, page.Contact, 9)
	for field_, do := range map[string]func(in *contract.PracticeInput){
		"date":      func(in *contract.PracticeInput) { in.Date = "2026-12-01" },
		"title":     func(in *contract.PracticeInput) { in.Title = "  " },
		"cancelled": func(in *contract.PracticeInput) { in.Cancelled = new(" ") },
	} {
		bad := wednesday()
		do(&bad)
		_, err := b.PutPractice(ctx, head, uuid.New(), 0, bad)
		assert.Equal(t, field_, field(t, err))
	}
	bad := wednesday()
	bad.ScriptOf = new(uuid.New())
	_, err = b.PutPractice(ctx, head, uuid.New(), 0, bad)
	assert.Equal(t, "script_of", field(t, err))

	_, err = b.DeletePractice(ctx, head, id, 1)
	require.True(t, errors.As(err, &stale))
	_, err = b.DeletePractice(ctx, b.coach, id, 3)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeletePractice(ctx, head, id, 3)
	require.NoError(t, err)
	_, err = b.DeletePractice(ctx, head, id, 3)
	require.NoError(t, err, "sent again")
	_, err = b.PutPractice(ctx, head, id, 3, in)
	require.True(t, errors.As(err, &stale), "it is not there any longer")
	b.memory.periods[0].Placements = []script.Placement{{ID: uuid.New(), Group: "ol", DrillKey: "pull_bag", Minutes: 5, Lanes: 1, Marks: 4}}
	_, err = b.DeletePractice(ctx, head, b.practice, 1)
	assert.Equal(t, "id", field(t, err))
}

func TestAGameIsPutMovedAndCalledOff(t *testing.T) {
	b := open(t)
	ctx, head, id := context.Background(), testkit.Head(), uuid.New()
	in := contract.GameInput{Date: "2026-10-24", Opponent: "Thornwick", Home: true}
	_, err := b.PutGame(ctx, b.coach, id, 0, in)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.PutGame(ctx, head, id, 0, in)
	require.NoError(t, err)
	in.Cancelled = new("fog")
	_, err = b.PutGame(ctx, head, id, 0, in)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	v, err := b.PutGame(ctx, head, id, 1, in)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "fog"}, []any{v.Version, *v.Cancelled})
	in.Opponent = " "
	_, err = b.PutGame(ctx, head, id, 2, in)
	assert.Equal(t, "opponent", field(t, err))
	b.memory.plays[id] = 60
	_, err = b.DeleteGame(ctx, head, id, 2)
	assert.Equal(t, "id", field(t, err))
	b.memory.plays[id] = 0
	_, err = b.DeleteGame(ctx, head, id, 1)
	require.True(t, errors.As(err, &stale))
	_, err = b.DeleteGame(ctx, head, id, 2)
	require.NoError(t, err)
	_, err = b.PutGame(ctx, head, id, 2, contract.GameInput{Date: "2026-10-24", Opponent: "X"})
	require.True(t, errors.As(err, &stale))
}

// TestContactOfAWeek counts each group's minutes once, and nothing of what is called off.
func TestContactOfAWeek(t *testing.T) {
	b := open(t)
	ctx, head := context.Background(), testkit.Head()
	for start, name := range map[int]string{40: "Inside run", 45: "Team"} {
		p := inside("ol", "dl")
		p.Start, p.Name = start, name
		_, err := b.PutPeriod(ctx, head, b.practice, uuid.New(), 0, p)
		require.NoError(t, err)
	}
	week := func() int {
		v, err := b.Season(ctx, b.coach)
		require.NoError(t, err)
		assert.Equal(t, 17, v.Practices[0].Contact, "from 40 to 57")
		for _, g := range v.Contact[6].Groups {
			if g.Group == "ol" {
				return g.Minutes
			}
		}
		return -1
	}
	assert.Equal(t, 17, week())
	p := b.memory.practices[b.practice]
	p.Cancelled = "heat"
	b.memory.practices[b.practice] = p
	assert.Zero(t, week())
}

// TestACalendarOfTheSeason is read back by a reader of iCalendar: the same events under the same
// ids, at the moment they are whatever the clock does, with what is called off cancelled.
func TestACalendarOfTheSeason(t *testing.T) {
	b := open(t)
	b.coach.Club.Timezone = "Europe/Dublin"
	b.coach.Season.Weeks = 12
	ctx, head := context.Background(), testkit.Head()
	head.Season.Weeks = 12
	summer, winter := uuid.New(), uuid.New()
	in := wednesday()
	_, err := b.PutPractice(ctx, head, summer, 0, in)
	require.NoError(t, err)
	in.Date, in.Title = "2026-10-28", "After the change; of clocks"
	_, err = b.PutPractice(ctx, head, winter, 0, in)
	require.NoError(t, err)
	in.Cancelled = new("snow")
	_, err = b.PutPractice(ctx, head, winter, 1, in)
	require.NoError(t, err)
	name, content, err := b.ExportCalendar(ctx, b.coach)
	require.NoError(t, err)
	assert.Equal(t, "season-2026-08-31.ics", name)
	cal, err := ics.ParseCalendar(bytes.NewReader(content))
	require.NoError(t, err)
	events := map[string]*ics.VEvent{}
	for _, e := range cal.Events() {
		events[e.Id()] = e
	}
	require.Len(t, events, 4, "three practices and a game")
	for id, want := range map[uuid.UUID][]string{
		summer: {"2026-10-14T17:00:00Z", "CONFIRMED", "0", "Wednesday practice"},
		winter: {"2026-10-28T18:00:00Z", "CANCELLED", "1", "After the change; of clocks"},
	} {
		e := events[id.String()+"@nineyard"]
		require.NotNil(t, e)
		starts, err := e.GetStartAt()
		require.NoError(t, err)
		ends, err := e.GetEndAt()
		require.NoError(t, err)
		assert.Equal(t, 2*time.Hour, ends.Sub(starts))
		summary := ics.FromText(e.GetProperty(ics.ComponentPropertySummary).Value)
		assert.Equal(t, want, []string{starts.UTC().Format(time.RFC3339), e.GetProperty(ics.ComponentPropertyStatus).Value, e.GetProperty(ics.ComponentPropertySequence).Value, summary})
	}
	game := events[b.memory.games[0].ID.String()+"@nineyard"]
	require.NotNil(t, game)
	day, err := game.GetAllDayStartAt()
	require.NoError(t, err)
	assert.Equal(t, b.memory.games[0].On.String(), day.Format("2006-01-02"))
}

// TestTheDatesOfASeason: set against what was read, with nothing of the calendar left outside.
func TestTheDatesOfASeason(t *testing.T) {
	b := open(t)
	ctx, head := context.Background(), testkit.Head()
	b.memory.span = Span{Start: season.Must("2026-08-31"), Weeks: 9, Version: 1}
	in := contract.SeasonInput{Start: "2026-08-03", Weeks: 14, Phases: []contract.SeasonPhase{{Name: "Camp", From: "2026-08-03"}, {Name: "Season", From: "2026-08-31"}}}
	_, err := b.PutSeason(ctx, b.coach, 1, in)
	require.ErrorIs(t, err, problem.ErrForbidden)
	v, err := b.PutSeason(ctx, head, 1, in)
	require.NoError(t, err)
	assert.Equal(t, 2, v.Version)
	v, err = b.PutSeason(ctx, head, 1, in)
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 2, v.Version)
	in.Weeks = 15
	_, err = b.PutSeason(ctx, head, 1, in)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	assert.Equal(t, 14, stale.Current.(contract.SeasonDates).Dates.Weeks)
	for want, spoil := range map[string]func(*contract.SeasonInput){
		"start":          func(in *contract.SeasonInput) { in.Start, in.Phases = "2026-10-14", nil }, // Tuesday's practice
		"weeks":          func(in *contract.SeasonInput) { in.Weeks = 5 },
		"phases[1].from": func(in *contract.SeasonInput) { in.Phases[1].From = "2026-08-01" },
		"phases":         func(in *contract.SeasonInput) { in.Phases[1].From = "soon" },
	} {
		bad := contract.SeasonInput{Start: "2026-08-03", Weeks: 14, Phases: []contract.SeasonPhase{{Name: "Camp", From: "2026-08-03"}, {Name: "Season", From: "2026-08-31"}}}
		spoil(&bad)
		_, err := b.PutSeason(ctx, head, 2, bad)
		assert.Equal(t, want, field(t, err))
	}
	s, err := b.Service.Season(ctx, head)
	require.NoError(t, err)
	assert.Len(t, s.Phases, 2)
	assert.Equal(t, 2, s.Version)
}
