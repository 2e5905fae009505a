package club

import (
	"context"
	"encoding/json"

	"nineyard/core/group"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{ DB *pg.DB }

var _ Store = SQL{}

// Rename changes name and time zone.
func (SQL) Rename(ctx context.Context, name, timezone string) error {
	_, err := pg.Exec(ctx, `UPDATE clubs SET name = @name, timezone = @zone WHERE id = @club`, pg.Args{"name": name, "zone": timezone})
	return err
}

// Used lists the keys of the groups of which something is recorded.
func (SQL) Used(ctx context.Context) (keys []string, err error) {
	type row struct{ Key string }
	rows, err := pg.Select[row](ctx, `
		SELECT p.key FROM position_groups p WHERE p.club_id = @club AND (
			EXISTS (SELECT FROM player_groups g WHERE g.club_id = @club AND g.group_key = p.key)
			OR EXISTS (SELECT FROM period_groups g WHERE g.club_id = @club AND g.group_key = p.key)
			OR EXISTS (SELECT FROM drill_sets s WHERE s.club_id = @club AND s.group_key = p.key)
			OR EXISTS (SELECT FROM line_ups l WHERE l.club_id = @club AND l.group_key = p.key)
			OR EXISTS (SELECT FROM cut_ups x WHERE x.club_id = @club AND x.group_key = p.key)
			OR EXISTS (SELECT FROM meetings f WHERE f.club_id = @club AND f.group_key = p.key)
			OR EXISTS (SELECT FROM user_groups u WHERE u.club_id = @club AND u.group_key = p.key))`, nil)
	for _, r := range rows {
		keys = append(keys, r.Key)
	}
	return keys, err
}

// Groups reads the groups and holds them.
func (SQL) Groups(ctx context.Context) (group.List, error) {
	if err := pg.Lock(ctx, "groups"); err != nil {
		return nil, err
	}
	type row struct {
		Key, Name, Short, Side string
		Positions              []string
	}
	rows, err := pg.Select[row](ctx, `SELECT key, name, short, side, positions FROM position_groups WHERE club_id = @club ORDER BY sort, key`, nil)
	list := group.List{}
	for _, r := range rows {
		list = append(list, group.Group{Key: r.Key, Name: r.Name, Short: r.Short, Side: group.Side(r.Side), Positions: r.Positions})
	}
	return list, err
}

// SetGroups writes the groups in their order.
func (SQL) SetGroups(ctx context.Context, list group.List) error {
	type sent struct {
		Key       string   `json:"key"`
		Name      string   `json:"name"`
		Short     string   `json:"short"`
		Side      string   `json:"side"`
		Positions []string `json:"positions"`
		Sort      int      `json:"sort"`
	}
	rows := make([]sent, len(list))
	for i, g := range list {
		rows[i] = sent{g.Key, g.Name, g.Short, string(g.Side), append([]string{}, g.Positions...), i}
	}
	text, err := json.Marshal(rows)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `
		WITH said AS (SELECT * FROM jsonb_to_recordset(@list::jsonb) AS x (key text, name text, short text, side text, positions jsonb, sort int)),
		     gone AS (DELETE FROM position_groups WHERE club_id = @club AND key NOT IN (SELECT key FROM said))
		INSERT INTO position_groups (club_id, key, name, short, side, positions, sort)
		SELECT @club, key, name, short, side, ARRAY(SELECT jsonb_array_elements_text(positions)), sort FROM said
		ON CONFLICT (club_id, key) DO UPDATE SET name = excluded.name, short = excluded.short, side = excluded.side, positions = excluded.positions, sort = excluded.sort`,
		pg.Args{"list": string(text)})
	return err
}

// Clubs counts all clubs.
func (q SQL) Clubs(ctx context.Context) (int, error) {
	type row struct{ N int64 }
	r, _, err := pg.OneBeside[row](ctx, q.DB, `SELECT clubs_count() AS n`, nil)
	return int(r.N), err
}
