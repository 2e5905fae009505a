package plan

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"

	"nineyard/core/season"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// practiceRow is a record of practices.
type practiceRow struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	ClubID      uuid.UUID
	SeasonID    uuid.UUID
	OnDate      time.Time
	Title       string
	Theme       string
	Place       string
	StartMinute int
	Minutes     int
	Version     int
	Cancelled   *string
	UpdatedBy   *uuid.UUID
	UpdatedAt   time.Time
}

// TableName is practices.
func (practiceRow) TableName() string { return "practices" }

func (r practiceRow) practice() script.Practice {
	p := script.Practice{ID: r.ID, On: season.Of(r.OnDate), Title: r.Title, Theme: r.Theme, Place: r.Place, StartMinute: r.StartMinute, Minutes: r.Minutes, Version: r.Version}
	if r.Cancelled != nil {
		p.Cancelled = *r.Cancelled
	}
	return p
}

// gameRow is a record of games.
type gameRow struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	ClubID    uuid.UUID
	SeasonID  uuid.UUID
	OnDate    time.Time
	Opponent  string
	Home      bool
	Version   int
	Cancelled *string
	UpdatedBy *uuid.UUID
	UpdatedAt time.Time
}

// TableName is games.
func (gameRow) TableName() string { return "games" }

func (r gameRow) game() Game {
	g := Game{ID: r.ID, On: season.Of(r.OnDate), Opponent: r.Opponent, Home: r.Home, Version: r.Version}
	if r.Cancelled != nil {
		g.Cancelled = *r.Cancelled
	}
	return g
}

// placementRow is a record of placements.
type placementRow struct {
	ID           uuid.UUID `gorm:"primaryKey"`
	ClubID       uuid.UUID
	PeriodID     uuid.UUID
	GroupKey     string
	DrillKey     string
	TechniqueKey string
	Cards        string
	Start        int
	Minutes      int
	Lanes        int
	CreatedBy    uuid.UUID
	UpdatedAt    time.Time
}

// TableName is placements.
func (placementRow) TableName() string { return "placements" }

// Calendar lists a season's practices and games by date.
func (SQL) Calendar(ctx context.Context, seasonID uuid.UUID) ([]script.Practice, []Game, error) {
	var practices []practiceRow
	if err := pg.Gorm(ctx).Where("season_id = ?", seasonID).Order("on_date, start_minute, id").Find(&practices).Error; err != nil {
		return nil, nil, err
	}
	var games []gameRow
	if err := pg.Gorm(ctx).Where("season_id = ?", seasonID).Order("on_date, id").Find(&games).Error; err != nil {
		return nil, nil, err
	}
	list := make([]script.Practice, len(practices))
	for i, r := range practices {
		list[i] = r.practice()
	}
	played := make([]Game, len(games))
	for i, r := range games {
		played[i] = r.game()
	}
	return list, played, nil
}

// Practice reads one practice.
func (SQL) Practice(ctx context.Context, id uuid.UUID) (script.Practice, bool, error) {
	var r practiceRow
	err := pg.Gorm(ctx).Where("id = ?", id).Take(&r).Error
	if pg.Missing(err) {
		return script.Practice{}, false, nil
	}
	return r.practice(), err == nil, err
}

// periodRow is a period as it is read, with its groups and what is placed in it.
type periodRow struct {
	ID         uuid.UUID
	PracticeID uuid.UUID
	Start      int
	Minutes    int
	Kind       string
	Name       string
	Contact    string
	Version    int
	ChangedBy  string
	Groups     []string
	Since      map[string]int
	Place      string
	Coaches    []string
	Equipment  json.RawMessage
	Needs      []string
	RepSeconds float64
	Placements json.RawMessage
	Marks      int
}

// periods reads periods with all that belongs to them, in one statement.
const periods = `
	SELECT e.id, e.practice_id, e.start, e.minutes, e.kind, e.name, e.contact, e.version, coalesce(u.name, '') AS changed_by,
	       e.place, e.coaches, e.equipment, e.needs, e.rep_seconds::float8 AS rep_seconds,
	       coalesce((SELECT array_agg(g.group_key ORDER BY pos.sort, g.group_key) FROM period_groups g
	                 JOIN position_groups pos ON pos.club_id = g.club_id AND pos.key = g.group_key WHERE g.period_id = e.id), '{}') AS groups,
	       coalesce((SELECT jsonb_object_agg(g.group_key, g.drills_version) FROM period_groups g WHERE g.period_id = e.id), '{}') AS since,
	       coalesce((SELECT jsonb_agg(jsonb_build_object('ID', pl.id, 'Group', pl.group_key, 'DrillKey', pl.drill_key, 'TechniqueKey', pl.technique_key, 'Cards', pl.cards, 'Start', pl.start,
	                                  'Minutes', pl.minutes, 'Lanes', pl.lanes, 'Marks', (SELECT coalesce(sum(length(m.reps)), 0) FROM mark_runs m
	                                   WHERE m.club_id = @club AND m.place_id = pl.id)) ORDER BY pl.start, pl.id)
	                 FROM placements pl WHERE pl.club_id = @club AND pl.period_id = e.id), '[]') AS placements,
	       (SELECT coalesce(sum(length(m.reps)), 0) FROM mark_runs m WHERE m.club_id = @club AND m.place_id = e.id)::int AS marks
	FROM periods e LEFT JOIN users u ON u.id = e.updated_by AND u.club_id = e.club_id
	WHERE e.club_id = @club `

