-- +goose Up
-- What a staff calls in a season, what each call needs and when it is installed; and each group's
-- line-up, by the week from which it holds. Needs and spots are read and written whole.
CREATE TABLE calls (
    club_id    uuid NOT NULL,
    id         uuid NOT NULL, -- made by the client
    season_id  uuid NOT NULL,
    name       text NOT NULL CONSTRAINT calls_name CHECK (length(name) BETWEEN 1 AND 80),
    side       text NOT NULL CONSTRAINT calls_side CHECK (side IN ('offense', 'defense', 'units')),
    kind       text NOT NULL CONSTRAINT calls_kind CHECK (length(kind) <= 80),
    aliases    text[] NOT NULL CONSTRAINT calls_aliases CHECK (cardinality(aliases) <= 20),
    tags       text[] NOT NULL CONSTRAINT calls_tags CHECK (cardinality(tags) <= 20),
    share      smallint NOT NULL CONSTRAINT calls_share CHECK (share BETWEEN 0 AND 100),
    install_on date,
    needs      jsonb NOT NULL CONSTRAINT calls_needs CHECK (jsonb_typeof(needs) = 'array'),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (id),
    FOREIGN KEY (club_id, season_id) REFERENCES seasons (club_id, id) ON DELETE CASCADE
);
CREATE INDEX calls_of ON calls (club_id, season_id);

CREATE TABLE line_ups (
    club_id    uuid NOT NULL,
    season_id  uuid NOT NULL,
    group_key  text NOT NULL,
    week       smallint NOT NULL CONSTRAINT line_ups_week CHECK (week BETWEEN 1 AND 60),
    spots      jsonb NOT NULL CONSTRAINT line_ups_spots CHECK (jsonb_typeof(spots) = 'array'),
    version    int NOT NULL,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, season_id, group_key, week),
    FOREIGN KEY (club_id, season_id) REFERENCES seasons (club_id, id) ON DELETE CASCADE,
    CONSTRAINT line_ups_group FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON UPDATE CASCADE ON DELETE CASCADE
);

ALTER TABLE calls ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON calls TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE line_ups ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON line_ups TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE line_ups;
DROP TABLE calls;
