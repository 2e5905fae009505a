package players

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/ladder"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
)

// ladders is what is known of a group's players on their ladders as of a day.
type ladders struct {
	view
	runs      map[at][]record.Run
	overrides []Override
	ranges    []standing.Range
	held      map[ladder.At]ladder.SafetyFault
}

// at names a player at a technique.
type at struct {
	player    uuid.UUID
	technique string
}

// openLadders reads the season of a group, or of one of its players, on its ladders, and what else it
// is asked for in the same turn. Who is held at his contact level follows from the same marks.
func (s *Service) openLadders(ctx context.Context, c access.Coach, group string, asOf season.Date, player *uuid.UUID, more ...reading) (ladders, error) {
	l := ladders{runs: map[at][]record.Run{}}
	var faults []record.FaultDay
	v, err := s.openOn(ctx, c, group, asOf, append(more,
		func(ctx context.Context, _ view) error {
			runs, shown, err := s.Marks.Runs(ctx, group, player, c.Season.Start, asOf, max(c.Season.Start, asOf-ladder.SafetyDays+1))
			faults = shown
			for _, r := range runs {
				k := at{r.PlayerID, r.TechniqueKey}
				l.runs[k] = append(l.runs[k], r)
			}
			return err
		},
		func(ctx context.Context, _ view) error {
			d, err := s.Store.Decisions(ctx, c.Season.ID)
			l.overrides, l.ranges = d.Overrides, d.Ranges
			return err
		})...)
	if err != nil {
		return l, err
	}
	l.view, l.held = v, held(v, faults)
	return l, nil
}

// held says whose safety faults keep him from a higher contact level.
func held(v view, shown []record.FaultDay) map[ladder.At]ladder.SafetyFault {
	var faults []ladder.SafetyFault
	for _, f := range shown {
		if fault, _, ok := v.house.Known.Fault(f.Fault); ok && fault.Safety {
			x := ladder.SafetyFault{Player: f.PlayerID.String(), Technique: f.TechniqueKey, Fault: f.Fault, On: f.On}
			if f.CausedBy != nil {
				x.CausedBy = f.CausedBy.String()
			}
			faults = append(faults, x)
		}
	}
	return ladder.SafetyHolds(v.asOf, faults)
}

// standing asks the core where a player is on a ladder.
func (l ladders) standing(ld teaching.Ladder, p squad.Player) (ladder.Standing, error) {
	return ladder.Of(l.input(ld, p))
}

// input is a player's season on a ladder, as the core takes it.
func (l ladders) input(ld teaching.Ladder, p squad.Player) ladder.Input {
	in := ladder.Input{AsOf: l.asOf, SeasonStart: l.coach.Season.Start, Returning: p.Returning}
	game := ""
	for _, st := range ld.Stages {
		in.Stages = append(in.Stages, st.Gate())
		if st.Kind == teaching.Game {
			game = st.Key
		}
	}
	for _, o := range l.overrides {
		if o.PlayerID == p.ID && o.LadderKey == ld.Key && hasStage(ld, o.StageKey) {
			in.Overrides = append(in.Overrides, ladder.Override{Stage: o.StageKey, On: o.On})
		}
	}
	for _, run := range l.runs[at{p.ID, ld.Technique}] {
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
		for _, r := range run.Reps {
			if r.Graded {
				in.Reps = append(in.Reps, ladder.Rep{Date: run.On, Stage: stage, Clean: r.Clean})
			}
		}
	}
	return in
}

func hasStage(ld teaching.Ladder, key string) bool {
	return slices.ContainsFunc(ld.Stages, func(s teaching.Stage) bool { return s.Key == key })
}

// on lists the group's players as the board takes them.
func (l ladders) on(ld teaching.Ladder) ([]ladder.Player, error) {
	list := make([]ladder.Player, len(l.players))
	for i, p := range l.players {
		st, err := l.standing(ld, p)
		if err != nil {
			return nil, err
		}
		_, safety := l.held[ladder.At{Player: p.ID.String(), Technique: ld.Technique}]
		list[i] = ladder.Player{Standing: st, Available: p.Status.TakesPart(), Safety: safety}
	}
	return list, nil
}

// override words the coach's word by which a player passed a stage.
func (l ladders) override(ld teaching.Ladder, player uuid.UUID, stage teaching.Stage) *contract.Override {
	for _, o := range l.overrides {
		if o.PlayerID == player && o.LadderKey == ld.Key && o.StageKey == stage.Key {
			return &contract.Override{ID: o.ID, Stage: o.StageKey, StageName: stage.Name, Reason: o.Reason, By: o.ByName, On: o.On.String()}
		}
	}
	return nil
}

// GroupOn says where a group stands on a ladder as of a day.
func (s *Service) GroupOn(ctx context.Context, c access.Coach, group string, ld teaching.Ladder, asOf season.Date) (standing.Group, error) {
	l, err := s.openLadders(ctx, c, group, asOf, nil)
	if err != nil {
		return standing.Group{}, err
	}
	players, err := l.on(ld)
	if err != nil {
		return standing.Group{}, err
	}
	out := standing.Group{Stage: ladder.GroupStage(len(ld.Stages), players)}
	for _, p := range l.players {
		if f, ok := l.held[ladder.At{Player: p.ID.String(), Technique: ld.Technique}]; ok {
			fault, _, _ := l.house.Known.Fault(f.Fault)
			out.Held = append(out.Held, standing.Held{Player: p.ID, Why: fmt.Sprintf("%s, %s", strings.ToLower(fault.Name), f.On.Time().Format("2 Jan"))})
		}
	}
	return out, nil
}

// Climbs returns the seasons of a group's players on its ladders as of a day.
func (s *Service) Climbs(ctx context.Context, c access.Coach, group string, asOf season.Date) (standing.Climbs, error) {
	l, err := s.openLadders(ctx, c, group, asOf, nil)
	if err != nil {
		return standing.Climbs{}, err
	}
	return standing.Climbs{Players: l.players, On: func(ld teaching.Ladder) ([]standing.Climb, error) {
		list := make([]standing.Climb, len(l.players))
		for i, p := range l.players {
			in := l.input(ld, p)
			st, err := ladder.Of(in)
			if err != nil {
				return nil, err
			}
			list[i] = standing.Climb{Player: p, Season: in, Standing: st}
		}
		return list, nil
	}}, nil
}
