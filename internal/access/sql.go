package access

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"

	"nineyard/core/group"
	"nineyard/core/season"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{ DB *pg.DB }

var (
	_ Store        = SQL{}
	_ PasskeyStore = SQL{}
)

// Who asks for the coach of a session s, as readCoach takes him.
const Who = `SELECT to_jsonb(c) FROM coach_of(s.person) c`

// coachRow is a coach as the database sends him.
type coachRow struct {
	ID             uuid.UUID  `json:"id"`
	ClubID         uuid.UUID  `json:"club_id"`
	AccountID      uuid.UUID  `json:"account_id"`
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
	FactorDue      bool       `json:"factor_due"`
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
	return Coach{ID: r.ID, Account: r.AccountID, Name: r.Name, Role: r.Role, Own: r.Own, FactorDue: r.FactorDue,
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

// accountQuery reads accounts a.
const accountQuery = `
	SELECT a.id, a.email, a.name, coalesce(a.password_hash, '') AS password_hash, a.totp_secret, a.totp_since IS NOT NULL AS totp_on,
	       (SELECT count(*) FROM passkeys k WHERE k.account_id = a.id)::int AS passkeys,
	       (SELECT count(*) FROM recovery_codes c WHERE c.account_id = a.id AND c.used_at IS NULL)::int AS codes_left
	FROM accounts a WHERE `

// Account reads whoever has the e-mail.
func (q SQL) Account(ctx context.Context, email string) (Account, bool, error) {
	return pg.OneBeside[Account](ctx, q.DB, accountQuery+`a.email = lower(@email)`, pg.Args{"email": email})
}

// AccountOf reads an account by its id.
func (q SQL) AccountOf(ctx context.Context, id uuid.UUID) (Account, bool, error) {
	return pg.OneBeside[Account](ctx, q.DB, accountQuery+`a.id = @id`, pg.Args{"id": id})
}

// Memberships lists where an account is on the staff.
func (q SQL) Memberships(ctx context.Context, account uuid.UUID) ([]Membership, error) {
	return pg.SelectBeside[Membership](ctx, q.DB, `SELECT id, club_id, club_name, role, require_factor FROM memberships_of(@account)`, pg.Args{"account": account})
}

// UseStep takes a step of a time-based code.
func (q SQL) UseStep(ctx context.Context, account uuid.UUID, step int64) (bool, error) {
	return q.took(ctx, `UPDATE accounts SET totp_step = @step WHERE id = @account AND totp_step < @step`, pg.Args{"account": account, "step": step})
}

// UseCode takes a recovery code.
func (q SQL) UseCode(ctx context.Context, account uuid.UUID, digest []byte, at time.Time) (bool, error) {
	return q.took(ctx, `UPDATE recovery_codes SET used_at = @at WHERE account_id = @account AND digest = @digest AND used_at IS NULL`, pg.Args{"account": account, "digest": digest, "at": at})
}

// Passkeys reads the passkeys of an account.
func (q SQL) Passkeys(ctx context.Context, account uuid.UUID) ([]webauthn.Credential, error) {
	type row struct{ Credential json.RawMessage }
	rows, err := pg.SelectBeside[row](ctx, q.DB, `SELECT credential FROM passkeys WHERE account_id = @account ORDER BY created_at`, pg.Args{"account": account})
	out := make([]webauthn.Credential, len(rows))
	for i, r := range rows {
		err = errors.Join(err, json.Unmarshal(r.Credential, &out[i]))
	}
	return out, err
}

// UsePasskey keeps what has become of a passkey that was used.
func (q SQL) UsePasskey(ctx context.Context, account uuid.UUID, c webauthn.Credential) error {
	text, err := json.Marshal(c)
	if err != nil {
		return err
	}
	_, err = pg.ExecBeside(ctx, q.DB, `UPDATE passkeys SET credential = @text::jsonb, used_at = now() WHERE account_id = @account AND id = @id`, pg.Args{"account": account, "id": c.ID, "text": string(text)})
	return err
}

// Entered remembers when an account came in last.
func (q SQL) Entered(ctx context.Context, account uuid.UUID, at time.Time) error {
	_, err := pg.ExecBeside(ctx, q.DB, `UPDATE accounts SET entered_at = @at WHERE id = @account`, pg.Args{"account": account, "at": at})
	return err
}

func (q SQL) took(ctx context.Context, query string, args pg.Args) (bool, error) {
	n, err := pg.ExecBeside(ctx, q.DB, query, args)
	return n == 1, err
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

// Staff lists the staff of a club in the order of their titles.
func (q SQL) Staff(ctx context.Context, club uuid.UUID) (list []Member, err error) {
	err = q.DB.InClub(ctx, club, func(ctx context.Context) (err error) {
		list, err = pg.Select[Member](ctx, `
			SELECT u.id, u.name, u.title, a.email, u.role FROM users u JOIN accounts a ON a.id = u.account_id
			WHERE u.club_id = @club AND u.removed_at IS NULL AND u.suspended_at IS NULL ORDER BY u.role = 'head' DESC, u.role = 'coach' DESC, u.created_at, u.title`, nil)
		return err
	})
	if list == nil {
		list = []Member{}
	}
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
	account := uuid.New()
	err = owner.InClub(ctx, club, func(ctx context.Context) error {
		for _, step := range []string{
			`INSERT INTO clubs (id, name, timezone) VALUES (@club, @name, @zone)`,
			`INSERT INTO seasons (id, club_id, name, starts_on, weeks) VALUES (gen_random_uuid(), @club, @season, @start, @weeks)`,
			`INSERT INTO accounts (id, email, name, password_hash) VALUES (@account, lower(@email), @head, @hash)`,
			`INSERT INTO users (id, club_id, account_id, name, title, role) VALUES (gen_random_uuid(), @club, @account, @head, 'Head coach', 'head')`,
		} {
			if _, err := pg.Exec(ctx, step, pg.Args{"name": n.Club, "zone": n.Timezone, "season": n.SeasonStart.String()[:4], "start": n.SeasonStart.Time(), "weeks": n.Weeks,
				"email": n.Email, "head": n.Name, "hash": n.PasswordHash, "account": account}); err != nil {
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
