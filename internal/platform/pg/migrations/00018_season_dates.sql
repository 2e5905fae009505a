-- +goose Up
-- The staff sets the dates of its season, and its phases.
ALTER TABLE seasons
    ADD COLUMN phases     jsonb NOT NULL DEFAULT '[]' CONSTRAINT seasons_phases CHECK (jsonb_typeof(phases) = 'array'),
    ADD COLUMN version    int NOT NULL DEFAULT 1,
    ADD COLUMN updated_by uuid,
    ADD COLUMN updated_at timestamptz NOT NULL DEFAULT now();

-- +goose Down
ALTER TABLE seasons DROP COLUMN phases, DROP COLUMN version, DROP COLUMN updated_by, DROP COLUMN updated_at;
