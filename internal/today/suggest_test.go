package today

import (
	"context"
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
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

// plans stand in for what is planned.
type plans struct {
	whole  script.Whole
	placed []script.PlacedOn
	every  []string
	limits contract.PracticeLimits
}

func (p plans) Around(context.Context, uuid.UUID) (script.Whole, bool, error) {
	return p.whole, true, nil
}

func (p plans) Between(_ context.Context, _ access.Coach, _ string, from, to season.Date) (list []script.PlacedOn, err error) {
	for _, x := range p.placed {
		if x.On >= from && x.On <= to {
			list = append(list, x)
		}
	}
	return list, nil
}

func (p plans) Settings(context.Context, access.Coach) (contract.PracticeSettings, error) {
	return contract.PracticeSettings{Limits: p.limits}, nil
}

func (p plans) EveryDay(context.Context, string) ([]string, error) { return p.every, nil }

// climbers are a line that has begun one ladder.
type climbers struct{ players []squad.Player }

func (c climbers) Climbs(_ context.Context, by access.Coach, _ string, asOf season.Date) (standing.Climbs, error) {
	return standing.Climbs{Players: c.players, On: func(ld teaching.Ladder) (list []standing.Climb, err error) {
		for _, p := range c.players {
			in := ladder.Input{AsOf: asOf, SeasonStart: by.Season.Start}
			for _, st := range ld.Stages {
				in.Stages = append(in.Stages, st.Gate())
			}
			if ld.Key == "kick_ladder" {
				in.Reps = []ladder.Rep{{Date: testkit.Day - 6, Stage: ld.Stages[0].Key, Clean: true}}
			}
			st, err := ladder.Of(in)
			if err != nil {
				return nil, err
			}
			list = append(list, standing.Climb{Player: p, Season: in, Standing: st})
		}
		return list, nil
	}}, nil
}

// short is a call that will not be ready.
type short []forecast.Short

func (s short) Short(context.Context, access.Coach, string, int) ([]forecast.Short, error) {
	return s, nil
}

func (short) Asked(context.Context, access.Coach, string) ([]forecast.Asked, error) { return nil, nil }

// planned is a period of the line's own in a practice on the day, with these drills in it.
func planned(drills ...string) (script.Whole, uuid.UUID) {
	own := script.Period{ID: uuid.New(), Start: 10, Minutes: 20, Kind: "individual", Groups: []string{"ol"}, Coaches: []string{"a", "b"}}
	for _, d := range drills {
		own.Placements = append(own.Placements, script.Placement{ID: uuid.New(), Group: "ol", DrillKey: d, Minutes: 5, Lanes: 2})
	}
	other := script.Period{ID: uuid.New(), Start: 20, Minutes: 20, Kind: "individual", Groups: []string{"te"}, Equipment: []contract.EquipmentUse{{Key: "shields", Count: 12}}}
	return script.Whole{Practice: script.Practice{ID: uuid.New(), On: testkit.Day}, Periods: []script.Period{own, other}, Stock: []contract.EquipmentStock{{Key: "shields", Name: "Arm shields", Count: 12}}}, own.ID
}

func (b *bench) suggestions(t *testing.T, p plans, period uuid.UUID) contract.Suggestions {
	t.Helper()
	b.Scripts, b.Climbs = p, climbers{b.line.Players}
	v, err := b.Suggestions(context.Background(), b.coach, "ol", period)
	require.NoError(t, err)
	return v
}

func codes(d contract.Suggestion) (list []string) {
	for _, r := range d.Reasons {
		list = append(list, string(r.Code))
	}
	return list
}

func TestWhatToPutIn(t *testing.T) {
	b := open(t)
	b.Calls = short{}
	w, own := planned()
	v := b.suggestions(t, plans{whole: w}, own)
	assert.False(t, v.Alone, "two coaches")
	require.NotEmpty(t, v.Drills)
	daily := 0
	for _, d := range v.Drills {
		if c := codes(d); c[len(c)-1] == "every_day" {
			daily++ // the line has chosen none of its own: the library's are
			continue
		}
		assert.Equal(t, []string{"stage"}, codes(d), "nothing else speaks for a drill: %s", d.Name)
		assert.Contains(t, d.Reasons[0].Says, " is at “")
	}
	assert.Equal(t, 3, daily)

	// A fault that is not safe before all, then the call, then the rest; what is placed is not there.
	b.tally(0, 3, 9, false, record.Fault{Key: "head_down"})
	lib := b.Service.Houses.(testkit.Houses).House.Library
	base, _ := lib.Ladder("base_ladder")
	b.Calls = short{{Call: "Lead left", Install: testkit.Day + 2, Ladder: "base_ladder", Stages: []int{1}}}
	w.Periods[0].Coaches = w.Periods[0].Coaches[:1]
	v = b.suggestions(t, plans{whole: w, every: []string{"pull_cones"}}, own)
	assert.True(t, v.Alone)
	assert.Contains(t, codes(v.Drills[0]), "safety")
	all := map[string]contract.Suggestion{}
	for _, d := range v.Drills {
		all[d.Drill] = d
	}
	called := all[base.Stages[1].Drills[0]]
	i := slices.Index(codes(called), "call")
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "Lead left needs it by Thu 15 Oct", called.Reasons[i].Says)
	assert.NotNil(t, called.SelfCheck, "he is alone: how it shows itself is said")
	assert.Equal(t, []string{"every_day"}, codes(all["pull_cones"]))
	assert.Positive(t, called.Reps)

	w, own = planned(called.Drill)
	for _, d := range b.suggestions(t, plans{whole: w}, own).Drills {
		assert.NotEqual(t, called.Drill, d.Drill)
	}
}

