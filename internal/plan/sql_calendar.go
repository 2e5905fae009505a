package plan

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/plan/script"
	"nineyard/internal/platform/pg"
)

// practiceEntries reads practices of the calendar, but for what is said of them behind it.
const practiceEntries = `
	SELECT p.id, p.on_date, p.title, p.theme, p.place, p.start_minute, p.minutes, p.version, coalesce(p.cancelled, '') AS cancelled, coalesce(u.name, '') AS changed_by,
	       (SELECT count(*) FROM periods e WHERE e.club_id = @club AND e.practice_id = p.id)::int AS periods,
	       (SELECT count(*) FROM placements l JOIN periods e ON e.id = l.period_id WHERE l.club_id = @club AND e.practice_id = p.id)::int AS drills, `

type entryRow struct {
	ID          uuid.UUID
	OnDate      time.Time
	Title       string
	Theme       string
	Place       string
	StartMinute int
	Minutes     int
	Version     int
	Cancelled   string
	ChangedBy   string
	Periods     int
	Drills      int
	Marks       int
}

func (r entryRow) entry() PracticeEntry {
	return PracticeEntry{Practice: script.Practice{ID: r.ID, On: season.Of(r.OnDate), Title: r.Title, Theme: r.Theme, Place: r.Place, StartMinute: r.StartMinute, Minutes: r.Minutes,
		Version: r.Version, Cancelled: r.Cancelled}, Periods: r.Periods, Drills: r.Drills, Marks: r.Marks, ChangedBy: r.ChangedBy}
}

const gameEntries = `
	SELECT g.id, g.on_date, g.opponent, g.home, g.version, coalesce(g.cancelled, '') AS cancelled, coalesce(u.name, '') AS changed_by,
	       (SELECT count(*) FROM plays y WHERE y.club_id = @club AND y.game_id = g.id)::int AS plays
	FROM games g LEFT JOIN users u ON u.id = g.updated_by AND u.club_id = g.club_id WHERE g.club_id = @club AND g.period_id IS NULL `

type gameEntryRow struct {
	ID        uuid.UUID
	OnDate    time.Time
	Opponent  string
	Home      bool
	Version   int
	Cancelled string
	ChangedBy string
	Plays     int
}

func (r gameEntryRow) entry() GameEntry {
	return GameEntry{Game: Game{ID: r.ID, On: season.Of(r.OnDate), Opponent: r.Opponent, Home: r.Home, Version: r.Version, Cancelled: r.Cancelled}, Plays: r.Plays, ChangedBy: r.ChangedBy}
}

