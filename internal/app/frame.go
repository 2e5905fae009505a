package app

import (
	"context"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/contract"
)

// Frame returns what holds for every screen.
func (s *Service) Frame(ctx context.Context, a Actor) (contract.Frame, error) {
	groups, err := s.Store.Groups(ctx, a.ClubID)
	if err != nil {
		return contract.Frame{}, err
	}
	practices, err := s.Store.Practices(ctx, a.ClubID, a.SeasonID)
	if err != nil {
		return contract.Frame{}, err
	}
	games, err := s.Store.Games(ctx, a.ClubID, a.SeasonID)
	if err != nil {
		return contract.Frame{}, err
	}
	today := s.today(a)
	f := contract.Frame{Club: a.ClubName, Today: today.String(), Week: min(max(season.Week(a.start(), today), 1), a.SeasonWeeks)}
	for _, g := range groups {
		mine := false
		for _, k := range a.Groups {
			mine = mine || k == g.Key
		}
		f.Groups = append(f.Groups, contract.GroupRef{Key: g.Key, Name: g.Name, Short: g.Short, Mine: mine})
	}
	for w := 1; w <= a.SeasonWeeks; w++ {
		f.Weeks = append(f.Weeks, contract.SeasonWeek{Week: w, Starts: season.WeekStart(a.start(), w).String(),
			Practices: []contract.PracticeRef{}, Games: []contract.GameRef{}})
	}
	for _, p := range practices {
		if w := season.Week(a.start(), season.Of(p.OnDate)); w >= 1 && w <= a.SeasonWeeks {
			f.Weeks[w-1].Practices = append(f.Weeks[w-1].Practices, practiceRef(p))
		}
	}
	for _, g := range games {
		if w := season.Week(a.start(), season.Of(g.OnDate)); w >= 1 && w <= a.SeasonWeeks {
			f.Weeks[w-1].Games = append(f.Weeks[w-1].Games, contract.GameRef{ID: g.ID, Date: season.Of(g.OnDate).String(), Opponent: g.Opponent, Home: g.Home})
		}
	}
	return f, nil
}

// checkWeek refuses a week outside the season.
func (a Actor) checkWeek(week int) error {
	if week < 1 || week > a.SeasonWeeks {
		return invalid.Field("week", "week %d is outside the season, which has %d weeks", week, a.SeasonWeeks)
	}
	return nil
}
