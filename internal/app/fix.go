package app

import (
	"context"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/ladder"
	"nineyard/core/marks"
	"nineyard/core/practice"
	"nineyard/core/season"
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
	_, technique, ok := s.Library.Fault(fault)
	if !ok || technique.Group != group {
		return contract.Fix{}, invalid.Field("fault", "there is no fault %q for this group", fault)
	}
	drill, err := s.drillFor(ctx, a, group, technique.Key, fault)
	if err != nil {
		return contract.Fix{}, err
	}
	p, err := s.Store.NextPractice(ctx, a.ClubID, a.SeasonID, group, s.today(a).Time())
	if err != nil {
		return contract.Fix{}, err
	}
	out := contract.Fix{Practice: practiceRef(p), PlacementID: id, Drill: drill.Name, Shortened: []contract.Shortened{}}
	err = s.Store.InTx(ctx, func(tx Store) error { return s.place(ctx, tx, a, group, p, drill, &out) })
	return out, err
}

// drillFor chooses the drill by the stage most of the group has reached.
func (s *Service) drillFor(ctx context.Context, a Actor, group, technique, fault string) (teaching.Drill, error) {
	players, err := s.Store.Players(ctx, a.ClubID, group)
	if err != nil {
		return teaching.Drill{}, err
	}
	today := s.today(a)
	stageReps, err := s.Store.StageReps(ctx, a.ClubID, group, nil, a.SeasonStart, today.Time())
	if err != nil {
		return teaching.Drill{}, err
	}
	reached := s.groupStage(a, technique, players, stageReps, today)
	d, ok := s.Library.DrillFor(fault, reached)
	if !ok {
		return teaching.Drill{}, invalid.Field("fault", "no drill works on it yet")
	}
	return d, nil
}

// groupStage is the highest stage that at least half of the available men work on or
// have passed; −1 when the technique has no ladder.
func (s *Service) groupStage(a Actor, technique string, players []Player, stageReps []StageRep, asOf season.Date) int {
	ld, ok := s.Library.LadderOf(technique)
	if !ok {
		return -1
	}
	at := make([]int, len(ld.Stages)+1)
	men := 0
	for _, p := range players {
		if p.Status != "available" && p.Status != "limited" {
			continue
		}
		standing, err := s.standing(a, ld, p, stageReps, asOf)
		if err != nil {
			continue
		}
		men++
		n := 0
		for n < len(standing.Stages) && standing.Stages[n].Passed {
			n++
		}
		at[n]++
	}
	behind := 0
	for i := len(at) - 1; i > 0; i-- {
		behind += at[i]
		if 2*behind >= men && men > 0 {
			return min(i, len(ld.Stages)-1)
		}
	}
	return 0
}

// standing asks the core where a player is on a ladder, from the group's marks.
func (s *Service) standing(a Actor, ld teaching.Ladder, p Player, all []StageRep, asOf season.Date) (ladder.Standing, error) {
	in := ladder.Input{AsOf: asOf, SeasonStart: a.start(), Returning: p.Returning}
	game := ""
	stageOf := map[string]string{}
	for _, st := range ld.Stages {
		in.Stages = append(in.Stages, st.Gate())
		if st.Game {
			game = st.Key
		}
		for _, k := range st.Drills {
			if _, ok := stageOf[k]; !ok {
				stageOf[k] = st.Key
			}
		}
	}
	scheme := marks.House()
	for _, r := range all {
		if r.PlayerID != p.ID || r.TechniqueKey != ld.Technique {
			continue
		}
		stage := game
		if r.DrillKey != nil {
			stage = stageOf[*r.DrillKey]
		}
		v := scheme.Judge(mark(r.State, r.Assignment, r.Technique, nil))
		if stage == "" || !v.Graded {
			continue
		}
		in.Reps = append(in.Reps, ladder.Rep{Date: season.Of(r.OnDate), Stage: stage, Clean: v.Clean})
	}
	return ladder.Of(in)
}

// place puts the drill into the first of the group's own periods of the practice that
// has room, or can make it.
func (s *Service) place(ctx context.Context, tx Store, a Actor, group string, p Practice, drill teaching.Drill, out *contract.Fix) error {
	if done, err := tx.PlacementsByID(ctx, a.ClubID, []uuid.UUID{out.PlacementID}); err != nil {
		return err
	} else if len(done) > 0 { // sent again
		if d, ok := s.Library.Drill(done[0].DrillKey); ok {
			out.Drill = d.Name
		}
		out.Minutes = done[0].Minutes
		again, err := tx.Practice(ctx, a.ClubID, done[0].PracticeID)
		out.Practice = practiceRef(again)
		return err
	}
	players, err := tx.Players(ctx, a.ClubID, group)
	if err != nil {
		return err
	}
	att, _ := attendance(players)
	periods, err := tx.Periods(ctx, a.ClubID, p.ID)
	if err != nil {
		return err
	}
	for _, e := range periods {
		if !own(e, group) {
			continue
		}
		if e, err = tx.Period(ctx, a.ClubID, e.ID, true); err != nil {
			return err
		}
		current, err := tx.PeriodPlacements(ctx, a.ClubID, e.ID)
		if err != nil {
			return err
		}
		places := make([]practice.Placement, len(current))
		for i, c := range current {
			places[i] = practice.Placement{Start: c.Start, Minutes: c.Minutes}
		}
		fitted, cuts, err := practice.Fit(e.Minutes, places, drill.Minutes, drill.MinMinutes, keepMinutes)
		if err != nil {
			continue // full; the next own period may have room
		}
		for i := range current {
			current[i].Start, current[i].Minutes = fitted[i].Start, fitted[i].Minutes
		}
		for _, c := range cuts {
			d, _ := s.Library.Drill(current[c.Index].DrillKey)
			out.Shortened = append(out.Shortened, contract.Shortened{Drill: d.Name, From: c.From, To: c.To})
		}
		added := fitted[len(fitted)-1]
		out.Minutes = added.Minutes
		current = append(current, Placement{ID: out.PlacementID, DrillKey: drill.Key, Start: added.Start, Minutes: added.Minutes, Lanes: drill.Lanes})
		_, err = s.savePeriod(ctx, tx, a, e, current, att)
		return err
	}
	return invalid.Field("fault", "no room for %d minutes of %s: the individual period is full", drill.MinMinutes, drill.Name)
}