// Days reads the season in three statements. Marks are those of the day's practices, as the sums
// say.
func (SQL) Days(ctx context.Context, c access.Season) (d Days, err error) {
	args := pg.Args{"season": c.ID, "from": c.Start.Time(), "to": season.End(c.Start, c.Weeks).Time()}
	practices, err := pg.Select[entryRow](ctx, `
		WITH marked AS MATERIALIZED (SELECT on_date, sum(clean + faulty + not_graded) AS n FROM mark_days WHERE club_id = @club AND NOT game AND on_date BETWEEN @from AND @to GROUP BY on_date),
		lines AS MATERIALIZED (
			SELECT e.practice_id, count(*) AS periods, sum(coalesce(d.n, 0)) AS drills
			FROM practices p JOIN periods e ON e.practice_id = p.id AND e.club_id = @club
			LEFT JOIN (SELECT period_id, count(*) AS n FROM placements WHERE club_id = @club GROUP BY period_id) d ON d.period_id = e.id
			WHERE p.club_id = @club AND p.season_id = @season GROUP BY e.practice_id)
		SELECT p.id, p.on_date, p.title, p.theme, p.place, p.start_minute, p.minutes, p.version, coalesce(p.cancelled, '') AS cancelled, coalesce(u.name, '') AS changed_by,
		       coalesce(l.periods, 0)::int AS periods, coalesce(l.drills, 0)::int AS drills, coalesce(m.n, 0)::int AS marks
		FROM practices p LEFT JOIN lines l ON l.practice_id = p.id LEFT JOIN users u ON u.id = p.updated_by AND u.club_id = p.club_id LEFT JOIN marked m ON m.on_date = p.on_date
		WHERE p.club_id = @club AND p.season_id = @season ORDER BY p.on_date, p.start_minute, p.id`, args)
	if err != nil {
		return d, err
	}
	for _, r := range practices {
		d.Practices = append(d.Practices, r.entry())
	}
	games, err := pg.Select[gameEntryRow](ctx, gameEntries+`AND g.season_id = @season ORDER BY g.on_date, g.id`, args)
	if err != nil {
		return d, err
	}
	for _, r := range games {
		d.Games = append(d.Games, r.entry())
	}
	type hardRow struct {
		ID         uuid.UUID
		PracticeID uuid.UUID
		Start      int
		Minutes    int
		Kind       string
		Contact    string
		Groups     []string
	}
	hard, err := pg.Select[hardRow](ctx, `
		SELECT e.id, e.practice_id, e.start, e.minutes, e.kind, e.contact, array_agg(g.group_key) AS groups
		FROM practices p JOIN periods e ON e.practice_id = p.id AND e.club_id = @club JOIN period_groups g ON g.period_id = e.id
		WHERE p.club_id = @club AND p.season_id = @season AND e.contact IN ('thud', 'live') GROUP BY e.id`, args)
	d.Hard = map[uuid.UUID][]script.Period{}
	for _, r := range hard {
		d.Hard[r.PracticeID] = append(d.Hard[r.PracticeID], script.Period{ID: r.ID, PracticeID: r.PracticeID, Start: r.Start, Minutes: r.Minutes, Kind: r.Kind, Contact: r.Contact, Groups: r.Groups})
	}
	return d, err
}

// Dates lists the days with practice.
func (SQL) Dates(ctx context.Context, seasonID uuid.UUID) ([]script.Dated, error) {
	type row struct {
		OnDate time.Time
		Own    map[string]int
	}
	rows, err := pg.Select[row](ctx, `
		WITH own AS (
			SELECT p.on_date, g.group_key, sum(e.minutes)::int AS minutes
			FROM practices p JOIN periods e ON e.practice_id = p.id AND e.club_id = @club AND e.kind = 'individual' JOIN period_groups g ON g.period_id = e.id
			WHERE p.club_id = @club AND p.season_id = @season AND p.cancelled IS NULL GROUP BY p.on_date, g.group_key)
		SELECT d.on_date, coalesce((SELECT jsonb_object_agg(o.group_key, o.minutes) FROM own o WHERE o.on_date = d.on_date), '{}') AS own
		FROM (SELECT DISTINCT on_date FROM practices WHERE club_id = @club AND season_id = @season AND cancelled IS NULL) d ORDER BY d.on_date`, pg.Args{"season": seasonID})
	list := make([]script.Dated, len(rows))
	for i, r := range rows {
		list[i] = script.Dated{On: season.Of(r.OnDate), Own: r.Own}
	}
	return list, err
}

// PracticeEntry reads one practice, with the marks of its own drills, and holds it until the
// transaction ends.
func (SQL) PracticeEntry(ctx context.Context, id uuid.UUID) (PracticeEntry, bool, error) {
	r, found, err := pg.One[entryRow](ctx, practiceEntries+`
		(SELECT coalesce(sum(length(m.reps)), 0) FROM mark_runs m JOIN placements l ON l.id = m.place_id JOIN periods e ON e.id = l.period_id
		 WHERE m.club_id = @club AND e.club_id = @club AND e.practice_id = p.id)::int
		+ (SELECT coalesce(sum(length(m.reps)), 0) FROM mark_runs m JOIN periods e ON e.id = m.place_id
		   WHERE m.club_id = @club AND e.club_id = @club AND e.practice_id = p.id)::int AS marks
		FROM practices p LEFT JOIN users u ON u.id = p.updated_by AND u.club_id = p.club_id WHERE p.club_id = @club AND p.id = @id FOR UPDATE OF p`, pg.Args{"id": id})
	return r.entry(), found, err
}

