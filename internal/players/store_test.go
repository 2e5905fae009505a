package players

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/players/standing"
	"nineyard/internal/testkit"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// memory is the Store in memory.
type memory struct {
	overrides []kept[Override]
	ranges    []kept[NewRange]
}

type kept[T any] struct {
	value     T
	season    uuid.UUID
	withdrawn bool
}

const coachName = "H. Coach"

func (m *memory) Decisions(ctx context.Context, season uuid.UUID) (Decisions, error) {
	list := []Override{}
	for _, h := range m.overrides {
		if h.season == season && !h.withdrawn {
			o := h.value
			o.By, o.ByName = uuid.Nil, coachName
			list = append(list, o)
		}
	}
	ranges, err := m.Ranges(ctx)
	return Decisions{Overrides: list, Ranges: ranges}, err
}

func (m *memory) AddOverride(_ context.Context, season uuid.UUID, o Override) error {
	for _, h := range m.overrides {
		if h.value.ID == o.ID {
			return nil
		}
		if !h.withdrawn && h.season == season && h.value.PlayerID == o.PlayerID && h.value.LadderKey == o.LadderKey && h.value.StageKey == o.StageKey {
			return invalid.Field("stage", "the player was let pass this stage before")
		}
	}
	m.overrides = append(m.overrides, kept[Override]{value: o, season: season})
	return nil
}

func (m *memory) WithdrawOverride(_ context.Context, id uuid.UUID, _ time.Time) (Override, bool, error) {
	for i := range m.overrides {
		if h := &m.overrides[i]; h.value.ID == id && !h.withdrawn {
			h.withdrawn = true
			return h.value, true, nil
		}
	}
	return Override{}, false, nil
}

func (m *memory) Ranges(context.Context) ([]standing.Range, error) {
	list := []standing.Range{}
	for _, h := range m.ranges {
		if r := h.value; !h.withdrawn {
			list = append(list, standing.Range{ID: r.ID, PlayerID: r.PlayerID, Checkpoint: r.Checkpoint, Own: r.Own, Reason: r.Reason, By: coachName, On: season.Of(r.At)})
		}
	}
	return list, nil
}

func (m *memory) PutRange(ctx context.Context, r NewRange) error {
	for _, h := range m.ranges {
		if h.value.ID == r.ID {
			return nil
		}
	}
	_, err := m.WithdrawRange(ctx, r.PlayerID, r.Checkpoint, r.At)
	m.ranges = append(m.ranges, kept[NewRange]{value: r})
	return err
}

func (m *memory) WithdrawRange(_ context.Context, player uuid.UUID, checkpoint string, _ time.Time) (bool, error) {
	for i := range m.ranges {
		if h := &m.ranges[i]; h.value.PlayerID == player && h.value.Checkpoint == checkpoint && !h.withdrawn {
			h.withdrawn = true
			return true, nil
		}
	}
	return false, nil
}

// shelf is a Store with two players of a club.
type shelf struct {
	Store
	season, player, mate, by uuid.UUID
	in                       func(func(ctx context.Context) error) error
}

func inMemory(*testing.T) shelf {
	return shelf{Store: &memory{}, season: uuid.New(), player: uuid.New(), mate: uuid.New(), by: uuid.New(),
		in: func(do func(context.Context) error) error { return do(context.Background()) }}
}

func inPostgres(t *testing.T) shelf {
	f := testkit.OpenField(t)
	return shelf{Store: SQL{}, season: f.Season.ID, player: f.Player, mate: f.Mate, by: f.HeadCoach, in: func(do func(context.Context) error) error { return pg.Meaning(f.In(do)) }}
}

// TestStore holds every Store to the same contract.
func TestStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			o := Override{ID: uuid.New(), PlayerID: s.player, LadderKey: "base_ladder", StageKey: "fit", On: testkit.Day, Reason: "spring", By: s.by, At: testkit.Now()}
			require.NoError(t, s.in(func(ctx context.Context) error {
				require.NoError(t, s.AddOverride(ctx, s.season, o))
				require.NoError(t, s.AddOverride(ctx, s.season, o), "the same id again changes nothing")
				d, err := s.Decisions(ctx, s.season)
				require.NoError(t, err)
				require.Len(t, d.Overrides, 1)
				assert.Empty(t, d.Ranges)
				got := d.Overrides[0]
				assert.Equal(t, []any{o.ID, s.player, "base_ladder", "fit", testkit.Day, "spring", coachName}, []any{got.ID, got.PlayerID, got.LadderKey, got.StageKey, got.On, got.Reason, got.ByName})
				other, err := s.Decisions(ctx, uuid.New())
				require.NoError(t, err)
				assert.Empty(t, other.Overrides, "another season")
				return nil
			}))
			twice := o
			twice.ID = uuid.New()
			err := s.in(func(ctx context.Context) error { return s.AddOverride(ctx, s.season, twice) })
			e, ok := invalid.As(err)
			require.True(t, ok, "%v", err)
			assert.Equal(t, "stage", e.Field)
			require.NoError(t, s.in(func(ctx context.Context) error {
				back, found, err := s.WithdrawOverride(ctx, o.ID, testkit.Now())
				require.NoError(t, err)
				assert.True(t, found)
				assert.Equal(t, s.player, back.PlayerID)
				_, found, err = s.WithdrawOverride(ctx, o.ID, testkit.Now())
				require.NoError(t, err)
				assert.False(t, found)
				require.NoError(t, s.AddOverride(ctx, s.season, twice), "he may be let pass again")

				r := NewRange{ID: uuid.New(), PlayerID: s.player, Checkpoint: "base_first", Own: standard.OwnRange{OK: standard.Band{Low: 6, High: 9}, Watch: standard.Band{Low: 4, High: 12}},
					Reason: "long legs", By: s.by, At: testkit.Now()}
				require.NoError(t, s.PutRange(ctx, r))
				wider := r
				wider.ID, wider.Own.OK.High = uuid.New(), 10
				require.NoError(t, s.PutRange(ctx, wider))
				require.NoError(t, s.PutRange(ctx, r), "the first sent again changes nothing")
				list, err := s.Ranges(ctx)
				require.NoError(t, err)
				assert.Equal(t, []standing.Range{{ID: wider.ID, PlayerID: s.player, Checkpoint: "base_first", Own: wider.Own, Reason: "long legs", By: coachName, On: testkit.Day}}, list)
				d, err := s.Decisions(ctx, s.season)
				require.NoError(t, err)
				assert.Equal(t, list, d.Ranges)
				assert.Len(t, d.Overrides, 1)
				for _, want := range []bool{true, false} {
					found, err = s.WithdrawRange(ctx, s.player, "base_first", testkit.Now())
					require.NoError(t, err)
					assert.Equal(t, want, found)
				}
				found, err = s.WithdrawRange(ctx, s.mate, "base_first", testkit.Now())
				require.NoError(t, err)
				assert.False(t, found)
				return nil
			}))
		})
	}
}
