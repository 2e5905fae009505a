package growth

import "math"

// others is what the others do at one source: their rate g, what it lacks to 1, and its logit.
type others struct{ g, not, logit float64 }

// others returns the rates beside which a cell's sessions are set, by source:
//
//	g = (C − cᵢ + 8ν)/(N − nᵢ + 8)
//
// with C of N the clean and all reps of the technique at the source, cᵢ of nᵢ his own among
// them, and ν = (Σclean + 0.5)/(Σreps + 1) of the technique at both sources.
func (in *input) others(c *cell) (by [2]others) {
	const prior = 8
	of := &in.byTechnique[c.technique]
	clean, faulty := of.all[Practice].clean+of.all[Game].clean, of.all[Practice].faulty+of.all[Game].faulty
	nu := (clean + 0.5) / (clean + faulty + 1)
	not := (faulty + 0.5) / (clean + faulty + 1)
	for source := range by {
		c1 := of.all[source].clean - c.all[source].clean + prior*nu
		f1 := of.all[source].faulty - c.all[source].faulty + prior*not
		by[source] = others{g: c1 / (c1 + f1), not: f1 / (c1 + f1), logit: math.Log(c1 / f1)}
	}
	return by
}

// chance is the expected share of clean reps of a session at some source, and what it lacks
// to 1; each is exact also where the other is nearly 1.
type chance struct{ q, not float64 }

// sigma is the logistic function of x and of −x.
func sigma(x float64) chance {
	e := math.Exp(-math.Abs(x))
	big, small := 1/(1+e), e/(1+e)
	if x < 0 {
		return chance{small, big}
	}
	return chance{big, small}
}

// expected returns what a player of the given level has clean, by source.
func expected(level float64, by *[2]others) [2]chance {
	return [2]chance{sigma(by[Practice].logit + level), sigma(by[Game].logit + level)}
}

// level returns the λ by which a player stands above the others over sessions that add up
// to n by source, at least one of which has reps: the root of
//
//	Σ(c − n·q) + ḡ − σ(logit ḡ + λ),  q = σ(logit g + λ),  ḡ = Σn·g/Σn.
//
// One rep at the others' rate is added, so that λ is finite also for a perfect player
// (D. Firth's reduction of bias, Biometrika 80, 1993, in its plainest form). The sum is
// taken as Σ c·(1−q) − f·q, which loses no digits when all reps are clean.
func level(n [2]tally, by *[2]others) float64 {
	total := n[Practice].n() + n[Game].n()
	g := (n[Practice].n()*by[Practice].g + n[Game].n()*by[Game].g) / total
	not := (n[Practice].n()*by[Practice].not + n[Game].n()*by[Game].not) / total
	mean := math.Log(g / not)
	aim := math.Log((n[Practice].clean + n[Game].clean + g) / (n[Practice].faulty + n[Game].faulty + not))
	if n[Game].n() == 0 || n[Practice].n() == 0 {
		return aim - mean // one source: its mean is its rate
	}
	// The root lies where one source alone would put it, between the two.
	lo, hi := aim-max(by[Practice].logit, by[Game].logit), aim-min(by[Practice].logit, by[Game].logit)
	at := min(max(aim-mean, lo), hi)
	for range 100 {
		m := sigma(mean + at)
		sum, slope := g*m.not-not*m.q, m.q*m.not
		for source := range n {
			q := sigma(by[source].logit + at)
			sum += n[source].clean*q.not - n[source].faulty*q.q
			slope += n[source].n() * q.q * q.not
		}
		if sum > 0 {
			lo = at
		} else {
			hi = at
		}
		next := at + sum/slope // Newton's step, and halving where it leaves the bracket
		if !(next >= lo && next <= hi) {
			next = lo + (hi-lo)/2
		}
		if math.Abs(next-at) <= 1e-13*(1+math.Abs(next)) {
			return next
		}
		at = next
	}
	return at
}

// totals adds up the sessions of a part by source, and counts them.
func totals(list []session, part uint8) (n [2]tally, sessions int) {
	for i := range list {
		if x := &list[i]; x.part == part {
			n[x.source].add(x.tally)
			sessions++
		}
	}
	return n, sessions
}

// surprise is c − n·q of a session: how many more clean reps than expected.
func (x *session) surprise(q *[2]chance) float64 {
	return x.clean*q[x.source].not - x.faulty*q[x.source].q
}

// variance is n·q(1−q) of a session.
func (x *session) variance(q *[2]chance) float64 {
	return x.n() * q[x.source].q * q[x.source].not
}

// likeness gathers what the reps of one day resemble each other by.
type likeness struct{ over, under float64 }

// add takes in the sessions of a cell, cut into two parts. Each part with two sessions or
// more is set beside its own level; with v = n·q(1−q) and e = c − n·q,
//
//	ρ = Σ(e²/(1 − v/Σv) − v) / Σ v·(n−1)
//
// over the sessions of two reps or more.
func (l *likeness) add(list []session, by *[2]others) {
	for part := range uint8(2) {
		n, sessions := totals(list, part)
		if sessions < 2 {
			continue
		}
		q := expected(level(n, by), by)
		sum := 0.0
		for source := range n {
			sum += n[source].n() * q[source].q * q[source].not
		}
		for i := range list {
			x := &list[i]
			if x.part != part || x.n() < 2 {
				continue
			}
			e, v := x.surprise(&q), x.variance(&q)
			l.over += e*e/(1-v/sum) - v
			l.under += v * (x.n() - 1)
		}
	}
}

func (l *likeness) plus(m likeness) {
	l.over += m.over
	l.under += m.under
}

// rho is ρ, between 0 and 1: 0 when nothing is known of it.
func (l *likeness) rho() float64 {
	if l.under == 0 {
		return 0
	}
	return min(max(l.over/l.under, 0), 1)
}
