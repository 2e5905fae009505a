package growth

import (
	"encoding/binary"
	"math"
	"slices"
	"sort"
)

// over is one question (trend or carry-over) asked of one player over all his techniques.
// Eight techniques tell what one cannot.
type over struct {
	a, b           part
	w, delta       float64 // W = Σw and δ̄ = Σ w·δ/W over the techniques that enter
	datesA, datesB int
	enough         bool
	// How much the days of a player differ, through all his techniques: Σ_dates(Σt)²/W and
	// Σu/W; see days.
	spread, expected float64
}

// overall is both questions.
type overall struct{ trend, carry over }

// work is what is used again from player to player.
type work struct {
	in           *input
	rho, sideRho float64
	list         []session
	cells        []worked
	day          []float64 // by age
	seen         []uint32  // by age: the mark of who saw it last
	mark         uint32
}

// worked is one technique of the player at hand.
type worked struct {
	from, to int // in list
	by       [2]others
	of       comparison
	enters   bool
}

// player compares the sessions of one player's cells, fills in their rows and returns what
// he is over all.
func (w *work) player(from, to int, rows []Estimate) (o overall) {
	in, s := w.in, w.in.settings
	w.list, w.cells = w.list[:0], w.cells[:0]
	for i := from; i < to; i++ {
		start := len(w.list)
		w.list = in.sessions(&in.cells[i], w.list)
		w.cells = append(w.cells, worked{from: start, to: len(w.list), by: in.others(&in.cells[i])})
	}
	for i := range w.cells {
		x := &w.cells[i]
		trend(w.list[x.from:x.to], s)
		x.of, x.enters = compare(w.list[x.from:x.to], &x.by, w.rho)
		rows[i].trend(x.of, x.enters, s)
	}
	o.trend = w.over()
	for i := range w.cells {
		x, c := &w.cells[i], &in.cells[from+i]
		x.to = x.from + len(carry(w.list[x.from:x.to], s))
		x.of, x.enters = compare(w.list[x.from:x.to], &x.by, w.rho)
		x.enters = x.enters && in.beside3(c)
		rows[i].carry(x.of, x.enters, s)
	}
	o.carry = w.over()
	return o
}

// beside3 reports whether at least three others have reps of the cell's technique at each
// source: with fewer, what the others do is not known.
func (in *input) beside3(c *cell) bool {
	for source, n := range in.byTechnique[c.technique].players {
		if c.all[source].n() > 0 {
			n--
		}
		if n < MinSessions {
			return false
		}
	}
	return true
}

// over adds up the techniques that enter.
func (w *work) over() (o over) {
	for i := range w.cells {
		x := &w.cells[i]
		if !x.enters {
			continue
		}
		o.w += x.of.w
		o.delta += x.of.w * x.of.delta
		o.a.add(x.of.a.tally)
		o.b.add(x.of.b.tally)
		o.a.v += x.of.a.v
		o.b.v += x.of.b.v
	}
	if o.w == 0 {
		return o
	}
	o.delta /= o.w
	o.datesA, o.datesB = w.dates(0), w.dates(1)
	least := 2 * float64(w.in.settings.MinReps)
	o.enough = o.a.n() >= least && o.b.n() >= least && o.datesA >= MinSessions && o.datesB >= MinSessions
	if o.enough {
		w.days(&o)
	}
	return o
}

// dates counts the dates of a part over the techniques that enter.
func (w *work) dates(part uint8) (n int) {
	w.mark++
	for i := range w.cells {
		x := &w.cells[i]
		if !x.enters {
			continue
		}
		for j := x.from; j < x.to; j++ {
			if y := &w.list[j]; y.part == part && w.seen[y.age] != w.mark {
				w.seen[y.age] = w.mark
				n++
			}
		}
	}
	return n
}

// days works out how much a player's days differ: a good or bad day runs through all his
// techniques. In each technique that enters and each part with two sessions or more, with
// the part's own level,
//
//	t = (w/I)(c − n·q)/D,  u = (w/I)²·(n·q(1−q)/D)·(1 − a)
//
// with a the session's share of Σ n·q(1−q)/D; w and I are the comparison's.
func (w *work) days(o *over) {
	w.mark++
	first := w.mark
	u := 0.0
	for i := range w.cells {
		x := &w.cells[i]
		if !x.enters {
			continue
		}
		list := w.list[x.from:x.to]
		for part := range uint8(2) {
			n, sessions := totals(list, part)
			if sessions < 2 {
				continue
			}
			info := x.of.a.i
			if part == 1 {
				info = x.of.b.i
			}
			k := x.of.w / info
			q := expected(level(n, &x.by), &x.by)
			sum := 0.0
			for j := range list {
				if y := &list[j]; y.part == part {
					sum += y.variance(&q) / worth(y.n(), w.rho)
				}
			}
			for j := range list {
				y := &list[j]
				if y.part != part {
					continue
				}
				d := worth(y.n(), w.rho)
				v := y.variance(&q) / d
				u += k * k * v * (1 - v/sum)
				if w.seen[y.age] != first {
					w.seen[y.age], w.day[y.age] = first, 0
				}
				w.day[y.age] += k * y.surprise(&q) / d
			}
		}
	}
	// The sum over the dates, each once: its mark is taken away when it is counted.
	for i := range w.cells {
		x := &w.cells[i]
		if !x.enters {
			continue
		}
		for j := x.from; j < x.to; j++ {
			age := w.list[j].age
			if w.seen[age] == first {
				w.seen[age] = 0
				o.spread += w.day[age] * w.day[age]
			}
		}
	}
	o.spread /= o.w
	o.expected = u / o.w
}

