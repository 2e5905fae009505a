package growth_test

import (
	"math"
	"slices"
	"sort"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nineyard/core/growth"
	"nineyard/core/season"
)

// brute is the rules of the package as they are written down, with maps and halving, and
// nothing of the package's own arithmetic.
type brute struct {
	s    growth.Settings
	rows []growth.Row
	asOf season.Date
}

type sessionOf struct{ c, n, g float64 }

type compared struct {
	delta, w, h    float64
	a, b           []dated
	ia, ib, va, vb float64
	na, nb         int
	ok             bool
}

// dated is a session with its date.
type dated struct {
	sessionOf
	age int
}

func logistic(x float64) float64 { return 1 / (1 + math.Exp(-x)) }
func logit(p float64) float64    { return math.Log(p / (1 - p)) }

func (b brute) g(player, technique string, source growth.Source) float64 {
	var c, n, ci, ni, all, reps float64
	for _, r := range b.rows {
		if r.Technique != technique {
			continue
		}
		all, reps = all+float64(r.Clean), reps+float64(r.Clean+r.Faulty)
		if r.Source == source {
			c, n = c+float64(r.Clean), n+float64(r.Clean+r.Faulty)
			if r.Player == player {
				ci, ni = ci+float64(r.Clean), ni+float64(r.Clean+r.Faulty)
			}
		}
	}
	return (c - ci + 8*(all+.5)/(reps+1)) / (n - ni + 8)
}

// sessions groups the rows of a player and technique that are kept, by date, source and, if
// asked, side.
func (b brute) sessions(player, technique string, bySide bool, keep func(age int, r growth.Row) bool) []dated {
	type key struct {
		age    int
		source growth.Source
		side   growth.Side
	}
	sums := map[key]dated{}
	for _, r := range b.rows {
		age := int(b.asOf - r.Date)
		if r.Player != player || r.Technique != technique || !keep(age, r) {
			continue
		}
		k := key{age: age, source: r.Source}
		if bySide {
			k.side = r.Side
		}
		x := sums[k]
		x.age, x.c, x.n = age, x.c+float64(r.Clean), x.n+float64(r.Clean+r.Faulty)
		x.g = b.g(player, technique, r.Source)
		sums[k] = x
	}
	var list []dated
	for _, x := range sums {
		if x.n > 0 {
			list = append(list, x)
		}
	}
	sort.Slice(list, func(i, j int) bool {
		return list[i].age < list[j].age || list[i].age == list[j].age && list[i].g < list[j].g
	})
	return list
}

func bruteLevel(list []dated) float64 {
	var n, ng float64
	for _, x := range list {
		n, ng = n+x.n, ng+x.n*x.g
	}
	mean := ng / n
	lo, hi := -60.0, 60.0
	for range 200 {
		at := (lo + hi) / 2
		sum := mean - logistic(logit(mean)+at)
		for _, x := range list {
			sum += x.c - x.n*logistic(logit(x.g)+at)
		}
		if sum > 0 {
			lo = at
		} else {
			hi = at
		}
	}
	return lo
}

func bruteRho(parts [][]dated) float64 {
	var num, den float64
	for _, part := range parts {
		if len(part) < 2 {
			continue
		}
		at, sum := bruteLevel(part), 0.0
		v := func(x dated) float64 { q := logistic(logit(x.g) + at); return x.n * q * (1 - q) }
		for _, x := range part {
			sum += v(x)
		}
		for _, x := range part {
			if x.n >= 2 {
				e := x.c - x.n*logistic(logit(x.g)+at)
				num += e*e/(1-v(x)/sum) - v(x)
				den += v(x) * (x.n - 1)
			}
		}
	}
	if den == 0 {
		return 0
	}
	return math.Max(0, math.Min(1, num/den))
}

