package teach

import (
	"context"
	"fmt"
	"math"
	"slices"

	"nineyard/core/complete"
	"nineyard/core/crew"
	"nineyard/core/invalid"
	"nineyard/core/merge"
	"nineyard/core/sound"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/teach/house"
)

// mostBreaks is how much of what an entry would break is said at once.
const mostBreaks = 12

// CheckEntry says what an entry as it is being typed would break: what does not go together with the rest, what of the
// library would be less than whole, and ladders that could not be climbed any more. Nothing is saved.
func (s *Service) CheckEntry(ctx context.Context, c access.Coach, kind, key string, fields map[string]any) (contract.EntryCheck, error) {
	out := contract.EntryCheck{Breaks: []string{}}
	h, err := s.Of(ctx, c)
	if err != nil {
		return out, err
	}
	next, err := typed(c, h, merge.Ref{Kind: kind, Key: key}, fields)
	if err != nil {
		if e, ok := invalid.As(err); ok {
			out.Breaks = append(out.Breaks, e.Message)
			return out, nil
		}
		return out, err
	}
	add := func(issues []sound.Issue) {
		for _, i := range issues {
			if says := i.Error(); !slices.Contains(out.Breaks, says) && len(out.Breaks) < mostBreaks {
				out.Breaks = append(out.Breaks, says)
			}
		}
	}
	add(breaks(h, next))
	add(added(complete.Check(h.Library), complete.Check(next.Library)))
	for _, ld := range next.Library.Ladders {
		t, ok := next.Library.Technique(ld.Technique)
		if !ok || len(t.Groups) == 0 || len(out.Breaks) >= mostBreaks {
			continue
		}
		group := t.Groups[0]
		before, there := h.Library.LadderOf(ld.Technique)
		if math.IsInf(crew.LadderMinutes(next.Library, ld, group, 1), 0) && !(there && math.IsInf(crew.LadderMinutes(h.Library, before, group, 1), 0)) {
			out.Breaks = append(out.Breaks, fmt.Sprintf("the ladder %s cannot be climbed with %d players", ld.Name, crew.UsualPlayers(group)))
		}
	}
	return out, nil
}

// typed is the house with an entry as it is being typed.
func typed(c access.Coach, h *house.House, r merge.Ref, fields map[string]any) (*house.House, error) {
	layer, _, err := change(c, h, r, EntryChange{Fields: fields, Version: h.Version})
	if err != nil {
		return nil, err
	}
	next, err := h.With(layer)
	if err != nil {
		return nil, invalid.Caused("fields", "the entry does not go together with what it refers to", err)
	}
	return next, nil
}
