package mark

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"

	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/internal/mark/record"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{}

var _ Store = SQL{}

// Add appends events; an id that is already there is left alone, so a request that is sent
// again changes nothing.
func (SQL) Add(ctx context.Context, events []Event) (int, error) {
	if len(events) == 0 {
		return 0, nil
	}
	done := pg.Gorm(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoNothing: true}).CreateInBatches(&events, 500)
	return int(done.RowsAffected), done.Error
}

// Known reads events by their ids.
func (SQL) Known(ctx context.Context, ids []uuid.UUID) (list []Event, err error) {
	err = pg.Gorm(ctx).Where("id IN ?", ids).Find(&list).Error
	return list, err
}

// detailRow is a current mark as it is read.
type detailRow struct {
	ID           uuid.UUID
	PlayerID     uuid.UUID
	PlacementID  *uuid.UUID
	Rep          *int
	TechniqueKey string
	State        string
	Assignment   *int
	Technique    *int
	Finish       *int
	Faults       json.RawMessage
	Measures     json.RawMessage
	Praise       bool
	Note         string
	Side         *string
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
	Seq          int64
}

const details = `
	SELECT m.seq, m.id, m.player_id, m.placement_id, m.rep, m.technique_key, m.state, m.assignment, m.technique, m.finish, m.faults, m.measures, m.praise, m.note,
	       m.side, m.standard, m.on_date, CASE WHEN m.play_id IS NULL THEN 'practice' ELSE 'game' END AS source, pe.practice_id, pl.drill_key,
	       g.opponent, y.number AS play_number, y.down, y.distance, y.spot, y.call, coalesce(u.name, '') AS by
	FROM mark_slots m
	LEFT JOIN placements pl ON pl.id = m.placement_id
	LEFT JOIN periods pe ON pe.id = pl.period_id
	LEFT JOIN plays y ON y.id = m.play_id
	LEFT JOIN games g ON g.id = m.game_id
	LEFT JOIN users u ON u.id = m.created_by AND u.club_id = m.club_id
	WHERE m.club_id = @club AND m.state <> 'withdrawn' `

func readDetails(ctx context.Context, where string, args pg.Args) ([]record.Detail, error) {
	rows, err := pg.Select[detailRow](ctx, details+where, args)
	list := make([]record.Detail, len(rows))
	for i, r := range rows {
		d := record.Detail{ID: r.ID, PlayerID: r.PlayerID, PlacementID: r.PlacementID, Rep: r.Rep, TechniqueKey: r.TechniqueKey, State: marks.State(r.State),
			Assignment: r.Assignment, Technique: r.Technique, Finish: r.Finish, Praise: r.Praise, Note: r.Note, Side: r.Side, Standard: r.Standard,
			On: season.Of(r.OnDate), Source: r.Source, PracticeID: r.PracticeID, DrillKey: r.DrillKey, Opponent: r.Opponent, PlayNumber: r.PlayNumber,
			Down: r.Down, Distance: r.Distance, Spot: r.Spot, Call: r.Call, By: r.By, Seq: r.Seq}
		if err := json.Unmarshal(r.Faults, &d.Faults); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(r.Measures, &d.Measures); err != nil {
			return nil, err
		}
		list[i] = d
	}
	return list, err
}

// OfPlacement lists the current marks of a placed drill.
func (SQL) OfPlacement(ctx context.Context, placement uuid.UUID) ([]record.Detail, error) {
	return readDetails(ctx, `AND m.placement_id = @placement ORDER BY m.player_id, m.rep`, pg.Args{"placement": placement})
}

// Evidence lists a player's current marks, newest first.
func (SQL) Evidence(ctx context.Context, player uuid.UUID, w record.Which) ([]record.Detail, error) {
	where := `AND m.player_id = @player AND m.on_date BETWEEN @from AND @to`
	if w.Technique != "" {
		where += ` AND m.technique_key = @technique`
	}
	if w.Fault != "" {
		where += ` AND m.faults <> '[]' AND m.faults @> jsonb_build_array(jsonb_build_object('key', @fault::text))`
	}
	args := pg.Args{"player": player, "from": w.From.Time(), "to": w.To.Time(), "technique": w.Technique, "fault": w.Fault, "limit": cmp.Or(w.Limit, record.Page)}
	if p := w.After; p != nil {
		where += ` AND (m.on_date, coalesce(y.number, m.rep), m.seq) < (@on::date, @n::int, @seq::bigint)`
		args["on"], args["n"], args["seq"] = p.On.Time(), p.N, p.Seq
	}
	return readDetails(ctx, where+` ORDER BY m.on_date DESC, coalesce(y.number, m.rep) DESC, m.seq DESC LIMIT @limit`, args)
}

// inGroup restricts marks to the players of a group, inside the days given.
const inGroup = `
	m.club_id = @club AND m.state <> 'withdrawn'
	AND m.player_id = ANY (ARRAY(SELECT player_id FROM player_groups WHERE club_id = @club AND group_key = @grp))
	AND m.on_date BETWEEN @from AND @to`

