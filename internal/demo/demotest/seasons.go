package demotest

import (
	"context"
	"encoding/binary"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"golang.org/x/sync/errgroup"

	"nineyard/core/group"
	"nineyard/internal/demo"
	"nineyard/internal/platform/pg"
)

// Size is how much Seasons makes.
type Size struct {
	Clubs   int
	Seasons int // of each, a year apart
	Share   int // every so many of the demo's marks: 1 for all, in the clubs beside the demo's own
}

// Seasons fills an empty, migrated database with the demo and clubs like it: as many clubs
// in all, each with as many seasons, of which the first is the demo's own. The others are
// the demo's records under other ids, a year earlier each. It is for measuring.
func Seasons(ctx context.Context, owner *pg.DB, size Size) error {
	w := World()
	if err := demo.Load(ctx, owner, w); err != nil {
		return err
	}
	for a := range size.Seasons { // before anybody writes: making a part of a table waits for all who do
		if err := each(ctx, owner, []string{fmt.Sprintf(`SELECT open_mark_year(%d)`, demo.Year-a)}); err != nil {
			return err
		}
	}
	indexes, err := lift(ctx, owner, size)
	if err != nil {
		return err
	}
	clubs := make([]uuid.UUID, size.Clubs)
	inEach := func(do func(ctx context.Context, club int) error) error {
		var work errgroup.Group
		work.SetLimit(2)
		for club, id := range clubs {
			work.Go(func() error {
				return owner.InClub(ctx, id, func(ctx context.Context) error { return do(ctx, club) })
			})
		}
		return work.Wait()
	}
	for club := range clubs {
		if clubs[club] = w.ClubID; club > 0 {
			clubs[club] = alias{club, 0}.of(w.ClubID)
		}
	}
	if err := inEach(func(ctx context.Context, club int) error { return copies(ctx, w, club, size.Seasons, size.Share) }); err != nil {
		return err
	}
	if err := each(ctx, owner, append(indexes, `ANALYZE mark_slots`, `ANALYZE mark_faults`)); err != nil {
		return err
	}
	if err := inEach(func(ctx context.Context, _ int) error {
		_, err := pg.Exec(ctx, `SELECT rebuild_sums(@club)`, nil)
		return err
	}); err != nil {
		return err
	}
	return each(ctx, owner, []string{`VACUUM ANALYZE`}) // as the database does by itself in time
}

// Earlier adds the season before to the demo's club, with the same marks a year earlier.
func Earlier(ctx context.Context, owner *pg.DB) error {
	w := World()
	return owner.InClub(ctx, w.ClubID, func(ctx context.Context) error {
		if _, err := pg.Exec(ctx, fmt.Sprintf(`SELECT open_mark_year(%d)`, demo.Year-1), nil); err != nil {
			return err
		}
		if err := copies(ctx, w, 0, 2, 1); err != nil {
			return err
		}
		_, err := pg.Exec(ctx, `SELECT rebuild_sums(@club)`, nil)
		return err
	})
}

func each(ctx context.Context, owner *pg.DB, statements []string) error {
	return owner.Anywhere(ctx, func(ctx context.Context) error {
		for _, s := range statements {
			if _, err := pg.Exec(ctx, s, nil); err != nil {
				return fmt.Errorf("%s: %w", s, err)
			}
		}
		return nil
	})
}

// lift drops the indexes of the marks while they are loaded and returns how they are made.
// Nothing is logged of them either: a database to measure is not kept.
func lift(ctx context.Context, owner *pg.DB, size Size) (made []string, err error) {
	type row struct{ Dropped, Made string }
	var rows []row
	err = owner.Anywhere(ctx, func(ctx context.Context) (err error) {
		rows, err = pg.Select[row](ctx, `
			SELECT format('DROP INDEX %I', indexname) AS dropped, replace(indexdef, ' ON ONLY ', ' ON ') AS made FROM pg_indexes
			WHERE tablename IN ('mark_events', 'mark_slots', 'mark_faults') AND NOT EXISTS (SELECT 1 FROM pg_constraint WHERE conname = indexname)
			UNION ALL
			SELECT format('ALTER TABLE %s DROP CONSTRAINT %I', conrelid::regclass, conname), format('ALTER TABLE %s ADD CONSTRAINT %I %s', conrelid::regclass, conname, pg_get_constraintdef(oid))
			FROM pg_constraint WHERE conrelid IN ('mark_events'::regclass, 'mark_slots'::regclass, 'mark_faults'::regclass) AND contype IN ('p', 'u', 'f')`, nil)
		return err
	})
	if err != nil {
		return nil, err
	}
	var drops []string
	for _, r := range rows {
		drops = append(drops, r.Dropped)
		if !strings.Contains(r.Made, "FOREIGN KEY") { // the rows are there; checking them is no part of what is measured
			made = append(made, r.Made)
		}
	}
	for a := range size.Seasons {
		for _, t := range []string{"mark_events", "mark_slots", "mark_faults"} {
			drops = append(drops, fmt.Sprintf(`ALTER TABLE %s_%d SET UNLOGGED`, t, demo.Year-a))
		}
	}
	return made, each(ctx, owner, drops)
}

