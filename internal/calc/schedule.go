package calc

import (
	"nineyard/core/practice"
	"nineyard/core/schedule"
)

type findingAnswer struct {
	Code     string   `json:"code"`
	Severity string   `json:"severity"`
	Periods  []string `json:"periods"`
	Groups   []string `json:"groups"`
	What     *string  `json:"what"`
	Message  string   `json:"message"`
}

type freeAnswer struct {
	Group string `json:"group"`
	Start int    `json:"start"`
	End   int    `json:"end"`
}

type sharedAnswer struct {
	Groups []string `json:"groups"`
	Start  int      `json:"start"`
	End    int      `json:"end"`
}

type scheduleAnswer struct {
	Findings       []findingAnswer `json:"findings"`
	Free           []freeAnswer    `json:"free"`
	SharedFree     []sharedAnswer  `json:"shared_free"`
	ContactMinutes map[string]int  `json:"contact_minutes"`
}

func scheduleOf(r *reader) func() (any, error) {
	s := schedule.Script{Minutes: r.integer("minutes", true, 0, 1, schedule.MaxMinutes), Groups: r.names("groups", true, schedule.MaxGroups)}
	s.Places = stocks(r, "places", "capacity")
	s.Equipment = stocks(r, "equipment", "count")
	r.object("limits", false, func(r *reader) {
		if r.has("contact_minutes") {
			s.Limits.ContactMinutes = new(r.integer("contact_minutes", true, 0, 0, schedule.MaxMinutes))
		}
		if r.has("water_every") {
			s.Limits.WaterEvery = new(r.integer("water_every", true, 0, 0, schedule.MaxMinutes))
		}
		if r.has("max_rep_seconds") {
			s.Limits.MaxRepSeconds = new(r.number("max_rep_seconds", true, 0))
		}
		s.Limits.WarmUpFirst = r.flag("warm_up_first", false, false)
	})
	r.list("periods", true, schedule.MaxPeriods, func(r *reader) {
		p := schedule.Period{Key: r.text("key", true), Start: r.integer("start", true, 0, -schedule.MaxMinutes, schedule.MaxMinutes),
			Minutes: r.integer("minutes", true, 0, 1, schedule.MaxMinutes), Kind: r.text("kind", true), Groups: r.names("groups", true, schedule.MaxGroups),
			Coaches: r.names("coaches", false, 200), Place: r.text("place", false), NeedsGroups: r.names("needs_groups", false, schedule.MaxGroups), RepSeconds: r.number("rep_seconds", false, 0)}
		p.Equipment = counts(r, "equipment")
		level := r.text("contact", true)
		contact, err := practice.ParseContact(level)
		if err != nil && level != "" {
			r.fail(join(r.path, "contact"), "%v", err)
		}
		p.Contact = contact
		s.Periods = append(s.Periods, p)
	})
	return func() (any, error) {
		report, err := schedule.Of(s)
		if err != nil {
			return nil, err
		}
		a := scheduleAnswer{Findings: []findingAnswer{}, Free: []freeAnswer{}, SharedFree: []sharedAnswer{}, ContactMinutes: report.Contact}
		for _, f := range report.Findings {
			x := findingAnswer{Code: string(f.Code), Severity: string(f.Severity), Periods: f.Periods, Groups: f.Groups, Message: f.Message}
			if f.What != "" {
				x.What = &f.What
			}
			a.Findings = append(a.Findings, x)
		}
		for _, f := range report.Free {
			a.Free = append(a.Free, freeAnswer{f.Groups[0], f.Start, f.End})
		}
		for _, f := range report.SharedFree {
			a.SharedFree = append(a.SharedFree, sharedAnswer{f.Groups, f.Start, f.End})
		}
		return a, nil
	}
}

func stocks(r *reader, key, count string) (list []schedule.Stock) {
	r.list(key, false, 1000, func(r *reader) {
		list = append(list, schedule.Stock{Key: r.text("key", true), Count: r.integer(count, true, 0, 0, schedule.MaxCount)})
	})
	return list
}

// counts reads an object of whole numbers.
func counts(r *reader, key string) map[string]int {
	out := map[string]int{}
	r.object(key, false, func(r *reader) {
		for _, name := range r.keys() {
			out[name] = r.integer(name, true, 0, 0, schedule.MaxCount)
		}
	})
	return out
}
