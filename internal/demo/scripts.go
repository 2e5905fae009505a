package demo

import (
	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/schedule"
	"nineyard/core/season"
	"nineyard/internal/contract"
	"nineyard/internal/plan"
)

// settings is what the club has for its practices. The limits are the examples that ship.
func settings() plan.Kept {
	s := schedule.Shipped()
	// The club has practiced since the summer: its season does not begin with first days.
	days := plan.Begin().Limits
	days.FirstDays.SeasonStart = false
	return plan.Kept{
		Places: []contract.PracticePlace{{Key: "whole", Name: "Whole field", Capacity: 1}, {Key: "north", Name: "North end", Capacity: 2}, {Key: "south", Name: "South end", Capacity: 2},
			{Key: "middle", Name: "Middle", Capacity: 4}, {Key: "chute_corner", Name: "Chute corner", Capacity: 1}},
		Equipment: []contract.EquipmentStock{{Key: "chutes", Name: "Chutes", Count: 5}, {Key: "half_bags", Name: "Half bags", Count: 10}, {Key: "shields", Name: "Shields", Count: 12},
			{Key: "sleds", Name: "Sleds", Count: 2}, {Key: "footballs", Name: "Footballs", Count: 24}},
		Helpers: []contract.Helper{{Key: "helper_bram", Name: "Bram, helper"}, {Key: "helper_ines", Name: "Ines, helper"}},
		Limits: contract.PracticeLimits{ContactMinutes: s.ContactMinutes, ContactWeek: new(90), WaterEvery: s.WaterEvery, MaxRepSeconds: s.MaxRepSeconds, WarmUpFirst: s.WarmUpFirst,
			ThrowsDay: days.ThrowsDay, KicksDay: days.KicksDay, SprintDay: days.SprintDay, RestAfter: days.RestAfter, FirstDays: days.FirstDays, HeatBands: days.HeatBands},
		Themes: []string{"Zone day", "Gap day", "Pass day", "Pressure day", "Situation day"},
	}
}

// own is where a group has its own period, and what it takes there.
var own = map[string]struct {
	place string
	uses  []contract.EquipmentUse
}{
	"ol": {"chute_corner", []contract.EquipmentUse{{Key: "chutes", Count: 5}, {Key: "half_bags", Count: 4}}},
	"te": {"north", []contract.EquipmentUse{{Key: "half_bags", Count: 2}}},
	"rb": {"middle", []contract.EquipmentUse{{Key: "half_bags", Count: 2}}},
	"qb": {"north", []contract.EquipmentUse{{Key: "footballs", Count: 8}}},
	"wr": {"south", []contract.EquipmentUse{{Key: "footballs", Count: 8}}},
	"dl": {"middle", []contract.EquipmentUse{{Key: "sleds", Count: 2}, {Key: "shields", Count: 4}}},
	"lb": {"middle", []contract.EquipmentUse{{Key: "shields", Count: 4}}},
	"db": {"south", []contract.EquipmentUse{{Key: "footballs", Count: 6}}},
}

// Tangled is the practice in which everything is wrong that can be: the last one of the season.
func (w *World) Tangled() Practice { return w.Practices[len(w.Practices)-1] }

// script writes a practice's master script and what the coaches put into their own periods.
func (s *source) script(p Practice, week, day int) {
	put := func(id uuid.UUID, start, minutes int, kind, name, contact string, keys ...string) *Period {
		s.w.Periods = append(s.w.Periods, Period{ID: id, PracticeID: p.ID, Start: start, Minutes: minutes, Kind: kind, Name: name, Contact: contact, Groups: keys})
		return &s.w.Periods[len(s.w.Periods)-1]
	}
	add := func(start, minutes int, kind, name, contact string, keys ...string) *Period {
		return put(s.id(), start, minutes, kind, name, contact, keys...)
	}
	var all []string
	for _, g := range group.Usual() {
		all = append(all, g.Key)
	}
	add(0, 10, "warm_up", "Warm-up", "air", all...).Place = "whole"
	for _, g := range group.Usual() {
		if g.Side == group.Units {
			continue // they kick by themselves
		}
		e := add(10, 20, "individual", "Individual", "bag", g.Key)
		e.Place, e.Equipment, e.Coaches = own[g.Key].place, own[g.Key].uses, s.coachesOf(g.Key)
		s.plan(*e, g.Key, week, day)
	}
	add(30, 4, "water", "Water", "air", all...)
	switch day {
	case 0:
		e := add(34, 14, "group", "Inside run", "thud", "ol", "te", "rb", "qb", "dl", "lb")
		e.Place, e.Needs, e.RepSeconds = "north", []string{"ol", "dl"}, 6
		e = add(48, 12, "group", "One on one", "control", "wr", "db")
		e.Place = "south"
		if week == Week {
			s.share(*e, "db", "db_route_look", "exchange_call")
			s.share(*e, "wr", "wr_cover_look", "stalk_mirror")
		}
	case 1:
		add(34, 12, "group", "Pass-off, with ends", "control", "ol", "te", "dl").Place = "north"
		add(34, 12, "group", "Routes against the secondary", "control", "qb", "rb", "wr", "db", "lb").Place = "south"
		e := add(48, 12, "group", "Zone run", "thud", "ol", "te", "rb", "qb", "dl", "lb")
		e.Place, e.Needs, e.RepSeconds = "north", []string{"ol", "dl"}, 6
	default:
		e := add(34, 14, "group", "Seven on seven", "control", "qb", "rb", "te", "wr", "lb", "db")
		e.Place, e.Needs, e.RepSeconds = "south", []string{"qb", "db"}, 7
		add(34, 14, "group", "Pass rush", "thud", "ol", "dl").Place = "north"
		add(50, 10, "walk_through", "Blitz pick-up walk", "air", "ol", "rb", "qb").Place = "middle"
	}
	add(60, 4, "water", "Water", "air", all...)
	add(64, 12, "special_teams", "Kick and return", "control", "te", "rb", "wr", "lb", "db", "sp").Place = "whole"
	add(76, 14, "team", "Team", "thud", all...).Place = "whole"
	add(90, 4, "water", "Water", "air", all...)
	add(94, 10, "team", "Two-minute", "control", all...).Place = "whole"
	put(s.scripts.id(), 104, 10, "team", "Third downs", "control", all...).Place = "whole"
	add(114, 6, "walk_through", "Walk", "air", all...).Place = "whole"
	if week == Weeks && day == 2 {
		tangle(s.w.Periods, p.ID, s.coachesOf("ol"))
	}
}

