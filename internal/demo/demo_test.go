package demo_test

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/play"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/internal/product"
	"nineyard/library"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func TestSameSeedSameWorld(t *testing.T) {
	edition, err := library.Shipped()
	require.NoError(t, err)
	a, b := demo.Build(7, edition.Taught), demo.Build(7, edition.Taught)
	require.Equal(t, a, b)
	assert.NotEqual(t, a.ClubID, demo.Build(8, edition.Taught).ClubID)
	assert.Equal(t, a.ClubID, demo.ClubID(7))
	assert.Len(t, a.Players, 46)
	assert.Len(t, a.Users, 10)
}

// asLineCoach runs f as the line coach of the demo, in one transaction as a request does.
func asLineCoach(t *testing.T, f func(ctx context.Context, p *product.Product, c access.Coach)) *demo.World {
	t.Helper()
	app, _ := demotest.Open(t)
	w := demotest.World()
	p := product.New(product.Options{DB: app, Now: demo.Now, Demo: w.ClubID})
	var coach access.Coach
	for _, u := range w.Users {
		if u.Email == demo.LineCoachEmail {
			c, found, err := p.Access.Coach(context.Background(), u.ID)
			require.NoError(t, err)
			require.True(t, found)
			coach = c
		}
	}
	require.NoError(t, app.InClub(context.Background(), coach.Club.ID, func(ctx context.Context) error {
		f(ctx, p, coach)
		return nil
	}))
	return w
}

// TestReportsFindThePlantedTruths asks the product, not the simulator.
func TestReportsFindThePlantedTruths(t *testing.T) {
	var m contract.Matrix
	var today contract.Today
	w := asLineCoach(t, func(ctx context.Context, p *product.Product, c access.Coach) {
		var err error
		m, err = p.Players.Matrix(ctx, c, "ol", demo.Week)
		require.NoError(t, err)
		today, err = p.Today.Today(ctx, c, "ol", demo.Week)
		require.NoError(t, err)
	})
	cells := map[string]contract.Cell{}
	for _, row := range m.Players {
		for _, c := range row.Cells {
			cells[row.Player.Jersey+" "+c.Technique] = c
		}
	}
	improving := cells[demo.Improving+" kick_slide"]
	assert.Equal(t, contract.TrendImproving, improving.Trend)
	assert.True(t, improving.TrendClaimed)
	slipping := cells[demo.Slipping+" base_block"]
	assert.Equal(t, contract.TrendSlipping, slipping.Trend)
	assert.True(t, slipping.TrendClaimed)
	only := cells[demo.PracticeOnly+" close_turn"]
	assert.Equal(t, contract.CarryNotCarrying, only.Carry)
	assert.True(t, only.CarryClaimed)
	for key, c := range cells {
		if key[:2] == demo.TooFew {
			assert.Equal(t, contract.TrendTooFew, c.Trend, key)
		}
	}
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
			assert.Equal(t, contract.AvailabilityHeadHold, h.Status)
		}
	}
	faultRates(t, w)
}

