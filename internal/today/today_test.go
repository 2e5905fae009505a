package today

import (
	"context"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/needs"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/contract/gen"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/testkit"
)

type bench struct {
	*Service
	coach access.Coach
	line  testkit.Squad
	marks testkit.Marks
}

func open(t *testing.T) *bench {
	b := &bench{coach: testkit.Coach("ol"), line: testkit.Line("ol", 5)}
	b.Service = &Service{Houses: testkit.Shipped(t), Squad: b.line, Plans: testkit.Plans{}, Marks: b.marks, Now: testkit.Now}
	return b
}

func (b *bench) tally(player int, ago, n int, game bool, faults ...record.Fault) {
	b.marks.Add(b.line.Players[player].ID, "base_block", testkit.Day-season.Date(ago), game, n, faults...)
	b.Marks = b.marks
}

func (b *bench) today(t *testing.T) contract.Today {
	t.Helper()
	v, err := b.Today(context.Background(), b.coach, "ol", 7)
	require.NoError(t, err)
	return v
}

func keys(list []contract.Need) (out []string) {
	for _, n := range list {
		out = append(out, n.Fault)
	}
	return out
}

// TestWhatHurtsMost: safety before all, the last four weeks alone, a teammate's fault not
// the player's, and nobody counted who will not play.
func TestWhatHurtsMost(t *testing.T) {
	b := open(t)
	wide, behind, ducks := record.Fault{Key: "base_hands_wide"}, record.Fault{Key: "base_second_behind"}, record.Fault{Key: "head_down"}
	for i := range b.line.Players {
		b.tally(i, 3, 20, true)
	}
	b.tally(0, 3, 6, true, behind)
	b.tally(1, 3, 1, true, ducks)
	b.tally(2, needs.WindowDays, 30, false, wide)                                                          // of old
	b.tally(2, 2, 9, false, record.Fault{Key: "base_hands_wide", CausedBy: b.line.Players[0].ID.String()}) // his neighbour's
	v := b.today(t)
	assert.Equal(t, []string{"head_down", "base_second_behind"}, keys(v.Needs))
	n := v.Needs[1]
	assert.Equal(t, []int{6, 5*20 + 6 + 1 + 9}, []int{n.Faulty, n.N}, "reps with and without it, of everybody who did the technique")
	assert.Equal(t, b.line.Players[0].ID, n.Players[0].ID)
	assert.NotNil(t, n.Drill)
	sum := 0.0
	for _, p := range n.Players {
		sum += p.Part
	}
	assert.InDelta(t, n.Need, sum, 1e-9)

	b.line.Status = func(p squad.Player, _ season.Date) availability.Status {
		if p.ID == b.line.Players[0].ID {
			return availability.HeadHold
		}
		return availability.Available
	}
	b.Squad = b.line
	v = b.today(t)
	for _, n := range v.Needs {
		for _, p := range n.Players {
			assert.NotEqual(t, b.line.Players[0].ID, p.ID, "who is held will not play")
		}
	}
	require.Len(t, v.Holds, 1)
	assert.Equal(t, contract.AvailabilityHeadHold, v.Holds[0].Status)
}

func TestOnlyTheFirstFewNeedsAreShown(t *testing.T) {
	b := open(t)
	h, _ := b.Houses.Of(context.Background(), b.coach)
	shown := 0
	for _, technique := range h.Library.ForGroup("ol").Techniques {
		for _, f := range technique.Faults {
			if !f.Safety && shown < shownNeeds+4 {
				shown++
				b.marks.Add(b.line.Players[0].ID, technique.Key, testkit.Day, false, 3, record.Fault{Key: f.Key})
			}
		}
	}
	b.Marks = b.marks
	assert.Len(t, b.today(t).Needs, shownNeeds)
}