// GameEntry reads one game and holds it until the transaction ends.
func (SQL) GameEntry(ctx context.Context, id uuid.UUID) (GameEntry, bool, error) {
	r, found, err := pg.One[gameEntryRow](ctx, gameEntries+`AND g.id = @id FOR UPDATE OF g`, pg.Args{"id": id})
	return r.entry(), found, err
}

// none is a word, or nothing.
func none(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

// PutPractice writes a practice.
func (SQL) PutPractice(ctx context.Context, seasonID uuid.UUID, p script.Practice, by uuid.UUID, at time.Time) error {
	row := practiceRow{ID: p.ID, SeasonID: seasonID, OnDate: p.On.Time(), Title: p.Title, Theme: p.Theme, Place: p.Place, StartMinute: p.StartMinute, Minutes: p.Minutes,
		Version: p.Version + 1, Cancelled: none(p.Cancelled), UpdatedBy: &by, UpdatedAt: at}
	if p.Version == 0 {
		return pg.Gorm(ctx).Create(&row).Error
	}
	return pg.Gorm(ctx).Model(&practiceRow{}).Where("id = ?", p.ID).
		Select("on_date", "title", "theme", "place", "start_minute", "minutes", "version", "cancelled", "updated_by", "updated_at").Updates(&row).Error
}

// PutGame writes a game.
func (SQL) PutGame(ctx context.Context, seasonID uuid.UUID, g Game, by uuid.UUID, at time.Time) error {
	row := gameRow{ID: g.ID, SeasonID: seasonID, OnDate: g.On.Time(), Opponent: g.Opponent, Home: g.Home, Version: g.Version + 1, Cancelled: none(g.Cancelled), UpdatedBy: &by, UpdatedAt: at}
	if g.Version == 0 {
		return pg.Gorm(ctx).Create(&row).Error
	}
	return pg.Gorm(ctx).Model(&gameRow{}).Where("id = ?", g.ID).Select("on_date", "opponent", "home", "version", "cancelled", "updated_by", "updated_at").Updates(&row).Error
}

// CopyScript copies the periods of a practice into another.
func (SQL) CopyScript(ctx context.Context, from, to, by uuid.UUID, at time.Time) error {
	_, err := pg.Exec(ctx, `
		WITH source AS MATERIALIZED (SELECT e.*, gen_random_uuid() AS copy FROM periods e WHERE e.club_id = @club AND e.practice_id = @from),
		made AS (
			INSERT INTO periods (id, club_id, practice_id, start, minutes, kind, name, contact, place, coaches, equipment, needs, rep_seconds, version, updated_by, updated_at)
			SELECT copy, club_id, @to, start, minutes, kind, name, contact, place, coaches, equipment, needs, rep_seconds, 1, @by, @at FROM source RETURNING id)
		INSERT INTO period_groups (club_id, period_id, group_key)
		SELECT @club, s.copy, g.group_key FROM source s JOIN period_groups g ON g.period_id = s.id JOIN made m ON m.id = s.copy`, pg.Args{"from": from, "to": to, "by": by, "at": at})
	return err
}

// DeletePractice takes a practice off the calendar.
func (SQL) DeletePractice(ctx context.Context, id uuid.UUID) error {
	return pg.Gorm(ctx).Where("id = ?", id).Delete(&practiceRow{}).Error
}

// DeleteGame takes a game off the calendar.
func (SQL) DeleteGame(ctx context.Context, id uuid.UUID) error {
	return pg.Gorm(ctx).Where("id = ?", id).Delete(&gameRow{}).Error
}