func days(group string, from, to season.Date) pg.Args {
	return pg.Args{"grp": group, "from": from.Time(), "to": to.Time()}
}

// judge is the shipped scheme's.
var judge = marks.NewJudge()

// Season counts the group's current marks by day.
func (SQL) Season(ctx context.Context, group string, from, to season.Date) (record.Sums, error) {
	type row struct {
		PlayerID     uuid.UUID
		TechniqueKey string
		OnDate       time.Time
		Game         bool
		Side         string
		State        string
		Assignment   *int
		Technique    *int
		Faults       json.RawMessage
		N            int `db:"n"`
	}
	rows, err := pg.Select[row](ctx, `
		SELECT m.player_id, m.technique_key, m.on_date, m.game_id IS NOT NULL AS game, coalesce(m.side, '') AS side, m.state, m.assignment, m.technique,
		       nullif(m.faults, '[]') AS faults, count(*)::int AS n
		FROM mark_slots m WHERE `+inGroup+`
		GROUP BY 1, 2, 3, 4, 5, 6, 7, 8, 9`, days(group, from, to))
	var all counts
	for _, r := range rows {
		m := counted{player: r.PlayerID, technique: r.TechniqueKey, on: season.Of(r.OnDate), game: r.Game, side: r.Side, state: marks.State(r.State),
			verdict: judge.Of(marks.State(r.State), r.Assignment, r.Technique), n: r.N}
		if len(r.Faults) > 0 {
			if err := json.Unmarshal(r.Faults, &m.faults); err != nil {
				return record.Sums{}, err
			}
		}
		all.add(m)
	}
	return all.sums(), err
}

// counted is marks that are alike.
type counted struct {
	player    uuid.UUID
	technique string
	on        season.Date
	game      bool
	side      string
	state     marks.State
	verdict   marks.Verdict
	faults    []record.Fault
	n         int
}

// counts adds marks up.
type counts struct {
	days   map[record.Day]record.Day // by what is summed over, and nothing counted
	faults map[faultKey]int
}

type faultKey struct {
	player, causedBy uuid.UUID // causedBy is nil for the player's own
	technique, fault string
	on               season.Date
	game             bool
}

func (c *counts) add(m counted) {
	if c.days == nil {
		c.days, c.faults = map[record.Day]record.Day{}, map[faultKey]int{}
	}
	key := record.Day{PlayerID: m.player, TechniqueKey: m.technique, On: m.on, Game: m.game, Side: m.side}
	d, ok := c.days[key]
	if !ok {
		d = key
	}
	switch {
	case !m.verdict.Graded:
		d.NotGraded += m.n
	case m.verdict.Clean:
		d.Clean += m.n
	default:
		d.Faulty += m.n
	}
	if m.verdict.Graded && m.state == marks.Assumed {
		d.Assumed += m.n
	}
	c.days[key] = d
	if !m.verdict.Graded {
		return
	}
	for _, f := range once(m.faults) {
		k := faultKey{player: m.player, technique: m.technique, fault: f.Key, on: m.on, game: m.game}
		k.causedBy, _ = uuid.Parse(f.CausedBy) // empty is none
		c.faults[k] += m.n
	}
}

// sums lists what was counted, in order.
func (c *counts) sums() record.Sums {
	out := record.Sums{Days: slices.Collect(maps.Values(c.days))}
	for k, n := range c.faults {
		f := record.FaultDay{PlayerID: k.player, TechniqueKey: k.technique, On: k.on, Game: k.game, Fault: k.fault, N: n}
		if k.causedBy != uuid.Nil {
			f.CausedBy = new(k.causedBy)
		}
		out.Faults = append(out.Faults, f)
	}
	bit := map[bool]int{true: 1}
	slices.SortFunc(out.Days, func(a, b record.Day) int {
		return cmp.Or(bytes.Compare(a.PlayerID[:], b.PlayerID[:]), cmp.Compare(a.TechniqueKey, b.TechniqueKey), cmp.Compare(a.On, b.On),
			cmp.Compare(bit[a.Game], bit[b.Game]), cmp.Compare(a.Side, b.Side))
	})
	slices.SortFunc(out.Faults, func(a, b record.FaultDay) int {
		var by [2]uuid.UUID
		for i, p := range []*uuid.UUID{a.CausedBy, b.CausedBy} {
			if p != nil {
				by[i] = *p
			}
		}
		return cmp.Or(bytes.Compare(a.PlayerID[:], b.PlayerID[:]), cmp.Compare(a.TechniqueKey, b.TechniqueKey), cmp.Compare(a.On, b.On),
			cmp.Compare(bit[a.Game], bit[b.Game]), cmp.Compare(a.Fault, b.Fault), bytes.Compare(by[0][:], by[1][:]))
	})
	return out
}

