package mark

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/group"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/play"
	"nineyard/core/season"
	"nineyard/core/standard"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

// bench is the service over memory: nine players of the line and one placed drill.
type bench struct {
	*Service
	memory    *memory
	coach     access.Coach
	line      testkit.Squad
	placement uuid.UUID
}

func open(t *testing.T, drill string) *bench {
	b := &bench{memory: inMemory(t).Store.(*memory), coach: testkit.Coach("ol"), line: testkit.Line("ol", 9), placement: uuid.New()}
	b.memory.groups = map[uuid.UUID][]string{}
	for _, p := range b.line.Players {
		b.memory.groups[p.ID] = p.Groups
	}
	b.memory.placements[b.placement] = b.memory.placements[uuid.Nil]
	w := b.memory.placements[b.placement]
	w.On = testkit.Day
	b.memory.placements[b.placement] = w
	third := *testkit.Shipped(t).House
	third.Version = 3
	b.Service = &Service{Store: b.memory, Houses: testkit.Houses{House: &third}, Squad: b.line, Ranges: testkit.Standings{}, Now: testkit.Now, Clock: testkit.Now,
		Plans: testkit.Plans{On: []script.PlacedOn{{Placement: script.Placement{ID: b.placement, Group: "ol", DrillKey: drill, Start: 0, Minutes: 5, Lanes: 3}, PracticeID: uuid.New(), On: testkit.Day}}}}
	return b
}

func (b *bench) mark(player int, rep int, state contract.MarkInputState, more ...func(*contract.MarkInput)) contract.MarkInput {
	m := contract.MarkInput{ID: uuid.New(), PlacementID: &b.placement, PlayerID: b.line.Players[player].ID, Rep: &rep, State: state}
	for _, f := range more {
		f(&m)
	}
	return m
}

func fault(keys ...string) func(*contract.MarkInput) {
	return func(m *contract.MarkInput) {
		list := []contract.MarkFaultInput{}
		for _, k := range keys {
			list = append(list, contract.MarkFaultInput{Key: k})
		}
		m.Faults = &list
	}
}

func (b *bench) post(in ...contract.MarkInput) error {
	posted, err := b.Post(context.Background(), b.coach, Sender{}, in)
	if err == nil && len(posted.Refused) > 0 {
		err = posted.Refused[0].Why
	}
	return err
}

func (b *bench) sheet(t *testing.T) contract.MarkSheet {
	t.Helper()
	s, err := b.Sheet(context.Background(), b.coach, b.placement)
	require.NoError(t, err)
	return s
}

func TestMarkingByException(t *testing.T) {
	b := open(t, "pull_bag")
	s := b.sheet(t)
	assert.Len(t, s.Players, 9)
	assert.Equal(t, "pull_kick", s.Technique)
	assert.Equal(t, 2, s.Sides)
	require.NotEmpty(t, s.Faults)
	require.NoError(t, b.post(
		b.mark(0, 1, contract.MarkInputStateAssumed),
		b.mark(1, 1, contract.MarkInputStateLooked, fault("pull_runs_past")),
		b.mark(2, 1, contract.MarkInputStateUnseen),
		b.mark(3, 1, contract.MarkInputStateLooked, func(m *contract.MarkInput) { m.Assignment, m.Note, m.Praise = new(0), new("wrong man"), new(true) }),
	))
	s = b.sheet(t)
	require.Len(t, s.Marks, 4)
	by := map[uuid.UUID]contract.Mark{}
	for _, m := range s.Marks {
		by[m.PlayerID] = m
	}
	p := b.line.Players
	assert.Equal(t, []int{1, 1}, []int{*by[p[0].ID].Assignment, *by[p[0].ID].Technique}, "assumed is clean")
	assert.Equal(t, 0, *by[p[1].ID].Technique, "a fault of his own makes the technique wrong")
	assert.Nil(t, by[p[2].ID].Technique, "unseen judges nothing")
	assert.Equal(t, 0, *by[p[3].ID].Assignment)
	assert.Equal(t, 1, *by[p[3].ID].Technique)
	assert.True(t, by[p[3].ID].Praise)
	assert.Equal(t, "wrong man", by[p[3].ID].Note)
	for _, e := range b.memory.events {
		assert.Equal(t, 3, e.Standard, "a mark remembers the version it was made by")
		assert.Equal(t, b.coach.ID, *e.CreatedBy)
	}
}

