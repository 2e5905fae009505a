package tell

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
)

// Feedback returns what a player is told of a game.
func (s *Service) Feedback(ctx context.Context, c access.Coach, game uuid.UUID, group string, player uuid.UUID) (contract.Feedback, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.Feedback{}, err
	}
	return s.sheet(ctx, c, f, player)
}

// sheet words what a player is told.
func (s *Service) sheet(ctx context.Context, c access.Coach, f film, player uuid.UUID) (contract.Feedback, error) {
	p, there := f.find(player)
	if !there {
		return contract.Feedback{}, problem.ErrNotFound
	}
	climbs, err := s.Climbs.Climbs(ctx, c, f.group.Key, max(f.game.On, min(c.Today(s.Now()), f.game.On+season.Date(6))))
	if err != nil {
		return contract.Feedback{}, err
	}
	in, w := f.told(player)
	out := contract.Feedback{Game: f.ref(), Group: f.group.Key, Player: squad.View(p), Fixes: []contract.Point{}, Note: in.Note, Version: w.Version, Proposed: w.Version == 0, Editable: c.MayEdit(f.group.Key)}
	if w.By != "" {
		out.By = &w.By
	}
	if in.Best != nil {
		v, err := f.point(climbs, player, *in.Best)
		if err != nil {
			return out, err
		}
		out.Best = &v
	}
	for _, x := range in.Fixes {
		v, err := f.point(climbs, player, x)
		if err != nil {
			return out, err
		}
		out.Fixes = append(out.Fixes, v)
	}
	out.Plays = f.playsOf(player, out)
	return out, nil
}

// point words a point, with the counts of the game, the drill that mends it and where he stands on its ladder.
func (f film) point(climbs standing.Climbs, player uuid.UUID, in contract.PointInput) (contract.Point, error) {
	v := contract.Point{Technique: in.Technique, TechniqueName: f.house.TechniqueName(in.Technique), Fault: in.Fault, Title: f.title(in), Text: in.Text, Plays: append([]uuid.UUID{}, in.Plays...), Pair: in.Pair}
	if in.Fault != nil {
		v.Safety = f.weights[*in.Fault].Safety
	}
	for _, x := range f.seen {
		if x.Player != player.String() || x.Technique != in.Technique || !x.Verdict.Graded {
			continue
		}
		v.Of++
		if in.Fault == nil && x.Verdict.Clean || in.Fault != nil && slices.Contains(x.Faults, *in.Fault) {
			v.N++
		}
	}
	if in.Drill != nil {
		if d, ok := f.house.Known.Drill(*in.Drill); ok {
			v.DrillKey, v.Drill = in.Drill, &d.Name
			if d.SelfCheck.Text != "" {
				v.SelfCheck = &d.SelfCheck.Text
			}
		}
	}
	ld, ok := f.house.Library.LadderOf(in.Technique)
	if !ok {
		return v, nil
	}
	on, err := climbs.On(ld)
	if err != nil {
		return v, err
	}
	for _, x := range on {
		if x.Player.ID != player {
			continue
		}
		name := "all stages passed"
		for _, st := range ld.Stages {
			if st.Key == x.Standing.Current {
				name = st.Name
			}
		}
		v.Stage = &name
	}
	return v, nil
}

// playsOf lists the plays that a player was marked on, and those of teammates that are shown him.
func (f film) playsOf(player uuid.UUID, told contract.Feedback) []contract.PlayOfHis {
	list := []contract.PlayOfHis{}
	his := map[uuid.UUID]bool{}
	for _, m := range f.marks {
		if m.PlayerID != player || m.PlayID == nil || his[*m.PlayID] {
			continue
		}
		his[*m.PlayID] = true
		list = append(list, contract.PlayOfHis{ID: *m.PlayID, Play: labels.View(f.plays[*m.PlayID].Play), His: true, Technique: new(f.house.TechniqueName(m.TechniqueKey)), Says: new(f.says(m))})
	}
	for _, x := range told.Fixes {
		if x.Pair == nil || his[x.Pair.Right] {
			continue
		}
		if p, ok := f.plays[x.Pair.Right]; ok {
			his[x.Pair.Right] = true
			list = append(list, contract.PlayOfHis{ID: p.ID, Play: labels.View(p.Play)})
		}
	}
	slices.SortStableFunc(list, func(a, b contract.PlayOfHis) int { return a.Play.Number - b.Play.Number })
	return list
}

