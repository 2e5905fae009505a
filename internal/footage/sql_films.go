package footage

import (
	"context"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
)

var _ Films = SQL{}

// Videos lists the videos of a game or of a placed drill.
func (SQL) Videos(ctx context.Context, game, placement *uuid.UUID) ([]Film, []Clip, error) {
	args := pg.Args{"game": game, "placement": placement}
	const of = ` WHERE f.club_id = @club AND (f.game_id = @game OR f.placement_id = @placement)`
	rows, err := pg.Select[filmRow](ctx, `SELECT `+filmColumns+` FROM films f`+of+` ORDER BY f.name, f.id LIMIT 200`, args)
	if err != nil || len(rows) == 0 {
		return nil, nil, err
	}
	films := make([]Film, len(rows))
	for i, r := range rows {
		films[i] = r.film()
	}
	clips, err := pg.Select[Clip](ctx, `SELECT `+clipColumns+` FROM clips c JOIN films f ON f.id = c.film_id AND f.club_id = c.club_id`+of+` ORDER BY c.film_id, c.first_frame, c.id LIMIT 4000`, args)
	return films, clips, err
}

// Held reads a video and holds it.
func (SQL) Held(ctx context.Context, id uuid.UUID) (Film, bool, error) {
	r, found, err := pg.One[filmRow](ctx, `SELECT `+filmColumns+` FROM films f WHERE f.club_id = @club AND f.id = @id FOR UPDATE`, pg.Args{"id": id})
	return r.film(), found, err
}

// PutFilm writes a video.
func (SQL) PutFilm(ctx context.Context, f Film) error {
	write := `INSERT INTO films (club_id, id, game_id, placement_id, view, local, digest, name, media_type, size, width, height, fps_num, fps_den, frames, work, created_by)
		VALUES (@club, @id, @game, @placement, @view, @local, @digest, @name, @media, @size, @width, @height, @num, @den, @frames, @work, @by)`
	if f.Version > 0 {
		write = `WITH seen AS (UPDATE clips SET view = @view WHERE club_id = @club AND film_id = @id)
			UPDATE films SET name = @name, view = @view, width = @width, height = @height, fps_num = @num, fps_den = @den, frames = @frames,
			work = @work, work_done = @done, proxy_digest = @proxy, proxy_size = @proxy_size, strip_digest = @strip, version = version + 1 WHERE club_id = @club AND id = @id`
	}
	if f.GameID != nil && f.Version == 0 { // a team period is a game of its own as soon as something of it is written
		if _, err := pg.Exec(ctx, `SELECT film_period(@game)`, pg.Args{"game": *f.GameID}); err != nil {
			return err
		}
	}
	_, err := pg.Exec(ctx, write, pg.Args{"id": f.ID, "game": f.GameID, "placement": f.PlacementID, "view": f.View, "local": f.Local, "digest": f.Digest, "name": f.Name, "media": f.MediaType,
		"size": f.Size, "width": f.Width, "height": f.Height, "num": f.FPSNum, "den": f.FPSDen, "frames": f.Frames, "work": f.Work, "done": f.WorkDone, "by": f.By,
		"proxy": f.ProxyDigest, "proxy_size": f.ProxySize, "strip": f.StripDigest})
	return err
}

// DeleteFilm takes a video out.
func (SQL) DeleteFilm(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM films WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// HeldClip reads a clip and holds it.
func (SQL) HeldClip(ctx context.Context, id uuid.UUID) (Clip, bool, error) {
	return pg.One[Clip](ctx, `SELECT `+clipColumns+` FROM clips c WHERE c.club_id = @club AND c.id = @id FOR UPDATE`, pg.Args{"id": id})
}

// PutClip writes a clip.
func (SQL) PutClip(ctx context.Context, c Clip, by uuid.UUID) error {
	write := `INSERT INTO clips (club_id, id, film_id, view, play_id, placement_id, player_id, rep, first_frame, last_frame, snap_frame, changed_by)
		VALUES (@club, @id, @film, @view, @play, @placement, @player, @rep, @first, @last, @snap, @by)`
	if c.Version > 0 {
		write = `UPDATE clips SET play_id = @play, placement_id = @placement, player_id = @player, rep = @rep, first_frame = @first, last_frame = @last, snap_frame = @snap,
			changed_by = @by, version = version + 1 WHERE club_id = @club AND id = @id`
	}
	_, err := pg.Exec(ctx, write, pg.Args{"id": c.ID, "film": c.FilmID, "view": c.View, "play": c.PlayID, "placement": c.PlacementID, "player": c.PlayerID, "rep": c.Rep,
		"first": c.First, "last": c.Last, "snap": c.Snap, "by": by})
	return err
}

// DeleteClip takes a clip out.
func (SQL) DeleteClip(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM clips WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// Kept is how many bytes the club keeps.
func (SQL) Kept(ctx context.Context) (int64, int64, error) {
	type row struct{ Bytes, Film int64 }
	r, _, err := pg.One[row](ctx, `
		SELECT (coalesce((SELECT sum(size) FROM films WHERE club_id = @club AND NOT local), 0) + coalesce((SELECT sum(size) FROM film_uploads WHERE club_id = @club AND arrived < size), 0))::bigint AS bytes,
		       coalesce((SELECT film_limit FROM clubs WHERE id = @club), 0) AS film`, nil)
	return r.Bytes, r.Film, err
}

// Holds reports whether a video has a content.
func (SQL) Holds(ctx context.Context, digest string) (bool, error) {
	type row struct{ Holds bool }
	r, _, err := pg.One[row](ctx, `SELECT EXISTS (SELECT 1 FROM films WHERE club_id = @club AND NOT local AND @digest IN (digest, proxy_digest, strip_digest)) AS holds`, pg.Args{"digest": digest})
	return r.Holds, err
}
