package suggest_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/practice"
	"nineyard/core/suggest"
)

func input() suggest.Input {
	return suggest.Input{
		Drills: []suggest.Drill{
			{Key: "bag", WorksOn: []string{"high"}, Trains: []string{"base"}, Sides: 2, Reps: 8, SelfCheck: true},
			{Key: "chute", WorksOn: []string{"late"}, Trains: []string{"base"}, Reps: 9},
			{Key: "head_up", WorksOn: []string{"head"}, Reps: 6},
			{Key: "sled", WorksOn: []string{"high"}, Reps: 9, Short: []string{"Sleds"}},
			{Key: "pair", WorksOn: []string{"wide"}, Reps: 0},
			{Key: "idle", Reps: 9}},
		Ladders: []suggest.Ladder{{Says: "Lead left needs it by Thu 15 Oct", Call: "Lead left", Drills: []string{"chute"}}, {Says: "Base block is at “Bag”", Drills: []string{"bag", "chute"}}},
		Needs:   []suggest.Need{{"head", "Head down", true}, {"high", "Hips high", false}, {"wide", "Hands wide", false}},
		Sides:   []suggest.Sides{{"base", "Base block", 4, 20}},
	}
}

func ExampleOf() {
	for _, s := range suggest.Of(input()) {
		fmt.Print(s.Drill)
		for _, r := range s.Reasons {
			fmt.Print("; ", r.Says)
		}
		if s.Blocked != "" {
			fmt.Print("; but ", s.Blocked)
		}
		fmt.Println()
	}
	// Output:
	// head_up; Head down is not safe
	// bag; Base block is at “Bag”; Hips high; Base block: 4 of 24 reps to the left
	// chute; Lead left needs it by Thu 15 Oct
	// sled; Hips high; but the other groups have the sleds
	// pair; Hands wide; but too few players can take part
}

func keys(list []suggest.Suggestion) (out []string) {
	for _, s := range list {
		out = append(out, s.Drill)
	}
	return out
}

func TestWhatIsPlacedIsNotSuggested(t *testing.T) {
	in := input()
	in.Placed = []string{"bag", "head_up"}
	assert.Equal(t, []string{"chute", "sled", "pair"}, keys(suggest.Of(in)))
	in.EveryDay = []string{"idle"}
	assert.Equal(t, []string{"chute", "idle", "sled", "pair"}, keys(suggest.Of(in)))
}

func TestWhoIsAloneSeesFirstWhatShowsItself(t *testing.T) {
	in := suggest.Input{Drills: []suggest.Drill{{Key: "a", Reps: 9}, {Key: "b", Reps: 5, SelfCheck: true}}, EveryDay: []string{"a", "b"}}
	assert.Equal(t, []string{"a", "b"}, keys(suggest.Of(in)), "the one with more reps")
	in.Alone = true
	assert.Equal(t, []string{"b", "a"}, keys(suggest.Of(in)))
}

func TestWhatTheGroupWorksAtComesFirst(t *testing.T) {
	in := suggest.Input{Drills: []suggest.Drill{{Key: "a", Reps: 9, SelfCheck: true}, {Key: "b", Reps: 5, Begun: true}}, EveryDay: []string{"a", "b"}, Alone: true}
	assert.Equal(t, []string{"b", "a"}, keys(suggest.Of(in)))
}

func TestSides(t *testing.T) {
	drill := []suggest.Drill{{Key: "a", Trains: []string{"base"}, Sides: 2, Reps: 1}}
	for _, c := range []struct {
		left, right int
		says        string
	}{{4, 8, ""}, {3, 9, "Base: 3 of 12 reps to the left"}, {30, 10, "Base: 10 of 40 reps to the right"}, {0, 11, ""}} {
		list := suggest.Of(suggest.Input{Drills: drill, Sides: []suggest.Sides{{"base", "Base", c.left, c.right}}})
		if c.says == "" {
			assert.Empty(t, list, c)
			continue
		}
		require.Len(t, list, 1)
		assert.Equal(t, c.says, list[0].Reasons[0].Says)
	}
}

