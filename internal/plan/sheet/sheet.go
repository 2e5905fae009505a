// Package sheet is a practice script in the contract's form, taken to the core and back: looked
// at, mended, written as text and read from it. The server and the browser do it with the same
// code.
package sheet

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nineyard/core/conditions"
	"nineyard/core/practice"
	"nineyard/core/replan"
	"nineyard/core/schedule"
	"nineyard/core/scripttext"
	"nineyard/internal/contract"
)

// plenty is how much there is of what the club's lists do not know (any longer): a script that
// still speaks of it can be looked at, and nothing is said of it.
const plenty = schedule.MaxCount

// Period takes a period of the contract to the core.
func Period(p contract.ScriptPeriod) scripttext.Period {
	out := scripttext.Period{Name: p.Name}
	contact, _ := practice.ParseContact(string(p.Contact)) // the contract names no others
	out.Period = schedule.Period{Key: p.ID, Start: p.Start, Minutes: p.Minutes, Kind: string(p.Kind), Groups: p.Groups, Coaches: p.Coaches,
		Place: p.Place, Contact: contact, NeedsGroups: p.NeedsGroups, RepSeconds: p.RepSeconds}
	if len(p.Equipment) > 0 {
		out.Equipment = make(map[string]int, len(p.Equipment))
		for _, e := range p.Equipment {
			out.Equipment[e.Key] += e.Count
		}
	}
	return out
}

// back takes a period of the core to the contract.
func back(p scripttext.Period) contract.ScriptPeriod {
	out := contract.ScriptPeriod{ID: p.Key, Start: p.Start, Minutes: p.Minutes, Kind: contract.PeriodKind(p.Kind), Name: p.Name, Contact: contract.ContactLevel(p.Contact.String()),
		Groups: some(p.Groups), Place: p.Place, Coaches: some(p.Coaches), Equipment: []contract.EquipmentUse{}, NeedsGroups: some(p.NeedsGroups), RepSeconds: p.RepSeconds}
	for k, n := range p.Equipment {
		if n > 0 {
			out.Equipment = append(out.Equipment, contract.EquipmentUse{Key: k, Count: n})
		}
	}
	slices.SortFunc(out.Equipment, func(a, b contract.EquipmentUse) int { return cmp.Compare(a.Key, b.Key) })
	return out
}

// named takes periods that the core has changed back to the contract, by the names they have in
// the sheet; what is new is called by its kind.
func named(s contract.ScriptSheet, periods []schedule.Period) []contract.ScriptPeriod {
	names := make(map[string]string, len(s.Periods))
	for _, p := range s.Periods {
		names[p.ID] = p.Name
	}
	list := []contract.ScriptPeriod{}
	for _, p := range periods {
		name, there := names[p.Key]
		if !there {
			name = scripttext.NameOf(p.Kind)
		}
		list = append(list, back(scripttext.Period{Period: p, Name: name}))
	}
	return list
}

func some(list []string) []string { return append([]string{}, list...) }

// Script takes a sheet to the core.
func Script(s contract.ScriptSheet) schedule.Script {
	_, heat := day(s)
	out := schedule.Script{Minutes: s.Minutes, StartsAt: &s.StartMinute, Names: map[string]string{}, Limits: conditions.Limit(Limits(s.Settings.Limits), heat)}
	for _, g := range s.Groups {
		out.Groups, out.Names[g.Key] = append(out.Groups, g.Key), g.Name
	}
	if s.Apart != nil {
		out.Apart = *s.Apart
	}
	for _, p := range s.Settings.Places {
		out.Places, out.Names[p.Key] = append(out.Places, schedule.Stock{Key: p.Key, Count: p.Capacity}), p.Name
	}
	for _, e := range s.Settings.Equipment {
		out.Equipment, out.Names[e.Key] = append(out.Equipment, schedule.Stock{Key: e.Key, Count: e.Count}), e.Name
	}
	for _, c := range s.Settings.Staff {
		out.Names[c.Key] = c.Name
	}
	has := func(list []schedule.Stock, key string) bool {
		return slices.ContainsFunc(list, func(x schedule.Stock) bool { return x.Key == key })
	}
	called := map[string]int{}
	for _, p := range s.Periods {
		called[p.Name]++
	}
	for _, p := range s.Periods {
		q := Period(p)
		out.Periods, out.Names[p.ID] = append(out.Periods, q.Period), p.Name
		if called[p.Name] > 1 && len(p.Groups) < len(s.Groups) { // of several Individuals it is said whose
			var whose []string
			for _, g := range p.Groups {
				whose = append(whose, out.Names[g])
			}
			out.Names[p.ID] = p.Name + " (" + strings.Join(whose, " ") + ")"
		}
		if p.Place != "" && !has(out.Places, p.Place) {
			out.Places = append(out.Places, schedule.Stock{Key: p.Place, Count: plenty})
		}
		for _, e := range p.Equipment {
			if !has(out.Equipment, e.Key) {
				out.Equipment = append(out.Equipment, schedule.Stock{Key: e.Key, Count: plenty})
			}
		}
	}
	return out
}

