package reps

import "sort"

// Role is what a player does in one cycle of a drill.
type Role uint8

// The roles of a cycle.
const (
	Waits Role = iota
	Works
	Helps
)

const roleCount = 3

// Rotation says for every cycle what each player does: Rotation[cycle][player]. Those
// who may only help come after the others.
type Rotation [][]Role

// Side is the side a working turn is done on.
type Side uint8

// The sides. A drill that has no sides, and a turn that is not worked, has NoSide.
const (
	NoSide Side = iota
	Left
	Right
)

// Sides says on which side a player works in each cycle of a drill done left and
// right: his working turns alternate, so that the sides differ by at most one.
func (r Rotation) Sides(player int) []Side {
	out := make([]Side, len(r))
	turn := 0
	for c, roles := range r {
		if roles[player] == Works {
			out[c] = Left + Side(turn%2)
			turn++
		}
	}
	return out
}

// Rotate returns a rotation of the block in which every cycle is full, working
// reps differ by at most one between players and helping turns by at most one. Players who
// may only help do so first, sharing their turns as evenly among themselves.
//
// Why it always exists: give every player his share of working, helping and
// waiting turns, each share the same to within one. Players and roles then form a
// bipartite multigraph in which every player has one edge a cycle, and such a
// graph splits into that many full cycles (D. Kőnig, Über Graphen und ihre
// Anwendung, Math. Ann. 77, 1916). Each cycle is peeled off in turn, offering work
// first to those who have waited longest, so that nobody stands for long.
func Rotate(b Block) (Rotation, error) {
	y, err := Of(b)
	if err != nil {
		return nil, err
	}
	need := [roleCount]int{
		Works: y.LanesUsed * b.Working,
		Helps: b.helpers(y.LanesUsed),
	}
	left := shares(b.Players, y.Cycles, need[Works], need[Helps])
	need[Waits] = b.Players - need[Works] - need[Helps]

	rotation := make(Rotation, y.Cycles)
	lastWorked := make([]int, b.Players)
	for i := range lastWorked {
		lastWorked[i] = -1
	}
	for c := range rotation {
		cycle := peel(left, need, lastWorked)
		for p, role := range cycle {
			left[p][role]--
			if role == Works {
				lastWorked[p] = c
			}
		}
		rotation[c] = append(cycle, onlyHelp(c, b.HelpOnly, y.LanesUsed*b.Helping-need[Helps])...)
	}
	return rotation, nil
}

// onlyHelp lets the next of the players who may only help, taken in turn, help in a cycle.
func onlyHelp(cycle, players, wanted int) []Role {
	roles := make([]Role, players)
	for i := range min(wanted, players) {
		roles[(cycle*wanted+i)%players] = Helps
	}
	return roles
}

// shares deals the turns: each player's working and helping turns are the mean
// rounded down or up. Extra working turns go to the first players and extra
// helping turns to the last, so no player is dealt more turns than there are cycles.
func shares(players, cycles, working, helping int) [][roleCount]int {
	left := make([][roleCount]int, players)
	work, help := working*cycles, helping*cycles
	for p := range left {
		left[p][Works] = work / players
		if p < work%players {
			left[p][Works]++
		}
		left[p][Helps] = help / players
		if players-1-p < help%players {
			left[p][Helps]++
		}
		left[p][Waits] = cycles - left[p][Works] - left[p][Helps]
	}
	return left
}

// peel chooses one full cycle: a role for every player that he still has a turn
// of, each role taken as often as needed. It is a matching of players to role
// places, grown by augmenting paths over the three roles.
func peel(left [][roleCount]int, need [roleCount]int, lastWorked []int) []Role {
	order := make([]int, len(left))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(i, j int) bool { return lastWorked[order[i]] < lastWorked[order[j]] })

	const none = Role(roleCount)
	cycle := make([]Role, len(left))
	for p := range cycle {
		cycle[p] = none
	}
	var taken [roleCount]int

	var place func(p int, tried *[roleCount]bool) bool
	place = func(p int, tried *[roleCount]bool) bool {
		// Work first; of the other roles the one he has more turns of left, so that none
		// piles up for the end.
		prefer := [roleCount]Role{Works, Helps, Waits}
		if left[p][Waits] > left[p][Helps] {
			prefer[1], prefer[2] = Waits, Helps
		}
		for _, r := range prefer {
			if left[p][r] > 0 && !tried[r] && taken[r] < need[r] {
				cycle[p] = r
				taken[r]++
				return true
			}
		}
		for _, r := range prefer {
			if left[p][r] == 0 || tried[r] {
				continue
			}
			tried[r] = true
			// Every role he has turns of is full: move someone else out of one, latest in
			// the order first.
			for i := len(order) - 1; i >= 0; i-- {
				other := order[i]
				if cycle[other] != r {
					continue
				}
				cycle[other] = none
				taken[r]--
				if place(other, tried) {
					cycle[p] = r
					taken[r]++
					return true
				}
				cycle[other] = r
				taken[r]++
			}
		}
		return false
	}
	for _, p := range order {
		var tried [roleCount]bool
		place(p, &tried)
	}
	return cycle
}
