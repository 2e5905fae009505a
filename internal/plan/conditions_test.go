package plan

import (
	"context"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/conditions"
	"nineyard/core/season"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

func (m *memory) Day(_ context.Context, p script.Practice, _ uuid.UUID, _ string) (Day, error) {
	d := Day{Absences: m.absences, Readings: m.readings[p.ID]}
	for _, x := range m.practices {
		if x.On <= p.On && x.Cancelled == "" && !slices.Contains(d.Practices, x.On) {
			d.Practices = append(d.Practices, x.On)
		}
	}
	slices.Sort(d.Practices)
	return d, nil
}

func (m *memory) PutReading(_ context.Context, practice uuid.UUID, r Reading, _ uuid.UUID) error {
	if m.readings == nil {
		m.readings = map[uuid.UUID][]Reading{}
	}
	if !slices.ContainsFunc(m.readings[practice], func(x Reading) bool { return x.ID == r.ID }) {
		r.By = "H. Coach"
		m.readings[practice] = append([]Reading{r}, m.readings[practice]...)
	}
	return nil
}

// TestReadingsAreKept: the store keeps every reading, the newest first, and one that is sent again once.
func TestReadingsAreKept(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			store := s.Store.(Conditions)
			first, second := uuid.New(), uuid.New()
			require.NoError(t, s.in(func(ctx context.Context) error {
				for range 2 {
					require.NoError(t, store.PutReading(ctx, s.practice, Reading{ID: first, Index: new(29.5), At: testkit.Now()}, s.by))
				}
				require.NoError(t, store.PutReading(ctx, s.practice, Reading{ID: second, At: testkit.Now().Add(time.Minute)}, s.by))
				d, err := store.Day(ctx, script.Practice{ID: s.practice, On: testkit.Day}, s.season, "ol")
				require.NoError(t, err)
				assert.Equal(t, []season.Date{testkit.Day}, d.Practices)
				require.Len(t, d.Readings, 2)
				assert.Equal(t, []any{second, first, 29.5, "H. Coach"}, []any{d.Readings[0].ID, d.Readings[1].ID, *d.Readings[1].Index, d.Readings[1].By})
				assert.Nil(t, d.heat(), "the last one holds")
				return nil
			}))
		})
	}
}

// TestAbsencesAreReadAsTheyHold: open ones, those that are over, and a hold up to the day before it was
// cleared.
func TestAbsencesAreReadAsTheyHold(t *testing.T) {
	f := testkit.OpenField(t)
	day := testkit.Day
	require.NoError(t, f.In(func(ctx context.Context) error {
		for _, x := range []struct {
			status        string
			from, to, end int
			withdrawn     bool
		}{{"out", -40, -30, 0, false}, {"head_hold", -20, 0, -4, false}, {"limited", -3, -1, 0, false}, {"out", -3, -1, 0, true}} {
			args := pg.Args{"id": uuid.New(), "player": f.Player, "status": x.status, "from": (day + season.Date(x.from)).Time(), "to": nil, "cleared": nil, "by": nil, "document": nil, "withdrawn": nil, "coach": f.HeadCoach}
			if x.to != 0 {
				args["to"] = (day + season.Date(x.to)).Time()
			}
			if x.end != 0 {
				args["cleared"], args["by"], args["document"] = (day + season.Date(x.end)).Time(), "Dr. Marsh", "letter"
			}
			if x.withdrawn {
				args["withdrawn"] = testkit.Now()
			}
			if _, err := pg.Exec(ctx, `INSERT INTO availability_spells (club_id, id, player_id, status, from_on, to_on, reason, cleared_on, cleared_by, cleared_document, recorded_by, withdrawn_at, created_by, created_at)
				VALUES (@club, @id, @player, @status, @from, @to, 'x', @cleared::date, @by, @document, CASE WHEN @cleared::date IS NOT NULL THEN @coach::uuid END, @withdrawn::timestamptz, @coach, now())`, args); err != nil {
				return err
			}
		}
		d, err := SQL{}.Day(ctx, script.Practice{ID: f.Practice, On: day}, f.Season.ID, "ol")
		assert.ElementsMatch(t, []conditions.Absence{{From: day - 40, To: day - 30}, {From: day - 20, To: day - 5}}, d.Absences[f.Player])
		return err
	}))
}

// TestTheDayIsLookedAt: heat and first days speak in the checks of a practice, and who is on his way
// back is named.
func TestTheDayIsLookedAt(t *testing.T) {
	b := open(t)
	ctx := context.Background()
	look := func() (codes []string, v contract.Practice) {
		v, err := b.Practice(ctx, b.coach, b.practice, "ol")
		require.NoError(t, err)
		for _, f := range v.Look.Findings {
			if f.Code == "heat" || f.Code == "first_days" {
				codes = append(codes, f.Code)
			}
		}
		return codes, v
	}
	codes, v := look()
	assert.Equal(t, []string{"first_days"}, codes, "the season's first day, by the examples that ship")
	assert.Equal(t, 1, v.PracticeDay)
	away := b.squad.Players[3].ID
	b.memory.absences = map[uuid.UUID][]conditions.Absence{away: {{From: testkit.Day - 20, To: testkit.Day - 1}}, b.squad.Players[4].ID: {{From: testkit.Day - 9, To: testkit.Day - 2}}}
	_, v = look()
	require.Len(t, v.Returning, 1)
	assert.Equal(t, []any{away, 20, 1, 5, contract.ContactLevel("air"), true}, []any{v.Returning[0].PlayerID, v.Returning[0].Away, v.Returning[0].Day, v.Returning[0].Of, v.Returning[0].Contact, v.Returning[0].Limit})

	list, err := b.PutHeat(ctx, testkit.Coach("db"), b.practice, uuid.New(), new(33.5))
	require.NoError(t, err)
	require.Len(t, list, 1)
	codes, v = look()
	assert.Equal(t, []string{"first_days", "heat"}, codes)
	assert.InDelta(t, 33.5, *v.Heat[0].Index, 0)
	_, err = b.PutHeat(ctx, b.coach, uuid.New(), uuid.New(), new(30.0))
	require.ErrorIs(t, err, problem.ErrNotFound)

	set, err := b.Settings(ctx, testkit.Head())
	require.NoError(t, err)
	in := contract.PracticeSettingsInput{Places: set.Places, Equipment: set.Equipment, Helpers: []contract.Helper{}, Themes: set.Themes, Limits: set.Limits}
	(*in.Limits.HeatBands)[1].From = 20
	_, err = b.PutSettings(ctx, testkit.Head(), 0, in)
	assert.Equal(t, "limits.heat_bands[1].from", field(t, err))
	in.Limits.HeatBands = nil
	in.Limits.FirstDays.Steps[1].Through = 1
	_, err = b.PutSettings(ctx, testkit.Head(), 0, in)
	assert.Equal(t, "limits.first_days.steps[1].through", field(t, err))
	in.Limits.FirstDays = nil
	_, err = b.PutSettings(ctx, testkit.Head(), 0, in)
	require.NoError(t, err)
	codes, _ = look()
	assert.Empty(t, codes, "what is left out is not checked")
}
