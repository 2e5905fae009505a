package footage

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

const (
	filmColumns = `f.id, f.digest, f.name, f.media_type, f.size, f.width, f.height, f.fps_num, f.fps_den, f.frames, f.created_at,
		f.game_id, f.placement_id, f.view, f.local, f.version, f.created_by, f.work, f.work_done, f.proxy_digest, coalesce(f.proxy_size, 0) AS proxy_size, f.strip_digest`
	clipColumns = `c.id, c.film_id, c.view, c.play_id, c.placement_id, c.player_id, c.rep, c.first_frame AS first, c.last_frame AS last, c.snap_frame AS snap, c.version`
)

type filmRow struct {
	ID        uuid.UUID
	Digest    string
	Name      string
	MediaType string
	Size      int64
	Width     int
	Height    int
	FpsNum    int
	FpsDen    int
	Frames    int
	CreatedAt time.Time

	GameID, PlacementID      *uuid.UUID
	View                     string
	Local                    bool
	Version                  int
	CreatedBy                *uuid.UUID
	Work                     string
	WorkDone                 int
	ProxyDigest, StripDigest *string
	ProxySize                int64
}

func (r filmRow) film() Film {
	return Film{ID: r.ID, Digest: r.Digest, Name: r.Name, MediaType: r.MediaType, Size: r.Size, Width: r.Width, Height: r.Height, FPSNum: r.FpsNum, FPSDen: r.FpsDen, Frames: r.Frames, CreatedAt: r.CreatedAt,
		GameID: r.GameID, PlacementID: r.PlacementID, View: r.View, Local: r.Local, Version: r.Version, By: r.CreatedBy, Work: r.Work, WorkDone: r.WorkDone,
		ProxyDigest: r.ProxyDigest, StripDigest: r.StripDigest, ProxySize: r.ProxySize}
}

// of reads clips, the films in which they are and what is drawn on them, in three statements.
func of(ctx context.Context, from, order string, id uuid.UUID) (s Shown, err error) {
	args := pg.Args{"id": id}
	s.Clips, err = pg.Select[Clip](ctx, `SELECT `+clipColumns+from+` ORDER BY `+order+`, c.view DESC, c.id`, args)
	if err != nil || len(s.Clips) == 0 {
		return s, err
	}
	rows, err := pg.Select[filmRow](ctx, `SELECT `+filmColumns+` FROM films f WHERE f.club_id = @club AND f.id IN (SELECT c.film_id`+from+`) ORDER BY f.name, f.id`, args)
	if err != nil {
		return s, err
	}
	for _, r := range rows {
		s.Films = append(s.Films, r.film())
	}
	s.Drawings, err = drawings(ctx, ` AND d.clip_id IN (SELECT c.id`+from+`) ORDER BY d.clip_id, d.frame, d.id`, args)
	return s, err
}

// Season counts what is on film.
func (SQL) Season(ctx context.Context, season uuid.UUID, group string) ([]OnFilm, error) {
	return pg.Select[OnFilm](ctx, `
		SELECT g.id AS game_id, NULL::uuid AS placement_id, NULL::uuid AS practice_id, '' AS drill_key, CASE WHEN g.period_id IS NULL THEN '' ELSE g.opponent END AS period, g.on_date AS on, count(DISTINCT c.play_id)::int AS count
		FROM games g JOIN plays y ON y.club_id = @club AND y.game_id = g.id JOIN clips c ON c.club_id = @club AND c.play_id = y.id
		WHERE g.club_id = @club AND g.season_id = @season GROUP BY g.id
		UNION ALL
		SELECT NULL, l.id, e.practice_id, l.drill_key, '', p.on_date, count(*)::int
		FROM clips c JOIN placements l ON l.club_id = @club AND l.id = c.placement_id JOIN periods e ON e.club_id = @club AND e.id = l.period_id JOIN practices p ON p.club_id = @club AND p.id = e.practice_id
		WHERE c.club_id = @club AND p.season_id = @season AND l.group_key = @group GROUP BY l.id, e.practice_id, p.on_date
		ORDER BY 6 DESC, 1, 2`, pg.Args{"season": season, "group": group})
}

// OfGame lists what is on film of a game.
func (SQL) OfGame(ctx context.Context, game uuid.UUID) (Shown, error) {
	return of(ctx, ` FROM clips c JOIN plays y ON y.id = c.play_id AND y.club_id = c.club_id WHERE c.club_id = @club AND y.game_id = @id`, `y.number`, game)
}

