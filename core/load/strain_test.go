package load_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"nineyard/core/load"
	"nineyard/core/season"
)

func ExampleOver() {
	day := season.Must("2026-10-13")
	for _, x := range load.Over(load.Limits{Day: map[string]int{load.Throws: 60}, RestAfter: 2}, []load.Strain{
		{Player: "7", On: day, What: load.Throws, N: 40}, {Player: "7", On: day, What: load.Throws, N: 30},
		{Player: "7", On: day + 1, What: load.Throws, N: 20}, {Player: "7", On: day + 2, What: load.Throws, N: 20},
		{Player: "7", On: day + 4, What: load.Throws, N: 20},
	}) {
		fmt.Println(x.On, x.N, x.Limit, x.Days)
	}
	// Output:
	// 2026-10-13 70 60 0
	// 2026-10-15 20 0 3
}

func TestOver(t *testing.T) {
	day := season.Must("2026-10-13")
	sprints := []load.Strain{{"1", day, load.Sprint, 300}, {"1", day + 1, load.Sprint, 301}}
	assert.Len(t, load.Over(load.Limits{Day: map[string]int{load.Sprint: 300}, RestAfter: 1}, sprints), 1, "legs run every day; up to the limit is not over")
	assert.Empty(t, load.Over(load.Limits{}, sprints), "what is not set is not checked")
}

// TestOverIsWhatCountingByHandSays: against counting day by day.
func TestOverIsWhatCountingByHandSays(t *testing.T) {
	day := season.Must("2026-10-13")
	rapid.Check(t, func(t *rapid.T) {
		limits := load.Limits{Day: map[string]int{load.Kicks: rapid.IntRange(0, 12).Draw(t, "limit")}, RestAfter: rapid.IntRange(0, 3).Draw(t, "rest")}
		var list []load.Strain
		var sums [9]float64
		for range rapid.IntRange(0, 12).Draw(t, "rows") {
			d, n := rapid.IntRange(0, 8).Draw(t, "day"), rapid.IntRange(0, 9).Draw(t, "n")
			list = append(list, load.Strain{Player: "k", On: day + season.Date(d), What: load.Kicks, N: float64(n)})
			sums[d] += float64(n)
		}
		want := 0
		row := 0
		for _, n := range sums {
			if row++; n == 0 {
				row = 0
			}
			if n > 0 && (limits.Day[load.Kicks] > 0 && n > float64(limits.Day[load.Kicks]) || limits.RestAfter > 0 && row > limits.RestAfter) {
				want++
			}
		}
		assert.Len(t, load.Over(limits, list), want)
	})
}
