-- +goose Up
-- For how long a club keeps what is about people; NULL: as long as it is there.
ALTER TABLE clubs
    ADD COLUMN keep_archived_months int CONSTRAINT clubs_keep_archived CHECK (keep_archived_months BETWEEN 1 AND 240),
    ADD COLUMN keep_spells_months int CONSTRAINT clubs_keep_spells CHECK (keep_spells_months BETWEEN 1 AND 240),
    ADD COLUMN keep_changes_months int CONSTRAINT clubs_keep_changes CHECK (keep_changes_months BETWEEN 3 AND 240);
CREATE INDEX changes_at ON changes (club_id, at);

-- Takes everything away by which a player of the club of the transaction is known: with keep his marks stay, of nobody
-- who has a name; without it they go, and the sums with them. It runs as the owner, because marks are append only.
-- +goose StatementBegin
CREATE FUNCTION erase_player(who uuid, keep boolean) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    club uuid := current_club();
    them uuid[];
BEGIN
    -- Entries that were merged into his are his, too.
    WITH RECURSIVE his AS (
        SELECT p.id FROM players p WHERE p.club_id = club AND p.id = who
        UNION SELECT p.id FROM players p JOIN his h ON p.merged_into = h.id WHERE p.club_id = club)
    SELECT array_agg(id) INTO them FROM his;
    IF them IS NULL THEN
        RETURN false;
    END IF;
    PERFORM set_config('nineyard.correcting', 'on', true);
    IF keep THEN
        UPDATE mark_events SET note = '' WHERE club_id = club AND player_id = ANY (them) AND note <> '';
        UPDATE mark_slots SET note = '' WHERE club_id = club AND player_id = ANY (them) AND note <> '';
    ELSE
        DELETE FROM mark_slots WHERE club_id = club AND player_id = ANY (them);
        DELETE FROM mark_faults f USING mark_events e WHERE f.club_id = club AND e.club_id = club AND e.id = f.mark_id AND e.year = f.year AND e.player_id = ANY (them);
        DELETE FROM mark_events WHERE club_id = club AND player_id = ANY (them);
        DELETE FROM mark_days WHERE club_id = club AND player_id = ANY (them);
        DELETE FROM mark_fault_days WHERE club_id = club AND player_id = ANY (them);
        DELETE FROM mark_runs WHERE club_id = club AND player_id = ANY (them);
    END IF;
    PERFORM set_config('nineyard.correcting', 'off', true);
    DELETE FROM availability_spells WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM player_exceptions WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM gate_overrides WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM feedbacks WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM clips WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM player_groups WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM roster_proposals WHERE club_id = club AND player_id = ANY (them);
    DELETE FROM roster_uploads WHERE club_id = club; -- lists with his name
    UPDATE changes SET answer = NULL WHERE club_id = club AND answer IS NOT NULL
        AND (operation IN ('importRoster', 'putPlayer', 'mergePlayers', 'importBundle') OR EXISTS (SELECT FROM unnest(them) t WHERE record LIKE '%' || t || '%' OR answer::text LIKE '%' || t || '%'));
    UPDATE line_ups l SET spots = coalesce((
        SELECT jsonb_agg(CASE WHEN s ? 'players' THEN jsonb_set(s, '{players}', coalesce((SELECT jsonb_agg(p) FROM jsonb_array_elements(s -> 'players') p WHERE NOT (p ->> 'player' = ANY (SELECT t::text FROM unnest(them) t))), '[]')) ELSE s END)
        FROM jsonb_array_elements(l.spots) s), '[]')
    WHERE l.club_id = club AND EXISTS (SELECT FROM unnest(them) t WHERE l.spots::text LIKE '%' || t || '%');
    IF keep THEN
        UPDATE players SET first_name = '', last_name = 'Erased', jersey = '', position = '', height_in = NULL, weight_lb = NULL, returner = false,
               archived_at = coalesce(archived_at, now()), version = version + 1, updated_at = now()
        WHERE club_id = club AND id = ANY (them);
    ELSE
        UPDATE players SET merged_into = NULL WHERE club_id = club AND merged_into = ANY (them);
        DELETE FROM players WHERE club_id = club AND id = ANY (them);
    END IF;
    RETURN true;
END $$;

-- Lets go of what the club does not want to keep any longer.
CREATE FUNCTION retain_club(at timestamptz) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    club uuid := current_club();
    c clubs%ROWTYPE;
BEGIN
    SELECT * INTO c FROM clubs WHERE id = club;
    IF c.keep_archived_months IS NOT NULL THEN
        PERFORM erase_player(p.id, true) FROM players p
        WHERE p.club_id = club AND p.merged_into IS NULL AND p.archived_at < at - make_interval(months => c.keep_archived_months) AND p.last_name <> 'Erased';
    END IF;
    IF c.keep_spells_months IS NOT NULL THEN
        DELETE FROM availability_spells WHERE club_id = club AND coalesce(cleared_on, to_on, withdrawn_at::date) < (at - make_interval(months => c.keep_spells_months))::date;
    END IF;
    IF c.keep_changes_months IS NOT NULL THEN
        DELETE FROM changes x WHERE x.club_id = club AND x.at < retain_club.at - make_interval(months => c.keep_changes_months);
    END IF;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION erase_player(uuid, boolean), retain_club(timestamptz) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION erase_player(uuid, boolean), retain_club(timestamptz) TO nineyard_app;

-- +goose Down
DROP FUNCTION retain_club(timestamptz);
DROP FUNCTION erase_player(uuid, boolean);
DROP INDEX changes_at;
ALTER TABLE clubs DROP COLUMN keep_archived_months, DROP COLUMN keep_spells_months, DROP COLUMN keep_changes_months;