func bruteCompare(a, b []dated, rho float64) (x compared) {
	x.a, x.b = a, b
	for _, s := range a {
		x.na += int(s.n)
	}
	for _, s := range b {
		x.nb += int(s.n)
	}
	if len(a) == 0 || len(b) == 0 {
		return x
	}
	x.ok = true
	at := bruteLevel(append(slices.Clone(a), b...))
	side := func(list []dated) (u, i, v float64) {
		for _, s := range list {
			q, d := logistic(logit(s.g)+at), 1+(s.n-1)*rho
			u += (s.c - s.n*q) / d
			i += s.n * q * (1 - q) / d
			v += s.n * q * (1 - q)
		}
		return
	}
	ua, ia, va := side(a)
	ub, ib, vb := side(b)
	x.ia, x.ib, x.va, x.vb = ia, ib, va, vb
	x.delta, x.w, x.h = ua/ia-ub/ib, 1/(1/ia+1/ib), .5*(1/va+1/vb)
	return x
}

func normal(z float64) float64 { return .5 * math.Erfc(-z/math.Sqrt2) }

func shrink(x, h float64) float64 {
	return math.Copysign(math.Max(0, math.Abs(x)-h), x)
}

// want is the probabilities of one row or player; −1 for too few.
type want struct{ improved, drop, left float64 }

func (b brute) players() (list []string) {
	for _, r := range b.rows {
		list = append(list, r.Player)
	}
	slices.Sort(list)
	return slices.Compact(list)
}

