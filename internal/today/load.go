package today

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"nineyard/core/crew"
	"nineyard/core/load"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/roster/squad"
)

// Load says what a week's drills of a group ask of every player, and where that jumps.
func (s *Service) Load(ctx context.Context, c access.Coach, group string, week int) (contract.Load, error) {
	out := contract.Load{Week: week, Players: []contract.LoadLine{}, Warnings: []contract.LoadWarning{}}
	if _, err := c.Group(group); err != nil {
		return out, err
	}
	if _, err := c.WeekEnd(week, s.Now()); err != nil {
		return out, err
	}
	h, err := s.Houses.Of(ctx, c)
	if err != nil {
		return out, err
	}
	placed, err := s.Scripts.Between(ctx, c, group, season.WeekStart(c.Season.Start, max(1, week-load.Weeks)), season.WeekStart(c.Season.Start, week+1)-1)
	if err != nil {
		return out, err
	}
	var given []load.Given
	var strains []load.Strain
	runs := map[uuid.UUID][]practice.Run{}
	days := map[uuid.UUID]script.PlacedOn{}
	first := map[season.Date]uuid.UUID{} // practice of a day
	players := map[string]squad.Player{}
	there := map[season.Date][]squad.Player{}
	for _, p := range placed {
		d, ok := h.Library.Drill(p.DrillKey)
		if !ok {
			continue
		}
		if there[p.On] == nil {
			if there[p.On], err = s.Squad.Group(ctx, group, p.On); err != nil {
				return out, err
			}
		}
		if c.WeekOf(p.On) == week {
			days[p.PracticeID] = p
			if _, there := first[p.On]; !there {
				first[p.On] = p.PracticeID
			}
			runs[p.PracticeID] = append(runs[p.PracticeID], practice.Run{Name: d.Name, Technique: d.Technique, Start: p.At, Contact: crew.Contact(d), Early: d.Early, Conditioning: p.Kind == "conditioning"})
		}
		att, _ := squad.Attendance(there[p.On])
		_, y, _ := crew.Planned(d, att, p.Minutes, p.Lanes)
		full, _ := squad.Crew(there[p.On], d)
		for _, x := range full {
			players[x.ID.String()] = x
			given = append(given, load.Given{Player: x.ID.String(), Week: c.WeekOf(p.On), Reps: y.PerPlayer.Mean, High: crew.Meets(d)})
			for what, n := range load.Counts(d.Load) {
				strains = append(strains, load.Strain{Player: x.ID.String(), On: p.On, What: what, N: n * y.PerPlayer.Mean})
			}
		}
	}
	for _, l := range load.Of(week, given) {
		p := players[l.Player]
		out.Players = append(out.Players, contract.LoadLine{PlayerID: p.ID, Jersey: p.Jersey, Name: p.LastName, Reps: whole(l.Planned.All), High: whole(l.Planned.High), Average: whole(l.Average.All),
			HighAverage: whole(l.Average.High), Over: l.Over.All, HighOver: l.Over.High})
	}
	set, err := s.Scripts.Settings(ctx, c)
	if err != nil {
		return out, err
	}
	warn := func(practice uuid.UUID, on season.Date, says string) {
		out.Warnings = append(out.Warnings, contract.LoadWarning{PracticeID: practice, Date: on.String(), Says: says})
	}
	for id, list := range runs {
		for _, says := range practice.Misplaced(days[id].Of, list) {
			warn(id, days[id].On, says)
		}
	}
	for _, x := range load.Over(limitsOf(set.Limits), strains) {
		if id, ok := first[x.On]; ok {
			warn(id, x.On, overSays(players[x.Player], x))
		}
	}
	slices.SortStableFunc(out.Warnings, func(a, b contract.LoadWarning) int {
		return cmp.Or(cmp.Compare(a.Date, b.Date), cmp.Compare(a.Says, b.Says))
	})
	slices.SortFunc(out.Players, func(a, b contract.LoadLine) int {
		return cmp.Or(cmp.Compare(len(a.Jersey), len(b.Jersey)), cmp.Compare(a.Jersey, b.Jersey), cmp.Compare(a.Name, b.Name))
	})
	return out, nil
}

// limitsOf takes the club's limits of throws, kicks and sprints to the core.
func limitsOf(l contract.PracticeLimits) load.Limits {
	out := load.Limits{Day: map[string]int{}}
	for what, n := range map[string]*int{load.Throws: l.ThrowsDay, load.Kicks: l.KicksDay, load.Sprint: l.SprintDay} {
		if n != nil {
			out.Day[what] = *n
		}
	}
	if l.RestAfter != nil {
		out.RestAfter = *l.RestAfter
	}
	return out
}

// overSays words a day that asks too much of a player.
func overSays(p squad.Player, x load.Strained) string {
	does := map[string]string{load.Throws: "throws", load.Kicks: "kicks", load.Sprint: "sprints"}[x.What]
	unit := ""
	if x.What == load.Sprint {
		unit = " yards"
	}
	var parts []string
	if x.Limit > 0 {
		parts = append(parts, fmt.Sprintf("%s %d%s: %d a day at most", does, whole(x.N), unit, x.Limit))
	}
	if x.Days > 0 {
		parts = append(parts, fmt.Sprintf("%s on day %d in a row: a day of rest", does, x.Days))
	}
	return fmt.Sprintf("%s %s %s", p.Jersey, p.LastName, strings.Join(parts, "; "))
}
