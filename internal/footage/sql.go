package footage

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/platform/pg"
	"nineyard/internal/platform/problem"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

const (
	filmColumns = `f.id, f.digest, f.name, f.media_type, f.size, f.width, f.height, f.fps_num, f.fps_den, f.frames, f.created_at`
	clipColumns = `c.id, c.film_id, c.view, c.play_id, c.player_id, c.rep, c.first_frame AS first, c.last_frame AS last, c.snap_frame AS snap`
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
}

func (r filmRow) film() Film {
	return Film{ID: r.ID, Digest: r.Digest, Name: r.Name, MediaType: r.MediaType, Size: r.Size, Width: r.Width, Height: r.Height, FPSNum: r.FpsNum, FPSDen: r.FpsDen, Frames: r.Frames, CreatedAt: r.CreatedAt}
}

// of reads clips, and the films in which they are, in two statements.
func of(ctx context.Context, from string, id uuid.UUID) ([]Film, []Clip, error) {
	args := pg.Args{"id": id}
	clips, err := pg.Select[Clip](ctx, `SELECT `+clipColumns+from+` ORDER BY c.play_id, c.player_id, c.rep, c.view DESC, c.id`, args)
	if err != nil || len(clips) == 0 {
		return nil, nil, err
	}
	rows, err := pg.Select[filmRow](ctx, `SELECT `+filmColumns+` FROM films f WHERE f.club_id = @club AND f.id IN (SELECT c.film_id`+from+`) ORDER BY f.name, f.id`, args)
	films := make([]Film, len(rows))
	for i, r := range rows {
		films[i] = r.film()
	}
	return films, clips, err
}

// Season counts what is on film.
func (SQL) Season(ctx context.Context, season uuid.UUID, group string) ([]OnFilm, error) {
	return pg.Select[OnFilm](ctx, `
		SELECT g.id AS game_id, NULL::uuid AS placement_id, NULL::uuid AS practice_id, '' AS drill_key, g.on_date AS on, count(DISTINCT c.play_id)::int AS count
		FROM games g JOIN plays y ON y.club_id = @club AND y.game_id = g.id JOIN clips c ON c.club_id = @club AND c.play_id = y.id
		WHERE g.club_id = @club AND g.season_id = @season GROUP BY g.id
		UNION ALL
		SELECT NULL, l.id, e.practice_id, l.drill_key, p.on_date, count(*)::int
		FROM clips c JOIN placements l ON l.club_id = @club AND l.id = c.placement_id JOIN periods e ON e.club_id = @club AND e.id = l.period_id JOIN practices p ON p.club_id = @club AND p.id = e.practice_id
		WHERE c.club_id = @club AND p.season_id = @season AND l.group_key = @group GROUP BY l.id, e.practice_id, p.on_date
		ORDER BY 5 DESC, 1, 2`, pg.Args{"season": season, "group": group})
}

// OfGame lists what is on film of a game.
func (SQL) OfGame(ctx context.Context, game uuid.UUID) ([]Film, []Clip, error) {
	return of(ctx, ` FROM clips c JOIN plays y ON y.id = c.play_id AND y.club_id = c.club_id WHERE c.club_id = @club AND y.game_id = @id`, game)
}

// OfDrill lists what is on film of a placed drill.
func (SQL) OfDrill(ctx context.Context, placement uuid.UUID) ([]Film, []Clip, error) {
	return of(ctx, ` FROM clips c WHERE c.club_id = @club AND c.placement_id = @id`, placement)
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
