package film

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/play"
	"nineyard/core/practice"
	"nineyard/core/season"
	"nineyard/internal/film/reel"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// playRow is a play as it is read.
type playRow struct {
	ID        uuid.UUID
	ClubID    uuid.UUID
	GameID    uuid.UUID
	Number    int
	Offense   bool
	Unit      string
	Drive     int
	Quarter   int
	Clock     string
	Down      *int
	Distance  *int
	Spot      string
	Hash      string
	Personnel string
	Formation string
	Motion    string
	Call      string
	Front     string
	Coverage  string
	Result    string
	Gain      *int
	Context   []string
	Version   int
	UpdatedBy *uuid.UUID
	UpdatedAt time.Time
}

func (r playRow) play() play.Play {
	p := play.Play{Number: r.Number, Unit: group.Side(r.Unit), Drive: r.Drive, Quarter: r.Quarter, Clock: r.Clock, Distance: r.Distance, Spot: r.Spot, Hash: r.Hash,
		Personnel: r.Personnel, Formation: r.Formation, Motion: r.Motion, Call: r.Call, Front: r.Front, Coverage: r.Coverage, Result: r.Result, Gain: r.Gain}
	if r.Down != nil {
		p.Down = *r.Down
	}
	if len(r.Context) > 0 {
		p.Context = r.Context
	}
	return p
}

const columns = `y.id, y.club_id, y.game_id, y.number, y.offense, y.unit, y.drive, y.quarter, y.clock, y.down, y.distance, y.spot, y.hash, y.personnel, y.formation, y.motion, y.call,
	y.front, y.coverage, y.result, y.gain, y.context, y.version, y.updated_by, y.updated_at`

// Plays reads plays by their ids.
func (SQL) Plays(ctx context.Context, ids []uuid.UUID) ([]reel.Play, error) {
	type row struct {
		playRow
		OnDate time.Time
	}
	rows, err := pg.Select[row](ctx, `SELECT `+columns+`, g.on_date FROM plays y JOIN games g ON g.id = y.game_id WHERE y.club_id = @club AND y.id = ANY (@ids) ORDER BY y.game_id, y.number`, pg.Args{"ids": ids})
	list := make([]reel.Play, len(rows))
	for i, r := range rows {
		list[i] = reel.Play{ID: r.ID, GameID: r.GameID, On: season.Of(r.OnDate), Play: r.play()}
	}
	return list, err
}

// Game reads a game with its plays, in one statement where it has any.
func (SQL) Game(ctx context.Context, id uuid.UUID) (reel.Game, bool, error) {
	type game struct {
		OnDate   time.Time
		Opponent string
		Home     bool
		Practice bool
	}
	type row struct {
		playRow
		game
	}
	g := reel.Game{ID: id}
	of := func(r game) {
		g.On, g.Opponent, g.Home, g.Practice = season.Of(r.OnDate), r.Opponent, r.Home, r.Practice
	}
	rows, err := pg.Select[row](ctx, `
		SELECT `+columns+`, g.on_date, g.opponent, g.home, g.period_id IS NOT NULL AS practice FROM games g JOIN plays y ON y.club_id = @club AND y.game_id = g.id
		WHERE g.club_id = @club AND g.id = @id ORDER BY y.number`, pg.Args{"id": id})
	if err != nil {
		return g, false, err
	}
	for _, r := range rows {
		of(r.game)
		g.Plays = append(g.Plays, reel.Play{ID: r.ID, GameID: id, On: g.On, Play: r.play()})
	}
	if len(rows) > 0 {
		return g, true, nil
	}
	// A team period is a game of its own as soon as something of it is written; before, it is only planned.
	r, found, err := pg.One[game](ctx, `
		SELECT on_date, opponent, home, period_id IS NOT NULL AS practice FROM games WHERE club_id = @club AND id = @id
		UNION ALL
		SELECT p.on_date, e.name || ', ' || p.title, true, true FROM periods e JOIN practices p ON p.club_id = @club AND p.id = e.practice_id
		WHERE e.club_id = @club AND e.id = @id AND e.kind = ANY (@kinds) LIMIT 1`, pg.Args{"id": id, "kinds": practice.FilmedKinds()})
	of(r)
	return g, found, err
}

