-- +goose Up
-- Whose a session is, so that who asks is read with it, in one statement. Sessions from
-- before have none and are read as they were.
ALTER TABLE sessions ADD COLUMN person uuid;

-- +goose Down
ALTER TABLE sessions DROP COLUMN person;
