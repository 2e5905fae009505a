package schedule

import (
	"cmp"
	"fmt"
	"maps"
	"slices"

	"nineyard/core/practice"
)

// Mend is one change that does away with a finding.
type Mend struct {
	Say     string
	Periods []Period // all of the script, changed
}

// What a mend puts in or leaves.
const (
	WaterMinutes  = 4 // of a water that is put in
	WarmUpMinutes = 8 // of a warm-up that is put in
	LeastMinutes  = 5 // that a period keeps when it is shortened
)

// mostMends is how many are offered for one finding.
const mostMends = 3

// Mends lists what would do away with a finding of the script by one action, the smallest change
// first: move a period, give it another place, shorten it, take somebody out of it, put free groups
// together, add water or a warm-up. After each the finding is gone and nothing is wrong that was not before; there
// may be none. A period that is put in gets the key given, which must be new.
func Mends(s Script, f Finding, newKey string) []Mend {
	before, err := Of(s)
	if err != nil {
		return nil
	}
	m := mender{Script: s, key: newKey, finding: f, known: map[string]bool{}}
	for _, x := range before.Findings {
		m.known[x.about()] = true
	}
	switch f.Code {
	case GroupOverlap, CoachOverlap, EquipmentShort:
		m.move()
		m.shorten()
		m.leave()
	case PlaceFull:
		m.elsewhere()
		m.move()
	case OutsidePractice:
		m.move()
		m.shorten()
	case NeedsMissing:
		m.join()
	case GroupIdle:
		m.fill()
	case WaterGap:
		m.water()
	case ContactOver:
		m.lessContact()
	case NoWarmUp:
		m.warmUp()
	}
	return m.mends
}

// about names what a finding is about, whenever it is: a gap of ten minutes that becomes one of
// twelve is the same.
func (f Finding) about() string {
	return fmt.Sprintf("%s %v %v %s", f.Code, f.Periods, f.Groups, f.What)
}

// covers reports whether one is, or is part of, what a finding says: it may have been gathered of
// several groups.
func (f Finding) covers(one Finding) bool {
	return f.Code == one.Code && f.What == one.What && slices.Equal(f.Periods, one.Periods) && !slices.ContainsFunc(one.Groups, func(g string) bool { return !slices.Contains(f.Groups, g) })
}

// mender tries changes and keeps those that help.
type mender struct {
	Script
	key     string
	finding Finding
	known   map[string]bool // what was wrong before
	mends   []Mend
}

// try keeps a change when it helps and reports whether there is room for more.
func (m *mender) try(say string, periods []Period) bool {
	if len(m.mends) == mostMends {
		return false
	}
	s := m.Script
	s.Periods = periods
	r, err := Of(s)
	if err != nil {
		return true
	}
	for _, f := range r.Findings {
		stays := m.finding.covers(f) && (f.Code != GroupIdle && f.Code != WaterGap || f.Span.Start < m.finding.Span.End && m.finding.Span.Start < f.Span.End)
		if stays || !m.known[f.about()] && (f.Severity == Error || f.Code != GroupIdle) {
			return true
		}
	}
	m.mends = append(m.mends, Mend{say, periods})
	return true
}

// those are the indexes of the finding's periods.
func (m *mender) those() (list []int) {
	for i, p := range m.Periods {
		if slices.Contains(m.finding.Periods, p.Key) {
			list = append(list, i)
		}
	}
	return list
}

func (m *mender) with(i int, change func(*Period)) []Period {
	list := slices.Clone(m.Periods)
	change(&list[i])
	return list
}

// move tries the starts nearest to where each of the finding's periods stands, the last first:
// what comes later gives way.
func (m *mender) move() {
	list := m.those()
	slices.SortStableFunc(list, func(a, b int) int { return m.Periods[b].Start - m.Periods[a].Start })
	for _, i := range list {
		p, had := m.Periods[i], len(m.mends)
		for by := 1; by <= m.Minutes && len(m.mends) == had; by++ {
			for _, start := range []int{p.Start + by, p.Start - by} {
				if start < 0 || start+p.Minutes > m.Minutes || m.clashes(i, start) {
					continue
				}
				if !m.try(fmt.Sprintf("Move %s to %s", m.Name(p.Key), m.at(start)), m.with(i, func(p *Period) { p.Start = start })) {
					return
				}
			}
		}
	}
}