func TestWhatTheOthersHaveIsSaid(t *testing.T) {
	b := open(t)
	b.Calls = short{}
	w, own := planned()
	lib := b.Service.Houses.(testkit.Houses).House.Library
	var shields string
	for _, d := range lib.ForGroup("ol").Drills {
		if d.Equipment.Lane["shield"] > 0 && d.Lanes == 4 {
			shields = d.Key
		}
	}
	require.NotEmpty(t, shields)
	v := b.suggestions(t, plans{whole: w, every: []string{shields}}, own)
	last := v.Drills[len(v.Drills)-1]
	assert.Equal(t, shields, last.Drill)
	assert.Equal(t, "the other groups have the arm shields", *last.Blocked)
	w.Periods[1].Start = 40 // when the line is through
	for _, d := range b.suggestions(t, plans{whole: w, every: []string{shields}}, own).Drills {
		assert.Nil(t, d.Blocked)
	}
}

func TestOnlyOfAPeriodOfItsOwn(t *testing.T) {
	b := open(t)
	b.Calls, b.Climbs = short{}, climbers{b.line.Players}
	w, own := planned()
	b.Scripts = plans{whole: w}
	_, err := b.Suggestions(context.Background(), b.coach, "te", own)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Suggestions(context.Background(), b.coach, "ol", uuid.New())
	require.ErrorIs(t, err, problem.ErrNotFound)
}

