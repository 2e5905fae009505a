-- +goose Up
-- A session says when it was used last, from where and by what, and is listed by an id that lets nobody in. Of its
-- token the digest is kept. Those of before stay.
ALTER TABLE sessions
    ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid(),
    ADD COLUMN started_at timestamptz NOT NULL DEFAULT now(),
    ADD COLUMN seen_at timestamptz NOT NULL DEFAULT now(),
    ADD COLUMN agent text NOT NULL DEFAULT '',
    ADD COLUMN address text NOT NULL DEFAULT '';
UPDATE sessions SET token = encode(sha256(convert_to(token, 'UTF8')), 'hex');
CREATE INDEX sessions_person ON sessions (person);

-- Addresses from which somebody has signed in: from there he gets in, however many others try.
CREATE TABLE sign_in_places (
    email text COLLATE "C" NOT NULL,
    ip    text COLLATE "C" NOT NULL,
    at    timestamptz NOT NULL,
    PRIMARY KEY (email, ip)
);
CREATE INDEX sign_in_failures_email ON sign_in_failures (email, at);

-- +goose Down
DROP INDEX sign_in_failures_email;
DROP TABLE sign_in_places;
DELETE FROM sessions; -- of their tokens nothing is left but the digests
DROP INDEX sessions_person;
ALTER TABLE sessions DROP COLUMN id, DROP COLUMN started_at, DROP COLUMN seen_at, DROP COLUMN agent, DROP COLUMN address;
