-- +goose Up
-- What was written on a play before, and by whom: a correction keeps what it corrects.
CREATE TABLE play_versions (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    play_id uuid NOT NULL,
    version int NOT NULL,
    labels  text[] NOT NULL, -- in the order of the columns of a list of plays
    by      uuid,
    at      timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, play_id, version),
    CONSTRAINT play_versions_play FOREIGN KEY (club_id, play_id) REFERENCES plays (club_id, id) ON DELETE CASCADE
);
-- Which header stands for what in lists of plays that have these headers.
CREATE TABLE play_mappings (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    headers text NOT NULL,
    columns jsonb NOT NULL,
    PRIMARY KEY (club_id, headers)
);
-- Cut-ups by a name.
CREATE TABLE cut_ups (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id         uuid NOT NULL,
    group_key  text NOT NULL,
    name       text NOT NULL CONSTRAINT cut_ups_name CHECK (length(name) BETWEEN 1 AND 80),
    cut        text NOT NULL CONSTRAINT cut_ups_cut CHECK (length(cut) BETWEEN 1 AND 300),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    PRIMARY KEY (club_id, id),
    CONSTRAINT cut_ups_taken UNIQUE (club_id, group_key, name)
);
ALTER TABLE play_versions ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON play_versions TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE play_mappings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON play_mappings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE cut_ups ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON cut_ups TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE cut_ups;
DROP TABLE play_mappings;
DROP TABLE play_versions;
