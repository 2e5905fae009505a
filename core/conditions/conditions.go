package conditions

import (
	"fmt"
	"slices"
	"strings"

	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/core/season"
)

// Bounds of the settings.
const (
	MaxSteps   = 10
	MaxBands   = 10
	MaxDay     = 60  // of a step
	MaxMinutes = 300 // of a practice
	MaxIndex   = 200.0
)

// Step is what holds on the first days of practice, up to one of them.
type Step struct {
	Through int              // last day it holds for, counted from 1
	Contact practice.Contact // highest
	Minutes int              // longest practice; 0 is no limit
	Gear    string           // what is worn, in words; may be empty
}

// FirstDays are the steps, and which absence starts them anew.
type FirstDays struct {
	Steps       []Step // by Through, rising
	AbsenceDays int    // days away after which a player begins again; 0 never
}

// Band is what holds from a heat index on.
type Band struct {
	From       float64
	WaterEvery int              // minutes; 0 leaves the club's limit
	Minutes    int              // longest practice; 0 is no limit
	Contact    practice.Contact // highest
	Off        bool             // no practice
}

// Shipped are examples, to be set by the rule of the club's league.
func Shipped() (FirstDays, []Band) {
	return FirstDays{Steps: []Step{{Through: 2, Contact: practice.Air, Minutes: 120, Gear: "helmets"}, {Through: 5, Contact: practice.Bag, Minutes: 120, Gear: "helmets and shoulder pads"}}, AbsenceDays: 14},
		[]Band{{From: 27, WaterEvery: 20, Contact: practice.Live}, {From: 29, WaterEvery: 15, Minutes: 120, Contact: practice.Control}, {From: 31, WaterEvery: 10, Minutes: 60, Contact: practice.Air}, {From: 33, Off: true}}
}

// CheckFirstDays returns an invalid.Error naming the field when steps do not rise or are out of
// bounds: "steps[i].through", "steps[i].minutes" and "absence_days".
func CheckFirstDays(f FirstDays) error {
	if len(f.Steps) > MaxSteps {
		return invalid.Field("steps", "at most %d steps", MaxSteps)
	}
	last := 0
	for i, s := range f.Steps {
		at := fmt.Sprintf("steps[%d]", i)
		if s.Through <= last || s.Through > MaxDay {
			return invalid.Field(at+".through", "a step holds through a later day than the one before it, and at most day %d; got %d", MaxDay, s.Through)
		}
		if err := invalid.IntRange(at+".minutes", s.Minutes, 0, MaxMinutes); err != nil {
			return err
		}
		last = s.Through
	}
	return invalid.IntRange("absence_days", f.AbsenceDays, 0, 365)
}

// CheckBands returns an invalid.Error naming the field when bands do not rise or are out of bounds:
// "heat_bands[i].from", "heat_bands[i].water_every" and "heat_bands[i].minutes".
func CheckBands(bands []Band) error {
	if len(bands) > MaxBands {
		return invalid.Field("heat_bands", "at most %d bands", MaxBands)
	}
	for i, b := range bands {
		at := fmt.Sprintf("heat_bands[%d]", i)
		if !(b.From >= -MaxIndex && b.From <= MaxIndex) || i > 0 && b.From <= bands[i-1].From {
			return invalid.Field(at+".from", "a band begins above the one before it, within ±%v; got %v", MaxIndex, b.From)
		}
		if err := invalid.IntRange(at+".water_every", b.WaterEvery, 0, MaxMinutes); err != nil {
			return err
		}
		if err := invalid.IntRange(at+".minutes", b.Minutes, 0, MaxMinutes); err != nil {
			return err
		}
	}
	return nil
}

// On returns the step that holds on a day of practice, counted from 1; false when the first days are
// over, or the day is not known (0).
func (f FirstDays) On(day int) (Step, bool) {
	for _, s := range f.Steps {
		if day >= 1 && day <= s.Through {
			return s, true
		}
	}
	return Step{}, false
}

// BandAt returns the band in which an index lies; false below the first.
func BandAt(bands []Band, index float64) (Band, bool) {
	for _, b := range slices.Backward(bands) {
		if index >= b.From {
			return b, true
		}
	}
	return Band{}, false
}

// DayOf is which day of practice a day is, counted from 1: practices are days with practice, in
// order. It is 0 where there is none on that day.
func DayOf(practices []season.Date, on season.Date) int {
	days := slices.Compact(slices.Clone(practices))
	return slices.Index(days, on) + 1
}

// Absence is a stretch of days on which a player took no part; a last day of 0 is not reached yet.
type Absence struct{ From, To season.Date }

// Return is a player's way back.
type Return struct {
	Away int         // days of the absence
	Back season.Date // the first day after it
	Day  int         // which day of practice since then, counted from 1
}