func TestWhatAWeekAsks(t *testing.T) {
	b := open(t)
	placed := func(ago int, drill string, minutes int) script.PlacedOn {
		return script.PlacedOn{Placement: script.Placement{ID: uuid.New(), Group: "ol", DrillKey: drill, Minutes: minutes, Lanes: 3}, On: testkit.Day - season.Date(ago)}
	}
	p := plans{placed: []script.PlacedOn{placed(14, "kick_line", 6), placed(7, "kick_line", 6), placed(0, "kick_line", 20), placed(0, "unknown", 5)}}
	out := b.line.Players[4].ID
	b.line.Status = func(x squad.Player, day season.Date) availability.Status {
		if x.ID == out && day == testkit.Day {
			return availability.Out
		}
		return availability.Available
	}
	b.Squad, b.Scripts = b.line, p
	v, err := b.Load(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	require.Len(t, v.Players, 4, "who is out that day is asked for nothing")
	for _, x := range v.Players {
		assert.Greater(t, x.Reps, x.Average)
		assert.Greater(t, x.Over, .3, "twenty minutes after weeks of six")
		assert.Zero(t, x.High, "nobody meets anybody in it")
	}
	_, err = b.Load(context.Background(), b.coach, "xx", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Load(context.Background(), b.coach, "ol", 70)
	e, _ := invalid.As(err)
	assert.Equal(t, "week", e.Field)
}

// TestWhatIsWrongWithADay: contact before less of it, tackling late, and more sprints than the house lets.
func TestWhatIsWrongWithADay(t *testing.T) {
	b := open(t)
	practice := uuid.New()
	placed := func(at int, drill string) script.PlacedOn {
		return script.PlacedOn{Placement: script.Placement{ID: uuid.New(), Group: "ol", DrillKey: drill, Minutes: 8, Lanes: 2}, PracticeID: practice, On: testkit.Day, At: at, Of: 120, Kind: "individual"}
	}
	b.Squad, b.Scripts = b.line, plans{placed: []script.PlacedOn{placed(10, "base_slant_react"), placed(18, "base_fit"), placed(64, "turnover_fit"), placed(26, "screen_air")}, limits: contract.PracticeLimits{SprintDay: new(1)}}
	v, err := b.Load(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	says := map[string]int{}
	for _, w := range v.Warnings {
		assert.Equal(t, practice, w.PracticeID)
		for _, words := range []string{"Slant or stay (control) comes before Fit and hold (bag)", "Walk fit for the offence belongs into the first half", "yards: 1 a day at most"} {
			if strings.Contains(w.Says, words) {
				says[words]++
			}
		}
	}
	assert.Equal(t, map[string]int{"Slant or stay (control) comes before Fit and hold (bag)": 1, "Walk fit for the offence belongs into the first half": 1, "yards: 1 a day at most": 5}, says)
}

// TestWhatItCostsToRunLate: the drills of a period lose reps as they are squeezed, those that find no
// room fall out, and what of that which hurts they would have worked on is named.
func TestWhatItCostsToRunLate(t *testing.T) {
	b := open(t)
	b.tally(0, 3, 9, false, record.Fault{Key: "base_hands_wide"})
	lib := b.Service.Houses.(testkit.Houses).House.Library
	d, ok := lib.DrillFor("base_hands_wide", -1)
	require.True(t, ok)
	w, own := planned(d.Key, "kick_line")
	w.Periods[0].Placements[1].Start = 5
	b.Scripts = plans{whole: w}
	ask := func(minutes int) []contract.LateCost {
		t.Helper()
		v, err := b.Late(context.Background(), b.coach, w.Practice.ID, []contract.PeriodCut{{ID: own, Minutes: minutes}, {ID: w.Periods[1].ID, Minutes: 0}})
		require.NoError(t, err)
		return v
	}
	v := ask(10)
	require.Len(t, v, 1, "a period without drills costs minutes alone")
	assert.Zero(t, v[0].Reps, "ten minutes of drills go into ten")
	some, most, all := ask(8)[0], ask(4)[0], ask(0)[0]
	assert.Positive(t, some.Reps)
	assert.GreaterOrEqual(t, most.Reps, some.Reps)
	assert.GreaterOrEqual(t, all.Reps, most.Reps)
	assert.Equal(t, "ol", all.Group)
	assert.Len(t, all.Drills, 2)
	hands, _, _ := lib.Fault("base_hands_wide")
	assert.Equal(t, []string{hands.Name}, all.Needs)

	none, err := b.Late(context.Background(), b.coach, w.Practice.ID, nil)
	require.NoError(t, err)
	assert.Empty(t, none)
	_, err = b.Late(context.Background(), b.coach, uuid.New(), []contract.PeriodCut{{ID: own}})
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Late(context.Background(), b.coach, w.Practice.ID, []contract.PeriodCut{{ID: own}, {ID: uuid.New()}})
	require.ErrorIs(t, err, problem.ErrNotFound)
}
