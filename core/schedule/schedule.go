package schedule

import (
	"cmp"
	"fmt"
	"slices"

	"nineyard/core/invalid"
	"nineyard/core/practice"
)

// Bounds of a script. A period may lie outside of its practice, which is a finding, but no
// further than a day.
const (
	MaxMinutes = 24 * 60
	MaxGroups  = 60 // the bits of a set
	MaxPeriods = 400
	MaxCount   = 1_000_000 // of a capacity or of equipment
)

// IdleMinutes is the shortest stretch without a period that is worth a word.
const IdleMinutes = 5

// Period is a block of a script.
type Period struct {
	Key         string
	Start       int // minutes from the start of practice; may be negative
	Minutes     int // ≥ 1
	Kind        string
	Groups      []string
	Coaches     []string
	Place       string // "" for none
	Contact     practice.Contact
	Equipment   map[string]int // how many of each it takes
	NeedsGroups []string       // without whom it cannot be run
	RepSeconds  float64        // how long a rep lasts; 0 when nothing is said
}

// End is the first minute after the period.
func (p Period) End() int { return p.Start + p.Minutes }

// Stock is a place with how many periods it holds at once, or equipment with how many there are.
type Stock struct {
	Key   string
	Count int
}

// Limits are the club's; nil or false switches a check off.
type Limits struct {
	ContactMinutes *int     // thud and live, of a group
	WaterEvery     *int     // minutes between waters, and before the first and after the last
	MaxRepSeconds  *float64 // over which a rep is conditioning
	WarmUpFirst    bool     // before contact of bag and above, and before conditioning
}

// Shipped are the limits a club begins with: examples, to be set by the rule of its league.
func Shipped() Limits {
	return Limits{ContactMinutes: new(30), WaterEvery: new(30), MaxRepSeconds: new(10.0), WarmUpFirst: true}
}

// Lanes are the groups of a practice: all but those that work apart and have no period in it.
func Lanes(groups, apart []string, periods []Period) (list []string) {
	for _, g := range groups {
		if !slices.Contains(apart, g) || slices.ContainsFunc(periods, func(p Period) bool { return slices.Contains(p.Groups, g) }) {
			list = append(list, g)
		}
	}
	return list
}

// Script is a practice to be looked at.
type Script struct {
	Minutes   int
	Groups    []string // in the order of the lanes
	Apart     []string // of them, those that work by themselves when no period is theirs: kicking units
	Places    []Stock
	Equipment []Stock
	Limits    Limits
	Periods   []Period
	// Names are what keys are called in messages; a key without one is called by itself.
	Names map[string]string
	// StartsAt is when the practice begins, in minutes after midnight; messages then tell the
	// time by the clock.
	StartsAt *int
}

// Severity of a finding.
type Severity string

// The severities.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
)

// Code says what kind of finding it is.
type Code string

// The kinds of finding.
const (
	GroupOverlap    Code = "group_overlap"
	CoachOverlap    Code = "coach_overlap"
	PlaceFull       Code = "place_full"
	EquipmentShort  Code = "equipment_short"
	OutsidePractice Code = "outside_practice"
	RepLong         Code = "rep_long"
	NeedsMissing    Code = "needs_missing"
	GroupIdle       Code = "group_idle"
	WaterGap        Code = "water_gap"
	ContactOver     Code = "contact_over"
	NoWarmUp        Code = "no_warm_up"
)

// Codes lists the kinds of finding.
func Codes() []Code {
	return []Code{GroupOverlap, CoachOverlap, PlaceFull, EquipmentShort, OutsidePractice, RepLong, NeedsMissing, GroupIdle, WaterGap, ContactOver, NoWarmUp}
}

// Finding is one thing that is wrong.
type Finding struct {
	Code     Code
	Severity Severity
	Periods  []string // keys, in the script's order
	Groups   []string // in the script's order
	What     string   // the place or the equipment; else ""
	Message  string
	Span     Span // the minutes it is about
}

// Span is a stretch of minutes.
type Span struct{ Start, End int }

// Minutes is its length.
func (s Span) Minutes() int { return s.End - s.Start }

// Free is a stretch in which groups have no period.
type Free struct {
	Groups []string
	Span
}

// Report is what Of finds.
type Report struct {
	Findings   []Finding      // by their first start, then code, periods and groups
	Free       []Free         // of one group each, by group and time
	SharedFree []Free         // of two groups and more, by time; cut wherever somebody comes or goes
	Contact    map[string]int // minutes of thud and live of every group
}

