-- +goose Up
-- Who signs in is an account, with one e-mail; on a club's staff he is a member. One account may be on the staff of
-- several clubs, and may later be a player elsewhere.
CREATE TABLE accounts (
    id            uuid PRIMARY KEY,
    email         text NOT NULL CONSTRAINT accounts_email_small CHECK (email = lower(email)),
    name          text NOT NULL CONSTRAINT accounts_name CHECK (name <> ''),
    password_hash text, -- none: he comes in by a passkey, or by a link
    totp_secret   bytea,
    totp_since    timestamptz, -- it counts from when it was shown to work
    totp_step     bigint NOT NULL DEFAULT 0, -- the last one that was used
    entered_at    timestamptz,
    created_at    timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT accounts_email UNIQUE (email)
);
INSERT INTO accounts (id, email, name, password_hash, created_at) SELECT id, email, name, password_hash, created_at FROM users;

ALTER TABLE users
    ADD COLUMN account_id uuid CONSTRAINT users_account REFERENCES accounts (id),
    ADD COLUMN suspended_at timestamptz,
    ADD COLUMN removed_at timestamptz,
    ADD COLUMN version int NOT NULL DEFAULT 1;
UPDATE users SET account_id = id;
ALTER TABLE users ALTER COLUMN account_id SET NOT NULL;
CREATE UNIQUE INDEX users_account_once ON users (club_id, account_id) WHERE removed_at IS NULL;
CREATE INDEX users_of_account ON users (account_id);
ALTER TABLE users DROP CONSTRAINT users_role_check;
ALTER TABLE users ADD CONSTRAINT users_role_check CHECK (role IN ('head', 'coach', 'assistant', 'health', 'reader'));

ALTER TABLE clubs ADD COLUMN require_factor boolean NOT NULL DEFAULT false;

-- A link by which somebody comes onto a staff: of its secret the digest is kept.
CREATE TABLE invites (
    id         uuid PRIMARY KEY,
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    digest     bytea NOT NULL CONSTRAINT invites_digest UNIQUE,
    email      text NOT NULL,
    name       text NOT NULL,
    title      text NOT NULL,
    role       text NOT NULL CONSTRAINT invites_role CHECK (role IN ('head', 'coach', 'assistant', 'health', 'reader')),
    groups     text[] NOT NULL,
    created_by uuid NOT NULL,
    created_at timestamptz NOT NULL,
    expires_at timestamptz NOT NULL,
    used_at    timestamptz,
    revoked_at timestamptz
);
CREATE INDEX invites_of_club ON invites (club_id, created_at);
ALTER TABLE invites ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON invites TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- A link by which somebody recovers his account, or says that an e-mail is his.
CREATE TABLE account_links (
    digest     bytea PRIMARY KEY,
    account_id uuid NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
    kind       text NOT NULL CONSTRAINT account_links_kind CHECK (kind IN ('recover', 'email')),
    email      text NOT NULL DEFAULT '',
    created_at timestamptz NOT NULL,
    expires_at timestamptz NOT NULL,
    used_at    timestamptz
);
CREATE INDEX account_links_account ON account_links (account_id);

CREATE TABLE passkeys (
    id         bytea PRIMARY KEY,
    account_id uuid NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
    name       text NOT NULL CONSTRAINT passkeys_name CHECK (name <> ''),
    credential jsonb NOT NULL,
    created_at timestamptz NOT NULL,
    used_at    timestamptz
);
CREATE INDEX passkeys_account ON passkeys (account_id);

CREATE TABLE recovery_codes (
    account_id uuid NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
    digest     bytea NOT NULL,
    used_at    timestamptz,
    PRIMARY KEY (account_id, digest)
);

-- What an account is told of itself: that its password, e-mail or a factor has changed.
CREATE TABLE notices (
    id         uuid PRIMARY KEY,
    account_id uuid NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
    says       text NOT NULL,
    at         timestamptz NOT NULL,
    seen_at    timestamptz
);
CREATE INDEX notices_account ON notices (account_id, at);

