package app

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// gradeDays is how far back ungraded work is still worth a reminder.
const gradeDays = 10

// Today returns what is next for a group in a week.
func (s *Service) Today(ctx context.Context, a Actor, group string, week int) (contract.Today, error) {
	if err := a.checkWeek(week); err != nil {
		return contract.Today{}, err
	}
	asOf := s.weekEnd(a, week)
	players, err := s.playersOf(ctx, a, group)
	if err != nil {
		return contract.Today{}, err
	}
	out := contract.Today{ToGrade: []contract.ToGrade{}}
	att, holds := attendance(players)
	out.Holds = holds

	// What is next and what is still to grade do not wait for the wide reads.
	var f form
	var planned map[string]bool
	var states []GradeState
	reads, rctx := errgroup.WithContext(ctx)
	reads.Go(func() (err error) {
		f, err = s.form(rctx, a, group, players, asOf)
		return err
	})
	reads.Go(func() (err error) {
		from := max(season.WeekStart(a.start(), week), min(s.today(a), season.WeekStart(a.start(), week)+6))
		if planned, err = s.nextPractice(rctx, a, group, from, &out); err != nil {
			return err
		}
		states, err = s.Store.GradeStates(rctx, a.ClubID, a.SeasonID, group, offense(group), (asOf - gradeDays).Time(), asOf.Time())
		return err
	})
	if err := reads.Wait(); err != nil {
		return out, err
	}
	if out.Needs, err = s.needViews(f, 5, planned, unknownStage); err != nil {
		return out, err
	}
	if out.Voices, err = s.voices(f); err != nil {
		return out, err
	}
	for _, st := range states {
		if g, open := a.toGrade(st, att, s.today(a)); open {
			out.ToGrade = append(out.ToGrade, g)
		}
	}
	return out, nil
}

// unknownStage lets the library choose the first drill: the group's stage is worked
// out only when a drill is really put in.
func unknownStage(string) int { return -1 }

// playersOf lists a group's players, ErrNotFound when there is no such group.
func (s *Service) playersOf(ctx context.Context, a Actor, group string) ([]Player, error) {
	players, err := s.Store.Players(ctx, a.ClubID, group)
	if err == nil && len(players) == 0 {
		_, _, err = s.group(ctx, a, group)
	}
	return players, err
}

// nextPractice fills in the next practice and returns the faults its drills work on.
func (s *Service) nextPractice(ctx context.Context, a Actor, group string, from season.Date, out *contract.Today) (map[string]bool, error) {
	worked := map[string]bool{}
	p, err := s.nextPlan(ctx, a, group, from)
	if err != nil || p.practice.ID == uuid.Nil {
		return worked, err
	}
	next := contract.NextPractice{Practice: practiceRef(p.practice), Drills: []string{}}
	for _, e := range p.periods {
		next.OwnMinutes += e.Minutes
	}
	if len(p.periods) > 0 {
		next.OwnPeriod = ptr(p.periods[0].ID)
	}
	for _, pl := range p.placed {
		d, ok := a.lib().Drill(pl.DrillKey)
		if !ok {
			continue
		}
		next.Drills = append(next.Drills, d.Name)
		next.DrillMinutes += pl.Minutes
		for _, k := range d.WorksOn {
			worked[k] = true
		}
	}
	out.NextPractice = &next
	return worked, nil
}

// plan is what a group has of its own in a practice.
type plan struct {
	practice Practice
	periods  []Period
	placed   []Placement // in those periods, in order of time
}

// nextPlan reads the group's plan of its next practice; empty when there is none to come.
func (s *Service) nextPlan(ctx context.Context, a Actor, group string, from season.Date) (plan, error) {
	p, err := s.Store.NextPractice(ctx, a.ClubID, a.SeasonID, group, from.Time())
	if errors.Is(err, ErrNotFound) {
		return plan{}, nil
	}
	if err != nil {
		return plan{}, err
	}
	periods, err := s.Store.Periods(ctx, a.ClubID, p.ID)
	if err != nil {
		return plan{}, err
	}
	placed, err := s.Store.Placements(ctx, a.ClubID, p.ID)
	if err != nil {
		return plan{}, err
	}
	mine := map[uuid.UUID]bool{}
	for _, e := range periods {
		mine[e.ID] = own(e, group)
	}
	return plan{p, slices.DeleteFunc(periods, func(e Period) bool { return !mine[e.ID] }),
		slices.DeleteFunc(placed, func(pl Placement) bool { return !mine[pl.PeriodID] })}, nil
}

// own reports whether a period is the group's own: an individual period of it alone.
func own(p Period, group string) bool {
	return p.Kind == "individual" && len(p.Groups) == 1 && p.Groups[0] == group
}

// toGrade says how much of a drill or game is still to be graded.
func (a Actor) toGrade(st GradeState, att teaching.Attendance, today season.Date) (contract.ToGrade, bool) {
	day := season.Of(st.OnDate)
	g := contract.ToGrade{Kind: contract.ToGradeKind(st.Kind), ID: st.ID, PracticeID: st.PracticeID, Date: day.String(), Graded: st.Graded}
	if st.Kind == "game" {
		g.Title = "Game against " + st.Title
		g.Expected = st.Plays
		return g, day <= today && st.Graded < st.Plays
	}
	d, ok := a.lib().Drill(*st.DrillKey)
	if !ok {
		return g, false
	}
	_, y, _ := d.Planned(att, st.Minutes, st.Lanes)
	g.Title = fmt.Sprintf("%s, %s", d.Name, st.Title)
	g.Expected = y.WorkingReps
	// Today's practice may not have been run yet; it is due from tomorrow, or once begun.
	begun := day < today || day == today && st.Graded > 0
	return g, begun && 2*st.Graded < g.Expected
}
