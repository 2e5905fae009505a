package demo

import (
	"context"
	"fmt"

	"github.com/alexedwards/argon2id"
	"gorm.io/gorm"

	"nineyard/core/season"
)

// light hashes faster than the default; the demo's password is in the README anyway.
var light = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// Loaded reports whether the database already has a club.
func Loaded(ctx context.Context, db *gorm.DB) (bool, error) {
	var n int64
	err := db.WithContext(ctx).Table("clubs").Count(&n).Error
	return n > 0, err
}

// Load writes the world in one transaction: a demo is there whole or not at all.
func Load(ctx context.Context, db *gorm.DB, w *World) error {
	hash, err := argon2id.CreateHash(Password, light)
	if err != nil {
		return err
	}
	for i := range w.Users {
		w.Users[i].PasswordHash = hash
	}
	err = db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		l := loader{tx: tx, w: w}
		l.club()
		l.people()
		l.practices()
		l.games()
		l.marks()
		return l.err
	})
	if err != nil {
		return fmt.Errorf("loading the demo: %w", err)
	}
	return db.WithContext(ctx).Exec("ANALYZE").Error
}

type rows = []map[string]any

type loader struct {
	tx  *gorm.DB
	w   *World
	err error
}

func (l *loader) insert(table string, list any) {
	if l.err == nil {
		l.err = l.tx.Table(table).CreateInBatches(list, 1000).Error
	}
}

func (l *loader) club() {
	w := l.w
	l.insert("clubs", &rows{{"id": w.ClubID, "name": "Marrow Point Lamplighters", "league": "Outer Sound League", "timezone": Timezone}})
	l.insert("seasons", &rows{{"id": w.SeasonID, "club_id": w.ClubID, "name": "2026", "starts_on": season.Must(SeasonStart).Time(), "weeks": Weeks}})
	var list rows
	for i, g := range groups {
		list = append(list, map[string]any{"club_id": w.ClubID, "key": g.key, "name": g.name, "short": g.short, "sort": i})
	}
	l.insert("position_groups", &list)
}

func (l *loader) people() {
	w := l.w
	var users, userGroups, players, playerGroups rows
	for _, u := range w.Users {
		users = append(users, map[string]any{"id": u.ID, "club_id": u.ClubID, "email": u.Email, "name": u.Name, "title": u.Title, "role": u.Role, "password_hash": u.PasswordHash})
		if g := w.UserGroup[u.ID]; g != "" {
			userGroups = append(userGroups, map[string]any{"club_id": w.ClubID, "user_id": u.ID, "group_key": g})
		}
	}
	for _, p := range w.Players {
		players = append(players, map[string]any{"id": p.ID, "club_id": p.ClubID, "jersey": p.Jersey, "first_name": p.FirstName, "last_name": p.LastName, "position": p.Position,
			"height_in": p.HeightIn, "weight_lb": p.WeightLb, "returner": p.Returning, "status": p.Status, "status_note": p.StatusNote})
		playerGroups = append(playerGroups, map[string]any{"club_id": w.ClubID, "player_id": p.ID, "group_key": w.GroupOf[p.ID]})
	}
	l.insert("users", &users)
	l.insert("user_groups", &userGroups)
	l.insert("players", &players)
	l.insert("player_groups", &playerGroups)
}

func (l *loader) practices() {
	w := l.w
	l.insert("practices", &w.Practices)
	var periods, periodGroups, placements rows
	for _, e := range w.Periods {
		periods = append(periods, map[string]any{"id": e.ID, "club_id": e.ClubID, "practice_id": e.PracticeID, "start": e.Start, "minutes": e.Minutes, "kind": e.Kind, "name": e.Name, "contact": e.Contact})
		for _, g := range e.Groups {
			periodGroups = append(periodGroups, map[string]any{"club_id": w.ClubID, "period_id": e.ID, "group_key": g})
		}
	}
	for _, p := range w.Placements {
		placements = append(placements, map[string]any{"id": p.ID, "club_id": p.ClubID, "period_id": p.PeriodID, "drill_key": p.DrillKey, "technique_key": p.TechniqueKey, "start": p.Start, "minutes": p.Minutes, "lanes": p.Lanes})
	}
	l.insert("periods", &periods)
	l.insert("period_groups", &periodGroups)
	l.insert("placements", &placements)
}

func (l *loader) games() {
	l.insert("games", &l.w.Games)
	l.insert("plays", &l.w.Plays)
}

// marks writes the events and then the current marks in one statement: the trigger that
// keeps them, row by row, would take most of the load's time.
func (l *loader) marks() {
	l.exec(`ALTER TABLE mark_events DISABLE TRIGGER mark_events_keep_slot`)
	l.insert("mark_events", &l.w.Marks)
	l.exec(`
		INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
		                        faults, measures, praise, note, side, standard, created_by, created_at, on_date, game_id)
		SELECT e.id, e.seq, e.club_id, e.player_id, e.placement_id, e.rep, e.play_id, e.technique_key, e.state, e.assignment, e.technique, e.finish,
		       e.faults, e.measures, e.praise, e.note, e.side, e.standard, e.created_by, e.created_at, coalesce(g.on_date, pr.on_date), y.game_id
		FROM mark_events e
		LEFT JOIN plays y ON y.id = e.play_id LEFT JOIN games g ON g.id = y.game_id
		LEFT JOIN placements pl ON pl.id = e.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id`)
	l.exec(`ALTER TABLE mark_events ENABLE TRIGGER mark_events_keep_slot`)
}

func (l *loader) exec(query string) {
	if l.err == nil {
		l.err = l.tx.Exec(query).Error
	}
}
