package today

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/ladder"
	"nineyard/core/needs"
	"nineyard/core/season"
	"nineyard/core/suggest"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Suggestions says which drills to look at for a period of a group's own, or one that it shares, and why.
func (s *Service) Suggestions(ctx context.Context, c access.Coach, group string, period uuid.UUID) (contract.Suggestions, error) {
	out := contract.Suggestions{Drills: []contract.Suggestion{}}
	w, found, err := s.Scripts.Around(ctx, period)
	if err != nil {
		return out, err
	}
	at := slices.IndexFunc(w.Periods, func(e script.Period) bool { return e.ID == period })
	if !found || at < 0 || !w.Periods[at].Holds(group) {
		return out, problem.ErrNotFound
	}
	own := w.Periods[at]
	asOf := min(c.Today(s.Now()), w.Practice.On)
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return out, err
	}
	f, err := s.form(ctx, c, h, group, asOf, w.Practice.On, func(form) {})
	if err != nil {
		return out, err
	}
	att, _ := squad.Attendance(f.players)
	in := suggest.Input{Alone: len(own.Coaches) <= 1}
	out.Alone = in.Alone
	left := leftOver(w, own)
	stock := stockOf(w.Stock)
	begun := f.begun()
	for _, d := range f.house.Library.ForGroup(group).Drills {
		_, y, _ := crew.Planned(d, att, d.Minutes, d.Lanes)
		in.Drills = append(in.Drills, suggest.Drill{Key: d.Key, WorksOn: d.WorksOn, Trains: d.Techniques, Contact: crew.Contact(d), Sides: d.Sides, Begun: begun[d.Technique], SelfCheck: d.SelfCheck.Text != "", Reps: y.PerPlayer.Min,
			Short: suggest.Missing(suggest.Wants(d.Equipment.Words(d.Lanes), stock), left, stock)})
	}
	for _, e := range w.Periods {
		for _, p := range e.Of(group) {
			in.Placed = append(in.Placed, p.DrillKey)
		}
	}
	if in.EveryDay, err = s.Scripts.EveryDay(ctx, group); err != nil {
		return out, err
	}
	if len(in.EveryDay) == 0 { // a group that has chosen none does those that the library would
		in.EveryDay = everyDay(f.house.Library, group)
	}
	if in.Needs, err = f.hurting(); err != nil {
		return out, err
	}
	in.Sides = f.sided()
	if in.Ladders, err = s.ladders(ctx, c, f.house, group, asOf); err != nil {
		return out, err
	}
	for _, x := range suggest.Of(in) {
		out.Drills = append(out.Drills, worded(f.house, x, att, in.Alone))
	}
	return out, nil
}

// worded puts a suggestion into the contract's form.
func worded(h *house.House, x suggest.Suggestion, att crew.Attendance, alone bool) contract.Suggestion {
	d, _ := h.Library.Drill(x.Drill)
	_, y, _ := crew.Planned(d, att, d.Minutes, d.Lanes)
	v := contract.Suggestion{Drill: d.Key, Name: d.Name, Technique: d.Technique, Minutes: max(d.Minutes, 1), Lanes: max(d.Lanes, 1), Reps: y.PerPlayer.Min, Reasons: []contract.SuggestionReason{}}
	for _, r := range x.Reasons {
		v.Reasons = append(v.Reasons, contract.SuggestionReason{Code: contract.SuggestionReasonCode(r.Code), Says: r.Says})
	}
	if x.Blocked != "" {
		v.Blocked = &x.Blocked
	}
	if alone && d.SelfCheck.Text != "" {
		v.SelfCheck = &d.SelfCheck.Text
	}
	return v
}

func stockOf(list []contract.EquipmentStock) (out []suggest.Stock) {
	for _, e := range list {
		out = append(out, suggest.Stock{Key: e.Key, Name: e.Name, Count: e.Count})
	}
	return out
}

