-- +goose Up
-- The heat index of a practice as the staff measured it: what was entered stays, the last one holds.
CREATE TABLE heat_readings (
    club_id     uuid NOT NULL,
    id          uuid PRIMARY KEY, -- made by the client
    practice_id uuid NOT NULL,
    index       numeric(5, 1) CONSTRAINT heat_readings_index CHECK (index BETWEEN -200 AND 200), -- NULL: none holds any longer
    created_by  uuid NOT NULL,
    created_at  timestamptz NOT NULL,
    CONSTRAINT heat_readings_practice FOREIGN KEY (club_id, practice_id) REFERENCES practices (club_id, id) ON DELETE CASCADE
);
CREATE INDEX heat_readings_of ON heat_readings (club_id, practice_id);
ALTER TABLE heat_readings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON heat_readings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE heat_readings;
