package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// putting is what is known while a drill is put into a group's next practice.
type putting struct {
	coach     access.Coach
	house     *house.House
	group     string
	next      script.Next
	players   []squad.Player // of the group on the day of that practice
	att       crew.Attendance
	drill     teaching.Drill
	technique string // what its reps are marked as
}

// Fix puts the drill that trains a fault away into the group's next practice. The id
// is the client's; sending it again answers the same and changes nothing.
func (s *Service) Fix(ctx context.Context, c access.Coach, group string, id uuid.UUID, fault string) (contract.Fix, error) {
	if _, err := c.Group(group); err != nil {
		return contract.Fix{}, err
	}
	if !c.MayWork(group) {
		return contract.Fix{}, problem.ErrForbidden
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Fix{}, err
	}
	// A shared fault is worked on at the first of the group's techniques that it belongs to.
	taught := h.Library.ForGroup(group)
	_, technique, ok := taught.Fault(fault)
	if !ok {
		return contract.Fix{}, invalid.Field("fault", "there is no fault %q for this group", fault)
	}
	p := putting{coach: c, house: h, group: group, technique: technique.Key}
	reached := -1
	if ld, ok := h.Library.LadderOf(technique.Key); ok {
		at, err := s.Standings.GroupOn(ctx, c, group, ld, c.Today(s.Now()))
		if err != nil {
			return contract.Fix{}, err
		}
		reached = at.Stage
	}
	if p.drill, ok = taught.DrillFor(fault, reached); !ok {
		return contract.Fix{}, invalid.Field("fault", "no drill works on it yet")
	}
	if err := s.readNext(ctx, &p); err != nil {
		return contract.Fix{}, err
	}
	return s.place(ctx, p, id)
}

// readNext reads the next practice with a period of the group's own, and who is there.
func (s *Service) readNext(ctx context.Context, p *putting) error {
	next, found, err := s.Store.Next(ctx, p.coach.Season.ID, p.group, p.coach.Today(s.Now()))
	if err != nil {
		return err
	}
	if !found {
		return ErrNoPractice
	}
	p.next = next
	p.players, err = s.Squad.Group(ctx, p.group, next.Practice.On)
	p.att, _ = squad.Attendance(p.players)
	return err
}

// place puts the drill into the first of the group's own periods that has room, or can
// make it.
func (s *Service) place(ctx context.Context, p putting, id uuid.UUID) (contract.Fix, error) {
	out := contract.Fix{Practice: script.Ref(p.next.Practice), PlacementID: id, Drill: p.drill.Name, Shortened: []contract.Shortened{}}
	if again, done, err := s.again(ctx, p, out); done || err != nil {
		return again, err
	}
	for _, e := range p.next.Periods {
		e, found, err := s.Store.Period(ctx, e.ID) // held for writing
		if err != nil {
			return out, err
		}
		if !found || !e.Own(p.group) {
			continue
		}
		places := make([]practice.Placement, len(e.Placements))
		for i, x := range e.Placements {
			places[i] = practice.Placement{Start: x.Start, Minutes: x.Minutes}
		}
		fitted, cuts, err := practice.Fit(e.Minutes, places, p.drill.Minutes, p.drill.MinMinutes, practice.KeepMinutes)
		if err != nil {
			continue // full; the next own period may have room
		}
		before := slices.Clone(e.Placements)
		for i := range e.Placements {
			e.Placements[i].Start, e.Placements[i].Minutes = fitted[i].Start, fitted[i].Minutes
		}
		for _, x := range cuts {
			d, _ := p.house.Library.Drill(e.Placements[x.Index].DrillKey)
			out.Shortened = append(out.Shortened, contract.Shortened{Drill: d.Name, From: x.From, To: x.To})
		}
		added := fitted[len(fitted)-1]
		out.Minutes = added.Minutes
		wanted := append(e.Placements, script.Placement{ID: id, Group: p.group, DrillKey: p.drill.Key, TechniqueKey: p.technique, Start: added.Start, Minutes: added.Minutes, Lanes: p.drill.Lanes})
		out.PutIn, err = s.putIn(ctx, p, e, before, wanted)
		return out, err
	}
	return out, invalid.Field("fault", "no room for %d minutes of %s: the individual period is full", p.drill.MinMinutes, p.drill.Name)
}

// putIn saves what a period shall hold, and says what stood there, so that it can be put back.
func (s *Service) putIn(ctx context.Context, p putting, e script.Period, before, after []script.Placement) (*contract.PutIn, error) {
	saved, err := s.save(ctx, p.coach, p.house, e, p.group, after, p.att)
	if err != nil {
		return nil, err
	}
	return &contract.PutIn{PeriodID: e.ID, Group: p.group, Version: saved.Version, Before: inputs(before), After: inputs(after)}, nil
}

