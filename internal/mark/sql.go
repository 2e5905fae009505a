package mark

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgtype"

	"nineyard/core/marks"
	"nineyard/core/palette"
	"nineyard/core/season"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// Add appends events with their faults; an id that is already there is left alone, so a
// request that is sent again changes nothing. A mark is of the season of what was marked.
func (SQL) Add(ctx context.Context, events []Event) (int, error) {
	if len(events) == 0 {
		return 0, nil
	}
	list, err := json.Marshal(events)
	if err != nil {
		return 0, err
	}
	type row struct{ Added int }
	r, _, err := pg.One[row](ctx, `
		WITH sent AS MATERIALIZED (
			SELECT * FROM ROWS FROM (jsonb_to_recordset(@events::jsonb) AS (
				id uuid, player_id uuid, placement_id uuid, rep int, play_id uuid, technique_key text, grader uuid, state text, assignment smallint, technique smallint, finish smallint,
				verdict text, scheme int, faults jsonb, measures jsonb, praise boolean, note text, side text, result smallint, tallies text[], asked uuid, grade smallint, grade_of smallint, grade_clean smallint, group_key text, standard int, created_by uuid, created_at timestamptz, made_at timestamptz,
				device uuid, on_mark uuid)) WITH ORDINALITY),
		added AS (
			INSERT INTO mark_events (club_id, id, year, player_id, placement_id, rep, play_id, technique_key, grader, state, assignment, technique, finish, verdict, scheme,
			                         measures, praise, note, side, result, tallies, asked, grade, grade_of, grade_clean, group_key, standard, created_by, created_at, made_at, device, on_mark)
			SELECT @club, s.id, coalesce(se.mark_year, 0), s.player_id, s.placement_id, s.rep, s.play_id, s.technique_key, s.grader, s.state, s.assignment, s.technique, s.finish, s.verdict, s.scheme,
			       s.measures, s.praise, s.note, s.side, s.result, coalesce(s.tallies, '{}'), s.asked, s.grade, s.grade_of, s.grade_clean, s.group_key, s.standard, s.created_by, s.created_at, s.made_at, s.device, s.on_mark
			FROM sent s
			LEFT JOIN plays y ON y.club_id = @club AND y.id = s.play_id LEFT JOIN games g ON g.id = y.game_id
			LEFT JOIN placements pl ON pl.club_id = @club AND pl.id = s.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
			LEFT JOIN seasons se ON se.id = coalesce(g.season_id, pr.season_id)
			ORDER BY s.ordinality
			ON CONFLICT DO NOTHING RETURNING id, year),
		shown AS (
			INSERT INTO mark_faults (club_id, mark_id, fault, caused_by, year, nth, penalty)
			SELECT @club, a.id, f.x ->> 'key', coalesce(nullif(f.x ->> 'caused_by', ''), @own)::uuid, a.year, f.nth, coalesce((f.x ->> 'penalty')::boolean, false)
			FROM added a JOIN sent s ON s.id = a.id CROSS JOIN LATERAL jsonb_array_elements(s.faults) WITH ORDINALITY AS f (x, nth))
		SELECT count(*)::int AS added FROM added`, pg.Args{"events": string(list), "own": Settled.String()})
	return r.Added, err
}

// faultsOf are the faults of a mark as JSON, in the order in which they were named.
const faultsOf = `(SELECT coalesce(jsonb_agg(jsonb_strip_nulls(jsonb_build_object('key', f.fault, 'caused_by', nullif(f.caused_by, '00000000-0000-0000-0000-000000000000'),
	'penalty', nullif(f.penalty, false))) ORDER BY f.nth), '[]') FROM mark_faults f WHERE f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id)`

// scheme is the club's latest, or a row of nothing, and held until the transaction ends:
// whoever changes it waits for those who judge by it.
const scheme = `
	(SELECT pg_advisory_xact_lock_shared(hashtextextended('scheme ' || @club::uuid::text, 0))) held
	LEFT JOIN LATERAL (SELECT version, scheme FROM mark_schemes WHERE club_id = @club ORDER BY version DESC LIMIT 1) s ON true`

