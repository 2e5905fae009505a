package account

import (
	"context"
	"encoding/json"
	"time"

	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"

	"nineyard/internal/access"
	"nineyard/internal/contract"
	"nineyard/internal/platform/pg"
)

// SQL is the Store over PostgreSQL.
type SQL struct{ access.SQL }

var _ Store = SQL{}

func (q SQL) exec(ctx context.Context, query string, args pg.Args) (int64, error) {
	n, err := pg.ExecBeside(ctx, q.DB, query, args)
	return n, pg.Meaning(err)
}

// SetName changes the name, in every club. Members of other clubs are out of this one's sight: a function does it.
func (q SQL) SetName(ctx context.Context, account uuid.UUID, name string) error {
	_, err := q.exec(ctx, `SELECT rename_account(@account, @name)`, pg.Args{"account": account, "name": name})
	return err
}

// SetPassword changes the password.
func (q SQL) SetPassword(ctx context.Context, account uuid.UUID, hash string) error {
	_, err := q.exec(ctx, `UPDATE accounts SET password_hash = @hash WHERE id = @account`, pg.Args{"account": account, "hash": hash})
	return err
}

// SetEmail changes the e-mail.
func (q SQL) SetEmail(ctx context.Context, account uuid.UUID, email string) error {
	_, err := q.exec(ctx, `UPDATE accounts SET email = @email WHERE id = @account`, pg.Args{"account": account, "email": email})
	return err
}

// NewLink keeps a link, and forgets those that are over.
func (q SQL) NewLink(ctx context.Context, digest []byte, l Link, at, until time.Time) error {
	_, err := q.exec(ctx, `
		WITH before AS (DELETE FROM account_links WHERE account_id = @account AND kind = @kind OR expires_at < @at)
		INSERT INTO account_links (digest, account_id, kind, email, created_at, expires_at) VALUES (@digest, @account, @kind, @email, @at, @until)`,
		pg.Args{"digest": digest, "account": l.Account, "kind": l.Kind, "email": l.Email, "at": at, "until": until})
	return err
}

// TakeLink takes a link that counts.
func (q SQL) TakeLink(ctx context.Context, digest []byte, kind string, at time.Time) (Link, bool, error) {
	return pg.OneBeside[Link](ctx, q.DB, `UPDATE account_links SET used_at = @at WHERE digest = @digest AND kind = @kind AND used_at IS NULL AND expires_at > @at
		RETURNING account_id AS account, kind, email`, pg.Args{"digest": digest, "kind": kind, "at": at})
}

// SetAuthenticator keeps the secret of an authenticator.
func (q SQL) SetAuthenticator(ctx context.Context, account uuid.UUID, secret []byte, since *time.Time) error {
	_, err := q.exec(ctx, `UPDATE accounts SET totp_secret = @secret, totp_since = @since WHERE id = @account`, pg.Args{"account": account, "secret": secret, "since": since})
	return err
}

// SetCodes puts recovery codes in the place of those of before.
func (q SQL) SetCodes(ctx context.Context, account uuid.UUID, digests [][]byte) error {
	return q.DB.Beside(ctx, func(ctx context.Context) error {
		if _, err := pg.Exec(ctx, `DELETE FROM recovery_codes WHERE account_id = @account`, pg.Args{"account": account}); err != nil {
			return err
		}
		_, err := pg.Exec(ctx, `INSERT INTO recovery_codes (account_id, digest) SELECT @account, d FROM unnest(@digests::bytea[]) d`, pg.Args{"account": account, "digests": digests})
		return err
	})
}

// Keys lists the passkeys of an account.
func (q SQL) Keys(ctx context.Context, account uuid.UUID) ([]Key, error) {
	return pg.SelectBeside[Key](ctx, q.DB, `SELECT id, name, created_at, used_at FROM passkeys WHERE account_id = @account ORDER BY created_at`, pg.Args{"account": account})
}

// AddKey keeps a passkey.
func (q SQL) AddKey(ctx context.Context, account uuid.UUID, name string, c webauthn.Credential, at time.Time) error {
	text, err := json.Marshal(c)
	if err != nil {
		return err
	}
	_, err = q.exec(ctx, `INSERT INTO passkeys (id, account_id, name, credential, created_at) VALUES (@id, @account, @name, @text::jsonb, @at)`,
		pg.Args{"id": c.ID, "account": account, "name": name, "text": string(text), "at": at})
	return err
}

// DropKey takes a passkey away.
func (q SQL) DropKey(ctx context.Context, account uuid.UUID, id []byte) (bool, error) {
	n, err := q.exec(ctx, `DELETE FROM passkeys WHERE account_id = @account AND id = @id`, pg.Args{"account": account, "id": id})
	return n == 1, err
}

// Notice tells an account something of itself.
func (q SQL) Notice(ctx context.Context, account uuid.UUID, says string, at time.Time) error {
	_, err := q.exec(ctx, `INSERT INTO notices (id, account_id, says, at) VALUES (gen_random_uuid(), @account, @says, @at)`, pg.Args{"account": account, "says": says, "at": at})
	return err
}

// Notices lists what was not put away, newest first.
func (q SQL) Notices(ctx context.Context, account uuid.UUID, since time.Time) ([]contract.Notice, error) {
	return pg.SelectBeside[contract.Notice](ctx, q.DB, `SELECT id, says, at FROM notices WHERE account_id = @account AND seen_at IS NULL AND at > @since ORDER BY at DESC, id LIMIT 20`,
		pg.Args{"account": account, "since": since})
}

// SeeNotice puts a notice away.
func (q SQL) SeeNotice(ctx context.Context, account, id uuid.UUID, at time.Time) error {
	_, err := q.exec(ctx, `UPDATE notices SET seen_at = @at WHERE account_id = @account AND id = @id AND seen_at IS NULL`, pg.Args{"account": account, "id": id, "at": at})
	return err
}

// All reads everything that is kept of an account.
func (q SQL) All(ctx context.Context, account uuid.UUID) (json.RawMessage, error) {
	type row struct{ All json.RawMessage }
	r, _, err := pg.OneBeside[row](ctx, q.DB, `SELECT all_of_account(@account) AS all`, pg.Args{"account": account})
	return r.All, err
}

// Members lists as whom an account is known in all clubs.
func (q SQL) Members(ctx context.Context, account uuid.UUID) (ids []uuid.UUID, err error) {
	type row struct{ ID uuid.UUID }
	rows, err := pg.SelectBeside[row](ctx, q.DB, `SELECT id FROM members_of(@account) id`, pg.Args{"account": account})
	for _, r := range rows {
		ids = append(ids, r.ID)
	}
	return ids, err
}
