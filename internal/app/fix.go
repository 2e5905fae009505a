package app

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/practice"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// keepMinutes is the least a drill is shortened to when room is made for another.
const keepMinutes = 3

// Fix puts the drill that trains a fault away into the group's next practice. The id
// is the client's; sending it again answers the same and changes nothing.
func (s *Service) Fix(ctx context.Context, a Actor, group string, id uuid.UUID, fault string) (contract.Fix, error) {
	if _, _, err := s.group(ctx, a, group); err != nil {
		return contract.Fix{}, err
	}
	if !a.mayEdit(group) {
		return contract.Fix{}, ErrForbidden
	}
	_, technique, ok := a.lib().Fault(fault)
	if !ok || !technique.Taught(group) {
		return contract.Fix{}, invalid.Field("fault", "there is no fault %q for this group", fault)
	}
	drill, err := s.drillFor(ctx, a, group, technique, fault)
	if err != nil {
		return contract.Fix{}, err
	}
	p, err := s.nextOwn(ctx, a, group)
	if err != nil {
		return contract.Fix{}, err
	}
	out := contract.Fix{Practice: practiceRef(p), PlacementID: id, Drill: drill.Name, Shortened: []contract.Shortened{}}
	err = s.Store.InTx(ctx, func(tx Store) error { return s.place(ctx, tx, a, group, p, drill, technique.Key, &out) })
	return out, err
}

// drillFor chooses the drill by the stage most of the group has reached.
func (s *Service) drillFor(ctx context.Context, a Actor, group string, technique teaching.Technique, fault string) (teaching.Drill, error) {
	reached := -1
	if ld, ok := a.lib().LadderOf(technique.Key); ok {
		g, err := s.climb(ctx, a, group, s.today(a))
		if err != nil {
			return teaching.Drill{}, err
		}
		men, err := g.men(ld)
		if err != nil {
			return teaching.Drill{}, err
		}
		reached = ladder.GroupStage(len(ld.Stages), men)
	}
	d, ok := a.lib().DrillFor(fault, reached)
	if !ok {
		return teaching.Drill{}, invalid.Field("fault", "no drill works on it yet")
	}
	return d, nil
}

// place puts the drill into the first of the group's own periods of the practice that
// has room, or can make it.
func (s *Service) place(ctx context.Context, tx Store, a Actor, group string, p Practice, drill teaching.Drill, technique string, out *contract.Fix) error {
	if done, err := tx.PlacementsByID(ctx, a.ClubID, []uuid.UUID{out.PlacementID}); err != nil {
		return err
	} else if len(done) > 0 { // sent again
		if d, ok := a.lib().Drill(done[0].DrillKey); ok {
			out.Drill = d.Name
		}
		out.Minutes = done[0].Minutes
		again, err := tx.Practice(ctx, a.ClubID, done[0].PracticeID)
		out.Practice = practiceRef(again)
		return err
	}
	done, err := eachOwn(ctx, tx, a, p, group, func(e Period, current []Placement) (bool, error) {
		places := make([]practice.Placement, len(current))
		for i, c := range current {
			places[i] = practice.Placement{Start: c.Start, Minutes: c.Minutes}
		}
		fitted, cuts, err := practice.Fit(e.Minutes, places, drill.Minutes, drill.MinMinutes, keepMinutes)
		if err != nil {
			return false, nil // full; the next own period may have room
		}
		for i := range current {
			current[i].Start, current[i].Minutes = fitted[i].Start, fitted[i].Minutes
		}
		for _, c := range cuts {
			d, _ := a.lib().Drill(current[c.Index].DrillKey)
			out.Shortened = append(out.Shortened, contract.Shortened{Drill: d.Name, From: c.From, To: c.To})
		}
		added := fitted[len(fitted)-1]
		out.Minutes = added.Minutes
		current = append(current, Placement{ID: out.PlacementID, DrillKey: drill.Key, TechniqueKey: technique, Start: added.Start, Minutes: added.Minutes, Lanes: drill.Lanes})
		return true, s.rewrite(ctx, tx, a, e, group, current)
	})
	if done || err != nil {
		return err
	}
	return invalid.Field("fault", "no room for %d minutes of %s: the individual period is full", drill.MinMinutes, drill.Name)
}

// nextOwn finds the next practice with a period of the group's own.
func (s *Service) nextOwn(ctx context.Context, a Actor, group string) (Practice, error) {
	p, err := s.Store.NextPractice(ctx, a.ClubID, a.SeasonID, group, s.today(a).Time())
	if errors.Is(err, ErrNotFound) {
		return p, ErrNoPractice
	}
	return p, err
}