// templates are the week before the demo's, and the first of its practices, as the head coach keeps
// them.
func (s *source) templates() []plan.Template {
	var week []contract.TemplateDay
	for _, p := range s.w.Practices {
		on := season.Of(p.OnDate)
		if season.Week(season.Must(SeasonStart), on) != Week-1 {
			continue
		}
		d := contract.TemplateDay{Day: int(on - season.WeekStart(season.Must(SeasonStart), Week-1)), Title: p.Title, Theme: p.Theme, Place: p.Place, StartMinute: p.StartMinute, Minutes: p.Minutes}
		for _, e := range s.w.Periods {
			if e.PracticeID == p.ID {
				d.Periods = append(d.Periods, contract.PeriodInput{Start: e.Start, Minutes: e.Minutes, Kind: contract.PeriodKind(e.Kind), Name: e.Name, Contact: contract.ContactLevel(e.Contact),
					Groups: e.Groups, Place: e.Place, Coaches: append([]string{}, e.Coaches...), Equipment: append([]contract.EquipmentUse{}, e.Equipment...),
					NeedsGroups: append([]string{}, e.Needs...), RepSeconds: e.RepSeconds})
			}
		}
		week = append(week, d)
	}
	first := week[0]
	first.Day = 0
	return []plan.Template{
		{ID: s.scripts.id(), TemplateInput: contract.TemplateInput{Name: "Week of three", WholeWeek: true, Days: week}},
		{ID: s.scripts.id(), TemplateInput: contract.TemplateInput{Name: "Full Tuesday", Days: []contract.TemplateDay{first}}},
	}
}

// share puts drills of one group into a period that it shares with another.
func (s *source) share(e Period, group string, drills ...string) {
	at := 0
	for _, key := range drills {
		d, _ := s.lib.Drill(key)
		s.w.Placements = append(s.w.Placements, Placement{ID: s.scripts.id(), PeriodID: e.ID, Group: group, DrillKey: key, Start: at, Minutes: d.Minutes, Lanes: d.Lanes})
		at += d.Minutes
	}
}

// coachesOf are the ids of those who coach a group.
func (s *source) coachesOf(key string) (ids []string) {
	for _, u := range s.w.Users {
		if s.w.UserGroup[u.ID] == key {
			ids = append(ids, u.ID.String())
		}
	}
	return ids
}

// tangle does to the last practice whatever can be done to a script by mistake.
func tangle(periods []Period, practice uuid.UUID, kell []string) {
	waters := 0
	for i := range periods {
		e := &periods[i]
		if e.PracticeID != practice {
			continue
		}
		first := ""
		if len(e.Groups) > 0 {
			first = e.Groups[0]
		}
		switch {
		case e.Kind == "warm_up":
			e.Groups = e.Groups[1:] // the line begins cold
		case e.Kind == "individual" && first == "te":
			e.Coaches, e.Place = kell, "chute_corner" // two groups, one coach, one corner
		case e.Kind == "individual" && first == "dl":
			e.Minutes = 24 // runs into water
		case e.Kind == "individual" && first == "lb":
			e.Equipment = []contract.EquipmentUse{{Key: "chutes", Count: 2}}
		case e.Name == "Seven on seven":
			e.Needs, e.RepSeconds = []string{"qb", "ol"}, 12
		case e.Name == "Third downs":
			e.Contact = "live"
		case e.Name == "Walk":
			e.Minutes = 12 // past the end
		case e.Kind == "water":
			if waters++; waters == 2 {
				e.Kind, e.Name = "meeting", "Captains"
			}
		}
	}
}
