-- +goose Up
-- Addresses under which a coach's calendar program reads the season. Of the secret in the address
-- only its digest is kept; what is revoked stays on the record.
CREATE TABLE calendar_links (
    club_id    uuid NOT NULL,
    id         uuid PRIMARY KEY, -- made by the client
    user_id    uuid NOT NULL REFERENCES users (id) ON DELETE CASCADE,
    name       text NOT NULL CONSTRAINT calendar_links_name CHECK (length(name) BETWEEN 1 AND 80),
    digest     bytea NOT NULL CONSTRAINT calendar_links_digest CHECK (length(digest) = 32),
    created_at timestamptz NOT NULL,
    read_at    timestamptz,
    revoked_at timestamptz
);
CREATE UNIQUE INDEX calendar_links_secret ON calendar_links (digest);
CREATE INDEX calendar_links_of ON calendar_links (club_id, user_id);
ALTER TABLE calendar_links ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON calendar_links TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- Who reads is known by the secret alone: this runs as the owner and answers for one address.
CREATE FUNCTION calendar_owner(secret bytea) RETURNS uuid LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = public AS
    $$ UPDATE calendar_links SET read_at = now() WHERE digest = secret AND revoked_at IS NULL RETURNING user_id $$;
REVOKE ALL ON FUNCTION calendar_owner(bytea) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION calendar_owner(bytea) TO nineyard_app;

-- +goose Down
DROP FUNCTION calendar_owner(bytea);
DROP TABLE calendar_links;
