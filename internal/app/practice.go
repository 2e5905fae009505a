package app

import (
	"context"
	"fmt"
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
		out.Periods = append(out.Periods, s.periodView(e, placements, att, group))
	}
	return out, nil
}

// periodView words a period with the drills that lie in it.
func (s *Service) periodView(e Period, placements []Placement, att teaching.Attendance, group string) contract.Period {
	v := contract.Period{ID: e.ID, Start: e.Start, Minutes: e.Minutes, Kind: e.Kind, Name: e.Name, Contact: e.Contact,
		Groups: e.Groups, Version: e.Version, Own: own(e, group), Drills: []contract.PlacedDrill{}}
	if e.ChangedBy != "" {
		v.ChangedBy = ptr(e.ChangedBy)
	}
	for _, pl := range placements {
		if pl.PeriodID != e.ID {
			continue
		}
		d, ok := s.Library.Drill(pl.DrillKey)
		if !ok {
			d.Name = pl.DrillKey + " (no longer in the library)"
		}
		v.Drills = append(v.Drills, contract.PlacedDrill{ID: pl.ID, Drill: pl.DrillKey, Name: d.Name, Start: pl.Start,
			Minutes: pl.Minutes, Lanes: pl.Lanes, Marks: pl.Marks, Reps: repsView(d, att, pl.Minutes, pl.Lanes)})
	}
	return v
}

func repsView(d teaching.Drill, att teaching.Attendance, minutes, lanes int) contract.Reps {
	players, y, advice := d.Planned(att, minutes, lanes)
	return contract.Reps{Players: players, LanesUsed: y.LanesUsed, Cycles: y.Cycles, Min: y.PerPlayer.Min, Max: y.PerPlayer.Max,
		Sides: d.Sides, PerSideMin: y.PerSideMin, WorkShare: y.WorkShare, HelpingShare: y.HelpingShare, WaitingShare: y.WaitingShare, Advice: advice}
}

// PreviewReps is the rep arithmetic of drills that are not saved.
func (s *Service) PreviewReps(in contract.PreviewRepsJSONRequestBody) ([]contract.Reps, error) {
	att := teaching.Attendance{Players: in.Players, Limited: in.Limited}
	if att.Limited > att.Players {
		return nil, invalid.Field("limited", "limited men (%d) cannot be more than players (%d)", att.Limited, att.Players)
	}
	out := []contract.Reps{}
	for i, x := range in.Drills {
		d, ok := s.Library.Drill(x.Drill)
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
			out = s.periodView(e, current, att, group)
			return nil
		}
		if in.Version != e.Version {
			return &Conflict{s.periodView(e, current, att, group)}
		}
		if err := s.checkDrills(e, group, current, wanted); err != nil {
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
	return s.periodView(after, placed, att, e.Groups[0]), err
}

func placementsOf(drills []contract.DrillInput) []Placement {
	list := make([]Placement, len(drills))
	for i, d := range drills {
		list[i] = Placement{ID: d.ID, DrillKey: d.Drill, Start: d.Start, Minutes: d.Minutes, Lanes: d.Lanes}
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
		if !ok || q.DrillKey != p.DrillKey || q.Start != p.Start || q.Minutes != p.Minutes || q.Lanes != p.Lanes {
			return false
		}
	}
	return true
}

// checkDrills refuses what the rules refuse, and taking out a drill that was marked.
func (s *Service) checkDrills(e Period, group string, current, wanted []Placement) error {
	seen := map[uuid.UUID]bool{}
	places := make([]practice.Placement, len(wanted))
	for i, p := range wanted {
		at := fmt.Sprintf("drills[%d]", i)
		d, ok := s.Library.Drill(p.DrillKey)
		if !ok || d.Group != group {
			return invalid.Field(at+".drill", "there is no drill %q for this group", p.DrillKey)
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
		d, _ := s.Library.Drill(p.DrillKey)
		if q, ok := byID[p.ID]; !ok || q.DrillKey != p.DrillKey {
			return invalid.Field("drills", "%s has %d marks and stays on the record; withdraw them first", d.Name, p.Marks)
		}
	}
	return nil
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
	d, ok := s.Library.Drill(p.DrillKey)
	if !ok {
		return contract.Rotation{}, ErrNotFound
	}
	all, err := s.Store.Players(ctx, a.ClubID, p.GroupKey)
	if err != nil {
		return contract.Rotation{}, err
	}
	men := takingPart(all, d)
	if len(men) < d.Working+d.Helping {
		return contract.Rotation{Drill: d.Name, Rows: []contract.RotationRow{}}, nil
	}
	rotation, err := reps.Rotate(d.Block(len(men), p.Minutes, p.Lanes))
	if err != nil {
		return contract.Rotation{}, err
	}
	out := contract.Rotation{Drill: d.Name, Cycles: len(rotation), Rows: make([]contract.RotationRow, len(men))}
	for i, m := range men {
		row := contract.RotationRow{Jersey: m.Jersey, Name: m.LastName}
		var roles strings.Builder
		for _, cycle := range rotation {
			switch cycle[i] {
			case reps.Works:
				row.Working++
				roles.WriteByte('w')
			case reps.Helps:
				row.Helping++
				roles.WriteByte('h')
			default:
				row.Waiting++
				roles.WriteByte('.')
			}
		}
		row.Roles = roles.String()
		out.Rows[i] = row
	}
	return out, nil
}

// takingPart lists the men of a group who may take part in a drill.
func takingPart(players []Player, d teaching.Drill) []Player {
	contact, err := practice.ParseContact(d.Contact)
	men := []Player{}
	for _, p := range players {
		if p.Status == "available" || p.Status == "limited" && err == nil && !contact.Collides() {
			men = append(men, p)
		}
	}
	return men
}
