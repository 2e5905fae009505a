package access

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/season"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{ DB *pg.DB }

var _ Store = SQL{}

// Who asks for the coach of a session s, as readCoach takes him.
const Who = `SELECT to_jsonb(c) FROM coach_of(s.person) c`

// coachRow is a coach as the database sends him.
type coachRow struct {
	ID             uuid.UUID  `json:"id"`
	ClubID         uuid.UUID  `json:"club_id"`
	Name           string     `json:"name"`
	Role           string     `json:"role"`
	ClubName       string     `json:"club_name"`
	Timezone       string     `json:"timezone"`
	SeasonID       uuid.UUID  `json:"season_id"`
	SeasonStart    string     `json:"season_start"`
	SeasonWeeks    int        `json:"season_weeks"`
	LibraryVersion int        `json:"library_version"`
	Own            []string   `json:"own"`
	Groups         group.List `json:"groups"`
	Clock          int64      `json:"clock"`
}

// readCoach reads a coach; it reports false when there is nobody.
func readCoach(text json.RawMessage) (Coach, bool, error) {
	if len(text) == 0 {
		return Coach{}, false, nil
	}
	var r coachRow
	if err := json.Unmarshal(text, &r); err != nil {
		return Coach{}, false, fmt.Errorf("a coach as the database sends him: %w", err)
	}
	start, err := season.Parse(r.SeasonStart)
	if err != nil {
		return Coach{}, false, fmt.Errorf("a coach as the database sends him: %w", err)
	}
	return Coach{ID: r.ID, Name: r.Name, Role: r.Role, Own: r.Own,
		Club:   Club{ID: r.ClubID, Name: r.ClubName, Timezone: r.Timezone, Groups: r.Groups, Library: r.LibraryVersion, Clock: r.Clock},
		Season: Season{ID: r.SeasonID, Start: start, Weeks: r.SeasonWeeks}}, true, nil
}

// Coach reads who is signed in, in one statement.
func (q SQL) Coach(ctx context.Context, id uuid.UUID) (c Coach, found bool, err error) {
	type row struct{ Says json.RawMessage }
	err = q.DB.Anywhere(ctx, func(ctx context.Context) error {
		r, _, err := pg.One[row](ctx, `SELECT to_jsonb(c) AS says FROM coach_of(@id) c`, pg.Args{"id": id})
		if err != nil {
			return err
		}
		c, found, err = readCoach(r.Says)
		return err
	})
	return c, found, err
}

// Password reads the hash of whoever has the e-mail.
func (q SQL) Password(ctx context.Context, email string) (id uuid.UUID, hash string, found bool, err error) {
	type row struct {
		ID           uuid.UUID
		PasswordHash string
	}
	err = q.DB.Anywhere(ctx, func(ctx context.Context) error {
		r, ok, err := pg.One[row](ctx, `SELECT * FROM sign_in_of(@email)`, pg.Args{"email": email})
		id, hash, found = r.ID, r.PasswordHash, ok
		return err
	})
	return id, hash, found, err
}

// keepTries is how long tries are kept.
const keepTries = 24 * time.Hour

// Try records a try and counts. The row is kept before it is counted, so that of any number
// of tries at once no more than the limit pass.
func (q SQL) Try(ctx context.Context, email, ip string, at, since time.Time) (t Tries, err error) {
	err = q.DB.Anywhere(ctx, func(ctx context.Context) error {
		if _, err := pg.Exec(ctx, `INSERT INTO sign_in_failures (email, ip, at) VALUES (@email, @ip, @at)`, pg.Args{"email": email, "ip": ip, "at": at}); err != nil {
			return err
		}
		t, _, err = pg.One[Tries](ctx, `
			WITH tries AS MATERIALIZED (SELECT email, ip FROM sign_in_failures WHERE at > @since AND (email = @email OR ip = @ip)),
			     places AS MATERIALIZED (SELECT ip FROM sign_in_places WHERE email = @email AND at > @known)
			SELECT count(*) FILTER (WHERE email = @email AND ip = @ip)::int AS here, count(*) FILTER (WHERE ip = @ip)::int AS by_ip,
			       count(*) FILTER (WHERE email = @email AND ip NOT IN (SELECT p.ip FROM places p))::int AS abroad,
			       EXISTS (SELECT FROM places p WHERE p.ip = @ip) AS known
			FROM tries`, pg.Args{"email": email, "ip": ip, "since": since, "known": at.Add(-knownFor)})
		return err
	})
	return t, err
}

