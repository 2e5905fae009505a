package mark

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/marks"
	"nineyard/core/standard"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Sheet returns the sheet for marking the reps of a placed drill.
func (s *Service) Sheet(ctx context.Context, c access.Coach, placement uuid.UUID) (contract.MarkSheet, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	placed, err := s.Plans.Placed(ctx, []uuid.UUID{placement})
	if err != nil {
		return contract.MarkSheet{}, err
	}
	if len(placed) == 0 {
		return contract.MarkSheet{}, problem.ErrNotFound
	}
	p := placed[0]
	d, ok := h.Known.Drill(p.DrillKey)
	technique := h.MarkedAs(p.TechniqueKey, d)
	if !ok || technique.Key == "" {
		return contract.MarkSheet{}, problem.ErrNotFound
	}
	players, err := s.Squad.Group(ctx, p.Group, p.On)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	existing, err := s.Store.OfPlacement(ctx, placement)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	judging, err := s.Store.House(ctx)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	ranges, err := s.Ranges.Ranges(ctx)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	att, _ := squad.Attendance(players)
	_, y, _ := crew.Planned(d, att, p.Minutes, p.Lanes)
	sheet := contract.MarkSheet{Judged: judged(judging.For(p.Group)), PlacementID: p.ID, PracticeID: p.PracticeID, Drill: d.Name, Technique: technique.Key, TechniqueName: technique.Name,
		Date: p.On.String(), PlannedReps: y.PerPlayer.Max, Sides: d.Sides, Watch: &d.Watch, Players: []contract.Player{},
		Faults: faults(technique), Measures: standing.Standards(technique, uuid.Nil, nil), Own: own(h, technique, ranges), Marks: []contract.Mark{}}
	marked := map[uuid.UUID]bool{}
	for _, m := range existing {
		if m.TechniqueKey != technique.Key && slices.Contains(d.Techniques, m.TechniqueKey) {
			continue // another technique that the drill shows: a sheet is of one
		}
		marked[m.PlayerID] = true
		sheet.Marks = append(sheet.Marks, view(m))
		sheet.PlannedReps = max(sheet.PlannedReps, *m.Rep)
	}
	full, _ := squad.Crew(players, d)
	working := squad.ByID(full)
	for _, x := range players {
		if _, ok := working[x.ID]; ok || marked[x.ID] {
			sheet.Players = append(sheet.Players, squad.View(x))
		}
	}
	return sheet, nil
}

// faults lists the faults of a technique in the library's order, the most important first;
// the screen gives them their letters.
func faults(t teaching.Technique) []contract.SheetFault {
	list := []contract.SheetFault{}
	for _, f := range t.Faults {
		list = append(list, contract.SheetFault{Key: f.Key, Name: f.Name, Safety: f.Safety, Severity: f.Severity})
	}
	return list
}

// own lists the players' own ranges at a technique.
func own(h *house.House, technique teaching.Technique, ranges []standing.Range) []contract.SheetRange {
	list := []contract.SheetRange{}
	for _, x := range ranges {
		c, t, ok := h.Library.Checkpoint(x.Checkpoint)
		if m, by := standing.For(c, x.PlayerID, ranges); ok && by != nil && t.Key == technique.Key {
			list = append(list, contract.SheetRange{PlayerID: x.PlayerID, Checkpoint: c.Key, Measure: m})
		}
	}
	return list
}

// view words a mark.
func view(m record.Detail) contract.Mark {
	v := contract.Mark{ID: m.ID, PlayerID: m.PlayerID, State: contract.MarkState(m.State), Assignment: m.Assignment,
		Technique: m.Technique, Finish: m.Finish, Praise: m.Praise, Note: m.Note, Side: m.Side, Result: m.Result, Asked: m.Asked, By: &m.By, Faults: []contract.MarkFault{}, Measures: []contract.MarkMeasure{}}
	for _, x := range m.Measures {
		v.Measures = append(v.Measures, contract.MarkMeasure{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: contract.MarkMeasureVerdict(x.Verdict)})
	}
	v.Tallies = record.TallyViews(m.Tallies)
	if m.Grade != nil {
		v.Grade, v.GradeOf, v.GradeClean = &m.Grade.Value, &m.Grade.Of, &m.Grade.CleanAt
	}
	if box, ok := marks.BoxOf(m.Verdict, m.Result); ok {
		v.Box = new(contract.MarkBox(box))
	}
	if m.Rep != nil {
		v.Rep = *m.Rep
	}
	for _, f := range m.Faults {
		view := contract.MarkFault{Key: f.Key}
		if f.CausedBy != "" {
			view.CausedBy = &f.CausedBy
		}
		if f.Penalty {
			view.Penalty = &f.Penalty
		}
		v.Faults = append(v.Faults, view)
	}
	return v
}

// faulty reports whether a measured value is a fault.
func faulty(m record.Measured) bool { return standard.Verdict(m.Verdict).Faulty() }