func (r periodRow) period() (script.Period, error) {
	p := script.Period{ID: r.ID, PracticeID: r.PracticeID, Start: r.Start, Minutes: r.Minutes, Kind: r.Kind, Name: r.Name, Contact: r.Contact,
		Version: r.Version, Groups: r.Groups, Place: r.Place, Coaches: r.Coaches, NeedsGroups: r.Needs, RepSeconds: r.RepSeconds, ChangedBy: r.ChangedBy, Since: r.Since, Marks: r.Marks}
	if err := json.Unmarshal(r.Equipment, &p.Equipment); err != nil {
		return p, err
	}
	return p, json.Unmarshal(r.Placements, &p.Placements)
}

func readPeriods(ctx context.Context, where string, args pg.Args) ([]script.Period, error) {
	rows, err := pg.Select[periodRow](ctx, periods+where, args)
	list := make([]script.Period, len(rows))
	for i, r := range rows {
		if list[i], err = r.period(); err != nil {
			return nil, err
		}
	}
	return list, err
}

// Script lists the periods of a practice by their start.
func (SQL) Script(ctx context.Context, practice uuid.UUID) ([]script.Period, error) {
	return readPeriods(ctx, `AND e.practice_id = @practice ORDER BY e.start, e.id`, pg.Args{"practice": practice})
}

// Period reads one period and holds it until the transaction ends.
func (SQL) Period(ctx context.Context, id uuid.UUID) (script.Period, bool, error) {
	list, err := readPeriods(ctx, `AND e.id = @id FOR UPDATE OF e`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return script.Period{}, false, err
	}
	return list[0], true, nil
}

// PracticeOf reads the practice in which a period lies.
func (SQL) PracticeOf(ctx context.Context, period uuid.UUID) (script.Practice, bool, error) {
	var r practiceRow
	err := pg.Gorm(ctx).Where("id = (SELECT practice_id FROM periods WHERE club_id = ? AND id = ?)", pg.Club(ctx), period).Take(&r).Error
	if pg.Missing(err) {
		return script.Practice{}, false, nil
	}
	return r.practice(), err == nil, err
}

// Replace makes the placements that groups have in a period those given, keeping the rows that
// stay, and raises the period's version.
func (SQL) Replace(ctx context.Context, period uuid.UUID, groups []string, by uuid.UUID, at time.Time, list []script.Placement) error {
	keep := []uuid.UUID{uuid.Nil}
	rows := make([]placementRow, len(list))
	for i, p := range list {
		keep = append(keep, p.ID)
		rows[i] = placementRow{ID: p.ID, PeriodID: period, GroupKey: p.Group, DrillKey: p.DrillKey, TechniqueKey: p.TechniqueKey, Cards: p.Cards, Start: p.Start, Minutes: p.Minutes, Lanes: p.Lanes, CreatedBy: by, UpdatedAt: at}
	}
	db := pg.Gorm(ctx)
	if err := db.Where("period_id = ? AND group_key IN ? AND id NOT IN ?", period, groups, keep).Delete(&placementRow{}).Error; err != nil {
		return err
	}
	if len(rows) > 0 {
		// The WHERE keeps an id of another club or period from being taken over.
		upsert := db.Clauses(clause.OnConflict{
			Columns:   []clause.Column{{Name: "id"}},
			DoUpdates: clause.AssignmentColumns([]string{"drill_key", "start", "minutes", "lanes", "technique_key", "cards", "updated_at"}),
			Where:     clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: "placements.club_id = ? AND placements.period_id = ? AND placements.group_key = excluded.group_key", Vars: []any{pg.Club(ctx), period}}}},
		}).Create(&rows)
		if upsert.Error != nil {
			return upsert.Error
		}
		if int(upsert.RowsAffected) != len(rows) {
			return problem.ErrTaken
		}
	}
	_, err := pg.Exec(ctx, `
		WITH raised AS (UPDATE periods SET version = version + 1, updated_by = @by, updated_at = @at WHERE club_id = @club AND id = @period RETURNING id, version)
		UPDATE period_groups g SET drills_version = r.version FROM raised r WHERE g.club_id = @club AND g.period_id = r.id AND g.group_key = ANY (@groups::text[])`,
		pg.Args{"period": period, "groups": groups, "by": by, "at": at})
	return err
}

// Relabel makes what was marked in a placement as one technique marks of another.
func (SQL) Relabel(ctx context.Context, placement uuid.UUID, was, now string) error {
	_, err := pg.Exec(ctx, `SELECT relabel_marks(@club, @placement, @was, @now)`, pg.Args{"placement": placement, "was": was, "now": now})
	return err
}

