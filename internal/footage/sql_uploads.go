package footage

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/practice"
	"nineyard/internal/platform/pg"
)

var _ Uploads = SQL{}

// Known reports whether the club has what a video is of.
func (SQL) Known(ctx context.Context, game, placement *uuid.UUID) (bool, error) {
	type row struct{ Known bool }
	r, _, err := pg.One[row](ctx, `
		SELECT EXISTS (SELECT 1 FROM games WHERE club_id = @club AND id = @game) OR EXISTS (SELECT 1 FROM periods WHERE club_id = @club AND id = @game AND kind = ANY (@kinds)) OR EXISTS (SELECT 1 FROM placements WHERE club_id = @club AND id = @placement) AS known`,
		pg.Args{"game": game, "placement": placement, "kinds": practice.FilmedKinds()})
	return r.Known, err
}

// NewUpload keeps a video that is on its way.
func (SQL) NewUpload(ctx context.Context, u Upload, at time.Time) error {
	said, err := json.Marshal(u.Said)
	if err != nil {
		return err
	}
	_, err = pg.Exec(ctx, `INSERT INTO film_uploads (club_id, id, game_id, placement_id, size, said, created_by, created_at, updated_at) VALUES (@club, @id, @game, @placement, @size, @said, @by, @at, @at)`,
		pg.Args{"id": u.ID, "game": u.GameID, "placement": u.PlacementID, "size": u.Size, "said": string(said), "by": u.By, "at": at})
	return err
}

// Upload reads one.
func (SQL) Upload(ctx context.Context, id string) (u Upload, found bool, err error) {
	type row struct {
		ID                  string
		GameID, PlacementID *uuid.UUID
		Size, Arrived       int64
		Said                []byte
		By                  uuid.UUID
	}
	r, found, err := pg.One[row](ctx, `SELECT id, game_id, placement_id, size, arrived, said, created_by AS by FROM film_uploads WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	if err != nil || !found {
		return u, found, err
	}
	u = Upload{ID: r.ID, GameID: r.GameID, PlacementID: r.PlacementID, Size: r.Size, Arrived: r.Arrived, By: r.By}
	return u, true, json.Unmarshal(r.Said, &u.Said)
}

// Arrive says that more has come.
func (SQL) Arrive(ctx context.Context, id string, from, to int64, sum []byte, at time.Time) (bool, error) {
	text, err := json.Marshal(sum)
	if err != nil {
		return false, err
	}
	n, err := pg.Exec(ctx, `UPDATE film_uploads SET arrived = @to, said = said || jsonb_build_object('Sum', @sum::jsonb, 'SumBefore', said -> 'Sum', 'Before', arrived), updated_at = @at WHERE club_id = @club AND id = @id AND arrived = @from`,
		pg.Args{"id": id, "from": from, "to": to, "sum": string(text), "at": at})
	return n == 1, err
}

// TakeBack says that the last piece has not come.
func (SQL) TakeBack(ctx context.Context, id string) error {
	_, err := pg.Exec(ctx, `UPDATE film_uploads SET arrived = (said ->> 'Before')::bigint, said = said || jsonb_build_object('Sum', said -> 'SumBefore')
		WHERE club_id = @club AND id = @id AND said ? 'Before'`, pg.Args{"id": id})
	return err
}

// DeleteUpload takes one out.
func (SQL) DeleteUpload(ctx context.Context, id string) error {
	_, err := pg.Exec(ctx, `DELETE FROM film_uploads WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// Stale lists those of which nothing came.
func (SQL) Stale(ctx context.Context, since time.Time) ([]string, error) {
	type row struct{ ID string }
	rows, err := pg.Select[row](ctx, `SELECT id FROM film_uploads WHERE club_id = @club AND updated_at < @since`, pg.Args{"since": since})
	ids := make([]string, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	return ids, err
}
