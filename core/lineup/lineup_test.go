package lineup_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/core/lineup"
)

func ExampleLineUp_OnField() {
	l := lineup.LineUp{
		{Name: "Left guard", Players: []lineup.Place{{Player: "64", Share: 80}, {Player: "61", Share: 20}}},
		{Name: "Right guard", Players: []lineup.Place{{Player: "68", Share: 100}, {Player: "61"}}},
	}
	for _, s := range l.OnField("right guard") {
		fmt.Println(s.Name, s.Players)
	}
	// Output: Right guard [{68 100}]
}

func TestCheckNamesTheField(t *testing.T) {
	many := make([]lineup.Place, lineup.MaxPlayers+1)
	for i := range many {
		many[i].Player = fmt.Sprint(i)
	}
	for _, c := range []struct {
		field string
		l     lineup.LineUp
	}{
		{"spots", make(lineup.LineUp, lineup.MaxSpots+1)},
		{"spots[0].name", lineup.LineUp{{Name: "  "}}},
		{"spots[0].name", lineup.LineUp{{Name: "Left, or right"}}},
		{"spots[1].name", lineup.LineUp{{Name: "Left end"}, {Name: " left  END"}}},
		{"spots[0].players", lineup.LineUp{{Name: "End", Players: many}}},
		{"spots[0].players[1]", lineup.LineUp{{Name: "End", Players: []lineup.Place{{Player: "9"}, {Player: "9"}}}}},
		{"spots[0].players[0].share", lineup.LineUp{{Name: "End", Players: []lineup.Place{{Player: "9", Share: 101}}}}},
		{"spots[0].players[1].share", lineup.LineUp{{Name: "End", Players: []lineup.Place{{Player: "9", Share: 60}, {Player: "8", Share: 41}}}}},
		{"spots[1].players[0].share", lineup.LineUp{{Name: "Left", Players: []lineup.Place{{Player: "9", Share: 60}}}, {Name: "Right", Players: []lineup.Place{{Player: "9", Share: 50}}}}},
	} {
		e, bad := invalid.As(c.l.Check())
		require.True(t, bad, c.field)
		assert.Equal(t, c.field, e.Field)
	}
	assert.NoError(t, lineup.LineUp{}.Check(), "a line-up that is not made yet")
}

// TestASoundLineUp: in a line-up that stands, nobody plays more than every snap, and no spot has
// more players than one at a time.
func TestASoundLineUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := lineup.LineUp(rapid.SliceOfN(rapid.Custom(func(t *rapid.T) lineup.Spot {
			return lineup.Spot{Name: rapid.StringMatching(`[a-c]{1,2}`).Draw(t, "name"), Players: rapid.SliceOfN(rapid.Custom(func(t *rapid.T) lineup.Place {
				return lineup.Place{Player: rapid.SampledFrom([]string{"7", "14", "64"}).Draw(t, "player"), Share: rapid.IntRange(0, 60).Draw(t, "share")}
			}), 0, 3).Draw(t, "players")}
		}), 0, 4).Draw(t, "spots"))
		if l.Check() != nil {
			return
		}
		for player, share := range l.Shares() {
			assert.LessOrEqual(t, share, 100, player)
		}
		for _, s := range l.OnField() {
			sum := 0
			for _, p := range s.Players {
				assert.Positive(t, p.Share)
				sum += p.Share
			}
			assert.LessOrEqual(t, sum, 100, s.Name)
		}
	})
}