// OfDrill lists what is on film of a placed drill.
func (SQL) OfDrill(ctx context.Context, placement uuid.UUID) (Shown, error) {
	return of(ctx, ` FROM clips c WHERE c.club_id = @club AND c.placement_id = @id`, `c.rep, c.first_frame`, placement)
}

// Plays lists the plays of a game that are on film.
func (SQL) Plays(ctx context.Context, game uuid.UUID) ([]uuid.UUID, error) {
	type row struct{ ID uuid.UUID }
	rows, err := pg.Select[row](ctx, `SELECT DISTINCT y.id FROM plays y JOIN clips c ON c.club_id = @club AND c.play_id = y.id WHERE y.club_id = @club AND y.game_id = @game`, pg.Args{"game": game})
	ids := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	return ids, err
}

// Clip reads one.
func (SQL) Clip(ctx context.Context, id uuid.UUID) (Clip, bool, error) {
	return pg.One[Clip](ctx, `SELECT `+clipColumns+` FROM clips c WHERE c.club_id = @club AND c.id = @id`, pg.Args{"id": id})
}

func drawings(ctx context.Context, where string, args pg.Args) ([]Drawing, error) {
	type row struct {
		ID      uuid.UUID
		ClipID  uuid.UUID
		Frame   int
		Shapes  []byte
		Version int
		By      uuid.UUID
		ByName  string
	}
	rows, err := pg.Select[row](ctx, `
		SELECT d.id, d.clip_id, d.frame, d.shapes, d.version, d.created_by AS by, coalesce(u.name, '') AS by_name
		FROM drawings d LEFT JOIN users u ON u.id = d.created_by AND u.club_id = d.club_id WHERE d.club_id = @club`+where, args)
	list := make([]Drawing, len(rows))
	for i, r := range rows {
		list[i] = Drawing{ID: r.ID, ClipID: r.ClipID, Frame: r.Frame, Version: r.Version, By: r.By, ByName: r.ByName}
		if err := json.Unmarshal(r.Shapes, &list[i].Shapes); err != nil {
			return nil, err
		}
	}
	return list, err
}

// Drawing reads one and holds it.
func (SQL) Drawing(ctx context.Context, id uuid.UUID) (Drawing, bool, error) {
	list, err := drawings(ctx, ` AND d.id = @id FOR UPDATE OF d`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return Drawing{ID: id}, false, err
	}
	return list[0], true, nil
}

// PutDrawing writes one.
func (SQL) PutDrawing(ctx context.Context, d Drawing, at time.Time) error {
	shapes, err := json.Marshal(d.Shapes)
	if err != nil {
		return err
	}
	write := `INSERT INTO drawings (id, club_id, clip_id, frame, shapes, created_by, updated_at) VALUES (@id, @club, @clip, @frame, @shapes, @by, @at)`
	if d.Version > 0 {
		write = `UPDATE drawings SET frame = @frame, shapes = @shapes, version = version + 1, updated_at = @at WHERE club_id = @club AND id = @id`
	}
	_, err = pg.Exec(ctx, write, pg.Args{"id": d.ID, "clip": d.ClipID, "frame": d.Frame, "shapes": string(shapes), "by": d.By, "at": at})
	return err
}

// DeleteDrawing takes one out.
func (SQL) DeleteDrawing(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM drawings WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}

// Film reads one.
func (SQL) Film(ctx context.Context, id uuid.UUID) (Film, bool, error) {
	r, found, err := pg.One[filmRow](ctx, `SELECT `+filmColumns+` FROM films f WHERE f.club_id = @club AND f.id = @id`, pg.Args{"id": id})
	return r.film(), found, err
}

// Watching is where a person was.
func (SQL) Watching(ctx context.Context, person, subject uuid.UUID) (Place, bool, error) {
	return pg.One[Place](ctx, `SELECT clip_id, frame FROM watchings WHERE club_id = @club AND person = @person AND subject = @subject`, pg.Args{"person": person, "subject": subject})
}

// Watch keeps where a person is.
func (SQL) Watch(ctx context.Context, person, subject uuid.UUID, p Place, at time.Time) error {
	n, err := pg.Exec(ctx, `
		INSERT INTO watchings (club_id, person, subject, clip_id, frame, at)
		SELECT @club, @person, @subject, c.id, @frame, @at FROM clips c WHERE c.club_id = @club AND c.id = @clip
		ON CONFLICT (club_id, person, subject) DO UPDATE SET clip_id = excluded.clip_id, frame = excluded.frame, at = excluded.at`,
		pg.Args{"person": person, "subject": subject, "clip": p.ClipID, "frame": p.Frame, "at": at})
	if err == nil && n == 0 {
		return problem.ErrNotFound
	}
	return err
}
