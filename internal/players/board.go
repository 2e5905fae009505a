package players

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// Board returns every player of a group on his stage of every ladder.
func (s *Service) Board(ctx context.Context, c access.Coach, group string, week int) (contract.Board, error) {
	asOf, err := c.WeekEnd(week, s.Now())
	if err != nil {
		return contract.Board{}, err
	}
	var next script.Next
	var found bool
	l, err := s.openLadders(ctx, c, group, asOf, nil, func(ctx context.Context, _ view) (err error) {
		next, found, err = s.Plans.Next(ctx, c, group, c.Today(s.Now()))
		return err
	})
	if err != nil {
		return contract.Board{}, err
	}
	list := l.house.Library.ForGroup(group).Ladders
	players := make([][]ladder.Player, len(list))
	for i, ld := range list {
		if players[i], err = l.on(ld); err != nil {
			return contract.Board{}, err
		}
	}
	out := contract.Board{Editable: c.MayEdit(group), Ladders: []contract.BoardLadder{}, Players: []contract.Player{}}
	for _, p := range l.players {
		out.Players = append(out.Players, squad.View(p))
	}
	if found {
		ref := script.Ref(next.Practice)
		out.NextPractice = &ref
	}
	for i, ld := range list {
		out.Ladders = append(out.Ladders, l.board(ld, group, players[i], next.Placements()))
	}
	return out, nil
}

// board words one ladder of the board.
func (l ladders) board(ld teaching.Ladder, group string, players []ladder.Player, placed []script.Placement) contract.BoardLadder {
	stage := ladder.GroupStage(len(ld.Stages), players)
	v := contract.BoardLadder{Key: ld.Key, Name: ld.Name, Technique: ld.Technique, Stages: l.house.StageViews(ld, group), GroupStage: stage, Players: []contract.BoardPlayer{}}
	for _, pl := range placed {
		d, _ := l.house.Library.Drill(pl.DrillKey)
		if i := ld.StageOf(pl.DrillKey); i >= 0 && l.house.MarkedAs(pl.TechniqueKey, d).Key == ld.Technique {
			v.Planned, v.PlannedStage = d.Name, &i
		}
	}
	for i, p := range players {
		bp := contract.BoardPlayer{PlayerID: l.players[i].ID, At: p.At(), Advice: contract.BoardPlayerAdvice(ladder.AdviceFor(p, stage)), Overexposed: []string{}, Needs: []string{}}
		for j, st := range p.Standing.Stages {
			bp.Reps += st.Reps
			if j == bp.At {
				bp.RecentClean, bp.RecentReps = st.RecentClean, st.RecentReps
				bp.Window, bp.Clean, bp.FromWeek = new(st.Window), new(st.Clean), new(max(ld.Stages[j].FromWeek, 1))
				bp.HeadLeft = st.HeadLeft
				for _, n := range l.needs(ld, j, l.players[i]) {
					if !n.passed {
						bp.Needs = append(bp.Needs, strings.TrimPrefix(n.stage+" of "+n.technique.Name, " of "))
					}
				}
			}
			if slices.Contains(p.Standing.Overexposed, st.Key) {
				bp.Overexposed = append(bp.Overexposed, ld.Stages[j].Name)
			}
			if st.Overridden {
				bp.Override = l.override(ld, l.players[i].ID, ld.Stages[j])
			}
		}
		v.Reps += bp.Reps
		v.Players = append(v.Players, bp)
	}
	return v
}

// AddOverride lets a player pass a stage on the coach's word.
func (s *Service) AddOverride(ctx context.Context, c access.Coach, player, id uuid.UUID, ladderKey, stage, reason string) error {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return err
	}
	ld, ok := h.Library.Ladder(ladderKey)
	if !ok {
		return invalid.Field("ladder", "there is no ladder %q", ladderKey)
	}
	if !hasStage(ld, stage) {
		return invalid.Field("stage", "%s has no stage %q", ld.Name, stage)
	}
	if reason = strings.TrimSpace(reason); reason == "" {
		return invalid.Field("reason", "say why; the reason stays visible")
	}
	t, _ := h.Library.Technique(ld.Technique)
	group, err := s.coaches(ctx, c, player, t)
	if err != nil {
		return err
	}
	today := c.Today(s.Now())
	if err := s.inOrder(ctx, c, group, ld, player, ladder.Override{Stage: stage, On: today}); err != nil {
		return err
	}
	return s.Store.AddOverride(ctx, c.Season.ID, Override{ID: id, PlayerID: player, LadderKey: ladderKey, StageKey: stage, On: today, Reason: reason, By: c.ID, At: s.Now()})
}

// inOrder refuses a word for a stage when the player has not passed one before it.
func (s *Service) inOrder(ctx context.Context, c access.Coach, group string, ld teaching.Ladder, player uuid.UUID, o ladder.Override) error {
	l, err := s.openLadders(ctx, c, group, o.On, &player)
	if err != nil {
		return err
	}
	p, err := l.player(player)
	if err != nil {
		return err
	}
	before, err := ladder.Unpassed(l.input(ld, p), o)
	if err != nil || before == "" {
		return err
	}
	return invalid.Field("stage", "he has not passed “%s” yet, which comes before; let him pass that first", stageName(ld, before))
}

func stageName(ld teaching.Ladder, key string) string {
	for _, st := range ld.Stages {
		if st.Key == key {
			return st.Name
		}
	}
	return key
}

// WithdrawOverride takes a coach's word back.
func (s *Service) WithdrawOverride(ctx context.Context, c access.Coach, id uuid.UUID) error {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return err
	}
	o, found, err := s.Store.WithdrawOverride(ctx, id, s.Now())
	if err != nil {
		return err
	}
	if !found {
		return problem.ErrNotFound
	}
	ld, _ := h.Known.Ladder(o.LadderKey)
	t, _ := h.Known.Technique(ld.Technique)
	_, err = s.coaches(ctx, c, o.PlayerID, t) // else the transaction is given up
	return err
}
