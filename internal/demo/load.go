package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gocloud.dev/blob"
	"golang.org/x/sync/errgroup"

	"nineyard/core/group"
	"nineyard/core/marks"
	"nineyard/core/season"
	"nineyard/internal/access"
	"nineyard/internal/calls"
	"nineyard/internal/contract"
	"nineyard/internal/demo/camera"
	"nineyard/internal/demo/footage"
	film "nineyard/internal/footage"
	"nineyard/internal/plan"
	"nineyard/internal/platform/pg"
)

// ErrForeign says that a database holds a club that is not the demo's. The demo lets
// everybody in without a password: it must never serve one.
var ErrForeign = errors.New("this database holds a club that is not the demo's; the demo would serve it without passwords. Run 'nineyard serve' for a real club, or give the demo a database of its own")

// Ensure loads the world of a seed into an empty database. One that holds the demo's club
// alone is left as it is; any other is refused with ErrForeign. Two that start at once take
// turns, so that both come up on one world.
func Ensure(ctx context.Context, owner *pg.DB, build func() (*World, error), club uuid.UUID) error {
	loaded := false
	err := owner.InClub(ctx, club, func(ctx context.Context) error {
		if _, err := pg.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended('demo', 0))`, nil); err != nil {
			return err
		}
		type row struct{ Clubs, Ours int }
		r, _, err := pg.One[row](ctx, `SELECT count(*)::int AS clubs, (count(*) FILTER (WHERE id = @club))::int AS ours FROM clubs`, nil)
		if err != nil {
			return err
		}
		switch {
		case r.Clubs != r.Ours:
			return ErrForeign
		case r.Ours == 1:
			return nil
		}
		w, err := build()
		if err != nil {
			return err
		}
		loaded = true
		return load(ctx, w)
	})
	if err != nil || !loaded {
		return err
	}
	both, ctx := errgroup.WithContext(ctx)
	for _, tables := range large {
		both.Go(func() error {
			return owner.Anywhere(ctx, func(ctx context.Context) error {
				if _, err := pg.Exec(ctx, "SET LOCAL default_statistics_target = 30", nil); err != nil {
					return err
				}
				_, err := pg.Exec(ctx, "ANALYZE "+tables, nil)
				return err
			})
		})
	}
	return both.Wait()
}

// large are the tables of which the planner must know how large they are, in two parts that take as long; autovacuum sees to
// the others.
var large = []string{"mark_events, mark_faults, plays, clips", "mark_slots, mark_days, mark_runs, placements"}

// Load writes the world in one transaction: a demo is there whole or not at all.
func Load(ctx context.Context, owner *pg.DB, w *World) error {
	return Ensure(ctx, owner, func() (*World, error) { return w, nil }, w.ClubID)
}

// loader copies rows into tables until one fails.
type loader struct {
	ctx context.Context
	w   *World
	err error
}

func (l *loader) copy(table string, columns []string, rows [][]any) {
	if l.err != nil || len(rows) == 0 {
		return
	}
	if _, err := pg.Copy(l.ctx, table, columns, pgx.CopyFromRows(rows)); err != nil {
		l.err = fmt.Errorf("%s: %w", table, err)
	}
}

func load(ctx context.Context, w *World) error {
	l := loader{ctx: ctx, w: w}
	l.club()
	l.people()
	l.practices()
	l.games()
	l.marks()
	l.calls()
	l.footage()
	if l.err != nil {
		return fmt.Errorf("loading the demo: %w", l.err)
	}
	return nil
}

func (l *loader) club() {
	w := l.w
	l.copy("clubs", []string{"id", "name", "league", "timezone"}, [][]any{{w.ClubID, "Marrow Point Lamplighters", "Outer Sound League", Timezone}})
	l.copy("seasons", []string{"id", "club_id", "name", "starts_on", "weeks"}, [][]any{{w.SeasonID, w.ClubID, "2026", season.Must(SeasonStart).Time(), Weeks}})
	var rows [][]any
	for i, g := range group.Usual() {
		rows = append(rows, []any{w.ClubID, g.Key, g.Name, g.Short, string(g.Side), g.Positions, i})
	}
	l.copy("position_groups", []string{"club_id", "key", "name", "short", "side", "positions", "sort"}, rows)
}

func (l *loader) people() {
	w := l.w
	hash, err := access.Hash(Password)
	if err != nil {
		l.err = err
		return
	}
	var accounts, users, userGroups, players, playerGroups, spells, words [][]any
	for i, u := range w.Users {
		accounts = append(accounts, []any{u.ID, u.Email, u.Name, hash})
		users = append(users, []any{u.ID, w.ClubID, u.ID, u.Name, u.Title, u.Role, Now().Add(time.Duration(i) * time.Second)})
		if g := w.UserGroup[u.ID]; g != "" {
			userGroups = append(userGroups, []any{w.ClubID, u.ID, g})
		}
	}
	for _, p := range w.Players {
		players = append(players, []any{p.ID, w.ClubID, p.Jersey, p.FirstName, p.LastName, p.Position, p.HeightIn, p.WeightLb, p.Returning})
		playerGroups = append(playerGroups, []any{w.ClubID, p.ID, w.GroupOf[p.ID]})
	}
	for _, s := range w.Spells {
		spells = append(spells, []any{s.ID, w.ClubID, s.PlayerID, s.Status, s.From, s.To, s.Reason, s.By, s.From.Add(19 * time.Hour)})
	}
	for _, x := range w.Words {
		words = append(words, []any{x.ID, w.ClubID, w.SeasonID, x.PlayerID, x.Ladder, x.Stage, x.On, wordReason, x.By, x.On.Add(20 * time.Hour)})
	}
	l.copy("accounts", []string{"id", "email", "name", "password_hash"}, accounts)
	l.copy("users", []string{"id", "club_id", "account_id", "name", "title", "role", "created_at"}, users)
	l.copy("user_groups", []string{"club_id", "user_id", "group_key"}, userGroups)
	l.copy("players", []string{"id", "club_id", "jersey", "first_name", "last_name", "position", "height_in", "weight_lb", "returner"}, players)
	l.copy("player_groups", []string{"club_id", "player_id", "group_key"}, playerGroups)
	l.copy("availability_spells", []string{"id", "club_id", "player_id", "status", "from_on", "to_on", "reason", "created_by", "created_at"}, spells)
	l.copy("gate_overrides", []string{"id", "club_id", "season_id", "player_id", "ladder_key", "stage_key", "on_date", "reason", "created_by", "created_at"}, words)
}

func (l *loader) practices() {
	w := l.w
	var practices, periods, periodGroups, placements [][]any
	for _, p := range w.Practices {
		practices = append(practices, []any{p.ID, w.ClubID, w.SeasonID, p.OnDate, p.Title, p.Theme, p.Place, p.StartMinute, p.Minutes})
	}
	for _, e := range w.Periods {
		periods = append(periods, []any{e.ID, w.ClubID, e.PracticeID, e.Start, e.Minutes, e.Kind, e.Name, e.Contact, e.Place,
			append([]string{}, e.Coaches...), l.json(append([]contract.EquipmentUse{}, e.Equipment...)), append([]string{}, e.Needs...), e.RepSeconds})
		for _, g := range e.Groups {
			periodGroups = append(periodGroups, []any{w.ClubID, e.ID, g})
		}
	}
	for _, p := range w.Placements {
		placements = append(placements, []any{p.ID, w.ClubID, p.PeriodID, p.Group, p.DrillKey, p.TechniqueKey, p.Start, p.Minutes, p.Lanes})
	}
	l.copy("practices", []string{"id", "club_id", "season_id", "on_date", "title", "theme", "place", "start_minute", "minutes"}, practices)
	l.copy("periods", []string{"id", "club_id", "practice_id", "start", "minutes", "kind", "name", "contact", "place", "coaches", "equipment", "needs", "rep_seconds"}, periods)
	l.copy("practice_settings", []string{"club_id", "version", "settings"}, [][]any{{w.ClubID, 1, l.json(w.Settings)}})
	l.copy("period_groups", []string{"club_id", "period_id", "group_key"}, periodGroups)
	l.copy("placements", []string{"id", "club_id", "period_id", "group_key", "drill_key", "technique_key", "start", "minutes", "lanes"}, placements)
}

// unitOf is whose play it is.
func unitOf(p Play) string {
	if p.Offense {
		return string(group.Offense)
	}
	return string(group.Defense)
}

// calls writes what is called, who is on the field and what is done every day, by the head coach.
func (l *loader) calls() {
	store, by := calls.SQL{}, l.w.Users[0].ID
	for _, c := range l.w.Calls {
		if l.err == nil {
			l.err = store.PutCall(l.ctx, l.w.SeasonID, calls.Entry{ID: c.ID, Call: c.Call}, by, Now())
		}
	}
	for _, x := range l.w.Sets {
		if l.err == nil {
			l.err = plan.SQL{}.PutSet(l.ctx, x, by, Now())
		}
	}
	for _, x := range l.w.Templates {
		if l.err == nil {
			l.err = plan.SQL{}.PutTemplate(l.ctx, x, by, Now())
		}
	}
	for _, x := range l.w.LineUps {
		if l.err == nil {
			_, l.err = store.PutLineUp(l.ctx, l.w.SeasonID, calls.LineUp{Group: x.Group, Week: 1, Spots: x.Spots, Version: 1}, by, Now())
		}
	}
}

// json writes a value as a column of JSON takes it.
func (l *loader) json(v any) string {
	text, err := json.Marshal(v)
	if l.err == nil {
		l.err = err
	}
	return string(text)
}

func (l *loader) games() {
	w := l.w
	var games, plays [][]any
	for _, g := range w.Games {
		games = append(games, []any{g.ID, w.ClubID, w.SeasonID, g.OnDate, g.Opponent, g.Home})
	}
	for _, p := range w.Plays {
		plays = append(plays, []any{p.ID, w.ClubID, p.GameID, p.Number, p.Offense, unitOf(p), p.Drive, p.Quarter, p.Down, p.Distance, p.Spot, p.Call, p.Gain, p.Hash, p.Personnel, p.Formation, p.Front, p.Coverage})
	}
	l.copy("games", []string{"id", "club_id", "season_id", "on_date", "opponent", "home"}, games)
	l.copy("plays", []string{"id", "club_id", "game_id", "number", "offense", "unit", "drive", "quarter", "down", "distance", "spot", "call", "gain", "hash", "personnel", "formation", "front", "coverage"}, plays)
}

// footage writes where the film is; Film puts the videos there.
func (l *loader) footage() {
	videos, err := footage.Videos()
	if err != nil {
		l.err = err
		return
	}
	byName := map[string]footage.Video{}
	for _, v := range videos {
		byName[v.Name] = v
	}
	gameOf := map[uuid.UUID]uuid.UUID{}
	for _, p := range l.w.Plays {
		gameOf[p.ID] = p.GameID
	}
	var films, clips [][]any
	for _, f := range l.w.Footage {
		v := byName[f.File]
		var of, placed *uuid.UUID
		for _, c := range f.Clips {
			if c.PlayID != nil {
				of = new(gameOf[*c.PlayID])
			}
			placed = c.PlacementID
		}
		films = append(films, []any{l.w.ClubID, f.ID, v.Digest, f.File, "video/webm", v.Size, camera.PictureWidth, camera.PictureHeight, camera.FPS, 1, f.Frames, of, placed, string(f.View)})
		for _, c := range f.Clips {
			clips = append(clips, []any{l.w.ClubID, c.ID, f.ID, string(f.View), c.PlayID, c.PlacementID, c.PlayerID, c.Rep, c.First, c.Last, c.Snap})
		}
	}
	l.copy("films", []string{"club_id", "id", "digest", "name", "media_type", "size", "width", "height", "fps_num", "fps_den", "frames", "game_id", "placement_id", "view"}, films)
	l.copy("clips", []string{"club_id", "id", "film_id", "view", "play_id", "placement_id", "player_id", "rep", "first_frame", "last_frame", "snap_frame"}, clips)
}

// Film puts the demo's videos into the film store, unless they are there.
func Film(ctx context.Context, files *blob.Bucket, club uuid.UUID) error {
	videos, err := footage.Videos()
	if err != nil {
		return err
	}
	for _, v := range videos {
		key := film.Key(club, v.Digest)
		if there, err := files.Exists(ctx, key); err != nil || there {
			if err != nil {
				return fmt.Errorf("the film store: %w", err)
			}
			continue
		}
		content, err := footage.Read(v.Name)
		if err != nil {
			return err
		}
		if err := files.WriteAll(ctx, key, content, &blob.WriterOptions{ContentType: "video/webm"}); err != nil {
			return fmt.Errorf("the film store: %w", err)
		}
	}
	return nil
}

// marks writes the faults and the events; the database keeps the rest.
func (l *loader) marks() {
	w := l.w
	events, faults := make([][]any, len(w.Marks)), [][]any{}
	for i, m := range w.Marks {
		events[i] = append([]any{w.ClubID}, m.Columns()...)
		for nth, f := range m.Faults {
			faults = append(faults, append([]any{w.ClubID, m.ID, nth + 1}, f.Columns()...))
		}
	}
	// What follows each mark is worked out by the database, which plans badly for tables that it believes to be empty.
	if _, err := pg.Exec(l.ctx, "ANALYZE players, practices, periods, placements, games, plays", nil); l.err == nil {
		l.err = err
	}
	l.copy("mark_faults", append([]string{"club_id", "mark_id", "nth"}, FaultColumns...), faults)
	l.copy("mark_events", append([]string{"club_id"}, MarkColumns...), events)
}

// MarkColumns are the columns of mark_events that Columns fills.
var MarkColumns = []string{"id", "year", "player_id", "placement_id", "rep", "play_id", "technique_key", "grader", "state", "assignment", "technique", "finish",
	"verdict", "scheme", "praise", "side", "result", "tallies", "asked", "note", "standard", "created_by", "created_at"}

// Columns is the mark as a row, judged by the shipped scheme.
func (m Mark) Columns() []any {
	v := marks.Shipped().See(marks.State(m.State), marks.Seen{Assignment: m.Assignment, Technique: m.Technique, Finish: m.Finish, Result: m.Result})
	tallies := make([]string, len(m.Tallies)) // never null
	for i, t := range m.Tallies {
		tallies[i] = string(t)
	}
	return []any{m.ID, Year, m.PlayerID, m.PlacementID, m.Rep, m.PlayID, m.TechniqueKey, *m.CreatedBy, m.State, m.Assignment, m.Technique, m.Finish,
		v.Word(), 0, m.Praise, m.Side, m.Result, tallies, m.Asked, m.Note, 1, m.CreatedBy, m.CreatedAt}
}

// FaultColumns are the columns of mark_faults that Columns fills.
var FaultColumns = []string{"fault", "caused_by", "year"}

// Columns is the fault as a row.
func (f Fault) Columns() []any { return []any{f.Key, f.CausedBy, Year} }
