package calls

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/lineup"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/problem"
	"nineyard/internal/roster/squad"
)

// LineUp returns a group's line-up as it holds in a week, with the group's players.
func (s *Service) LineUp(ctx context.Context, c access.Coach, group string, week int) (contract.LineUp, error) {
	if _, err := c.Group(group); err != nil {
		return contract.LineUp{}, err
	}
	asOf, err := c.WeekEnd(week, s.Now())
	if err != nil {
		return contract.LineUp{}, err
	}
	players, err := s.Squad.Group(ctx, group, asOf)
	if err != nil {
		return contract.LineUp{}, err
	}
	was, err := s.lineUp(ctx, c, group, week)
	return lineUpView(c, was, players), err
}

// lineUp is a group's line-up as it is kept, empty when it was never made.
func (s *Service) lineUp(ctx context.Context, c access.Coach, group string, week int) (LineUp, error) {
	all, err := s.Store.LineUps(ctx, c.Season.ID, week)
	if i := slices.IndexFunc(all, func(l LineUp) bool { return l.Group == group }); i >= 0 {
		return all[i], err
	}
	return LineUp{Group: group}, err
}

func lineUpView(c access.Coach, l LineUp, players []squad.Player) contract.LineUp {
	v := contract.LineUp{Group: l.Group, Version: l.Version, Week: l.Week, Editable: c.MayEdit(l.Group), Spots: []contract.LineUpSpot{}, Players: []contract.Player{}, Positions: []string{}}
	if l.ChangedBy != "" {
		v.ChangedBy = &l.ChangedBy
	}
	for _, p := range players {
		v.Players = append(v.Players, squad.View(p))
		if p.Position != "" && !slices.Contains(v.Positions, p.Position) {
			v.Positions = append(v.Positions, p.Position)
		}
	}
	for _, spot := range present(l.Spots, players) {
		x := contract.LineUpSpot{Name: spot.Name, Players: []contract.LineUpPlace{}}
		for _, p := range spot.Players {
			x.Players = append(x.Players, contract.LineUpPlace{PlayerID: uuid.MustParse(p.Player), Share: p.Share})
		}
		v.Spots = append(v.Spots, x)
	}
	return v
}

// present is a line-up without those who have left the group since.
func present(l lineup.LineUp, players []squad.Player) lineup.LineUp {
	here := map[string]bool{}
	for _, p := range players {
		here[p.ID.String()] = true
	}
	var out lineup.LineUp
	for _, spot := range l {
		left := lineup.Spot{Name: spot.Name}
		for _, p := range spot.Players {
			twice := slices.ContainsFunc(left.Players, func(o lineup.Place) bool { return o.Player == p.Player })
			if here[p.Player] && !twice { // twice: two entries that were one player
				left.Players = append(left.Players, p)
			}
		}
		out = append(out, left)
	}
	return out
}

// PutLineUp writes a group's line-up from a week on; what held before keeps holding before. It
// returns a *problem.Stale when it was changed since the version given.
func (s *Service) PutLineUp(ctx context.Context, c access.Coach, group string, week, version int, in contract.LineUpInput) (contract.LineUp, error) {
	if _, err := c.Group(group); err != nil {
		return contract.LineUp{}, err
	}
	if !c.MayEdit(group) {
		return contract.LineUp{}, problem.ErrForbidden
	}
	if week < 1 || week > c.Season.Weeks {
		return contract.LineUp{}, invalid.Field("week", "week %d is outside the season, which has %d weeks", week, c.Season.Weeks)
	}
	players, err := s.Squad.Group(ctx, group, c.Today(s.Now()))
	if err != nil {
		return contract.LineUp{}, err
	}
	next := LineUp{Group: group, Week: week, Version: version + 1}
	for _, x := range in.Spots {
		spot := lineup.Spot{Name: strings.TrimSpace(x.Name)}
		for _, p := range x.Players {
			spot.Players = append(spot.Players, lineup.Place{Player: p.PlayerID.String(), Share: p.Share})
		}
		next.Spots = append(next.Spots, spot)
	}
	if err := next.Spots.Check(); err != nil {
		return contract.LineUp{}, err
	}
	byID := squad.ByID(players)
	for _, x := range in.Spots {
		for _, p := range x.Players {
			if _, here := byID[p.PlayerID]; !here {
				return contract.LineUp{}, invalid.Field("spots", "a player at %s is not in the group", x.Name)
			}
		}
	}
	// The newest of the season: versions go on from week to week.
	was, err := s.lineUp(ctx, c, group, c.Season.Weeks)
	if err != nil {
		return contract.LineUp{}, err
	}
	if was.Version != version && was.Week == week && slices.EqualFunc(was.Spots, next.Spots, func(a, b lineup.Spot) bool { return a.Name == b.Name && slices.Equal(a.Players, b.Players) }) {
		return lineUpView(c, was, players), nil // sent again after a lost answer
	}
	done, err := s.Store.PutLineUp(ctx, c.Season.ID, next, c.ID, s.Now())
	if err != nil {
		return contract.LineUp{}, err
	}
	if !done {
		return contract.LineUp{}, &problem.Stale{What: "line-up", By: was.ChangedBy, Current: lineUpView(c, was, players)}
	}
	next.ChangedBy = c.Name
	return lineUpView(c, next, players), nil
}
