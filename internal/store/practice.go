package store

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"

	"nineyard/internal/app"
)

// Groups lists the position groups in the order of the lanes.
func (s *Store) Groups(ctx context.Context, club uuid.UUID) ([]app.Group, error) {
	var rows []app.Group
	return rows, s.db.WithContext(ctx).Table("position_groups").Where("club_id = ?", club).Order("sort").Find(&rows).Error
}

// Practices lists a season's practices by date.
func (s *Store) Practices(ctx context.Context, club, season uuid.UUID) ([]app.Practice, error) {
	var rows []app.Practice
	return rows, s.db.WithContext(ctx).Table("practices").Where("club_id = ? AND season_id = ?", club, season).
		Order("on_date, start_minute").Find(&rows).Error
}

// Games lists a season's games by date.
func (s *Store) Games(ctx context.Context, club, season uuid.UUID) ([]app.Game, error) {
	var rows []app.Game
	return rows, s.db.WithContext(ctx).Table("games").Where("club_id = ? AND season_id = ?", club, season).Order("on_date").Find(&rows).Error
}

// Practice reads one practice.
func (s *Store) Practice(ctx context.Context, club, id uuid.UUID) (app.Practice, error) {
	var p app.Practice
	return p, one(s.db.WithContext(ctx).Table("practices").Where("club_id = ? AND id = ?", club, id).Take(&p))
}

// NextPractice finds the first practice on or after a day with a period that is the
// group's own.
func (s *Store) NextPractice(ctx context.Context, club, season uuid.UUID, group string, from time.Time) (app.Practice, error) {
	var p app.Practice
	return p, one(s.db.WithContext(ctx).Raw(`
		SELECT p.* FROM practices p
		WHERE p.club_id = ? AND p.season_id = ? AND p.on_date >= ?
		  AND EXISTS (SELECT 1 FROM periods e JOIN period_groups g ON g.period_id = e.id
		              WHERE e.practice_id = p.id AND e.kind = 'individual' AND g.group_key = ?)
		ORDER BY p.on_date, p.start_minute LIMIT 1`, club, season, from, group).Scan(&p))
}

const periodColumns = `
	SELECT e.*, coalesce(u.name, '') AS changed_by,
	       coalesce((SELECT string_agg(g.group_key, ',') FROM period_groups g WHERE g.period_id = e.id), '') AS group_keys
	FROM periods e LEFT JOIN users u ON u.id = e.updated_by AND u.club_id = e.club_id`

type periodRow struct {
	app.Period
	GroupKeys string
}

func (r periodRow) period() app.Period {
	if r.GroupKeys != "" {
		r.Period.Groups = strings.Split(r.GroupKeys, ",")
	}
	return r.Period
}

// Periods lists the periods of a practice by their start.
func (s *Store) Periods(ctx context.Context, club, practice uuid.UUID) ([]app.Period, error) {
	var rows []periodRow
	err := s.db.WithContext(ctx).Raw(periodColumns+` WHERE e.club_id = ? AND e.practice_id = ? ORDER BY e.start, e.id`, club, practice).Scan(&rows).Error
	periods := make([]app.Period, len(rows))
	for i, r := range rows {
		periods[i] = r.period()
	}
	return periods, err
}

// Period reads one period, locking it for the transaction when asked.
func (s *Store) Period(ctx context.Context, club, id uuid.UUID, lock bool) (app.Period, error) {
	query := periodColumns + ` WHERE e.club_id = ? AND e.id = ?`
	if lock {
		query += ` FOR UPDATE OF e`
	}
	var row periodRow
	err := one(s.db.WithContext(ctx).Raw(query, club, id).Scan(&row))
	return row.period(), err
}

const placementColumns = `
	SELECT pl.*, (SELECT count(*) FROM mark_slots m WHERE m.placement_id = pl.id AND m.state <> 'withdrawn') AS marks
	FROM placements pl JOIN periods e ON e.id = pl.period_id`

// Placements lists the placed drills of a practice by period and start.
func (s *Store) Placements(ctx context.Context, club, practice uuid.UUID) ([]app.Placement, error) {
	var rows []app.Placement
	return rows, s.db.WithContext(ctx).Raw(placementColumns+` WHERE pl.club_id = ? AND e.practice_id = ? ORDER BY e.start, pl.start`, club, practice).Scan(&rows).Error
}

// PeriodPlacements lists the placed drills of a period by start.
func (s *Store) PeriodPlacements(ctx context.Context, club, period uuid.UUID) ([]app.Placement, error) {
	var rows []app.Placement
	return rows, s.db.WithContext(ctx).Raw(placementColumns+` WHERE pl.club_id = ? AND pl.period_id = ? ORDER BY pl.start`, club, period).Scan(&rows).Error
}

// ReplacePlacements makes the placements of a period those given, keeping the rows
// that stay, and raises the period's version.
func (s *Store) ReplacePlacements(ctx context.Context, club, period, by uuid.UUID, at time.Time, placements []app.Placement) error {
	db := s.db.WithContext(ctx)
	keep := []uuid.UUID{uuid.Nil}
	for _, p := range placements {
		keep = append(keep, p.ID)
	}
	if err := db.Exec(`DELETE FROM placements WHERE club_id = ? AND period_id = ? AND id NOT IN ?`, club, period, keep).Error; err != nil {
		return err
	}
	rows := make([]map[string]any, len(placements))
	for i, p := range placements {
		rows[i] = map[string]any{"id": p.ID, "club_id": club, "period_id": period, "drill_key": p.DrillKey,
			"start": p.Start, "minutes": p.Minutes, "lanes": p.Lanes, "technique_key": p.TechniqueKey, "created_by": by, "updated_at": at}
	}
	if len(rows) > 0 {
		// The WHERE keeps an id of another club or period from being taken over.
		upsert := db.Table("placements").Clauses(clause.OnConflict{
			Columns:   []clause.Column{{Name: "id"}},
			DoUpdates: clause.AssignmentColumns([]string{"drill_key", "start", "minutes", "lanes", "technique_key", "updated_at"}),
			Where:     clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: "placements.club_id = ? AND placements.period_id = ?", Vars: []any{club, period}}}},
		}).Create(&rows)
		if upsert.Error != nil {
			return upsert.Error
		}
		if int(upsert.RowsAffected) != len(rows) {
			return app.ErrIDTaken
		}
	}
	return db.Exec(`UPDATE periods SET version = version + 1, updated_by = ?, updated_at = ? WHERE club_id = ? AND id = ?`, by, at, club, period).Error
}

// PlacementsByID reads placements with the practice and the group they belong to.
func (s *Store) PlacementsByID(ctx context.Context, club uuid.UUID, ids []uuid.UUID) ([]app.PlacementOn, error) {
	var rows []app.PlacementOn
	return rows, s.db.WithContext(ctx).Raw(`
		SELECT pl.*, p.id AS practice_id, p.on_date,
		       (SELECT min(g.group_key) FROM period_groups g WHERE g.period_id = e.id) AS group_key
		FROM placements pl JOIN periods e ON e.id = pl.period_id JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = ? AND pl.id IN ?`, club, ids).Scan(&rows).Error
}