// Check refuses a script that cannot be looked at: an invalid.Error naming the field.
func (s Script) Check() error {
	if err := invalid.IntRange("minutes", s.Minutes, 1, MaxMinutes); err != nil {
		return err
	}
	if len(s.Groups) > MaxGroups {
		return invalid.Field("groups", "a script has at most %d groups", MaxGroups)
	}
	groups, err := distinct("groups", s.Groups)
	if err != nil {
		return err
	}
	places, err := stocked("places", "capacity", s.Places)
	if err != nil {
		return err
	}
	equipment, err := stocked("equipment", "count", s.Equipment)
	if err != nil {
		return err
	}
	if err := s.Limits.check(); err != nil {
		return err
	}
	if len(s.Periods) > MaxPeriods {
		return invalid.Field("periods", "a script has at most %d periods", MaxPeriods)
	}
	seen := map[string]bool{}
	for i, p := range s.Periods {
		at := fmt.Sprintf("periods[%d]", i)
		if seen[p.Key] {
			return invalid.Field(at+".key", "%s.key is used twice: %q", at, p.Key)
		}
		seen[p.Key] = true
		if err := p.check(groups, places, equipment); err != nil {
			return invalid.Within(at, err)
		}
	}
	return nil
}

func (l Limits) check() error {
	for _, x := range []struct {
		name  string
		value *int
	}{{"contact_minutes", l.ContactMinutes}, {"water_every", l.WaterEvery}} {
		if x.value != nil {
			if err := invalid.IntRange("limits."+x.name, *x.value, 0, MaxMinutes); err != nil {
				return err
			}
		}
	}
	if s := l.MaxRepSeconds; s != nil && !(*s > 0 && *s <= 3600) {
		return invalid.Field("limits.max_rep_seconds", "limits.max_rep_seconds must be more than 0 and at most 3600, got %v", *s)
	}
	return nil
}

func (p Period) check(groups, places, equipment map[string]bool) error {
	if p.Key == "" {
		return invalid.Field("key", "a period needs a key")
	}
	if err := invalid.IntRange("start", p.Start, -MaxMinutes, MaxMinutes); err != nil {
		return err
	}
	if err := invalid.IntRange("minutes", p.Minutes, 1, MaxMinutes); err != nil {
		return err
	}
	if !practice.IsKind(p.Kind) {
		return invalid.Field("kind", "there is no kind of period %q", p.Kind)
	}
	for _, x := range []struct {
		field string
		list  []string
	}{{"groups", p.Groups}, {"coaches", p.Coaches}, {"needs_groups", p.NeedsGroups}} {
		if _, err := distinct(x.field, x.list); err != nil {
			return err
		}
		for i, k := range x.list {
			if x.field != "coaches" && !groups[k] {
				return invalid.Field(fmt.Sprintf("%s[%d]", x.field, i), "there is no group %q", k)
			}
		}
	}
	if p.Place != "" && !places[p.Place] {
		return invalid.Field("place", "there is no place %q", p.Place)
	}
	for _, k := range keys(p.Equipment) {
		if !equipment[k] {
			return invalid.Field("equipment."+k, "there is no equipment %q", k)
		}
		if err := invalid.IntRange("equipment."+k, p.Equipment[k], 0, MaxCount); err != nil {
			return err
		}
	}
	if !(p.RepSeconds >= 0 && p.RepSeconds <= 3600) {
		return invalid.Field("rep_seconds", "rep_seconds must be between 0 and 3600, got %v", p.RepSeconds)
	}
	return nil
}

func keys[V any](m map[string]V) []string {
	list := make([]string, 0, len(m))
	for k := range m {
		list = append(list, k)
	}
	slices.Sort(list)
	return list
}

func distinct(field string, list []string) (map[string]bool, error) {
	seen := make(map[string]bool, len(list))
	for i, k := range list {
		if k == "" || seen[k] {
			return nil, invalid.Field(fmt.Sprintf("%s[%d]", field, i), "%s[%d] is empty or there before: %q", field, i, k)
		}
		seen[k] = true
	}
	return seen, nil
}

func stocked(field, count string, list []Stock) (map[string]bool, error) {
	seen := make(map[string]bool, len(list))
	for i, x := range list {
		at := fmt.Sprintf("%s[%d]", field, i)
		if x.Key == "" || seen[x.Key] {
			return nil, invalid.Field(at+".key", "%s.key is empty or there before: %q", at, x.Key)
		}
		if err := invalid.IntRange(at+"."+count, x.Count, 0, MaxCount); err != nil {
			return nil, err
		}
		seen[x.Key] = true
	}
	return seen, nil
}

// Of looks at a script. It returns an invalid.Error naming the field when Check does. The time
// grows with periods times groups, and with the square of the periods for overlaps.
func Of(s Script) (Report, error) {
	if err := s.Check(); err != nil {
		return Report{}, err
	}
	l := look(s)
	r := Report{Findings: []Finding{}, Contact: make(map[string]int, len(s.Groups))}
	l.overlaps(&r)
	l.stocks(&r)
	l.alone(&r)
	for g := range s.Groups {
		l.group(&r, g)
	}
	l.together(&r)
	slices.SortStableFunc(r.Findings, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(a.Span.Start, b.Span.Start), cmp.Compare(a.Code, b.Code), slices.Compare(a.Periods, b.Periods), slices.Compare(a.Groups, b.Groups), cmp.Compare(a.What, b.What))
	})
	return r, nil
}
