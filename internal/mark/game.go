package mark

import (
	"cmp"
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/marks"
	"nineyard/core/teaching"
	"nineyard/core/term"
	"nineyard/internal/access"
	"nineyard/internal/calls/forecast"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/film/reel"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/aside"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// GameSheet returns the sheet for marking a group on the plays of a game: those of its side, with what
// each call asks of it, and the marks that stand, or blind the coach's own alone.
func (s *Service) GameSheet(ctx context.Context, c access.Coach, game uuid.UUID, group string, blind bool) (contract.GameSheet, error) {
	g, h, reels, err := s.filmed(ctx, c, game, group)
	if err != nil {
		return contract.GameSheet{}, err
	}
	var players []squad.Player
	var marked []record.Detail
	var ranges []standing.Range
	var asked []forecast.Asked
	var judging marks.House
	err = aside.Together(ctx,
		func(ctx context.Context) (err error) { players, err = s.Squad.Group(ctx, group, reels.On); return err },
		func(ctx context.Context) (err error) { marked, err = s.graded(ctx, c, game, group, blind); return err },
		func(ctx context.Context) (err error) { judging, err = s.Store.House(ctx); return err },
		func(ctx context.Context) (err error) { ranges, err = s.Ranges.Ranges(ctx); return err },
		func(ctx context.Context) (err error) { asked, err = s.Calls.Asked(ctx, c, group); return err })
	if err != nil {
		return contract.GameSheet{}, err
	}
	out := contract.GameSheet{GameID: reels.ID, Opponent: reels.Opponent, Home: reels.Home, Practice: reels.Practice, Date: reels.On.String(), Week: c.WeekOf(reels.On), Group: group, Editable: c.MayWork(group), Judged: judged(judging.For(group)),
		Plays: []contract.SheetPlay{}, Players: []contract.Player{}, Techniques: []contract.SheetTechnique{}, Own: []contract.SheetRange{}, Marks: []contract.GameMark{}}
	for _, p := range reels.Plays {
		if p.Unit == g.Side {
			out.Plays = append(out.Plays, sheetPlay(p, asked))
		}
	}
	used, seen := map[string]int{}, map[uuid.UUID]bool{}
	for _, m := range marked {
		used[m.TechniqueKey]++
		seen[m.PlayerID] = true
		out.Marks = append(out.Marks, gameMark(m))
	}
	for _, p := range players {
		if p.Status.TakesPart() || seen[p.ID] {
			out.Players = append(out.Players, squad.View(p))
		}
	}
	for _, t := range h.Library.ForGroup(group).Techniques {
		out.Techniques = append(out.Techniques, techniqueView(h, t))
		out.Own = append(out.Own, own(h, t, ranges)...)
	}
	slices.SortStableFunc(out.Techniques, func(a, b contract.SheetTechnique) int { return cmp.Compare(used[b.Key], used[a.Key]) })
	return out, nil
}

// graded are the marks of a group in a game that stand, or blind the coach's own alone.
func (s *Service) graded(ctx context.Context, c access.Coach, game uuid.UUID, group string, blind bool) ([]record.Detail, error) {
	var graders []uuid.UUID
	if blind {
		graders = append(graders, c.ID)
	}
	return s.Store.OfGame(ctx, game, group, graders...)
}

// filmed is a game of the club, with one of its groups and what the club teaches.
func (s *Service) filmed(ctx context.Context, c access.Coach, game uuid.UUID, key string) (group.Group, *house.House, reel.Game, error) {
	g, err := c.Group(key)
	if err != nil {
		return g, nil, reel.Game{}, err
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return g, nil, reel.Game{}, err
	}
	reels, found, err := s.Reels.Game(ctx, game)
	return g, h, reels, problem.Found(found, err)
}

// techniqueView is a technique as a play is marked as it.
func techniqueView(h *house.House, t teaching.Technique) contract.SheetTechnique {
	return contract.SheetTechnique{Key: t.Key, Name: t.Name, Faults: faults(h, t), Measures: measured(h, t), Decided: decided(h, t)}
}

// sheetPlay is a play with what its call asks, when the staff has a call of that name.
func sheetPlay(p reel.Play, asked []forecast.Asked) contract.SheetPlay {
	v := contract.SheetPlay{ID: p.ID, Play: labels.View(p.Play)}
	for _, a := range asked {
		if p.Call != "" && slices.ContainsFunc(a.Names, func(n string) bool { return term.Same(n, p.Call) }) {
			v.Technique = &a.Techniques[0]
			break
		}
	}
	return v
}
