package app

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/internal/contract"
)

// Evidence lists the plays and reps behind a number.
func (s *Service) Evidence(ctx context.Context, a Actor, id uuid.UUID, group string, week int, technique, fault string) ([]contract.Evidence, error) {
	if err := a.checkWeek(week); err != nil {
		return nil, err
	}
	players, err := s.playersOf(ctx, a, group)
	if err != nil {
		return nil, err
	}
	if _, ok := playersByID(players)[id]; !ok {
		return nil, ErrNotFound
	}
	rows, err := s.Store.Evidence(ctx, a.ClubID, id, technique, fault, a.SeasonStart, s.weekEnd(a, week).Time())
	if err != nil {
		return nil, err
	}
	names := playersByID(players)
	scheme := marks.House()
	out := []contract.Evidence{}
	for _, m := range rows {
		day := season.Of(m.OnDate)
		t, _ := a.House.Known.Technique(m.TechniqueKey)
		v := scheme.Judge(mark(m.State, m.Assignment, m.Technique, m.Finish))
		e := contract.Evidence{ID: m.ID, Source: contract.EvidenceSource(m.Source), Date: day.String(), Week: season.Week(a.start(), day),
			Where: a.where(m), Technique: t.Name, Clean: v.Clean, Graded: v.Graded, Assumed: m.State == "assumed", Note: m.Note, By: m.ByName,
			Faults: []string{}, Measures: a.measureWords(m.Measures), Standard: m.Standard, Side: m.Side, PlacementID: m.PlacementID, PracticeID: m.PracticeID}
		if !v.Graded {
			e.Reason = ptr(strings.ReplaceAll(string(v.Reason), "_", " "))
		}
		for _, f := range faultsOf(m.Faults) {
			fault, _, _ := a.House.Known.Fault(f.Key)
			text := fault.Name
			if by, err := uuid.Parse(f.CausedBy); err == nil {
				text += ", caused by " + names[by].LastName
			}
			e.Faults = append(e.Faults, text)
		}
		out = append(out, e)
	}
	return out, nil
}

// measureWords says what was measured: "First step 12 in: watch".
func (a Actor) measureWords(raw json.RawMessage) []string {
	out := []string{}
	for _, x := range measuresOf(raw) {
		c, _, _ := a.House.Known.Checkpoint(x.Checkpoint)
		unit := ""
		if c.Measure != nil {
			unit = strings.ReplaceAll(c.Measure.Unit, "_", " ")
		}
		out = append(out, fmt.Sprintf("%s: %v %s, %s", c.Name, x.Value, unit, x.Verdict))
	}
	return out
}

// where words the place of a mark: the play with its labels, or the drill and the rep.
func (a Actor) where(m MarkDetail) string {
	if m.PlayNumber == nil {
		d, _ := a.House.Known.Drill(*m.DrillKey)
		return fmt.Sprintf("%s, rep %d", d.Name, *m.Rep)
	}
	text := fmt.Sprintf("%s, play %d", *m.Opponent, *m.PlayNumber)
	if m.Down != nil && m.Distance != nil {
		text += fmt.Sprintf(": %s and %d", [...]string{"", "1st", "2nd", "3rd", "4th"}[*m.Down], *m.Distance)
	}
	if m.Spot != nil && *m.Spot != "" {
		text += ", " + *m.Spot
	}
	if m.Call != nil && *m.Call != "" {
		text += ", " + *m.Call
	}
	return text
}
