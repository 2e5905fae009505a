package store

import (
	"context"
	"strings"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/app"
)

// UserByEmail finds a member of the staff by e-mail, whatever its case.
func (s *Store) UserByEmail(ctx context.Context, email string) (app.User, error) {
	var u app.User
	return u, one(s.db.WithContext(ctx).Table("users").Where("email = ?", strings.ToLower(email)).Take(&u))
}

// Actor reads a member of the staff with his club, its latest season and his groups.
func (s *Store) Actor(ctx context.Context, userID uuid.UUID) (app.Actor, error) {
	var row struct {
		app.Actor
		GroupKeys string
	}
	err := one(s.db.WithContext(ctx).Raw(`
		SELECT u.id AS user_id, u.club_id, u.name, u.role, c.name AS club_name, c.timezone,
		       se.id AS season_id, se.starts_on AS season_start, se.weeks AS season_weeks,
		       coalesce((SELECT max(version) FROM house_versions h WHERE h.club_id = u.club_id), 0) AS house_latest,
		       coalesce((SELECT string_agg(group_key, ',' ORDER BY group_key) FROM user_groups g WHERE g.user_id = u.id), '') AS group_keys
		FROM users u
		JOIN clubs c ON c.id = u.club_id
		JOIN LATERAL (SELECT * FROM seasons WHERE club_id = c.id ORDER BY starts_on DESC LIMIT 1) se ON true
		WHERE u.id = ?`, userID).Scan(&row))
	if row.GroupKeys != "" {
		row.Actor.Groups = strings.Split(row.GroupKeys, ",")
	}
	return row.Actor, err
}

// Staff lists everybody who may sign in, in the order of their titles. It serves the
// demo, which has one club.
func (s *Store) Staff(ctx context.Context) ([]app.User, error) {
	var users []app.User
	return users, s.db.WithContext(ctx).Table("users").Order("role DESC, created_at, title").Find(&users).Error
}

// SignInFailures counts failed sign-ins since a moment, by e-mail and by address.
func (s *Store) SignInFailures(ctx context.Context, email, ip string, since time.Time) (byEmail, byIP int, err error) {
	var row struct{ ByEmail, ByIP int }
	err = s.db.WithContext(ctx).Raw(`
		SELECT count(*) FILTER (WHERE email = ?) AS by_email, count(*) FILTER (WHERE ip = ?) AS by_ip
		FROM sign_in_failures WHERE at > ?`, strings.ToLower(email), ip, since).Scan(&row).Error
	return row.ByEmail, row.ByIP, err
}

// AddSignInFailure records a failed sign-in and forgets those older than a day.
func (s *Store) AddSignInFailure(ctx context.Context, email, ip string, at time.Time) error {
	db := s.db.WithContext(ctx)
	if err := db.Exec(`INSERT INTO sign_in_failures (email, ip, at) VALUES (?, ?, ?)`, strings.ToLower(email), ip, at).Error; err != nil {
		return err
	}
	return db.Exec(`DELETE FROM sign_in_failures WHERE at < ?`, at.Add(-24*time.Hour)).Error
}
