package mark

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/palette"
	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// Usual returns in which order the faults of the group's techniques are offered for its players, by the weeks before
// this day: only what differs from the library's order.
func (s *Service) Usual(ctx context.Context, c access.Coach, group string) ([]contract.Usual, error) {
	if _, err := c.Group(group); err != nil {
		return nil, err
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	today := c.Today(s.Now())
	counts, err := s.Store.Usual(ctx, group, today-7*palette.Weeks, today-1)
	if err != nil {
		return nil, err
	}
	out := []contract.Usual{}
	for _, t := range h.Library.ForGroup(group).Techniques {
		var faults []string
		for _, f := range t.Faults {
			faults = append(faults, f.Key)
		}
		for _, p := range palette.Of(t.Key, faults, counts) {
			if slices.Equal(p.Faults, faults) {
				continue
			}
			u := contract.Usual{TechniqueKey: t.Key, Faults: p.Faults}
			if p.Player != "" {
				u.PlayerID = new(uuid.MustParse(p.Player))
			}
			out = append(out, u)
		}
	}
	return out, nil
}
