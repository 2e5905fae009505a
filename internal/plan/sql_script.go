package plan

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
)

// Put writes a period with its groups, new when its version is 0, and raises its version.
func (SQL) Put(ctx context.Context, p script.Period, by uuid.UUID, at time.Time) error {
	equipment, err := json.Marshal(append([]contract.EquipmentUse{}, p.Equipment...))
	if err != nil {
		return err
	}
	args := pg.Args{"id": p.ID, "practice": p.PracticeID, "start": p.Start, "minutes": p.Minutes, "kind": p.Kind, "name": p.Name, "contact": p.Contact, "place": p.Place,
		"coaches": append([]string{}, p.Coaches...), "equipment": string(equipment), "needs": append([]string{}, p.NeedsGroups...), "rep": p.RepSeconds, "by": by, "at": at, "groups": append([]string{}, p.Groups...)}
	write := `
		INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact, place, coaches, equipment, needs, rep_seconds, version, updated_by, updated_at)
		VALUES (@id, @club, @practice, @start, @minutes, @kind, @name, @contact, @place, @coaches, @equipment::jsonb, @needs, @rep, 1, @by, @at)`
	if p.Version > 0 {
		write = `
		UPDATE periods SET start = @start, minutes = @minutes, kind = @kind, name = @name, contact = @contact, place = @place, coaches = @coaches, equipment = @equipment::jsonb,
		                   needs = @needs, rep_seconds = @rep, version = version + 1, updated_by = @by, updated_at = @at
		WHERE club_id = @club AND id = @id`
	}
	if _, err := pg.Exec(ctx, write, args); err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		WITH gone AS (DELETE FROM period_groups WHERE club_id = @club AND period_id = @id AND group_key <> ALL (@groups::text[]))
		INSERT INTO period_groups (club_id, period_id, group_key, drills_version)
		SELECT @club, @id, g, (SELECT version FROM periods WHERE club_id = @club AND id = @id) FROM unnest(@groups::text[]) g
		ON CONFLICT (period_id, group_key) DO UPDATE SET drills_version = excluded.drills_version`, args)
	return err
}

// Delete takes a period out, with what is placed in it.
func (SQL) Delete(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM periods WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// Settings reads the club's settings with its staff.
func (SQL) Settings(ctx context.Context) (s Settings, err error) {
	type row struct {
		Version   *int
		Settings  json.RawMessage
		ChangedBy string
		Staff     json.RawMessage
	}
	r, _, err := pg.One[row](ctx, `
		SELECT s.version, s.settings, coalesce((SELECT u.name FROM users u WHERE u.club_id = @club AND u.id = s.updated_by), '') AS changed_by,
		       coalesce((SELECT jsonb_agg(jsonb_build_object('key', u.id, 'name', u.name) ORDER BY u.role = 'head' DESC, u.name, u.id) FROM users u WHERE u.club_id = @club AND u.role NOT IN ('health', 'reader') AND u.removed_at IS NULL AND u.suspended_at IS NULL), '[]') AS staff
		FROM (SELECT 1) one LEFT JOIN practice_settings s ON s.club_id = @club`, nil)
	if err != nil {
		return s, err
	}
	if err := json.Unmarshal(r.Staff, &s.Staff); err != nil {
		return s, err
	}
	s.ChangedBy = r.ChangedBy
	if r.Version == nil {
		s.Kept = Begin()
		return s, nil
	}
	s.Version = *r.Version
	return s, json.Unmarshal(r.Settings, &s.Kept)
}

// PutSettings writes them as the version given; false when that is not the one that comes next.
func (SQL) PutSettings(ctx context.Context, version int, k Kept, by uuid.UUID, at time.Time) (bool, error) {
	text, err := json.Marshal(k)
	if err != nil {
		return false, err
	}
	n, err := pg.Exec(ctx, `
		INSERT INTO practice_settings (club_id, version, settings, updated_by, updated_at) SELECT @club, @version, @settings::jsonb, @by, @at
		WHERE @version = 1 OR EXISTS (SELECT 1 FROM practice_settings WHERE club_id = @club)
		ON CONFLICT (club_id) DO UPDATE SET version = excluded.version, settings = excluded.settings, updated_by = excluded.updated_by, updated_at = excluded.updated_at
		WHERE practice_settings.version = excluded.version - 1`, pg.Args{"version": version, "settings": string(text), "by": by, "at": at})
	return n == 1, err
}