// Returning says on which day of his way back a player is on a day with practice: the last absence of
// at least AbsenceDays that is over decides, and days of practice count on which he was not away.
// False when there was none, when he is away, or when the steps are over for him. Absences that touch
// are one.
func (f FirstDays) Returning(practices []season.Date, absences []Absence, on season.Date) (Return, bool) {
	if f.AbsenceDays == 0 {
		return Return{}, false
	}
	merged := join(absences)
	away := func(day season.Date) bool {
		return slices.ContainsFunc(merged, func(a Absence) bool { return day >= a.From && (a.To == 0 || day <= a.To) })
	}
	if away(on) {
		return Return{}, false
	}
	for _, a := range slices.Backward(merged) {
		days := int(a.To - a.From + 1)
		if a.To == 0 || a.To >= on || days < f.AbsenceDays {
			continue
		}
		r := Return{Away: days, Back: a.To + 1}
		for _, day := range slices.Compact(slices.Clone(practices)) {
			if day >= r.Back && day <= on && !away(day) {
				r.Day++
			}
		}
		_, holds := f.On(r.Day)
		return r, holds
	}
	return Return{}, false
}

// join makes absences that overlap or touch one, in order of their first day.
func join(list []Absence) []Absence {
	sorted := slices.Clone(list)
	slices.SortFunc(sorted, func(a, b Absence) int { return int(a.From - b.From) })
	var out []Absence
	for _, a := range sorted {
		if n := len(out); n > 0 && (out[n-1].To == 0 || a.From <= out[n-1].To+1) {
			if a.To == 0 || out[n-1].To == 0 {
				out[n-1].To = 0
			} else {
				out[n-1].To = max(out[n-1].To, a.To)
			}
			continue
		}
		out = append(out, a)
	}
	return out
}

// The kinds of finding of a day.
const (
	FirstDaysCode schedule.Code = "first_days"
	HeatCode      schedule.Code = "heat"
)

// named is how many periods a finding names.
const named = 3

// rule ends every finding: what is checked is a club's setting.
const rule = "; check your league's rule"

// Limit is the club's water limit tightened by the heat.
func Limit(l schedule.Limits, heat *Band) schedule.Limits {
	if heat != nil && heat.WaterEvery > 0 && (l.WaterEvery == nil || *l.WaterEvery > heat.WaterEvery) {
		l.WaterEvery = new(heat.WaterEvery)
	}
	return l
}

// Look says what in a script goes beyond what its day allows: periods with more contact, and a
// practice that is longer. step and heat may be nil. Findings come with their first minute, as those
// of schedule do.
func Look(s schedule.Script, day int, step *Step, index float64, heat *Band) []schedule.Finding {
	var list []schedule.Finding
	if step != nil {
		what := fmt.Sprintf("On day %d of practice", day)
		if step.Gear != "" {
			what += " (" + step.Gear + ")"
		}
		list = append(list, above(s, FirstDaysCode, what, step.Contact)...)
		list = append(list, longer(s, FirstDaysCode, what, step.Minutes)...)
	}
	if heat != nil {
		what := fmt.Sprintf("At a heat index of %v", index)
		if heat.Off {
			return append(list, schedule.Finding{Code: HeatCode, Severity: schedule.Error, Span: schedule.Span{Start: 0, End: s.Minutes},
				Message: what + " there is no practice" + rule})
		}
		list = append(list, above(s, HeatCode, what, heat.Contact)...)
		list = append(list, longer(s, HeatCode, what, heat.Minutes)...)
	}
	return list
}

// above is one finding over all periods with more contact: they are made less by one change.
func above(s schedule.Script, code schedule.Code, what string, most practice.Contact) []schedule.Finding {
	over := slices.DeleteFunc(slices.Clone(s.Periods), func(p schedule.Period) bool { return p.Contact <= most })
	if len(over) == 0 {
		return nil
	}
	var names []string
	f := schedule.Finding{Code: code, Severity: schedule.Error, Span: schedule.Span{Start: over[0].Start, End: over[0].End()}}
	for _, p := range over {
		names = append(names, fmt.Sprintf("%s is %s", s.Name(p.Key), p.Contact))
		f.Periods = append(f.Periods, p.Key)
		f.Span = schedule.Span{Start: min(f.Span.Start, p.Start), End: max(f.Span.End, p.End())}
	}
	for _, g := range s.Groups {
		if slices.ContainsFunc(over, func(p schedule.Period) bool { return slices.Contains(p.Groups, g) }) {
			f.Groups = append(f.Groups, g)
		}
	}
	said := strings.Join(names[:min(len(names), named)], ", ")
	if more := len(names) - named; more > 0 {
		said += fmt.Sprintf(", and %d more", more)
	}
	f.Message = fmt.Sprintf("%s nothing is above %s: %s%s", what, most, said, rule)
	return []schedule.Finding{f}
}

func longer(s schedule.Script, code schedule.Code, what string, most int) []schedule.Finding {
	if most == 0 || s.Minutes <= most {
		return nil
	}
	return []schedule.Finding{{Code: code, Severity: schedule.Error, Span: schedule.Span{Start: most, End: s.Minutes},
		Message: fmt.Sprintf("%s a practice has %d minutes at most: this one has %d%s", what, most, s.Minutes, rule)}}
}
