// Package today is what is next for a group: the practice to come, what is still to grade,
// what hurts most, what may be claimed, who is held out. It keeps nothing of its own: all of
// it is other features'.
package today

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/growth"
	"nineyard/core/marks"
	"nineyard/core/needs"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/aside"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// shownNeeds is how many needs are shown beside the safety faults, which all are.
const shownNeeds = 5

// Service runs the use case.
type Service struct {
	Houses house.Source
	Squad  squad.Source
	Plans  script.Source
	Marks  record.Source
	// Of the drills to look at for a period.
	Scripts script.Scripts
	Climbs  standing.Climbers
	Calls   forecast.Source
	Now     func() time.Time
}

// form is what the season says of a group as of a day.
type form struct {
	house   *house.House
	group   string
	asOf    season.Date
	players []squad.Player
	sums    record.Sums
}

// form reads what the season says of a group as of a day, with the players who are there on another,
// and asks the database for more in the same turn. ready is called when the form is whole, which may
// be before the rest is answered.
func (s *Service) form(ctx context.Context, c access.Coach, h *house.House, group string, asOf, on season.Date, ready func(form), more ...func(context.Context) error) (f form, err error) {
	f = form{house: h, group: group, asOf: asOf}
	there := make(chan struct{})
	parts := []func(context.Context) error{
		func(ctx context.Context) (err error) {
			defer close(there)
			f.players, err = s.Squad.Group(ctx, group, on)
			return err
		},
		func(ctx context.Context) (err error) {
			if f.sums, err = s.Marks.Season(ctx, group, c.Season.Start, asOf, max(c.Season.Start, asOf-needs.WindowDays+1)); err != nil {
				return err
			}
			<-there // asked before it, and answered before it
			ready(f)
			return nil
		},
	}
	err = aside.Together(ctx, append(parts, more...)...)
	return f, err
}

// Today returns what is next for a group in a week.
func (s *Service) Today(ctx context.Context, c access.Coach, group string, week int) (contract.Today, error) {
	asOf, err := c.WeekEnd(week, s.Now())
	if err != nil {
		return contract.Today{}, err
	}
	if _, err := c.Group(group); err != nil {
		return contract.Today{}, err
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Today{}, err
	}
	out := contract.Today{ToGrade: []contract.ToGrade{}}
	today := c.Today(s.Now())
	from := max(season.WeekStart(c.Season.Start, week), min(today, season.WeekStart(c.Season.Start, week)+6))
	var voices func() ([]contract.Voice, error)
	var ranked func() (ranking, error)
	var work []record.Work
	var worked map[string]bool
	f, err := s.form(ctx, c, h, group, asOf, asOf,
		func(f form) { voices, ranked = aside.Work(f.voices), aside.Work(f.rank) }, // while the database looks for the rest
		func(ctx context.Context) (err error) {
			work, err = s.Marks.Work(ctx, c, group, asOf-marks.DueDays, asOf)
			return err
		},
		func(ctx context.Context) (err error) {
			out.NextPractice, worked, err = s.next(ctx, c, h, group, from)
			return err
		})
	if err != nil {
		return contract.Today{}, err
	}
	att, holds := squad.Attendance(f.players)
	out.Holds = holds
	r, err := ranked()
	if err != nil {
		return out, err
	}
	out.Needs = f.needs(r, worked)
	if out.Voices, err = voices(); err != nil {
		return out, err
	}
	for _, w := range work {
		if g, due := toGrade(f.house, w, att, today); due {
			out.ToGrade = append(out.ToGrade, g)
		}
	}
	return out, nil
}

// next returns the next practice, nil when there is none to come, and the faults its drills work on.
func (s *Service) next(ctx context.Context, c access.Coach, h *house.House, group string, from season.Date) (*contract.NextPractice, map[string]bool, error) {
	n, found, err := s.Plans.Next(ctx, c, group, from)
	if err != nil || !found {
		return nil, nil, err
	}
	v := contract.NextPractice{Practice: script.Ref(n.Practice), Drills: []string{}, OwnPeriod: &n.Periods[0].ID}
	worked := map[string]bool{}
	for _, e := range n.Periods {
		v.OwnMinutes += e.Minutes
	}
	for _, pl := range n.Placements() {
		d, ok := h.Library.Drill(pl.DrillKey)
		if !ok {
			continue
		}
		v.Drills = append(v.Drills, d.Name)
		v.DrillMinutes += pl.Minutes
		for _, k := range d.WorksOn {
			worked[k] = true
		}
	}
	return &v, worked, nil
}