// alias names the demo's records anew for a club and a season.
type alias struct{ club, season int }

func (a alias) of(id uuid.UUID) uuid.UUID {
	if a.club == 0 && a.season == 0 {
		return id
	}
	n := binary.BigEndian.Uint32(id[12:])
	binary.BigEndian.PutUint32(id[12:], n^uint32(a.club<<16|a.season<<8|1))
	return id
}

func (a alias) maybe(id *uuid.UUID) *uuid.UUID {
	if id == nil {
		return nil
	}
	return new(a.of(*id))
}

// then is a moment of the demo in a season: 364 days a year earlier, the same day of the
// week.
func (a alias) then(t time.Time) time.Time { return t.AddDate(0, 0, -364*a.season) }

func copies(ctx context.Context, w *demo.World, club, seasons, share int) error {
	c := copier{ctx: ctx, w: w, people: alias{club, 0}, share: share}
	c.exec(`SET LOCAL session_replication_role = replica`) // no triggers: the slots are copied too
	if club > 0 {
		c.club()
	}
	for season := range seasons {
		if club > 0 || season > 0 {
			c.season(alias{club, season})
		}
	}
	return c.err
}

type copier struct {
	ctx    context.Context
	w      *demo.World
	people alias // of the club, its staff and its players, who stay the same
	share  int
	err    error
}

func (c *copier) exec(query string) {
	if c.err == nil {
		_, c.err = pg.Exec(c.ctx, query, nil)
	}
}

// copy sends n rows of a table; columns are names with spaces between.
func (c *copier) copy(table, columns string, n int, row func(i int) []any) {
	if c.err == nil && n > 0 {
		_, c.err = pg.Copy(c.ctx, table, strings.Fields(columns), pgx.CopyFromSlice(n, func(i int) ([]any, error) { return row(i), nil }))
	}
}

func (c *copier) club() {
	w, a := c.w, c.people
	id := a.of(w.ClubID)
	c.copy("clubs", "id name league timezone", 1, func(int) []any { return []any{id, fmt.Sprintf("Club %d", a.club), "Outer Sound League", demo.Timezone} })
	groups := group.Usual()
	c.copy("position_groups", "club_id key name short side positions sort", len(groups), func(i int) []any {
		g := groups[i]
		return []any{id, g.Key, g.Name, g.Short, string(g.Side), g.Positions, i}
	})
	c.copy("accounts", "id email name password_hash", len(w.Users), func(i int) []any {
		u := w.Users[i]
		return []any{a.of(u.ID), fmt.Sprintf("club%d.%s", a.club, u.Email), u.Name, "-"}
	})
	c.copy("users", "id club_id account_id name title role", len(w.Users), func(i int) []any {
		u := w.Users[i]
		return []any{a.of(u.ID), id, a.of(u.ID), u.Name, u.Title, u.Role}
	})
	var own [][]any
	for _, u := range w.Users {
		if g := w.UserGroup[u.ID]; g != "" {
			own = append(own, []any{id, a.of(u.ID), g})
		}
	}
	c.copy("user_groups", "club_id user_id group_key", len(own), func(i int) []any { return own[i] })
	c.copy("players", "id club_id jersey first_name last_name position height_in weight_lb returner", len(w.Players), func(i int) []any {
		p := w.Players[i]
		return []any{a.of(p.ID), id, p.Jersey, p.FirstName, p.LastName, p.Position, p.HeightIn, p.WeightLb, p.Returning}
	})
	c.copy("player_groups", "club_id player_id group_key", len(w.Players), func(i int) []any {
		return []any{id, a.of(w.Players[i].ID), w.GroupOf[w.Players[i].ID]}
	})
	c.copy("availability_spells", "id club_id player_id status from_on to_on reason", len(w.Spells), func(i int) []any {
		s := w.Spells[i]
		return []any{a.of(s.ID), id, a.of(s.PlayerID), s.Status, s.From, s.To, s.Reason}
	})
}

