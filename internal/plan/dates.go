package plan

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/core/invalid"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// Span is the dates of a season and its phases.
type Span struct {
	Start     season.Date
	Weeks     int
	Phases    []season.Phase
	Version   int
	ChangedBy string
}

func (s Span) view() contract.SeasonDates {
	return contract.SeasonDates{Version: s.Version, Dates: contract.SeasonInput{Start: s.Start.String(), Weeks: s.Weeks, Phases: phaseViews(s.Phases)}}
}

func phaseViews(phases []season.Phase) []contract.SeasonPhase {
	out := []contract.SeasonPhase{}
	for _, p := range phases {
		out = append(out, contract.SeasonPhase{Name: p.Name, From: p.From.String()})
	}
	return out
}

// PutSeason sets the dates of the season and its phases; the head coach alone may. What is on the
// calendar stays where it is: a season that would leave it outside is refused, naming it. It returns
// a *problem.Stale when it was changed since the version given.
func (s *Service) PutSeason(ctx context.Context, c access.Coach, version int, in contract.SeasonInput) (contract.SeasonDates, error) {
	if !c.IsHead() {
		return contract.SeasonDates{}, problem.ErrForbidden
	}
	was, err := s.Calendar.Span(ctx, c.Season.ID)
	if err != nil {
		return contract.SeasonDates{}, err
	}
	next := Span{Weeks: in.Weeks, Version: was.Version}
	if next.Start, err = season.Parse(in.Start); err != nil {
		return contract.SeasonDates{}, invalid.Field("start", "%s", err)
	}
	for _, p := range in.Phases {
		from, err := season.Parse(p.From)
		if err != nil {
			return contract.SeasonDates{}, invalid.Field("phases", "%s", err)
		}
		next.Phases = append(next.Phases, season.Phase{Name: strings.TrimSpace(p.Name), From: from})
	}
	switch {
	case was.Start == next.Start && was.Weeks == next.Weeks && slices.Equal(was.Phases, next.Phases): // sent again after a lost answer
		return was.view(), nil
	case version != was.Version:
		return contract.SeasonDates{}, &problem.Stale{What: "season", By: was.ChangedBy, Current: was.view()}
	}
	if err := invalid.IntRange("weeks", next.Weeks, 1, season.MaxWeeks); err != nil {
		return contract.SeasonDates{}, err
	}
	if err := season.CheckPhases(next.Start, next.Weeks, next.Phases); err != nil {
		return contract.SeasonDates{}, err
	}
	practices, games, err := s.Store.Calendar(ctx, c.Season.ID)
	if err != nil {
		return contract.SeasonDates{}, err
	}
	days := map[season.Date]string{}
	for _, p := range practices {
		days[p.On] = p.Title
	}
	for _, g := range games {
		days[g.On] = "the game against " + g.Opponent
	}
	for d, what := range days {
		if !season.Within(next.Start, next.Weeks, d) {
			field := "weeks"
			if d < next.Start {
				field = "start"
			}
			return contract.SeasonDates{}, invalid.Field(field, "%s on %s would lie outside of the season", what, d)
		}
	}
	if err := s.Calendar.PutSpan(ctx, c.Season.ID, next, c.ID, s.Now()); err != nil {
		return contract.SeasonDates{}, err
	}
	next.Version++
	return next.view(), nil
}

// phaseRow is how a phase is written.
type phaseRow struct {
	Name string `json:"name"`
	From string `json:"from"`
}

// Span reads the dates of a season and holds them until the transaction ends.
func (SQL) Span(ctx context.Context, seasonID uuid.UUID) (Span, error) {
	type row struct {
		StartsOn  time.Time
		Weeks     int
		Phases    json.RawMessage
		Version   int
		ChangedBy string
	}
	r, _, err := pg.One[row](ctx, `
		SELECT s.starts_on, s.weeks, s.phases, s.version, coalesce((SELECT u.name FROM users u WHERE u.club_id = @club AND u.id = s.updated_by), '') AS changed_by
		FROM seasons s WHERE s.club_id = @club AND s.id = @season`, pg.Args{"season": seasonID})
	if err != nil {
		return Span{}, err
	}
	var phases []phaseRow
	if err := json.Unmarshal(r.Phases, &phases); err != nil {
		return Span{}, err
	}
	out := Span{Start: season.Of(r.StartsOn), Weeks: r.Weeks, Version: r.Version, ChangedBy: r.ChangedBy}
	for _, p := range phases {
		from, err := season.Parse(p.From)
		if err != nil {
			return Span{}, err
		}
		out.Phases = append(out.Phases, season.Phase{Name: p.Name, From: from})
	}
	return out, nil
}

// PutSpan writes them.
func (SQL) PutSpan(ctx context.Context, seasonID uuid.UUID, s Span, by uuid.UUID, at time.Time) error {
	rows := []phaseRow{}
	for _, p := range s.Phases {
		rows = append(rows, phaseRow{p.Name, p.From.String()})
	}
	text, err := json.Marshal(rows)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		UPDATE seasons SET starts_on = @start, weeks = @weeks, phases = @phases::jsonb, version = version + 1, updated_by = @by, updated_at = @at WHERE club_id = @club AND id = @season`,
		pg.Args{"season": seasonID, "start": s.Start.Time(), "weeks": s.Weeks, "phases": string(text), "by": by, "at": at})
	return err
}
