package film

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

var _ Labels = SQL{}

// Versions lists what stood on a play.
func (SQL) Versions(ctx context.Context, play uuid.UUID) ([]Version, error) {
	type row struct {
		Version int
		Labels  []string
		By      string
		At      time.Time
	}
	rows, err := pg.Select[row](ctx, `
		SELECT v.version, v.labels, coalesce(u.name, '') AS by, v.at FROM play_versions v LEFT JOIN users u ON u.id = v.by AND u.club_id = v.club_id
		WHERE v.club_id = @club AND v.play_id = @play ORDER BY v.version DESC LIMIT 200`, pg.Args{"play": play})
	list := make([]Version, len(rows))
	for i, r := range rows {
		list[i] = Version(r)
	}
	return list, err
}

// Mapping is which header stands for what.
func (SQL) Mapping(ctx context.Context, headers string) (map[string]string, bool, error) {
	type row struct{ Columns []byte }
	r, found, err := pg.One[row](ctx, `SELECT columns FROM play_mappings WHERE club_id = @club AND headers = @headers`, pg.Args{"headers": headers})
	if err != nil || !found {
		return nil, false, err
	}
	columns := map[string]string{}
	return columns, true, json.Unmarshal(r.Columns, &columns)
}

// KeepMapping keeps it for lists with the same headers.
func (SQL) KeepMapping(ctx context.Context, headers string, columns map[string]string) error {
	text, err := json.Marshal(columns)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `INSERT INTO play_mappings (club_id, headers, columns) VALUES (@club, @headers, @columns) ON CONFLICT (club_id, headers) DO UPDATE SET columns = excluded.columns`,
		pg.Args{"headers": headers, "columns": string(text)})
	return err
}

func cutUps(ctx context.Context, where string, args pg.Args) ([]CutUp, error) {
	type row struct {
		ID      uuid.UUID
		Group   string
		Name    string
		Cut     string
		Version int
		By      string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT c.id, c.group_key AS "group", c.name, c.cut, c.version, coalesce(u.name, '') AS by FROM cut_ups c LEFT JOIN users u ON u.id = c.updated_by AND u.club_id = c.club_id
		WHERE c.club_id = @club AND `+where, args)
	list := make([]CutUp, len(rows))
	for i, r := range rows {
		list[i] = CutUp(r)
	}
	return list, err
}

// CutUps lists those of a group.
func (SQL) CutUps(ctx context.Context, group string) ([]CutUp, error) {
	return cutUps(ctx, `c.group_key = @group ORDER BY c.name LIMIT 200`, pg.Args{"group": group})
}

// CutUp reads one and holds it.
func (SQL) CutUp(ctx context.Context, id uuid.UUID) (CutUp, bool, error) {
	list, err := cutUps(ctx, `c.id = @id FOR UPDATE OF c`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return CutUp{ID: id}, false, err
	}
	return list[0], true, nil
}

// PutCutUp writes one.
func (SQL) PutCutUp(ctx context.Context, c CutUp, by uuid.UUID) error {
	write := `INSERT INTO cut_ups (club_id, id, group_key, name, cut, updated_by) VALUES (@club, @id, @group, @name, @cut, @by)`
	if c.Version > 0 {
		write = `UPDATE cut_ups SET name = @name, cut = @cut, updated_by = @by, version = version + 1 WHERE club_id = @club AND id = @id`
	}
	_, err := pg.Exec(ctx, write, pg.Args{"id": c.ID, "group": c.Group, "name": c.Name, "cut": c.Cut, "by": by})
	return err
}

// DeleteCutUp takes one out.
func (SQL) DeleteCutUp(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM cut_ups WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}