// Runs lists the current marks in the order of the season, for the ladders of a group or of
// one of its players. The database sends a drill's or game's reps of a player as one text, a
// character a rep: thousands of rows would take longer to carry than to judge.
func (SQL) Runs(ctx context.Context, group string, player *uuid.UUID, from, to season.Date) ([]record.Run, error) {
	args := days(group, from, to)
	where := inGroup
	if player != nil {
		where += ` AND m.player_id = @player`
		args["player"] = *player
	}
	type row struct {
		PlayerID     uuid.UUID
		TechniqueKey string
		OnDate       time.Time
		DrillKey     *string
		Codes        string
		Faults       json.RawMessage // a list of the lists of its marks
	}
	rows, err := pg.Select[row](ctx, `
		SELECT x.player_id, x.technique_key, x.on_date, pl.drill_key, x.codes, x.faults
		FROM (SELECT m.player_id, m.technique_key, m.on_date, m.placement_id, m.game_id,
		             string_agg(m.stage_code, '' ORDER BY m.rep, m.seq) AS codes,
		             jsonb_agg(m.faults) FILTER (WHERE m.faults <> '[]' AND m.state = 'looked') AS faults
		      FROM mark_slots m WHERE `+where+` GROUP BY 1, 2, 3, 4, 5) x
		LEFT JOIN placements pl ON pl.id = x.placement_id
		LEFT JOIN periods pe ON pe.id = pl.period_id
		ORDER BY x.on_date, pe.start + pl.start NULLS LAST, x.placement_id, x.technique_key, x.player_id`, args)
	list := make([]record.Run, len(rows))
	for i, r := range rows {
		list[i] = record.Run{PlayerID: r.PlayerID, TechniqueKey: r.TechniqueKey, On: season.Of(r.OnDate), DrillKey: r.DrillKey, Reps: make([]record.Rep, 0, len(r.Codes))}
		for _, code := range r.Codes {
			list[i].Reps = append(list[i].Reps, decode(int(code)-40))
		}
		if len(r.Faults) > 0 {
			var shown [][]record.Fault
			if err := json.Unmarshal(r.Faults, &shown); err != nil {
				return nil, err
			}
			list[i].Faults = once(slices.Concat(shown...))
		}
	}
	return list, err
}

// once lists faults each once, in order.
func once(faults []record.Fault) []record.Fault {
	slices.SortFunc(faults, func(a, b record.Fault) int {
		return cmp.Or(cmp.Compare(a.Key, b.Key), cmp.Compare(a.CausedBy, b.CausedBy))
	})
	return slices.Compact(faults)
}

// Values of a facet and names of states by their codes in mark_slots.stage_code.
var (
	facetValues = [3]*int{nil, new(0), new(1)}
	stateNames  = [3]marks.State{marks.Assumed, marks.Looked, marks.StateUnseen}
)

func decode(code int) record.Rep {
	v := judge.Of(stateNames[code/27], facetValues[code/9%3], facetValues[code/3%3])
	return record.Rep{Graded: v.Graded, Clean: v.Clean}
}

// Work lists the group's placed drills and games of the days given with how many marks each
// has.
func (SQL) Work(ctx context.Context, seasonID uuid.UUID, group string, sides []bool, from, to season.Date) ([]record.Work, error) {
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
	args["season"], args["sides"] = seasonID, sides
	rows, err := pg.Select[row](ctx, `
		SELECT false AS game, pl.id, p.id AS practice_id, pl.drill_key, pl.minutes, pl.lanes, p.title, p.on_date, 0 AS plays,
		       (SELECT count(*) FROM mark_slots m WHERE m.club_id = @club AND m.placement_id = pl.id AND m.state <> 'withdrawn')::int AS marked
		FROM placements pl
		JOIN periods e ON e.id = pl.period_id
		JOIN period_groups g ON g.period_id = e.id AND g.group_key = @grp
		JOIN practices p ON p.id = e.practice_id
		WHERE pl.club_id = @club AND p.club_id = @club AND p.season_id = @season AND p.on_date BETWEEN @from AND @to
		UNION ALL
		SELECT true, ga.id, NULL, NULL, 0, 0, ga.opponent, ga.on_date,
		       (SELECT count(*) FROM plays y WHERE y.club_id = @club AND y.game_id = ga.id AND y.offense = ANY (@sides::boolean[]))::int,
		       (SELECT count(DISTINCT m.play_id) FROM mark_slots m
		        JOIN player_groups pg ON pg.player_id = m.player_id AND pg.group_key = @grp
		        WHERE m.club_id = @club AND m.game_id = ga.id AND m.state <> 'withdrawn')::int
		FROM games ga WHERE ga.club_id = @club AND ga.season_id = @season AND ga.on_date BETWEEN @from AND @to
		ORDER BY on_date DESC, game DESC, id`, args)
	list := make([]record.Work, len(rows))
	for i, r := range rows {
		list[i] = record.Work{Game: r.Game, ID: r.ID, PracticeID: r.PracticeID, DrillKey: r.DrillKey, Minutes: r.Minutes, Lanes: r.Lanes, Title: r.Title,
			On: season.Of(r.OnDate), Plays: r.Plays, Marked: r.Marked}
	}
	return list, err
}
