-- +goose Up
-- Plays in the staff's own words. Which side of the ball they are of is the unit; "offense" is written
-- beside it until nothing reads it any longer.
ALTER TABLE plays
    ADD COLUMN unit text NOT NULL DEFAULT 'offense' CONSTRAINT plays_unit CHECK (unit IN ('offense', 'defense', 'units')),
    ADD COLUMN drive int NOT NULL DEFAULT 0 CONSTRAINT plays_drive CHECK (drive BETWEEN 0 AND 60),
    ADD COLUMN quarter int NOT NULL DEFAULT 0 CONSTRAINT plays_quarter CHECK (quarter BETWEEN 0 AND 8),
    ADD COLUMN clock text NOT NULL DEFAULT '',
    ADD COLUMN hash text NOT NULL DEFAULT '',
    ADD COLUMN personnel text NOT NULL DEFAULT '',
    ADD COLUMN formation text NOT NULL DEFAULT '',
    ADD COLUMN motion text NOT NULL DEFAULT '',
    ADD COLUMN front text NOT NULL DEFAULT '',
    ADD COLUMN coverage text NOT NULL DEFAULT '',
    ADD COLUMN result text NOT NULL DEFAULT '',
    ADD COLUMN context text[] NOT NULL DEFAULT '{}' CONSTRAINT plays_context CHECK (cardinality(context) <= 8),
    ADD COLUMN version int NOT NULL DEFAULT 1,
    ADD COLUMN updated_by uuid,
    ADD COLUMN updated_at timestamptz NOT NULL DEFAULT now();
UPDATE plays SET unit = 'defense' WHERE NOT offense;

-- +goose Down
ALTER TABLE plays DROP COLUMN unit, DROP COLUMN drive, DROP COLUMN quarter, DROP COLUMN clock, DROP COLUMN hash, DROP COLUMN personnel, DROP COLUMN formation, DROP COLUMN motion,
    DROP COLUMN front, DROP COLUMN coverage, DROP COLUMN result, DROP COLUMN context, DROP COLUMN version, DROP COLUMN updated_by, DROP COLUMN updated_at;
