-- +goose Up
CREATE EXTENSION IF NOT EXISTS pg_trgm;

-- The shipped libraries this database has met. A house version names the one it lies on,
-- so that any version can be read back as it was.
CREATE TABLE library_editions (
    digest  text PRIMARY KEY,
    entries jsonb NOT NULL,
    seen_at timestamptz NOT NULL DEFAULT now()
);

-- Every change of a club's standards makes a version: the whole layer over an edition.
CREATE TABLE house_versions (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    version    int  NOT NULL CHECK (version >= 1),
    id         uuid NOT NULL UNIQUE, -- made by the client, so that a request may be sent again
    digest     text NOT NULL REFERENCES library_editions (digest),
    layer      jsonb NOT NULL CHECK (jsonb_typeof(layer) = 'array'),
    touched    jsonb NOT NULL CHECK (jsonb_typeof(touched) = 'array'), -- "kind key" of the entries that changed
    summary    text NOT NULL CHECK (summary <> ''),
    created_by uuid,
    created_at timestamptz NOT NULL,
    PRIMARY KEY (club_id, version)
);
CREATE INDEX house_versions_touched ON house_versions USING gin (touched);

-- What can be found, rewritten with each version.
CREATE TABLE library_terms (
    club_id   uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    kind      text NOT NULL,
    key       text NOT NULL,
    technique text NOT NULL,
    groups    jsonb NOT NULL,
    name      text NOT NULL,
    terms     text NOT NULL, -- name and aliases, in small letters
    body      text NOT NULL,
    search    tsvector GENERATED ALWAYS AS (setweight(to_tsvector('english', terms), 'A') || setweight(to_tsvector('english', body), 'C')) STORED,
    PRIMARY KEY (club_id, kind, key)
);
CREATE INDEX mark_slots_technique ON mark_slots (club_id, technique_key, on_date) WHERE state <> 'withdrawn';
CREATE INDEX mark_slots_faults ON mark_slots USING gin (faults jsonb_path_ops) WHERE faults <> '[]';
CREATE INDEX library_terms_search ON library_terms USING gin (search);


-- Its words, to which mistyped ones are matched.
CREATE TABLE library_words (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    word    text NOT NULL,
    PRIMARY KEY (club_id, word)
);

-- One player's own range at a checkpoint.
CREATE TABLE player_exceptions (
    id             uuid PRIMARY KEY,
    club_id        uuid NOT NULL,
    player_id      uuid NOT NULL,
    checkpoint_key text NOT NULL,
    ok_low         double precision NOT NULL,
    ok_high        double precision NOT NULL CHECK (ok_high >= ok_low),
    watch_low      double precision NOT NULL CHECK (watch_low <= ok_low),
    watch_high     double precision NOT NULL CHECK (watch_high >= ok_high),
    reason         text NOT NULL CHECK (reason <> '' AND length(reason) <= 500),
    created_by     uuid,
    created_at     timestamptz NOT NULL,
    withdrawn_at   timestamptz,
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE
);
CREATE UNIQUE INDEX player_exceptions_one ON player_exceptions (player_id, checkpoint_key) WHERE withdrawn_at IS NULL;

-- A coach's word that a stage is passed, with his reason.
CREATE TABLE gate_overrides (
    id           uuid PRIMARY KEY,
    club_id      uuid NOT NULL,
    season_id    uuid NOT NULL,
    player_id    uuid NOT NULL,
    ladder_key   text NOT NULL,
    stage_key    text NOT NULL,
    on_date      date NOT NULL,
    reason       text NOT NULL CHECK (reason <> '' AND length(reason) <= 500),
    created_by   uuid,
    created_at   timestamptz NOT NULL,
    withdrawn_at timestamptz,
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, season_id) REFERENCES seasons (club_id, id) ON DELETE CASCADE
);
CREATE UNIQUE INDEX gate_overrides_one ON gate_overrides (season_id, player_id, ladder_key, stage_key) WHERE withdrawn_at IS NULL;

-- A drill may train several techniques; this is the one its reps are marked as here.
ALTER TABLE placements ADD COLUMN technique_key text NOT NULL DEFAULT '';

