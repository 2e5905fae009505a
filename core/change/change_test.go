package change_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"nineyard/core/change"
)

var noon = time.Date(2026, 10, 13, 12, 0, 0, 0, time.UTC)

func ExampleWhen() {
	// The phone's clock is a day ahead; the mark waited for ten minutes.
	made := noon.Add(24 * time.Hour)
	fmt.Println(change.When(made, made.Add(10*time.Minute), noon).Format(time.TimeOnly))
	// Output: 11:50:00
}

func TestWhen(t *testing.T) {
	for name, x := range map[string]struct {
		made, sent time.Time
		want       time.Duration
	}{
		"nothing is said":           {time.Time{}, time.Time{}, 0},
		"only when it was made":     {noon.Add(-time.Hour), time.Time{}, 0},
		"at once":                   {noon, noon, 0},
		"an hour ago":               {noon.Add(-time.Hour), noon, -time.Hour},
		"a clock set back meantime": {noon.Add(time.Hour), noon, 0},
		"years":                     {noon.AddDate(-3, 0, 0), noon, -change.Longest},
	} {
		assert.Equal(t, noon.Add(x.want), change.When(x.made, x.sent, noon), name)
	}
}

// Whatever the clock of a device says, a change is made in the bounds, and two of one
// sending keep their order.
func TestWhenIsBoundedAndKeepsTheOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string) time.Time {
			return noon.Add(time.Duration(rapid.Int64Range(-1e17, 1e17).Draw(t, name)))
		}
		a, b, sent, now := at("a"), at("b"), at("sent"), at("now")
		x, y := change.When(a, sent, now), change.When(b, sent, now)
		for _, m := range []time.Time{x, y} {
			assert.False(t, m.After(now))
			assert.False(t, m.Before(now.Add(-change.Longest)))
		}
		if a.Before(b) {
			assert.False(t, x.After(y))
		}
	})
}

func TestHolds(t *testing.T) {
	at := func(minutes int) time.Time { return noon.Add(time.Duration(minutes) * time.Minute) }
	standing := change.Made{ID: "s", At: at(10), Seq: 4}
	assert.True(t, change.Holds(standing, change.Made{ID: "n", At: at(11), Seq: 5}), "a later one")
	assert.False(t, change.Holds(standing, change.Made{ID: "n", At: at(9), Seq: 5}), "one that was made before and came in late")
	assert.True(t, change.Holds(standing, change.Made{ID: "n", On: "s", At: at(9), Seq: 5}), "he saw it and changed it: his clock is wrong")
	assert.False(t, change.Holds(standing, change.Made{ID: "n", On: "older", At: at(9), Seq: 5}), "he saw another one")
	assert.True(t, change.Holds(standing, change.Made{ID: "n", At: at(10), Seq: 5}), "at one moment the order of coming in decides")
}

// Of changes that nobody saw of each other the same one holds in whatever order they come.
func TestHoldsWhateverTheOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "n")
		list := make([]change.Made, n)
		for i := range list {
			list[i] = change.Made{ID: fmt.Sprint(i), At: noon.Add(time.Duration(rapid.IntRange(0, 3).Draw(t, "at")) * time.Second), Seq: int64(i)}
		}
		last := func(order []change.Made) change.Made {
			standing := order[0]
			for _, m := range order[1:] {
				if change.Holds(standing, m) {
					standing = m
				}
			}
			return standing
		}
		assert.Equal(t, last(list), last(rapid.Permutation(list).Draw(t, "order")))
	})
}
