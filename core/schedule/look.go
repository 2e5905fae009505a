package schedule

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nineyard/core/practice"
)

// set is a set of groups by their index.
type set uint64

func (s set) has(g int) bool { return s>>g&1 == 1 }

// looked is a script made ready to be looked at.
type looked struct {
	Script
	groups []set // of every period
	apart  set
	inside []Span // of every period, what of it lies in the practice
}

func look(s Script) looked {
	l := looked{Script: s, groups: make([]set, len(s.Periods)), inside: make([]Span, len(s.Periods))}
	index := make(map[string]int, len(s.Groups))
	for i, g := range s.Groups {
		index[g] = i
		if slices.Contains(s.Apart, g) {
			l.apart |= 1 << i
		}
	}
	for i, p := range s.Periods {
		for _, g := range p.Groups {
			l.groups[i] |= 1 << index[g]
		}
		l.inside[i] = Span{max(p.Start, 0), max(min(p.End(), s.Minutes), max(p.Start, 0))}
	}
	return l
}

// Name is what a period, a group, a place or whatever else has a key is called in messages.
func (s Script) Name(key string) string {
	if n, ok := s.Names[key]; ok {
		return n
	}
	return key
}

// at words a minute of the practice, span a stretch of it: by the clock when it is known.
func (s Script) at(minute int) string {
	if s.StartsAt == nil {
		return fmt.Sprintf("minute %d", minute)
	}
	return Clock(*s.StartsAt + minute)
}

func (s Script) span(x Span) string {
	if s.StartsAt == nil {
		return fmt.Sprintf("from minute %d to %d", x.Start, x.End)
	}
	return "from " + s.at(x.Start) + " to " + s.at(x.End)
}

// Clock writes a minute after midnight as 18:05. Minutes of the day before or after come round.
func Clock(minute int) string {
	const day = 24 * 60
	minute = (minute%day + day) % day
	return fmt.Sprintf("%d:%02d", minute/60, minute%60)
}

// list words names: "a", "a and b", "a, b and c".
func (s Script) list(keys []string) string {
	named := make([]string, len(keys))
	for i, k := range keys {
		named[i] = s.Name(k)
	}
	if len(named) < 2 {
		return strings.Join(named, "")
	}
	return strings.Join(named[:len(named)-1], ", ") + " and " + named[len(named)-1]
}

func (l looked) named(s set) []string {
	list := []string{}
	for g, key := range l.Groups {
		if s.has(g) {
			list = append(list, key)
		}
	}
	return list
}

func (l looked) keys(periods []int) []string {
	list := make([]string, len(periods))
	for i, p := range periods {
		list[i] = l.Periods[p].Key
	}
	return list
}

// add records a finding about periods, from their first start on unless a span is given.
func (l looked) add(r *Report, f Finding, periods ...int) {
	f.Periods = l.keys(periods)
	if f.Groups == nil {
		f.Groups = []string{}
	}
	if f.Severity == "" {
		f.Severity = Error
	}
	if len(periods) > 0 {
		f.Span = Span{l.Periods[periods[0]].Start, l.Periods[periods[0]].End()}
		for _, p := range periods[1:] {
			f.Span.Start = min(f.Span.Start, l.Periods[p].Start)
			f.Span.End = max(f.Span.End, l.Periods[p].End())
		}
	}
	r.Findings = append(r.Findings, f)
}

// overlaps finds pairs that share a group or a coach.
func (l looked) overlaps(r *Report) {
	for j, b := range l.Periods {
		for i, a := range l.Periods[:j] {
			if a.Start >= b.End() || b.Start >= a.End() {
				continue
			}
			at := max(a.Start, b.Start)
			if both := l.groups[i] & l.groups[j]; both != 0 {
				shared := l.named(both)
				l.add(r, Finding{Code: GroupOverlap, Groups: shared,
					Message: fmt.Sprintf("%s: %s and %s at the same time from %s", l.list(shared), l.Name(a.Key), l.Name(b.Key), l.at(at))}, i, j)
			}
			if coach, ok := sharedCoach(a, b); ok {
				l.add(r, Finding{Code: CoachOverlap, Message: fmt.Sprintf("%s coaches %s and %s at the same time from %s", l.Name(coach), l.Name(a.Key), l.Name(b.Key), l.at(at))}, i, j)
			}
		}
	}
}

func sharedCoach(a, b Period) (string, bool) {
	for _, c := range a.Coaches {
		if slices.Contains(b.Coaches, c) {
			return c, true
		}
	}
	return "", false
}

// stocks finds the stretches in which a place or equipment is asked for beyond what there is.
func (l looked) stocks(r *Report) {
	for _, place := range l.Places {
		l.over(place, func(p Period) int {
			if p.Place == place.Key {
				return 1
			}
			return 0
		}, func(periods []int, at Span, most int) {
			l.add(r, Finding{Code: PlaceFull, What: place.Key,
				Message: fmt.Sprintf("%s holds %s and %d want it %s", l.Name(place.Key), count(place.Count, "period"), most, l.span(at))}, periods...)
		})
	}
	for _, e := range l.Equipment {
		l.over(e, func(p Period) int { return p.Equipment[e.Key] }, func(periods []int, at Span, most int) {
			l.add(r, Finding{Code: EquipmentShort, What: e.Key,
				Message: fmt.Sprintf("%s: there are %d and %d are wanted %s", l.Name(e.Key), e.Count, most, l.span(at))}, periods...)
		})
	}
}

