package film

import (
	"cmp"
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/group"
	"nineyard/core/play"
	"nineyard/internal/film/reel"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory: one game.
type memory struct {
	game    reel.Game
	entries []Entry
	taken   map[uuid.UUID]bool // ids of other clubs
	aliases []Alias
}

func (m *memory) Aliases(context.Context) ([]Alias, error) {
	slices.SortFunc(m.aliases, func(a, b Alias) int { return cmp.Or(cmp.Compare(a.Label, b.Label), cmp.Compare(a.Said, b.Said)) })
	return slices.Clone(m.aliases), nil
}
func (m *memory) HoldAliases(ctx context.Context) ([]Alias, error) { return m.Aliases(ctx) }
func (m *memory) PutAlias(ctx context.Context, a Alias, _ uuid.UUID) error {
	a.Version++
	a.By = "H. Coach"
	_ = m.DeleteAlias(ctx, a.ID)
	m.aliases = append(m.aliases, a)
	return nil
}
func (m *memory) DeleteAlias(_ context.Context, id uuid.UUID) error {
	m.aliases = slices.DeleteFunc(m.aliases, func(a Alias) bool { return a.ID == id })
	return nil
}
func (m *memory) Uses(context.Context) (list []Use, err error) {
	for _, e := range m.entries {
		for _, l := range play.AliasLabels() {
			if w := play.Word(e.Play, l); w != "" {
				list = append(list, Use{l, w, 1})
			}
		}
	}
	return list, nil
}
func (m *memory) Correct(_ context.Context, label play.Column, words []string, means string, _ uuid.UUID, _ time.Time) (n int, err error) {
	for i, e := range m.entries {
		if w := play.Word(e.Play, label); slices.Contains(words, w) {
			m.entries[i].Play = play.Meant(e.Play, []play.Alias{{Label: label, Said: w, Means: means}})
			m.entries[i].Version++
			n++
		}
	}
	return n, nil
}

func (m *memory) Plays(_ context.Context, ids []uuid.UUID) (list []reel.Play, err error) {
	for _, e := range m.sorted() {
		if slices.Contains(ids, e.ID) {
			list = append(list, reel.Play{ID: e.ID, GameID: e.GameID, On: m.game.On, Play: e.Play})
		}
	}
	return list, nil
}

func (m *memory) Game(_ context.Context, id uuid.UUID) (reel.Game, bool, error) {
	g := m.game
	for _, e := range m.sorted() {
		g.Plays = append(g.Plays, reel.Play{ID: e.ID, GameID: e.GameID, On: g.On, Play: e.Play})
	}
	return g, id == g.ID, nil
}

func (m *memory) sorted() []Entry {
	list := slices.Clone(m.entries)
	slices.SortFunc(list, func(a, b Entry) int { return a.Play.Number - b.Play.Number })
	return list
}

func (m *memory) Entries(context.Context, uuid.UUID) ([]Entry, error) { return m.sorted(), nil }

func (m *memory) Entry(_ context.Context, id uuid.UUID) (Entry, bool, error) {
	i := slices.IndexFunc(m.entries, func(e Entry) bool { return e.ID == id })
	if i < 0 {
		return Entry{ID: id}, false, nil
	}
	return m.entries[i], true, nil
}

func (m *memory) Put(ctx context.Context, e Entry, _ uuid.UUID, _ time.Time) error {
	if m.taken[e.ID] {
		return problem.ErrTaken
	}
	was, _, _ := m.Entry(ctx, e.ID)
	e.Version++
	e.ChangedBy, e.Marks = "H. Coach", was.Marks
	_ = m.Delete(ctx, e.ID)
	m.entries = append(m.entries, e)
	return nil
}

func (m *memory) Delete(_ context.Context, id uuid.UUID) error {
	m.entries = slices.DeleteFunc(m.entries, func(e Entry) bool { return e.ID == id })
	return nil
}

type shelf struct {
	Store
	game, by uuid.UUID
	in       func(func(ctx context.Context) error) error
}

func inMemory(*testing.T) shelf {
	s := shelf{game: uuid.New(), by: uuid.New()}
	s.Store = &memory{game: reel.Game{ID: s.game, On: testkit.Day + 3, Opponent: "Dunmere", Home: true}, taken: map[uuid.UUID]bool{}}
	s.in = func(do func(context.Context) error) error { return do(context.Background()) }
	return s
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	require.NoError(t, f.In(func(ctx context.Context) error { return SQL{}.Delete(ctx, f.Play) }))
	return shelf{Store: SQL{}, game: f.Game, by: f.HeadCoach, in: f.In}
}

// full is a play with everything said.
func full(number int) play.Play {
	return play.Play{Number: number, Unit: group.Defense, Drive: 3, Quarter: 2, Clock: "4:05", Down: 3, Distance: new(7), Spot: "opp 42", Hash: "left", Personnel: "Eleven", Formation: "Trips",
		Motion: "Fly", Call: "Harbour fire", Front: "Odd", Coverage: "Quarters", Result: "Incomplete", Gain: new(0), Context: []string{"second group", "end of half"}}
}

// TestStore holds every store of plays to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			in := func(do func(ctx context.Context) error) { t.Helper(); require.NoError(t, s.in(do)) }
			in(func(ctx context.Context) error {
				g, found, err := s.Game(ctx, s.game)
				assert.True(t, found, "a game without plays")
				assert.Equal(t, reel.Game{ID: s.game, On: testkit.Day + 3, Opponent: "Dunmere", Home: true}, g)
				_, found, _ = s.Game(ctx, uuid.New())
				assert.False(t, found)
				return err
			})
			a := Entry{ID: uuid.New(), GameID: s.game, Play: full(7)}
			b := Entry{ID: uuid.New(), GameID: s.game, Play: play.Play{Number: 2, Unit: group.Units}}
			for _, e := range []Entry{a, b} {
				in(func(ctx context.Context) error { return s.Put(ctx, e, s.by, testkit.Now()) })
			}
			a.Version, b.Version, a.ChangedBy, b.ChangedBy = 1, 1, "H. Coach", "H. Coach"
			in(func(ctx context.Context) error {
				list, err := s.Entries(ctx, s.game)
				assert.Equal(t, []Entry{b, a}, list, "by number")
				g, found, err2 := s.Game(ctx, s.game)
				assert.True(t, found)
				assert.Equal(t, "Dunmere", g.Opponent)
				assert.Equal(t, []play.Play{b.Play, a.Play}, []play.Play{g.Plays[0].Play, g.Plays[1].Play})
				plays, err3 := s.Plays(ctx, []uuid.UUID{a.ID, uuid.New()})
				assert.Equal(t, []reel.Play{{ID: a.ID, GameID: s.game, On: testkit.Day + 3, Play: a.Play}}, plays)
				require.NoError(t, err2)
				require.NoError(t, err3)
				return err
			})
			a.Play.Call, a.Play.Unit, a.Play.Down, a.Play.Distance, a.Play.Context = "Quick lantern", group.Offense, 0, nil, nil
			in(func(ctx context.Context) error { return s.Put(ctx, a, s.by, testkit.Now()) })
			a.Version = 2
			in(func(ctx context.Context) error {
				got, found, err := s.Entry(ctx, a.ID)
				assert.True(t, found)
				assert.Equal(t, a, got)
				return err
			})
			in(func(ctx context.Context) error { return s.Delete(ctx, b.ID) })
			in(func(ctx context.Context) error {
				_, found, err := s.Entry(ctx, b.ID)
				assert.False(t, found)
				return err
			})
		})
	}
}

