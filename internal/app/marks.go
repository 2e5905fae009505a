package app

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// MarkSheet returns the sheet for marking the reps of a placed drill.
func (s *Service) MarkSheet(ctx context.Context, a Actor, placement uuid.UUID) (contract.MarkSheet, error) {
	placed, err := s.Store.PlacementsByID(ctx, a.ClubID, []uuid.UUID{placement})
	if err != nil {
		return contract.MarkSheet{}, err
	}
	if len(placed) == 0 {
		return contract.MarkSheet{}, ErrNotFound
	}
	p := placed[0]
	d, ok := a.House.Known.Drill(p.DrillKey)
	technique := a.markedAs(p.Placement, d)
	if !ok || technique.Key == "" {
		return contract.MarkSheet{}, ErrNotFound
	}
	players, err := s.Store.Players(ctx, a.ClubID, p.GroupKey)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	existing, err := s.Store.PlacementMarks(ctx, a.ClubID, placement)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	exceptions, err := s.Store.Exceptions(ctx, a.ClubID)
	if err != nil {
		return contract.MarkSheet{}, err
	}
	att, _ := attendance(players)
	_, y, _ := d.Planned(att, p.Minutes, p.Lanes)
	sheet := contract.MarkSheet{PlacementID: p.ID, PracticeID: p.PracticeID, Drill: d.Name, Technique: technique.Key, TechniqueName: technique.Name,
		Date: season.Of(p.OnDate).String(), PlannedReps: y.PerPlayer.Max, Sides: d.Sides, Watch: ptr(d.Watch), Players: []contract.Player{},
		Faults: faultKeys(technique), Measures: a.standardsOf(technique, uuid.Nil, nil), Own: []contract.PlayerMeasure{}, Marks: []contract.Mark{}}
	for _, x := range exceptions {
		c, t, ok := a.lib().Checkpoint(x.CheckpointKey)
		if m, own := a.measureFor(c, x.PlayerID, exceptions); ok && own != nil && t.Key == technique.Key {
			sheet.Own = append(sheet.Own, contract.PlayerMeasure{PlayerID: x.PlayerID, Checkpoint: c.Key, Measure: measureView(m)})
		}
	}
	marked := map[uuid.UUID]bool{}
	for _, m := range existing {
		marked[m.PlayerID] = true
		sheet.Marks = append(sheet.Marks, markView(m))
		sheet.PlannedReps = max(sheet.PlannedReps, *m.Rep)
	}
	taking := playersByID(takingPart(players, d))
	for _, m := range players {
		if _, ok := taking[m.ID]; ok || marked[m.ID] {
			sheet.Players = append(sheet.Players, playerView(m))
		}
	}
	return sheet, nil
}

func faultKeys(t teaching.Technique) []contract.FaultKey {
	names := make([]string, len(t.Faults))
	for i, f := range t.Faults {
		names[i] = f.Name
	}
	keys := []contract.FaultKey{}
	for i, letter := range marks.FaultKeys(names) {
		f := t.Faults[i]
		keys = append(keys, contract.FaultKey{Key: f.Key, Letter: letter, Name: f.Name, Safety: f.Safety, Severity: f.Severity})
	}
	return keys
}

func markView(m MarkDetail) contract.Mark {
	v := contract.Mark{ID: m.ID, PlayerID: m.PlayerID, State: contract.MarkState(m.State), Assignment: m.Assignment,
		Technique: m.Technique, Finish: m.Finish, Praise: m.Praise, Note: m.Note, Side: m.Side, By: ptr(m.ByName), Faults: []contract.MarkFault{}, Measures: []contract.MarkMeasure{}}
	for _, x := range measuresOf(m.Measures) {
		v.Measures = append(v.Measures, contract.MarkMeasure{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: contract.MarkMeasureVerdict(x.Verdict)})
	}
	if m.Rep != nil {
		v.Rep = *m.Rep
	}
	for _, f := range faultsOf(m.Faults) {
		view := contract.MarkFault{Key: f.Key}
		if f.CausedBy != "" {
			view.CausedBy = ptr(f.CausedBy)
		}
		v.Faults = append(v.Faults, view)
	}
	return v
}

