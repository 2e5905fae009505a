package today

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/core/suggest"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Late says what it costs to shorten periods of a practice or to drop them: the reps that every
// player of the group loses in the drills placed there, and what of that which hurts most they would
// have worked on. Periods without drills cost minutes alone and are left out.
func (s *Service) Late(ctx context.Context, c access.Coach, practiceID uuid.UUID, cuts []contract.PeriodCut) ([]contract.LateCost, error) {
	out := []contract.LateCost{}
	if len(cuts) == 0 {
		return out, nil
	}
	w, found, err := s.Scripts.Around(ctx, cuts[0].ID)
	if err != nil {
		return nil, err
	}
	if !found || w.Practice.ID != practiceID {
		return nil, problem.ErrNotFound
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	forms := map[string]*grouped{}
	for _, cut := range cuts {
		i := slices.IndexFunc(w.Periods, func(e script.Period) bool { return e.ID == cut.ID })
		if i < 0 {
			return nil, problem.ErrNotFound
		}
		e := w.Periods[i]
		for _, group := range e.Holders() {
			if len(e.Of(group)) == 0 {
				continue
			}
			g := forms[group]
			if g == nil {
				if g, err = s.grouped(ctx, c, h, group, min(c.Today(s.Now()), w.Practice.On), w.Practice.On); err != nil {
					return nil, err
				}
				forms[group] = g
			}
			out = append(out, g.cost(h, e, group, cut.Minutes))
		}
	}
	return out, nil
}

// grouped is a group on the day of a practice with what hurts it.
type grouped struct {
	attendance crew.Attendance
	hurts      []suggest.Need
}

func (s *Service) grouped(ctx context.Context, c access.Coach, h *house.House, group string, asOf, on season.Date) (*grouped, error) {
	f, err := s.form(ctx, c, h, group, asOf, on, func(form) {})
	if err != nil {
		return nil, err
	}
	g := &grouped{}
	g.attendance, _ = squad.Attendance(f.players)
	g.hurts, err = f.hurting()
	return g, err
}

// cost is what the group loses of a period when that has so many minutes: its drills are fitted in as saving would,
// and where even that is not enough the last ones fall out.
func (g *grouped) cost(h *house.House, e script.Period, group string, minutes int) contract.LateCost {
	drills := e.Of(group)
	v := contract.LateCost{ID: e.ID, Group: group, Drills: []string{}, Needs: []string{}}
	keep := drills
	places := func() (list []practice.Placement) {
		for _, p := range keep {
			list = append(list, practice.Placement{Start: p.Start, Minutes: p.Minutes})
		}
		return list
	}
	fit, _, err := practice.Squeeze(minutes, places(), practice.KeepMinutes)
	for err != nil && len(keep) > 0 {
		keep = keep[:len(keep)-1]
		fit, _, err = practice.Squeeze(minutes, places(), practice.KeepMinutes)
	}
	if minutes == 0 {
		keep = nil
	}
	for i, p := range drills {
		d, ok := h.Library.Drill(p.DrillKey)
		if !ok {
			continue
		}
		left := 0
		if i < len(keep) {
			left = fit[i].Minutes
		}
		if left == p.Minutes {
			continue
		}
		_, was, _ := crew.Planned(d, g.attendance, p.Minutes, p.Lanes)
		v.Reps += was.PerPlayer.Min
		if left > 0 {
			_, now, _ := crew.Planned(d, g.attendance, left, p.Lanes)
			v.Reps -= now.PerPlayer.Min
		}
		if !slices.Contains(v.Drills, d.Name) {
			v.Drills = append(v.Drills, d.Name)
		}
		for _, n := range g.hurts {
			if slices.Contains(d.WorksOn, n.Fault) && !slices.Contains(v.Needs, n.Name) {
				v.Needs = append(v.Needs, n.Name)
			}
		}
	}
	return v
}
