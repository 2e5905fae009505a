-- +goose Up
-- Drills of a group that are put into a period whole, in their order; every-day drills are a set.
CREATE TABLE drill_sets (
    club_id    uuid NOT NULL,
    id         uuid PRIMARY KEY, -- made by the client
    group_key  text NOT NULL,
    name       text NOT NULL CONSTRAINT drill_sets_name CHECK (length(name) BETWEEN 1 AND 80),
    every_day  boolean NOT NULL,
    drills     jsonb NOT NULL CONSTRAINT drill_sets_drills CHECK (jsonb_typeof(drills) = 'array'),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT drill_sets_group FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON UPDATE CASCADE ON DELETE CASCADE
);
CREATE INDEX drill_sets_of ON drill_sets (club_id, group_key);
ALTER TABLE drill_sets ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON drill_sets TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE drill_sets;