// TestAFaultCausedByATeammate is not charged to the player.
func TestAFaultCausedByATeammate(t *testing.T) {
	b := open(t, "pull_bag")
	mate := b.line.Players[1].ID
	require.NoError(t, b.post(b.mark(0, 1, contract.MarkInputStateLooked, func(m *contract.MarkInput) {
		m.Faults = &[]contract.MarkFaultInput{{Key: "pull_runs_past", CausedBy: &mate}}
	})))
	m := b.sheet(t).Marks[0]
	assert.Equal(t, 1, *m.Technique)
	assert.Equal(t, mate.String(), *m.Faults[0].CausedBy)
	for _, cause := range []uuid.UUID{b.line.Players[0].ID, uuid.New()} {
		err := b.post(b.mark(0, 1, contract.MarkInputStateLooked, func(m *contract.MarkInput) {
			m.Faults = &[]contract.MarkFaultInput{{Key: "pull_runs_past", CausedBy: &cause}}
		}))
		e, ok := invalid.As(err)
		require.True(t, ok)
		assert.Equal(t, "marks[0].faults[0].caused_by", e.Field)
	}
}

// TestMeasuresAreJudgedByThePlayersOwnRange where he has one.
func TestMeasuresAreJudgedByThePlayersOwnRange(t *testing.T) {
	b := open(t, "base_two_step")
	h, _ := b.Houses.Of(context.Background(), b.coach)
	point, _, ok := h.Library.Checkpoint("base_first")
	require.True(t, ok)
	beyond := point.Measure.Watch.High + 1
	if point.Measure.Max != nil {
		beyond = min(beyond, *point.Measure.Max)
	}
	measured := func(m *contract.MarkInput) {
		m.Measures = &[]contract.MeasureInput{{Checkpoint: "base_first", Value: beyond}}
	}
	require.NoError(t, b.post(b.mark(0, 1, contract.MarkInputStateLooked, measured)))
	m := b.sheet(t).Marks[0]
	assert.True(t, standard.Verdict(m.Measures[0].Verdict).Faulty())
	assert.Equal(t, 0, *m.Technique, "a measured fault is a fault")
	b.Ranges = testkit.Standings{Own: []standing.Range{{PlayerID: b.line.Players[0].ID, Checkpoint: "base_first",
		Own: standard.OwnRange{OK: standard.Band{Low: point.Measure.OK.Low, High: beyond}, Watch: standard.Band{Low: point.Measure.Watch.Low, High: beyond}}}}}
	require.NoError(t, b.post(b.mark(0, 2, contract.MarkInputStateLooked, measured)))
	s := b.sheet(t)
	assert.Equal(t, "right", string(s.Marks[1].Measures[0].Verdict))
	require.Len(t, s.Own, 1)
	require.NoError(t, b.post(b.mark(0, 3, contract.MarkInputStateLooked, func(m *contract.MarkInput) { measured(m); m.Technique = new(1) })))
	assert.Equal(t, 1, *b.sheet(t).Marks[2].Technique, "the coach's own word stands")
	err := b.post(b.mark(0, 4, contract.MarkInputStateLooked, func(m *contract.MarkInput) {
		m.Measures = &[]contract.MeasureInput{{Checkpoint: "kick_first", Value: 3}}
	}))
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "marks[0].measures[0].checkpoint", e.Field)
}

