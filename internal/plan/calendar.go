package plan

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/practice"
	"nineyard/core/schedule"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/problem"
)

// PracticeEntry is a practice of the calendar with what hangs on it.
type PracticeEntry struct {
	script.Practice
	Periods, Drills, Marks int
	ChangedBy              string
}

// GameEntry is a game of the calendar with what hangs on it.
type GameEntry struct {
	Game
	Plays     int
	ChangedBy string
}

// Days is a season as it is kept.
type Days struct {
	Practices []PracticeEntry
	Games     []GameEntry
	Hard      map[uuid.UUID][]script.Period // the periods with thud and live, by practice
}

// Season returns the whole season.
func (s *Service) Season(ctx context.Context, c access.Coach) (contract.Season, error) {
	set, err := s.Scripts.Settings(ctx)
	if err != nil {
		return contract.Season{}, err
	}
	days, err := s.Calendar.Days(ctx, c.Season)
	if err != nil {
		return contract.Season{}, err
	}
	span, err := s.Calendar.Span(ctx, c.Season.ID)
	if err != nil {
		return contract.Season{}, err
	}
	out := contract.Season{Version: span.Version, Phases: phaseViews(span.Phases), Start: c.Season.Start.String(), Weeks: c.Season.Weeks, Today: c.Today(s.Now()).String(), Editable: c.IsHead(), Themes: append([]string{}, set.Themes...),
		ContactWeek: set.Limits.ContactWeek, Practices: []contract.SeasonPractice{}, Games: []contract.SeasonGame{}, Contact: []contract.WeekContact{}}
	weeks := make([]map[string]int, c.Season.Weeks)
	for _, p := range days.Practices {
		hard := contactOf(c, p.Practice, days.Hard[p.ID])
		out.Practices = append(out.Practices, practiceView(p, hard))
		if w := c.WeekOf(p.On); p.Cancelled == "" && w >= 1 && w <= c.Season.Weeks {
			if weeks[w-1] == nil {
				weeks[w-1] = map[string]int{}
			}
			for g, n := range hard {
				weeks[w-1][g] += n
			}
		}
	}
	for _, g := range days.Games {
		out.Games = append(out.Games, gameView(g))
	}
	for i, of := range weeks {
		week := contract.WeekContact{Week: i + 1, Groups: []contract.ContactMinutes{}}
		for _, g := range c.Club.Groups {
			week.Groups = append(week.Groups, contract.ContactMinutes{Group: g.Key, Minutes: of[g.Key]})
		}
		out.Contact = append(out.Contact, week)
	}
	return out, nil
}

// contactOf is the minutes of thud and live of every group in a practice.
func contactOf(c access.Coach, p script.Practice, hard []script.Period) map[string]int {
	s := schedule.Script{Minutes: p.Minutes, Groups: c.Club.Groups.Keys()}
	for _, e := range hard {
		level, _ := practice.ParseContact(e.Contact) // the database keeps no other
		s.Periods = append(s.Periods, schedule.Period{Key: e.ID.String(), Start: e.Start, Minutes: e.Minutes, Kind: e.Kind, Groups: e.Groups, Contact: level})
	}
	return schedule.Contact(s)
}

func practiceView(p PracticeEntry, hard map[string]int) contract.SeasonPractice {
	v := contract.SeasonPractice{ID: p.ID, Version: p.Version, Date: p.On.String(), Title: p.Title, Theme: p.Theme, Place: p.Place, StartMinute: p.StartMinute, Minutes: p.Minutes,
		Periods: p.Periods, Drills: p.Drills, Marks: p.Marks}
	for _, n := range hard {
		v.Contact = max(v.Contact, n)
	}
	if p.Cancelled != "" {
		v.Cancelled = &p.Cancelled
	}
	if p.ChangedBy != "" {
		v.ChangedBy = &p.ChangedBy
	}
	return v
}

func gameView(g GameEntry) contract.SeasonGame {
	v := contract.SeasonGame{ID: g.ID, Version: g.Version, Date: g.On.String(), Opponent: g.Opponent, Home: g.Home, Plays: g.Plays}
	if g.Cancelled != "" {
		v.Cancelled = &g.Cancelled
	}
	if g.ChangedBy != "" {
		v.ChangedBy = &g.ChangedBy
	}
	return v
}

// day reads a day of the season.
func day(c access.Coach, text string) (season.Date, error) {
	d, err := season.Parse(text)
	if err != nil {
		return 0, invalid.Field("date", "%s", err)
	}
	if !season.Within(c.Season.Start, c.Season.Weeks, d) {
		return 0, invalid.Field("date", "%s is outside of the season, which runs from %s to %s", d, c.Season.Start, season.End(c.Season.Start, c.Season.Weeks))
	}
	return d, nil
}

func reason(why *string) (string, error) {
	if why == nil {
		return "", nil
	}
	said := strings.TrimSpace(*why)
	if said == "" {
		return "", invalid.Field("cancelled", "say why it is called off")
	}
	return said, nil
}

