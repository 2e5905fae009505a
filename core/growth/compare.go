package growth

import "math"

// part is one side of a comparison.
type part struct {
	tally
	sessions int
	u, i, v  float64 // Σ(c − n·q)/D, Σ n·q(1−q)/D and Σ n·q(1−q)
}

// comparison sets the sessions of one part (A) beside those of the other (B), of one cell.
// With q at the level of both together and D = 1 + (n−1)ρ, what a session of n reps is worth
// less than n,
//
//	δ = U_A/I_A − U_B/I_B,  w = 1/(1/I_A + 1/I_B),  h = ½(1/V_A + 1/V_B).
//
// δ is a difference of logits and 1/w its variance: a step of Fisher's scoring from the
// common level (the score test, C. R. Rao, Proc. Cambridge Phil. Soc. 44, 1948). h is half a
// rep, the correction for counts being whole.
type comparison struct {
	a, b        part
	delta, w, h float64
}

// compare makes the comparison; it reports false when a part is empty.
func compare(list []session, by *[2]others, rho float64) (c comparison, ok bool) {
	var n [2]tally
	for i := range list {
		x := &list[i]
		n[x.source].add(x.tally)
		p := &c.a
		if x.part == 1 {
			p = &c.b
		}
		p.add(x.tally)
		p.sessions++
	}
	if c.a.sessions == 0 || c.b.sessions == 0 {
		return c, false
	}
	q := expected(level(n, by), by)
	for i := range list {
		x := &list[i]
		p := &c.a
		if x.part == 1 {
			p = &c.b
		}
		d, v := worth(x.n(), rho), x.variance(&q)
		p.u += x.surprise(&q) / d
		p.i += v / d
		p.v += v
	}
	c.delta = c.a.u/c.a.i - c.b.u/c.b.i
	c.w = 1 / (1/c.a.i + 1/c.b.i)
	c.h = (1/c.a.v + 1/c.b.v) / 2
	return c, true
}

// worth is D: n reps of one day are worth n/D independent ones.
func worth(n, rho float64) float64 { return 1 + (n-1)*rho }

// enough reports whether each part has the reps and the sessions to be compared by.
func (c *comparison) enough(s Settings) bool {
	least := float64(s.MinReps)
	return c.a.n() >= least && c.b.n() >= least && c.a.sessions >= MinSessions && c.b.sessions >= MinSessions
}

// towards0 moves x towards 0 by h, not past it: δ⁻ʰ.
func towards0(x, h float64) float64 {
	if x > 0 {
		return max(x-h, 0)
	}
	return min(x+h, 0)
}

// phi is Φ, the normal distribution.
func phi(z float64) float64 { return math.Erfc(-z/math.Sqrt2) / 2 }

// compare fills in what the report says of cells and players.
func (in *input) compare(rows []Estimate, players []Player, group []GroupRate) {
	days, sides := in.likeness()
	found := make([]overall, len(in.players))
	in.inChunks(func(_, first, end int) {
		w := &work{in: in, rho: days, sideRho: sides, day: make([]float64, in.ages), seen: make([]uint32, in.ages)}
		for p := first; p < end; p++ {
			from, to := in.ofPlayer[p], in.ofPlayer[p+1]
			for i := from; i < to; i++ {
				in.estimate(&rows[i], &in.cells[i], group)
				w.sides(&in.cells[i], &rows[i])
			}
			players[p].Player = in.players[p]
			found[p] = w.player(from, to, rows[from:to])
		}
	})
	in.beside(players, found)
}

// sides compares a cell's reps to the left with those to the right.
func (w *work) sides(c *cell, e *Estimate) {
	w.list = w.in.sided(c, w.list[:0])
	if len(w.list) == 0 {
		e.sides(comparison{}, false, w.in.settings)
		return
	}
	by := w.in.others(c)
	x, ok := compare(w.list, &by, w.sideRho)
	e.sides(x, ok, w.in.settings)
}

// likeness returns ρ of days, the sessions being cut into recent and older ones, and ρ of
// days and sides.
func (in *input) likeness() (days, sides float64) {
	type both struct{ day, side likeness }
	found := make([]both, len(in.chunks))
	in.inChunks(func(chunk, first, end int) {
		l := &found[chunk]
		var list []session
		for i := in.ofPlayer[first]; i < in.ofPlayer[end]; i++ {
			c := &in.cells[i]
			by := in.others(c)
			list = in.sessions(c, list[:0])
			trend(list, in.settings)
			l.day.add(list, &by)
			if list = in.sided(c, list[:0]); len(list) > 1 {
				l.side.add(list, &by)
			}
		}
	})
	var sum both
	for _, l := range found {
		sum.day.plus(l.day)
		sum.side.plus(l.side)
	}
	return sum.day.rho(), sum.side.rho()
}

// trend makes the recent sessions part 0 and the older ones part 1.
func trend(list []session, s Settings) {
	for i := range list {
		list[i].part = 0
		if int(list[i].age) >= s.RecentDays {
			list[i].part = 1
		}
	}
}

// carry returns the sessions of the carry-over days, practices as part 0 and games as 1.
func carry(list []session, s Settings) []session {
	end := 0
	for end < len(list) && int(list[end].age) < s.CarryDays {
		list[end].part = uint8(list[end].source)
		end++
	}
	return list[:end]
}