// PutFeedback writes what a player is told. It returns a *problem.Stale when it was changed since the version given.
func (s *Service) PutFeedback(ctx context.Context, c access.Coach, game uuid.UUID, group string, player uuid.UUID, version int, in contract.FeedbackInput) (contract.Feedback, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.Feedback{}, err
	}
	if !c.MayEdit(group) {
		return contract.Feedback{}, problem.ErrForbidden
	}
	now, err := s.sheet(ctx, c, f, player)
	if err != nil {
		return now, err
	}
	was := f.written[player]
	switch {
	case was.Version > 0 && alike(was.Content, in): // sent again after a lost answer
		return now, nil
	case version != was.Version:
		return now, &problem.Stale{What: "sheet", By: was.By, Current: now}
	}
	if err := f.check(in); err != nil {
		return now, err
	}
	if err := s.Store.PutFeedback(ctx, game, player, version, in, c.ID, s.Now()); err != nil {
		return now, err
	}
	f.written[player] = Written[contract.FeedbackInput]{Content: in, Version: version + 1, By: c.Name}
	return s.sheet(ctx, c, f, player)
}

func alike(a, b any) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && string(x) == string(y)
}

// check refuses what is of no technique, fault, drill or play that there is.
func (f film) check(in contract.FeedbackInput) error {
	points := in.Fixes
	at := func(i int) string { return fmt.Sprintf("fixes[%d]", i) }
	for i, p := range points {
		if p.Fault == nil {
			return invalid.Field(at(i)+".fault", "say which fault it is to fix")
		}
	}
	if in.Best != nil {
		points = append([]contract.PointInput{*in.Best}, points...)
		at = func(i int) string {
			if i == 0 {
				return "best"
			}
			return fmt.Sprintf("fixes[%d]", i-1)
		}
	}
	for i, p := range points {
		if _, ok := f.house.Known.Technique(p.Technique); !ok {
			return invalid.Field(at(i)+".technique", "there is no technique %q", p.Technique)
		}
		if p.Fault != nil {
			if _, _, ok := f.house.Known.Fault(*p.Fault); !ok {
				return invalid.Field(at(i)+".fault", "there is no fault %q", *p.Fault)
			}
		}
		if p.Drill != nil {
			if _, ok := f.house.Known.Drill(*p.Drill); !ok {
				return invalid.Field(at(i)+".drill", "there is no drill %q", *p.Drill)
			}
		}
		shown := slices.Clone(p.Plays)
		if p.Pair != nil {
			shown = append(shown, p.Pair.Wrong, p.Pair.Right)
			if _, ok := f.find(p.Pair.PlayerID); !ok {
				return invalid.Field(at(i)+".pair.player_id", "he is not of the group")
			}
		}
		for j, id := range shown {
			if _, ok := f.plays[id]; !ok {
				return invalid.Field(fmt.Sprintf("%s.plays[%d]", at(i), j), "the game has no such play")
			}
		}
	}
	return nil
}

// DeleteFeedback lets it be as it is proposed again.
func (s *Service) DeleteFeedback(ctx context.Context, c access.Coach, game uuid.UUID, group string, player uuid.UUID, version int) (contract.Gone, error) {
	f, err := s.film(ctx, c, game, group)
	if err != nil {
		return contract.Gone{}, err
	}
	was, there := f.written[player]
	switch {
	case !c.MayEdit(group):
		return contract.Gone{}, problem.ErrForbidden
	case !there:
		return contract.Gone{ID: player}, nil
	case version != was.Version:
		now, err := s.sheet(ctx, c, f, player)
		if err == nil {
			err = &problem.Stale{What: "sheet", By: was.By, Current: now}
		}
		return contract.Gone{}, err
	}
	return contract.Gone{ID: player}, s.Store.DeleteFeedback(ctx, game, player)
}
