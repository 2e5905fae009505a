package reps

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

	// The table is one piece, and what is needed to fill it is used again from cycle to cycle:
	// nothing is allocated for a player or a cycle.
	wide := b.Players + b.HelpOnly
	table := make([]Role, y.Cycles*wide)
	rotation := make(Rotation, y.Cycles)
	x := &peeler{left: left, need: need, order: make([]int, b.Players), next: make([]int, b.Players)}
	for p := range x.order {
		x.order[p] = p
	}
	for c := range rotation {
		row := table[c*wide : (c+1)*wide : (c+1)*wide]
		x.peel(row[:b.Players])
		onlyHelp(row[b.Players:], c, b.helpOnly(y.LanesUsed))
		rotation[c] = row
	}
	return rotation, nil
}

// onlyHelp lets the next of the players who may only help, taken in turn, help in a cycle.
func onlyHelp(roles []Role, cycle, wanted int) {
	for i := range min(wanted, len(roles)) {
		roles[(cycle*wanted+i)%len(roles)] = Helps
	}
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

// peeler chooses one cycle after the other.
type peeler struct {
	left        [][roleCount]int // turns of each player
	need, taken [roleCount]int
	order, next []int // who waited longest first
	cycle       []Role
	tried       [roleCount]bool
}

const none = Role(roleCount)

// peel chooses one full cycle: a role for every player that he still has a turn
// of, each role taken as often as needed. It is a matching of players to role
// places, grown by augmenting paths over the three roles. Who worked goes to the end of the
// order.
func (x *peeler) peel(cycle []Role) {
	for p := range cycle {
		cycle[p] = none
	}
	x.cycle, x.taken = cycle, [roleCount]int{}
	for _, p := range x.order {
		x.tried = [roleCount]bool{}
		x.place(p)
	}
	kept := x.next[:0]
	for _, p := range x.order {
		if cycle[p] != Works {
			kept = append(kept, p)
		}
	}
	for p, role := range cycle {
		x.left[p][role]--
		if role == Works {
			kept = append(kept, p)
		}
	}
	x.order, x.next = kept, x.order
}

// place gives a player a role, moving others where it must.
func (x *peeler) place(p int) bool {
	left := &x.left[p]
	// Work first; of the other roles the one he has more turns of left, so that none
	// piles up for the end.
	prefer := [roleCount]Role{Works, Helps, Waits}
	if left[Waits] > left[Helps] {
		prefer[1], prefer[2] = Waits, Helps
	}
	for _, r := range prefer {
		if left[r] > 0 && !x.tried[r] && x.taken[r] < x.need[r] {
			x.cycle[p] = r
			x.taken[r]++
			return true
		}
	}
	for _, r := range prefer {
		if left[r] == 0 || x.tried[r] {
			continue
		}
		x.tried[r] = true
		// Every role he has turns of is full: move someone else out of one, latest in
		// the order first.
		for i := len(x.order) - 1; i >= 0; i-- {
			other := x.order[i]
			if x.cycle[other] != r {
				continue
			}
			x.cycle[other] = none
			x.taken[r]--
			if x.place(other) {
				x.cycle[p] = r
				x.taken[r]++
				return true
			}
			x.cycle[other] = r
			x.taken[r]++
		}
	}
	return false
}