-- What was measured at a rep: [{"checkpoint", "value", "verdict"}].
ALTER TABLE mark_events ADD COLUMN measures jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(measures) = 'array');
ALTER TABLE mark_slots ADD COLUMN measures jsonb NOT NULL DEFAULT '[]';
DROP VIEW marks;
CREATE VIEW marks AS
SELECT e.*,
       CASE WHEN e.play_id IS NULL THEN 'practice' ELSE 'game' END AS source,
       pe.practice_id,
       pl.drill_key,
       pe.start + pl.start AS at_minute
FROM mark_slots e
LEFT JOIN placements pl ON pl.id = e.placement_id
LEFT JOIN periods pe ON pe.id = pl.period_id
WHERE e.state <> 'withdrawn';

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION keep_slot() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
                            faults, measures, praise, note, side, standard, created_by, created_at, on_date, game_id)
    VALUES (NEW.id, NEW.seq, NEW.club_id, NEW.player_id, NEW.placement_id, NEW.rep, NEW.play_id, NEW.technique_key, NEW.state, NEW.assignment,
            NEW.technique, NEW.finish, NEW.faults, NEW.measures, NEW.praise, NEW.note, NEW.side, NEW.standard, NEW.created_by, NEW.created_at,
            coalesce((SELECT g.on_date FROM plays y JOIN games g ON g.id = y.game_id WHERE y.id = NEW.play_id),
                     (SELECT pr.on_date FROM placements pl JOIN periods pe ON pe.id = pl.period_id JOIN practices pr ON pr.id = pe.practice_id WHERE pl.id = NEW.placement_id)),
            (SELECT y.game_id FROM plays y WHERE y.id = NEW.play_id))
    ON CONFLICT (player_id, placement_id, rep, play_id) DO UPDATE SET
        id = excluded.id, seq = excluded.seq, technique_key = excluded.technique_key, state = excluded.state, assignment = excluded.assignment,
        technique = excluded.technique, finish = excluded.finish, faults = excluded.faults, measures = excluded.measures, praise = excluded.praise,
        note = excluded.note, side = excluded.side, standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at
    WHERE excluded.seq > mark_slots.seq;
    RETURN NULL;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE gate_overrides, player_exceptions, library_words, library_terms, house_versions, library_editions;
ALTER TABLE placements DROP COLUMN technique_key;
DROP INDEX mark_slots_technique, mark_slots_faults;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION keep_slot() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
                            faults, praise, note, side, standard, created_by, created_at, on_date, game_id)
    VALUES (NEW.id, NEW.seq, NEW.club_id, NEW.player_id, NEW.placement_id, NEW.rep, NEW.play_id, NEW.technique_key, NEW.state, NEW.assignment,
            NEW.technique, NEW.finish, NEW.faults, NEW.praise, NEW.note, NEW.side, NEW.standard, NEW.created_by, NEW.created_at,
            coalesce((SELECT g.on_date FROM plays y JOIN games g ON g.id = y.game_id WHERE y.id = NEW.play_id),
                     (SELECT pr.on_date FROM placements pl JOIN periods pe ON pe.id = pl.period_id JOIN practices pr ON pr.id = pe.practice_id WHERE pl.id = NEW.placement_id)),
            (SELECT y.game_id FROM plays y WHERE y.id = NEW.play_id))
    ON CONFLICT (player_id, placement_id, rep, play_id) DO UPDATE SET
        id = excluded.id, seq = excluded.seq, technique_key = excluded.technique_key, state = excluded.state, assignment = excluded.assignment,
        technique = excluded.technique, finish = excluded.finish, faults = excluded.faults, praise = excluded.praise, note = excluded.note,
        side = excluded.side, standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at
    WHERE excluded.seq > mark_slots.seq;
    RETURN NULL;
END $$;
-- +goose StatementEnd
DROP VIEW marks;
ALTER TABLE mark_events DROP COLUMN measures;
ALTER TABLE mark_slots DROP COLUMN measures;
-- The current marks with the place they belong to.
CREATE VIEW marks AS
SELECT e.*,
       CASE WHEN e.play_id IS NULL THEN 'practice' ELSE 'game' END AS source,
       pe.practice_id,
       pl.drill_key,
       pe.start + pl.start AS at_minute
FROM mark_slots e
LEFT JOIN placements pl ON pl.id = e.placement_id
LEFT JOIN periods pe ON pe.id = pl.period_id
WHERE e.state <> 'withdrawn';