// PutPractice puts a practice on the calendar or changes it. What hangs on it goes with it. It
// returns a *problem.Stale when it was changed since the version given, or is not there any
// longer.
func (s *Service) PutPractice(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.PracticeInput) (contract.SeasonPractice, error) {
	if !c.IsHead() {
		return contract.SeasonPractice{}, problem.ErrForbidden
	}
	was, there, err := s.Calendar.PracticeEntry(ctx, id)
	if err != nil {
		return contract.SeasonPractice{}, err
	}
	next := script.Practice{ID: id, Title: strings.TrimSpace(in.Title), Theme: strings.TrimSpace(in.Theme), Place: strings.TrimSpace(in.Place), StartMinute: in.StartMinute, Minutes: in.Minutes, Version: was.Version}
	if next.On, err = day(c, in.Date); err != nil {
		return contract.SeasonPractice{}, err
	}
	if next.Cancelled, err = reason(in.Cancelled); err != nil {
		return contract.SeasonPractice{}, err
	}
	switch {
	case next.Title == "":
		return contract.SeasonPractice{}, invalid.Field("title", "a practice needs a title")
	case there && was.Practice == next: // sent again after a lost answer
		return practiceView(was, nil), nil
	case there && version != was.Version:
		return contract.SeasonPractice{}, &problem.Stale{What: "practice", By: was.ChangedBy, Current: practiceView(was, nil)}
	case !there && version != 0:
		return contract.SeasonPractice{}, &problem.Stale{What: "practice", Current: practiceView(PracticeEntry{Practice: script.Practice{ID: id}}, nil)}
	}
	if err := s.Calendar.PutPractice(ctx, c.Season.ID, next, c.ID, s.Now()); err != nil {
		return contract.SeasonPractice{}, err
	}
	if !there && in.ScriptOf != nil {
		_, found, err := s.Store.Practice(ctx, *in.ScriptOf)
		if err == nil && !found {
			err = invalid.Field("script_of", "there is no such practice")
		}
		if err != nil {
			return contract.SeasonPractice{}, err
		}
		if err := s.Calendar.CopyScript(ctx, *in.ScriptOf, id, c.ID, s.Now()); err != nil {
			return contract.SeasonPractice{}, err
		}
	}
	if !there && in.Template != nil {
		if err := s.layTemplate(ctx, c, id, *in.Template); err != nil {
			return contract.SeasonPractice{}, err
		}
	}
	now, _, err := s.Calendar.PracticeEntry(ctx, id)
	return practiceView(now, nil), err
}

// DeletePractice takes a practice off the calendar with its script. It is refused when reps of
// its drills are marked: it is called off instead.
func (s *Service) DeletePractice(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	if !c.IsHead() {
		return contract.Gone{}, problem.ErrForbidden
	}
	was, there, err := s.Calendar.PracticeEntry(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "practice", By: was.ChangedBy, Current: practiceView(was, nil)}
	case was.Marks > 0:
		return contract.Gone{}, invalid.Field("id", "%d marks are on record of this practice; call it off instead", was.Marks)
	}
	return contract.Gone{ID: id}, s.Calendar.DeletePractice(ctx, id)
}

// PutGame puts a game on the calendar or changes it, as PutPractice does.
func (s *Service) PutGame(ctx context.Context, c access.Coach, id uuid.UUID, version int, in contract.GameInput) (contract.SeasonGame, error) {
	if !c.IsHead() {
		return contract.SeasonGame{}, problem.ErrForbidden
	}
	was, there, err := s.Calendar.GameEntry(ctx, id)
	if err != nil {
		return contract.SeasonGame{}, err
	}
	next := Game{ID: id, Opponent: strings.TrimSpace(in.Opponent), Home: in.Home, Version: was.Version}
	if next.On, err = day(c, in.Date); err != nil {
		return contract.SeasonGame{}, err
	}
	if next.Cancelled, err = reason(in.Cancelled); err != nil {
		return contract.SeasonGame{}, err
	}
	switch {
	case next.Opponent == "":
		return contract.SeasonGame{}, invalid.Field("opponent", "a game needs an opponent")
	case there && was.Game == next: // sent again after a lost answer
		return gameView(was), nil
	case there && version != was.Version:
		return contract.SeasonGame{}, &problem.Stale{What: "game", By: was.ChangedBy, Current: gameView(was)}
	case !there && version != 0:
		return contract.SeasonGame{}, &problem.Stale{What: "game", Current: gameView(GameEntry{Game: Game{ID: id}})}
	}
	if err := s.Calendar.PutGame(ctx, c.Season.ID, next, c.ID, s.Now()); err != nil {
		return contract.SeasonGame{}, err
	}
	now, _, err := s.Calendar.GameEntry(ctx, id)
	return gameView(now), err
}

// DeleteGame takes a game off the calendar. It is refused when plays of it are on record.
func (s *Service) DeleteGame(ctx context.Context, c access.Coach, id uuid.UUID, version int) (contract.Gone, error) {
	if !c.IsHead() {
		return contract.Gone{}, problem.ErrForbidden
	}
	was, there, err := s.Calendar.GameEntry(ctx, id)
	switch {
	case err != nil || !there:
		return contract.Gone{ID: id}, err
	case version != was.Version:
		return contract.Gone{}, &problem.Stale{What: "game", By: was.ChangedBy, Current: gameView(was)}
	case was.Plays > 0:
		return contract.Gone{}, invalid.Field("id", "%d plays are on record of this game; call it off instead", was.Plays)
	}
	return contract.Gone{ID: id}, s.Calendar.DeleteGame(ctx, id)
}