func count(n int, of string) string {
	if n == 1 {
		return "1 " + of
	}
	return fmt.Sprintf("%d %ss", n, of)
}

// over reports every maximal stretch in which the periods together take more than there is,
// with those that take part in it and the most that is taken.
func (l looked) over(stock Stock, takes func(Period) int, found func(periods []int, at Span, most int)) {
	var those, times []int
	for i, p := range l.Periods {
		if takes(p) > 0 {
			those, times = append(those, i), append(times, p.Start, p.End())
		}
	}
	slices.Sort(times)
	times = slices.Compact(times)
	open := false
	var at Span
	most := 0
	flush := func() {
		if !open {
			return
		}
		open = false
		var in []int
		for _, i := range those {
			if p := l.Periods[i]; p.Start < at.End && at.Start < p.End() {
				in = append(in, i)
			}
		}
		found(in, at, most)
	}
	for k := 0; k+1 < len(times); k++ {
		sum := 0
		for _, i := range those {
			if p := l.Periods[i]; p.Start <= times[k] && times[k] < p.End() {
				sum += takes(p)
			}
		}
		if sum <= stock.Count {
			flush()
			continue
		}
		if !open {
			open, at, most = true, Span{times[k], times[k]}, 0
		}
		at.End, most = times[k+1], max(most, sum)
	}
	flush()
}

// alone finds what is wrong with a period by itself.
func (l looked) alone(r *Report) {
	for i, p := range l.Periods {
		if p.Start < 0 || p.End() > l.Minutes {
			l.add(r, Finding{Code: OutsidePractice, Message: fmt.Sprintf("%s runs %s, the practice of %d minutes until %s", l.Name(p.Key), l.span(Span{p.Start, p.End()}), l.Minutes, l.at(l.Minutes))}, i)
		}
		if l.inside[i].Minutes() == 0 {
			continue
		}
		if most := l.Limits.MaxRepSeconds; most != nil && p.RepSeconds > *most+slack {
			l.add(r, Finding{Code: RepLong, Severity: Warning, Message: fmt.Sprintf("a rep of %s lasts %g seconds: over %g it is conditioning", l.Name(p.Key), p.RepSeconds, *most)}, i)
		}
		var missing set
		for g, key := range l.Groups {
			if slices.Contains(p.NeedsGroups, key) && !l.groups[i].has(g) {
				missing |= 1 << g
			}
		}
		if missing != 0 {
			who := l.named(missing)
			l.add(r, Finding{Code: NeedsMissing, Groups: who, Message: fmt.Sprintf("%s needs %s", l.Name(p.Key), l.list(who))}, i)
		}
	}
}

// slack is within which a value counts as having reached its limit and not gone over it.
const slack = 1e-9

// spans lists what periods of a group cover of the practice, joined where they touch.
func (l looked) spans(g int, which func(Period) bool) []Span {
	var list []Span
	for i, p := range l.Periods {
		if l.groups[i].has(g) && l.inside[i].Minutes() > 0 && which(p) {
			list = append(list, l.inside[i])
		}
	}
	slices.SortFunc(list, func(a, b Span) int { return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.End, b.End)) })
	joined := list[:0]
	for _, s := range list {
		if n := len(joined); n > 0 && s.Start <= joined[n-1].End {
			joined[n-1].End = max(joined[n-1].End, s.End)
			continue
		}
		joined = append(joined, s)
	}
	return joined
}

// between lists the stretches of the practice that spans leave out, whatever their length.
func (l looked) between(spans []Span) []Span {
	var list []Span
	at := 0
	for _, s := range append(slices.Clone(spans), Span{l.Minutes, l.Minutes}) {
		if s.Start > at {
			list = append(list, Span{at, s.Start})
		}
		at = max(at, s.End)
	}
	return list
}

// gaps finds where a group has nothing to do, and goes without water.
func (l looked) gaps(r *Report, g int) {
	who := []string{l.Groups[g]}
	for _, s := range l.between(l.spans(g, func(Period) bool { return true })) {
		r.Free = append(r.Free, Free{who, s})
		if s.Minutes() >= IdleMinutes {
			l.add(r, Finding{Code: GroupIdle, Severity: Warning, Groups: who, Span: s,
				Message: l.idle(who, s)})
		}
	}
	if every := l.Limits.WaterEvery; every != nil {
		for _, s := range l.between(l.spans(g, func(p Period) bool { return p.Kind == "water" })) {
			if s.Minutes() > *every {
				l.add(r, Finding{Code: WaterGap, Groups: who, Span: s,
					Message: l.dry(who, s)})
			}
		}
	}
}

