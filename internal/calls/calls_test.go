package calls

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

// dates are practices on Tuesday, Wednesday and Thursday of every week, twenty minutes of the line's own.
type dates struct{}

func (dates) Dates(_ context.Context, c access.Coach) (list []script.Dated, err error) {
	for d := c.Season.Start; d <= season.End(c.Season.Start, c.Season.Weeks); d++ {
		if w := d.Weekday(); w >= 2 && w <= 4 {
			list = append(list, script.Dated{On: d, Own: map[string]int{"ol": 20}})
		}
	}
	return list, nil
}

// climbers are players who have made these reps, by their number in the squad.
type climbers struct {
	squad testkit.Squad
	reps  map[int][]ladder.Rep
}

func (c climbers) Climbs(ctx context.Context, by access.Coach, group string, asOf season.Date) (standing.Climbs, error) {
	players, err := c.squad.Group(ctx, group, asOf)
	return standing.Climbs{Players: players, On: func(ld teaching.Ladder) (list []standing.Climb, err error) {
		for i, p := range players {
			in := ladder.Input{AsOf: asOf, SeasonStart: by.Season.Start}
			for _, st := range ld.Stages {
				in.Stages = append(in.Stages, st.Gate())
			}
			if ld.Technique == "base_block" {
				in.Reps = c.reps[i]
			}
			st, err := ladder.Of(in)
			if err != nil {
				return nil, err
			}
			list = append(list, standing.Climb{Player: p, Season: in, Standing: st})
		}
		return list, nil
	}}, err
}

type bench struct {
	*Service
	coach  access.Coach
	squad  testkit.Squad
	memory *memory
}

// open is a club whose first two linemen have made n clean reps in the fit of the base block on each
// of the last three days of practice.
func open(t *testing.T, n int) *bench {
	b := &bench{coach: testkit.Coach("ol"), squad: testkit.Line("ol", 5), memory: &memory{calls: map[uuid.UUID]Entry{}}}
	reps := map[int][]ladder.Rep{}
	for i := range 2 {
		for _, d := range []season.Date{testkit.Day - 7, testkit.Day - 6, testkit.Day - 5} {
			for range n {
				reps[i] = append(reps[i], ladder.Rep{Date: d, Stage: "fit", Clean: true})
			}
		}
	}
	b.Service = &Service{Store: b.memory, Houses: testkit.Shipped(t), Squad: b.squad, Plans: dates{}, Climbs: climbers{b.squad, reps}, Now: testkit.Now}
	return b
}

// unlimited has the house fit on any number of days, and ask for five of six.
func (b *bench) unlimited(t *testing.T) {
	t.Helper()
	h := *b.Houses.(testkit.Houses).House
	lib := *h.Library
	lib.Ladders = slices.Clone(lib.Ladders)
	for i := range lib.Ladders {
		if lib.Ladders[i].Technique == "base_block" {
			lib.Ladders[i].Stages = slices.Clone(lib.Ladders[i].Stages)
			st := &lib.Ladders[i].Stages[0]
			st.MaxSessions, st.Clean, st.Window = 0, 5, 6
		}
	}
	h.Library = lib.Link()
	b.Houses = testkit.Houses{House: &h}
}

func lead() contract.CallInput {
	return contract.CallInput{Name: "Lead left", Side: contract.SideOffense, Kind: "run", Aliases: []string{"power"}, Tags: []string{}, Share: 12, Install: new("2026-10-15"),
		Needs: []contract.CallNeed{{Group: "ol", Technique: "base_block", Stage: new("fit"), Spots: &[]string{"LG"}}}}
}

func field(t *testing.T, err error) string {
	t.Helper()
	e, ok := invalid.As(err)
	require.True(t, ok, "%v", err)
	return e.Field
}