// CameIn forgets the tries of an e-mail from an address, and all that are older than a day, and keeps the address.
func (q SQL) CameIn(ctx context.Context, email, ip string, at time.Time) error {
	return q.DB.Anywhere(ctx, func(ctx context.Context) error {
		_, err := pg.Exec(ctx, `
			WITH forgotten AS (DELETE FROM sign_in_failures WHERE email = @email AND ip = @ip OR at < @old),
			     left_long_ago AS (DELETE FROM sign_in_places WHERE at < @known AND (email, ip) <> (@email, @ip))
			INSERT INTO sign_in_places (email, ip, at) VALUES (@email, @ip, @at) ON CONFLICT (email, ip) DO UPDATE SET at = excluded.at`,
			pg.Args{"email": email, "ip": ip, "at": at, "old": at.Add(-keepTries), "known": at.Add(-knownFor)})
		return err
	})
}

// member is a row of the staff.
type member struct {
	ID     uuid.UUID
	ClubID uuid.UUID
	Name   string
	Title  string
	Email  string
	Role   string
}

// TableName is users.
func (member) TableName() string { return "users" }

// Staff lists the staff of a club in the order of their titles.
func (q SQL) Staff(ctx context.Context, club uuid.UUID) ([]Member, error) {
	list := []Member{}
	err := q.DB.InClub(ctx, club, func(ctx context.Context) error {
		var rows []member
		if err := pg.Gorm(ctx).Order("role = 'head' DESC, role = 'coach' DESC, created_at, title").Find(&rows).Error; err != nil {
			return err
		}
		for _, r := range rows {
			list = append(list, Member{r.ID, r.Name, r.Title, r.Email, r.Role})
		}
		return nil
	})
	return list, err
}

// NewClub is what a club starts with.
type NewClub struct {
	Club, Timezone string
	SeasonStart    season.Date
	Weeks          int
	Name, Email    string // of the head coach
	PasswordHash   string
	Groups         group.List
}

// CreateClub makes a club with a season, its position groups and a head coach, as the
// database's owner.
func CreateClub(ctx context.Context, owner *pg.DB, n NewClub) (uuid.UUID, error) {
	club, err := uuid.NewV7()
	if err != nil {
		return uuid.Nil, err
	}
	err = owner.InClub(ctx, club, func(ctx context.Context) error {
		for _, step := range []string{
			`INSERT INTO clubs (id, name, timezone) VALUES (@club, @name, @zone)`,
			`INSERT INTO seasons (id, club_id, name, starts_on, weeks) VALUES (gen_random_uuid(), @club, @season, @start, @weeks)`,
			`INSERT INTO users (id, club_id, email, name, title, role, password_hash) VALUES (gen_random_uuid(), @club, lower(@email), @head, 'Head coach', 'head', @hash)`,
		} {
			if _, err := pg.Exec(ctx, step, pg.Args{"name": n.Club, "zone": n.Timezone, "season": n.SeasonStart.String()[:4], "start": n.SeasonStart.Time(), "weeks": n.Weeks,
				"email": n.Email, "head": n.Name, "hash": n.PasswordHash}); err != nil {
				return err
			}
		}
		for i, g := range n.Groups {
			if _, err := pg.Exec(ctx, `INSERT INTO position_groups (club_id, key, name, short, side, positions, sort) VALUES (@club, @key, @name, @short, @side, @positions, @sort)`,
				pg.Args{"key": g.Key, "name": g.Name, "short": g.Short, "side": string(g.Side), "positions": append([]string{}, g.Positions...), "sort": i}); err != nil {
				return err
			}
		}
		return nil
	})
	return club, pg.Meaning(err)
}
