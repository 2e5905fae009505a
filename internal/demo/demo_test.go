package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/app"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/store"
	"nineyard/library"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func TestSameSeedSameWorld(t *testing.T) {
	edition, err := library.Shipped()
	require.NoError(t, err)
	lib, err := edition.Library()
	require.NoError(t, err)
	a, b := demo.Build(7, lib), demo.Build(7, lib)
	require.Equal(t, a, b)
	assert.NotEqual(t, a.ClubID, demo.Build(8, lib).ClubID)
	assert.Len(t, a.Players, 46)
	assert.Len(t, a.Users, 9)
}

func load(t *testing.T, url string, w *demo.World) error {
	ctx := context.Background()
	st, pool, err := store.Open(url, 4)
	if err != nil {
		return err
	}
	defer func() { _ = pool.Close() }()
	if _, err := store.Migrate(ctx, pool); err != nil {
		return err
	}
	start := time.Now()
	err = demo.Load(ctx, st.DB(), w)
	took := time.Since(start)
	t.Logf("%d marks loaded in %v", len(w.Marks), took)
	assert.Less(t, took, 10*time.Second)
	return err
}

// world loads the demo and returns the service with the line coach signed in.
func world(t *testing.T) (*app.Service, app.Actor, *demo.World) {
	t.Helper()
	ctx := context.Background()
	edition, err := library.Shipped()
	require.NoError(t, err)
	lib, err := edition.Library()
	require.NoError(t, err)
	w := demo.Build(7, lib)
	st, pool, err := store.Open(pgtest.Copy(t, "demo", func(url string) error { return load(t, url, w) }), 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = pool.Close() })
	s := &app.Service{Store: st, Edition: edition, Clock: demo.Now, Demo: true}
	user, err := st.UserByEmail(ctx, demo.LineCoachEmail)
	require.NoError(t, err)
	actor, err := s.Actor(ctx, user.ID)
	require.NoError(t, err)
	return s, actor, w
}

// TestReportsFindThePlantedTruths asks the product, not the simulator.
func TestReportsFindThePlantedTruths(t *testing.T) {
	s, a, w := world(t)
	ctx := context.Background()
	m, err := s.Players(ctx, a, "ol", demo.Week)
	require.NoError(t, err)
	cells := map[string]contract.Cell{}
	for _, row := range m.Players {
		for _, c := range row.Cells {
			cells[row.Player.Jersey+" "+c.Technique] = c
		}
	}
	improving := cells[demo.Improving+" kick_slide"]
	assert.Equal(t, contract.CellTrendImproving, improving.Trend)
	assert.True(t, improving.TrendClaimed)
	slipping := cells[demo.Slipping+" base_block"]
	assert.Equal(t, contract.CellTrendSlipping, slipping.Trend)
	assert.True(t, slipping.TrendClaimed)
	only := cells[demo.PracticeOnly+" close_turn"]
	assert.Equal(t, contract.CellCarryNotCarrying, only.Carry)
	assert.True(t, only.CarryClaimed)
	for key, c := range cells {
		if key[:2] == demo.TooFew {
			assert.Equal(t, contract.CellTrendTooFew, c.Trend, key)
		}
	}
	claimed := 0
	for _, c := range cells {
		if c.TrendClaimed {
			claimed++
		}
	}
	assert.LessOrEqual(t, claimed, 6, "it does not cry wolf")

	today, err := s.Today(ctx, a, "ol", demo.Week)
	require.NoError(t, err)
	require.NotEmpty(t, today.Needs)
	top := 0
	for today.Needs[top].Safety { // safety outranks the rest, however rare
		top++
	}
	assert.Equal(t, demo.GroupFault, today.Needs[top].Fault)
	require.Len(t, today.ToGrade, 2)
	assert.Equal(t, contract.ToGradeKindGame, today.ToGrade[0].Kind)
	require.NotNil(t, today.NextPractice)
	assert.Equal(t, "2026-10-13", today.NextPractice.Practice.Date)
	for _, h := range today.Holds {
		if h.Jersey == demo.OnHold {
			assert.Equal(t, contract.Availability("medical_hold"), h.Status)
		}
	}
	faultRates(t, w)
}

// faultRates checks the two drills: one fault falls once its drill is dosed.
func faultRates(t *testing.T, w *demo.World) {
	count := func(fault, technique string, late bool) (faulty, n int) {
		days := map[string]time.Time{}
		for _, p := range w.Practices {
			days[p.ID.String()] = p.OnDate
		}
		cut := time.Date(2026, 9, 21, 0, 0, 0, 0, time.UTC) // the week after the first dose
		for _, m := range w.Marks {
			if m.TechniqueKey != technique || m.CreatedAt.After(cut) != late {
				continue
			}
			n++
			if string(m.Faults) == `[{"key":"`+fault+`"}]` {
				faulty++
			}
		}
		return faulty, n
	}
	rate := func(fault, technique string, late bool) float64 {
		f, n := count(fault, technique, late)
		return float64(f) / float64(n)
	}
	assert.Less(t, rate(demo.WorkingFor, "kick_slide", true), rate(demo.WorkingFor, "kick_slide", false)/2)
	assert.Greater(t, rate(demo.UselessFor, "two_man", true), rate(demo.UselessFor, "two_man", false)*.6)
}

// TestScreensAreQuick prints the server time of each screen's data, and the queries.
func TestScreensAreQuick(t *testing.T) {
	s, a, w := world(t)
	ctx := context.Background()
	var practice = w.Practices[18].ID
	for name, screen := range map[string]func() error{
		"frame":   func() error { _, err := s.Frame(ctx, a); return err },
		"today":   func() error { _, err := s.Today(ctx, a, "ol", demo.Week); return err },
		"players": func() error { _, err := s.Players(ctx, a, "ol", demo.Week); return err },
		"player":  func() error { _, err := s.Player(ctx, a, w.Players[3].ID, "ol", demo.Week); return err },
		"evidence": func() error {
			_, err := s.Evidence(ctx, a, w.Players[3].ID, "ol", demo.Week, "close_turn", "")
			return err
		},
		"board":    func() error { _, err := s.Board(ctx, a, "ol", demo.Week); return err },
		"library":  func() error { _, err := s.LibraryOf(ctx, a, "ol"); return err },
		"house":    func() error { _, err := s.HouseOf(ctx, a); return err },
		"find":     func() error { _, err := s.Find(ctx, a, "kik slide", "ol"); return err },
		"drill":    func() error { _, err := s.DrillPage(ctx, a, "ol", "pull_bag", nil, nil); return err },
		"practice": func() error { _, err := s.Practice(ctx, a, practice, "ol"); return err },
	} {
		require.NoError(t, screen(), name)
		start := time.Now()
		for range 10 {
			require.NoError(t, screen(), name)
		}
		t.Logf("%-9s %6.1f ms", name, float64(time.Since(start).Microseconds())/10000)
	}
}