// TestAWrongMarkIsRefusedAloneAndNamesItsField: the others are saved.
func TestAWrongMarkIsRefusedAloneAndNamesItsField(t *testing.T) {
	b := open(t, "pull_bag")
	good := b.mark(0, 1, contract.MarkInputStateAssumed)
	for want, bad := range map[string]contract.MarkInput{
		"marks[1].faults[0].key": b.mark(0, 2, contract.MarkInputStateLooked, fault("kick_leans")),
		"marks[1].faults":        b.mark(0, 2, contract.MarkInputStateAssumed, fault("pull_runs_past")),
		"marks[1].measures": b.mark(0, 2, contract.MarkInputStateUnseen, func(m *contract.MarkInput) {
			m.Measures = &[]contract.MeasureInput{{Checkpoint: "base_first", Value: 3}}
		}),
		"marks[1].player_id": b.mark(0, 2, contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.PlayerID = uuid.New() }),
	} {
		e, ok := invalid.As(b.post(good, bad))
		require.True(t, ok, want)
		assert.Equal(t, want, e.Field)
	}
	require.ErrorIs(t, b.post(good, b.mark(0, 2, contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.PlacementID = new(uuid.New()) })), problem.ErrNotFound)
	require.Len(t, b.memory.events, 1, "nothing is kept of what was refused, and the good one once")
	assert.Equal(t, good.ID, b.memory.events[0].ID)
	require.ErrorIs(t, b.post(b.mark(0, 1, contract.MarkInputStateAssumed), good), nil)
	b.coach = testkit.Coach("db")
	require.ErrorIs(t, b.post(b.mark(0, 1, contract.MarkInputStateAssumed)), problem.ErrForbidden)
}

// TestAnIdIsOfOneMark: the same again is saved already; anything else under its id, and
// anybody else's, is refused.
func TestAnIdIsOfOneMark(t *testing.T) {
	b := open(t, "pull_bag")
	first := b.mark(0, 1, contract.MarkInputStateLooked, fault("pull_runs_past"), func(m *contract.MarkInput) { m.Note = new("late") })
	require.NoError(t, b.post(first, first))
	require.NoError(t, b.post(first))
	require.Len(t, b.memory.events, 1)
	for name, change := range map[string]func(*contract.MarkInput){
		"player": func(m *contract.MarkInput) { m.PlayerID = b.line.Players[1].ID },
		"rep":    func(m *contract.MarkInput) { m.Rep = new(2) },
		"state":  func(m *contract.MarkInput) { m.State, m.Faults = contract.MarkInputStateUnseen, nil },
		"faults": func(m *contract.MarkInput) { m.Faults = nil },
		"note":   func(m *contract.MarkInput) { m.Note = nil },
		"praise": func(m *contract.MarkInput) { m.Praise = new(true) },
		"side":   func(m *contract.MarkInput) { m.Side = new(contract.MarkInputSideLeft) },
		"facet":  func(m *contract.MarkInput) { m.Technique = new(1) },
	} {
		other := first
		change(&other)
		require.ErrorIs(t, b.post(other), problem.ErrTaken, name)
	}
	b.coach = testkit.Coach("ol")
	require.ErrorIs(t, b.post(first), problem.ErrTaken, "somebody else's")
	assert.Len(t, b.memory.events, 1)
}

// TestTheCoachsTimeDecides between two marks of one slot, not the order in which they come.
func TestTheCoachsTimeDecides(t *testing.T) {
	b := open(t, "pull_bag")
	at := func(ago time.Duration) func(*contract.MarkInput) {
		return func(m *contract.MarkInput) { m.MadeAt = new(testkit.Now().Add(24*time.Hour - ago)) }
	}
	send := func(in ...contract.MarkInput) {
		// The device's clock is a day ahead.
		posted, err := b.Post(context.Background(), b.coach, Sender{Sent: testkit.Now().Add(24 * time.Hour)}, in)
		require.NoError(t, err)
		require.Empty(t, posted.Refused)
	}
	newer := b.mark(0, 1, contract.MarkInputStateLooked, at(time.Minute))
	late := b.mark(0, 1, contract.MarkInputStateUnseen, at(time.Hour))
	send(newer)
	send(late)
	assert.Equal(t, newer.ID, b.sheet(t).Marks[0].ID, "it was made before and came in late")
	assert.Equal(t, testkit.Now().Add(-time.Minute), *b.memory.events[0].MadeAt)
	seen := b.mark(0, 1, contract.MarkInputStateUnseen, at(2*time.Hour), func(m *contract.MarkInput) { m.On = &newer.ID })
	send(seen)
	assert.Equal(t, seen.ID, b.sheet(t).Marks[0].ID, "he saw the other and changed it")
}

