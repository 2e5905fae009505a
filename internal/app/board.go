package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// Board returns every player of a group on his stage of every ladder.
func (s *Service) Board(ctx context.Context, a Actor, group string, week int) (contract.Board, error) {
	if err := a.checkWeek(week); err != nil {
		return contract.Board{}, err
	}
	var g climbing
	var next plan
	reads, rctx := errgroup.WithContext(ctx)
	reads.Go(func() (err error) {
		g, err = s.climb(rctx, a, group, s.weekEnd(a, week))
		return err
	})
	reads.Go(func() (err error) {
		next, err = s.nextPlan(rctx, a, group, s.today(a))
		return err
	})
	if err := reads.Wait(); err != nil {
		return contract.Board{}, err
	}
	out := contract.Board{Editable: a.mayEdit(group), Ladders: []contract.BoardLadder{}, Men: []contract.Player{}}
	for _, p := range g.players {
		out.Men = append(out.Men, playerView(p))
	}
	if next.practice.ID != uuid.Nil {
		out.NextPractice = ptr(practiceRef(next.practice))
	}
	for _, ld := range a.lib().ForGroup(group).Ladders {
		v, err := g.ladderView(ld, next.placed)
		if err != nil {
			return out, err
		}
		out.Ladders = append(out.Ladders, v)
	}
	return out, nil
}

func (g climbing) ladderView(ld teaching.Ladder, placed []Placement) (contract.BoardLadder, error) {
	men, err := g.men(ld)
	if err != nil {
		return contract.BoardLadder{}, err
	}
	stage := ladder.GroupStage(len(ld.Stages), men)
	v := contract.BoardLadder{Key: ld.Key, Name: ld.Name, Technique: ld.Technique, Stages: g.actor.stageViews(ld), GroupStage: stage, Men: []contract.BoardMan{}}
	for _, pl := range placed {
		d, _ := g.actor.lib().Drill(pl.DrillKey)
		if at := ld.StageOf(pl.DrillKey); at >= 0 && g.actor.markedAs(pl, d).Key == ld.Technique {
			v.Planned, v.PlannedStage = d.Name, ptr(at)
		}
	}
	for i, m := range men {
		bm := contract.BoardMan{PlayerID: g.players[i].ID, At: m.At(), Call: contract.BoardManCall(ladder.CallFor(m, stage)), Overexposed: []string{}}
		for j, st := range m.Standing.Stages {
			bm.Reps += st.Reps
			if j == bm.At {
				bm.RecentClean, bm.RecentReps = st.RecentClean, st.RecentReps
				bm.Window, bm.Clean, bm.FromWeek = ptr(st.Window), ptr(st.Clean), ptr(max(ld.Stages[j].FromWeek, 1))
			}
			if slices.Contains(m.Standing.Overexposed, st.Key) {
				bm.Overexposed = append(bm.Overexposed, ld.Stages[j].Name)
			}
			if st.Overridden {
				bm.Override = g.override(ld, g.players[i].ID, ld.Stages[j])
			}
		}
		v.Reps += bm.Reps
		v.Men = append(v.Men, bm)
	}
	return v, nil
}

// override words the coach's word by which a player passed a stage.
func (g climbing) override(ld teaching.Ladder, player uuid.UUID, stage teaching.Stage) *contract.GateOverride {
	for _, o := range g.overrides {
		if o.PlayerID == player && o.LadderKey == ld.Key && o.StageKey == stage.Key {
			return &contract.GateOverride{ID: o.ID, Stage: o.StageKey, StageName: stage.Name, Reason: o.Reason, By: o.ByName, On: season.Of(o.OnDate).String()}
		}
	}
	return nil
}

// MoveLadder moves the group's next practice to the stage the group is at: the drill of
// that stage takes the place of the ladder's drill that stands there, or is put in.
func (s *Service) MoveLadder(ctx context.Context, a Actor, group, key string, id uuid.UUID) (contract.Move, error) {
	ld, ok := a.lib().Ladder(key)
	t, _ := a.lib().Technique(ld.Technique)
	if !ok || !t.Taught(group) {
		return contract.Move{}, ErrNotFound
	}
	if !a.mayEdit(group) {
		return contract.Move{}, ErrForbidden
	}
	g, err := s.climb(ctx, a, group, s.today(a))
	if err != nil {
		return contract.Move{}, err
	}
	men, err := g.men(ld)
	if err != nil {
		return contract.Move{}, err
	}
	drill, stage, err := g.drillAt(ld, ladder.GroupStage(len(ld.Stages), men))
	if err != nil {
		return contract.Move{}, err
	}
	p, err := s.nextOwn(ctx, a, group)
	if err != nil {
		return contract.Move{}, err
	}
	out := contract.Move{Practice: practiceRef(p), PlacementID: id, Stage: stage.Name, Drill: drill.Name, Shortened: []contract.Shortened{}, KeepOut: g.keepOut(ld, drill)}
	err = s.Store.InTx(ctx, func(tx Store) error { return s.move(ctx, tx, a, group, p, ld, drill, &out) })
	return out, err
}

// drillAt chooses the drill of a stage, or of the nearest one below it, that the men there
// are can run. The game itself is no drill: before it the group stage is drilled.
func (g climbing) drillAt(ld teaching.Ladder, at int) (teaching.Drill, teaching.Stage, error) {
	att, _ := attendance(g.players)
	for i := at; i >= 0; i-- {
		for _, k := range ld.Stages[i].Drills {
			d, ok := g.actor.lib().Drill(k)
			if crew := att.For(d); ok && crew.Full >= d.Working && crew.Men() >= d.Working+d.Helping {
				return d, ld.Stages[i], nil
			}
		}
	}
	return teaching.Drill{}, teaching.Stage{}, invalid.Field("ladder", "no drill of %s can be run with the men there are", ld.Name)
}

