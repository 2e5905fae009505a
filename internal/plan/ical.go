package plan

import (
	"context"
	"time"

	ics "github.com/arran4/golang-ical"

	"nineyard/core/season"
	"nineyard/internal/access"
)

// ExportCalendar writes the season as iCalendar (RFC 5545): practices at their time, games for
// their whole day, and what is called off as cancelled. An event keeps its id for ever and counts
// its changes, so that a calendar that takes the file again follows. Times are written in UTC,
// which says the same on both sides of a change of the clock.
func (s *Service) ExportCalendar(ctx context.Context, c access.Coach) (string, []byte, error) {
	days, err := s.Calendar.Days(ctx, c.Season)
	if err != nil {
		return "", nil, err
	}
	zone, err := time.LoadLocation(c.Club.Timezone)
	if err != nil {
		zone = time.UTC
	}
	stamp := s.Now().UTC()
	cal := ics.NewCalendarFor("Nine Yard")
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(c.Club.Name)
	for _, p := range days.Practices {
		starts := at(p.On, p.StartMinute, zone)
		e := event(cal, p.ID.String(), p.Title, p.Version, p.Cancelled, stamp)
		e.SetStartAt(starts)
		e.SetEndAt(starts.Add(time.Duration(p.Minutes) * time.Minute))
		if p.Theme != "" && p.Cancelled == "" {
			e.SetDescription(p.Theme)
		}
		if p.Place != "" {
			e.SetLocation(p.Place)
		}
	}
	for _, g := range days.Games {
		where := "at home"
		if !g.Home {
			where = "away"
		}
		e := event(cal, g.ID.String(), "Game against "+g.Opponent+", "+where, g.Version, g.Cancelled, stamp)
		e.SetAllDayStartAt(g.On.Time())
		e.SetAllDayEndAt((g.On + 1).Time())
	}
	return "season-" + c.Season.Start.String() + ".ics", []byte(cal.Serialize()), nil
}

// at is the moment of a minute of a day where the club is. A minute that the clock leaps over is
// the one after the leap.
func at(day season.Date, minute int, zone *time.Location) time.Time {
	d := day.Time()
	return time.Date(d.Year(), d.Month(), d.Day(), minute/60, minute%60, 0, 0, zone)
}

func event(cal *ics.Calendar, id, summary string, version int, cancelled string, stamp time.Time) *ics.VEvent {
	e := cal.AddEvent(id + "@nineyard")
	e.SetDtStampTime(stamp)
	e.SetSequence(version - 1)
	e.SetSummary(summary)
	e.SetStatus(ics.ObjectStatusConfirmed)
	if cancelled != "" {
		e.SetStatus(ics.ObjectStatusCancelled)
		e.SetDescription("Called off: " + cancelled)
	}
	return e
}
