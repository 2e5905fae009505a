-- +goose Up
-- What a player may take part in, by day. players.status and status_note are read by nobody
-- from here on; a later migration drops them.
CREATE TABLE availability_spells (
    id           uuid PRIMARY KEY, -- made by the client
    club_id      uuid NOT NULL,
    player_id    uuid NOT NULL,
    status       text NOT NULL CONSTRAINT availability_spells_status CHECK (status IN ('limited', 'out', 'head_hold')),
    from_on      date NOT NULL,
    to_on        date,
    reason       text NOT NULL CONSTRAINT availability_spells_reason CHECK (reason <> '' AND length(reason) <= 200),
    cleared_by   text CONSTRAINT availability_spells_cleared_by CHECK (length(cleared_by) BETWEEN 3 AND 120),
    cleared_on   date,
    recorded_by  uuid, -- who wrote the clearance down
    version      int NOT NULL DEFAULT 1,
    created_by   uuid,
    created_at   timestamptz NOT NULL DEFAULT now(),
    withdrawn_at timestamptz,
    CONSTRAINT availability_spells_days CHECK (to_on >= from_on),
    CONSTRAINT availability_spells_hold CHECK (status <> 'head_hold' OR to_on IS NULL AND withdrawn_at IS NULL),
    CONSTRAINT availability_spells_clearance CHECK ((cleared_by IS NULL) = (cleared_on IS NULL) AND (cleared_by IS NULL OR status = 'head_hold' AND cleared_on >= from_on)),
    CONSTRAINT availability_spells_player FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE
);
CREATE INDEX availability_spells_of ON availability_spells (club_id, player_id, from_on) WHERE withdrawn_at IS NULL;

INSERT INTO availability_spells (id, club_id, player_id, status, from_on, reason)
SELECT gen_random_uuid(), club_id, id, CASE status WHEN 'medical_hold' THEN 'head_hold' ELSE status END, updated_at::date,
       left(coalesce(nullif(status_note, ''), 'Noted before availability was kept by day'), 200)
FROM players WHERE status <> 'available';

ALTER TABLE players
    ADD COLUMN archived_at timestamptz,
    ADD COLUMN merged_into uuid,
    ADD CONSTRAINT players_merged_into FOREIGN KEY (club_id, merged_into) REFERENCES players (club_id, id);

-- Marks are never changed but in one case: two entries of one player become one.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF current_setting('nineyard.merging', true) = 'on'
       AND to_jsonb(NEW) - 'player_id' - 'faults' = to_jsonb(OLD) - 'player_id' - 'faults' THEN
        RETURN NEW;
    END IF;
    RAISE EXCEPTION 'marks are append only: write a new event instead';
END $$;

-- merge_players gives everything of one player to another of the club: groups, marks,
-- availability, own ranges and overrides. Where both have a mark of one slot the newer one
-- stands. A fault that the one caused for the other is his own from here on. It returns how
-- many marks moved.
CREATE FUNCTION merge_players(gone uuid, kept uuid) RETURNS bigint LANGUAGE plpgsql AS $$
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

-- +goose Down
DROP FUNCTION merge_players(uuid, uuid);
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'marks are append only: write a new event instead';
END $$;
-- +goose StatementEnd
ALTER TABLE players DROP CONSTRAINT players_merged_into, DROP COLUMN merged_into, DROP COLUMN archived_at;
-- Who may not take part today still may not: a hold is never lost by going back.
UPDATE players SET status = 'available', status_note = '' WHERE status <> 'available';
UPDATE players p SET status = CASE s.status WHEN 'head_hold' THEN 'medical_hold' ELSE s.status END, status_note = s.reason
FROM (SELECT DISTINCT ON (club_id, player_id) club_id, player_id, status, reason FROM availability_spells
      WHERE withdrawn_at IS NULL AND cleared_on IS NULL AND from_on <= current_date AND (to_on IS NULL OR to_on >= current_date)
      ORDER BY club_id, player_id, array_position(ARRAY['head_hold', 'out', 'limited'], status)) s
WHERE p.club_id = s.club_id AND p.id = s.player_id;
DROP TABLE availability_spells;
