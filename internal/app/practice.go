package app

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/reps"
	"nineyard/core/season"
	"nineyard/core/teaching"
	"nineyard/internal/contract"
)

// Practice returns a practice as a group's coach sees it.
func (s *Service) Practice(ctx context.Context, a Actor, id uuid.UUID, group string) (contract.Practice, error) {
	p, err := s.Store.Practice(ctx, a.ClubID, id)
	if err != nil {
		return contract.Practice{}, err
	}
	_, groups, err := s.group(ctx, a, group)
	if err != nil {
		return contract.Practice{}, err
	}
	periods, err := s.Store.Periods(ctx, a.ClubID, id)
	if err != nil {
		return contract.Practice{}, err
	}
	placements, err := s.Store.Placements(ctx, a.ClubID, id)
	if err != nil {
		return contract.Practice{}, err
	}
	players, err := s.Store.Players(ctx, a.ClubID, group)
	if err != nil {
		return contract.Practice{}, err
	}
	att, holds := attendance(players)
	out := contract.Practice{Practice: practiceRef(p), Week: season.Week(a.start(), season.Of(p.OnDate)), Theme: p.Theme, Place: p.Place,
		Periods: []contract.Period{}, Players: att.Players, Limited: att.Limited, Held: holds, Editable: a.mayEdit(group)}
	for _, g := range groups {
		out.Groups = append(out.Groups, g.Key)
	}
	for _, e := range periods {
		out.Periods = append(out.Periods, a.periodView(e, placements, att, group))
	}
	return out, nil
}

// periodView words a period with the drills that lie in it.
func (a Actor) periodView(e Period, placements []Placement, att teaching.Attendance, group string) contract.Period {
	v := contract.Period{ID: e.ID, Start: e.Start, Minutes: e.Minutes, Kind: e.Kind, Name: e.Name, Contact: e.Contact,
		Groups: e.Groups, Version: e.Version, Own: own(e, group), Drills: []contract.PlacedDrill{}}
	if e.ChangedBy != "" {
		v.ChangedBy = ptr(e.ChangedBy)
	}
	for _, pl := range placements {
		if pl.PeriodID != e.ID {
			continue
		}
		d, ok := a.lib().Drill(pl.DrillKey)
		if !ok {
			d, _ = a.House.Known.Drill(pl.DrillKey)
			d.Key, d.Name = pl.DrillKey, d.Name+" (no longer taught)"
		}
		t := a.markedAs(pl, d)
		v.Drills = append(v.Drills, contract.PlacedDrill{ID: pl.ID, Drill: pl.DrillKey, Name: d.Name, Technique: t.Key, TechniqueName: t.Name, Techniques: a.techniquesOf(d),
			Start: pl.Start, Minutes: pl.Minutes, Lanes: pl.Lanes, Marks: pl.Marks, Reps: repsView(d, att, pl.Minutes, pl.Lanes)})
	}
	return v
}

// markedAs is the technique the reps of a placed drill are marked as: the one chosen for
// it, else the drill's first.
func (a Actor) markedAs(pl Placement, d teaching.Drill) teaching.Technique {
	key := pl.TechniqueKey
	if !slices.Contains(d.Techniques, key) {
		key = d.Technique
	}
	t, _ := a.House.Known.Technique(key)
	if now, ok := a.lib().Technique(key); ok {
		return now
	}
	return t
}

func repsView(d teaching.Drill, att teaching.Attendance, minutes, lanes int) contract.Reps {
	crew, y, advice := d.Planned(att, minutes, lanes)
	return contract.Reps{Players: crew.Men(), HelpOnly: crew.HelpOnly, LanesUsed: y.LanesUsed, Cycles: y.Cycles, Min: y.PerPlayer.Min, Max: y.PerPlayer.Max,
		Sides: d.Sides, PerSideMin: y.PerSideMin, WorkShare: y.WorkShare, HelpingShare: y.HelpingShare, WaitingShare: y.WaitingShare, Advice: advice}
}