// inputs is the reverse of placements.
func inputs(list []script.Placement) []contract.PlacementInput {
	out := make([]contract.PlacementInput, len(list))
	for i, x := range list {
		out[i] = contract.PlacementInput{ID: x.ID, Group: &list[i].Group, Drill: x.DrillKey, Technique: &list[i].TechniqueKey, Cards: order(x), Start: x.Start, Minutes: x.Minutes, Lanes: x.Lanes}
	}
	return out
}

// order is the order of a drill's cards that is its own; nil where it is the library's.
func order(p script.Placement) *[]string {
	if p.Cards == "" {
		return nil
	}
	return new(strings.Fields(p.Cards))
}

// again answers a request that was sent before: the placement with its id stands already.
func (s *Service) again(ctx context.Context, p putting, out contract.Fix) (contract.Fix, bool, error) {
	done, err := s.Store.Placed(ctx, []uuid.UUID{out.PlacementID})
	if err != nil || len(done) == 0 {
		return out, false, err
	}
	if d, ok := p.house.Library.Drill(done[0].DrillKey); ok {
		out.Drill = d.Name
	}
	out.Minutes = done[0].Minutes
	there, _, err := s.Store.Practice(ctx, done[0].PracticeID)
	out.Practice = script.Ref(there)
	return out, true, err
}

// MoveLadder moves the group's next practice to the stage the group is at: the drill of
// that stage takes the place of the ladder's drill that stands there, or is put in.
func (s *Service) MoveLadder(ctx context.Context, c access.Coach, group, key string, id uuid.UUID) (contract.Move, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.Move{}, err
	}
	ld, ok := h.Library.Ladder(key)
	t, _ := h.Library.Technique(ld.Technique)
	if !ok || !t.Taught(group) {
		return contract.Move{}, problem.ErrNotFound
	}
	if !c.MayWork(group) {
		return contract.Move{}, problem.ErrForbidden
	}
	today := c.Today(s.Now())
	at, err := s.Standings.GroupOn(ctx, c, group, ld, today)
	if err != nil {
		return contract.Move{}, err
	}
	p := putting{coach: c, house: h, group: group, technique: ld.Technique}
	if err := s.readNext(ctx, &p); err != nil {
		return contract.Move{}, err
	}
	stage, found := p.drillAt(ld, at.Stage)
	if !found {
		return contract.Move{}, invalid.Field("ladder", "no drill of %s can be run with the players there are", ld.Name)
	}
	out := contract.Move{Practice: script.Ref(p.next.Practice), PlacementID: id, Stage: stage.Name, Drill: p.drill.Name, Shortened: []contract.Shortened{}, KeepOut: []string{}}
	named := squad.ByID(p.players)
	contact, err := practice.ParseContact(p.drill.Contact)
	for _, x := range at.Held {
		if who, ok := named[x.Player]; ok && (err != nil || contact > x.Most) {
			out.KeepOut = append(out.KeepOut, fmt.Sprintf("%s %s (%s)", who.Jersey, who.LastName, x.Why))
		}
	}
	return out, s.move(ctx, p, ld, &out)
}

// drillAt chooses the drill of a stage, or of the nearest one below it, that the players
// there are can run. The game itself is no drill: before it the group stage is drilled.
func (p *putting) drillAt(ld teaching.Ladder, at int) (teaching.Stage, bool) {
	for i := at; i >= 0; i-- {
		for _, k := range ld.Stages[i].DrillsOf(p.group) {
			d, ok := p.house.Library.Drill(k)
			if crew := p.att.For(d); ok && crew.Full >= d.Working && crew.All() >= d.Working+d.Helping() {
				p.drill = d
				return ld.Stages[i], true
			}
		}
	}
	return teaching.Stage{}, false
}

func (s *Service) move(ctx context.Context, p putting, ld teaching.Ladder, out *contract.Move) error {
	for _, e := range p.next.Periods {
		e, found, err := s.Store.Period(ctx, e.ID)
		if err != nil {
			return err
		}
		drills := e.Of(p.group)
		for i, pl := range drills {
			d, _ := p.house.Known.Drill(pl.DrillKey)
			if !found || p.house.MarkedAs(pl.TechniqueKey, d).Key != ld.Technique || pl.Marks > 0 || ld.StageOf(pl.DrillKey) < 0 {
				continue
			}
			out.PlacementID, out.Minutes = pl.ID, pl.Minutes
			if pl.DrillKey == p.drill.Key {
				out.Already = true
				return nil
			}
			out.Replaced = d.Name
			before := slices.Clone(drills)
			x := &drills[i]
			x.DrillKey, x.TechniqueKey, x.Cards, x.Lanes = p.drill.Key, ld.Technique, "", p.drill.Lanes
			out.PutIn, err = s.putIn(ctx, p, e, before, drills)
			return err
		}
	}
	fix, err := s.place(ctx, p, out.PlacementID)
	out.Minutes, out.Shortened, out.PutIn = fix.Minutes, fix.Shortened, fix.PutIn
	return err
}