func TestWants(t *testing.T) {
	stock := []suggest.Stock{{"bags", "Half bags", 10}, {"chutes", "Chutes", 5}, {"balls", "Footballs", 24}}
	for words, want := range map[string]map[string]int{
		"5 half bags and a chalk stripe": {"bags": 5},
		"Chutes, 12 footballs":           {"chutes": 1, "balls": 12},
		"a half bag":                     {"bags": 1},
		"None":                           {},
		"parachutes":                     {},
		"4 bags, 1 board":                {"bags": 4},
	} {
		assert.Equal(t, want, suggest.Wants(words, stock), words)
	}
	assert.Equal(t, []string{"Half bags"}, suggest.Missing(map[string]int{"bags": 5, "chutes": 2}, map[string]int{"bags": 4, "chutes": 2}, stock))
}

// TestSuggestions: no drill twice, none without a reason, what can be run before what cannot, and the
// same answer in whatever order drills are known.
func TestSuggestions(t *testing.T) {
	faults := []string{"high", "late", "head"}
	rapid.Check(t, func(t *rapid.T) {
		in := input()
		in.Drills = nil
		for i := range rapid.IntRange(0, 20).Draw(t, "n") {
			d := suggest.Drill{Key: fmt.Sprintf("d%02d", i), WorksOn: rapid.SliceOfN(rapid.SampledFrom(faults), 0, 2).Draw(t, "faults"), Reps: rapid.IntRange(0, 3).Draw(t, "reps")}
			if rapid.Bool().Draw(t, "every day") {
				in.EveryDay = append(in.EveryDay, d.Key)
			}
			in.Drills = append(in.Drills, d)
		}
		list := suggest.Of(in)
		assert.LessOrEqual(t, len(list), suggest.Most)
		seen, blocked := map[string]bool{}, false
		for _, s := range list {
			assert.False(t, seen[s.Drill])
			seen[s.Drill] = true
			assert.NotEmpty(t, s.Reasons)
			assert.False(t, blocked && s.Blocked == "", "what cannot be run comes last")
			blocked = s.Blocked != ""
		}
		in.Drills = rapid.Permutation(in.Drills).Draw(t, "order")
		assert.Equal(t, list, suggest.Of(in))
	})
}

// TestOneReasonDoesNotHideTheRest: of the drills for one habit four come first.
func TestOneReasonDoesNotHideTheRest(t *testing.T) {
	in := suggest.Input{Needs: []suggest.Need{{Fault: "head", Name: "Head down", Safety: true}}, EveryDay: []string{"daily"}}
	for _, k := range "abcdefghijklmnop" {
		in.Drills = append(in.Drills, suggest.Drill{Key: string(k), WorksOn: []string{"head"}, Reps: 6})
	}
	in.Drills = append(in.Drills, suggest.Drill{Key: "daily", Reps: 6})
	var keys []string
	for _, s := range suggest.Of(in) {
		keys = append(keys, s.Drill)
	}
	assert.Equal(t, []string{"a", "b", "c", "d", "daily", "e", "f", "g", "h", "i", "j", "k"}, keys)
}

// TestWhatIsNotSafeIsMendedBelowContact: no drill in which players meet is suggested for it, and the one with the least
// contact comes first.
func TestWhatIsNotSafeIsMendedBelowContact(t *testing.T) {
	in := suggest.Input{Needs: []suggest.Need{{Fault: "head", Name: "Head down", Safety: true}}, EveryDay: []string{"thud"}}
	for _, c := range []practice.Contact{practice.Control, practice.Bag, practice.Thud, practice.Air} {
		in.Drills = append(in.Drills, suggest.Drill{Key: c.String(), WorksOn: []string{"head"}, Contact: c, Reps: 9 - int(c)})
	}
	list := suggest.Of(in)
	assert.Equal(t, []string{"air", "bag", "thud"}, keys(list))
	assert.Equal(t, suggest.EveryDay, list[2].Reasons[0].Code, "for another reason it may be done")
}
