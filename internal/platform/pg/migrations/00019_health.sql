-- +goose Up
-- Athletic health: who alone lifts a head-injury hold, by a written document that is named.
ALTER TABLE users DROP CONSTRAINT users_role_check;
ALTER TABLE users ADD CONSTRAINT users_role_check CHECK (role IN ('head', 'coach', 'health'));
ALTER TABLE availability_spells
    ADD COLUMN cleared_document text CONSTRAINT availability_spells_document CHECK (length(cleared_document) BETWEEN 2 AND 120);

-- +goose Down
ALTER TABLE availability_spells DROP COLUMN cleared_document;
UPDATE users SET role = 'coach' WHERE role = 'health';
ALTER TABLE users DROP CONSTRAINT users_role_check;
ALTER TABLE users ADD CONSTRAINT users_role_check CHECK (role IN ('head', 'coach'));