// PreviewReps is the rep arithmetic of drills that are not saved.
func (s *Service) PreviewReps(a Actor, in contract.PreviewRepsJSONRequestBody) ([]contract.Reps, error) {
	att := teaching.Attendance{Players: in.Players, Limited: in.Limited}
	if att.Limited > att.Players {
		return nil, invalid.Field("limited", "limited men (%d) cannot be more than players (%d)", att.Limited, att.Players)
	}
	out := []contract.Reps{}
	for i, x := range in.Drills {
		d, ok := a.lib().Drill(x.Drill)
		if !ok {
			return nil, invalid.Field(fmt.Sprintf("drills[%d].drill", i), "there is no drill %q", x.Drill)
		}
		out = append(out, repsView(d, att, x.Minutes, x.Lanes))
	}
	return out, nil
}

// PutDrills replaces the drills of a group's own period. It returns a *Conflict when
// the version is not the one that stands and the drills differ from those that do.
func (s *Service) PutDrills(ctx context.Context, a Actor, period uuid.UUID, in contract.PutDrillsJSONRequestBody) (contract.Period, error) {
	var out contract.Period
	err := s.Store.InTx(ctx, func(tx Store) error {
		e, err := tx.Period(ctx, a.ClubID, period, true)
		if err != nil {
			return err
		}
		if e.Kind != "individual" || len(e.Groups) != 1 {
			return invalid.Field("id", "drills are placed only in a group's own individual period")
		}
		group := e.Groups[0]
		if !a.mayEdit(group) {
			return ErrForbidden
		}
		current, err := tx.PeriodPlacements(ctx, a.ClubID, period)
		if err != nil {
			return err
		}
		players, err := tx.Players(ctx, a.ClubID, group)
		if err != nil {
			return err
		}
		att, _ := attendance(players)
		wanted := placementsOf(in.Drills)
		if same(current, wanted) { // sent again after a lost answer
			out = a.periodView(e, current, att, group)
			return nil
		}
		if in.Version != e.Version {
			return &Conflict{a.periodView(e, current, att, group)}
		}
		if err := a.checkDrills(e, group, current, wanted); err != nil {
			return err
		}
		out, err = s.savePeriod(ctx, tx, a, e, wanted, att)
		return err
	})
	return out, err
}

// savePeriod writes the placements and reads the period back as it then stands.
func (s *Service) savePeriod(ctx context.Context, tx Store, a Actor, e Period, wanted []Placement, att teaching.Attendance) (contract.Period, error) {
	if err := tx.ReplacePlacements(ctx, a.ClubID, e.ID, a.UserID, s.Clock(), wanted); err != nil {
		return contract.Period{}, err
	}
	after, err := tx.Period(ctx, a.ClubID, e.ID, false)
	if err != nil {
		return contract.Period{}, err
	}
	placed, err := tx.PeriodPlacements(ctx, a.ClubID, e.ID)
	return a.periodView(after, placed, att, e.Groups[0]), err
}

func placementsOf(drills []contract.DrillInput) []Placement {
	list := make([]Placement, len(drills))
	for i, d := range drills {
		list[i] = Placement{ID: d.ID, DrillKey: d.Drill, Start: d.Start, Minutes: d.Minutes, Lanes: d.Lanes}
		if d.Technique != nil {
			list[i].TechniqueKey = *d.Technique
		}
	}
	return list
}

// same reports whether two lists hold the same drills, whatever their order.
func same(a, b []Placement) bool {
	if len(a) != len(b) {
		return false
	}
	byID := ids(a, func(p Placement) uuid.UUID { return p.ID })
	for _, p := range b {
		q, ok := byID[p.ID]
		if !ok || q.DrillKey != p.DrillKey || q.Start != p.Start || q.Minutes != p.Minutes || q.Lanes != p.Lanes || q.TechniqueKey != p.TechniqueKey {
			return false
		}
	}
	return true
}