// Before reads events by their ids, and the scheme.
func (SQL) Before(ctx context.Context, ids []uuid.UUID) (b Before, err error) {
	type row struct {
		Version *int
		Scheme  json.RawMessage
		Event   json.RawMessage
		Faults  json.RawMessage
	}
	rows, err := pg.Select[row](ctx, `
		SELECT s.version, s.scheme, to_jsonb(m) AS event, `+faultsOf+` AS faults FROM `+scheme+`
		LEFT JOIN mark_events m ON m.club_id = @club AND m.id = ANY (@ids)`, pg.Args{"ids": ids})
	if err != nil {
		return b, err
	}
	b.Version, b.Scheme, err = schemeOf(rows[0].Version, rows[0].Scheme)
	for _, r := range rows {
		if err != nil || len(r.Event) == 0 {
			break
		}
		var e Event
		if err = json.Unmarshal(r.Event, &e); err == nil {
			err = json.Unmarshal(r.Faults, &e.Faults)
		}
		b.Known = append(b.Known, e)
	}
	return b, err
}

// House is how the club judges, and holds nobody up who changes it.
func (SQL) House(ctx context.Context) (marks.House, error) {
	type row struct {
		Version *int
		Scheme  json.RawMessage
	}
	r, _, err := pg.One[row](ctx, `SELECT version, scheme FROM mark_schemes WHERE club_id = @club ORDER BY version DESC LIMIT 1`, nil)
	if err != nil {
		return marks.House{}, err
	}
	_, house, err := schemeOf(r.Version, r.Scheme)
	return house, err
}

// Scheme is the club's latest, held until the transaction ends.
func (SQL) Scheme(ctx context.Context) (int, marks.House, error) {
	type row struct {
		Version *int
		Scheme  json.RawMessage
	}
	r, _, err := pg.One[row](ctx, `SELECT s.version, s.scheme FROM `+scheme, nil)
	if err != nil {
		return 0, marks.House{}, err
	}
	return schemeOf(r.Version, r.Scheme)
}

func schemeOf(version *int, text json.RawMessage) (int, marks.House, error) {
	if version == nil {
		return 0, marks.House{Scheme: marks.Shipped()}, nil
	}
	var s marks.House
	err := json.Unmarshal(text, &s)
	return *version, s, err
}

// verdictOf is the verdict on a mark in one word.
func verdictOf(s marks.Scheme, state marks.State, seen marks.Seen) string {
	return s.See(state, seen).Word()
}

// detailRow is a current mark as it is read.
type detailRow struct {
	ID           uuid.UUID
	PlayerID     uuid.UUID
	PlacementID  *uuid.UUID
	Rep          *int
	PlayID       *uuid.UUID
	TechniqueKey string
	State        string
	Assignment   *int
	Technique    *int
	Finish       *int
	Verdict      string
	Scheme       int
	Faults       json.RawMessage
	Measures     json.RawMessage
	Praise       bool
	Note         string
	Side         *string
	Result       *int
	Tallies      []string
	Asked        *uuid.UUID
	Grade        *int
	GradeOf      *int
	GradeClean   *int
	GroupKey     *string
	Standard     int
	OnDate       time.Time
	Source       string
	PracticeID   *uuid.UUID
	DrillKey     *string
	Opponent     *string
	PlayNumber   *int
	Down         *int
	Distance     *int
	Spot         *string
	Call         *string
	By           string
	Grader       uuid.UUID
	Seq          int64
}

