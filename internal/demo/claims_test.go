package demo_test

import (
	"fmt"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/core/growth"
	"nineyard/core/season"
	"nineyard/internal/demo"
	"nineyard/internal/demo/demotest"
)

// The five families of claims.
var families = []string{"trend", "carry-over", "sides", "player trend", "player carry-over"}

// claimed counts what a report claims, by family.
func claimed(r growth.Report) (n [5]int) {
	for _, e := range r.Rows {
		for i, c := range []bool{e.TrendClaimed, e.CarryClaimed, e.SidesClaimed} {
			if c {
				n[i]++
			}
		}
	}
	for _, p := range r.Players {
		for i, c := range []bool{p.TrendClaimed, p.CarryClaimed} {
			if c {
				n[3+i]++
			}
		}
	}
	return n
}

func reportOf(t require.TestingT, rows []growth.Row) growth.Report {
	r, err := growth.Of(season.Of(demo.Now()), growth.Default(), rows)
	require.NoError(t, err)
	return r
}

// falseClaims draws seasons in which nobody changes and returns, by group and family, the
// share in which something is claimed all the same.
func falseClaims(t require.TestingT, seasons int) map[string][5]float64 {
	out := map[string][5]float64{}
	for group, design := range demotest.World().Design() {
		var share [5]float64
		for seed := range seasons {
			for i, n := range claimed(reportOf(t, demo.Draw(design, uint64(seed), false))) {
				if n > 0 {
					share[i] += 1 / float64(seasons)
				}
			}
		}
		out[group] = share
	}
	return out
}

// found draws seasons with the planted truths and returns how often each is claimed.
func found(t require.TestingT, seasons int) (improving, slipping, practiceOnly float64) {
	design := demotest.World().Design()["ol"]
	for seed := range seasons {
		for _, e := range reportOf(t, demo.Draw(design, uint64(seed), true)).Rows {
			for _, x := range []struct {
				is  bool
				add *float64
			}{
				{e.Player == demo.Improving && e.Technique == "kick_slide" && e.TrendClaimed && e.Trend == growth.Improving, &improving},
				{e.Player == demo.Slipping && e.Technique == "base_block" && e.TrendClaimed && e.Trend == growth.Slipping, &slipping},
				{e.Player == demo.PracticeOnly && e.Technique == "close_turn" && e.CarryClaimed, &practiceOnly},
			} {
				if x.is {
					*x.add += 1 / float64(seasons)
				}
			}
		}
	}
	return improving, slipping, practiceOnly
}

// TestSeasonsInWhichNobodyChanges: of each family about one season in ten may claim
// something, whatever the group. The seeds are fixed, so this is no chance.
func TestSeasonsInWhichNobodyChanges(t *testing.T) {
	const seasons = 100
	var sum [5]float64
	all := falseClaims(t, seasons)
	for _, group := range slices.Sorted(maps.Keys(all)) {
		t.Logf("%s %.2f", group, all[group])
		for i, share := range all[group] {
			sum[i] += share / float64(len(all))
		}
	}
	for i, share := range sum {
		assert.LessOrEqual(t, share, 0.14, families[i])
	}
	improving, slipping, practiceOnly := found(t, seasons)
	t.Logf("found: improving %.2f, slipping %.2f, practice only %.2f", improving, slipping, practiceOnly)
	assert.Greater(t, min(improving, slipping, practiceOnly), 0.8, "the planted truths are found")
}

// BenchmarkClaims prints the share of 200 seasons in which nobody changes that claim
// something all the same, by family, over all groups and in the group where it is most; and
// how often each planted truth is found.
func BenchmarkClaims(b *testing.B) {
	const seasons = 200
	for b.Loop() {
		all := falseClaims(b, seasons)
		for i, family := range families {
			sum, most, where := 0.0, 0.0, ""
			for _, group := range slices.Sorted(maps.Keys(all)) {
				share := all[group][i]
				if sum += share / float64(len(all)); share > most {
					most, where = share, group
				}
			}
			fmt.Printf("claimed of %d seasons in which nobody changes: %-18s %.3f, most in %s: %.3f\n", seasons, family, sum, where, most)
		}
		improving, slipping, practiceOnly := found(b, seasons)
		fmt.Printf("planted truths found: improving %.3f, slipping %.3f, fine in practice and poor in games %.3f\n", improving, slipping, practiceOnly)
	}
}
