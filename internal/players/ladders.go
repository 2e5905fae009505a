package players

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/ladder"
	"nineyard/core/practice"
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
	group     group.Group
	runs      map[at][]record.Run
	overrides []Override
	ranges    []standing.Range
	held      map[ladder.At]ladder.SafetyFault
	heads     map[at][]season.Date      // practice days on which a shared head fault was shown
	passed    map[climb]ladder.Standing // as it was worked out for what another ladder needs
}

// climb names a player on a ladder.
type climb struct {
	player uuid.UUID
	ladder string
}

// at names a player at a technique.
type at struct {
	player    uuid.UUID
	technique string
}

// openLadders reads the season of a group, or of one of its players, on its ladders, and what else it
// is asked for in the same turn. Who is held at his contact level follows from the same marks.
func (s *Service) openLadders(ctx context.Context, c access.Coach, of string, asOf season.Date, player *uuid.UUID, more ...reading) (ladders, error) {
	l := ladders{runs: map[at][]record.Run{}, heads: map[at][]season.Date{}, passed: map[climb]ladder.Standing{}}
	l.group, _ = c.Club.Groups.Find(of)
	var faults []record.FaultDay
	v, err := s.openOn(ctx, c, of, asOf, append(more,
		func(ctx context.Context, _ view) error {
			runs, shown, err := s.Marks.Runs(ctx, of, player, c.Season.Start, asOf, c.Season.Start)
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
	l.view = v
	l.safety(faults)
	return l, nil
}

// safety works out whose safety faults keep him from a higher contact level, and on which days heads were in the wrong place.
func (l *ladders) safety(shown []record.FaultDay) {
	known := l.house.Known
	var faults []ladder.SafetyFault
	for _, f := range shown {
		key := known.Current(f.Fault)
		fault, _, ok := known.Fault(key)
		if !ok || !fault.Safety {
			continue
		}
		x := ladder.SafetyFault{Player: f.PlayerID.String(), Technique: f.TechniqueKey, Fault: key, On: f.On, Shared: fault.Shared}
		if f.CausedBy != nil {
			x.CausedBy = f.CausedBy.String()
		}
		faults = append(faults, x)
		if fault.Head() && !f.Game && x.CausedBy == "" {
			k := at{f.PlayerID, f.TechniqueKey}
			l.heads[k] = append(l.heads[k], f.On)
		}
	}
	l.held = ladder.SafetyHolds(l.asOf, faults, l.onBags())
}

// onBags counts the graded reps on bags, whatever the technique.
func (l *ladders) onBags() (out []ladder.BagReps) {
	for k, runs := range l.runs {
		for _, run := range runs {
			if run.DrillKey == nil {
				continue
			}
			if d, ok := l.house.Known.Drill(*run.DrillKey); !ok || d.Contact != practice.Bag.String() {
				continue
			}
			n := 0
			for _, r := range run.Reps {
				if r.Graded {
					n++
				}
			}
			out = append(out, ladder.BagReps{Player: k.player.String(), On: run.On, N: n})
		}
	}
	return out
}

// heldAt returns the fault that keeps a player from a higher contact level of a technique.
func (l ladders) heldAt(player uuid.UUID, technique string) (ladder.SafetyFault, bool) {
	if f, ok := l.held[ladder.At{Player: player.String(), Technique: technique}]; ok {
		return f, true
	}
	t, _ := l.house.Known.Technique(technique)
	for _, f := range t.Faults {
		if f.Shared {
			if x, ok := l.held[ladder.At{Player: player.String(), Fault: f.Key}]; ok {
				return x, true
			}
		}
	}
	return ladder.SafetyFault{}, false
}

// standing asks the core where a player is on a ladder.
func (l ladders) standing(ld teaching.Ladder, p squad.Player) (ladder.Standing, error) {
	k := climb{p.ID, ld.Key}
	if st, ok := l.passed[k]; ok {
		return st, nil
	}
	l.passed[k] = ladder.Standing{} // what needs itself is closed: it goes in no circle
	st, err := ladder.Of(l.input(ld, p))
	if err != nil {
		delete(l.passed, k)
		return st, err
	}
	l.passed[k] = st
	return st, nil
}

// need is something on another ladder that must be passed first.
type need struct {
	technique teaching.Technique
	stage     string // its name; empty: the whole ladder
	passed    bool
	on        season.Date // when it was, meaningful when passed
}

// needs are what a player must have passed before a stage: what the stage names and, before the first, what its ladder does.
func (l ladders) needs(ld teaching.Ladder, i int, p squad.Player) (out []need) {
	steps := ld.Stages[i].Needs
	if i == 0 {
		steps = slices.Concat(ld.Needs, steps)
	}
	for _, step := range steps {
		technique, key := teaching.Needs(step)
		t, ok := l.house.Library.Technique(technique)
		other, climbs := l.house.Library.LadderOf(technique)
		if !ok || !climbs {
			continue // it is not taught here
		}
		n := need{technique: t}
		st, err := l.standing(other, p)
		if err != nil {
			continue
		}
		for j, s := range st.Stages {
			if key == "" || s.Key == key {
				n.passed, n.on = s.Passed, s.PassedOn
				if key != "" {
					n.stage = other.Stages[j].Name
				}
			}
		}
		if key == "" {
			n.passed = st.Done
		}
		out = append(out, n)
	}
	return out
}

// input is a player's season on a ladder, as the core takes it.
func (l ladders) input(ld teaching.Ladder, p squad.Player) ladder.Input {
	in := ladder.Input{AsOf: l.asOf, SeasonStart: l.coach.Season.Start, Returning: p.Returning}
	game := ""
	for i, st := range ld.Stages {
		g := st.Gate()
		for _, n := range l.needs(ld, i, p) {
			g.Closed = g.Closed || !n.passed
			g.Opens = max(g.Opens, n.on)
		}
		in.Stages = append(in.Stages, g)
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
		head := run.DrillKey != nil && slices.Contains(l.heads[at{p.ID, ld.Technique}], run.On)
		for _, r := range run.Reps {
			if r.Graded {
				in.Reps = append(in.Reps, ladder.Rep{Date: run.On, Stage: stage, Clean: r.Clean, Head: head})
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
		_, safety := l.heldAt(p.ID, ld.Technique)
		list[i] = ladder.Player{Standing: st, Available: p.Status.TakesPart(), Safety: safety, Elsewhere: !l.plays(p, ld.Technique)}
	}
	return list, nil
}

// plays reports whether a technique is of the player's place.
func (l ladders) plays(p squad.Player, technique string) bool {
	t, _ := l.house.Library.Technique(technique)
	return l.group.Plays(p.Position, t.Places)
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
		if f, ok := l.heldAt(p.ID, ld.Technique); ok {
			fault, _, _ := l.house.Known.Fault(f.Fault)
			out.Held = append(out.Held, standing.Held{Player: p.ID, Why: fmt.Sprintf("%s, %s", strings.ToLower(fault.Name), f.On.Time().Format("2 Jan")), Most: fault.Most()})
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
