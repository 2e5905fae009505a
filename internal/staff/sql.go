package staff

import (
	"context"
	"time"

	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/pg"
)

// SQL is the Store and the Doors over PostgreSQL.
type SQL struct{ DB *pg.DB }

var (
	_ Store = SQL{}
	_ Doors = SQL{}
)

// Members lists the staff.
func (SQL) Members(ctx context.Context) ([]Member, error) {
	return pg.Select[Member](ctx, `
		SELECT u.id, u.account_id AS account, u.version, u.name, u.title, a.email, u.role, u.suspended_at IS NOT NULL AS suspended,
		       coalesce((SELECT array_agg(g.group_key ORDER BY p.sort) FROM user_groups g JOIN position_groups p ON p.club_id = @club AND p.key = g.group_key WHERE g.user_id = u.id), '{}') AS groups,
		       a.totp_since IS NOT NULL OR EXISTS (SELECT FROM passkeys k WHERE k.account_id = a.id) AS factor, a.entered_at
		FROM users u JOIN accounts a ON a.id = u.account_id WHERE u.club_id = @club AND u.removed_at IS NULL
		ORDER BY u.role = 'head' DESC, u.role = 'coach' DESC, u.role = 'assistant' DESC, u.created_at, u.name`, nil)
}

// Hold reads the staff and holds it.
func (q SQL) Hold(ctx context.Context) ([]Member, error) {
	if err := pg.Lock(ctx, "staff"); err != nil {
		return nil, err
	}
	return q.Members(ctx)
}

// Save writes a member.
func (SQL) Save(ctx context.Context, m Member, at time.Time) error {
	if _, err := pg.Exec(ctx, `UPDATE users SET title = @title, role = @role, suspended_at = CASE WHEN @suspended THEN coalesce(suspended_at, @at) END, version = version + 1
		WHERE club_id = @club AND id = @id`, pg.Args{"id": m.ID, "title": m.Title, "role": m.Role, "suspended": m.Suspended, "at": at}); err != nil {
		return err
	}
	_, err := pg.Exec(ctx, `
		WITH gone AS (DELETE FROM user_groups WHERE club_id = @club AND user_id = @id AND group_key <> ALL (@groups::text[]))
		INSERT INTO user_groups (club_id, user_id, group_key) SELECT @club, @id, g FROM unnest(@groups::text[]) g ON CONFLICT DO NOTHING`, pg.Args{"id": m.ID, "groups": append([]string{}, m.Groups...)})
	return err
}

// Remove takes somebody off.
func (SQL) Remove(ctx context.Context, id uuid.UUID, at time.Time) error {
	_, err := pg.Exec(ctx, `WITH links AS (DELETE FROM calendar_links WHERE club_id = @club AND user_id = @id)
		UPDATE users SET removed_at = @at, version = version + 1 WHERE club_id = @club AND id = @id`, pg.Args{"id": id, "at": at})
	return err
}

// former is the name of who has none any more.
const former = "Former coach"

// Former lists who was on the staff and still has a name.
func (SQL) Former(ctx context.Context) ([]contract.CoachRef, error) {
	list, err := pg.Select[contract.CoachRef](ctx, `SELECT id, name, title FROM users WHERE club_id = @club AND removed_at IS NOT NULL AND name <> @former ORDER BY removed_at DESC, id LIMIT 1000`, pg.Args{"former": former})
	return append([]contract.CoachRef{}, list...), err
}

// Erase takes a name off.
func (SQL) Erase(ctx context.Context, id uuid.UUID) (bool, error) {
	type row struct{ Gone bool }
	r, _, err := pg.One[row](ctx, `SELECT erase_member(@id) AS gone`, pg.Args{"id": id})
	return r.Gone, err
}

