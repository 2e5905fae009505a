package store

import (
	"bytes"
	"context"
	"database/sql"
	"sort"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nineyard/internal/app"
)

// AddMarks appends events; an id that is already there is left alone, so a request
// that is sent again changes nothing.
func (s *Store) AddMarks(ctx context.Context, events []app.MarkEvent) error {
	return s.db.WithContext(ctx).Table("mark_events").
		Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoNothing: true}).
		CreateInBatches(&events, 500).Error
}

const markDetail = `
	SELECT m.*, y.number AS play_number, y.down, y.distance, y.spot, y.call, g.opponent, coalesce(u.name, '') AS by_name
	FROM marks m
	LEFT JOIN plays y ON y.id = m.play_id
	LEFT JOIN games g ON g.id = m.game_id
	LEFT JOIN users u ON u.id = m.created_by AND u.club_id = m.club_id`

// PlacementMarks lists the current marks of a placed drill.
func (s *Store) PlacementMarks(ctx context.Context, club, placement uuid.UUID) ([]app.MarkDetail, error) {
	var rows []app.MarkDetail
	return rows, s.db.WithContext(ctx).Raw(markDetail+` WHERE m.club_id = ? AND m.placement_id = ? ORDER BY m.player_id, m.rep`, club, placement).Scan(&rows).Error
}

// inGroup restricts marks to the players of a group, inside the days given.
const inGroup = `
	m.club_id = @club AND m.state <> 'withdrawn'
	AND m.player_id = ANY (ARRAY(SELECT player_id FROM player_groups WHERE club_id = @club AND group_key = @grp))
	AND m.on_date BETWEEN @from AND @to`

// read runs a query and scans its rows without reflection. It serves the wide reads of
// the product, thousands of rows for one screen.
func read[T any](db *gorm.DB, query string, args map[string]any, scan func(*sql.Rows, *T) error) ([]T, error) {
	rows, err := db.Raw(query, args).Rows()
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	var list []T
	for rows.Next() {
		var v T
		if err := scan(rows, &v); err != nil {
			return nil, err
		}
		list = append(list, v)
	}
	return list, rows.Err()
}

// MarkTallies counts the group's current marks that are alike, put in order here, where
// that is cheaper than in the database.
func (s *Store) MarkTallies(ctx context.Context, club uuid.UUID, group string, from, to time.Time) ([]app.MarkTally, error) {
	list, err := read(s.db.WithContext(ctx), `
		SELECT m.player_id, m.technique_key, m.on_date, m.game_id, m.state, m.assignment, m.technique, count(*) AS n
		FROM mark_slots m WHERE `+inGroup+`
		GROUP BY 1, 2, 3, 4, 5, 6, 7`,
		map[string]any{"club": club, "grp": group, "from": from, "to": to},
		func(r *sql.Rows, t *app.MarkTally) error {
			return r.Scan(&t.PlayerID, &t.TechniqueKey, &t.OnDate, &t.GameID, &t.State, &t.Assignment, &t.Technique, &t.N)
		})
	sort.Slice(list, func(i, j int) bool { return tallyLess(&list[i], &list[j]) })
	return list, err
}

func tallyLess(a, b *app.MarkTally) bool {
	if c := bytes.Compare(a.PlayerID[:], b.PlayerID[:]); c != 0 {
		return c < 0
	}
	if a.TechniqueKey != b.TechniqueKey {
		return a.TechniqueKey < b.TechniqueKey
	}
	if !a.OnDate.Equal(b.OnDate) {
		return a.OnDate.Before(b.OnDate)
	}
	if a.State != b.State {
		return a.State < b.State
	}
	bit := func(v *int) int {
		if v == nil {
			return -1
		}
		return *v
	}
	if bit(a.Technique) != bit(b.Technique) {
		return bit(a.Technique) < bit(b.Technique)
	}
	return bit(a.Assignment) < bit(b.Assignment)
}

// FaultTallies counts the faults in the group's current marks that were looked at, in no
// order.
func (s *Store) FaultTallies(ctx context.Context, club uuid.UUID, group string, from, to time.Time) ([]app.FaultTally, error) {
	return read(s.db.WithContext(ctx), `
		SELECT m.player_id, m.technique_key, m.on_date, f ->> 'key', coalesce(f ->> 'caused_by', ''), count(*)
		FROM mark_slots m CROSS JOIN LATERAL jsonb_array_elements(m.faults) f
		WHERE m.faults <> '[]' AND m.state = 'looked' AND `+inGroup+`
		GROUP BY 1, 2, 3, 4, 5`,
		map[string]any{"club": club, "grp": group, "from": from, "to": to},
		func(r *sql.Rows, t *app.FaultTally) error {
			return r.Scan(&t.PlayerID, &t.TechniqueKey, &t.OnDate, &t.Fault, &t.CausedBy, &t.N)
		})
}