// faultsOf reads the faults of a stored mark; the column holds what this package wrote.
func faultsOf(raw json.RawMessage) []Fault {
	var list []Fault
	_ = json.Unmarshal(raw, &list)
	return list
}

func measuresOf(raw json.RawMessage) []Measured {
	var list []Measured
	_ = json.Unmarshal(raw, &list)
	return list
}

// PostMarks records marks. It refuses the whole batch when one is wrong, so that the
// client never has to guess which were kept.
func (s *Service) PostMarks(ctx context.Context, a Actor, in []contract.MarkInput) ([]uuid.UUID, error) {
	placementIDs := map[uuid.UUID]bool{}
	for _, m := range in {
		placementIDs[m.PlacementID] = true
	}
	wanted := make([]uuid.UUID, 0, len(placementIDs))
	for id := range placementIDs {
		wanted = append(wanted, id)
	}
	placed, err := s.Store.PlacementsByID(ctx, a.ClubID, wanted)
	if err != nil {
		return nil, err
	}
	all, err := s.Store.AllPlayers(ctx, a.ClubID)
	if err != nil {
		return nil, err
	}
	exceptions, err := s.Store.Exceptions(ctx, a.ClubID)
	if err != nil {
		return nil, err
	}
	c := markCheck{service: s, actor: a, exceptions: exceptions, players: playersByID(all), today: s.today(a),
		placements: ids(placed, func(p PlacementOn) uuid.UUID { return p.ID })}
	events := make([]MarkEvent, len(in))
	saved := make([]uuid.UUID, len(in))
	for i, m := range in {
		e, err := c.event(m)
		if err != nil {
			return nil, invalid.Within(fmt.Sprintf("marks[%d]", i), err)
		}
		events[i], saved[i] = e, e.ID
	}
	return saved, s.Store.AddMarks(ctx, events)
}

// markCheck turns inputs into events, refusing what does not fit.
type markCheck struct {
	service    *Service
	actor      Actor
	today      season.Date
	players    map[uuid.UUID]Player
	exceptions []Exception
	placements map[uuid.UUID]PlacementOn
}

func (c markCheck) event(m contract.MarkInput) (MarkEvent, error) {
	p, ok := c.placements[m.PlacementID]
	if !ok {
		return MarkEvent{}, ErrNotFound
	}
	if !c.actor.mayEdit(p.GroupKey) {
		return MarkEvent{}, ErrForbidden
	}
	if day := season.Of(p.OnDate); day > c.today {
		return MarkEvent{}, invalid.Field("placement_id", "the practice is on %s; its reps can be marked from that day", day)
	}
	player, ok := c.players[m.PlayerID]
	if !ok {
		return MarkEvent{}, invalid.Field("player_id", "there is no such player in this club")
	}
	if player.Status == "medical_hold" && m.State != contract.MarkInputStateWithdrawn {
		return MarkEvent{}, invalid.Field("player_id", "%s is on medical hold and takes no reps", player.LastName)
	}
	d, ok := c.actor.House.Known.Drill(p.DrillKey)
	technique := c.actor.markedAs(p.Placement, d)
	if !ok || technique.Key == "" {
		return MarkEvent{}, invalid.Field("placement_id", "the drill is no longer in the library")
	}
	e := MarkEvent{ID: m.ID, ClubID: c.actor.ClubID, PlayerID: m.PlayerID, PlacementID: ptr(m.PlacementID), Rep: ptr(m.Rep),
		TechniqueKey: technique.Key, State: string(m.State), Standard: c.actor.House.Version, CreatedBy: ptr(c.actor.UserID), CreatedAt: c.service.Clock()}
	if m.Note != nil {
		e.Note = *m.Note
	}
	if m.Praise != nil {
		e.Praise = *m.Praise
	}
	if m.Side != nil {
		e.Side = ptr(string(*m.Side))
	}
	return e, c.judge(&e, m, technique)
}