// TestNothingElseIsClaimed: over all groups the screens claim the planted truths and nothing
// else. Two of them are strong enough to be said of the player over all his techniques.
func TestNothingElseIsClaimed(t *testing.T) {
	app, _ := demotest.Open(t)
	w := demotest.World()
	p := product.New(product.Options{DB: app, Now: demo.Now, Demo: w.ClubID})
	head, _, err := p.Access.Coach(context.Background(), w.Users[0].ID)
	require.NoError(t, err)
	var said []string
	require.NoError(t, app.InClub(context.Background(), w.ClubID, func(ctx context.Context) error {
		for _, g := range head.Club.Groups {
			today, err := p.Today.Today(ctx, head, g.Key, demo.Week)
			require.NoError(t, err)
			for _, v := range today.Voices {
				technique := "all"
				if v.Technique != nil {
					technique = *v.Technique
				}
				said = append(said, g.Key+" "+v.Jersey+" "+technique+" "+string(v.Kind))
			}
			m, err := p.Players.Matrix(ctx, head, g.Key, demo.Week)
			require.NoError(t, err)
			for _, row := range m.Players {
				sheet, err := p.Players.Sheet(ctx, head, row.Player.ID, g.Key, demo.Week)
				require.NoError(t, err)
				for _, line := range sheet.Techniques {
					assert.Empty(t, line.Imbalance, "%s %s", row.Player.Jersey, line.Technique)
				}
			}
		}
		return nil
	}))
	assert.ElementsMatch(t, []string{
		"ol " + demo.PracticeOnly + " close_turn not_carrying",
		"ol " + demo.Slipping + " base_block slipping",
		"ol " + demo.Improving + " kick_slide improving",
		"ol " + demo.Improving + " all improving",
	}, said)
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
			if len(m.Faults) == 1 && m.Faults[0] == (demo.Fault{Key: fault}) {
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

// TestTheDemoServesNothingButItself: it lets everybody in without a password.
func TestTheDemoServesNothingButItself(t *testing.T) {
	ctx := context.Background()
	url := pgtest.URL(t)
	_, err := pg.Migrate(ctx, url)
	require.NoError(t, err)
	owner, err := pg.OpenOwner(url, 4)
	require.NoError(t, err)
	t.Cleanup(func() { _ = owner.Close() })
	real := access.Founding{Club: "Dunmere", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "H. Coach", Email: "h@dunmere.example", Password: "a long enough one"}
	_, err = access.Found(ctx, owner, real)
	require.NoError(t, err)
	assert.ErrorIs(t, demo.Load(ctx, owner, demotest.World()), demo.ErrForeign)
}

// TestADatabaseWithAnotherClubBesideTheDemoIsRefused too: the other club's would be as open.
func TestADatabaseWithAnotherClubBesideTheDemoIsRefused(t *testing.T) {
	ctx := context.Background()
	_, owner := demotest.Open(t)
	require.NoError(t, demo.Load(ctx, owner, demotest.World()), "its own is left as it is")
	_, err := access.Found(ctx, owner, access.Founding{Club: "Dunmere", Timezone: "UTC", SeasonStart: "2026-08-31", Weeks: 9, Name: "H. Coach", Email: "h@dunmere.example", Password: "a long enough one"})
	require.NoError(t, err)
	assert.ErrorIs(t, demo.Load(ctx, owner, demotest.World()), demo.ErrForeign)
}

// TestTwoDemosAtOnceBothComeUp on an empty database, as two terminals do.
func TestTwoDemosAtOnceBothComeUp(t *testing.T) {
	ctx := context.Background()
	url := pgtest.URL(t)
	var wait sync.WaitGroup
	errs := make([]error, 2)
	for i := range errs {
		wait.Go(func() {
			if _, errs[i] = pg.Migrate(ctx, url); errs[i] != nil {
				return
			}
			owner, err := pg.OpenOwner(url, 2)
			if errs[i] = err; err == nil {
				errs[i] = errors.Join(demo.Load(ctx, owner, demotest.World()), owner.Close())
			}
		})
	}
	wait.Wait()
	require.NoError(t, errors.Join(errs...))
}

// TestPlaysFollowEachOther: a drive begins with a first down, and every play lies where the one before left the ball.
func TestPlaysFollowEachOther(t *testing.T) {
	w := demotest.World()
	for i, p := range w.Plays[1:] {
		before := w.Plays[i]
		if p.GameID != before.GameID || p.Drive != before.Drive {
			assert.Equal(t, 1, *p.Down, "play %d", p.Number)
			continue
		}
		next := play.Next(play.Play{Down: *before.Down, Distance: before.Distance, Spot: before.Spot, Gain: before.Gain})
		assert.Equal(t, []any{next.Down, next.Distance, next.Spot}, []any{*p.Down, p.Distance, p.Spot}, "play %d", p.Number)
	}
}