// TestAvailabilityOfTheDay: who was on a head-injury hold that day takes no reps, and what
// was marked before stays marked.
func TestAvailabilityOfTheDay(t *testing.T) {
	b := open(t, "pull_bag")
	held := b.line.Players[0].ID
	b.line.Status = func(p squad.Player, day season.Date) availability.Status {
		if p.ID == held && day >= testkit.Day {
			return availability.HeadHold
		}
		return availability.Available
	}
	b.Squad = b.line
	e, ok := invalid.As(b.post(b.mark(0, 1, contract.MarkInputStateAssumed)))
	require.True(t, ok)
	assert.Equal(t, "marks[0].player_id", e.Field)
	assert.Len(t, b.sheet(t).Players, 8)
	require.NoError(t, b.post(b.mark(0, 1, contract.MarkInputStateWithdrawn)), "a mark may always be taken back")
	plans := b.Plans.(testkit.Plans)
	plans.On[0].On = testkit.Day - 1
	require.NoError(t, b.post(b.mark(0, 1, contract.MarkInputStateAssumed)), "the day before he took part")
	plans.On[0].On = testkit.Day + 1
	e, ok = invalid.As(b.post(b.mark(1, 1, contract.MarkInputStateAssumed)))
	require.True(t, ok)
	assert.Equal(t, "marks[0].placement_id", e.Field, "a practice to come")
}

func TestASheetOfNothing(t *testing.T) {
	b := open(t, "no_such_drill")
	for _, id := range []uuid.UUID{b.placement, uuid.New()} {
		_, err := b.Sheet(context.Background(), b.coach, id)
		require.ErrorIs(t, err, problem.ErrNotFound)
	}
	e, ok := invalid.As(b.post(b.mark(0, 1, contract.MarkInputStateAssumed)))
	require.True(t, ok)
	assert.Equal(t, "marks[0].placement_id", e.Field)
}

func TestWhoseSideAGroupIsOn(t *testing.T) {
	b := open(t, "pull_bag")
	ctx := context.Background()
	for group, plays := range map[string]int{"ol": 1, "db": 0} {
		list, err := b.Service.Work(ctx, b.coach, group, testkit.Day+3, testkit.Day+3)
		require.NoError(t, err)
		assert.Equal(t, plays, list[0].Plays, group)
	}
	_, err := b.Service.Work(ctx, b.coach, "xx", testkit.Day, testkit.Day)
	require.ErrorIs(t, err, problem.ErrNotFound)
	tallies, err := b.Service.Season(ctx, "ol", testkit.Day, testkit.Day, testkit.Day)
	require.NoError(t, err)
	assert.Empty(t, tallies.Days)
	_, _, err = b.Service.Runs(ctx, "ol", nil, testkit.Day, testkit.Day, testkit.Day)
	require.NoError(t, err)
	assert.Equal(t, marks.Looked, marks.State("looked"))
}

// reels are one game with two plays of the offence and one of the defence.
type reels struct{ game reel.Game }

func (r reels) Game(_ context.Context, id uuid.UUID) (reel.Game, bool, error) {
	return r.game, id == r.game.ID, nil
}

func (r reels) Plays(_ context.Context, ids []uuid.UUID) (list []reel.Play, err error) {
	for _, p := range r.game.Plays {
		if slices.Contains(ids, p.ID) {
			list = append(list, p)
		}
	}
	return list, nil
}

// Aliases: the defence's coaches call an odd front a bear.
func (r reels) Aliases(context.Context) ([]play.Alias, error) {
	return []play.Alias{{Label: play.ColFront, Said: "Bear", Means: "Odd"}}, nil
}

// asked are calls that ask something of the line.
type asked []forecast.Asked

func (a asked) Short(context.Context, access.Coach, string, int) ([]forecast.Short, error) {
	return nil, nil
}

func (a asked) Asked(context.Context, access.Coach, string) ([]forecast.Asked, error) { return a, nil }