func (c *copier) season(a alias) {
	w, club := c.w, c.people.of(c.w.ClubID)
	start, _ := time.Parse(time.DateOnly, demo.SeasonStart)
	season := a.of(w.SeasonID)
	c.copy("seasons", "id club_id name starts_on weeks mark_year", 1, func(int) []any {
		return []any{season, club, fmt.Sprint(demo.Year - a.season), a.then(start), demo.Weeks, demo.Year - a.season}
	})
	c.copy("practices", "id club_id season_id on_date title theme place start_minute minutes", len(w.Practices), func(i int) []any {
		p := w.Practices[i]
		return []any{a.of(p.ID), club, season, a.then(p.OnDate), p.Title, p.Theme, p.Place, p.StartMinute, p.Minutes}
	})
	type in struct {
		period uuid.UUID
		group  string
	}
	var groups []in
	practice, on := map[uuid.UUID]uuid.UUID{}, map[uuid.UUID]time.Time{}
	for _, p := range w.Practices {
		on[p.ID] = p.OnDate
	}
	c.copy("periods", "id club_id practice_id start minutes kind name contact", len(w.Periods), func(i int) []any {
		e := w.Periods[i]
		practice[e.ID] = e.PracticeID
		for _, g := range e.Groups {
			groups = append(groups, in{a.of(e.ID), g})
		}
		return []any{a.of(e.ID), club, a.of(e.PracticeID), e.Start, e.Minutes, e.Kind, e.Name, e.Contact}
	})
	c.copy("period_groups", "club_id period_id group_key", len(groups), func(i int) []any { return []any{club, groups[i].period, groups[i].group} })
	c.copy("placements", "id club_id period_id group_key drill_key technique_key start minutes lanes", len(w.Placements), func(i int) []any {
		p := w.Placements[i]
		on[p.ID] = on[practice[p.PeriodID]]
		return []any{a.of(p.ID), club, a.of(p.PeriodID), p.Group, p.DrillKey, p.TechniqueKey, p.Start, p.Minutes, p.Lanes}
	})
	c.copy("games", "id club_id season_id on_date opponent home", len(w.Games), func(i int) []any {
		g := w.Games[i]
		on[g.ID] = g.OnDate
		return []any{a.of(g.ID), club, season, a.then(g.OnDate), g.Opponent, g.Home}
	})
	game := map[uuid.UUID]uuid.UUID{}
	c.copy("plays", "id club_id game_id number offense unit down distance spot call gain", len(w.Plays), func(i int) []any {
		p := w.Plays[i]
		game[p.ID] = p.GameID
		return []any{a.of(p.ID), club, a.of(p.GameID), p.Number, p.Offense, map[bool]string{true: "offense", false: "defense"}[p.Offense], p.Down, p.Distance, p.Spot, p.Call, p.Gain}
	})
	c.marks(a, club, on, game)
}

// marks copies the events and, as the database would have kept them, the current marks. The
// sums are made when all is there.
func (c *copier) marks(a alias, club uuid.UUID, on map[uuid.UUID]time.Time, game map[uuid.UUID]uuid.UUID) {
	list := c.w.Marks
	if c.people.club > 0 && c.share > 1 {
		list = nil
		for i := 0; i < len(c.w.Marks); i += c.share {
			list = append(list, c.w.Marks[i])
		}
	}
	year := demo.Year - a.season
	var faults [][]any
	rows := make([][]any, len(list))
	for i, m := range list {
		for nth, f := range m.Faults {
			if f.CausedBy != uuid.Nil {
				f.CausedBy = c.people.of(f.CausedBy)
			}
			faults = append(faults, []any{club, a.of(m.ID), nth + 1, f.Key, f.CausedBy, year})
		}
		m.ID, m.PlayerID, m.PlacementID, m.PlayID = a.of(m.ID), c.people.of(m.PlayerID), a.maybe(m.PlacementID), a.maybe(m.PlayID)
		m.Asked = nil // what was asked seasons ago is answered
		m.CreatedBy, m.CreatedAt = c.people.maybe(m.CreatedBy), a.then(m.CreatedAt)
		rows[i] = append([]any{club}, m.Columns()...)
		rows[i][2] = year
	}
	columns := "club_id " + strings.Join(demo.MarkColumns, " ")
	c.copy("mark_faults", "club_id mark_id nth fault caused_by year", len(faults), func(i int) []any { return faults[i] })
	c.copy("mark_events", columns, len(list), func(i int) []any { return rows[i] })
	c.copy("mark_slots", columns+" seq stands measures on_date game_id", len(list), func(i int) []any {
		m := list[i]
		var day time.Time
		var of *uuid.UUID
		if m.PlayID != nil {
			of = new(game[*m.PlayID])
			day = on[*of]
		} else {
			day = on[*m.PlacementID]
		}
		return append(rows[i], int64(i+1), true, "[]", a.then(day), a.maybe(of))
	})
}