// clashes reports whether a period would meet another of its groups or coaches at a start: most
// starts do, and need no further look.
func (m *mender) clashes(i, start int) bool {
	p := m.Periods[i]
	shared := func(a, b []string) bool {
		return slices.ContainsFunc(a, func(k string) bool { return slices.Contains(b, k) })
	}
	for j, q := range m.Periods {
		if j != i && start < q.End() && q.Start < start+p.Minutes && (shared(p.Groups, q.Groups) || shared(p.Coaches, q.Coaches)) {
			return true
		}
	}
	return false
}

// shorten tries to end a period, or to begin it, where another of the finding begins or ends, or
// at the practice's own bounds.
func (m *mender) shorten() {
	list := m.those()
	bounds := []int{0, m.Minutes}
	for _, i := range list {
		bounds = append(bounds, m.Periods[i].Start, m.Periods[i].End())
	}
	for _, i := range list {
		p := m.Periods[i]
		for _, b := range bounds {
			if b-p.Start >= LeastMinutes && b < p.End() &&
				!m.try(fmt.Sprintf("End %s at %s", m.Name(p.Key), m.at(b)), m.with(i, func(p *Period) { p.Minutes = b - p.Start })) {
				return
			}
			if p.End()-b >= LeastMinutes && b > p.Start &&
				!m.try(fmt.Sprintf("Begin %s at %s", m.Name(p.Key), m.at(b)), m.with(i, func(p *Period) { p.Minutes, p.Start = p.End()-b, b })) {
				return
			}
		}
	}
}

// leave takes what is at two places at once out of one of them: the groups, the coach, or as much of
// the equipment as there is too little of. A period keeps a group.
func (m *mender) leave() {
	list := m.those()
	slices.SortStableFunc(list, func(a, b int) int { return len(m.Periods[b].Groups) - len(m.Periods[a].Groups) }) // who has most misses least
	for _, i := range list {
		p := m.Periods[i]
		switch m.finding.Code {
		case GroupOverlap:
			stay := slices.DeleteFunc(slices.Clone(p.Groups), func(g string) bool { return slices.Contains(m.finding.Groups, g) })
			if len(stay) > 0 {
				m.try(fmt.Sprintf("Take %s out of %s", m.list(m.finding.Groups), m.Name(p.Key)), m.with(i, func(p *Period) { p.Groups = stay }))
			}
		case CoachOverlap:
			both := func(c string) bool {
				return !slices.ContainsFunc(list, func(j int) bool { return !slices.Contains(m.Periods[j].Coaches, c) })
			}
			at := slices.IndexFunc(p.Coaches, both)
			if at < 0 {
				continue
			}
			m.try(fmt.Sprintf("%s without %s", m.Name(p.Key), m.Name(p.Coaches[at])), m.with(i, func(p *Period) { p.Coaches = slices.DeleteFunc(slices.Clone(p.Coaches), both) }))
		case EquipmentShort:
			short := -m.stockOf(m.finding.What)
			for _, j := range list {
				short += m.Periods[j].Equipment[m.finding.What]
			}
			if left := p.Equipment[m.finding.What] - short; left >= 0 {
				m.try(fmt.Sprintf("%s with %d %s", m.Name(p.Key), left, m.Name(m.finding.What)), m.with(i, func(p *Period) {
					p.Equipment = maps.Clone(p.Equipment)
					p.Equipment[m.finding.What] = left
				}))
			}
		}
	}
}

func (m *mender) stockOf(key string) int {
	i := slices.IndexFunc(m.Equipment, func(s Stock) bool { return s.Key == key })
	if i < 0 {
		return 0
	}
	return m.Equipment[i].Count
}

// elsewhere tries the other places, for the period that came last first and, of those that begin together, for the one
// that has least to carry.
func (m *mender) elsewhere() {
	carries := func(i int) (n int) {
		for _, count := range m.Periods[i].Equipment {
			n += count
		}
		return n
	}
	list := m.those()
	slices.SortStableFunc(list, func(a, b int) int {
		return cmp.Or(cmp.Compare(m.Periods[b].Start, m.Periods[a].Start), cmp.Compare(carries(a), carries(b)))
	})
	for _, i := range list {
		for _, place := range m.Places {
			if place.Key != m.finding.What && !m.try(fmt.Sprintf("%s at %s", m.Name(m.Periods[i].Key), m.Name(place.Key)), m.with(i, func(p *Period) { p.Place = place.Key })) {
				return
			}
		}
	}
}

// join puts the groups that are missed into the period.
func (m *mender) join() {
	for _, i := range m.those() {
		m.try(fmt.Sprintf("Put %s into %s", m.list(m.finding.Groups), m.Name(m.Periods[i].Key)), m.with(i, func(p *Period) {
			p.Groups = append(slices.Clone(p.Groups), m.finding.Groups...)
		}))
	}
}

