-- +goose Up
-- Practices and games are made, moved and called off by the staff. What is called off stays, with
-- its reason, and takes part in nothing.
ALTER TABLE practices
    ADD COLUMN version    int NOT NULL DEFAULT 1,
    ADD COLUMN cancelled  text CONSTRAINT practices_cancelled CHECK (length(cancelled) BETWEEN 1 AND 200),
    ADD COLUMN updated_by uuid,
    ADD COLUMN updated_at timestamptz NOT NULL DEFAULT now(),
    ADD CONSTRAINT practices_title CHECK (length(title) BETWEEN 1 AND 200),
    ADD CONSTRAINT practices_words CHECK (length(theme) <= 200 AND length(place) <= 200);
ALTER TABLE games
    ADD COLUMN version    int NOT NULL DEFAULT 1,
    ADD COLUMN cancelled  text CONSTRAINT games_cancelled CHECK (length(cancelled) BETWEEN 1 AND 200),
    ADD COLUMN updated_by uuid,
    ADD COLUMN updated_at timestamptz NOT NULL DEFAULT now(),
    ADD CONSTRAINT games_opponent CHECK (length(opponent) BETWEEN 1 AND 200);

-- +goose Down
ALTER TABLE games DROP CONSTRAINT games_opponent, DROP COLUMN version, DROP COLUMN cancelled, DROP COLUMN updated_by, DROP COLUMN updated_at;
ALTER TABLE practices DROP CONSTRAINT practices_title, DROP CONSTRAINT practices_words, DROP COLUMN version, DROP COLUMN cancelled, DROP COLUMN updated_by, DROP COLUMN updated_at;