-- What the simulated mailer of the demo was given. Nothing is in it elsewhere.
CREATE TABLE outbox (
    id        uuid PRIMARY KEY,
    recipient text NOT NULL,
    subject   text NOT NULL,
    body      text NOT NULL,
    at        timestamptz NOT NULL
);

-- Who is asked before any club is known.
CREATE FUNCTION memberships_of(account uuid) RETURNS TABLE (id uuid, club_id uuid, club_name text, role text, require_factor boolean) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT u.id, u.club_id, c.name, u.role, c.require_factor FROM users u JOIN clubs c ON c.id = u.club_id
       WHERE u.account_id = account AND u.removed_at IS NULL AND u.suspended_at IS NULL ORDER BY c.name, u.created_at $$;
CREATE FUNCTION members_of(account uuid) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT u.id FROM users u WHERE u.account_id = account $$;
-- +goose StatementBegin
CREATE FUNCTION rename_account(account uuid, name_now text) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    UPDATE users SET name = name_now, version = version + 1 WHERE account_id = account AND removed_at IS NULL;
    UPDATE accounts SET name = name_now WHERE id = account $$;
-- +goose StatementEnd
CREATE FUNCTION invite_of(secret bytea) RETURNS TABLE (id uuid, club_id uuid, club_name text, email text, name text, title text, role text, groups text[], created_by uuid,
    created_at timestamptz, expires_at timestamptz, used_at timestamptz, revoked_at timestamptz) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT i.id, i.club_id, c.name, i.email, i.name, i.title, i.role, i.groups, i.created_by, i.created_at, i.expires_at, i.used_at, i.revoked_at
       FROM invites i JOIN clubs c ON c.id = i.club_id WHERE i.digest = secret $$;
CREATE FUNCTION clubs_count() RETURNS bigint LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$ SELECT count(*) FROM clubs $$;
-- What a server of before asks.
CREATE OR REPLACE FUNCTION sign_in_of(mail text) RETURNS TABLE (id uuid, password_hash text) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT m.id, a.password_hash FROM accounts a CROSS JOIN LATERAL (SELECT x.id FROM memberships_of(a.id) x LIMIT 1) m WHERE a.email = lower(mail) AND a.password_hash IS NOT NULL $$;

