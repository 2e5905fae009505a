package plan

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/season"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func (m *memory) Sets(_ context.Context, group string) ([]Set, error) {
	var list []Set
	for _, s := range m.sets {
		if s.Group == group {
			list = append(list, s)
		}
	}
	slices.SortFunc(list, func(a, b Set) int {
		if a.EveryDay != b.EveryDay {
			return map[bool]int{true: -1, false: 1}[a.EveryDay]
		}
		return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
	})
	return list, nil
}

func (m *memory) Set(_ context.Context, id uuid.UUID) (Set, bool, error) {
	for _, s := range m.sets {
		if s.ID == id {
			return s, true, nil
		}
	}
	return Set{ID: id}, false, nil
}

func (m *memory) PutSet(ctx context.Context, s Set, _ uuid.UUID, _ time.Time) error {
	s.Version++
	s.ChangedBy = "H. Coach"
	_ = m.DeleteSet(ctx, s.ID)
	m.sets = append(m.sets, s)
	return nil
}

func (m *memory) DeleteSet(_ context.Context, id uuid.UUID) error {
	m.sets = slices.DeleteFunc(m.sets, func(s Set) bool { return s.ID == id })
	return nil
}

func (m *memory) Between(_ context.Context, _ uuid.UUID, group string, from, to season.Date) (list []script.PlacedOn, err error) {
	practices, _, err := m.Calendar(context.Background(), uuid.Nil)
	for _, p := range practices {
		for _, e := range m.periods {
			if e.PracticeID != p.ID || p.Cancelled != "" || p.On < from || p.On > to {
				continue
			}
			for _, x := range e.Of(group) {
				x.Marks = 0
				list = append(list, script.PlacedOn{Placement: x, PracticeID: p.ID, On: p.On, At: e.Start + x.Start, Of: p.Minutes, Kind: e.Kind})
			}
		}
	}
	return list, err
}

// TestSetStore holds every store of sets to the same contract, and what is placed from day to day.
func TestSetStore(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			sets := s.Store.(Sets)
			in := func(do func(ctx context.Context) error) {
				t.Helper()
				require.NoError(t, s.in(do))
			}
			a := Set{ID: uuid.New(), Group: "ol", Name: "Zone", Drills: []contract.SetDrill{{Drill: "pull_bag", Minutes: 5, Lanes: 2, Technique: new("pull_kick")}}}
			b := Set{ID: uuid.New(), Group: "ol", Name: "always", EveryDay: true, Drills: []contract.SetDrill{{Drill: "base_fit", Minutes: 4, Lanes: 1}}}
			for _, x := range []Set{a, b} {
				in(func(ctx context.Context) error { return sets.PutSet(ctx, x, s.by, testkit.Now()) })
			}
			a.Version, b.Version, a.ChangedBy, b.ChangedBy = 1, 1, "H. Coach", "H. Coach"
			in(func(ctx context.Context) error {
				list, err := sets.Sets(ctx, "ol")
				assert.Equal(t, []Set{b, a}, list, "what is done every day comes first")
				none, _ := sets.Sets(ctx, "db")
				assert.Empty(t, none)
				return err
			})
			a.Name = "Zone day"
			in(func(ctx context.Context) error { return sets.PutSet(ctx, a, s.by, testkit.Now()) })
			a.Version = 2
			in(func(ctx context.Context) error {
				got, found, err := sets.Set(ctx, a.ID)
				assert.True(t, found)
				assert.Equal(t, a, got)
				return err
			})
			in(func(ctx context.Context) error { return sets.DeleteSet(ctx, a.ID) })
			placed := script.Placement{ID: uuid.New(), Group: "ol", DrillKey: "pull_bag", Start: 2, Minutes: 5, Lanes: 1}
			in(func(ctx context.Context) error {
				return s.Replace(ctx, s.period, []string{"ol"}, s.by, testkit.Now(), []script.Placement{placed})
			})
			in(func(ctx context.Context) error {
				_, found, err := sets.Set(ctx, a.ID)
				assert.False(t, found)
				require.NoError(t, err)
				list, err := s.Between(ctx, s.season, "ol", testkit.Day, testkit.Day)
				assert.Equal(t, []script.PlacedOn{{Placement: placed, PracticeID: s.practice, On: testkit.Day, At: 12, Of: 90, Kind: "individual"}}, list)
				none, _ := s.Between(ctx, s.season, "ol", testkit.Day+1, testkit.Day+9)
				assert.Empty(t, none)
				return err
			})
		})
	}
}

func TestDrillsAreSavedAsASet(t *testing.T) {
	b, ctx, id := open(t), context.Background(), uuid.New()
	in := contract.DrillSetInput{Name: "First ten", EveryDay: true, Drills: []contract.SetDrill{{Drill: "pull_bag", Minutes: 5, Lanes: 2}, {Drill: "base_fit", Minutes: 5, Lanes: 2}}}
	v, err := b.PutDrillSet(ctx, b.coach, "ol", id, 0, in)
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	v, err = b.PutDrillSet(ctx, b.coach, "ol", id, 0, in)
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	keys, err := b.EveryDay(ctx, "ol")
	require.NoError(t, err)
	assert.Equal(t, []string{"pull_bag", "base_fit"}, keys)
	in.EveryDay = false
	_, err = b.PutDrillSet(ctx, b.coach, "ol", id, 0, in)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	_, err = b.PutDrillSet(ctx, b.coach, "ol", id, 1, in)
	require.NoError(t, err)
	keys, err = b.EveryDay(ctx, "ol")
	require.NoError(t, err)
	assert.Empty(t, keys)

	for want, spoil := range map[string]func(*contract.DrillSetInput){
		"name":                func(s *contract.DrillSetInput) { s.Name = " " },
		"drills[0].drill":     func(s *contract.DrillSetInput) { s.Drills[0].Drill = "pedal_line" },
		"drills[0].technique": func(s *contract.DrillSetInput) { s.Drills[0].Technique = new("kick_slide") },
	} {
		bad := contract.DrillSetInput{Name: "Other", Drills: []contract.SetDrill{{Drill: "pull_bag", Minutes: 5, Lanes: 2}}}
		spoil(&bad)
		_, err := b.PutDrillSet(ctx, b.coach, "ol", uuid.New(), 0, bad)
		assert.Equal(t, want, field(t, err))
	}
	_, err = b.PutDrillSet(ctx, b.coach, "ol", uuid.New(), 0, contract.DrillSetInput{Name: "first TEN", Drills: in.Drills})
	assert.Equal(t, "name", field(t, err), "another has the name")
	_, err = b.PutDrillSet(ctx, testkit.Coach("db"), "ol", uuid.New(), 0, in)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.PutDrillSet(ctx, testkit.Head(), "db", id, 2, in)
	require.ErrorIs(t, err, problem.ErrTaken)
	_, err = b.DrillSets(ctx, b.coach, "xx")
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.DeleteDrillSet(ctx, b.coach, "ol", id, 1)
	require.True(t, errors.As(err, &stale))
	_, err = b.DeleteDrillSet(ctx, testkit.Coach("db"), "ol", id, 2)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeleteDrillSet(ctx, b.coach, "ol", id, 2)
	require.NoError(t, err)
	list, err := b.DrillSets(ctx, b.coach, "ol")
	require.NoError(t, err)
	assert.Empty(t, list)

	w, found, err := b.Around(ctx, b.period)
	require.NoError(t, err)
	assert.True(t, found)
	assert.Len(t, w.Periods, 1)
	_, found, err = b.Around(ctx, uuid.New())
	require.NoError(t, err)
	assert.False(t, found)
}