func entries(ctx context.Context, where string, args pg.Args) ([]Entry, error) {
	type row struct {
		playRow
		ChangedBy string
		Marks     int
	}
	rows, err := pg.Select[row](ctx, `
		SELECT `+columns+`, coalesce(u.name, '') AS changed_by,
		       (SELECT count(*) FROM mark_slots m JOIN games g ON g.id = y.game_id JOIN seasons s ON s.id = g.season_id
		        WHERE m.club_id = @club AND m.year = s.mark_year AND m.game_id = y.game_id AND m.play_id = y.id AND m.stands AND m.state <> 'withdrawn')::int AS marks
		FROM plays y LEFT JOIN users u ON u.id = y.updated_by AND u.club_id = y.club_id WHERE y.club_id = @club `+where, args)
	list := make([]Entry, len(rows))
	for i, r := range rows {
		list[i] = Entry{ID: r.ID, GameID: r.GameID, Play: r.play(), Version: r.Version, ChangedBy: r.ChangedBy, Marks: r.Marks}
	}
	return list, err
}

// Entries lists the plays of a game by number.
func (SQL) Entries(ctx context.Context, game uuid.UUID) ([]Entry, error) {
	return entries(ctx, `AND y.game_id = @game ORDER BY y.number`, pg.Args{"game": game})
}

// Entry reads one and holds it.
func (SQL) Entry(ctx context.Context, id uuid.UUID) (Entry, bool, error) {
	list, err := entries(ctx, `AND y.id = @id FOR UPDATE OF y`, pg.Args{"id": id})
	if err != nil || len(list) == 0 {
		return Entry{ID: id}, false, err
	}
	return list[0], true, nil
}

// Put writes one.
func (SQL) Put(ctx context.Context, e Entry, by uuid.UUID, at time.Time) error {
	p := e.Play
	var down *int
	if p.Down > 0 {
		down = &p.Down
	}
	args := pg.Args{"id": e.ID, "game": e.GameID, "number": p.Number, "offense": p.Unit == group.Offense, "unit": string(p.Unit), "drive": p.Drive, "quarter": p.Quarter, "clock": p.Clock,
		"down": down, "distance": p.Distance, "spot": p.Spot, "hash": p.Hash, "personnel": p.Personnel, "formation": p.Formation, "motion": p.Motion, "call": p.Call, "front": p.Front,
		"coverage": p.Coverage, "result": p.Result, "gain": p.Gain, "context": append([]string{}, p.Context...), "by": by, "at": at}
	write := `
		INSERT INTO plays (id, club_id, game_id, number, offense, unit, drive, quarter, clock, down, distance, spot, hash, personnel, formation, motion, call, front, coverage, result, gain, context, updated_by, updated_at)
		VALUES (@id, @club, @game, @number, @offense, @unit, @drive, @quarter, @clock, @down, @distance, @spot, @hash, @personnel, @formation, @motion, @call, @front, @coverage, @result, @gain, @context, @by, @at)`
	if e.Version > 0 {
		write = `
		UPDATE plays SET number = @number, offense = @offense, unit = @unit, drive = @drive, quarter = @quarter, clock = @clock, down = @down, distance = @distance, spot = @spot, hash = @hash,
		       personnel = @personnel, formation = @formation, motion = @motion, call = @call, front = @front, coverage = @coverage, result = @result, gain = @gain, context = @context,
		       version = version + 1, updated_by = @by, updated_at = @at
		WHERE club_id = @club AND id = @id`
	}
	// What stood there before the first correction is kept with it.
	if e.Version > 0 {
		was, _, err := SQL{}.Entry(ctx, e.ID)
		if err != nil {
			return err
		}
		if _, err := pg.Exec(ctx, `INSERT INTO play_versions (club_id, play_id, version, labels, by, at) SELECT club_id, id, version, @labels, updated_by, updated_at FROM plays WHERE club_id = @club AND id = @id
			ON CONFLICT DO NOTHING`, pg.Args{"id": e.ID, "labels": play.Record(was.Play)}); err != nil {
			return err
		}
	}
	if e.Version == 0 {
		if _, err := pg.Exec(ctx, `SELECT film_period(@game)`, args); err != nil {
			return err
		}
	}
	if _, err := pg.Exec(ctx, write, args); err != nil {
		return err
	}
	_, err := pg.Exec(ctx, `INSERT INTO play_versions (club_id, play_id, version, labels, by, at) VALUES (@club, @id, @version::int + 1, @labels, @by, @at) ON CONFLICT DO NOTHING`,
		pg.Args{"id": e.ID, "labels": play.Record(p), "version": e.Version, "by": by, "at": at})
	return err
}

// Delete takes one out.
func (SQL) Delete(ctx context.Context, id uuid.UUID) error {
	_, err := pg.Exec(ctx, `DELETE FROM plays WHERE club_id = @club AND id = @id`, pg.Args{"id": id})
	return err
}
