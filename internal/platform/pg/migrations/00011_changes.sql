-- +goose Up
-- Whatever is changed is appended to changes, in the transaction that changes it: by whom, on
-- which device, when, and what was answered, so that the same change sent again is answered
-- again. Its number counts the changes of the club without a gap, in the order in which they
-- were kept: the row of club_clocks is held until then.
CREATE TABLE club_clocks (
    club_id uuid PRIMARY KEY REFERENCES clubs (id) ON DELETE CASCADE,
    last    bigint NOT NULL
);
CREATE TABLE changes (
    club_id   uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    number    bigint NOT NULL,
    id        uuid NOT NULL, -- made by the client
    person    uuid NOT NULL,
    device    uuid,
    operation text COLLATE "C" NOT NULL, -- of the contract
    record    text COLLATE "C" NOT NULL, -- the address that was changed
    version   int,                       -- of the record, on which it was made
    digest    bytea NOT NULL,            -- of what was sent
    made_at   timestamptz NOT NULL,      -- by the person, by the server's clock
    at        timestamptz NOT NULL,      -- taken in
    status    int NOT NULL,
    answer    jsonb,                     -- dropped after a while
    PRIMARY KEY (club_id, id)
);
CREATE UNIQUE INDEX changes_number ON changes (club_id, number);
CREATE INDEX changes_answers ON changes (club_id, at) WHERE answer IS NOT NULL;
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['club_clocks', 'changes'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_club ON %I TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()))', t);
    END LOOP;
END $$;
-- +goose StatementEnd
REVOKE DELETE ON club_clocks, changes FROM nineyard_app;

-- When a coach made a mark, on which device, and which mark he saw standing there: of two
-- marks of one slot that one holds which was made on the other, else the later one (core/change).
ALTER TABLE mark_events ADD COLUMN made_at timestamptz, ADD COLUMN device uuid, ADD COLUMN on_mark uuid;
ALTER TABLE mark_slots ADD COLUMN made_at timestamptz;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION keep_slot() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
                            faults, measures, praise, note, side, standard, created_by, created_at, on_date, game_id, made_at)
    VALUES (NEW.id, NEW.seq, NEW.club_id, NEW.player_id, NEW.placement_id, NEW.rep, NEW.play_id, NEW.technique_key, NEW.state, NEW.assignment,
            NEW.technique, NEW.finish, NEW.faults, NEW.measures, NEW.praise, NEW.note, NEW.side, NEW.standard, NEW.created_by, NEW.created_at,
            coalesce((SELECT g.on_date FROM plays y JOIN games g ON g.id = y.game_id WHERE y.id = NEW.play_id),
                     (SELECT pr.on_date FROM placements pl JOIN periods pe ON pe.id = pl.period_id JOIN practices pr ON pr.id = pe.practice_id WHERE pl.id = NEW.placement_id)),
            (SELECT y.game_id FROM plays y WHERE y.id = NEW.play_id), NEW.made_at)
    ON CONFLICT (player_id, placement_id, rep, play_id) DO UPDATE SET
        id = excluded.id, seq = excluded.seq, technique_key = excluded.technique_key, state = excluded.state, assignment = excluded.assignment,
        technique = excluded.technique, finish = excluded.finish, faults = excluded.faults, measures = excluded.measures, praise = excluded.praise,
        note = excluded.note, side = excluded.side, standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at, made_at = excluded.made_at
    WHERE NEW.on_mark = mark_slots.id
       OR (coalesce(excluded.made_at, excluded.created_at), excluded.seq) > (coalesce(mark_slots.made_at, mark_slots.created_at), mark_slots.seq);
    RETURN NULL;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION merge_players(gone uuid, kept uuid) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE
    moved bigint;
    club uuid := (SELECT p.club_id FROM players p WHERE p.id = kept);
