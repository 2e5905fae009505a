package plan

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/availability"
	"nineyard/core/conditions"
	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/plan/sheet"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// Reading is a heat index as it was entered for a practice.
type Reading struct {
	ID    uuid.UUID
	Index *float64 // nil: none holds any longer
	By    string
	At    time.Time
}

// Day is what is known of a practice's day beside its script.
type Day struct {
	Practices []season.Date // days of the season with practice, up to it
	Readings  []Reading     // of the heat, the newest first
	// Absences are the days on which players of the group took no part, by player.
	Absences map[uuid.UUID][]conditions.Absence
}

// heat is the index that holds; nil when none does.
func (d Day) heat() *float64 {
	if len(d.Readings) == 0 {
		return nil
	}
	return d.Readings[0].Index
}

// returning lists who of a group is on his way back on the day of a practice.
func returning(first conditions.FirstDays, d Day, players []squad.Player, on season.Date) []contract.ReturningPlayer {
	list := []contract.ReturningPlayer{}
	for _, p := range players {
		r, back := first.Returning(d.Practices, d.Absences[p.ID], on)
		if !back || p.Status != availability.Available {
			continue // who is held out or kept out of contact is named with them
		}
		step, _ := first.On(r.Day)
		list = append(list, contract.ReturningPlayer{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName, Away: r.Away, Day: r.Day, Of: first.Steps[len(first.Steps)-1].Through,
			Contact: contract.ContactLevel(step.Contact.String()), Gear: step.Gear, Limit: step.Contact < practice.Control})
	}
	return list
}

func readingView(r Reading) contract.HeatReading {
	return contract.HeatReading{ID: r.ID, Index: r.Index, By: r.By, At: r.At}
}

// PutHeat enters the heat index of a practice, or that none holds. Whoever is of the staff may. The
// same id again changes nothing.
func (s *Service) PutHeat(ctx context.Context, c access.Coach, practiceID, id uuid.UUID, index *float64) ([]contract.HeatReading, error) {
	p, found, err := s.Store.Practice(ctx, practiceID)
	if err != nil {
		return nil, err
	}
	if !found {
		return nil, problem.ErrNotFound
	}
	if err := s.Conditions.PutReading(ctx, practiceID, Reading{ID: id, Index: index, At: s.Now()}, c.ID); err != nil {
		return nil, err
	}
	d, err := s.Conditions.Day(ctx, p, c.Season.ID, "")
	list := make([]contract.HeatReading, len(d.Readings))
	for i, r := range d.Readings {
		list[i] = readingView(r)
	}
	return list, err
}

// conditioned gives a sheet what is known of its day.
func conditioned(s contract.ScriptSheet, d Day, p script.Practice) contract.ScriptSheet {
	s.PracticeDay, s.HeatIndex = new(conditions.DayOf(d.Practices, p.On)), d.heat()
	return s
}

// checkConditions refuses first days and bands that cannot be, by the fields of the contract.
func checkConditions(l contract.PracticeLimits) error {
	if l.FirstDays != nil {
		if err := invalid.Within("limits.first_days", conditions.CheckFirstDays(sheet.FirstDays(l))); err != nil {
			return err
		}
	}
	return invalid.Within("limits", conditions.CheckBands(sheet.Bands(l)))
}

// examples are the first days and bands that ship.
func examples(l *contract.PracticeLimits) {
	first, bands := conditions.Shipped()
	v := contract.FirstDays{SeasonStart: true, AbsenceDays: &first.AbsenceDays}
	for _, x := range first.Steps {
		v.Steps = append(v.Steps, contract.FirstDaysStep{Through: x.Through, Contact: contract.ContactLevel(x.Contact.String()), Minutes: over(x.Minutes), Gear: x.Gear})
	}
	l.FirstDays = &v
	list := []contract.HeatBand{}
	for _, b := range bands {
		list = append(list, contract.HeatBand{From: b.From, WaterEvery: over(b.WaterEvery), Minutes: over(b.Minutes), Contact: contract.ContactLevel(b.Contact.String()), Off: b.Off})
	}
	l.HeatBands = &list
}

// over is a number, or nothing for 0.
func over(n int) *int {
	if n == 0 {
		return nil
	}
	return &n
}