// onFilm opens the game: play 1 calls what the staff calls by another name.
func (b *bench) onFilm() reel.Game {
	g := reel.Game{ID: uuid.New(), On: testkit.Day - 3, Opponent: "Dunmere"}
	for i, unit := range []group.Side{group.Offense, group.Defense, group.Offense} {
		g.Plays = append(g.Plays, reel.Play{ID: uuid.New(), GameID: g.ID, On: g.On, Play: play.Play{Number: i + 1, Unit: unit}})
	}
	g.Plays[0].Call = "Lead lt"
	b.Reels, b.Calls = reels{g}, asked{{Names: []string{"Lead left", "lead lt"}, Techniques: []string{"pull_kick", "base_block"}}}
	for _, p := range g.Plays {
		b.memory.gameOf[p.ID] = g.ID
	}
	b.memory.games = []record.Work{{Game: true, ID: g.ID, On: g.On}}
	return g
}

func (b *bench) playMark(p reel.Play, player int, technique string, state contract.MarkInputState, more ...func(*contract.MarkInput)) contract.MarkInput {
	m := contract.MarkInput{ID: uuid.New(), PlayID: &p.ID, TechniqueKey: &technique, PlayerID: b.line.Players[player].ID, State: state}
	for _, f := range more {
		f(&m)
	}
	return m
}

// TestAPlayIsMarked: of players whose group is on the field, on what they are taught; two techniques of
// one play apart; and the sheet shows it with what the call asks.
func TestAPlayIsMarked(t *testing.T) {
	b := open(t, "pull_bag")
	g := b.onFilm()
	one := b.playMark(g.Plays[0], 0, "pull_kick", contract.MarkInputStateLooked, fault("pull_runs_past"))
	two := b.playMark(g.Plays[0], 0, "base_block", contract.MarkInputStateAssumed)
	require.NoError(t, b.post(one, two))
	require.NoError(t, b.post(one), "sent again after a lost answer")
	require.Len(t, b.memory.events, 2)
	e := b.memory.events[0]
	assert.Equal(t, []any{g.Plays[0].ID, "pull_kick", "faulty"}, []any{*e.PlayID, e.TechniqueKey, e.Verdict})
	assert.Nil(t, e.PlacementID)

	for want, bad := range map[string]contract.MarkInput{
		"marks[0].technique_key": b.playMark(g.Plays[1], 0, "base_block", contract.MarkInputStateAssumed), // the defence is on the field
		"marks[0].faults[0].key": b.playMark(g.Plays[2], 0, "base_block", contract.MarkInputStateLooked, fault("pull_runs_past")),
		"marks[0].placement_id":  b.playMark(g.Plays[2], 0, "base_block", contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.Rep = new(1) }),
		"marks[0].player_id":     b.playMark(g.Plays[2], 0, "base_block", contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.PlayerID = uuid.New() }),
	} {
		e, ok := invalid.As(b.post(bad))
		require.True(t, ok, want)
		assert.Equal(t, want, e.Field)
	}
	none := b.playMark(g.Plays[2], 0, "", contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.TechniqueKey = nil })
	e2, ok := invalid.As(b.post(none))
	require.True(t, ok)
	assert.Equal(t, "marks[0].technique_key", e2.Field)
	require.ErrorIs(t, b.post(b.playMark(reel.Play{ID: uuid.New()}, 0, "base_block", contract.MarkInputStateAssumed)), problem.ErrNotFound)

	sheet, err := b.GameSheet(context.Background(), b.coach, g.ID, "ol", false)
	require.NoError(t, err)
	require.Len(t, sheet.Plays, 2, "the plays of its side")
	assert.Equal(t, "pull_kick", *sheet.Plays[0].Technique, "what the call asks, by whatever it is called")
	assert.Nil(t, sheet.Plays[1].Technique)
	assert.Len(t, sheet.Players, 9)
	require.Len(t, sheet.Marks, 2)
	assert.ElementsMatch(t, []string{"pull_kick", "base_block"}, []string{sheet.Techniques[0].Key, sheet.Techniques[1].Key}, "what is marked most comes first")
	_, err = b.GameSheet(context.Background(), b.coach, uuid.New(), "ol", false)
	require.ErrorIs(t, err, problem.ErrNotFound)

	b.coach = testkit.Coach("db")
	require.ErrorIs(t, b.post(b.playMark(g.Plays[2], 1, "base_block", contract.MarkInputStateAssumed)), problem.ErrForbidden)
	b.coach = testkit.Coach("ol")
	g.Plays[2].On = testkit.Day + 1
	b.Reels = reels{g}
	late, ok := invalid.As(b.post(b.playMark(g.Plays[2], 1, "base_block", contract.MarkInputStateAssumed)))
	require.True(t, ok)
	assert.Equal(t, "marks[0].play_id", late.Field)
}