// leftOver is what of the club's equipment the other groups leave in the minutes of a period.
func leftOver(w script.Whole, own script.Period) map[string]int {
	left := map[string]int{}
	for _, e := range w.Stock {
		left[e.Key] = e.Count
	}
	for _, e := range w.Periods {
		if e.ID == own.ID || e.Start >= own.Start+own.Minutes || own.Start >= e.Start+e.Minutes {
			continue
		}
		for _, use := range e.Equipment {
			left[use.Key] -= use.Count
		}
	}
	return left
}

// hurting is what hurts most, as Today shows it.
func (f form) hurting() ([]suggest.Need, error) {
	r, err := f.rank()
	if err != nil {
		return nil, err
	}
	var list []suggest.Need
	for _, n := range f.needs(r, nil) {
		list = append(list, suggest.Need{Fault: n.Fault, Name: n.Name, Safety: n.Safety})
	}
	return list, nil
}

// begun are the techniques that were marked in the last weeks.
func (f form) begun() map[string]bool {
	is := map[string]bool{}
	for _, d := range f.sums.Days {
		if f.asOf-d.On < needs.WindowDays {
			is[d.TechniqueKey] = true
		}
	}
	return is
}

// sided counts the reps of practice to each side, of the last weeks.
func (f form) sided() []suggest.Sides {
	of := map[string]*suggest.Sides{}
	for _, d := range f.sums.Days {
		if d.Game || d.Side == "" || f.asOf-d.On >= needs.WindowDays {
			continue
		}
		x := of[d.TechniqueKey]
		if x == nil {
			t, _ := f.house.Technique(d.TechniqueKey)
			x = &suggest.Sides{Technique: d.TechniqueKey, Name: t.Name}
			of[d.TechniqueKey] = x
		}
		if d.Side == "left" {
			x.Left += d.Graded()
		} else {
			x.Right += d.Graded()
		}
	}
	var list []suggest.Sides
	for _, t := range f.house.Library.Techniques { // in an order that stays
		if x := of[t.Key]; x != nil {
			list = append(list, *x)
		}
	}
	return list
}

// ladders are the stages to work at: those that calls which will not be ready need, and those at
// which the group is on the ladders that it has begun.
func (s *Service) ladders(ctx context.Context, c access.Coach, h *house.House, group string, asOf season.Date) ([]suggest.Ladder, error) {
	var list []suggest.Ladder
	short, err := s.Calls.Short(ctx, c, group, max(1, min(c.WeekOf(asOf), c.Season.Weeks)))
	if err != nil {
		return nil, err
	}
	for _, x := range short {
		ld, ok := h.Library.Ladder(x.Ladder)
		if !ok {
			continue
		}
		for _, at := range x.Stages {
			list = append(list, suggest.Ladder{Call: x.Call, Says: fmt.Sprintf("%s needs it by %s", x.Call, x.Install.Time().Format("Mon 2 Jan")), Drills: ld.Stages[at].DrillsOf(group)})
		}
	}
	climbs, err := s.Climbs.Climbs(ctx, c, group, asOf)
	if err != nil {
		return nil, err
	}
	for _, ld := range h.Library.ForGroup(group).Ladders {
		of, err := climbs.On(ld)
		if err != nil {
			return nil, err
		}
		var players []ladder.Player
		reps := 0
		for _, x := range of {
			players = append(players, ladder.Player{Standing: x.Standing, Available: x.Player.Status.TakesPart()})
			reps += len(x.Season.Reps)
		}
		at := ladder.GroupStage(len(ld.Stages), players)
		if reps > 0 && ld.Stages[at].Kind != teaching.Game {
			list = append(list, suggest.Ladder{Says: fmt.Sprintf("%s is at “%s”", ld.Name, ld.Stages[at].Name), Drills: ld.Stages[at].DrillsOf(group)})
		}
	}
	return list, nil
}

func whole(x float64) int { return int(x + 0.5) }

// everyDay lists the drills of a group's own techniques that the library has done every day.
func everyDay(lib *teaching.Library, group string) (keys []string) {
	for _, d := range lib.ForGroup(group).Drills {
		if t, ok := lib.Technique(d.Technique); ok && d.Daily && len(t.Groups) > 0 && t.Groups[0] == group {
			keys = append(keys, d.Key)
		}
	}
	return keys
}
