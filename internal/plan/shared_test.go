package plan

import (
	"context"
	"errors"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/testkit"
)

// TestASharedPeriodIsKept: the store keeps each group's drills apart, side by side, and knows at which
// version they stand.
func TestASharedPeriodIsKept(t *testing.T) {
	for name, open := range map[string]func(*testing.T) shelf{"memory": inMemory, "postgres": inPostgres} {
		t.Run(name, func(t *testing.T) {
			s := open(t)
			id := uuid.New()
			shared := script.Period{ID: id, PracticeID: s.practice, Start: 30, Minutes: 12, Kind: "group", Name: "Edge", Contact: "control", Groups: []string{"ol", "db"}, Coaches: []string{}, NeedsGroups: []string{}}
			in := func(do func(ctx context.Context) error) { t.Helper(); require.NoError(t, s.in(do)) }
			read := func() (e script.Period) {
				in(func(ctx context.Context) (err error) { e, _, err = s.Period(ctx, id); return err })
				return e
			}
			in(func(ctx context.Context) error { return s.Store.(Scripts).Put(ctx, shared, s.by, testkit.Now()) })
			assert.Equal(t, map[string]int{"ol": 1, "db": 1}, read().Since)
			of := map[string]script.Placement{}
			for _, g := range []string{"ol", "db"} {
				of[g] = script.Placement{ID: uuid.New(), Group: g, DrillKey: "edge_" + g, Start: 0, Minutes: 6, Lanes: 1}
				in(func(ctx context.Context) error {
					return s.Replace(ctx, id, []string{g}, s.by, testkit.Now(), []script.Placement{of[g]})
				})
			}
			e := read()
			assert.Equal(t, map[string]int{"ol": 2, "db": 3}, e.Since)
			assert.Equal(t, []script.Placement{of["ol"]}, e.Of("ol"))
			assert.Equal(t, []script.Placement{of["db"]}, e.Of("db"))
			in(func(ctx context.Context) error {
				n, found, err := s.Next(ctx, s.season, "ol", testkit.Day)
				assert.True(t, found)
				assert.Equal(t, []script.Placement{of["ol"]}, n.Placements())
				list, err2 := s.Between(ctx, s.season, "db", testkit.Day, testkit.Day)
				assert.Equal(t, []script.PlacedOn{{Placement: of["db"], PracticeID: s.practice, On: testkit.Day, At: 30, Of: 90, Kind: "group"}}, list)
				return errors.Join(err, err2)
			})
			in(func(ctx context.Context) error {
				return s.Replace(ctx, id, []string{"ol"}, s.by, testkit.Now(), nil)
			})
			assert.Empty(t, read().Of("ol"))
			assert.Equal(t, []script.Placement{of["db"]}, read().Of("db"))
		})
	}
}

// TestTwoGroupsShareAPeriod: each coach plans his own drills there and is not in the other's way.
func TestTwoGroupsShareAPeriod(t *testing.T) {
	b := open(t)
	id := uuid.New()
	b.memory.periods = append(b.memory.periods, script.Period{ID: id, PracticeID: b.practice, Start: 30, Minutes: 12, Kind: "group", Name: "Edge", Contact: "control", Version: 4,
		Groups: []string{"ol", "db"}, Since: map[string]int{"ol": 4, "db": 4}})
	ctx := context.Background()
	put := func(coach, group string, version int, drills ...contract.PlacementInput) (contract.Period, error) {
		return b.PutPlacements(ctx, testkit.Coach(coach), id, group, version, contract.PutPlacementsJSONRequestBody{Placements: drills})
	}
	line, backs := drill(uuid.New(), "pull_bag", 0, 6), drill(uuid.New(), "pedal_line", 0, 6)
	e, err := put("ol", "ol", 4, line)
	require.NoError(t, err)
	assert.True(t, e.Own)
	assert.Len(t, e.Placements, 1)
	e, err = put("db", "db", 4, backs)
	require.NoError(t, err, "the other group's drills are no conflict")
	require.Len(t, e.Placements, 1)
	assert.Equal(t, "pedal_line", e.Placements[0].Drill)
	require.Len(t, e.Others, 1)
	assert.Equal(t, []any{"pull_bag", "ol"}, []any{e.Others[0].Placed.Drill, *e.Others[0].Placed.Group})
	line.Minutes = 8
	_, err = put("ol", "ol", 4, line)
	var stale *problem.Stale
	require.ErrorAs(t, err, &stale, "his own were changed since")
	_, err = put("ol", "ol", 5, line)
	require.NoError(t, err)

	_, err = put("ol", "db", 6)
	require.ErrorIs(t, err, problem.ErrForbidden)
	_, err = put("ol", "", 6)
	assert.Equal(t, "id", field(t, err), "whose drills is not said")
	_, err = put("ol", "te", 6)
	assert.Equal(t, "id", field(t, err))
	_, err = put("ol", "ol", 7, drill(uuid.New(), "pedal_line", 0, 6))
	assert.Equal(t, "placements[0].drill", field(t, err))
	theirs := drill(uuid.New(), "pull_bag", 0, 6)
	theirs.Group = new("db")
	_, err = put("ol", "ol", 7, theirs)
	assert.Equal(t, "placements[0].group", field(t, err))

	// A shorter period shortens each group's drills for themselves; one without a group whose drills
	// stand there is refused.
	head := testkit.Head()
	block := input(b.memory.periods[1])
	block.Minutes = 5
	done, err := b.PutPeriod(ctx, head, b.practice, id, b.memory.periods[1].Version, block)
	require.NoError(t, err)
	assert.Len(t, done.Shortened, 2)
	block.Groups = []string{"ol"}
	_, err = b.PutPeriod(ctx, head, b.practice, id, done.Version, block)
	assert.Equal(t, "groups", field(t, err))
	v, err := b.Practice(ctx, head, b.practice, "te")
	require.NoError(t, err)
	assert.Len(t, v.Periods[1].Placements, 2, "who has none there sees all")
	assert.False(t, v.Periods[1].Own)
}

func TestDrillsTogether(t *testing.T) {
	b := open(t)
	list, err := b.Together(context.Background(), b.coach, []string{"wr", "db"}, 12)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	for _, d := range list {
		assert.ElementsMatch(t, []string{"wr", "db"}, []string{d.Of, d.With}, d.Name)
		assert.LessOrEqual(t, d.Minutes, 12)
	}
	none, err := b.Together(context.Background(), b.coach, []string{"qb", "dl"}, 2)
	require.NoError(t, err)
	assert.Empty(t, none)
	_, err = b.Together(context.Background(), b.coach, []string{"wr", "nobody"}, 12)
	assert.Equal(t, "groups[1]", field(t, err))
}