DROP FUNCTION coach_of(uuid);
CREATE FUNCTION coach_of(person uuid) RETURNS TABLE (
    id uuid, club_id uuid, account_id uuid, name text, role text, club_name text, timezone text,
    season_id uuid, season_start date, season_weeks int, library_version int, own text[], groups jsonb, clock bigint, factor_due boolean
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT u.id, u.club_id, u.account_id, u.name, u.role, c.name, c.timezone, se.id, se.starts_on, se.weeks,
           coalesce((SELECT max(h.version) FROM house_versions h WHERE h.club_id = u.club_id), 0),
           coalesce((SELECT array_agg(g.group_key ORDER BY g.group_key) FROM user_groups g WHERE g.user_id = u.id), '{}'),
           coalesce((SELECT jsonb_agg(jsonb_build_object('Key', p.key, 'Name', p.name, 'Short', p.short, 'Side', p.side, 'Positions', p.positions) ORDER BY p.sort, p.key)
                     FROM position_groups p WHERE p.club_id = u.club_id), '[]'),
           coalesce((SELECT k.last FROM club_clocks k WHERE k.club_id = u.club_id), 0),
           c.require_factor AND NOT EXISTS (SELECT FROM accounts a WHERE a.id = u.account_id AND a.totp_since IS NOT NULL)
               AND NOT EXISTS (SELECT FROM passkeys k WHERE k.account_id = u.account_id)
    FROM users u
    JOIN clubs c ON c.id = u.club_id
    JOIN LATERAL (SELECT s.* FROM seasons s WHERE s.club_id = c.id ORDER BY s.starts_on DESC LIMIT 1) se ON true
    WHERE u.id = person AND u.removed_at IS NULL AND u.suspended_at IS NULL $$;
REVOKE ALL ON FUNCTION coach_of(uuid), memberships_of(uuid), members_of(uuid), rename_account(uuid, text), invite_of(bytea), clubs_count() FROM PUBLIC;
GRANT EXECUTE ON FUNCTION coach_of(uuid), memberships_of(uuid), members_of(uuid), rename_account(uuid, text), invite_of(bytea), clubs_count() TO nineyard_app;
DROP INDEX users_email;
ALTER TABLE users DROP COLUMN email, DROP COLUMN password_hash;

-- +goose Down
ALTER TABLE users ADD COLUMN email text, ADD COLUMN password_hash text;
-- Of an account on several staffs the first keeps the e-mail; whoever has no password comes in no more.
UPDATE users u SET email = CASE WHEN u.id = (SELECT x.id FROM users x WHERE x.account_id = u.account_id ORDER BY x.removed_at NULLS FIRST, x.created_at, x.id LIMIT 1) THEN a.email ELSE u.id || '@removed.invalid' END,
                   password_hash = coalesce(a.password_hash, '')
FROM accounts a WHERE a.id = u.account_id;
UPDATE users SET password_hash = '' WHERE removed_at IS NOT NULL OR suspended_at IS NOT NULL;
ALTER TABLE users ALTER COLUMN email SET NOT NULL, ALTER COLUMN password_hash SET NOT NULL, ADD CONSTRAINT users_email_check CHECK (email = lower(email));
CREATE UNIQUE INDEX users_email ON users (email);
CREATE OR REPLACE FUNCTION sign_in_of(mail text) RETURNS TABLE (id uuid, password_hash text) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT u.id, u.password_hash FROM users u WHERE u.email = lower(mail) $$;
DROP FUNCTION coach_of(uuid);
CREATE FUNCTION coach_of(person uuid) RETURNS TABLE (
    id uuid, club_id uuid, name text, role text, club_name text, timezone text,
    season_id uuid, season_start date, season_weeks int, library_version int, own text[], groups jsonb, clock bigint
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT u.id, u.club_id, u.name, u.role, c.name, c.timezone, se.id, se.starts_on, se.weeks,
           coalesce((SELECT max(h.version) FROM house_versions h WHERE h.club_id = u.club_id), 0),
           coalesce((SELECT array_agg(g.group_key ORDER BY g.group_key) FROM user_groups g WHERE g.user_id = u.id), '{}'),
           coalesce((SELECT jsonb_agg(jsonb_build_object('Key', p.key, 'Name', p.name, 'Short', p.short, 'Side', p.side, 'Positions', p.positions) ORDER BY p.sort, p.key)
                     FROM position_groups p WHERE p.club_id = u.club_id), '[]'),
           coalesce((SELECT k.last FROM club_clocks k WHERE k.club_id = u.club_id), 0)
    FROM users u
    JOIN clubs c ON c.id = u.club_id
    JOIN LATERAL (SELECT s.* FROM seasons s WHERE s.club_id = c.id ORDER BY s.starts_on DESC LIMIT 1) se ON true
    WHERE u.id = person $$;
REVOKE ALL ON FUNCTION coach_of(uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION coach_of(uuid) TO nineyard_app;
DROP FUNCTION clubs_count();
DROP FUNCTION invite_of(bytea);
DROP FUNCTION rename_account(uuid, text);
DROP FUNCTION members_of(uuid);
DROP FUNCTION memberships_of(uuid);
ALTER TABLE clubs DROP COLUMN require_factor;
-- An assistant is a coach there; who reads alone changes nothing by being of no group.
DELETE FROM user_groups WHERE user_id IN (SELECT id FROM users WHERE role = 'reader');
UPDATE users SET role = 'coach' WHERE role IN ('assistant', 'reader');
ALTER TABLE users DROP CONSTRAINT users_role_check;
ALTER TABLE users ADD CONSTRAINT users_role_check CHECK (role IN ('head', 'coach', 'health'));
ALTER TABLE users DROP COLUMN account_id, DROP COLUMN suspended_at, DROP COLUMN removed_at, DROP COLUMN version;
DROP TABLE outbox, notices, recovery_codes, passkeys, account_links, invites, accounts;
