package players

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/growth"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

// bench is the service over memory, with a line of nine and marks as a test gives them.
type bench struct {
	*Service
	memory *memory
	coach  access.Coach
	line   testkit.Squad
	marks  testkit.Marks
}

func open(t *testing.T) *bench {
	b := &bench{memory: &memory{}, coach: testkit.Coach("ol"), line: testkit.Line("ol", 9)}
	b.Service = &Service{Store: b.memory, Houses: testkit.Shipped(t), Squad: b.line, Marks: b.marks, Plans: testkit.Plans{}, Now: testkit.Now}
	return b
}

func (b *bench) set() { b.Squad, b.Marks = b.line, b.marks }

// tally adds n reps of a player at a technique, so many days ago; faults make them faulty
// unless a teammate caused them.
func (b *bench) tally(player int, technique string, ago, n int, faults ...record.Fault) {
	who, on := b.line.Players[player].ID, testkit.Day-season.Date(ago)
	b.marks.Add(who, technique, on, false, n, faults...)
	b.marks.AllRuns = append(b.marks.AllRuns, record.Run{PlayerID: who, TechniqueKey: technique, On: on})
	b.set()
}

func (b *bench) sheet(t *testing.T, player int) contract.PlayerSheet {
	t.Helper()
	s, err := b.Sheet(context.Background(), b.coach, b.line.Players[player].ID, "ol", 7)
	require.NoError(t, err)
	return s
}

func faultsOf(s contract.PlayerSheet) (keys []string) {
	for _, f := range s.Faults {
		keys = append(keys, f.Fault)
	}
	return keys
}

// TestAFaultATeammateCausedIsCountedThere and not with the player.
func TestAFaultATeammateCausedIsCountedThere(t *testing.T) {
	b := open(t)
	mate := b.line.Players[1].ID.String()
	b.tally(0, "base_block", 3, 5, record.Fault{Key: "base_hands_wide", CausedBy: mate})
	b.tally(0, "base_block", 3, 2, record.Fault{Key: "base_second_behind"})
	b.tally(0, "base_block", 4, 20)
	s := b.sheet(t, 0)
	assert.Equal(t, []string{"base_second_behind"}, faultsOf(s))
	assert.Equal(t, []int{2, 27, 0}, []int{s.Faults[0].N, s.Faults[0].Graded, s.Faults[0].Caused})
	assert.Equal(t, contract.Count{Clean: 25, Faulty: 2}, s.Techniques[0].Practice)
	mine := b.sheet(t, 1)
	require.Len(t, mine.Faults, 1)
	assert.Equal(t, []int{0, 5}, []int{mine.Faults[0].N, mine.Faults[0].Caused})
}

// TestFaultsAreSaidInTheOrderThatHurts: safety first, then how often times how bad.
func TestFaultsAreSaidInTheOrderThatHurts(t *testing.T) {
	b := open(t)
	h, _ := b.Houses.Of(context.Background(), b.coach)
	severity := func(key string) (int, bool) {
		f, _, ok := h.Library.Fault(key)
		require.True(t, ok, key)
		return f.Severity, f.Safety
	}
	var mild, bad, safe string
	tech, _ := h.Library.Technique("base_block")
	for _, f := range tech.Faults {
		switch n, safety := severity(f.Key); {
		case safety:
			safe = f.Key
		case n == 3:
			bad = f.Key
		case n <= 2:
			mild = f.Key
		}
	}
	require.NotEmpty(t, safe)
	require.NotEmpty(t, mild)
	require.NotEmpty(t, bad)
	b.tally(0, "base_block", 3, 4, record.Fault{Key: mild})
	b.tally(0, "base_block", 3, 3, record.Fault{Key: bad})
	b.tally(0, "base_block", 3, 1, record.Fault{Key: safe})
	assert.Equal(t, []string{safe, bad, mild}, faultsOf(b.sheet(t, 0)), "4 mild ones weigh less than 3 bad ones")
	plain := strings.Join(b.sheet(t, 0).Plain, "\n")
	assert.Contains(t, plain, "Safety: ")
	assert.Contains(t, plain, "Fix first: ")
	assert.Less(t, strings.Index(plain, "Safety"), strings.Index(plain, "Fix first"))
}

