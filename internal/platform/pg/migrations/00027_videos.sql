-- +goose Up
-- A video is of a game or of a placed drill before anything in it is marked as a play. One that is local stays
-- on a coach's own machine: of it only what it is is known, so that it is recognised there.
ALTER TABLE films
    ADD COLUMN game_id uuid,
    ADD COLUMN placement_id uuid,
    ADD COLUMN view text NOT NULL DEFAULT 'wide' CONSTRAINT films_view CHECK (length(view) BETWEEN 1 AND 30),
    ADD COLUMN local boolean NOT NULL DEFAULT false,
    ADD COLUMN version int NOT NULL DEFAULT 1,
    -- What is made of it for the eye: one that steps quickly, and a strip of small pictures.
    ADD COLUMN work text NOT NULL DEFAULT 'none' CONSTRAINT films_work CHECK (work IN ('none', 'waits', 'runs', 'done', 'failed')),
    ADD COLUMN work_done smallint NOT NULL DEFAULT 0 CONSTRAINT films_work_done CHECK (work_done BETWEEN 0 AND 100),
    ADD COLUMN proxy_digest text CONSTRAINT films_proxy_digest CHECK (proxy_digest ~ '^[0-9a-f]{64}$'),
    ADD COLUMN proxy_size bigint,
    ADD COLUMN strip_digest text CONSTRAINT films_strip_digest CHECK (strip_digest ~ '^[0-9a-f]{64}$'),
    ADD CONSTRAINT films_game FOREIGN KEY (club_id, game_id) REFERENCES games (club_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT films_placement FOREIGN KEY (club_id, placement_id) REFERENCES placements (club_id, id) ON DELETE CASCADE;
UPDATE films f SET game_id = y.game_id, view = c.view FROM clips c JOIN plays y ON y.id = c.play_id WHERE c.film_id = f.id;
UPDATE films f SET placement_id = c.placement_id, view = c.view FROM clips c WHERE c.film_id = f.id AND c.placement_id IS NOT NULL;
CREATE INDEX films_of_game ON films (club_id, game_id) WHERE game_id IS NOT NULL;
CREATE INDEX films_of_placement ON films (club_id, placement_id) WHERE placement_id IS NOT NULL;
ALTER TABLE clips ADD COLUMN version int NOT NULL DEFAULT 1, ADD COLUMN changed_by uuid;

-- Videos on their way. What has come of one lies in the film store in pieces, each under the place at which it begins.
CREATE TABLE film_uploads (
    club_id      uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id           text NOT NULL CONSTRAINT film_uploads_id CHECK (length(id) BETWEEN 1 AND 64),
    game_id      uuid,
    placement_id uuid,
    size         bigint NOT NULL CONSTRAINT film_uploads_size CHECK (size > 0),
    arrived      bigint NOT NULL DEFAULT 0,
    said         jsonb NOT NULL, -- of it by whoever sends it: name, kind, pictures, rate
    created_by   uuid NOT NULL,
    created_at   timestamptz NOT NULL DEFAULT now(),
    updated_at   timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, id)
);
ALTER TABLE film_uploads ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON film_uploads TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
-- How much a club may keep, in bytes, where it is not what all may.
ALTER TABLE clubs ADD COLUMN film_limit bigint CONSTRAINT clubs_film_limit CHECK (film_limit >= 0);

-- +goose Down
ALTER TABLE clubs DROP COLUMN film_limit;
DROP TABLE film_uploads;
ALTER TABLE clips DROP COLUMN version, DROP COLUMN changed_by;
ALTER TABLE films DROP COLUMN game_id, DROP COLUMN placement_id, DROP COLUMN view, DROP COLUMN local, DROP COLUMN version, DROP COLUMN work, DROP COLUMN work_done,
    DROP COLUMN proxy_digest, DROP COLUMN proxy_size, DROP COLUMN strip_digest;