// Invites lists the links that count.
func (SQL) Invites(ctx context.Context, now time.Time) ([]Invite, error) {
	return pg.Select[Invite](ctx, `
		SELECT i.id, i.club_id AS club, '' AS club_name, i.email, i.name, i.title, i.role, i.groups, coalesce(u.name, '') AS by, i.created_at AS at, i.expires_at AS until, false AS used, false AS revoked
		FROM invites i LEFT JOIN users u ON u.club_id = @club AND u.id = i.created_by
		WHERE i.club_id = @club AND i.used_at IS NULL AND i.revoked_at IS NULL AND i.expires_at > @now ORDER BY i.created_at DESC, i.id`, pg.Args{"now": now})
}

// AddInvite keeps a link.
func (SQL) AddInvite(ctx context.Context, i Invite, digest []byte, by uuid.UUID) error {
	_, err := pg.Exec(ctx, `
		WITH before AS (UPDATE invites SET revoked_at = @at WHERE club_id = @club AND email = @email AND used_at IS NULL AND revoked_at IS NULL)
		INSERT INTO invites (id, club_id, digest, email, name, title, role, groups, created_by, created_at, expires_at)
		VALUES (@id, @club, @digest, @email, @name, @title, @role, @groups, @by, @at, @until)`,
		pg.Args{"id": i.ID, "digest": digest, "email": i.Email, "name": i.Name, "title": i.Title, "role": i.Role, "groups": append([]string{}, i.Groups...), "by": by, "at": i.At, "until": i.Until})
	return err
}

// RevokeInvite takes a link back.
func (SQL) RevokeInvite(ctx context.Context, id uuid.UUID, at time.Time) (bool, error) {
	n, err := pg.Exec(ctx, `UPDATE invites SET revoked_at = @at WHERE club_id = @club AND id = @id AND used_at IS NULL`, pg.Args{"id": id, "at": at})
	return n == 1, err
}

// RequireFactor reads whether the club asks for a second factor.
func (SQL) RequireFactor(ctx context.Context) (bool, error) {
	type row struct{ Require bool }
	r, _, err := pg.One[row](ctx, `SELECT require_factor AS require FROM clubs WHERE id = @club`, nil)
	return r.Require, err
}

// SetRequireFactor changes it.
func (SQL) SetRequireFactor(ctx context.Context, require bool) error {
	_, err := pg.Exec(ctx, `UPDATE clubs SET require_factor = @require WHERE id = @club`, pg.Args{"require": require})
	return err
}

// Invite finds the link of a secret.
func (q SQL) Invite(ctx context.Context, digest []byte) (Invite, bool, error) {
	return pg.OneBeside[Invite](ctx, q.DB, `SELECT id, club_id AS club, club_name, email, name, title, role, groups, '' AS by, created_at AS at, expires_at AS until,
		used_at IS NOT NULL AS used, revoked_at IS NOT NULL AS revoked FROM invite_of(@digest)`, pg.Args{"digest": digest})
}

// InClub works for a club.
func (q SQL) InClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error {
	return pg.Meaning(q.DB.InClub(ctx, club, f))
}

// Use takes a link, once.
func (SQL) Use(ctx context.Context, id uuid.UUID, at time.Time) (bool, error) {
	n, err := pg.Exec(ctx, `UPDATE invites SET used_at = @at WHERE club_id = @club AND id = @id AND used_at IS NULL AND revoked_at IS NULL AND expires_at > @at`, pg.Args{"id": id, "at": at})
	return n == 1, err
}

// NewAccount makes an account.
func (SQL) NewAccount(ctx context.Context, id uuid.UUID, email, name, hash string) error {
	_, err := pg.Exec(ctx, `INSERT INTO accounts (id, email, name, password_hash) VALUES (@id, @email, @name, @hash)`, pg.Args{"id": id, "email": email, "name": name, "hash": hash})
	return err
}

// Join puts an account onto the staff, and tells the others of it: it is a change of the club by who comes.
func (SQL) Join(ctx context.Context, m access.NewMember) error {
	if err := access.AddMember(ctx, m); err != nil {
		return err
	}
	now := time.Now()
	_, err := changes.Append(ctx, changes.Change{ID: uuid.New(), Person: m.ID, Operation: "join", Record: "/staff/" + m.ID.String(), Digest: []byte{}, MadeAt: now, At: now, Status: 200})
	return err
}
