package plan

import (
	"context"
	"fmt"

	"nineyard/core/invalid"
	"nineyard/core/suggest"
	"nineyard/internal/access"
	"nineyard/internal/contract"
)

// Together names the drills of the house that need just these groups, for minutes in which they are
// free at the same time.
func (s *Service) Together(ctx context.Context, c access.Coach, groups []string, minutes int) ([]contract.DrillTogether, error) {
	for i, g := range groups {
		if _, ok := c.Club.Groups.Find(g); !ok {
			return nil, invalid.Field(fmt.Sprintf("groups[%d]", i), "there is no group %q", g)
		}
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	var all []suggest.Joint
	for _, d := range h.Library.Drills {
		all = append(all, suggest.Joint{Key: d.Key, Name: d.Name, Groups: d.Groups, Roles: d.Roles, Minutes: d.Minutes, MinMinutes: d.MinMinutes})
	}
	out := []contract.DrillTogether{}
	for _, p := range suggest.Together(groups, minutes, c.Club.Groups, all) {
		d, _ := h.Library.Drill(p.Drill.Key)
		out = append(out, contract.DrillTogether{Drill: d.Key, Name: d.Name, Technique: d.Technique, Of: p.Of, With: p.With,
			Minutes: max(min(d.Minutes, minutes), 1), Lanes: max(d.Lanes, 1), Contact: contract.ContactLevel(d.Contact)})
	}
	return out, nil
}