// StageRuns lists the current marks in the order of the season, for the ladders of a
// group or of one of its players. The database sends a drill's or game's reps of a player
// as one text, a character a rep: thousands of rows would take longer to carry than to
// judge.
func (s *Store) StageRuns(ctx context.Context, club uuid.UUID, group string, player *uuid.UUID, from, to time.Time) ([]app.StageRun, error) {
	where := inGroup
	args := map[string]any{"club": club, "grp": group, "from": from, "to": to}
	if player != nil {
		where += ` AND m.player_id = @player`
		args["player"] = *player
	}
	return read(s.db.WithContext(ctx), `
		SELECT x.player_id, x.technique_key, x.on_date, pl.drill_key, x.codes
		FROM (SELECT m.player_id, m.technique_key, m.on_date, m.placement_id, m.game_id,
		             string_agg(m.stage_code, '' ORDER BY m.rep, m.seq) AS codes
		      FROM mark_slots m WHERE `+where+` GROUP BY 1, 2, 3, 4, 5) x
		LEFT JOIN placements pl ON pl.id = x.placement_id
		LEFT JOIN periods pe ON pe.id = pl.period_id
		ORDER BY x.on_date, pe.start + pl.start NULLS LAST, x.placement_id, x.technique_key`, args,
		func(r *sql.Rows, t *app.StageRun) error {
			var codes string
			if err := r.Scan(&t.PlayerID, &t.TechniqueKey, &t.OnDate, &t.DrillKey, &codes); err != nil {
				return err
			}
			t.Reps = make([]app.StageRep, 0, len(codes))
			for _, code := range codes {
				t.Reps = append(t.Reps, decode(int(code)-40))
			}
			return nil
		})
}

// Values of a facet and names of states and sides by their codes in mark_slots.stage_code.
var (
	facetValues = [3]*int{nil, new(int), func() *int { one := 1; return &one }()}
	stateNames  = [3]string{"assumed", "looked", "unseen"}
	sideNames   = [3]string{"", "left", "right"}
)

func decode(code int) app.StageRep {
	return app.StageRep{State: stateNames[code/27], Assignment: facetValues[code/9%3], Technique: facetValues[code/3%3], Side: sideNames[code%3]}
}

// Evidence lists a player's current marks, newest first.
func (s *Store) Evidence(ctx context.Context, club, player uuid.UUID, technique, fault string, from, to time.Time) ([]app.MarkDetail, error) {
	query := markDetail + ` WHERE m.club_id = @club AND m.player_id = @player AND m.on_date BETWEEN @from AND @to`
	args := map[string]any{"club": club, "player": player, "from": from, "to": to}
	if technique != "" {
		query += ` AND m.technique_key = @technique`
		args["technique"] = technique
	}
	if fault != "" {
		query += ` AND m.faults @> jsonb_build_array(jsonb_build_object('key', CAST(@fault AS text)))`
		args["fault"] = fault
	}
	var rows []app.MarkDetail
	return rows, s.db.WithContext(ctx).Raw(query+` ORDER BY m.on_date DESC, coalesce(y.number, m.rep) DESC, m.seq DESC LIMIT 500`, args).Scan(&rows).Error
}

// GradeStates lists the group's placed drills and games of the days given with how
// many marks each has.
func (s *Store) GradeStates(ctx context.Context, club, season uuid.UUID, group string, offense bool, from, to time.Time) ([]app.GradeState, error) {
	var rows []app.GradeState
	return rows, s.db.WithContext(ctx).Raw(`
		SELECT 'drill' AS kind, pl.id, p.id AS practice_id, pl.drill_key, pl.minutes, pl.lanes, p.title, p.on_date, 0 AS plays,
		       (SELECT count(*) FROM mark_slots m WHERE m.placement_id = pl.id AND m.state <> 'withdrawn') AS graded
		FROM placements pl
		JOIN periods e ON e.id = pl.period_id
		JOIN period_groups g ON g.period_id = e.id AND g.group_key = @grp
		JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = @club AND p.season_id = @season AND p.on_date BETWEEN @from AND @to
		UNION ALL
		SELECT 'game', ga.id, NULL, NULL, 0, 0, ga.opponent, ga.on_date,
		       (SELECT count(*) FROM plays y WHERE y.game_id = ga.id AND y.offense = @offense),
		       (SELECT count(DISTINCT m.play_id) FROM mark_slots m
		        JOIN player_groups pg ON pg.player_id = m.player_id AND pg.group_key = @grp
		        WHERE m.game_id = ga.id AND m.state <> 'withdrawn')
		FROM games ga WHERE ga.club_id = @club AND ga.season_id = @season AND ga.on_date BETWEEN @from AND @to
		ORDER BY on_date DESC, kind DESC`,
		map[string]any{"club": club, "season": season, "grp": group, "offense": offense, "from": from, "to": to}).Scan(&rows).Error
}
