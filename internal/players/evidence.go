package players

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/marks"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/mark/record"
	"nineyard/internal/roster/squad"
	"nineyard/internal/teach/house"
)

// Asked is which reps of a player are asked for.
type Asked struct {
	Group            string
	Week             int
	Technique, Fault string // empty: any
	After            string // cursor of the page before; empty: the first page
}

// Evidence lists a page of the plays and reps behind a number, newest first.
func (s *Service) Evidence(ctx context.Context, c access.Coach, id uuid.UUID, a Asked) (contract.EvidencePage, error) {
	page := contract.EvidencePage{Reps: []contract.Evidence{}}
	v, err := s.open(ctx, c, a.Group, a.Week)
	if err != nil {
		return page, err
	}
	if _, err := v.player(id); err != nil {
		return page, err
	}
	which := record.Which{Technique: a.Technique, Fault: a.Fault, From: c.Season.Start, To: v.asOf}
	if a.After != "" {
		p, err := record.ParsePlace(a.After)
		if err != nil {
			return page, err
		}
		which.After = &p
	}
	rows, err := s.Marks.Evidence(ctx, id, which)
	if err != nil {
		return page, err
	}
	if len(rows) == record.Page {
		page.Next = new(rows[len(rows)-1].Place().String())
	}
	names := squad.ByID(v.players)
	for _, m := range rows {
		t, _ := v.house.Known.Technique(m.TechniqueKey)
		j := m.Verdict
		e := contract.Evidence{ID: m.ID, Source: contract.EvidenceSource(m.Source), Date: m.On.String(), Week: c.WeekOf(m.On),
			Where: where(v.house, m), Technique: t.Name, Clean: j.Clean, Graded: j.Graded, Assumed: m.State == marks.Assumed, Note: m.Note, By: m.By,
			Faults: []string{}, Measures: measured(v.house, m.Measures), Standard: m.Standard, Scheme: m.Scheme, Side: m.Side, PlacementID: m.PlacementID, PracticeID: m.PracticeID}
		if !j.Graded {
			e.Reason = new(strings.ReplaceAll(string(j.Reason), "_", " "))
		}
		for _, f := range m.Faults {
			known, _, _ := v.house.Known.Fault(f.Key)
			text := known.Name
			if by, err := uuid.Parse(f.CausedBy); err == nil {
				text += ", caused by " + names[by].LastName
			}
			if f.Penalty {
				text += ", with a penalty"
			}
			e.Faults = append(e.Faults, text)
		}
		page.Reps = append(page.Reps, e)
	}
	return page, nil
}

// measured says what was measured: "First step: 12 in, watch".
func measured(h *house.House, list []record.Measured) []string {
	out := []string{}
	for _, x := range list {
		c, _, _ := h.Known.Checkpoint(x.Checkpoint)
		unit := ""
		if c.Measure != nil {
			unit = strings.ReplaceAll(c.Measure.Unit, "_", " ")
		}
		out = append(out, fmt.Sprintf("%s: %v %s, %s", c.Name, x.Value, unit, x.Verdict))
	}
	return out
}

// where words the place of a mark: the play with its labels, or the drill and the rep.
func where(h *house.House, m record.Detail) string {
	if m.PlayNumber == nil {
		d, _ := h.Known.Drill(*m.DrillKey)
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
