package plan

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/conditions"
	"nineyard/core/season"
	"nineyard/internal/contract"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory.
type memory struct {
	practices  map[uuid.UUID]script.Practice
	periods    []script.Period
	games      []Game
	elsewhere  map[uuid.UUID]bool // ids of placements of other clubs
	relabelled []string
	changedBy  map[uuid.UUID]string
	plays      map[uuid.UUID]int
	settings   Settings
	staff      []contract.Named
	sets       []Set
	span       Span
	templates  []Template
	readings   map[uuid.UUID][]Reading
	absences   map[uuid.UUID][]conditions.Absence
}

func (m *memory) Calendar(context.Context, uuid.UUID) ([]script.Practice, []Game, error) {
	var list []script.Practice
	for _, p := range m.practices {
		list = append(list, p)
	}
	slices.SortFunc(list, func(a, b script.Practice) int {
		return cmp.Or(cmp.Compare(a.On, b.On), cmp.Compare(a.StartMinute, b.StartMinute))
	})
	return list, m.games, nil
}

func (m *memory) Practice(_ context.Context, id uuid.UUID) (script.Practice, bool, error) {
	p, ok := m.practices[id]
	return p, ok, nil
}

func (m *memory) Script(_ context.Context, practice uuid.UUID) ([]script.Period, error) {
	list := []script.Period{}
	for _, p := range m.periods {
		if p.PracticeID == practice {
			p.Placements = slices.Clone(p.Placements)
			list = append(list, p)
		}
	}
	return list, nil
}

func (m *memory) Period(_ context.Context, id uuid.UUID) (script.Period, bool, error) {
	for _, p := range m.periods {
		if p.ID == id {
			p.Placements = slices.Clone(p.Placements)
			return p, true, nil
		}
	}
	return script.Period{}, false, nil
}

func (m *memory) Relabel(_ context.Context, placement uuid.UUID, was, now string) error {
	m.relabelled = append(m.relabelled, fmt.Sprint(placement, " ", was, " ", now))
	return nil
}

func (m *memory) PracticeOf(ctx context.Context, period uuid.UUID) (script.Practice, bool, error) {
	e, _, _ := m.Period(ctx, period)
	return m.Practice(ctx, e.PracticeID)
}

func (m *memory) Replace(_ context.Context, period uuid.UUID, groups []string, _ uuid.UUID, _ time.Time, list []script.Placement) error {
	for _, p := range list {
		taken := m.elsewhere[p.ID]
		for _, e := range m.periods {
			taken = taken || e.ID != period && slices.ContainsFunc(e.Placements, func(x script.Placement) bool { return x.ID == p.ID })
		}
		if taken {
			return problem.ErrTaken
		}
	}
	for i := range m.periods {
		e := &m.periods[i]
		if e.ID != period {
			continue
		}
		marks := byID(e.Placements)
		e.Placements = append(slices.DeleteFunc(slices.Clone(e.Placements), func(p script.Placement) bool { return slices.Contains(groups, p.Group) }), list...)
		for j := range e.Placements {
			e.Placements[j].Marks = marks[e.Placements[j].ID].Marks
		}
		slices.SortFunc(e.Placements, func(a, b script.Placement) int { return cmp.Compare(a.Start, b.Start) })
		e.Version++
		e.ChangedBy = "H. Coach"
		e.Since = maps.Clone(e.Since)
		for _, g := range groups {
			e.Since[g] = e.Version
		}
	}
	return nil
}

func (m *memory) Next(_ context.Context, _ uuid.UUID, group string, from season.Date) (script.Next, bool, error) {
	var best script.Next
	found := false
	for _, e := range m.periods {
		p := m.practices[e.PracticeID]
		if !e.Own(group) || p.On < from || found && p.On >= best.Practice.On && p.ID != best.Practice.ID {
			continue
		}
		if p.ID != best.Practice.ID {
			best = script.Next{Group: group, Practice: p}
		}
		e.Placements = slices.Clone(e.Placements)
		best.Periods, found = append(best.Periods, e), true
	}
	for _, e := range m.periods {
		if found && e.PracticeID == best.Practice.ID && e.Holds(group) && !e.Own(group) {
			best.Periods = append(best.Periods, e)
		}
	}
	return best, found, nil
}

func (m *memory) Placed(_ context.Context, ids []uuid.UUID) ([]script.PlacedOn, error) {
	var list []script.PlacedOn
	for _, e := range m.periods {
		for _, p := range e.Placements {
			if slices.Contains(ids, p.ID) {
				list = append(list, script.PlacedOn{Placement: p, PracticeID: e.PracticeID, On: m.practices[e.PracticeID].On})
			}
		}
	}
	return list, nil
}