// Next reads the group's next practice with its own periods, in one statement.
func (SQL) Next(ctx context.Context, seasonID uuid.UUID, group string, from season.Date) (script.Next, bool, error) {
	type row struct {
		periodRow
		OnDate          time.Time
		Title           string
		Theme           string
		PracticePlace   string
		StartMinute     int
		PracticeMinutes int
	}
	rows, err := pg.Select[row](ctx, `
		WITH next AS MATERIALIZED (
			SELECT p.* FROM practices p
			JOIN periods e ON e.practice_id = p.id AND e.club_id = @club AND e.kind = 'individual'
			JOIN period_groups own ON own.period_id = e.id AND own.group_key = @grp
			WHERE p.club_id = @club AND p.season_id = @season AND p.cancelled IS NULL AND p.on_date >= @from AND (SELECT count(*) FROM period_groups g WHERE g.period_id = e.id) = 1
			ORDER BY p.on_date, p.start_minute, p.id LIMIT 1)
		SELECT x.*, next.on_date, next.title, next.theme, next.place AS practice_place, next.start_minute, next.minutes AS practice_minutes
		FROM next JOIN (`+periods+`) x ON x.practice_id = next.id
		WHERE x.kind IN ('individual', 'group') AND (x.groups = ARRAY[@grp::text] AND x.kind = 'individual' OR cardinality(x.groups) = 2 AND @grp = ANY (x.groups))
		ORDER BY cardinality(x.groups), x.start, x.id`,
		pg.Args{"season": seasonID, "grp": group, "from": from.Time()})
	if err != nil || len(rows) == 0 {
		return script.Next{}, false, err
	}
	first := rows[0]
	n := script.Next{Group: group, Practice: script.Practice{ID: first.PracticeID, On: season.Of(first.OnDate), Title: first.Title, Theme: first.Theme, Place: first.PracticePlace,
		StartMinute: first.StartMinute, Minutes: first.PracticeMinutes}}
	for _, r := range rows {
		p, err := r.period()
		if err != nil {
			return n, false, err
		}
		n.Periods = append(n.Periods, p)
	}
	return n, true, nil
}

// Placed reads placements with the practice and the group they belong to.
func (SQL) Placed(ctx context.Context, ids []uuid.UUID) ([]script.PlacedOn, error) {
	type row struct {
		ID           uuid.UUID
		DrillKey     string
		TechniqueKey string
		Cards        string
		Start        int
		Minutes      int
		Lanes        int
		Marks        int
		PracticeID   uuid.UUID
		OnDate       time.Time
		GroupKey     string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT pl.id, pl.drill_key, pl.technique_key, pl.cards, pl.start, pl.minutes, pl.lanes, p.id AS practice_id, p.on_date,
		       (SELECT coalesce(sum(length(m.reps)), 0) FROM mark_runs m WHERE m.club_id = @club AND m.place_id = pl.id)::int AS marks,
		       pl.group_key
		FROM placements pl JOIN periods e ON e.id = pl.period_id JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = @club AND pl.id = ANY (@ids) ORDER BY pl.id`, pg.Args{"ids": ids})
	list := make([]script.PlacedOn, len(rows))
	for i, r := range rows {
		list[i] = script.PlacedOn{Placement: script.Placement{ID: r.ID, Group: r.GroupKey, DrillKey: r.DrillKey, TechniqueKey: r.TechniqueKey, Cards: r.Cards, Start: r.Start, Minutes: r.Minutes, Lanes: r.Lanes, Marks: r.Marks},
			PracticeID: r.PracticeID, On: season.Of(r.OnDate)}
	}
	return list, err
}

// Between lists what a group has placed from day to day.
func (SQL) Between(ctx context.Context, seasonID uuid.UUID, group string, from, to season.Date) ([]script.PlacedOn, error) {
	type row struct {
		ID           uuid.UUID
		DrillKey     string
		TechniqueKey string
		Start        int
		Minutes      int
		Lanes        int
		PracticeID   uuid.UUID
		OnDate       time.Time
		At           int
		Whole        int
		Kind         string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT pl.id, pl.drill_key, pl.technique_key, pl.start, pl.minutes, pl.lanes, p.id AS practice_id, p.on_date, e.start + pl.start AS at, p.minutes AS whole, e.kind
		FROM practices p JOIN periods e ON e.practice_id = p.id AND e.club_id = @club
		JOIN placements pl ON pl.period_id = e.id AND pl.club_id = @club AND pl.group_key = @grp
		WHERE p.club_id = @club AND p.season_id = @season AND p.cancelled IS NULL AND p.on_date BETWEEN @from AND @to
		ORDER BY p.on_date, p.start_minute, e.start, pl.start, pl.id`, pg.Args{"season": seasonID, "grp": group, "from": from.Time(), "to": to.Time()})
	list := make([]script.PlacedOn, len(rows))
	for i, r := range rows {
		list[i] = script.PlacedOn{Placement: script.Placement{ID: r.ID, Group: group, DrillKey: r.DrillKey, TechniqueKey: r.TechniqueKey, Start: r.Start, Minutes: r.Minutes, Lanes: r.Lanes},
			PracticeID: r.PracticeID, On: season.Of(r.OnDate), At: r.At, Of: r.Whole, Kind: r.Kind}
	}
	return list, err
}