// TestWords holds both stores to what words of the staff mean, and to what correcting plays by them leaves behind.
func TestWords(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			w, ok := s.Store.(Words)
			require.True(t, ok)
			in := func(do func(ctx context.Context) error) { t.Helper(); require.NoError(t, s.in(do)) }
			odd, bear := Entry{ID: uuid.New(), GameID: s.game, Play: full(1)}, Entry{ID: uuid.New(), GameID: s.game, Play: full(2)}
			bear.Play.Front = "BEAR"
			a := Alias{ID: uuid.New(), Alias: play.Alias{Label: play.ColFront, Said: "Bear", Means: "Odd"}}
			in(func(ctx context.Context) error {
				require.NoError(t, s.Put(ctx, odd, s.by, testkit.Now()))
				require.NoError(t, s.Put(ctx, bear, s.by, testkit.Now()))
				return w.PutAlias(ctx, a, s.by)
			})
			a.Version, a.By = 1, "H. Coach"
			in(func(ctx context.Context) error {
				list, err := w.HoldAliases(ctx)
				assert.Equal(t, []Alias{a}, list)
				uses, err2 := w.Uses(ctx)
				require.NoError(t, err2)
				assert.Contains(t, uses, Use{play.ColFront, "BEAR", 1})
				n, err3 := w.Correct(ctx, play.ColFront, []string{"BEAR"}, "Odd", s.by, testkit.Now())
				require.NoError(t, err3)
				assert.Equal(t, 1, n)
				none, err4 := w.Correct(ctx, play.ColCall, []string{"Harbour fire"}, "x", s.by, testkit.Now())
				require.NoError(t, err4)
				assert.Zero(t, none, "a call has its other names elsewhere")
				return err
			})
			in(func(ctx context.Context) error {
				got, found, err := s.Entry(ctx, bear.ID)
				assert.True(t, found)
				assert.Equal(t, []any{"Odd", 2}, []any{got.Play.Front, got.Version})
				if l, ok := s.Store.(Labels); ok {
					versions, err := l.Versions(ctx, bear.ID)
					require.NoError(t, err)
					require.Len(t, versions, 2)
					assert.Equal(t, []play.Change{{Column: play.ColFront, Was: "BEAR", Is: "Odd"}}, play.Changes(versions[1].Labels, versions[0].Labels))
				}
				a.Means = "Even"
				require.NoError(t, w.PutAlias(ctx, a, s.by))
				list, err2 := w.Aliases(ctx)
				require.NoError(t, err2)
				assert.Equal(t, []any{"Even", 2}, []any{list[0].Means, list[0].Version})
				require.NoError(t, w.DeleteAlias(ctx, a.ID))
				list, err2 = w.Aliases(ctx)
				assert.Empty(t, list)
				require.NoError(t, err2)
				return err
			})
		})
	}
}

// TestMarksOfAPlayAreCounted: those that stand, of players, on every technique.
func TestMarksOfAPlayAreCounted(t *testing.T) {
	f := testkit.OpenField(t)
	require.NoError(t, f.In(func(ctx context.Context) error {
		for i, player := range []uuid.UUID{f.Player, f.Mate} {
			if _, err := pg.Exec(ctx, `INSERT INTO mark_events (id, club_id, player_id, play_id, technique_key, grader, state, verdict, standard, scheme, created_at, year)
				SELECT @id, @club, @player, @play, 'base_block', @player, 'assumed', 'clean', 1, 0, @at, s.mark_year FROM seasons s WHERE s.club_id = @club`,
				pg.Args{"id": uuid.New(), "player": player, "play": f.Play, "at": testkit.Now().Add(time.Duration(i) * time.Second)}); err != nil {
				return err
			}
		}
		e, found, err := SQL{}.Entry(ctx, f.Play)
		assert.True(t, found)
		assert.Equal(t, 2, e.Marks)
		return err
	}))
}