const details = `
	SELECT m.seq, m.id, m.player_id, m.placement_id, m.rep, m.play_id, m.technique_key, m.state, m.assignment, m.technique, m.finish, m.verdict, m.scheme,
	       ` + faultsOf + ` AS faults, m.measures, m.praise, m.note,
	       m.side, m.result, m.tallies, m.asked, m.grade, m.grade_of, m.grade_clean, m.group_key, m.standard, m.on_date, CASE WHEN m.play_id IS NULL OR m.in_practice THEN 'practice' ELSE 'game' END AS source, pe.practice_id, pl.drill_key,
	       g.opponent, y.number AS play_number, y.down, y.distance, y.spot, y.call, coalesce(u.name, '') AS by, m.grader
	FROM mark_slots m
	LEFT JOIN placements pl ON pl.id = m.placement_id
	LEFT JOIN periods pe ON pe.id = pl.period_id
	LEFT JOIN plays y ON y.id = m.play_id
	LEFT JOIN games g ON g.id = m.game_id
	LEFT JOIN users u ON u.id = m.created_by AND u.club_id = m.club_id
	WHERE m.club_id = @club `

func readDetails(ctx context.Context, where string, args pg.Args) ([]record.Detail, error) {
	rows, err := pg.Select[detailRow](ctx, details+where, args)
	list := make([]record.Detail, len(rows))
	for i, r := range rows {
		d := record.Detail{ID: r.ID, PlayerID: r.PlayerID, PlacementID: r.PlacementID, Rep: r.Rep, PlayID: r.PlayID, TechniqueKey: r.TechniqueKey, State: marks.State(r.State),
			Assignment: r.Assignment, Technique: r.Technique, Finish: r.Finish, Verdict: marks.VerdictOf(r.Verdict), Scheme: r.Scheme, Praise: r.Praise, Note: r.Note, Side: r.Side, Result: r.Result, Asked: r.Asked, GroupKey: r.GroupKey, Standard: r.Standard,
			On: season.Of(r.OnDate), Source: r.Source, PracticeID: r.PracticeID, DrillKey: r.DrillKey, Opponent: r.Opponent, PlayNumber: r.PlayNumber,
			Down: r.Down, Distance: r.Distance, Spot: r.Spot, Call: r.Call, By: r.By, Grader: r.Grader, Seq: r.Seq}
		if err := json.Unmarshal(r.Faults, &d.Faults); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(r.Measures, &d.Measures); err != nil {
			return nil, err
		}
		if r.Grade != nil {
			d.Grade = &marks.OneGrade{Value: *r.Grade, Of: *r.GradeOf, CleanAt: *r.GradeClean}
		}
		for _, t := range r.Tallies {
			d.Tallies = append(d.Tallies, marks.Tally(t))
		}
		list[i] = d
	}
	return list, err
}

// OfPlacement lists the current marks of a placed drill.
func (SQL) OfPlacement(ctx context.Context, placement uuid.UUID) ([]record.Detail, error) {
	return readDetails(ctx, `AND m.stands AND m.place_id = @placement ORDER BY m.player_id, m.rep`, pg.Args{"placement": placement})
}

// inGame restricts marks to a game and players of a group.
const inGame = ` AND m.game_id = @game AND m.year = (SELECT s.mark_year FROM games g JOIN seasons s ON s.id = g.season_id WHERE g.club_id = @club AND g.id = @game)
	AND m.player_id = ANY (` + ofGroup + `) `

// OfGame lists the marks of a game's plays that players of a group have.
func (SQL) OfGame(ctx context.Context, game uuid.UUID, group string, graders ...uuid.UUID) ([]record.Detail, error) {
	which := `AND m.stands`
	if len(graders) > 0 {
		which = `AND m.grader = ANY (@graders) AND m.state <> 'withdrawn'`
	}
	return readDetails(ctx, which+inGame+`ORDER BY m.player_id, y.number, m.technique_key, m.grader`, pg.Args{"game": game, "grp": group, "graders": graders})
}

// Graders lists who graded players of a group in a game.
func (SQL) Graders(ctx context.Context, game uuid.UUID, group string) ([]Grader, error) {
	return pg.Select[Grader](ctx, `
		SELECT m.grader AS id, coalesce(u.name, '') AS name, count(*)::int AS marks FROM mark_slots m LEFT JOIN users u ON u.id = m.grader AND u.club_id = m.club_id
		WHERE m.club_id = @club AND m.grader <> @settled AND m.state <> 'withdrawn'`+inGame+`GROUP BY 1, 2 ORDER BY 3 DESC, 2, 1`, pg.Args{"game": game, "grp": group, "settled": Settled})
}

