package plan

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/conditions"
	"nineyard/core/season"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
)

// Day reads what is known of a practice's day, in one statement. A head-injury hold ends with the day
// before its clearance.
func (SQL) Day(ctx context.Context, p script.Practice, seasonID uuid.UUID, group string) (Day, error) {
	type row struct {
		Practices []time.Time
		Readings  json.RawMessage
		Absences  json.RawMessage
	}
	r, _, err := pg.One[row](ctx, `
		SELECT coalesce((SELECT array_agg(DISTINCT p.on_date ORDER BY p.on_date) FROM practices p
		                 WHERE p.club_id = @club AND p.season_id = @season AND p.cancelled IS NULL AND p.on_date <= @day), '{}') AS practices,
		       coalesce((SELECT jsonb_agg(jsonb_build_object('ID', h.id, 'Index', h.index, 'At', h.created_at, 'By', coalesce(u.name, '')) ORDER BY h.created_at DESC, h.id)
		                 FROM heat_readings h LEFT JOIN users u ON u.id = h.created_by AND u.club_id = h.club_id WHERE h.club_id = @club AND h.practice_id = @practice), '[]') AS readings,
		       coalesce((SELECT jsonb_agg(jsonb_build_object('Player', s.player_id, 'From', s.from_on - '1970-01-01'::date,
		                                  'To', coalesce(CASE WHEN s.status = 'head_hold' THEN s.cleared_on - 1 ELSE s.to_on END - '1970-01-01'::date, 0)))
		                 FROM availability_spells s JOIN player_groups g ON g.club_id = @club AND g.player_id = s.player_id AND g.group_key = @grp
		                 WHERE s.club_id = @club AND s.withdrawn_at IS NULL AND s.status IN ('out', 'head_hold') AND s.from_on <= @day), '[]') AS absences`,
		pg.Args{"season": seasonID, "day": p.On.Time(), "practice": p.ID, "grp": group})
	d := Day{Absences: map[uuid.UUID][]conditions.Absence{}}
	if err != nil {
		return d, err
	}
	for _, on := range r.Practices {
		d.Practices = append(d.Practices, season.Of(on))
	}
	if err := json.Unmarshal(r.Readings, &d.Readings); err != nil {
		return d, err
	}
	var absences []struct {
		Player   uuid.UUID
		From, To int
	}
	if err := json.Unmarshal(r.Absences, &absences); err != nil {
		return d, err
	}
	for _, a := range absences {
		if a.To == 0 || a.To >= a.From { // a hold that was cleared on its first day was none
			d.Absences[a.Player] = append(d.Absences[a.Player], conditions.Absence{From: season.Date(a.From), To: season.Date(a.To)})
		}
	}
	return d, nil
}

// PutReading enters a heat index.
func (SQL) PutReading(ctx context.Context, practice uuid.UUID, r Reading, by uuid.UUID) error {
	_, err := pg.Exec(ctx, `
		INSERT INTO heat_readings (club_id, id, practice_id, index, created_by, created_at) VALUES (@club, @id, @practice, @index, @by, @at) ON CONFLICT (id) DO NOTHING`,
		pg.Args{"id": r.ID, "practice": practice, "index": r.Index, "by": by, "at": r.At})
	return err
}
