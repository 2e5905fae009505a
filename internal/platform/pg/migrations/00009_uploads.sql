-- +goose Up
-- A list that was sent to be imported, read once and kept for a day.
CREATE TABLE roster_uploads (
    id          uuid PRIMARY KEY, -- made by the client
    club_id     uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    content     jsonb NOT NULL,
    created_by  uuid NOT NULL,
    created_at  timestamptz NOT NULL,
    imported    jsonb -- what the import answered, once it is done
);
CREATE INDEX roster_uploads_age ON roster_uploads (club_id, created_at);
ALTER TABLE roster_uploads ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON roster_uploads TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE roster_uploads;