// checkDrills refuses what the rules refuse, and taking out a drill that was marked.
func (a Actor) checkDrills(e Period, group string, current, wanted []Placement) error {
	seen := map[uuid.UUID]bool{}
	places := make([]practice.Placement, len(wanted))
	for i, p := range wanted {
		at := fmt.Sprintf("drills[%d]", i)
		d, ok := a.lib().Drill(p.DrillKey)
		if (!ok || !slices.Contains(d.Groups, group)) && !stands(current, p) {
			return invalid.Field(at+".drill", "there is no drill %q for this group", p.DrillKey)
		}
		if p.TechniqueKey != "" && ok && !slices.Contains(d.Techniques, p.TechniqueKey) {
			return invalid.Field(at+".technique", "%s does not train %q", d.Name, p.TechniqueKey)
		}
		if seen[p.ID] {
			return invalid.Field(at+".id", "the id stands twice in the list")
		}
		seen[p.ID] = true
		places[i] = practice.Placement{Start: p.Start, Minutes: p.Minutes}
	}
	if err := practice.CheckPlacements(e.Minutes, places); err != nil {
		return err
	}
	byID := ids(wanted, func(p Placement) uuid.UUID { return p.ID })
	for _, p := range current {
		if p.Marks == 0 {
			continue
		}
		d, _ := a.House.Known.Drill(p.DrillKey)
		if q, ok := byID[p.ID]; !ok || q.DrillKey != p.DrillKey || a.markedAs(q, d).Key != a.markedAs(p, d).Key {
			return invalid.Field("drills", "%s has %d marks and stays on the record; withdraw them first", d.Name, p.Marks)
		}
	}
	return nil
}

// stands reports whether the same drill stands there already: one that was retired since
// may stay.
func stands(current []Placement, p Placement) bool {
	return slices.ContainsFunc(current, func(c Placement) bool { return c.ID == p.ID && c.DrillKey == p.DrillKey })
}

// Rotation says who works, helps and waits in each cycle of a placed drill.
func (s *Service) Rotation(ctx context.Context, a Actor, practiceID, placement uuid.UUID) (contract.Rotation, error) {
	placed, err := s.Store.PlacementsByID(ctx, a.ClubID, []uuid.UUID{placement})
	if err != nil {
		return contract.Rotation{}, err
	}
	if len(placed) == 0 || placed[0].PracticeID != practiceID {
		return contract.Rotation{}, ErrNotFound
	}
	p := placed[0]
	d, ok := a.lib().Drill(p.DrillKey)
	if !ok {
		return contract.Rotation{}, ErrNotFound
	}
	all, err := s.Store.Players(ctx, a.ClubID, p.GroupKey)
	if err != nil {
		return contract.Rotation{}, err
	}
	return rotationView(d, all, p.Minutes, p.Lanes)
}

// rotationView works out and words the rotation of a drill for the men of a group: first
// those who may do everything, then those who may only help.
func rotationView(d teaching.Drill, players []Player, minutes, lanes int) (contract.Rotation, error) {
	full, help := crew(players, d)
	out := contract.Rotation{Drill: d.Name, Rows: []contract.RotationRow{}}
	block := d.Block(teaching.Crew{Full: len(full), HelpOnly: len(help)}, minutes, lanes)
	rotation, err := reps.Rotate(block)
	if e, bad := invalid.As(err); bad && e.Field == "players" {
		return out, nil // not enough men; the reps say so
	}
	if err != nil {
		return out, err
	}
	out.Cycles = len(rotation)
	for i, m := range append(full, help...) {
		row := contract.RotationRow{Jersey: m.Jersey, Name: m.LastName, HelpOnly: i >= len(full)}
		var sides []reps.Side
		if d.Sides == 2 {
			sides = rotation.Sides(i)
		}
		var roles strings.Builder
		for c, cycle := range rotation {
			switch {
			case cycle[i] == reps.Works && sides == nil:
				row.Working++
				roles.WriteByte('w')
			case cycle[i] == reps.Works && sides[c] == reps.Left:
				row.Working++
				row.Left++
				roles.WriteByte('l')
			case cycle[i] == reps.Works:
				row.Working++
				row.Right++
				roles.WriteByte('r')
			case cycle[i] == reps.Helps:
				row.Helping++
				roles.WriteByte('h')
			default:
				row.Waiting++
				roles.WriteByte('.')
			}
		}
		row.Roles = roles.String()
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

// crew splits the men who take part in a drill into those who may do everything and
// those who may only help.
func crew(players []Player, d teaching.Drill) (full, help []Player) {
	for _, p := range players {
		if p.Status != "available" && p.Status != "limited" {
			continue
		}
		switch d.PartOf(p.Status == "limited") {
		case teaching.FullPart:
			full = append(full, p)
		case teaching.HelpPart:
			help = append(help, p)
		}
	}
	return full, help
}

// takingPart lists the men of a group who may work in a drill, whose reps are marked.
func takingPart(players []Player, d teaching.Drill) []Player {
	full, _ := crew(players, d)
	return full
}