func TestACallIsWritten(t *testing.T) {
	b, ctx, id := open(t, 0), context.Background(), uuid.New()
	v, err := b.PutCall(ctx, b.coach, id, 0, lead())
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	v, err = b.PutCall(ctx, b.coach, id, 0, lead())
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, v.Version)
	in := lead()
	in.Share = 20
	_, err = b.PutCall(ctx, b.coach, id, 0, in)
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	assert.Equal(t, 12, stale.Current.(contract.Call).Call.Share)
	_, err = b.PutCall(ctx, b.coach, id, 1, in)
	require.NoError(t, err)

	for name, spoil := range map[string]func(*contract.CallInput){
		"name":               func(c *contract.CallInput) { c.Name, c.Aliases = "Power", nil },
		"aliases":            func(c *contract.CallInput) { c.Name, c.Aliases = "Other", []string{"lead-left"} },
		"install":            func(c *contract.CallInput) { c.Install = new("soon") },
		"needs[0].technique": func(c *contract.CallInput) { c.Name, c.Aliases, c.Needs[0].Technique = "Other", nil, "pedal_drive" },
	} {
		in := lead()
		spoil(&in)
		_, err := b.PutCall(ctx, b.coach, uuid.New(), 0, in)
		assert.Equal(t, name, field(t, err))
	}
	_, err = b.PutCall(ctx, testkit.Coach("db"), uuid.New(), 0, lead())
	require.ErrorIs(t, err, problem.ErrForbidden, "of the other side")
	_, err = b.DeleteCall(ctx, testkit.Coach("db"), id, 2)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.DeleteCall(ctx, b.coach, id, 1)
	require.True(t, errors.As(err, &stale))
	list, err := b.Calls(ctx, b.coach)
	require.NoError(t, err)
	require.Len(t, list.Calls, 1)
	assert.True(t, list.Calls[0].Editable)
	assert.Equal(t, []contract.Side{contract.SideOffense, contract.SideUnits}, list.Sides)
	assert.NotEmpty(t, list.Teachable)
	_, err = b.DeleteCall(ctx, b.coach, id, 2)
	require.NoError(t, err)
	_, err = b.DeleteCall(ctx, b.coach, id, 2)
	require.NoError(t, err, "gone is gone")
	_, err = b.PutCall(ctx, b.coach, id, 2, lead())
	require.True(t, errors.As(err, &stale), "somebody took it out meanwhile")
}

func TestListsOfCalls(t *testing.T) {
	b, ctx := open(t, 0), context.Background()
	v, err := b.PutCall(ctx, b.coach, uuid.New(), 0, lead())
	require.NoError(t, err)
	_, csv, err := b.Export(ctx, b.coach, "csv")
	require.NoError(t, err)
	_, xlsx, err := b.Export(ctx, b.coach, "xlsx")
	require.NoError(t, err)
	for _, file := range [][]byte{csv, xlsx} {
		read, err := b.List(ctx, b.coach, bytes.NewReader(file))
		require.NoError(t, err)
		require.Len(t, read.Lines, 1)
		assert.Equal(t, contract.CallLineActionSame, read.Lines[0].Action, "what was written out is read as it was")
		assert.Equal(t, v.ID, *read.Lines[0].ID)
	}
	typed, err := b.Typed(ctx, b.coach, strings.Join([]string{
		"power | run | OL Base block > fit [LG] | 15", // the call that is called so
		"Zone left | run | OL Base block",
		"Other | run | | | | lead left",
		"Cover | zone | DB Pedal and drive",
		"Bad | | OL Nothing"}, "\n"))
	require.NoError(t, err)
	var actions []contract.CallLineAction
	for _, l := range typed.Lines {
		actions = append(actions, l.Action)
	}
	assert.Equal(t, []contract.CallLineAction{contract.CallLineActionUpdate, contract.CallLineActionCreate, contract.CallLineActionWrong, contract.CallLineActionWrong, contract.CallLineActionWrong}, actions)
	assert.Equal(t, []string{"Also called", "Side", "Needs"}, []string{*typed.Lines[2].Column, *typed.Lines[3].Column, *typed.Lines[4].Column})
	_, err = b.Typed(ctx, b.coach, strings.Repeat("a\n", 401))
	assert.Equal(t, "text", field(t, err))
	_, err = b.List(ctx, b.coach, strings.NewReader("a,b\n1,2\n"))
	assert.Equal(t, "file.columns", field(t, err))
}