// Evidence lists a player's current marks, newest first.
func (SQL) Evidence(ctx context.Context, player uuid.UUID, w record.Which) ([]record.Detail, error) {
	where := `AND m.stands AND m.player_id = @player AND m.on_date BETWEEN @from AND @to`
	if w.Technique != "" {
		where += ` AND m.technique_key = @technique`
	}
	if w.Fault != "" {
		where += ` AND EXISTS (SELECT 1 FROM mark_faults f WHERE f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id AND f.fault = ANY (@faults))`
	}
	args := pg.Args{"player": player, "from": w.From.Time(), "to": w.To.Time(), "technique": w.Technique, "faults": append([]string{w.Fault}, w.Was...), "limit": cmp.Or(w.Limit, record.Page)}
	if p := w.After; p != nil {
		where += ` AND (m.on_date, coalesce(y.number, m.rep), m.seq) < (@on::date, @n::int, @seq::bigint)`
		args["on"], args["n"], args["seq"] = p.On.Time(), p.N, p.Seq
	}
	return readDetails(ctx, where+` ORDER BY m.on_date DESC, coalesce(y.number, m.rep) DESC, m.seq DESC LIMIT @limit`, args)
}

// ofGroup is the players of a group; inGroup restricts sums to them and to the days given, a day
// being a number, as in core/season; faultsOfGroup to the days of the faults.
const (
	ofGroup       = `ARRAY(SELECT player_id FROM player_groups WHERE club_id = @club AND group_key = @grp)`
	inGroup       = ` d.club_id = @club AND d.player_id = ANY (` + ofGroup + `) AND d.on_date BETWEEN @from AND @to`
	faultsOfGroup = ` d.club_id = @club AND d.player_id = ANY (` + ofGroup + `) AND d.on_date BETWEEN @faults_from AND @to`
)

func days(group string, from, to season.Date) pg.Args {
	return pg.Args{"grp": group, "from": from.Time(), "to": to.Time()}
}

// faultDay is a row of mark_fault_days.
func faultDay(player [16]byte, day int32, technique string, game bool, key string, cause [16]byte, n int) record.FaultDay {
	f := record.FaultDay{PlayerID: player, TechniqueKey: technique, On: season.Date(day), Game: game, Fault: key, N: n}
	if by := uuid.UUID(cause); by != uuid.Nil {
		f.CausedBy = &by
	}
	return f
}

// words are those that came in rows, each kept once: of thousands of rows there are few.
type words map[string]string

func (w words) of(b []byte) string {
	s, ok := w[string(b)]
	if !ok {
		s = string(b)
		w[s] = s
	}
	return s
}

// Season reads the group's sums in one statement, in no order.
func (SQL) Season(ctx context.Context, group string, from, to, faultsFrom season.Date) (sums record.Sums, err error) {
	args := days(group, from, to)
	args["faults_from"] = faultsFrom.Time()
	var player, cause [16]byte
	var day int32
	var technique, word pgtype.DriverBytes // the word is a fault, or a side of a day
	names := words{}
	sums.Days = make([]record.Day, 0, 1500) // a season of a group of ten
	var game bool
	var n, scheme, faulty, notGraded, assumed int
	err = pg.Each(ctx, `
		SELECT d.player_id, d.on_date - '1970-01-01'::date, d.technique_key, d.game, d.fault, d.caused_by, d.n, -1, 0, 0, 0 FROM mark_fault_days d WHERE d.n > 0 AND `+faultsOfGroup+`
		UNION ALL
		SELECT d.player_id, d.on_date - '1970-01-01'::date, d.technique_key, d.game, d.fault, d.caused_by, d.n, -1, 0, 0, 0 FROM mark_fault_days d
		WHERE d.n > 0 AND d.club_id = @club AND d.caused_by <> '00000000-0000-0000-0000-000000000000' AND d.caused_by = ANY (`+ofGroup+`) AND d.player_id <> ALL (`+ofGroup+`)
		  AND d.on_date BETWEEN @faults_from AND @to
		UNION ALL
		SELECT d.player_id, d.on_date - '1970-01-01'::date, d.technique_key, d.game, d.side, '00000000-0000-0000-0000-000000000000', d.clean, d.faulty, d.not_graded, d.assumed, d.scheme FROM mark_days d
		WHERE d.clean + d.faulty + d.not_graded > 0 AND `+inGroup, args, func(scan func(...any) error) error {
		if err := scan(&player, &day, &technique, &game, &word, &cause, &n, &faulty, &notGraded, &assumed, &scheme); err != nil {
			return err
		}
		if faulty < 0 {
			sums.Faults = append(sums.Faults, faultDay(player, day, names.of(technique), game, names.of(word), cause, n))
			return nil
		}
		sums.Days = append(sums.Days, record.Day{PlayerID: player, TechniqueKey: names.of(technique), On: season.Date(day), Game: game, Side: names.of(word), Scheme: scheme,
			Clean: n, Faulty: faulty, NotGraded: notGraded, Assumed: assumed})
		return nil
	})
	return sums, err
}