// keepOut names the men whose safety fault keeps them from a drill with contact.
func (g climbing) keepOut(ld teaching.Ladder, d teaching.Drill) []string {
	names := []string{}
	contact, err := practice.ParseContact(d.Contact)
	for _, p := range g.players {
		if why := g.safety[climbKey{p.ID, ld.Technique}]; why != "" && (err != nil || contact.Collides()) {
			names = append(names, fmt.Sprintf("%s %s (%s)", p.Jersey, p.LastName, why))
		}
	}
	return names
}

func (s *Service) move(ctx context.Context, tx Store, a Actor, group string, p Practice, ld teaching.Ladder, drill teaching.Drill, out *contract.Move) error {
	done, err := eachOwn(ctx, tx, a, p, group, func(e Period, current []Placement) (bool, error) {
		for i, pl := range current {
			d, _ := a.House.Known.Drill(pl.DrillKey)
			if a.markedAs(pl, d).Key != ld.Technique || pl.Marks > 0 || ld.StageOf(pl.DrillKey) < 0 {
				continue
			}
			out.PlacementID, out.Minutes = pl.ID, pl.Minutes
			if pl.DrillKey == drill.Key {
				out.Already = true
				return true, nil
			}
			out.Replaced = d.Name
			current[i].DrillKey, current[i].TechniqueKey, current[i].Lanes = drill.Key, ld.Technique, drill.Lanes
			return true, s.rewrite(ctx, tx, a, e, group, current)
		}
		return false, nil
	})
	if done || err != nil {
		return err
	}
	fix := contract.Fix{PlacementID: out.PlacementID, Practice: out.Practice, Shortened: []contract.Shortened{}}
	err = s.place(ctx, tx, a, group, p, drill, ld.Technique, &fix)
	out.Minutes, out.Shortened = fix.Minutes, fix.Shortened
	return err
}

// eachOwn hands over the group's own periods of a practice in order, held for writing and
// with their placements, until do says it is done.
func eachOwn(ctx context.Context, tx Store, a Actor, p Practice, group string, do func(Period, []Placement) (done bool, err error)) (bool, error) {
	periods, err := tx.Periods(ctx, a.ClubID, p.ID)
	if err != nil {
		return false, err
	}
	for _, e := range periods {
		if !own(e, group) {
			continue
		}
		if e, err = tx.Period(ctx, a.ClubID, e.ID, true); err != nil {
			return false, err
		}
		current, err := tx.PeriodPlacements(ctx, a.ClubID, e.ID)
		if err != nil {
			return false, err
		}
		if done, err := do(e, current); done || err != nil {
			return done, err
		}
	}
	return false, nil
}

// rewrite saves a period with other placements.
func (s *Service) rewrite(ctx context.Context, tx Store, a Actor, e Period, group string, placed []Placement) error {
	players, err := tx.Players(ctx, a.ClubID, group)
	if err != nil {
		return err
	}
	att, _ := attendance(players)
	_, err = s.savePeriod(ctx, tx, a, e, placed, att)
	return err
}

// AddOverride lets a player pass a stage on the coach's word.
func (s *Service) AddOverride(ctx context.Context, a Actor, player uuid.UUID, id uuid.UUID, ladderKey, stage, reason string) error {
	ld, ok := a.lib().Ladder(ladderKey)
	if !ok {
		return invalid.Field("ladder", "there is no ladder %q", ladderKey)
	}
	if !slices.ContainsFunc(ld.Stages, func(s teaching.Stage) bool { return s.Key == stage }) {
		return invalid.Field("stage", "%s has no stage %q", ld.Name, stage)
	}
	if strings.TrimSpace(reason) == "" {
		return invalid.Field("reason", "say why; the reason stays visible")
	}
	t, _ := a.lib().Technique(ld.Technique)
	if err := s.coachOf(ctx, a, player, t); err != nil {
		return err
	}
	err := s.Store.AddOverride(ctx, Override{ID: id, ClubID: a.ClubID, SeasonID: a.SeasonID, PlayerID: player, LadderKey: ladderKey, StageKey: stage,
		OnDate: s.today(a).Time(), Reason: strings.TrimSpace(reason), CreatedBy: ptr(a.UserID), CreatedAt: s.Clock()})
	if errors.Is(err, ErrIDTaken) {
		return invalid.Field("stage", "he was let pass this stage before")
	}
	return err
}

// WithdrawOverride takes a coach's word back.
func (s *Service) WithdrawOverride(ctx context.Context, a Actor, id uuid.UUID) error {
	return s.Store.InTx(ctx, func(tx Store) error {
		o, err := tx.WithdrawOverride(ctx, a.ClubID, id, s.Clock())
		if err != nil {
			return err
		}
		ld, _ := a.House.Known.Ladder(o.LadderKey)
		t, _ := a.House.Known.Technique(ld.Technique)
		return s.coachOf(ctx, a, o.PlayerID, t)
	})
}

// coachOf refuses a coach who has neither the player nor the technique in a group of his.
func (s *Service) coachOf(ctx context.Context, a Actor, player uuid.UUID, t teaching.Technique) error {
	if _, err := s.Store.Player(ctx, a.ClubID, player); err != nil {
		return err
	}
	for _, group := range t.Groups {
		if !a.mayEdit(group) {
			continue
		}
		players, err := s.Store.Players(ctx, a.ClubID, group)
		if err != nil {
			return err
		}
		if _, ok := playersByID(players)[player]; ok {
			return nil
		}
	}
	return ErrForbidden
}