// Limits takes the club's limits to the core.
func Limits(l contract.PracticeLimits) schedule.Limits {
	return schedule.Limits{ContactMinutes: l.ContactMinutes, WaterEvery: l.WaterEvery, MaxRepSeconds: l.MaxRepSeconds, WarmUpFirst: l.WarmUpFirst}
}

// FirstDays takes the first days of the club's limits to the core; without any where none are set.
func FirstDays(l contract.PracticeLimits) (f conditions.FirstDays) {
	if l.FirstDays == nil {
		return f
	}
	f.AbsenceDays = number(l.FirstDays.AbsenceDays)
	for _, x := range l.FirstDays.Steps {
		f.Steps = append(f.Steps, conditions.Step{Through: x.Through, Contact: level(x.Contact), Minutes: number(x.Minutes), Gear: x.Gear})
	}
	return f
}

// Bands takes the heat bands of the club's limits to the core.
func Bands(l contract.PracticeLimits) (list []conditions.Band) {
	if l.HeatBands == nil {
		return nil
	}
	for _, b := range *l.HeatBands {
		list = append(list, conditions.Band{From: b.From, WaterEvery: number(b.WaterEvery), Minutes: number(b.Minutes), Contact: level(b.Contact), Off: b.Off})
	}
	return list
}

func level(c contract.ContactLevel) practice.Contact {
	l, _ := practice.ParseContact(string(c)) // the contract names no others
	return l
}

func number(n *int) int {
	if n == nil {
		return 0
	}
	return *n
}

// day is what holds on the day of a sheet: a step of the first days of the season, and a heat band.
func day(s contract.ScriptSheet) (*conditions.Step, *conditions.Band) {
	var step *conditions.Step
	var heat *conditions.Band
	l := s.Settings.Limits
	if x, ok := FirstDays(l).On(number(s.PracticeDay)); ok && l.FirstDays.SeasonStart {
		step = &x
	}
	if s.HeatIndex != nil {
		if b, ok := conditions.BandAt(Bands(l), *s.HeatIndex); ok {
			heat = &b
		}
	}
	return step, heat
}

// beside lists what goes beyond what the day of a sheet allows.
func beside(s contract.ScriptSheet, script schedule.Script) []schedule.Finding {
	step, heat := day(s)
	index := 0.0
	if s.HeatIndex != nil {
		index = *s.HeatIndex
	}
	return conditions.Look(script, number(s.PracticeDay), step, index, heat)
}

// Look says what is wrong with a script and who is free. A script that breaks its bounds has
// one finding, which says so.
func Look(s contract.ScriptSheet) contract.ScriptLook {
	out := contract.ScriptLook{Findings: []contract.Finding{}, Free: []contract.FreeWindow{}, Contact: []contract.ContactMinutes{}}
	script := Script(s)
	r, err := schedule.Of(script)
	if err != nil {
		out.Findings = append(out.Findings, contract.Finding{Code: "not_a_script", Severity: contract.Error, Periods: []string{}, Groups: []string{}, Message: err.Error()})
		return out
	}
	for _, f := range append(beside(s, script), schedule.Gather(script, r.Findings)...) {
		out.Findings = append(out.Findings, contract.Finding{Code: string(f.Code), Severity: contract.FindingSeverity(f.Severity), Periods: some(f.Periods), Groups: some(f.Groups),
			What: f.What, Message: f.Message, Start: f.Span.Start, End: f.Span.End})
	}
	for _, f := range r.SharedFree {
		out.Free = append(out.Free, contract.FreeWindow{Groups: f.Groups, Start: f.Start, End: f.End})
	}
	for _, g := range s.Groups {
		out.Contact = append(out.Contact, contract.ContactMinutes{Group: g.Key, Minutes: r.Contact[g.Key]})
	}
	return out
}

// Mends lists what would do away with a finding. What is put in gets the id given.
func Mends(s contract.ScriptSheet, f contract.Finding, id string) []contract.Mend {
	list := []contract.Mend{}
	if c := schedule.Code(f.Code); c == conditions.FirstDaysCode || c == conditions.HeatCode {
		return append(list, lower(s, f)...)
	}
	for _, m := range schedule.Mends(Script(s), schedule.Finding{Code: schedule.Code(f.Code), Periods: f.Periods, Groups: f.Groups, What: f.What, Span: schedule.Span{Start: f.Start, End: f.End}}, id) {
		list = append(list, contract.Mend{Say: m.Say, Periods: named(s, m.Periods)})
	}
	return list
}