BEGIN
    PERFORM set_config('nineyard.merging', 'on', true);
    UPDATE mark_events SET player_id = kept WHERE club_id = club AND player_id = gone;
    GET DIAGNOSTICS moved = ROW_COUNT;
    UPDATE mark_events m SET faults = (
        SELECT coalesce(jsonb_agg(CASE
            WHEN f ->> 'caused_by' IN (gone::text, kept::text) AND m.player_id = kept THEN f - 'caused_by'
            WHEN f ->> 'caused_by' = gone::text THEN jsonb_set(f, '{caused_by}', to_jsonb(kept::text))
            ELSE f END ORDER BY n), '[]')
        FROM jsonb_array_elements(m.faults) WITH ORDINALITY AS x (f, n))
    WHERE m.club_id = club AND m.faults <> '[]' AND (m.faults::text LIKE '%' || gone || '%' OR m.player_id = kept AND m.faults::text LIKE '%' || kept || '%');
    PERFORM set_config('nineyard.merging', 'off', true);

    DELETE FROM mark_slots WHERE club_id = club AND player_id IN (gone, kept);
    INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
                            faults, measures, praise, note, side, standard, created_by, created_at, on_date, game_id, made_at)
    SELECT DISTINCT ON (e.placement_id, e.rep, e.play_id)
           e.id, e.seq, e.club_id, e.player_id, e.placement_id, e.rep, e.play_id, e.technique_key, e.state, e.assignment, e.technique, e.finish,
           e.faults, e.measures, e.praise, e.note, e.side, e.standard, e.created_by, e.created_at, coalesce(g.on_date, pr.on_date), y.game_id, e.made_at
    FROM mark_events e
    LEFT JOIN plays y ON y.id = e.play_id LEFT JOIN games g ON g.id = y.game_id
    LEFT JOIN placements pl ON pl.id = e.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
    WHERE e.club_id = club AND e.player_id = kept
    ORDER BY e.placement_id, e.rep, e.play_id, coalesce(e.made_at, e.created_at) DESC, e.seq DESC;
    UPDATE mark_slots m SET faults = e.faults FROM mark_events e
    WHERE m.club_id = club AND e.id = m.id AND m.faults <> '[]' AND m.faults IS DISTINCT FROM e.faults;

    INSERT INTO player_groups (club_id, player_id, group_key)
    SELECT club_id, kept, group_key FROM player_groups WHERE player_id = gone ON CONFLICT DO NOTHING;
    DELETE FROM player_groups WHERE player_id = gone;
    UPDATE availability_spells SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE player_exceptions x SET withdrawn_at = coalesce(x.withdrawn_at, now())
    WHERE x.player_id = gone AND EXISTS (SELECT 1 FROM player_exceptions k WHERE k.player_id = kept AND k.checkpoint_key = x.checkpoint_key AND k.withdrawn_at IS NULL);
    UPDATE player_exceptions SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE gate_overrides o SET withdrawn_at = coalesce(o.withdrawn_at, now())
    WHERE o.player_id = gone AND EXISTS (SELECT 1 FROM gate_overrides k WHERE k.player_id = kept AND k.season_id = o.season_id
                                         AND k.ladder_key = o.ladder_key AND k.stage_key = o.stage_key AND k.withdrawn_at IS NULL);
    UPDATE gate_overrides SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE players SET merged_into = kept, archived_at = coalesce(archived_at, now()), version = version + 1, updated_at = now() WHERE club_id = club AND id = gone;
    RETURN moved;
END $$;
-- +goose StatementEnd

