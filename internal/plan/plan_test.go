package plan

import (
	"context"
	"errors"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

// bench is the service over memory, with nine players of the line.
type bench struct {
	*Service
	memory           *memory
	practice, period uuid.UUID
	coach            access.Coach
	squad            testkit.Squad
}

func open(t *testing.T) *bench {
	s := inMemory(t)
	b := &bench{memory: s.Store.(*memory), practice: s.practice, period: s.period, coach: testkit.Coach("ol"), squad: testkit.Line("ol", 9)}
	b.Service = &Service{Store: s.Store, Scripts: s.Store.(Scripts), Calendar: s.Store.(Calendar), Sets: s.Store.(Sets), Templates: s.Store.(Templates), Conditions: s.Store.(Conditions), Houses: testkit.Shipped(t), Squad: b.squad, Standings: testkit.Standings{At: standing.Group{Stage: 2}}, Now: testkit.Now}
	return b
}

func drill(id uuid.UUID, key string, start, minutes int) contract.PlacementInput {
	return contract.PlacementInput{ID: id, Drill: key, Start: start, Minutes: minutes, Lanes: 3}
}

func (b *bench) put(version int, drills ...contract.PlacementInput) (contract.Period, error) {
	return b.PutPlacements(context.Background(), b.coach, b.period, "", version, contract.PutPlacementsJSONRequestBody{Placements: drills})
}

func field(t *testing.T, err error) string {
	t.Helper()
	e, ok := invalid.As(err)
	require.True(t, ok, "%v", err)
	return e.Field
}

func TestAPlanIsSavedAgainstWhatWasRead(t *testing.T) {
	b := open(t)
	id := uuid.New()
	e, err := b.put(1, drill(id, "pull_bag", 0, 5))
	require.NoError(t, err)
	assert.Equal(t, 2, e.Version)
	require.Len(t, e.Placements, 1)
	assert.Equal(t, "Pull and kick the bag", e.Placements[0].Name)
	assert.Equal(t, 9, e.Placements[0].Reps.Players)
	e, err = b.put(1, drill(id, "pull_bag", 0, 5))
	require.NoError(t, err, "sent again after a lost answer")
	assert.Equal(t, 2, e.Version)
	_, err = b.put(1, drill(id, "pull_bag", 0, 7))
	var stale *problem.Stale
	require.True(t, errors.As(err, &stale))
	assert.Equal(t, "H. Coach", stale.By)
	assert.Equal(t, 5, stale.Current.(contract.Period).Placements[0].Minutes)
	_, err = b.put(2, drill(id, "pull_bag", 0, 7))
	require.NoError(t, err)

	other := testkit.Coach("db")
	_, err = b.PutPlacements(context.Background(), other, b.period, "", 3, contract.PutPlacementsJSONRequestBody{})
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = b.PutPlacements(context.Background(), b.coach, uuid.New(), "", 1, contract.PutPlacementsJSONRequestBody{})
	require.ErrorIs(t, err, problem.ErrNotFound)
}

func TestAPlanThatCannotBeNamesItsField(t *testing.T) {
	b := open(t)
	id := uuid.New()
	wrong := "kick_slide"
	h, err := b.Houses.Of(context.Background(), b.coach)
	require.NoError(t, err)
	d, _ := h.Library.Drill("ol_run_look")
	look := d.Cards
	for want, drills := range map[string][]contract.PlacementInput{
		"placements[0].drill":     {drill(id, "pedal_line", 0, 5)},
		"placements[1].id":        {drill(id, "pull_bag", 0, 5), drill(id, "pull_bag", 5, 5)},
		"placements[1].start":     {drill(uuid.New(), "pull_bag", 0, 5), drill(id, "base_fit", 4, 5)},
		"placements[0].minutes":   {drill(id, "pull_bag", 0, 25)},
		"placements[0].cards":     {{ID: id, Drill: "ol_run_look", Start: 0, Minutes: 5, Lanes: 1, Cards: &[]string{"gone"}}},
		"placements[1].cards":     {drill(uuid.New(), "base_fit", 5, 5), {ID: id, Drill: "ol_run_look", Start: 0, Minutes: 5, Lanes: 1, Cards: &[]string{look[0].Key, look[0].Key}}},
		"placements[0].technique": {{ID: id, Drill: "pull_bag", Start: 0, Minutes: 5, Lanes: 3, Technique: &wrong}},
	} {
		_, err := b.put(1, drills...)
		assert.Equal(t, want, field(t, err))
	}
	m := b.memory
	m.periods[0].Placements = []script.Placement{{ID: id, Group: "ol", DrillKey: "pull_bag", Start: 0, Minutes: 5, Lanes: 3, Marks: 4}}
	for _, drills := range [][]contract.PlacementInput{{}, {drill(id, "base_fit", 0, 5)}} {
		_, err := b.put(1, drills...)
		require.ErrorContains(t, err, "has 4 marks and stays on the record")
	}
	m.periods[0].Kind = "team"
	_, err = b.put(1)
	assert.Equal(t, "id", field(t, err))
}

// TestCardsInAnOrderOfTheirOwn: a drill that is placed shows the cards that the coach wants, in his order.
func TestCardsInAnOrderOfTheirOwn(t *testing.T) {
	b := open(t)
	h, err := b.Houses.Of(context.Background(), b.coach)
	require.NoError(t, err)
	d, _ := h.Library.Drill("ol_run_look")
	order := []string{d.Cards[2].Key, d.Cards[0].Key}
	in := drill(uuid.New(), "ol_run_look", 0, 6)
	in.Lanes, in.Cards = 1, &order
	e, err := b.put(1, in)
	require.NoError(t, err)
	assert.Equal(t, &order, e.Placements[0].Cards)
	same, err := b.put(1, in)
	require.NoError(t, err, "sent again")
	assert.Equal(t, 2, same.Version)
	in.Cards = &[]string{}
	e, err = b.put(2, in)
	require.NoError(t, err)
	assert.Equal(t, 3, e.Version, "another order is a change")
	assert.Nil(t, e.Placements[0].Cards, "as the library has them")
}

// TestAttendanceIsThatOfTheDay: who is out on the day of the practice is in no count of it.
func TestAttendanceIsThatOfTheDay(t *testing.T) {
	b := open(t)
	out := b.squad.Players[0].ID
	b.squad.Status = func(p squad.Player, day season.Date) availability.Status {
		switch {
		case p.ID == out && day == testkit.Day:
			return availability.Out
		case p.ID == b.squad.Players[1].ID:
			return availability.Limited
		}
		return availability.Available
	}
	b.Squad = b.squad
	p, err := b.Practice(context.Background(), b.coach, b.practice, "ol")
	require.NoError(t, err)
	assert.Equal(t, []int{8, 1, 7}, []int{p.Players, p.Limited, p.Week})
	assert.Len(t, p.Held, 2)
	assert.True(t, p.Editable)
	e, err := b.put(1, drill(uuid.New(), "pull_bag", 0, 5))
	require.NoError(t, err)
	assert.Equal(t, 8, e.Placements[0].Reps.Players, "the limited one helps at the bag")
	m := b.memory
	day := m.practices[b.practice]
	day.On++
	m.practices[b.practice] = day
	p, err = b.Practice(context.Background(), b.coach, b.practice, "ol")
	require.NoError(t, err)
	assert.Equal(t, 9, p.Players, "the day after he is back")
	for _, id := range []uuid.UUID{uuid.New(), b.practice} {
		group := "ol"
		if id == b.practice {
			group = "xx"
		}
		_, err = b.Practice(context.Background(), b.coach, id, group)
		require.ErrorIs(t, err, problem.ErrNotFound)
	}
}

func TestPreviewAndRotation(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	ask := func(players, limited int, key string) ([]contract.Reps, error) {
		return b.PreviewReps(ctx, b.coach, contract.PreviewRepsJSONRequestBody{Players: players, Limited: limited, Drills: []contract.PreviewDrill{{Drill: key, Minutes: 5, Lanes: 2}}})
	}
	r, err := ask(9, 1, "pull_bag")
	require.NoError(t, err)
	assert.Positive(t, r[0].Min)
	_, err = ask(3, 4, "pull_bag")
	assert.Equal(t, "limited", field(t, err))
	_, err = ask(3, 0, "none")
	assert.Equal(t, "drills[0].drill", field(t, err))

	id := uuid.New()
	_, err = b.put(1, drill(id, "pull_bag", 0, 5))
	require.NoError(t, err)
	rotation, err := b.Rotation(ctx, b.coach, b.practice, id)
	require.NoError(t, err)
	require.Len(t, rotation.Rows, 9)
	for _, row := range rotation.Rows {
		assert.Len(t, row.Roles, rotation.Cycles)
		assert.Equal(t, row.Working, row.Left+row.Right, "a drill of two sides")
		assert.Equal(t, rotation.Cycles, row.Working+row.Helping+row.Waiting)
	}
	_, err = b.Rotation(ctx, b.coach, uuid.New(), id)
	require.ErrorIs(t, err, problem.ErrNotFound)
	b.Squad = testkit.Line("ol", 1)
	rotation, err = b.Rotation(ctx, b.coach, b.practice, id)
	require.NoError(t, err)
	assert.Empty(t, rotation.Rows, "too few; the reps say so")
}

func TestAFixIsPutInOnceAndSaysWhatItShortened(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	id := uuid.New()
	first, err := b.Fix(ctx, b.coach, "ol", id, "close_second_behind")
	require.NoError(t, err)
	again, err := b.Fix(ctx, b.coach, "ol", id, "close_second_behind")
	require.NoError(t, err)
	assert.Equal(t, first.Drill, again.Drill)
	assert.Equal(t, first.Minutes, again.Minutes)
	e, _, _ := b.Store.Period(ctx, b.period)
	require.Len(t, e.Placements, 1)
	h, _ := b.Houses.Of(ctx, b.coach)
	d, _ := h.Library.Drill(e.Placements[0].DrillKey)
	assert.Contains(t, d.WorksOn, "close_second_behind")

	shortened := 0
	for range 6 {
		f, err := b.Fix(ctx, b.coach, "ol", uuid.New(), "base_hands_wide")
		if err != nil {
			assert.Equal(t, "fault", field(t, err))
			assert.ErrorContains(t, err, "no room for")
			break
		}
		shortened += len(f.Shortened)
	}
	assert.Positive(t, shortened)
	e, _, _ = b.Store.Period(ctx, b.period)
	for _, p := range e.Placements {
		assert.GreaterOrEqual(t, p.Minutes, 3)
	}

	// What was put in can be taken back as it was, and done again.
	full := e.Placements
	_, err = b.put(e.Version, inputs(full[:1])...)
	require.NoError(t, err)
	in, err := b.Fix(ctx, b.coach, "ol", uuid.New(), "base_hands_wide")
	require.NoError(t, err)
	require.NotNil(t, in.PutIn)
	assert.Equal(t, b.period, in.PutIn.PeriodID)
	assert.Len(t, in.PutIn.Before, 1)
	assert.Len(t, in.PutIn.After, 2)
	back, err := b.put(in.PutIn.Version, in.PutIn.Before...)
	require.NoError(t, err)
	require.Len(t, back.Placements, 1)
	assert.Equal(t, full[0].Minutes, back.Placements[0].Minutes)
	_, err = b.put(back.Version, in.PutIn.After...)
	require.NoError(t, err)

	_, err = b.Fix(ctx, b.coach, "ol", uuid.New(), "pd_rises")
	assert.Equal(t, "fault", field(t, err), "a fault of another group")
	_, err = b.Fix(ctx, b.coach, "xx", uuid.New(), "base_hands_wide")
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Fix(ctx, testkit.Coach("db"), "ol", uuid.New(), "base_hands_wide")
	require.ErrorIs(t, err, problem.ErrForbidden)
	b.memory.periods = nil
	_, err = b.Fix(ctx, b.coach, "ol", uuid.New(), "base_hands_wide")
	require.ErrorIs(t, err, ErrNoPractice)
	said, ok := Word(err)
	assert.True(t, ok)
	assert.Equal(t, "group", said.Field)
}

// TestMovingALadder: the drill of the group's stage takes the place of the ladder's drill
// that stands there, and who showed a safety fault lately is named before contact.
func TestMovingALadder(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	h, _ := b.Houses.Of(ctx, b.coach)
	ld, ok := h.Library.Ladder("base_ladder")
	require.True(t, ok)
	held := b.squad.Players[0]
	at := 0
	for i, st := range ld.Stages {
		for _, k := range st.Drills {
			if d, ok := h.Library.Drill(k); ok && d.Contact == "control" && at == 0 {
				at = i
			}
		}
	}
	require.Positive(t, at)
	b.Standings = testkit.Standings{At: standing.Group{Stage: at, Held: []standing.Held{{Player: held.ID, Why: "ducks the head, 12 Oct"}}}}
	_, err := b.put(1, drill(uuid.New(), ld.Stages[0].Drills[0], 0, 5))
	require.NoError(t, err)
	m, err := b.MoveLadder(ctx, b.coach, "ol", "base_ladder", uuid.New())
	require.NoError(t, err)
	assert.NotEmpty(t, m.Replaced)
	assert.Equal(t, 5, m.Minutes)
	require.NotNil(t, m.PutIn)
	assert.Equal(t, ld.Stages[0].Drills[0], m.PutIn.Before[0].Drill)
	assert.NotEqual(t, m.PutIn.Before[0].Drill, m.PutIn.After[0].Drill)
	require.Len(t, m.KeepOut, 1)
	assert.Contains(t, m.KeepOut[0], "60 Player0 (ducks the head, 12 Oct)")
	m, err = b.MoveLadder(ctx, b.coach, "ol", "base_ladder", uuid.New())
	require.NoError(t, err)
	assert.True(t, m.Already)
	assert.Nil(t, m.PutIn, "nothing was changed")
	_, err = b.put(3)
	require.NoError(t, err)
	m, err = b.MoveLadder(ctx, b.coach, "ol", "base_ladder", uuid.New())
	require.NoError(t, err)
	assert.Empty(t, m.Replaced, "put in where nothing stood")
	assert.Positive(t, m.Minutes)

	_, err = b.MoveLadder(ctx, b.coach, "ol", "pedal_ladder", uuid.New())
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.MoveLadder(ctx, testkit.Coach("db"), "ol", "base_ladder", uuid.New())
	require.ErrorIs(t, err, problem.ErrForbidden)
	b.Squad = testkit.Line("ol", 0)
	_, err = b.MoveLadder(ctx, b.coach, "ol", "base_ladder", uuid.New())
	assert.Equal(t, "ladder", field(t, err))
}

func TestFrame(t *testing.T) {
	b := open(t)
	f, err := b.Frame(context.Background(), b.coach)
	require.NoError(t, err)
	assert.Equal(t, []any{"Marrow Point", "2026-10-13", 7}, []any{f.Club, f.Today, f.Week})
	assert.Len(t, f.Groups, 9)
	assert.True(t, f.Groups[0].Mine)
	assert.False(t, f.Groups[1].Mine)
	assert.Len(t, f.Weeks, 9)
	assert.Len(t, f.Weeks[6].Practices, 1)
	assert.Equal(t, "Dunmere", f.Weeks[6].Games[0].Opponent)
}
