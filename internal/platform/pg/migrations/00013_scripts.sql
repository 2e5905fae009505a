-- +goose Up
-- A period of the script says where it is, who coaches it, what it takes and whom it needs; it
-- may lie outside of its practice, which is then said. Keys are those of the club's settings.
ALTER TABLE periods
    ADD COLUMN place       text NOT NULL DEFAULT '' CONSTRAINT periods_place CHECK (length(place) <= 40),
    ADD COLUMN coaches     text[] NOT NULL DEFAULT '{}' CONSTRAINT periods_coaches CHECK (cardinality(coaches) <= 40),
    ADD COLUMN equipment   jsonb NOT NULL DEFAULT '[]' CONSTRAINT periods_equipment CHECK (jsonb_typeof(equipment) = 'array'),
    ADD COLUMN needs       text[] NOT NULL DEFAULT '{}' CONSTRAINT periods_needs CHECK (cardinality(needs) <= 60),
    ADD COLUMN rep_seconds real NOT NULL DEFAULT 0 CONSTRAINT periods_rep_seconds CHECK (rep_seconds BETWEEN 0 AND 3600);
ALTER TABLE periods
    DROP CONSTRAINT periods_start_check,
    ADD CONSTRAINT periods_start_check CHECK (start BETWEEN -1440 AND 1440),
    DROP CONSTRAINT periods_minutes_check,
    ADD CONSTRAINT periods_minutes_check CHECK (minutes BETWEEN 1 AND 1440),
    ADD CONSTRAINT periods_name_check CHECK (length(name) <= 200);

-- Places, equipment, helpers, limits and themes of a club's practices: one document, written whole.
CREATE TABLE practice_settings (
    club_id    uuid PRIMARY KEY REFERENCES clubs (id) ON DELETE CASCADE,
    version    int NOT NULL CONSTRAINT practice_settings_version_check CHECK (version >= 1),
    settings   jsonb NOT NULL,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now()
);
ALTER TABLE practice_settings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON practice_settings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE practice_settings;
UPDATE periods SET start = 0 WHERE start < 0;
ALTER TABLE periods
    DROP COLUMN place, DROP COLUMN coaches, DROP COLUMN equipment, DROP COLUMN needs, DROP COLUMN rep_seconds,
    DROP CONSTRAINT periods_name_check,
    DROP CONSTRAINT periods_start_check,
    ADD CONSTRAINT periods_start_check CHECK (start >= 0),
    DROP CONSTRAINT periods_minutes_check,
    ADD CONSTRAINT periods_minutes_check CHECK (minutes >= 1);