DROP FUNCTION coach_of(uuid);
CREATE FUNCTION coach_of(person uuid) RETURNS TABLE (
    id uuid, club_id uuid, name text, role text, club_name text, timezone text,
    season_id uuid, season_start date, season_weeks int, library_version int, own text[], groups jsonb, clock bigint
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT u.id, u.club_id, u.name, u.role, c.name, c.timezone, se.id, se.starts_on, se.weeks,
           coalesce((SELECT max(h.version) FROM house_versions h WHERE h.club_id = u.club_id), 0),
           coalesce((SELECT array_agg(g.group_key ORDER BY g.group_key) FROM user_groups g WHERE g.user_id = u.id), '{}'),
           coalesce((SELECT jsonb_agg(jsonb_build_object('Key', p.key, 'Name', p.name, 'Short', p.short, 'Side', p.side, 'Positions', p.positions) ORDER BY p.sort, p.key)
                     FROM position_groups p WHERE p.club_id = u.club_id), '[]'),
           coalesce((SELECT k.last FROM club_clocks k WHERE k.club_id = u.club_id), 0)
    FROM users u
    JOIN clubs c ON c.id = u.club_id
    JOIN LATERAL (SELECT s.* FROM seasons s WHERE s.club_id = c.id ORDER BY s.starts_on DESC LIMIT 1) se ON true
    WHERE u.id = person $$;
REVOKE ALL ON FUNCTION coach_of(uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION coach_of(uuid) TO nineyard_app;

-- +goose Down
DROP FUNCTION coach_of(uuid);
CREATE FUNCTION coach_of(person uuid) RETURNS TABLE (
    id uuid, club_id uuid, name text, role text, club_name text, timezone text,
    season_id uuid, season_start date, season_weeks int, library_version int, own text[], groups jsonb
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT u.id, u.club_id, u.name, u.role, c.name, c.timezone, se.id, se.starts_on, se.weeks,
           coalesce((SELECT max(h.version) FROM house_versions h WHERE h.club_id = u.club_id), 0),
           coalesce((SELECT array_agg(g.group_key ORDER BY g.group_key) FROM user_groups g WHERE g.user_id = u.id), '{}'),
           coalesce((SELECT jsonb_agg(jsonb_build_object('Key', p.key, 'Name', p.name, 'Short', p.short, 'Side', p.side, 'Positions', p.positions) ORDER BY p.sort, p.key)
                     FROM position_groups p WHERE p.club_id = u.club_id), '[]')
    FROM users u
    JOIN clubs c ON c.id = u.club_id
    JOIN LATERAL (SELECT s.* FROM seasons s WHERE s.club_id = c.id ORDER BY s.starts_on DESC LIMIT 1) se ON true
    WHERE u.id = person $$;
REVOKE ALL ON FUNCTION coach_of(uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION coach_of(uuid) TO nineyard_app;
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
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION merge_players(gone uuid, kept uuid) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE
    moved bigint;
    club uuid := (SELECT p.club_id FROM players p WHERE p.id = kept);
BEGIN
    PERFORM set_config('nineyard.merging', 'on', true);
    UPDATE mark_events SET player_id = kept WHERE club_id = club AND player_id = gone;
    GET DIAGNOSTICS moved = ROW_COUNT;
    UPDATE mark_events m SET faults = (
        SELECT coalesce(jsonb_agg(CASE
            WHEN f ->> 'caused_by' IN (gone::text, kept::text) AND m.player_id = kept THEN f - 'caused_by'
            WHEN f ->> 'caused_by' = gone::text THEN jsonb_set(f, '{caused_by}', to_jsonb(kept::text))
            ELSE f END ORDER BY n), '[]')
        FROM jsonb_array_elements(m.faults) WITH ORDINALITY AS x (f, n))
    WHERE m.club_id = club AND m.faults <> '[]' AND (m.faults::text LIKE '%' || gone || '%' OR m.player_id = kept AND m.faults::text LIKE '%' || kept || '%');
    PERFORM set_config('nineyard.merging', 'off', true);

    DELETE FROM mark_slots WHERE club_id = club AND player_id IN (gone, kept);
    INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish,
                            faults, measures, praise, note, side, standard, created_by, created_at, on_date, game_id)
    SELECT DISTINCT ON (e.placement_id, e.rep, e.play_id)
           e.id, e.seq, e.club_id, e.player_id, e.placement_id, e.rep, e.play_id, e.technique_key, e.state, e.assignment, e.technique, e.finish,
           e.faults, e.measures, e.praise, e.note, e.side, e.standard, e.created_by, e.created_at, coalesce(g.on_date, pr.on_date), y.game_id
    FROM mark_events e
    LEFT JOIN plays y ON y.id = e.play_id LEFT JOIN games g ON g.id = y.game_id
    LEFT JOIN placements pl ON pl.id = e.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
    WHERE e.club_id = club AND e.player_id = kept
    ORDER BY e.placement_id, e.rep, e.play_id, e.seq DESC;
    UPDATE mark_slots m SET faults = e.faults FROM mark_events e
    WHERE m.club_id = club AND e.id = m.id AND m.faults <> '[]' AND m.faults IS DISTINCT FROM e.faults;

    INSERT INTO player_groups (club_id, player_id, group_key)
    SELECT club_id, kept, group_key FROM player_groups WHERE player_id = gone ON CONFLICT DO NOTHING;
    DELETE FROM player_groups WHERE player_id = gone;
    UPDATE availability_spells SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE player_exceptions x SET withdrawn_at = coalesce(x.withdrawn_at, now())
    WHERE x.player_id = gone AND EXISTS (SELECT 1 FROM player_exceptions k WHERE k.player_id = kept AND k.checkpoint_key = x.checkpoint_key AND k.withdrawn_at IS NULL);
    UPDATE player_exceptions SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE gate_overrides o SET withdrawn_at = coalesce(o.withdrawn_at, now())
    WHERE o.player_id = gone AND EXISTS (SELECT 1 FROM gate_overrides k WHERE k.player_id = kept AND k.season_id = o.season_id
                                         AND k.ladder_key = o.ladder_key AND k.stage_key = o.stage_key AND k.withdrawn_at IS NULL);
    UPDATE gate_overrides SET player_id = kept WHERE club_id = club AND player_id = gone;
    UPDATE players SET merged_into = kept, archived_at = coalesce(archived_at, now()), version = version + 1, updated_at = now() WHERE club_id = club AND id = gone;
    RETURN moved;
END $$;
-- +goose StatementEnd
ALTER TABLE mark_slots DROP COLUMN made_at;
ALTER TABLE mark_events DROP COLUMN on_mark, DROP COLUMN device, DROP COLUMN made_at;
DROP TABLE changes, club_clocks;
