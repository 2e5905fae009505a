package calls

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/call"
	"nineyard/core/group"
	"nineyard/core/lineup"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory.
type memory struct {
	calls   map[uuid.UUID]Entry
	lineUps []LineUp
}

func (m *memory) Calls(context.Context, uuid.UUID) ([]Entry, error) {
	var list []Entry
	for _, e := range m.calls {
		list = append(list, e)
	}
	return list, nil
}

func (m *memory) Call(_ context.Context, id uuid.UUID) (Entry, bool, error) {
	e, found := m.calls[id]
	e.ID = id
	return e, found, nil
}

func (m *memory) PutCall(_ context.Context, _ uuid.UUID, e Entry, _ uuid.UUID, _ time.Time) error {
	e.Version++
	e.ChangedBy = "H. Coach"
	m.calls[e.ID] = e
	return nil
}

func (m *memory) DeleteCall(_ context.Context, id uuid.UUID) error {
	delete(m.calls, id)
	return nil
}

func (m *memory) LineUps(_ context.Context, _ uuid.UUID, week int) ([]LineUp, error) {
	newest, holds := map[string]int{}, map[string]LineUp{}
	for _, l := range m.lineUps {
		newest[l.Group] = max(newest[l.Group], l.Version)
		if h, ok := holds[l.Group]; l.Week <= week && (!ok || l.Week >= h.Week) {
			holds[l.Group] = l
		}
	}
	var list []LineUp
	for g, v := range newest {
		l := holds[g]
		l.Group, l.Version = g, v
		list = append(list, l)
	}
	return list, nil
}

func (m *memory) PutLineUp(_ context.Context, _ uuid.UUID, l LineUp, _ uuid.UUID, _ time.Time) (bool, error) {
	for _, x := range m.lineUps {
		if x.Group == l.Group && x.Version >= l.Version {
			return false, nil
		}
	}
	l.ChangedBy = "H. Coach"
	m.lineUps = append(slices.DeleteFunc(m.lineUps, func(x LineUp) bool { return x.Group == l.Group && x.Week == l.Week }), l)
	return true, nil
}

// shelf is a store with what it needs to be tested.
type shelf struct {
	Store
	season, by, player uuid.UUID
	in                 func(func(ctx context.Context) error) error
	other              func(func(ctx context.Context) error) error // of another club; nil in memory
}

func inMemory(*testing.T) shelf {
	return shelf{Store: &memory{calls: map[uuid.UUID]Entry{}}, season: uuid.New(), by: uuid.New(), player: uuid.New(), in: func(do func(context.Context) error) error { return do(context.Background()) }}
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	return shelf{Store: SQL{}, season: f.Season.ID, by: f.HeadCoach, player: f.Player, in: f.In, other: f.InOther}
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			in := func(do func(ctx context.Context) error) {
				t.Helper()
				require.NoError(t, s.in(do))
			}
			day := testkit.Day + 3
			e := Entry{ID: uuid.New(), Call: call.Call{Name: "Lead left", Side: group.Offense, Kind: "run", Aliases: []string{"power"}, Tags: []string{"gap"}, Share: 12, Install: &day,
				Needs: []call.Need{{Group: "ol", Technique: "base_block", Stage: "bag", Spots: []string{"LG"}}, {Group: "ol", Technique: "pull_kick"}}}}
			in(func(ctx context.Context) error { return s.PutCall(ctx, s.season, e, s.by, testkit.Now()) })
			e.Version, e.ChangedBy = 1, "H. Coach"
			in(func(ctx context.Context) error {
				list, err := s.Calls(ctx, s.season)
				assert.Equal(t, []Entry{e}, list)
				return err
			})
			e.Call.Install, e.Call.Share = nil, 0
			in(func(ctx context.Context) error { return s.PutCall(ctx, s.season, e, s.by, testkit.Now()) })
			e.Version = 2
			in(func(ctx context.Context) error {
				got, found, err := s.Call(ctx, e.ID)
				assert.True(t, found)
				assert.Equal(t, e, got)
				_, found, _ = s.Call(ctx, uuid.New())
				assert.False(t, found)
				return err
			})

			l := LineUp{Group: "ol", Week: 3, Version: 1, Spots: lineup.LineUp{{Name: "LG", Players: []lineup.Place{{Player: s.player.String(), Share: 80}}}}}
			put := func(l LineUp) (done bool) {
				in(func(ctx context.Context) (err error) {
					done, err = s.PutLineUp(ctx, s.season, l, s.by, testkit.Now())
					return err
				})
				return done
			}
			assert.True(t, put(l))
			assert.False(t, put(l), "the same version again")
			later := LineUp{Group: "ol", Week: 6, Version: 2, Spots: lineup.LineUp{{Name: "C"}}}
			assert.True(t, put(later))
			holds := func(week int) (got LineUp) {
				in(func(ctx context.Context) error {
					list, err := s.LineUps(ctx, s.season, week)
					require.Len(t, list, 1)
					got = list[0]
					return err
				})
				return got
			}
			l.Version, l.ChangedBy, later.ChangedBy = 2, "H. Coach", "H. Coach"
			assert.Equal(t, l, holds(5), "carried from week to week; the version is the newest's")
			assert.Equal(t, later, holds(9))
			assert.Equal(t, LineUp{Group: "ol", Version: 2}, holds(2), "before it was made")

			in(func(ctx context.Context) error { return s.DeleteCall(ctx, e.ID) })
			in(func(ctx context.Context) error {
				_, found, err := s.Call(ctx, e.ID)
				assert.False(t, found)
				return err
			})
			if s.other == nil {
				return
			}
			require.NoError(t, s.other(func(ctx context.Context) error {
				list, err := s.LineUps(ctx, s.season, 9)
				assert.Empty(t, list, "another club sees none")
				return err
			}))
		})
	}
}

// TestAPlayerWhoWasTwo: who was merged into another stands in the line-up as that one.
func TestAPlayerWhoWasTwo(t *testing.T) {
	f := testkit.OpenField(t)
	store := SQL{}
	require.NoError(t, f.In(func(ctx context.Context) error {
		if _, err := store.PutLineUp(ctx, f.Season.ID, LineUp{Group: "ol", Week: 1, Version: 1, Spots: lineup.LineUp{{Name: "LG", Players: []lineup.Place{{Player: f.Mate.String(), Share: 80}}}}}, f.HeadCoach, testkit.Now()); err != nil {
			return err
		}
		_, err := pg.Exec(ctx, `SELECT merge_players(@gone, @kept)`, pg.Args{"gone": f.Mate, "kept": f.Player})
		return err
	}))
	require.NoError(t, f.In(func(ctx context.Context) error {
		list, err := store.LineUps(ctx, f.Season.ID, 7)
		require.Len(t, list, 1)
		assert.Equal(t, f.Player.String(), list[0].Spots[0].Players[0].Player)
		return err
	}))
	require.ErrorIs(t, f.In(func(ctx context.Context) error {
		e := Entry{ID: uuid.New(), Call: call.Call{Name: "A", Side: group.Offense}}
		require.NoError(t, store.PutCall(ctx, f.Season.ID, e, f.HeadCoach, testkit.Now()))
		return pg.Meaning(store.PutCall(ctx, f.Season.ID, e, f.HeadCoach, testkit.Now()))
	}), problem.ErrTaken)
}
