package palette

import (
	"cmp"
	"maps"
	"slices"
)

// Prior is how many faults of the group's spread weigh as much as the player's own.
const Prior = 6.0

// Weeks is how far back what is usual is counted: what was trained away longer ago is no habit any more.
const Weeks = 8

// Count is how many marks of a player at a technique show a fault.
type Count struct {
	Player, Technique, Fault string
	N                        float64 // not negative
}

// Palette is the order for a player; without one it is for all of whom nothing is known.
type Palette struct {
	Player, Technique string
	Faults            []string // all of the technique
}

// Of orders the faults of a technique, which are given with the most important first, for everybody with a count
// and, first, for anybody else. Of equals that one comes first which is more important; faults that the technique
// does not have are not counted.
func Of(technique string, faults []string, counts []Count) []Palette {
	own := map[string]map[string]float64{"": {}}
	group, sum := map[string]float64{}, 0.0
	for _, c := range counts {
		if c.Technique != technique || !slices.Contains(faults, c.Fault) {
			continue
		}
		if own[c.Player] == nil {
			own[c.Player] = map[string]float64{}
		}
		if c.Player != "" {
			own[c.Player][c.Fault] += c.N
		}
		group[c.Fault] += c.N
		sum += c.N
	}
	list := []Palette{}
	for _, player := range slices.Sorted(maps.Keys(own)) {
		expected := func(fault string) float64 {
			if sum == 0 {
				return 0
			}
			return own[player][fault] + Prior*group[fault]/sum
		}
		order := slices.Clone(faults)
		slices.SortStableFunc(order, func(a, b string) int { return cmp.Compare(expected(b), expected(a)) })
		list = append(list, Palette{Player: player, Technique: technique, Faults: order})
	}
	return list
}
