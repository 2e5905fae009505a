package app

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"nineyard/core/ladder"
	"nineyard/core/season"
	"nineyard/core/teaching"
)

// safetyDays is how long a safety fault keeps a man at his contact level.
const safetyDays = 14

// climbing is what is known of a group's men on their ladders as of a day.
type climbing struct {
	actor     Actor
	asOf      season.Date
	players   []Player
	runs      map[climbKey][]StageRun
	overrides []Override
	safety    map[climbKey]string // newest safety fault lately, in words
}

type climbKey struct {
	player    uuid.UUID
	technique string
}

// climb reads the group's season on its ladders.
func (s *Service) climb(ctx context.Context, a Actor, group string, asOf season.Date) (climbing, error) {
	g := climbing{actor: a, asOf: asOf}
	var err error
	if g.players, err = s.playersOf(ctx, a, group); err != nil {
		return g, err
	}
	var runs []StageRun
	var faults []FaultTally
	reads, rctx := errgroup.WithContext(ctx)
	reads.Go(func() (err error) {
		runs, err = s.Store.StageRuns(rctx, a.ClubID, group, nil, a.SeasonStart, asOf.Time())
		return err
	})
	reads.Go(func() (err error) {
		if faults, err = s.Store.FaultTallies(rctx, a.ClubID, group, (asOf - safetyDays + 1).Time(), asOf.Time()); err != nil {
			return err
		}
		g.overrides, err = s.Store.Overrides(rctx, a.ClubID, a.SeasonID)
		return err
	})
	if err := reads.Wait(); err != nil {
		return g, err
	}
	g.runs, g.safety = indexRuns(runs), map[climbKey]string{}
	slices.SortFunc(faults, func(x, y FaultTally) int { // the store gives them in no order; the newest is to stand
		return cmp.Or(x.OnDate.Compare(y.OnDate), cmp.Compare(x.Fault, y.Fault))
	})
	for _, f := range faults {
		if fault, _, ok := a.House.Known.Fault(f.Fault); ok && fault.Safety && f.CausedBy == "" {
			g.safety[climbKey{f.PlayerID, f.TechniqueKey}] = fmt.Sprintf("%s, %s", strings.ToLower(fault.Name), season.Of(f.OnDate).Time().Format("2 Jan"))
		}
	}
	return g, nil
}

func indexRuns(all []StageRun) map[climbKey][]StageRun {
	index := map[climbKey][]StageRun{}
	for _, r := range all {
		k := climbKey{r.PlayerID, r.TechniqueKey}
		index[k] = append(index[k], r)
	}
	return index
}

// standing asks the core where a player is on a ladder.
func (g climbing) standing(ld teaching.Ladder, p Player) (ladder.Standing, error) {
	in := ladder.Input{AsOf: g.asOf, SeasonStart: g.actor.start(), Returning: p.Returning}
	game := ""
	for _, st := range ld.Stages {
		in.Stages = append(in.Stages, st.Gate())
		if st.Kind == teaching.Game {
			game = st.Key
		}
	}
	for _, o := range g.overrides {
		if o.PlayerID == p.ID && o.LadderKey == ld.Key && slices.ContainsFunc(ld.Stages, func(s teaching.Stage) bool { return s.Key == o.StageKey }) {
			in.Overrides = append(in.Overrides, ladder.Override{Stage: o.StageKey, On: season.Of(o.OnDate)})
		}
	}
	for _, run := range g.runs[climbKey{p.ID, ld.Technique}] {
		stage := game
		if run.DrillKey != nil {
			stage = ""
			if i := ld.StageOf(*run.DrillKey); i >= 0 {
				stage = ld.Stages[i].Key
			}
		}
		if stage == "" {
			continue
		}
		day := season.Of(run.OnDate)
		for _, r := range run.Reps {
			if v := judge(r.State, r.Assignment, r.Technique); v.graded {
				in.Reps = append(in.Reps, ladder.Rep{Date: day, Stage: stage, Clean: v.clean})
			}
		}
	}
	return ladder.Of(in)
}

// men lists the group's players as the board takes them.
func (g climbing) men(ld teaching.Ladder) ([]ladder.Man, error) {
	list := make([]ladder.Man, len(g.players))
	for i, p := range g.players {
		st, err := g.standing(ld, p)
		if err != nil {
			return nil, err
		}
		list[i] = ladder.Man{Standing: st, Available: p.Status == "available" || p.Status == "limited", Safety: g.safety[climbKey{p.ID, ld.Technique}] != ""}
	}
	return list, nil
}