// staff are the coaches of the club.
type staff []access.Member

func (s staff) Coaches(context.Context, uuid.UUID) ([]access.Member, error) { return s, nil }

// TestAnOpenQuestionIsAnswered by the coach who is asked, whatever group he coaches: once, in its place, and
// by nobody else. Until then it charges nobody.
func TestAnOpenQuestionIsAnswered(t *testing.T) {
	b := open(t, "pull_bag")
	g := b.onFilm()
	ctx := context.Background()
	line, ends := b.coach, testkit.Coach("te")
	ends.ID = uuid.New()
	b.Staff = staff{{ID: line.ID}, {ID: ends.ID}}
	ask := func(whom uuid.UUID) contract.MarkInput {
		return b.playMark(g.Plays[0], 0, "base_block", contract.MarkInputStateUnsettled, func(m *contract.MarkInput) { m.Asked, m.Note = &whom, new("whose end?") })
	}
	e, ok := invalid.As(b.post(ask(uuid.New())))
	require.True(t, ok)
	assert.Equal(t, "marks[0].asked", e.Field)
	question := ask(ends.ID)
	require.NoError(t, b.post(question, question))
	list, err := b.Questions(ctx, ends)
	require.NoError(t, err)
	require.Len(t, list, 1)
	q := list[0]
	assert.Equal(t, []any{question.ID, "ol", g.ID, 1, b.line.Players[0].LastName, "whose end?", true}, []any{q.Mark.ID, *q.Group, q.GameID, q.Play.Number, q.Player, q.Mark.Note, q.TechniqueName != ""})
	none, err := b.Questions(ctx, line)
	require.NoError(t, err)
	assert.Empty(t, none)

	answer := func(of reel.Play, player int) contract.MarkInput {
		return b.playMark(of, player, "base_block", contract.MarkInputStateLooked, func(m *contract.MarkInput) { m.On, m.Assignment = &question.ID, new(0) })
	}
	b.coach = testkit.Coach("db")
	b.coach.ID = uuid.New()
	require.ErrorIs(t, b.post(answer(g.Plays[0], 0)), problem.ErrForbidden, "who was not asked")
	b.coach = ends
	require.ErrorIs(t, b.post(answer(g.Plays[2], 0)), problem.ErrForbidden, "another play")
	require.ErrorIs(t, b.post(answer(g.Plays[0], 1)), problem.ErrForbidden, "another player")
	require.NoError(t, b.post(answer(g.Plays[0], 0)))
	sheet, err := b.GameSheet(ctx, line, g.ID, "ol", false)
	require.NoError(t, err)
	require.Len(t, sheet.Marks, 1, "it stands where the question stood")
	assert.Equal(t, []any{contract.MarkStateLooked, 0}, []any{sheet.Marks[0].Mark.State, *sheet.Marks[0].Mark.Assignment})
	list, err = b.Questions(ctx, ends)
	require.NoError(t, err)
	assert.Empty(t, list)
}

// TestResultsAndTallies: kept beside the mark, charged to nobody, and the same mark only with the same.
func TestResultsAndTallies(t *testing.T) {
	b := open(t, "pull_bag")
	g := b.onFilm()
	lost := b.playMark(g.Plays[0], 0, "base_block", contract.MarkInputStateLooked, func(m *contract.MarkInput) {
		m.Result, m.Tallies = new(0), &[]contract.Tally{"effort"}
	})
	require.NoError(t, b.post(lost, lost))
	other := lost
	other.Tallies = nil
	require.ErrorIs(t, b.post(other), problem.ErrTaken)
	wrong := b.playMark(g.Plays[0], 1, "base_block", contract.MarkInputStateLooked, func(m *contract.MarkInput) { m.Tallies = &[]contract.Tally{"wrong_call"} })
	e, ok := invalid.As(b.post(wrong))
	require.True(t, ok)
	assert.Equal(t, "marks[0].tallies[0]", e.Field)
	wrong.State = contract.MarkInputStateNotGradable
	require.NoError(t, b.post(wrong))
	sheet, err := b.GameSheet(context.Background(), b.coach, g.ID, "ol", false)
	require.NoError(t, err)
	first := sheet.Marks[0].Mark
	assert.Equal(t, []any{0, contract.RightLost, []contract.Tally{"effort"}}, []any{*first.Result, *first.Box, *first.Tallies})
	assert.Nil(t, sheet.Marks[1].Mark.Box)
	cut, err := b.Cut(context.Background(), b.coach, g.ID, "ol", "right but lost", false)
	require.NoError(t, err)
	assert.Equal(t, []uuid.UUID{g.Plays[0].ID}, cut.Plays)
}

