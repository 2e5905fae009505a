package plan

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

const setRows = `
	SELECT x.id, x.group_key, x.name, x.every_day, x.drills, x.version, coalesce(u.name, '') AS changed_by
	FROM drill_sets x LEFT JOIN users u ON u.id = x.updated_by AND u.club_id = x.club_id WHERE x.club_id = @club `

type setRow struct {
	ID        uuid.UUID
	GroupKey  string
	Name      string
	EveryDay  bool
	Drills    json.RawMessage
	Version   int
	ChangedBy string
}

func (r setRow) set() (Set, error) {
	s := Set{ID: r.ID, Group: r.GroupKey, Name: r.Name, EveryDay: r.EveryDay, Version: r.Version, ChangedBy: r.ChangedBy}
	return s, json.Unmarshal(r.Drills, &s.Drills)
}

// Sets lists those of a group.
func (SQL) Sets(ctx context.Context, group string) ([]Set, error) {
	rows, err := pg.Select[setRow](ctx, setRows+`AND x.group_key = @grp ORDER BY x.every_day DESC, lower(x.name), x.id`, pg.Args{"grp": group})
	if err != nil {
		return nil, err
	}
	list := make([]Set, len(rows))
	for i, r := range rows {
		if list[i], err = r.set(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// Set reads one and holds it.
func (SQL) Set(ctx context.Context, id uuid.UUID) (Set, bool, error) {
	r, found, err := pg.One[setRow](ctx, setRows+`AND x.id = @id FOR UPDATE OF x`, pg.Args{"id": id})
	if err != nil || !found {
		return Set{ID: id}, false, err
	}
	s, err := r.set()
	return s, true, err
}

// PutSet writes one.
func (SQL) PutSet(ctx context.Context, s Set, by uuid.UUID, at time.Time) error {
	text, err := json.Marshal(append([]contract.SetDrill{}, s.Drills...))
	if err != nil {
		return err
	}
	write := `
		INSERT INTO drill_sets (club_id, id, group_key, name, every_day, drills, updated_by, updated_at)
		VALUES (@club, @id, @grp, @name, @every, @drills::jsonb, @by, @at)`
	if s.Version > 0 {
		write = `
		UPDATE drill_sets SET name = @name, every_day = @every, drills = @drills::jsonb, version = version + 1, updated_by = @by, updated_at = @at
		WHERE club_id = @club AND id = @id`
	}
	_, err = pg.Exec(ctx, write, pg.Args{"id": s.ID, "grp": s.Group, "name": s.Name, "every": s.EveryDay, "drills": string(text), "by": by, "at": at})
	return err
}

// DeleteSet forgets one.
func (SQL) DeleteSet(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM drill_sets WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}