// up is a line-up of the first two of the line, and the third behind the second.
func (b *bench) up(shares ...int) contract.LineUpInput {
	at := func(i, share int) contract.LineUpPlace {
		return contract.LineUpPlace{PlayerID: b.squad.Players[i].ID, Share: share}
	}
	return contract.LineUpInput{Spots: []contract.LineUpSpot{{Name: "LG", Players: []contract.LineUpPlace{at(0, shares[0])}}, {Name: "C", Players: []contract.LineUpPlace{at(1, shares[1]), at(2, shares[2])}}}}
}

func TestALineUpIsCarriedFromWeekToWeek(t *testing.T) {
	b, ctx := open(t, 0), context.Background()
	v, err := b.LineUp(ctx, b.coach, "ol", 7)
	require.NoError(t, err)
	assert.Zero(t, v.Version)
	assert.Len(t, v.Players, 5)
	v, err = b.PutLineUp(ctx, b.coach, "ol", 5, 0, b.up(100, 70, 30))
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	again, err := b.PutLineUp(ctx, b.coach, "ol", 5, 0, b.up(100, 70, 30))
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 1, again.Version)
	_, err = b.PutLineUp(ctx, b.coach, "ol", 7, 0, b.up(90, 70, 30))
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	_, err = b.PutLineUp(ctx, b.coach, "ol", 7, 1, b.up(90, 70, 30))
	require.NoError(t, err)
	share := func(week int) int {
		v, err := b.LineUp(ctx, b.coach, "ol", week)
		require.NoError(t, err)
		assert.Equal(t, 2, v.Version)
		return v.Spots[0].Players[0].Share
	}
	assert.Equal(t, []int{100, 100, 90, 90}, []int{share(5), share(6), share(7), share(8)})

	_, err = b.PutLineUp(ctx, b.coach, "ol", 7, 2, b.up(90, 80, 30))
	assert.Equal(t, "spots[1].players[1].share", field(t, err))
	stranger := b.up(1, 1, 1)
	stranger.Spots[0].Players[0].PlayerID = uuid.New()
	_, err = b.PutLineUp(ctx, b.coach, "ol", 7, 2, stranger)
	assert.Equal(t, "spots", field(t, err))
	_, err = b.PutLineUp(ctx, b.coach, "ol", 70, 2, b.up(1, 1, 1))
	assert.Equal(t, "week", field(t, err))
	_, err = b.PutLineUp(ctx, testkit.Coach("te"), "ol", 7, 2, b.up(1, 1, 1))
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.LineUp(ctx, b.coach, "xx", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	b.Squad = testkit.Squad{}
	v, err = b.LineUp(ctx, b.coach, "ol", 7)
	require.NoError(t, err)
	assert.Empty(t, v.Spots[0].Players, "who has left is not there")
}

// ready asks for one call and the ladder of the base block.
func (b *bench) ready(t *testing.T, in contract.CallInput) (contract.CallReadiness, contract.LadderReadiness, contract.CallDetail) {
	t.Helper()
	ctx, id := context.Background(), uuid.New()
	_, err := b.PutCall(ctx, b.coach, id, 0, in)
	require.NoError(t, err)
	v, err := b.Readiness(ctx, b.coach, "ol", 7)
	require.NoError(t, err)
	d, err := b.Detail(ctx, b.coach, id, 7)
	require.NoError(t, err)
	for _, l := range v.Ladders {
		if l.Technique == "base_block" {
			return v.Calls[0], l, d
		}
	}
	t.Fatal("no ladder")
	return contract.CallReadiness{}, contract.LadderReadiness{}, d
}