// TestTwoCoachesGradeAGame: each blind of the other; where they differ is told with what both said, what the club
// settles stands, and corrections go into the mark that was seen.
func TestTwoCoachesGradeAGame(t *testing.T) {
	b := open(t, "pull_bag")
	g := b.onFilm()
	ctx := context.Background()
	kell, other := b.coach, testkit.Coach("ol")
	other.ID = uuid.New()
	right, wrong := contract.MarkInputStateAssumed, contract.MarkInputStateLooked
	require.NoError(t, b.post(b.playMark(g.Plays[0], 0, "base_block", right), b.playMark(g.Plays[0], 1, "base_block", right), b.playMark(g.Plays[2], 0, "base_block", right)))
	alone, err := b.Agreement(ctx, kell, g.ID, "ol", nil, nil)
	require.NoError(t, err)
	assert.Equal(t, []any{1, 0, 0}, []any{len(alone.Graders), alone.Both, len(alone.Apart)}, "one coach, nothing to compare")
	assert.Nil(t, alone.Overall.Kappa)

	b.coach = other
	blind, err := b.GameSheet(ctx, other, g.ID, "ol", true)
	require.NoError(t, err)
	assert.Empty(t, blind.Marks)
	require.NoError(t, b.post(b.playMark(g.Plays[0], 0, "base_block", wrong, fault("base_hands_wide")), b.playMark(g.Plays[0], 1, "base_block", right)))
	blind, err = b.GameSheet(ctx, kell, g.ID, "ol", true)
	require.NoError(t, err)
	assert.Len(t, blind.Marks, 3)

	r, err := b.Agreement(ctx, kell, g.ID, "ol", nil, nil)
	require.NoError(t, err)
	assert.Equal(t, []uuid.UUID{kell.ID, other.ID}, []uuid.UUID{r.Graders[0].ID, r.Graders[1].ID}, "who made more comes first")
	assert.Equal(t, []any{2, 1}, []any{r.Both, len(r.Apart)})
	x := r.Apart[0]
	assert.Equal(t, []any{b.line.Players[0].ID, g.Plays[0].ID}, []any{x.PlayerID, x.Play.ID})
	assert.Equal(t, []contract.ApartOn{"technique", "faults"}, x.On)
	assert.Equal(t, []any{"base_hands_wide", 0, 0}, []any{x.B.Mark.Faults[0].Key, *x.B.Mark.Technique, len(x.A.Mark.Faults)})
	assert.Equal(t, []any{2, .5}, []any{r.Facets[1].N, *r.Facets[1].Observed})
	assert.Len(t, r.Techniques, 1)
	assert.Len(t, r.Players, 1)
	turned, err := b.Agreement(ctx, kell, g.ID, "ol", &other.ID, &kell.ID)
	require.NoError(t, err)
	assert.Equal(t, other.ID, turned.Graders[0].ID)
	assert.Equal(t, x.A.Mark.ID, turned.Apart[0].B.Mark.ID)

	settled := b.playMark(g.Plays[0], 0, "base_block", wrong, fault("base_hands_wide"), func(m *contract.MarkInput) { m.Settled = new(true) })
	require.NoError(t, b.post(settled))
	r, err = b.Agreement(ctx, kell, g.ID, "ol", nil, nil)
	require.NoError(t, err)
	require.Len(t, r.Apart, 1, "they still said what they said")
	assert.Equal(t, settled.ID, r.Apart[0].Settled.Mark.ID)
	sheet, err := b.GameSheet(ctx, kell, g.ID, "ol", false)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(sheet.Marks, func(m contract.GameMark) bool { return m.Mark.ID == settled.ID }))
	// Who corrects what he sees corrects what is settled.
	mended := b.playMark(g.Plays[0], 0, "base_block", right, func(m *contract.MarkInput) { m.On = &settled.ID })
	require.NoError(t, b.post(mended))
	r, err = b.Agreement(ctx, kell, g.ID, "ol", nil, nil)
	require.NoError(t, err)
	assert.Equal(t, mended.ID, r.Apart[0].Settled.Mark.ID)
	_, err = b.Agreement(ctx, kell, uuid.New(), "ol", nil, nil)
	require.ErrorIs(t, err, problem.ErrNotFound)
}

