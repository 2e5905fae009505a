package teach

import (
	"context"

	"nineyard/core/crew"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// DrillPage returns a drill with its reps and rotation for the players of today.
func (s *Service) DrillPage(ctx context.Context, c access.Coach, group, key string, minutes, lanes *int) (contract.DrillPage, error) {
	h, err := s.Of(ctx, c)
	if err != nil {
		return contract.DrillPage{}, err
	}
	d, ok := h.Library.Drill(key)
	if !ok {
		return contract.DrillPage{}, problem.ErrNotFound
	}
	if _, err := c.Group(group); err != nil {
		return contract.DrillPage{}, err
	}
	players, err := s.Squad.Group(ctx, group, c.Today(s.Now()))
	if err != nil {
		return contract.DrillPage{}, err
	}
	v := contract.DrillPage{Drill: viewer{h}.drill(d), Minutes: d.Minutes, Lanes: d.Lanes, Out: []contract.Hold{}}
	if minutes != nil {
		v.Minutes = *minutes
	}
	if lanes != nil {
		v.Lanes = *lanes
	}
	att, holds := squad.Attendance(players)
	v.Reps = script.Reps(d, att, v.Minutes, v.Lanes)
	for _, x := range holds {
		if x.Status != contract.AvailabilityLimited || crew.PartOf(d, true) != crew.FullPart {
			v.Out = append(v.Out, x)
		}
	}
	if v.Rotation, err = script.Rotation(d, players, v.Minutes, v.Lanes); err != nil {
		return v, err
	}
	v.Use, err = s.Index.DrillUse(ctx, c, key)
	return v, err
}