func TestWillWeBeReady(t *testing.T) {
	b := open(t, 2) // six clean reps of the fit: five of the last six are asked
	_, err := b.PutLineUp(context.Background(), b.coach, "ol", 1, 0, b.up(100, 70, 30))
	require.NoError(t, err)
	c, l, d := b.ready(t, lead())
	assert.Equal(t, contract.Ready, c.Verdict, "the left guard has passed the fit")
	assert.Equal(t, 2, c.Practices, "Tuesday and Wednesday, before it is installed on Thursday")
	assert.Nil(t, c.Weakest)
	assert.Nil(t, l.Call, "what it needs is there: the ladder goes on to the game")
	assert.Contains(t, l.Says, "a player to “In the group”")
	assert.Equal(t, 180, l.Minutes)
	assert.True(t, d.Needs[0].Spots[0].Players[0].Passed)
	assert.Empty(t, d.Mends)

	b = open(t, 2)
	in := lead()
	in.Needs[0].Spots = nil // the centers too: the third has made no rep
	_, err = b.PutLineUp(context.Background(), b.coach, "ol", 1, 0, b.up(100, 70, 30))
	require.NoError(t, err)
	c, l, d = b.ready(t, in)
	assert.Equal(t, contract.InDoubt, c.Verdict)
	assert.InDelta(t, .7, c.By, 1e-9, "seven snaps of ten are his who has passed")
	assert.Equal(t, "Base block at C: 70 %", *c.Weakest)
	assert.Contains(t, l.Says, "; nobody has worked on it lately, the install of Lead left is in 2")
	assert.Equal(t, "Lead left", *l.Call)
	assert.Equal(t, 40, l.Minutes)
	assert.True(t, l.Short)
	require.Len(t, d.Needs[0].Spots, 2)
	third := d.Needs[0].Spots[1].Players[1]
	assert.Equal(t, []any{false, 30, 0}, []any{third.Passed, third.Share, third.PerPractice})
	assert.Positive(t, third.Reps)
	require.Len(t, d.Mends, 1)
	assert.Equal(t, contract.Minutes, d.Mends[0].Kind)
	assert.Positive(t, *d.Mends[0].Minutes)

	b = open(t, 1) // three clean reps each, one a practice: two more are needed, as long as its days do not run out
	b.unlimited(t)
	_, err = b.PutLineUp(context.Background(), b.coach, "ol", 1, 0, b.up(100, 100, 0))
	require.NoError(t, err)
	in.Install = new("2026-10-14")
	c, _, d = b.ready(t, in)
	assert.Equal(t, contract.WillNot, c.Verdict)
	require.NotNil(t, c.Later)
	assert.Equal(t, "2026-10-14", *c.Later)
	kinds := map[contract.CallMendKind]bool{}
	for _, m := range d.Mends {
		kinds[m.Kind] = true
		if m.Kind == contract.Later {
			assert.Equal(t, "2026-10-15", *m.Day, "on the practice after it")
		}
	}
	assert.Equal(t, map[contract.CallMendKind]bool{contract.Later: true, contract.Minutes: true}, kinds)
}

func TestReadinessOfWhatIsNotSaid(t *testing.T) {
	b := open(t, 2)
	in := lead()
	in.Needs = []contract.CallNeed{}
	c, l, _ := b.ready(t, in)
	assert.Equal(t, contract.NoNeeds, c.Verdict)
	assert.Nil(t, l.Call)
	assert.Contains(t, l.Says, "9 practices left")

	b = open(t, 2)
	c, _, _ = b.ready(t, lead())
	assert.Equal(t, contract.NoLineUp, c.Verdict)

	b = open(t, 2)
	_, err := b.PutLineUp(context.Background(), b.coach, "ol", 1, 0, b.up(100, 70, 30))
	require.NoError(t, err)
	in = lead()
	in.Install, in.Needs[0].Spots, in.Needs[0].Stage = nil, nil, nil
	c, _, _ = b.ready(t, in)
	assert.Equal(t, contract.NoDay, c.Verdict)

	// Who is out makes no reps.
	b.squad.Status = func(squad.Player, season.Date) availability.Status { return availability.Out }
	b.Climbs = climbers{b.squad, nil}
	v, err := b.Readiness(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	assert.Zero(t, v.Calls[0].By)

	ctx := context.Background()
	_, err = b.Readiness(ctx, b.coach, "xx", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Readiness(ctx, b.coach, "ol", 70)
	assert.Equal(t, "week", field(t, err))
	_, err = b.Detail(ctx, b.coach, uuid.New(), 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
}