// Usual counts in the database: a group has few faults and many days.
func (SQL) Usual(ctx context.Context, group string, from, to season.Date) (list []palette.Count, err error) {
	var player [16]byte
	var c palette.Count
	err = pg.Each(ctx, `
		SELECT d.player_id, d.technique_key, d.fault, sum(d.n)::float8 FROM mark_fault_days d
		WHERE d.n > 0 AND`+inGroup+` GROUP BY d.player_id, d.technique_key, d.fault`, days(group, from, to), func(scan func(...any) error) error {
		if err := scan(&player, &c.Technique, &c.Fault, &c.N); err != nil {
			return err
		}
		c.Player = uuid.UUID(player).String()
		list = append(list, c)
		return nil
	})
	return list, err
}

// Runs lists the current marks in the order of the season, for the ladders of a group or of
// one of its players: a drill's or game's reps of a player are one text, a letter a rep. The
// faults are those of their own.
func (SQL) Runs(ctx context.Context, group string, player *uuid.UUID, from, to, faultsFrom season.Date) ([]record.Run, []record.FaultDay, error) {
	args := days(group, from, to)
	where, faultsWhere := inGroup, faultsOfGroup
	if player != nil {
		where += ` AND d.player_id = @player`
		faultsWhere += ` AND d.player_id = @player`
		args["player"] = *player
	}
	args["faults_from"] = faultsFrom.Time()
	type spot struct {
		drill  string
		minute int32
	}
	type placed struct {
		record.Run
		at [16]byte
	}
	places := map[[16]byte]spot{}
	var list []placed
	var faults []record.FaultDay
	var kind string
	var who, place [16]byte
	var day, n int32
	var technique, word string
	var game bool
	// Few drills are in many runs: they are read beside them, each once.
	err := pg.Each(ctx, `
		WITH runs AS MATERIALIZED (SELECT d.player_id, d.on_date, d.technique_key, d.game, d.reps, d.place_id FROM mark_runs d WHERE `+where+`)
		SELECT 'run', r.place_id, r.player_id, r.on_date - '1970-01-01'::date, r.technique_key, r.game, r.reps, 0 FROM runs r
		UNION ALL
		SELECT 'place', pl.id, '00000000-0000-0000-0000-000000000000', 0, '', false, pl.drill_key, pe.start + pl.start FROM (SELECT DISTINCT place_id FROM runs WHERE NOT game) r
		JOIN placements pl ON pl.club_id = @club AND pl.id = r.place_id JOIN periods pe ON pe.id = pl.period_id
		UNION ALL
		SELECT 'fault', d.caused_by, d.player_id, d.on_date - '1970-01-01'::date, d.technique_key, d.game, d.fault, d.n FROM mark_fault_days d
		WHERE d.n > 0 AND d.caused_by = '00000000-0000-0000-0000-000000000000' AND `+faultsWhere, args, func(scan func(...any) error) error {
		if err := scan(&kind, &place, &who, &day, &technique, &game, &word, &n); err != nil {
			return err
		}
		switch kind {
		case "place":
			places[place] = spot{word, n}
		case "fault":
			faults = append(faults, faultDay(who, day, technique, game, word, place, int(n)))
		default:
			list = append(list, placed{record.Run{PlayerID: who, TechniqueKey: technique, On: season.Date(day), Reps: repsOf(word)}, place})
		}
		return nil
	})
	last := spot{minute: 24 * 60} // games come after the practices of their day
	at := func(x placed) spot {
		if w, ok := places[x.at]; ok {
			return w
		}
		return last
	}
	slices.SortFunc(list, func(a, b placed) int {
		return cmp.Or(cmp.Compare(a.On, b.On), cmp.Compare(at(a).minute, at(b).minute), bytes.Compare(a.at[:], b.at[:]))
	})
	runs := make([]record.Run, len(list))
	for i, x := range list {
		if runs[i] = x.Run; at(x) != last {
			runs[i].DrillKey = new(at(x).drill)
		}
	}
	return runs, faults, err
}