// fill puts a period into a stretch in which a group is free: with the others who are free all
// through it, else its own.
func (m *mender) fill() {
	span := m.finding.Span
	add := func(kind string, groups []string) Period {
		return Period{Key: m.key, Start: span.Start, Minutes: span.Minutes(), Kind: kind, Groups: groups}
	}
	l := look(m.Script)
	var free []string
	for g, key := range m.Groups {
		if l.apart.has(g) {
			continue
		}
		for _, s := range l.between(l.spans(g, func(Period) bool { return true })) {
			if s.Start <= span.Start && span.End <= s.End {
				free = append(free, key)
			}
		}
	}
	if len(free) > 1 {
		m.try(fmt.Sprintf("Put %s together %s", m.list(free), m.span(span)), append(slices.Clone(m.Periods), add("group", free)))
	}
	if len(m.finding.Groups) == 1 {
		m.try(fmt.Sprintf("Give %s the time for itself %s", m.list(m.finding.Groups), m.span(span)), append(slices.Clone(m.Periods), add("individual", m.finding.Groups)))
	}
}

// water puts one in as late as the limit allows, taking its minutes from what runs then.
func (m *mender) water() {
	gap, had := m.finding.Span, len(m.mends)
	for at := min(gap.Start+*m.Limits.WaterEvery, gap.End-WaterMinutes); at >= gap.Start && len(m.mends) == had; at-- {
		if at+WaterMinutes < gap.End-*m.Limits.WaterEvery {
			break // earlier ones leave too long a way to the next
		}
		span := Span{at, at + WaterMinutes}
		periods, ok := m.clear(span, m.finding.Groups)
		if !ok {
			continue
		}
		m.try("Water "+m.span(span), append(periods, Period{Key: m.key, Start: at, Minutes: WaterMinutes, Kind: "water", Groups: m.finding.Groups}))
	}
}

// clear makes room for groups: what runs then ends before or begins after; false when something
// would be left with less than the least.
func (m *mender) clear(span Span, groups []string) ([]Period, bool) {
	list := slices.Clone(m.Periods)
	for i := range list {
		p := &list[i]
		if p.Start >= span.End || span.Start >= p.End() || !slices.ContainsFunc(p.Groups, func(g string) bool { return slices.Contains(groups, g) }) {
			continue
		}
		switch {
		case p.Kind == "water":
			return nil, false
		case p.End() <= span.End && span.Start-p.Start >= LeastMinutes:
			p.Minutes = span.Start - p.Start
		case p.Start >= span.Start && p.End()-span.End >= LeastMinutes:
			p.Minutes, p.Start = p.End()-span.End, span.End
		default:
			return nil, false
		}
	}
	return list, true
}

// lessContact shortens the last hard period by what is too much, or takes a level off it.
func (m *mender) lessContact() {
	r, err := Of(m.Script)
	if err != nil {
		return
	}
	over := r.Contact[m.finding.Groups[0]] - *m.Limits.ContactMinutes
	list := m.those()
	slices.SortStableFunc(list, func(a, b int) int { return m.Periods[b].Start - m.Periods[a].Start })
	for _, i := range list {
		p := m.Periods[i]
		if left := p.Minutes - over; left >= LeastMinutes {
			m.try(fmt.Sprintf("Shorten %s to %d minutes", m.Name(p.Key), left), m.with(i, func(p *Period) { p.Minutes = left }))
		}
		m.try(fmt.Sprintf("%s with control, not %s", m.Name(p.Key), p.Contact), m.with(i, func(p *Period) { p.Contact = practice.Control }))
	}
}

// warmUp puts one in before the period, or takes its minutes from it.
func (m *mender) warmUp() {
	for _, i := range m.those() {
		p := m.Periods[i]
		warm := Period{Key: m.key, Minutes: WarmUpMinutes, Kind: "warm_up", Groups: m.finding.Groups}
		if warm.Start = p.Start - WarmUpMinutes; warm.Start >= 0 {
			m.try("Warm up "+m.span(Span{warm.Start, p.Start}), append(slices.Clone(m.Periods), warm))
		}
		warm.Start = max(p.Start, 0)
		if p.End()-warm.Start-WarmUpMinutes >= LeastMinutes {
			periods := m.with(i, func(p *Period) {
				p.Minutes -= warm.Start + WarmUpMinutes - p.Start
				p.Start = warm.Start + WarmUpMinutes
			})
			m.try("Warm up "+m.span(Span{warm.Start, warm.Start + WarmUpMinutes}), append(periods, warm))
		}
	}
}
