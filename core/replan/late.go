package replan

import (
	"fmt"
	"slices"

	"nineyard/core/invalid"
	"nineyard/core/schedule"
)

// usual is what a minute of each kind of period is worth to a staff that has said nothing else,
// and whether it may be dropped whole. Individual time and team time are what practice is for; a
// walk or a talk is the first to go. Water and warm-up are not among them: they are not cut.
var usual = map[string]struct {
	worth     float64
	droppable bool
}{
	"individual": {6, false}, "group": {7, false}, "team": {8, false}, "special_teams": {5, false},
	"walk_through": {2, true}, "meeting": {1, true}, "conditioning": {1, true},
}

// Late is what becomes of a script that runs late.
type Late struct {
	Periods []schedule.Period // of the whole script, without those that are dropped
	Cuts    []LateCut         // what is shortened or dropped, in the script's order
}

// LateCut is a period that keeps fewer minutes; none when To is 0.
type LateCut struct {
	Key      string
	From, To int
}

// block is a stretch of the practice over whose ends no period runs: what goes on in it at the
// same time is shortened together.
type block struct {
	span schedule.Span
	in   []int // periods
}

// blocks cuts a script into blocks from a minute on; gaps are blocks without periods. What has
// begun before that minute is left as it is, and the first block begins when it has ended.
func blocks(s schedule.Script, from int) (list []block) {
	begun := max(from, 0)
	for _, p := range s.Periods {
		if p.Start < from {
			begun = max(begun, p.End())
		}
	}
	var later []int
	for i, p := range s.Periods {
		if p.Start >= from {
			later = append(later, i)
			begun = min(begun, max(p.Start, from))
		}
	}
	slices.SortStableFunc(later, func(a, b int) int { return s.Periods[a].Start - s.Periods[b].Start })
	at := begun
	for _, i := range later {
		p := s.Periods[i]
		if n := len(list); n > 0 && p.Start < list[n-1].span.End {
			list[n-1].in = append(list[n-1].in, i)
			list[n-1].span.End = max(list[n-1].span.End, p.End())
			at = list[n-1].span.End
			continue
		}
		if p.Start > at {
			list = append(list, block{span: schedule.Span{Start: at, End: p.Start}})
		}
		list = append(list, block{schedule.Span{Start: p.Start, End: p.End()}, []int{i}})
		at = p.End()
	}
	if at < s.Minutes {
		list = append(list, block{span: schedule.Span{Start: at, End: s.Minutes}})
	}
	return list
}

// period is a block as the arithmetic takes it: worth what its periods are, a minute and a group
// each. Water and warm-up keep all of their minutes; the rest keeps half, and at least five, or
// is dropped where it may be.
func (b block) period(s schedule.Script, key string, all bool) Period {
	out := Period{Key: key, Planned: b.span.Minutes(), Droppable: true}
	for _, i := range b.in {
		p := s.Periods[i]
		u, cut := usual[p.Kind]
		if !cut {
			out.Min, out.Droppable = out.Planned, false
			return out
		}
		out.Min = max(out.Min, min(out.Planned, max(schedule.LeastMinutes, (out.Planned+1)/2)))
		out.Droppable = out.Droppable && (u.droppable || all)
		out.Value += u.worth * float64(p.Minutes) * float64(max(1, len(p.Groups))) / float64(max(1, len(s.Groups)))
	}
	return out
}

// OfScript takes minutes out of what is left of a script from a minute on, so that what stays is
// worth most. Periods that go on at the same time are shortened together and begin and end as
// they did to each other; what has begun is left alone; water and warm-up are never cut. Where
// that cannot be, anything but them may be dropped.
//
// It returns an invalid.Error on "lost" with how many minutes can be found at most.
func OfScript(s schedule.Script, from, lost int) (Late, error) {
	if err := s.Check(); err != nil {
		return Late{}, err
	}
	if err := invalid.IntRange("lost", lost, 1, s.Minutes); err != nil {
		return Late{}, err
	}
	list := blocks(s, from)
	var plan Plan
	for _, all := range []bool{false, true} {
		total, least := 0, 0
		var periods []Period
		for i, b := range list {
			p := b.period(s, fmt.Sprint(i), all)
			periods = append(periods, p)
			total += p.Planned
			if !p.Droppable {
				least += p.Min
			}
		}
		if total-lost < least {
			if all {
				return Late{}, invalid.Field("lost", "%d minutes cannot be found: %d at most, without cutting water or warm-up", lost, max(0, total-least))
			}
			continue
		}
		var err error
		if plan, err = Of(total-lost, periods); err != nil {
			return Late{}, err
		}
		break
	}
	return shortened(s, list, plan.Minutes), nil
}

// shortened lays the blocks one behind the other with the minutes they keep.
func shortened(s schedule.Script, list []block, minutes []int) Late {
	var out Late
	periods := slices.Clone(s.Periods)
	gone := make([]bool, len(periods))
	at := 0
	if len(list) > 0 {
		at = list[0].span.Start
	}
	for k, b := range list {
		scaled := func(minute int) int { return at + (minute-b.span.Start)*minutes[k]/b.span.Minutes() }
		for _, i := range b.in {
			p := &periods[i]
			was, end := p.Minutes, scaled(p.End())
			p.Start = scaled(p.Start)
			p.Minutes = end - p.Start
			gone[i] = p.Minutes < 1
			if p.Minutes != was {
				out.Cuts = append(out.Cuts, LateCut{p.Key, was, max(0, p.Minutes)})
			}
		}
		at += minutes[k]
	}
	for i, p := range periods {
		if !gone[i] {
			out.Periods = append(out.Periods, p)
		}
	}
	return out
}