// repsOf reads a run's letters: c, f, or n for what was not graded.
func repsOf(letters string) []record.Rep {
	list := make([]record.Rep, len(letters))
	for i, letter := range letters {
		list[i] = record.Rep{Graded: letter != 'n', Clean: letter == 'c'}
	}
	return list
}

// Work lists the group's placed drills and games of the days given with how many marks each
// has.
func (SQL) Work(ctx context.Context, seasonID uuid.UUID, group, unit string, from, to season.Date) ([]record.Work, error) {
	type row struct {
		Game       bool
		ID         uuid.UUID
		PracticeID *uuid.UUID
		DrillKey   *string
		Minutes    int
		Lanes      int
		Title      string
		OnDate     time.Time
		Plays      int
		Marked     int
	}
	args := days(group, from, to)
	args["season"], args["unit"] = seasonID, unit
	rows, err := pg.Select[row](ctx, `
		SELECT false AS game, pl.id, p.id AS practice_id, pl.drill_key, pl.minutes, pl.lanes, p.title, p.on_date, 0 AS plays,
		       coalesce((SELECT sum(length(m.reps)) FROM mark_runs m WHERE m.club_id = @club AND m.place_id = pl.id), 0)::int AS marked
		FROM placements pl
		JOIN periods e ON e.id = pl.period_id
		JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = @club AND pl.group_key = @grp AND p.club_id = @club AND p.season_id = @season AND p.cancelled IS NULL AND p.on_date BETWEEN @from AND @to
		UNION ALL
		SELECT true, ga.id, NULL, NULL, 0, 0, ga.opponent, ga.on_date,
		       (SELECT count(*) FROM plays y WHERE y.club_id = @club AND y.game_id = ga.id AND y.unit = @unit)::int,
		       (SELECT count(DISTINCT m.play_id) FROM mark_slots m
		        WHERE m.club_id = @club AND m.game_id = ga.id AND m.stands AND m.year = (SELECT mark_year FROM seasons WHERE club_id = @club AND id = @season)
		          AND m.player_id = ANY (ARRAY(SELECT player_id FROM player_groups WHERE club_id = @club AND group_key = @grp)))::int
		FROM games ga WHERE ga.club_id = @club AND ga.season_id = @season AND ga.period_id IS NULL AND ga.cancelled IS NULL AND ga.on_date BETWEEN @from AND @to
		ORDER BY on_date DESC, game DESC, id`, args)
	list := make([]record.Work, len(rows))
	for i, r := range rows {
		list[i] = record.Work{Game: r.Game, ID: r.ID, PracticeID: r.PracticeID, DrillKey: r.DrillKey, Minutes: r.Minutes, Lanes: r.Lanes, Title: r.Title,
			On: season.Of(r.OnDate), Plays: r.Plays, Marked: r.Marked}
	}
	return list, err
}