// judge fills in facets and faults. Only a mark that was looked at can have faults;
// an assumed one is clean by definition and the others judge nothing.
func (c markCheck) judge(e *MarkEvent, m contract.MarkInput, technique teaching.Technique) error {
	e.Faults, e.Measures = json.RawMessage("[]"), json.RawMessage("[]")
	looked := m.State == contract.MarkInputStateLooked
	if !looked && m.Faults != nil && len(*m.Faults) > 0 {
		return invalid.Field("faults", "only a rep that was looked at can show a fault")
	}
	if !looked && m.Measures != nil && len(*m.Measures) > 0 {
		return invalid.Field("measures", "only a rep that was looked at can be measured")
	}
	if !looked && m.State != contract.MarkInputStateAssumed {
		return nil
	}
	var faults []marks.Fault
	stored := []Fault{}
	if m.Faults != nil {
		for i, f := range *m.Faults {
			if !hasFault(technique, f.Key) {
				return invalid.Field(fmt.Sprintf("faults[%d].key", i), "%q is not a fault of %s", f.Key, technique.Name)
			}
			fault := Fault{Key: f.Key}
			if f.CausedBy != nil {
				if _, ok := c.players[*f.CausedBy]; !ok || *f.CausedBy == e.PlayerID {
					return invalid.Field(fmt.Sprintf("faults[%d].caused_by", i), "the cause must be a teammate")
				}
				fault.CausedBy = f.CausedBy.String()
			}
			stored = append(stored, fault)
			faults = append(faults, marks.Fault(fault))
		}
	}
	values := map[string]float64{}
	if looked {
		for key, v := range map[string]*int{"assignment": m.Assignment, "technique": m.Technique, "finish": m.Finish} {
			if v != nil {
				values[key] = float64(*v)
			}
		}
	}
	measured, err := c.measure(e.PlayerID, m, technique)
	if err != nil {
		return err
	}
	for _, x := range measured {
		if _, given := values["technique"]; teaching.Verdict(x.Verdict).Faulty() && !given {
			values["technique"] = 0
		}
	}
	if e.Measures, err = json.Marshal(measured); err != nil {
		return err
	}
	filled := marks.Fill(values, faults)
	if err := marks.House().Check(marks.Mark{Player: e.PlayerID.String(), Weight: 1, Graded: true, Values: filled, Faults: faults}); err != nil {
		return err
	}
	facet := func(key string) *int {
		if v, ok := filled[key]; ok {
			return ptr(int(v))
		}
		return nil
	}
	e.Assignment, e.Technique, e.Finish = facet("assignment"), facet("technique"), facet("finish")
	text, err := json.Marshal(stored)
	e.Faults = text
	return err
}

// measure judges what was measured, by the player's own range where he has one.
func (c markCheck) measure(player uuid.UUID, m contract.MarkInput, technique teaching.Technique) ([]Measured, error) {
	out := []Measured{}
	if m.Measures == nil {
		return out, nil
	}
	for i, x := range *m.Measures {
		point, t, ok := c.actor.lib().Checkpoint(x.Checkpoint)
		if !ok || t.Key != technique.Key || point.Measure == nil {
			return nil, invalid.Field(fmt.Sprintf("measures[%d].checkpoint", i), "%q is not measured at %s", x.Checkpoint, technique.Name)
		}
		standard, _ := c.actor.measureFor(point, player, c.exceptions)
		out = append(out, Measured{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: string(standard.Judge(x.Value))})
	}
	return out, nil
}

func hasFault(t teaching.Technique, key string) bool {
	for _, f := range t.Faults {
		if f.Key == key {
			return true
		}
	}
	return false
}
