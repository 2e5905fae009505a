package mark

import (
	"context"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/invalid"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
	"nineyard/internal/players/standing"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Post records marks. It refuses the whole batch when one is wrong, so that the client
// never has to guess which were kept.
func (s *Service) Post(ctx context.Context, c access.Coach, in []contract.MarkInput) ([]uuid.UUID, error) {
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return nil, err
	}
	wanted := map[uuid.UUID]bool{}
	var ids []uuid.UUID
	for _, m := range in {
		if !wanted[m.PlacementID] {
			wanted[m.PlacementID] = true
			ids = append(ids, m.PlacementID)
		}
	}
	placed, err := s.Plans.Placed(ctx, ids)
	if err != nil {
		return nil, err
	}
	check := checker{coach: c, house: h, today: c.Today(s.Now()), placements: map[uuid.UUID]script.PlacedOn{}, players: map[season.Date]map[uuid.UUID]squad.Player{}}
	for _, p := range placed {
		check.placements[p.ID] = p
		if check.players[p.On] == nil { // as they were on the day of the practice
			all, err := s.Squad.All(ctx, p.On)
			if err != nil {
				return nil, err
			}
			check.players[p.On] = squad.ByID(all)
		}
	}
	if check.ranges, err = s.Ranges.Ranges(ctx); err != nil {
		return nil, err
	}
	events := make([]Event, len(in))
	saved := make([]uuid.UUID, len(in))
	for i, m := range in {
		e, err := check.event(m)
		if err != nil {
			return nil, invalid.Within(fmt.Sprintf("marks[%d]", i), err)
		}
		e.CreatedAt = s.Now()
		events[i], saved[i] = e, e.ID
	}
	return saved, s.Store.Add(ctx, events)
}

// checker turns inputs into events, refusing what does not fit.
type checker struct {
	coach      access.Coach
	house      *house.House
	today      season.Date
	placements map[uuid.UUID]script.PlacedOn
	players    map[season.Date]map[uuid.UUID]squad.Player // as of the day of a practice
	ranges     []standing.Range
}

func (c checker) event(m contract.MarkInput) (Event, error) {
	p, ok := c.placements[m.PlacementID]
	if !ok {
		return Event{}, problem.ErrNotFound
	}
	if !c.coach.MayEdit(p.Group) {
		return Event{}, problem.ErrForbidden
	}
	if p.On > c.today {
		return Event{}, invalid.Field("placement_id", "the practice is on %s; its reps can be marked from that day", p.On)
	}
	player, ok := c.players[p.On][m.PlayerID]
	if !ok {
		return Event{}, invalid.Field("player_id", "there is no such player in this club")
	}
	if player.Status == availability.HeadHold && m.State != contract.MarkInputStateWithdrawn {
		return Event{}, invalid.Field("player_id", "%s was on a head-injury hold that day and takes no reps", player.LastName)
	}
	d, ok := c.house.Known.Drill(p.DrillKey)
	technique := c.house.MarkedAs(p.TechniqueKey, d)
	if !ok || technique.Key == "" {
		return Event{}, invalid.Field("placement_id", "the drill is no longer in the library")
	}
	e := Event{ID: m.ID, PlayerID: m.PlayerID, PlacementID: &m.PlacementID, Rep: &m.Rep, TechniqueKey: technique.Key, State: string(m.State),
		Standard: c.house.Version, CreatedBy: &c.coach.ID, Faults: json.RawMessage("[]"), Measures: json.RawMessage("[]")}
	if m.Note != nil {
		e.Note = *m.Note
	}
	if m.Praise != nil {
		e.Praise = *m.Praise
	}
	if m.Side != nil {
		side := string(*m.Side)
		e.Side = &side
	}
	return e, c.judge(&e, m, technique, c.players[p.On])
}

// judge fills in facets and faults. Only a mark that was looked at can have faults;
// an assumed one is clean by definition and the others judge nothing.
func (c checker) judge(e *Event, m contract.MarkInput, technique teaching.Technique, players map[uuid.UUID]squad.Player) error {
	looked := m.State == contract.MarkInputStateLooked
	switch {
	case !looked && m.Faults != nil && len(*m.Faults) > 0:
		return invalid.Field("faults", "only a rep that was looked at can show a fault")
	case !looked && m.Measures != nil && len(*m.Measures) > 0:
		return invalid.Field("measures", "only a rep that was looked at can be measured")
	case !looked && m.State != contract.MarkInputStateAssumed:
		return nil
	}
	stored, err := c.faults(e.PlayerID, m, technique, players)
	if err != nil {
		return err
	}
	measured, err := c.measure(e.PlayerID, m, technique)
	if err != nil {
		return err
	}
	values := map[string]float64{}
	if looked {
		for key, v := range map[string]*int{"assignment": m.Assignment, "technique": m.Technique, "finish": m.Finish} {
			if v != nil {
				values[key] = float64(*v)
			}
		}
	}
	for _, x := range measured {
		if _, given := values["technique"]; faulty(x) && !given {
			values["technique"] = 0
		}
	}
	shown := make([]marks.Fault, len(stored))
	for i, f := range stored {
		shown[i] = marks.Fault(f)
	}
	filled := marks.Fill(values, shown)
	if err := marks.Shipped().Check(marks.Mark{Player: e.PlayerID.String(), Weight: 1, Graded: true, Values: filled, Faults: shown}); err != nil {
		return err
	}
	facet := func(key string) *int {
		if v, ok := filled[key]; ok {
			n := int(v)
			return &n
		}
		return nil
	}
	e.Assignment, e.Technique, e.Finish = facet("assignment"), facet("technique"), facet("finish")
	if e.Measures, err = json.Marshal(measured); err != nil {
		return err
	}
	e.Faults, err = json.Marshal(stored)
	return err
}

// faults checks that the faults are the technique's and their causes teammates.
func (c checker) faults(player uuid.UUID, m contract.MarkInput, technique teaching.Technique, players map[uuid.UUID]squad.Player) ([]record.Fault, error) {
	out := []record.Fault{}
	if m.Faults == nil {
		return out, nil
	}
	known := map[string]bool{}
	for _, f := range technique.Faults {
		known[f.Key] = true
	}
	for i, f := range *m.Faults {
		if !known[f.Key] {
			return nil, invalid.Field(fmt.Sprintf("faults[%d].key", i), "%q is not a fault of %s", f.Key, technique.Name)
		}
		fault := record.Fault{Key: f.Key}
		if f.CausedBy != nil {
			if _, ok := players[*f.CausedBy]; !ok || *f.CausedBy == player {
				return nil, invalid.Field(fmt.Sprintf("faults[%d].caused_by", i), "the cause must be a teammate")
			}
			fault.CausedBy = f.CausedBy.String()
		}
		out = append(out, fault)
	}
	return out, nil
}

// measure judges what was measured, by the player's own range where he has one.
func (c checker) measure(player uuid.UUID, m contract.MarkInput, technique teaching.Technique) ([]record.Measured, error) {
	out := []record.Measured{}
	if m.Measures == nil {
		return out, nil
	}
	for i, x := range *m.Measures {
		point, t, ok := c.house.Library.Checkpoint(x.Checkpoint)
		if !ok || t.Key != technique.Key || point.Measure == nil {
			return nil, invalid.Field(fmt.Sprintf("measures[%d].checkpoint", i), "%q is not measured at %s", x.Checkpoint, technique.Name)
		}
		held, _ := standing.For(point, player, c.ranges)
		out = append(out, record.Measured{Checkpoint: x.Checkpoint, Value: x.Value, Verdict: string(held.Judge(x.Value))})
	}
	return out, nil
}