// group finds what is wrong for one group.
func (l looked) group(r *Report, g int) {
	key := l.Groups[g]
	who := []string{key}
	if !l.apart.has(g) {
		l.gaps(r, g)
	}
	minutes := l.contact(g)
	r.Contact[key] = minutes
	if most := l.Limits.ContactMinutes; most != nil && minutes > *most {
		var those []int
		for i, p := range l.Periods {
			if l.groups[i].has(g) && hits(p) && l.inside[i].Minutes() > 0 {
				those = append(those, i)
			}
		}
		l.add(r, Finding{Code: ContactOver, Groups: who, Message: fmt.Sprintf("%s has %d minutes of thud and live: %d at most", l.Name(key), minutes, *most)}, those...)
	}
	if l.Limits.WarmUpFirst {
		l.warmUp(r, g)
	}
}

// idle and dry word a stretch in which groups do nothing, or drink nothing.
func (s Script) idle(groups []string, x Span) string {
	has := "has"
	if len(groups) > 1 {
		has = "have"
	}
	return fmt.Sprintf("%s %s nothing to do %s", s.list(groups), has, s.span(x))
}

func (s Script) dry(groups []string, x Span) string {
	goes := "goes"
	if len(groups) > 1 {
		goes = "go"
	}
	return fmt.Sprintf("%s %s %d minutes without water %s: %d at most", s.list(groups), goes, x.Minutes(), s.span(x), *s.Limits.WaterEvery)
}

// Gather makes one finding of those that say the same of several groups at the same time, as they
// are read on a screen. The order stays.
func Gather(s Script, findings []Finding) []Finding {
	type same struct {
		code Code
		span Span
	}
	first := map[same]int{}
	out := []Finding{}
	for _, f := range findings {
		k := same{f.Code, f.Span}
		i, met := first[k]
		if f.Code != GroupIdle && f.Code != WaterGap || !met {
			first[k] = len(out)
			out = append(out, f)
			continue
		}
		g := &out[i]
		g.Groups = append(slices.Clone(g.Groups), f.Groups...)
	}
	for i := range out {
		g := &out[i]
		if len(g.Groups) < 2 || g.Code != GroupIdle && g.Code != WaterGap {
			continue
		}
		slices.SortFunc(g.Groups, func(a, b string) int { return slices.Index(s.Groups, a) - slices.Index(s.Groups, b) })
		if g.Message = s.idle(g.Groups, g.Span); g.Code == WaterGap {
			g.Message = s.dry(g.Groups, g.Span)
		}
	}
	return out
}

func hits(p Period) bool { return p.Contact >= practice.Thud }

// contact is a group's minutes of thud and live, each counted once.
func (l looked) contact(g int) (minutes int) {
	for _, s := range l.spans(g, hits) {
		minutes += s.Minutes()
	}
	return minutes
}

// Contact is the minutes of thud and live of every group of a script, each minute counted once:
// what Of reports, without the rest.
func Contact(s Script) map[string]int {
	l := look(s)
	out := make(map[string]int, len(s.Groups))
	for g, key := range s.Groups {
		out[key] = l.contact(g)
	}
	return out
}

// warmUp finds a group's first hard period when no warm-up of the group has ended before it.
func (l looked) warmUp(r *Report, g int) {
	first, warm := -1, l.Minutes+1
	for i, p := range l.Periods {
		if !l.groups[i].has(g) || l.inside[i].Minutes() == 0 {
			continue
		}
		switch {
		case p.Kind == "warm_up":
			warm = min(warm, l.inside[i].End)
		case p.Contact >= practice.Bag || p.Kind == "conditioning":
			if first < 0 || p.Start < l.Periods[first].Start {
				first = i
			}
		}
	}
	if first >= 0 && l.Periods[first].Start < warm {
		key := l.Groups[g]
		l.add(r, Finding{Code: NoWarmUp, Groups: []string{key}, Message: fmt.Sprintf("%s begins %s without a warm-up", l.Name(key), l.Name(l.Periods[first].Key))}, first)
	}
}

// together lists the stretches in which the same two groups or more are free.
func (l looked) together(r *Report) {
	times := []int{0, l.Minutes}
	for _, s := range l.inside {
		if s.Minutes() > 0 {
			times = append(times, s.Start, s.End)
		}
	}
	slices.Sort(times)
	times = slices.Compact(times)
	everybody := (set(1)<<len(l.Groups) - 1) &^ l.apart
	free, at := set(0), 0
	flush := func(until int) {
		if free&(free-1) != 0 && until > at {
			r.SharedFree = append(r.SharedFree, Free{l.named(free), Span{at, until}})
		}
	}
	for k := 0; k+1 < len(times); k++ {
		now := everybody
		for i, s := range l.inside {
			if s.Start <= times[k] && times[k] < s.End {
				now &^= l.groups[i]
			}
		}
		if now != free {
			flush(times[k])
			free, at = now, times[k]
		}
	}
	flush(l.Minutes)
}