// TestWhatATableDecides: its rows stand beside the marks of the techniques whose checkpoints it decides, and no others.
func TestWhatATableDecides(t *testing.T) {
	b := open(t, "pull_bag")
	g := b.onFilm()
	sheet, err := b.GameSheet(context.Background(), b.coach, g.ID, "ol", false)
	require.NoError(t, err)
	decided := map[string]string{}
	for _, x := range sheet.Techniques {
		for _, d := range contract.Value(x.Decided) {
			decided[x.Key] = d.Table
			require.Greater(t, len(d.Rows), 1)
			for _, r := range d.Rows {
				assert.NotEmpty(t, r.Call)
				assert.NotEmpty(t, r.Says, r.Call)
			}
		}
	}
	assert.Len(t, decided, 2, "when to double, and the rules of gap runs")
}

func TestASheetOfCards(t *testing.T) {
	b := open(t, "ol_run_look")
	sheet, err := b.Sheet(context.Background(), b.coach, b.placement)
	require.NoError(t, err)
	assert.Equal(t, contract.MarkSheetShows("card"), *sheet.Shows)
	keys := map[string]contract.SheetTechnique{}
	for _, x := range *sheet.Techniques {
		keys[x.Key] = x
		assert.NotEmpty(t, x.Faults, "%s: what is ticked is a fault of the technique the card asks for", x.Key)
	}
	require.NotEmpty(t, *sheet.Cards)
	for _, c := range *sheet.Cards {
		assert.NotEmpty(t, c.Look)
		assert.NotEmpty(t, c.Right, "the card says what is right while the rep is judged")
		if c.Asks != nil {
			assert.Contains(t, keys, *c.Asks)
			continue
		}
		for _, p := range *c.Places {
			assert.Contains(t, keys, p.Technique, "%s asks each for a technique of the sheet", c.Key)
		}
	}
	all := *sheet.Cards
	plans := b.Plans.(testkit.Plans)
	plans.On[0].Cards = all[2].Key + " gone " + all[0].Key
	sheet, err = b.Sheet(context.Background(), b.coach, b.placement)
	require.NoError(t, err)
	assert.Equal(t, []contract.SheetCard{all[2], all[0]}, *sheet.Cards, "in the order of the placement, without what the library has no more")
	plans.On[0].Cards = ""
	sheet, err = b.Sheet(context.Background(), b.coach, b.placement)
	require.NoError(t, err)
	asked := (*(*sheet.Cards)[0].Places)[0].Technique
	require.NoError(t, b.post(b.mark(0, 1, contract.MarkInputStateLooked, func(m *contract.MarkInput) {
		m.TechniqueKey = &asked
		m.Faults = &[]contract.MarkFaultInput{{Key: keys[asked].Faults[0].Key}}
	})))
	e, ok := invalid.As(b.post(b.mark(1, 1, contract.MarkInputStateAssumed, func(m *contract.MarkInput) { m.TechniqueKey = new("slant") })))
	require.True(t, ok)
	assert.Equal(t, "marks[0].technique_key", e.Field, "the card of another group asks for another technique")
	sheet, err = b.Sheet(context.Background(), b.coach, b.placement)
	require.NoError(t, err)
	require.Len(t, sheet.Marks, 1)
	assert.Equal(t, asked, *sheet.Marks[0].TechniqueKey)
}
