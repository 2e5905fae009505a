package tell

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// proposedItems is how many plays are proposed for a meeting at most: half an hour's.
const proposedItems = 30

// place names a meeting, written or not, so that everybody's place in it is kept.
func place(game uuid.UUID, group string) uuid.UUID { return uuid.NewSHA1(game, []byte(group)) }

// Meeting returns the plays that a group looks at together.
func (s *Service) Meeting(ctx context.Context, c access.Coach, game uuid.UUID, group string) (contract.Meeting, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.Meeting{}, err
	}
	w, err := s.Store.Meeting(ctx, game, group)
	return f.meeting(c, w), err
}

func (f film) meeting(c access.Coach, w Written[[]contract.MeetingItem]) contract.Meeting {
	out := contract.Meeting{ID: place(f.game.ID, f.group.Key), Game: f.ref(), Group: f.group.Key, Items: w.Content, Version: w.Version, Proposed: w.Version == 0, Editable: c.MayWork(f.group.Key),
		Players: []contract.Player{}, Plays: []contract.SheetPlay{}}
	if w.By != "" {
		out.By = &w.By
	}
	if w.Version == 0 {
		out.Items = f.proposed()
	}
	for _, p := range f.players {
		out.Players = append(out.Players, squad.View(p))
	}
	for _, p := range f.game.Plays {
		if p.Unit == f.group.Side {
			out.Plays = append(out.Plays, contract.SheetPlay{ID: p.ID, Play: labels.View(p.Play)})
		}
	}
	return out
}

// proposed is what the players' sheets ask to be seen, play by play, each with who has to see it and why.
func (f film) proposed() []contract.MeetingItem {
	items := []contract.MeetingItem{}
	at := map[uuid.UUID]int{}
	notes := map[uuid.UUID][]string{}
	add := func(play uuid.UUID, p squad.Player, why string) {
		i, ok := at[play]
		if !ok {
			i = len(items)
			at[play] = i
			items = append(items, contract.MeetingItem{PlayID: play, Players: []uuid.UUID{}})
		}
		if !slices.Contains(items[i].Players, p.ID) {
			items[i].Players = append(items[i].Players, p.ID)
		}
		notes[play] = append(notes[play], p.Jersey+": "+why)
	}
	for _, p := range f.players {
		in, _ := f.told(p.ID)
		if in.Best != nil && len(in.Best.Plays) > 0 {
			add(in.Best.Plays[0], p, f.title(*in.Best)+", well done")
		}
		for _, x := range in.Fixes {
			if len(x.Plays) > 0 {
				add(x.Plays[0], p, f.title(x))
			}
			if x.Pair != nil {
				if right, ok := f.find(x.Pair.PlayerID); ok {
					why := f.title(x) + ": so it is right"
					if right.ID != p.ID {
						why += ", by " + right.Jersey
					}
					add(x.Pair.Right, p, why)
				}
			}
		}
	}
	slices.SortStableFunc(items, func(a, b contract.MeetingItem) int { return f.plays[a.PlayID].Number - f.plays[b.PlayID].Number })
	items = items[:min(len(items), proposedItems)]
	for i := range items {
		text := []rune(strings.Join(notes[items[i].PlayID], "; "))
		items[i].Note = string(text[:min(len(text), 300)])
	}
	return items
}

// PutMeeting writes which plays a group looks at, in which order.
func (s *Service) PutMeeting(ctx context.Context, c access.Coach, game uuid.UUID, group string, version int, items []contract.MeetingItem) (contract.Meeting, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.Meeting{}, err
	}
	was, err := s.Store.Meeting(ctx, game, group)
	switch {
	case err != nil:
		return contract.Meeting{}, err
	case !c.MayWork(group):
		return contract.Meeting{}, problem.ErrForbidden
	case was.Version > 0 && alike(was.Content, items): // sent again after a lost answer
		return f.meeting(c, was), nil
	case version != was.Version:
		return contract.Meeting{}, &problem.Stale{What: "meeting", By: was.By, Current: f.meeting(c, was)}
	}
	seen := map[uuid.UUID]bool{}
	for i, x := range items {
		if _, ok := f.plays[x.PlayID]; !ok {
			return contract.Meeting{}, invalid.Field(fmt.Sprintf("items[%d].play_id", i), "the game has no such play")
		}
		if seen[x.PlayID] {
			return contract.Meeting{}, invalid.Field(fmt.Sprintf("items[%d].play_id", i), "play %d is on the list already", f.plays[x.PlayID].Number)
		}
		seen[x.PlayID] = true
		for j, p := range x.Players {
			if _, ok := f.find(p); !ok {
				return contract.Meeting{}, invalid.Field(fmt.Sprintf("items[%d].players[%d]", i, j), "he is not of the group")
			}
		}
	}
	if err := s.Store.PutMeeting(ctx, game, group, version, items, c.ID, s.Now()); err != nil {
		return contract.Meeting{}, err
	}
	return f.meeting(c, Written[[]contract.MeetingItem]{Content: items, Version: version + 1, By: c.Name}), nil
}