func TestWhatIsNextAndWhatIsStillToGrade(t *testing.T) {
	b := open(t)
	v := b.today(t)
	assert.Nil(t, v.NextPractice)
	assert.Equal(t, []contract.ToGrade{}, v.ToGrade)
	drill := "pull_bag"
	b.marks.ToDo = []record.Work{
		{Game: true, ID: uuid.New(), Title: "Dunmere", On: testkit.Day - 3, Plays: 70, Marked: 60},
		{Game: true, ID: uuid.New(), Title: "Thornwick", On: testkit.Day - 10, Plays: 70, Marked: 70},
		{Game: true, ID: uuid.New(), Title: "Of old", On: testkit.Day - 11, Plays: 70},
		{ID: uuid.New(), PracticeID: new(uuid.New()), DrillKey: &drill, Minutes: 5, Lanes: 2, Title: "Thursday", On: testkit.Day - 5, Marked: 1},
		{ID: uuid.New(), DrillKey: &drill, Minutes: 5, Lanes: 2, Title: "Tonight", On: testkit.Day},
		{ID: uuid.New(), DrillKey: new("no_such_drill"), Minutes: 5, Lanes: 2, Title: "Gone", On: testkit.Day - 1},
	}
	b.Marks = b.marks
	period := uuid.New()
	b.Plans = testkit.Plans{NextPlan: &script.Next{Group: "ol", Practice: script.Practice{ID: uuid.New(), On: testkit.Day, Title: "Tuesday"},
		Periods: []script.Period{{ID: period, Minutes: 20, Placements: []script.Placement{{ID: uuid.New(), Group: "ol", DrillKey: drill, Minutes: 5}, {ID: uuid.New(), Group: "ol", DrillKey: "gone", Minutes: 5}}}}}}
	b.tally(0, 3, 9, false)
	b.tally(0, 3, 9, false, record.Fault{Key: "pull_runs_past"})
	b.marks.Sums.Days[1].TechniqueKey, b.marks.Sums.Faults[0].TechniqueKey = "pull_kick", "pull_kick"
	b.Marks = b.marks
	v = b.today(t)
	require.Len(t, v.ToGrade, 2)
	assert.Equal(t, []any{"Game against Dunmere", 70, 60}, []any{v.ToGrade[0].Title, v.ToGrade[0].Expected, v.ToGrade[0].Graded})
	assert.Equal(t, "Pull and kick the bag, Thursday", v.ToGrade[1].Title)
	assert.Positive(t, v.ToGrade[1].Expected)
	require.NotNil(t, v.NextPractice)
	assert.Equal(t, []any{5, 20, period, 1}, []any{v.NextPractice.DrillMinutes, v.NextPractice.OwnMinutes, *v.NextPractice.OwnPeriod, len(v.NextPractice.Drills)})
	for _, n := range v.Needs {
		assert.Equal(t, n.Fault == "pull_runs_past", *n.Planned, "what the next practice works on is said")
	}
}

// TestVoicesSayWhatMayBeClaimed and nothing of somebody who is not there.
func TestVoicesSayWhatMayBeClaimed(t *testing.T) {
	b := open(t)
	for ago := 1; ago < 34; ago += 3 {
		b.tally(0, ago, 6, false)
		b.tally(0, ago, 3, true, record.Fault{Key: "base_hands_wide"})
		for mate := 1; mate < 5; mate++ {
			b.tally(mate, ago, 6, false)
			b.tally(mate, ago, 3, true)
		}
	}
	v := b.today(t)
	require.NotEmpty(t, v.Voices)
	assert.Equal(t, contract.VoiceKindNotCarrying, v.Voices[0].Kind)
	assert.Equal(t, b.line.Players[0].ID, v.Voices[0].PlayerID)
	for _, x := range v.Voices {
		assert.Equal(t, b.line.Players[0].ID, x.PlayerID, "nothing is claimed of the others")
	}
	b.Squad = testkit.Line("ol", 3)
	assert.Empty(t, b.today(t).Voices)
}

func TestTodayOfNothing(t *testing.T) {
	b := open(t)
	_, err := b.Today(context.Background(), b.coach, "xx", 7)
	require.ErrorIs(t, err, problem.ErrNotFound)
	_, err = b.Today(context.Background(), b.coach, "ol", 99)
	e, ok := invalid.As(err)
	require.True(t, ok)
	assert.Equal(t, "week", e.Field)
	_, err = API{b.Service}.GetToday(access.With(context.Background(), b.coach), gen.GetTodayRequestObject{Group: "ol", Params: contract.GetTodayParams{Week: 7}})
	require.NoError(t, err)
}