// lower is a script in which the periods of a finding have no more contact than their day allows.
func lower(s contract.ScriptSheet, f contract.Finding) []contract.Mend {
	step, heat := day(s)
	most := practice.Live
	if step != nil {
		most = min(most, step.Contact)
	}
	if heat != nil {
		most = min(most, heat.Contact)
	}
	periods := slices.Clone(s.Periods)
	var names []string
	for i, p := range periods {
		if slices.Contains(f.Periods, p.ID) && level(p.Contact) > most {
			periods[i].Contact = contract.ContactLevel(most.String())
			names = append(names, p.Name)
		}
	}
	switch len(names) {
	case 0:
		return nil
	case 1:
		return []contract.Mend{{Say: fmt.Sprintf("Make %s %s", names[0], most), Periods: periods}}
	}
	return []contract.Mend{{Say: fmt.Sprintf("Make these %d periods %s", len(names), most), Periods: periods}}
}

// Late takes minutes out of what is left of a script from a minute on.
func Late(s contract.ScriptSheet, from, lost int) contract.LateScript {
	script := Script(s)
	out := contract.LateScript{Periods: []contract.ScriptPeriod{}, Cuts: []contract.LateCut{}}
	l, err := replan.OfScript(script, from, lost)
	if err != nil {
		out.Wrong = err.Error()
		return out
	}
	out.Periods = named(s, l.Periods)
	for _, c := range l.Cuts {
		out.Cuts = append(out.Cuts, contract.LateCut{ID: c.Key, Name: script.Names[c.Key], From: c.From, To: c.To})
	}
	return out
}

func words(s contract.ScriptSheet) scripttext.Words {
	w := scripttext.Words{StartsAt: s.StartMinute}
	for _, g := range s.Groups {
		w.Groups = append(w.Groups, scripttext.Word{Key: g.Key, Name: g.Name})
	}
	for _, p := range s.Settings.Places {
		w.Places = append(w.Places, scripttext.Word{Key: p.Key, Name: p.Name})
	}
	for _, e := range s.Settings.Equipment {
		w.Equipment = append(w.Equipment, scripttext.Word{Key: e.Key, Name: e.Name})
	}
	for _, c := range s.Settings.Staff {
		w.Coaches = append(w.Coaches, scripttext.Word{Key: c.Key, Name: c.Name})
	}
	return w
}

// order puts periods as they are read: by time, then by the lanes they begin in.
func order(s contract.ScriptSheet, periods []scripttext.Period) {
	lane := func(p scripttext.Period) int {
		for i, g := range s.Groups {
			if slices.Contains(p.Groups, g.Key) {
				return i
			}
		}
		return len(s.Groups)
	}
	slices.SortStableFunc(periods, func(a, b scripttext.Period) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(lane(a), lane(b)))
	})
}

func periods(s contract.ScriptSheet) []scripttext.Period {
	list := make([]scripttext.Period, len(s.Periods))
	for i, p := range s.Periods {
		list[i] = Period(p)
	}
	return list
}

// Write writes a script as text.
func Write(s contract.ScriptSheet) string {
	list := periods(s)
	order(s, list)
	return scripttext.Write(words(s), list)
}

// Templates lists the scripts that ship, for the groups of the sheet.
func Templates(s contract.ScriptSheet) []contract.ScriptTemplate {
	list := []contract.ScriptTemplate{}
	for _, t := range scripttext.Templates(words(s)) {
		list = append(list, contract.ScriptTemplate{Name: t.Name, Minutes: t.Minutes, Text: t.Text})
	}
	return list
}

// Read reads a text as the script of the sheet: what stays keeps its id, what is new gets one of
// those that newID makes.
func Read(s contract.ScriptSheet, text string, newID func() string) contract.ScriptText {
	out := contract.ScriptText{Periods: []contract.ScriptPeriod{}, Problems: []contract.TextProblem{}}
	read, problems := scripttext.Read(words(s), text)
	for _, p := range problems {
		out.Problems = append(out.Problems, contract.TextProblem{Line: p.Line, Column: p.Column, Message: p.Message})
	}
	before := periods(s)
	order(s, before)
	for _, p := range scripttext.Keep(before, read) {
		if p.Key == "" {
			p.Key = newID()
		}
		out.Periods = append(out.Periods, back(p))
	}
	return out
}