func (b brute) techniques(player string) (list []string) {
	for _, r := range b.rows {
		if player == "" || r.Player == player {
			list = append(list, r.Technique)
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

func (b brute) othersWith(player, technique string, source growth.Source) int {
	found := map[string]bool{}
	for _, r := range b.rows {
		if r.Technique == technique && r.Source == source && r.Player != player && r.Clean+r.Faulty > 0 {
			found[r.Player] = true
		}
	}
	return len(found)
}

type bruteCell struct{ trend, carry, sides compared }

func (b brute) cells() map[[2]string]bruteCell {
	recent := func(age int, _ growth.Row) bool { return age < b.s.RecentDays }
	older := func(age int, _ growth.Row) bool { return age >= b.s.RecentDays }
	at := func(source growth.Source) func(int, growth.Row) bool {
		return func(age int, r growth.Row) bool { return age < b.s.CarryDays && r.Source == source }
	}
	to := func(side growth.Side) func(int, growth.Row) bool {
		return func(age int, r growth.Row) bool { return age < b.s.CarryDays && r.Side == side }
	}
	var parts, sideParts [][]dated
	for _, p := range b.players() {
		for _, k := range b.techniques(p) {
			parts = append(parts, b.sessions(p, k, false, recent), b.sessions(p, k, false, older))
			sideParts = append(sideParts, b.sessions(p, k, true, to(growth.Left)), b.sessions(p, k, true, to(growth.Right)))
		}
	}
	rho, sideRho := bruteRho(parts), bruteRho(sideParts)
	out := map[[2]string]bruteCell{}
	for _, p := range b.players() {
		for _, k := range b.techniques(p) {
			out[[2]string{p, k}] = bruteCell{
				bruteCompare(b.sessions(p, k, false, recent), b.sessions(p, k, false, older), rho),
				bruteCompare(b.sessions(p, k, false, at(growth.Practice)), b.sessions(p, k, false, at(growth.Game)), rho),
				bruteCompare(b.sessions(p, k, true, to(growth.Left)), b.sessions(p, k, true, to(growth.Right)), sideRho),
			}
		}
	}
	return out
}

func (b brute) rho() float64 {
	var parts [][]dated
	for _, p := range b.players() {
		for _, k := range b.techniques(p) {
			parts = append(parts, b.sessions(p, k, false, func(age int, _ growth.Row) bool { return age < b.s.RecentDays }),
				b.sessions(p, k, false, func(age int, _ growth.Row) bool { return age >= b.s.RecentDays }))
		}
	}
	return bruteRho(parts)
}

func (b brute) wants() (map[[2]string]want, map[string]want) {
	cells, rho := b.cells(), b.rho()
	rows := map[[2]string]want{}
	enough := func(x compared) bool {
		return x.ok && x.na >= b.s.MinReps && x.nb >= b.s.MinReps && len(x.a) >= 3 && len(x.b) >= 3
	}
	for key, c := range cells {
		w := want{-1, -1, -1}
		if enough(c.trend) {
			w.improved = normal(c.trend.delta * math.Sqrt(c.trend.w))
		}
		if enough(c.carry) && b.othersWith(key[0], key[1], growth.Practice) >= 3 && b.othersWith(key[0], key[1], growth.Game) >= 3 {
			w.drop = normal(shrink(c.carry.delta, c.carry.h) * math.Sqrt(c.carry.w))
		}
		if enough(c.sides) {
			w.left = normal(shrink(c.sides.delta, c.sides.h) * math.Sqrt(c.sides.w))
		}
		rows[key] = w
	}
	trend, phiTrend := b.overall(cells, rho, func(c bruteCell) compared { return c.trend }, func(string, string) bool { return true })
	carry, phiCarry := b.overall(cells, rho, func(c bruteCell) compared { return c.carry }, func(p, k string) bool {
		return b.othersWith(p, k, growth.Practice) >= 3 && b.othersWith(p, k, growth.Game) >= 3
	})
	players := map[string]want{}
	for _, p := range b.players() {
		w := want{-1, -1, -1}
		if o, ok := trend[p]; ok {
			var others []float64
			roots := 0.0
			for q, x := range trend {
				if q != p && b.shareReps(p, q) {
					others = append(others, x.delta)
					roots += math.Sqrt(x.w)
				}
			}
			if n := len(others); n >= 3 {
				slices.Sort(others)
				m := (others[(n-1)/2] + others[n/2]) / 2
				s := math.Pi / 2 * float64(n) / (roots * roots)
				w.improved = normal((o.delta - m) / math.Sqrt(phiTrend*(1/o.w+s)))
			}
		}
		if o, ok := carry[p]; ok {
			w.drop = normal(shrink(o.delta, .5*(1/o.va+1/o.vb)) * math.Sqrt(o.w/phiCarry))
		}
		players[p] = w
	}
	return rows, players
}

func (b brute) shareReps(p, q string) bool {
	has := func(player, technique string) bool {
		return slices.ContainsFunc(b.rows, func(r growth.Row) bool {
			return r.Player == player && r.Technique == technique && r.Clean+r.Faulty > 0
		})
	}
	for _, k := range b.techniques(p) {
		if has(p, k) && has(q, k) {
			return true
		}
	}
	return false
}

type bruteOver struct{ w, delta, va, vb float64 }

func (b brute) overall(cells map[[2]string]bruteCell, rho float64, of func(bruteCell) compared, may func(p, k string) bool) (map[string]bruteOver, float64) {
	out := map[string]bruteOver{}
	var num, den float64
	for _, p := range b.players() {
		var o bruteOver
		var na, nb int
		datesA, datesB := map[int]bool{}, map[int]bool{}
		byDate, u := map[int]float64{}, 0.0
		for _, k := range b.techniques(p) {
			x := of(cells[[2]string{p, k}])
			if !x.ok || !may(p, k) {
				continue
			}
			o.w += x.w
			o.delta += x.w * x.delta
			o.va += x.va
			o.vb += x.vb
			na += x.na
			nb += x.nb
			for i, list := range [][]dated{x.a, x.b} {
				info := []float64{x.ia, x.ib}[i]
				for _, s := range list {
					[]map[int]bool{datesA, datesB}[i][s.age] = true
				}
				if len(list) < 2 {
					continue
				}
				at, sum := bruteLevel(list), 0.0
				v := func(s dated) float64 {
					q := logistic(logit(s.g) + at)
					return s.n * q * (1 - q) / (1 + (s.n-1)*rho)
				}
				for _, s := range list {
					sum += v(s)
				}
				for _, s := range list {
					byDate[s.age] += x.w / info * (s.c - s.n*logistic(logit(s.g)+at)) / (1 + (s.n-1)*rho)
					u += math.Pow(x.w/info, 2) * v(s) * (1 - v(s)/sum)
				}
			}
		}
		if na < 2*b.s.MinReps || nb < 2*b.s.MinReps || len(datesA) < 3 || len(datesB) < 3 {
			continue
		}
		o.delta /= o.w
		out[p] = o
		for _, t := range byDate {
			num += t * t / o.w
		}
		den += u / o.w
	}
	if den == 0 {
		return out, 1
	}
	return out, math.Max(1, num/den)
}

// seasons are inputs in which every part of the rules has something to do.
func seasons() *rapid.Generator[[]growth.Row] {
	return rapid.Custom(func(t *rapid.T) []growth.Row {
		players := []string{"14", "7", "64", "88", "52"}[:rapid.IntRange(1, 5).Draw(t, "players")]
		techniques := []string{"reach", "base", "pull"}[:rapid.IntRange(1, 3).Draw(t, "techniques")]
		days := rapid.SampledFrom([]int{12, 40, 60}).Draw(t, "days")
		most := rapid.SampledFrom([]int{1, 6, 12, 400}).Draw(t, "most")
		rows := rapid.SampledFrom([]int{0, 3, 30, 300}).Draw(t, "most rows")
		return rapid.SliceOfN(rapid.Custom(func(t *rapid.T) growth.Row {
			return growth.Row{
				Player:    rapid.SampledFrom(players).Draw(t, "player"),
				Technique: rapid.SampledFrom(techniques).Draw(t, "technique"),
				Date:      today - season.Date(rapid.IntRange(0, days).Draw(t, "age")),
				Source:    growth.Source(rapid.IntRange(0, 1).Draw(t, "source")),
				Side:      growth.Side(rapid.IntRange(0, 2).Draw(t, "side")),
				Clean:     rapid.IntRange(0, most).Draw(t, "clean"),
				Faulty:    rapid.IntRange(0, most).Draw(t, "faulty"),
			}
		}), rows/2, rows).Draw(t, "rows")
	})
}

func TestAgainstTheRulesAsWritten(t *testing.T) {
	asked := want{}
	rapid.Check(t, func(t *rapid.T) {
		in := seasons().Draw(t, "rows")
		s := growth.Default()
		s.MinReps = rapid.SampledFrom([]int{1, 6}).Draw(t, "least")
		got, err := growth.Of(today, s, in)
		require.NoError(t, err)
		rows, players := brute{s, in, today}.wants()
		require.Len(t, got.Rows, len(rows))
		require.Len(t, got.Players, len(players))
		same := func(want, got float64, tooFew bool, n *float64, what ...any) {
			if want < 0 {
				require.True(t, tooFew, what...)
				return
			}
			*n++
			require.False(t, tooFew, what...)
			require.InDelta(t, want, got, 1e-7, what...)
		}
		for _, e := range got.Rows {
			w := rows[[2]string{e.Player, e.Technique}]
			same(w.improved, e.PImproved, e.Trend == growth.TooFew, &asked.improved, "trend", e)
			same(w.drop, e.PDrop, e.Carry == growth.CarryTooFew, &asked.drop, "carry", e)
			same(w.left, e.PLeftBetter, e.Sides == growth.SidesTooFew, &asked.left, "sides", e)
		}
		for _, p := range got.Players {
			w := players[p.Player]
			same(w.improved, p.PImproved, p.Trend == growth.TooFew, &asked.improved, "trend", p)
			same(w.drop, p.PDrop, p.Carry == growth.CarryTooFew, &asked.drop, "carry", p)
		}
	})
	require.Positive(t, asked.improved*asked.drop*asked.left, "every question was asked")
}