// spread returns φ of a question: how much more the days of players differ than sessions
// that have nothing to do with each other would, and at least 1.
func spread(all []overall, of func(*overall) *over) float64 {
	num, den := 0.0, 0.0
	for i := range all {
		if o := of(&all[i]); o.enough {
			num += o.spread
			den += o.expected
		}
	}
	if den == 0 {
		return 1
	}
	return max(num/den, 1)
}

// beside says of every player over all his techniques whether he changed, and whether he
// drops in games, more than the others.
//
// Trend: with J the others who are not too few and have reps of at least one technique of
// his, m the median of their δ̄ and s = π/2·|J|/(Σ√W)² its variance (that of a median of
// normal values), p = Φ((δ̄ − m)/√(φ(1/W + s))). What all do together is nobody's own change.
//
// Carry-over: p = Φ(δ̄⁻ʰ·√(W/φ)); the others' rate at the source is in every session.
func (in *input) beside(players []Player, all []overall) {
	phiTrend := spread(all, func(o *overall) *over { return &o.trend })
	phiCarry := spread(all, func(o *overall) *over { return &o.carry })
	c := newCrowd(in, all)
	for p := range players {
		out, t, k := &players[p], &all[p].trend, &all[p].carry
		out.Trend, out.Recent, out.Older = TooFew, t.a.count(), t.b.count()
		out.Carry, out.CarryPractice, out.CarryGame = CarryTooFew, k.a.count(), k.b.count()
		if m, s, ok := c.others(p); t.enough && ok {
			out.PImproved = phi((t.delta - m) / math.Sqrt(phiTrend*(1/t.w+s)))
			out.Trend = trendOf(out.PImproved)
		}
		if k.enough {
			out.PDrop = phi(towards0(k.delta, (1/k.a.v+1/k.b.v)/2) * math.Sqrt(k.w/phiCarry))
			out.Carry = carryOf(out.PDrop)
		}
	}
}

// crowd is the players whose trend is known, in the order of δ̄.
type crowd struct {
	in     *input
	all    []overall
	order  []int          // players
	rank   []int          // by player: his place in order, −1 for none
	of     [][]int        // by technique: places of those who have reps of it, ascending
	shared map[string]set // by the techniques of a player
}

// set is those who have reps of at least one of some techniques.
type set struct {
	places []int   // in order
	roots  float64 // Σ√W
}

func newCrowd(in *input, all []overall) *crowd {
	c := &crowd{in: in, all: all, rank: make([]int, len(all)), of: make([][]int, len(in.techniques)), shared: map[string]set{}}
	for p := range all {
		if c.rank[p] = -1; all[p].trend.enough {
			c.order = append(c.order, p)
		}
	}
	sort.SliceStable(c.order, func(i, j int) bool { return all[c.order[i]].trend.delta < all[c.order[j]].trend.delta })
	for place, p := range c.order {
		c.rank[p] = place
		for _, k := range in.done(p) {
			c.of[k] = append(c.of[k], place)
		}
	}
	return c
}

// done lists the techniques of which a player has reps.
func (in *input) done(p int) (list []int32) {
	for i := in.ofPlayer[p]; i < in.ofPlayer[p+1]; i++ {
		if c := &in.cells[i]; c.all[Practice].n()+c.all[Game].n() > 0 {
			list = append(list, c.technique)
		}
	}
	return list
}

// others returns the median change of the others and its variance; false when they are
// fewer than three.
func (c *crowd) others(p int) (median, variance float64, ok bool) {
	if c.rank[p] < 0 {
		return 0, 0, false
	}
	s := c.sharing(c.in.done(p))
	self, _ := slices.BinarySearch(s.places, c.rank[p])
	n := len(s.places) - 1
	if n < MinSessions {
		return 0, 0, false
	}
	at := func(i int) float64 {
		if i >= self {
			i++
		}
		return c.all[c.order[s.places[i]]].trend.delta
	}
	median = (at((n-1)/2) + at(n/2)) / 2
	roots := s.roots - math.Sqrt(c.all[p].trend.w)
	return median, math.Pi / 2 * float64(n) / (roots * roots), true
}

// sharing returns those who have reps of at least one of the techniques. Most players of a
// group do the same, so a set is made once for all who do.
func (c *crowd) sharing(techniques []int32) set {
	key := make([]byte, 0, 4*len(techniques))
	for _, k := range techniques {
		key = binary.LittleEndian.AppendUint32(key, uint32(k))
	}
	if s, ok := c.shared[string(key)]; ok {
		return s
	}
	in := make([]bool, len(c.order))
	for _, k := range techniques {
		for _, place := range c.of[k] {
			in[place] = true
		}
	}
	var s set
	for place, there := range in {
		if there {
			s.places = append(s.places, place)
			s.roots += math.Sqrt(c.all[c.order[place]].trend.w)
		}
	}
	c.shared[string(key)] = s
	return s
}