// shelf is a Store with the practice, the period and the game of a field.
type shelf struct {
	Store
	season, practice, period, game, by uuid.UUID
	foreign                            uuid.UUID                                   // a placement of another club
	in                                 func(func(ctx context.Context) error) error // one transaction
	other                              func(func(ctx context.Context) error) error // one of the other club; nil in memory
}

func inMemory(*testing.T) shelf {
	s := shelf{season: uuid.New(), practice: uuid.New(), period: uuid.New(), game: uuid.New(), by: uuid.New(), foreign: uuid.New()}
	s.Store = &memory{changedBy: map[uuid.UUID]string{}, plays: map[uuid.UUID]int{},
		practices: map[uuid.UUID]script.Practice{s.practice: {ID: s.practice, On: testkit.Day, Title: "Tuesday", StartMinute: 1080, Minutes: 90, Version: 1}},
		periods:   []script.Period{{ID: s.period, PracticeID: s.practice, Start: 10, Minutes: 20, Kind: "individual", Name: "Line", Contact: "bag", Version: 1, Groups: []string{"ol"}, Since: map[string]int{"ol": 1}, Coaches: []string{}, Equipment: []contract.EquipmentUse{}, NeedsGroups: []string{}, Placements: []script.Placement{}}},
		games:     []Game{{ID: s.game, On: testkit.Day + 3, Opponent: "Dunmere", Home: true, Version: 1}}, elsewhere: map[uuid.UUID]bool{s.foreign: true}}
	s.in = func(do func(context.Context) error) error { return do(context.Background()) }
	return s
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	s := shelf{Store: SQL{}, season: f.Season.ID, practice: f.Practice, period: f.Period, game: f.Game, by: f.HeadCoach, foreign: uuid.New(), in: f.In, other: f.InOther}
	require.NoError(t, f.InOther(func(ctx context.Context) error { // a practice of the other club with one placement
		practice, period := uuid.New(), uuid.New()
		db := SQL{}
		for _, step := range []func() error{
			func() error {
				return execIn(ctx, `INSERT INTO practices (id, club_id, season_id, on_date, title, start_minute, minutes) SELECT @a, @club, id, '2026-10-13', 'Theirs', 600, 60 FROM seasons WHERE club_id = @club`, practice, period)
			},
			func() error {
				return execIn(ctx, `INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact) VALUES (@b, @club, @a, 0, 20, 'individual', 'X', 'air')`, practice, period)
			},
			func() error {
				return execIn(ctx, `INSERT INTO period_groups (club_id, period_id, group_key) VALUES (@club, @b, 'ol')`, practice, period)
			},
			func() error {
				return db.Replace(ctx, period, []string{"ol"}, f.HeadCoach, testkit.Now(), []script.Placement{{ID: s.foreign, Group: "ol", DrillKey: "theirs", Start: 0, Minutes: 5, Lanes: 1}})
			},
		} {
			if err := step(); err != nil {
				return err
			}
		}
		return nil
	}))
	return s
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			a := script.Placement{ID: uuid.New(), Group: "ol", DrillKey: "pull_bag", TechniqueKey: "pull_kick", Start: 0, Minutes: 5, Lanes: 2}
			b := script.Placement{ID: uuid.New(), Group: "ol", DrillKey: "ol_run_look", Cards: "reach down", Start: 5, Minutes: 5, Lanes: 3}
			replace := func(list ...script.Placement) error {
				return s.in(func(ctx context.Context) error {
					return s.Replace(ctx, s.period, []string{"ol"}, s.by, testkit.Now(), list)
				})
			}
			period := func() (e script.Period) {
				require.NoError(t, s.in(func(ctx context.Context) error {
					p, found, err := s.Period(ctx, s.period)
					assert.True(t, found)
					e = p
					return err
				}))
				return e
			}
			require.NoError(t, s.in(func(ctx context.Context) error {
				practices, games, err := s.Calendar(ctx, s.season)
				require.NoError(t, err)
				assert.Equal(t, []script.Practice{{ID: s.practice, On: testkit.Day, Title: "Tuesday", StartMinute: 1080, Minutes: 90, Version: 1}}, practices)
				assert.Equal(t, []Game{{ID: s.game, On: testkit.Day + 3, Opponent: "Dunmere", Home: true, Version: 1}}, games)
				p, found, err := s.Practice(ctx, s.practice)
				require.NoError(t, err)
				assert.True(t, found)
				assert.Equal(t, practices[0], p)
				for _, id := range []uuid.UUID{uuid.New(), s.foreign} {
					_, found, err = s.Practice(ctx, id)
					require.NoError(t, err)
					assert.False(t, found)
					_, found, err = s.Period(ctx, id)
					require.NoError(t, err)
					assert.False(t, found)
				}
				return nil
			}))

			require.NoError(t, replace(a, b))
			e := period()
			assert.Equal(t, 2, e.Version, "every save is a version, so that two coaches see each other")
			assert.Equal(t, "H. Coach", e.ChangedBy)
			assert.Equal(t, []string{"ol"}, e.Groups)
			assert.Equal(t, []script.Placement{a, b}, e.Placements)

			a.Start, b.Start = b.Start, a.Start // they may swap places in one save
			require.NoError(t, replace(a, b))
			assert.Equal(t, []script.Placement{b, a}, period().Placements, "in order of time")
			require.NoError(t, replace(b))
			assert.Equal(t, []script.Placement{b}, period().Placements)
			require.ErrorIs(t, replace(b, script.Placement{ID: s.foreign, Group: "ol", DrillKey: "stolen", Start: 10, Minutes: 5, Lanes: 1}), problem.ErrTaken, "an id of another club is not taken over")
			assert.Equal(t, []script.Placement{b}, period().Placements, "and nothing was changed")

			require.NoError(t, s.in(func(ctx context.Context) error {
				list, err := s.Script(ctx, s.practice)
				require.NoError(t, err)
				require.Len(t, list, 1)
				assert.Equal(t, period0(list[0]), period0(e))
				p, found, err := s.PracticeOf(ctx, s.period)
				require.NoError(t, err)
				assert.Equal(t, []any{true, s.practice}, []any{found, p.ID})
				_, found, err = s.PracticeOf(ctx, uuid.New())
				require.NoError(t, err)
				assert.False(t, found)
				placed, err := s.Placed(ctx, []uuid.UUID{b.ID, uuid.New(), s.foreign})
				require.NoError(t, err)
				assert.Equal(t, []script.PlacedOn{{Placement: b, PracticeID: s.practice, On: testkit.Day}}, placed)
				n, found, err := s.Next(ctx, s.season, "ol", testkit.Day)
				require.NoError(t, err)
				require.True(t, found)
				assert.Equal(t, s.practice, n.Practice.ID)
				assert.Equal(t, []script.Placement{b}, n.Placements())
				for group, from := range map[string]season.Date{"db": testkit.Day, "ol": testkit.Day + 1} {
					_, found, err = s.Next(ctx, s.season, group, from)
					require.NoError(t, err)
					assert.False(t, found, group)
				}
				return nil
			}))
			if s.other != nil {
				require.NoError(t, s.other(func(ctx context.Context) error {
					_, found, err := s.Practice(ctx, s.practice)
					require.NoError(t, err)
					assert.False(t, found)
					list, err := s.Script(ctx, s.practice)
					require.NoError(t, err)
					assert.Empty(t, list)
					placed, err := s.Placed(ctx, []uuid.UUID{b.ID})
					require.NoError(t, err)
					assert.Empty(t, placed)
					return nil
				}))
			}
		})
	}
}

