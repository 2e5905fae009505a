package needs

import (
	"cmp"
	"fmt"
	"slices"

	"nineyard/core/invalid"
)

// Player is somebody who may play.
type Player struct {
	Key       string
	SnapShare float64 // 0–1, his expected share of the snaps
}

// Count says that a player showed a fault of a technique in Faulty of N reps.
type Count struct {
	Player, Technique, Fault string
	Faulty, N                int // 0 ≤ Faulty ≤ N
}

// Input of Rank. A fault without a severity counts 1, a technique without an
// exposure 0, a player who is not listed does not play.
type Input struct {
	Severity  map[string]float64 // by fault, ≥ 0
	Exposure  map[string]float64 // by technique: expected uses in the next game, ≥ 0
	Players   []Player
	Counts    []Count
	PriorReps float64         // > 0; zero means 6
	Safety    map[string]bool // faults that outrank all others
}

// Part is one player's share of a need.
type Part struct {
	Player string
	Rate   float64 // his estimated rate of the fault
	Part   float64 // snap share × rate × exposure × severity
}

// Need is an expected, weighted number of faults in the next game.
type Need struct {
	Fault, Technique string
	Need             float64
	Rate             float64 // pooled over the group
	Safety           bool
	Players          []Part // by part descending, then key
}

// Rank returns the needs: safety faults first, then by need descending, technique
// and fault. For a player with f faulty of n reps and the pooled rate r,
//
//	e = (f + prior·r) / (n + prior),  need = Σ snap share · e · exposure · severity.
//
// It returns an invalid.Error for counts or shares out of range.
func Rank(in Input) ([]Need, error) {
	if in.PriorReps == 0 {
		in.PriorReps = 6
	}
	if err := in.check(); err != nil {
		return nil, err
	}
	type pair struct{ technique, fault string }
	pooled := map[pair]Count{}
	own := map[pair]map[string]Count{}
	var order []pair
	for _, c := range in.Counts {
		k := pair{c.Technique, c.Fault}
		if own[k] == nil {
			own[k] = map[string]Count{}
			order = append(order, k)
		}
		own[k][c.Player] = sum(own[k][c.Player], c)
		pooled[k] = sum(pooled[k], c)
	}
	list := make([]Need, 0, len(order))
	for _, k := range order {
		r := 0.0
		if n := pooled[k].N; n > 0 {
			r = float64(pooled[k].Faulty) / float64(n)
		}
		severity, ok := in.Severity[k.fault]
		if !ok {
			severity = 1
		}
		need := Need{Fault: k.fault, Technique: k.technique, Rate: r, Safety: in.Safety[k.fault]}
		for _, p := range in.Players {
			c, ok := own[k][p.Key]
			if !ok {
				continue
			}
			e := (float64(c.Faulty) + in.PriorReps*r) / (float64(c.N) + in.PriorReps)
			part := p.SnapShare * e * in.Exposure[k.technique] * severity
			need.Players = append(need.Players, Part{p.Key, e, part})
			need.Need += part
		}
		descending(need.Players, func(p Part) float64 { return p.Part }, func(a, b Part) int { return cmp.Compare(a.Player, b.Player) })
		list = append(list, need)
	}
	slices.SortStableFunc(list, func(a, b Need) int { return cmp.Compare(rank(a), rank(b)) })
	safe := slices.IndexFunc(list, func(n Need) bool { return !n.Safety })
	if safe < 0 {
		safe = len(list)
	}
	for _, part := range [][]Need{list[:safe], list[safe:]} {
		descending(part, func(n Need) float64 { return n.Need }, func(a, b Need) int {
			return cmp.Or(cmp.Compare(a.Technique, b.Technique), cmp.Compare(a.Fault, b.Fault))
		})
	}
	return list, nil
}

// rank is 0 for safety faults.
func rank(n Need) int {
	if n.Safety {
		return 0
	}
	return 1
}

// slack is how near two values may lie to be equal: sums of the same terms in another order
// differ in their last digits.
const slack = 1e-9

// descending sorts by value, largest first, and what is within slack of the first of its
// run by the tie.
func descending[T any](list []T, value func(T) float64, tie func(a, b T) int) {
	slices.SortStableFunc(list, func(a, b T) int { return cmp.Compare(value(b), value(a)) })
	for from := 0; from < len(list); {
		end := from + 1
		for end < len(list) && value(list[from])-value(list[end]) <= slack {
			end++
		}
		slices.SortStableFunc(list[from:end], tie)
		from = end
	}
}

func sum(a, b Count) Count {
	return Count{Faulty: a.Faulty + b.Faulty, N: a.N + b.N}
}

func (in Input) check() error {
	if !(in.PriorReps > 0) {
		return invalid.Field("prior_reps", "prior_reps must be more than 0, got %v", in.PriorReps)
	}
	seen := map[string]bool{}
	for i, p := range in.Players {
		if seen[p.Key] {
			return invalid.Field(fmt.Sprintf("players[%d].key", i), "players[%d].key %q is given twice", i, p.Key)
		}
		seen[p.Key] = true
		if !(p.SnapShare >= 0 && p.SnapShare <= 1) {
			return invalid.Field(fmt.Sprintf("players[%d].snap_share", i), "players[%d].snap_share must be between 0 and 1, got %v", i, p.SnapShare)
		}
	}
	for i, c := range in.Counts {
		if c.Faulty < 0 || c.N < c.Faulty {
			return invalid.Field(fmt.Sprintf("faults[%d].faulty", i), "faults[%d].faulty must be between 0 and n (%d), got %d", i, c.N, c.Faulty)
		}
	}
	return nil
}