// toGrade says how much of a drill or game is still to be graded.
func toGrade(h *house.House, w record.Work, att crew.Attendance, today season.Date) (contract.ToGrade, bool) {
	g := contract.ToGrade{ID: w.ID, PracticeID: w.PracticeID, Date: w.On.String(), Graded: w.Marked}
	if w.Game {
		g.Kind, g.Title, g.Expected = contract.ToGradeKindGame, "Game against "+w.Title, w.Plays
		return g, marks.GameDue(w.On, today, w.Marked, w.Plays)
	}
	g.Kind = contract.ToGradeKindDrill
	d, ok := h.Library.Drill(*w.DrillKey)
	if !ok {
		return g, false
	}
	_, y, _ := crew.Planned(d, att, w.Minutes, w.Lanes)
	g.Title, g.Expected = fmt.Sprintf("%s, %s", d.Name, w.Title), y.WorkingReps
	return g, marks.DrillDue(w.On, today, w.Marked, y.WorkingReps)
}

// ranking is what hurts most, with the counts it was worked out from.
type ranking struct {
	list   []needs.Need
	counts []needs.Count
}

// rank works out what hurts most.
func (f form) rank() (ranking, error) {
	var playing []string // who is out or held is not expected to play
	for _, p := range f.players {
		if p.Status.TakesPart() {
			playing = append(playing, p.ID.String())
		}
	}
	reps, shown := record.Needs(f.sums, f.asOf-needs.WindowDays+1)
	in := needs.Form(f.asOf, reps, shown, playing)
	in.Severity, in.Safety = map[string]float64{}, map[string]bool{}
	for _, t := range f.house.Library.Techniques {
		for _, x := range t.Faults {
			in.Severity[x.Key], in.Safety[x.Key] = float64(x.Severity), x.Safety
		}
	}
	belongs := map[string][]string{}
	for _, t := range f.house.Library.Techniques {
		for _, x := range t.Faults {
			if x.Shared {
				belongs[x.Key] = append(belongs[x.Key], t.Key)
			}
		}
	}
	in = needs.Together(in, belongs)
	list, err := needs.Rank(in)
	return ranking{list, in.Counts}, err
}

// needs words every safety fault and the first few of the others, worst first. planned says
// which faults the drills of the next practice already work on.
func (f form) needs(r ranking, planned map[string]bool) []contract.Need {
	type of struct{ player, technique, fault string }
	counts := map[of]needs.Count{}
	for _, c := range r.counts {
		counts[of{c.Player, c.Technique, c.Fault}] = c
	}
	players, taught := squad.ByID(f.players), f.house.Library.ForGroup(f.group)
	views, left := []contract.Need{}, shownNeeds
	for _, n := range r.list {
		if left == 0 {
			break
		}
		fault, technique, ok := taught.Fault(n.Fault)
		if !ok || len(n.Players) == 0 {
			continue
		}
		v := contract.Need{Fault: n.Fault, Name: fault.Name, Effect: fault.Effect, Technique: technique.Key, TechniqueName: technique.Name,
			Severity: fault.Severity, Safety: fault.Safety, Need: n.Need, Rate: n.Rate, Planned: new(planned[n.Fault]), Players: []contract.NeedPlayer{}}
		for _, p := range n.Players {
			id, _ := uuid.Parse(p.Player) // written by Form from an id
			c := counts[of{p.Player, n.Technique, n.Fault}]
			v.Faulty += c.Faulty
			v.N += c.N
			v.Players = append(v.Players, contract.NeedPlayer{ID: id, Jersey: players[id].Jersey, Name: players[id].LastName, Rate: p.Rate, Part: p.Part, Faulty: c.Faulty, N: c.N})
		}
		if !n.Safety {
			left--
		}
		// The library chooses the first drill: the group's stage is worked out only when a
		// drill is really put in.
		if d, ok := taught.DrillFor(n.Fault, -1); ok {
			v.Drill, v.DrillKey = &d.Name, &d.Key
		}
		views = append(views, v)
	}
	return views
}

// voices words every finding that may be claimed, worst first.
func (f form) voices() ([]contract.Voice, error) {
	report, err := growth.Of(f.asOf, growth.Default(), record.Growth(f.sums))
	if err != nil {
		return nil, err
	}
	return standing.Voices(report, f.house.Library, f.players), nil
}