// period0 is a period without what every save changes.
func period0(p script.Period) script.Period {
	p.Version, p.Placements, p.Since = 0, nil, nil
	return p
}

// TestTheDatabaseRefusesDrillsOverEachOther: the last line of defence behind the rules.
func TestTheDatabaseRefusesDrillsOverEachOther(t *testing.T) {
	s := inPostgres(t)
	err := s.in(func(ctx context.Context) error {
		return s.Replace(ctx, s.period, []string{"ol"}, s.by, testkit.Now(), []script.Placement{
			{ID: uuid.New(), Group: "ol", DrillKey: "a", Start: 0, Minutes: 5, Lanes: 1}, {ID: uuid.New(), Group: "ol", DrillKey: "b", Start: 4, Minutes: 5, Lanes: 1}})
	})
	require.Error(t, err)
	require.ErrorContains(t, meaning(err), "lie over each other")
	boom := errors.New("boom")
	require.ErrorIs(t, s.in(func(ctx context.Context) error {
		require.NoError(t, s.Replace(ctx, s.period, []string{"ol"}, s.by, testkit.Now(), []script.Placement{{ID: uuid.New(), Group: "ol", DrillKey: "a", Start: 0, Minutes: 5, Lanes: 1}}))
		return boom
	}), boom)
	require.NoError(t, s.in(func(ctx context.Context) error {
		e, _, err := s.Period(ctx, s.period)
		assert.Empty(t, e.Placements, "what is given up is not kept")
		return err
	}))
}