// TestWhoGoesUpNoContactLevel: a safety fault of his own, within the fortnight or with no six reps on bags without it
// since; not somebody else's doing.
func TestWhoGoesUpNoContactLevel(t *testing.T) {
	b := open(t)
	safe := "head_down"
	b.tally(0, "base_block", 13, 1, record.Fault{Key: safe})
	b.tally(1, "base_block", 14, 1, record.Fault{Key: safe})
	b.tally(2, "base_block", 1, 1, record.Fault{Key: safe, CausedBy: b.line.Players[3].ID.String()})
	board, err := b.Board(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	for _, l := range board.Ladders {
		if l.Technique != "base_block" {
			continue
		}
		for i, p := range l.Players {
			assert.Equal(t, i < 2, p.Advice == contract.BoardPlayerAdviceSafety, "player %d: %s", i, p.Advice)
		}
	}
	h, _ := b.Houses.Of(context.Background(), b.coach)
	ld, _ := h.Library.Ladder("base_ladder")
	at, err := b.GroupOn(context.Background(), b.coach, "ol", ld, testkit.Day)
	require.NoError(t, err)
	why := map[uuid.UUID]string{}
	for _, held := range at.Held {
		why[held.Player] = held.Why
	}
	require.Len(t, why, 2)
	assert.Contains(t, why[b.line.Players[0].ID], "30 Sep")
	assert.Contains(t, why[b.line.Players[1].ID], "29 Sep")
}

// reps makes a run of clean or faulty reps in a drill.
func (b *bench) reps(player int, drill string, ago int, clean ...bool) {
	r := record.Run{PlayerID: b.line.Players[player].ID, TechniqueKey: "base_block", On: testkit.Day - season.Date(ago), DrillKey: &drill}
	for _, c := range clean {
		r.Reps = append(r.Reps, record.Rep{Graded: true, Clean: c})
	}
	b.marks.AllRuns = append(b.marks.AllRuns, r)
	b.set()
}

func TestTheBoardShowsWhoStandsWhere(t *testing.T) {
	b := open(t)
	h, _ := b.Houses.Of(context.Background(), b.coach)
	ld, _ := h.Library.Ladder("base_ladder")
	first := ld.Stages[0]
	for day := range max(first.Sessions, 1) + 1 {
		var clean []bool
		for range first.Window {
			clean = append(clean, true)
		}
		b.reps(0, first.Drills[0], 20-day, clean...)
	}
	b.line.Status = func(p squad.Player, _ season.Date) availability.Status {
		if p.ID == b.line.Players[8].ID {
			return availability.Out
		}
		return availability.Available
	}
	b.Plans = testkit.Plans{NextPlan: &script.Next{Practice: script.Practice{ID: uuid.New(), On: testkit.Day, Title: "Tuesday"},
		Periods: []script.Period{{ID: uuid.New(), Minutes: 20, Placements: []script.Placement{{ID: uuid.New(), DrillKey: first.Drills[0], Minutes: 5}}}}}}
	b.set()
	board, err := b.Board(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	assert.Equal(t, "2026-10-13", board.NextPractice.Date)
	assert.True(t, board.Editable)
	l := board.Ladders[0]
	require.Equal(t, "base_ladder", l.Key)
	assert.Equal(t, 1, l.Players[0].At)
	assert.Equal(t, 0, l.Players[1].At)
	assert.Equal(t, contract.BoardPlayerAdviceAbsent, l.Players[8].Advice)
	assert.NotEmpty(t, l.Planned)
	assert.Equal(t, 0, *l.PlannedStage)
	s := b.sheet(t, 0)
	assert.Empty(t, s.Techniques, "no tally, no line")

	// A coach's word lets a player pass; its reason stays beside his name.
	player := b.line.Players[1]
	add := func(id uuid.UUID, ladderKey, stage, reason string) error {
		return b.AddOverride(context.Background(), b.coach, player.ID, id, ladderKey, stage, reason)
	}
	early, ok := invalid.As(add(uuid.New(), "base_ladder", ld.Stages[1].Key, "he is ready"))
	require.True(t, ok, "a stage before it is not passed")
	assert.Equal(t, "stage", early.Field)
	assert.Contains(t, early.Message, "“"+first.Name+"”")
	id := uuid.New()
	require.NoError(t, add(id, "base_ladder", first.Key, " spring "))
	second := uuid.New()
	require.NoError(t, add(second, "base_ladder", ld.Stages[1].Key, "and on"), "one word after the other")
	require.NoError(t, b.WithdrawOverride(context.Background(), b.coach, second))
	board, err = b.Board(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	bp := board.Ladders[0].Players[1]
	assert.Equal(t, 1, bp.At)
	require.NotNil(t, bp.Override)
	assert.Equal(t, []string{"spring", coachName}, []string{bp.Override.Reason, bp.Override.By})
	for field, c := range map[string][3]string{"ladder": {"none", first.Key, "x"}, "stage": {"base_ladder", "none", "x"}, "reason": {"base_ladder", first.Key, " "}} {
		e, ok := invalid.As(add(uuid.New(), c[0], c[1], c[2]))
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	require.ErrorIs(t, b.WithdrawOverride(context.Background(), testkit.Coach("db"), id), problem.ErrForbidden)
	b.memory.overrides[0].withdrawn = false // a transaction would have given that up
	require.NoError(t, b.WithdrawOverride(context.Background(), b.coach, id))
	require.ErrorIs(t, b.WithdrawOverride(context.Background(), b.coach, id), problem.ErrNotFound)
	player.ID = uuid.New()
	require.ErrorIs(t, add(uuid.New(), "base_ladder", first.Key, "x"), problem.ErrNotFound)
}

func TestTheMatrixAndASheetOverTheSeason(t *testing.T) {
	b := open(t)
	for ago := 40; ago >= 0; ago -= 2 {
		b.tally(0, "base_block", ago, 4)
		b.tally(1, "base_block", ago, 2)
		b.tally(1, "base_block", ago, 2, record.Fault{Key: "base_second_behind"})
	}
	b.reps(0, "base_fit", 10, true, true, true, false)
	for i, side := range []string{"left", "right", "left", ""} {
		b.marks.Sums.Days[3*i].Side = side // each of four clean reps of player 0
	}
	b.set()
	m, err := b.Matrix(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	require.Len(t, m.Players, 9)
	require.Len(t, m.Players[0].Cells, 1)
	assert.Greater(t, m.Players[0].Cells[0].Estimate, m.Players[1].Cells[0].Estimate)
	assert.Empty(t, m.Players[2].Cells)
	assert.NotNil(t, m.Players[2].Cells)
	s := b.sheet(t, 0)
	require.Len(t, s.Techniques, 1)
	line := s.Techniques[0]
	assert.Equal(t, s.PracticeReps, line.Practice.Clean)
	assert.Len(t, line.Points, 7, "a point a week")
	total := 0
	for _, p := range line.Points {
		total += p.Reps
	}
	assert.Equal(t, s.PracticeReps, total)
	assert.Equal(t, []int{8, 0, 4, 0}, []int{line.Left.Clean, line.Left.Faulty, line.Right.Clean, line.Right.Faulty})
	require.NotNil(t, line.Ladder)
	assert.NotEmpty(t, s.Standards)
	assert.Contains(t, s.Plain[0], "Best: base block.")
	early, err := b.Sheet(context.Background(), b.coach, b.line.Players[0].ID, "ol", 2)
	require.NoError(t, err)
	assert.Less(t, early.PracticeReps, s.PracticeReps, "as it stood then")
	none := b.sheet(t, 5)
	assert.Equal(t, []string{"No marks yet this season."}, none.Plain)

	ctx := context.Background()
	_, err = b.Sheet(ctx, b.coach, uuid.New(), "ol", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Matrix(ctx, b.coach, "xx", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Board(ctx, b.coach, "ol", 10)
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "week", e.Field)
}

// TestWhatIsClaimedIsSaidInThreePlaces: in the matrix, on the player's sheet and beside the
// technique.
func TestWhatIsClaimedIsSaidInThreePlaces(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	h, _ := b.Houses.Of(ctx, b.coach)
	for ago := 0; ago < 34; ago += 2 {
		for p := range 6 {
			b.marks.Add(b.line.Players[p].ID, "base_block", testkit.Day-season.Date(ago), false, 9)
			b.marks.Add(b.line.Players[p].ID, "base_block", testkit.Day-season.Date(ago), false, 1, record.Fault{Key: "base_second_behind"})
			game := []record.Fault{}
			if p == 0 {
				game = append(game, record.Fault{Key: "base_second_behind"})
			}
			b.marks.Add(b.line.Players[p].ID, "base_block", testkit.Day-season.Date(ago), true, 3, game...)
		}
	}
	b.set()
	m, err := b.Matrix(ctx, b.coach, "ol", 7)
	require.NoError(t, err)
	assert.True(t, m.Players[0].Cells[0].CarryClaimed)
	assert.True(t, m.Players[0].Overall.CarryClaimed)
	assert.Contains(t, m.Players[0].Overall.Say, "than the others do")
	assert.Empty(t, m.Players[1].Overall.Say)
	assert.Equal(t, contract.TrendTooFew, m.Players[8].Overall.Trend)
	block := m.Techniques[slices.IndexFunc(m.Techniques, func(x contract.MatrixTechnique) bool { return x.Key == "base_block" })]
	require.NotNil(t, block.Beside)
	assert.InDelta(t, 0.9, block.Beside.Practice, 1e-9)
	plain := strings.Join(b.sheet(t, 0).Plain, "\n")
	assert.Contains(t, plain, "Over all his techniques he drops in games")
	assert.Contains(t, plain, "Base block drops in games more than the others do: 153 of 170 clean in practice, 0 of 51 in games.")

	form, err := b.TechniqueForm(ctx, b.coach, "ol", "base_block", 7)
	require.NoError(t, err)
	require.Len(t, form.Voices, 1)
	assert.Equal(t, b.line.Players[0].ID, form.Voices[0].PlayerID)
	assert.Equal(t, contract.Count{Clean: 5 * 51, Faulty: 51}, form.Game, "a number of the group")
	none, err := b.TechniqueForm(ctx, b.coach, "ol", "kick_slide", 7)
	require.NoError(t, err)
	assert.Nil(t, none.Rate)
	assert.Empty(t, none.Voices)
	_, err = b.TechniqueForm(ctx, b.coach, "ol", "no_such", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.TechniqueForm(ctx, b.coach, "xx", "base_block", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)

	for _, v := range standing.Voices(growth.Report{Rows: []growth.Estimate{{Player: "nobody", Technique: "base_block", CarryClaimed: true, Carry: growth.NotCarrying}}}, h.Library, b.line.Players) {
		assert.Fail(t, "of somebody who is not there", v)
	}
}

func TestEvidenceSaysWhereAndWhat(t *testing.T) {
	b := open(t)
	me, mate := b.line.Players[0].ID, b.line.Players[1]
	b.marks.Details = []record.Detail{
		{ID: uuid.New(), PlayerID: me, PlacementID: new(uuid.New()), Rep: new(3), TechniqueKey: "base_block", State: marks.Looked, Verdict: marks.VerdictOf("faulty"), On: testkit.Day, Source: "practice",
			DrillKey: new("base_fit"), By: "R. Kell", Standard: 2, Faults: []record.Fault{{Key: "base_second_behind"}, {Key: "base_hands_wide", CausedBy: mate.ID.String()}},
			Measures: []record.Measured{{Checkpoint: "base_first", Value: 12, Verdict: "watch"}}},
		{ID: uuid.New(), PlayerID: me, TechniqueKey: "base_block", State: marks.StateUnseen, Verdict: marks.VerdictOf("unseen"), On: testkit.Day - 3, Source: "game", Opponent: new("Dunmere"), PlayNumber: new(17), Down: new(3), Distance: new(4), Spot: new("own 30"), Call: new("Zone left")},
	}
	b.set()
	page, err := b.Evidence(context.Background(), b.coach, me, Asked{Group: "ol", Week: 7})
	list := page.Reps
	require.NoError(t, err)
	require.Len(t, list, 2)
	h, _ := b.Houses.Of(context.Background(), b.coach)
	d, _ := h.Library.Drill("base_fit")
	assert.Equal(t, d.Name+", rep 3", list[0].Where)
	assert.False(t, list[0].Clean)
	assert.Contains(t, list[0].Faults[1], "caused by "+mate.LastName)
	assert.Contains(t, list[0].Measures[0], "12 in, watch")
	assert.Equal(t, 2, list[0].Standard)
	assert.Equal(t, "Dunmere, play 17: 3rd and 4, own 30, Zone left", list[1].Where)
	assert.False(t, list[1].Graded)
	assert.Equal(t, "unseen", *list[1].Reason)
	_, err = b.Evidence(context.Background(), b.coach, uuid.New(), Asked{Group: "ol", Week: 7})
	require.ErrorIs(t, err, problem.ErrNotFound)
}

func TestAPlayersOwnRange(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	h, _ := b.Houses.Of(ctx, b.coach)
	point, _, _ := h.Library.Checkpoint("base_first")
	me := b.line.Players[0].ID
	own := standard.OwnRange{OK: point.Measure.OK, Watch: point.Measure.Watch}
	own.OK.High = point.Measure.Watch.High
	put := func(checkpoint string, r standard.OwnRange, reason string) error {
		return b.PutRange(ctx, b.coach, me, checkpoint, uuid.New(), r, reason)
	}
	require.NoError(t, put("base_first", own, "long legs"))
	s := b.sheet(t, 0)
	found := false
	for _, st := range s.Standards {
		if st.Checkpoint == "base_first" {
			found = true
			assert.InDelta(t, own.OK.High, st.Measure.OK.High, 0)
			require.NotNil(t, st.Own)
			assert.Equal(t, "long legs", st.Own.Reason)
			assert.InDelta(t, point.Measure.OK.High, st.Own.House.OK.High, 0)
		}
	}
	assert.True(t, found)
	empty := own
	empty.OK = standard.Band{Low: 9, High: 2}
	outside := own
	outside.Watch = standard.Band{Low: own.OK.Low + 1, High: own.OK.High}
	for field, err := range map[string]error{"ok_low": put("base_first", empty, "x"), "watch_low": put("base_first", outside, "x"), "reason": put("base_first", own, " "), "checkpoint": put("base_strike", own, "x")} {
		e, ok := invalid.As(err)
		require.True(t, ok, field)
		assert.Equal(t, field, e.Field)
	}
	require.ErrorIs(t, put("none", own, "x"), problem.ErrNotFound)
	require.ErrorIs(t, b.PutRange(ctx, testkit.Coach("db"), me, "base_first", uuid.New(), own, "x"), problem.ErrForbidden)
	require.NoError(t, b.WithdrawRange(ctx, b.coach, me, "base_first"))
	require.ErrorIs(t, b.WithdrawRange(ctx, b.coach, me, "base_first"), problem.ErrNotFound)
	require.ErrorIs(t, b.WithdrawRange(ctx, b.coach, me, "none"), problem.ErrNotFound)
	require.ErrorIs(t, b.WithdrawRange(ctx, testkit.Coach("db"), me, "base_first"), problem.ErrForbidden)
}
