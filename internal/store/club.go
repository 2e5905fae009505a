package store

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"nineyard/core/season"
)

// NewClub is what a club starts with.
type NewClub struct {
	Club, Timezone, SeasonStart string
	Weeks                       int
	Name, Email, Password       string // of the head coach
}

// minPassword is the least length of a password, in characters.
const minPassword = 12

// houseGroups are the position groups a club starts with.
var houseGroups = [][3]string{{"ol", "Offensive line", "OL"}, {"te", "Tight ends", "TE"}, {"rb", "Running backs", "RB"}, {"qb", "Quarterbacks", "QB"},
	{"wr", "Receivers", "WR"}, {"dl", "Defensive line", "DL"}, {"lb", "Linebackers", "LB"}, {"db", "Secondary", "DB"}}

// CreateClub makes a club with a season, the usual position groups and a head coach.
func (s *Store) CreateClub(ctx context.Context, n NewClub) error {
	start, err := season.Parse(n.SeasonStart)
	if err != nil {
		return fmt.Errorf("--season-start: %w", err)
	}
	if _, err := time.LoadLocation(n.Timezone); err != nil {
		return fmt.Errorf("--timezone: %w", err)
	}
	if len([]rune(n.Password)) < minPassword {
		return fmt.Errorf("the password must have at least %d characters", minPassword)
	}
	if !strings.Contains(n.Email, "@") {
		return errors.New("--email: this is not an e-mail address")
	}
	hash, err := argon2id.CreateHash(n.Password, argon2id.DefaultParams)
	if err != nil {
		return err
	}
	club, err := uuid.NewV7()
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		exec := func(query string, args ...any) {
			if err == nil {
				err = tx.Exec(query, args...).Error
			}
		}
		exec(`INSERT INTO clubs (id, name, timezone) VALUES (?, ?, ?)`, club, n.Club, n.Timezone)
		exec(`INSERT INTO seasons (id, club_id, name, starts_on, weeks) VALUES (gen_random_uuid(), ?, ?, ?, ?)`, club, start.String()[:4], start.Time(), n.Weeks)
		exec(`INSERT INTO users (id, club_id, email, name, title, role, password_hash) VALUES (gen_random_uuid(), ?, ?, ?, 'Head coach', 'head', ?)`, club, strings.ToLower(n.Email), n.Name, hash)
		for i, g := range houseGroups {
			exec(`INSERT INTO position_groups (club_id, key, name, short, sort) VALUES (?, ?, ?, ?, ?)`, club, g[0], g[1], g[2], i)
		}
		return err
	})
}
