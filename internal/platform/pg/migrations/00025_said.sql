-- +goose NO TRANSACTION
-- +goose Up
-- What a mark says besides: the result of the player's own duel, what is tallied apart, and the coach
-- who is asked about what is open. The columns are new and empty, so adding them touches no row, and
-- a rule that every row meets already is looked at without holding up whoever marks.
ALTER TABLE mark_events ADD COLUMN IF NOT EXISTS result smallint, ADD COLUMN IF NOT EXISTS tallies text[] NOT NULL DEFAULT '{}', ADD COLUMN IF NOT EXISTS asked uuid;
ALTER TABLE mark_slots ADD COLUMN IF NOT EXISTS result smallint, ADD COLUMN IF NOT EXISTS tallies text[] NOT NULL DEFAULT '{}', ADD COLUMN IF NOT EXISTS asked uuid;
ALTER TABLE mark_events DROP CONSTRAINT IF EXISTS mark_events_result, DROP CONSTRAINT IF EXISTS mark_events_tallies, DROP CONSTRAINT IF EXISTS mark_events_asked;
ALTER TABLE mark_events ADD CONSTRAINT mark_events_result CHECK (result IN (0, 1)) NOT VALID,
    ADD CONSTRAINT mark_events_tallies CHECK (cardinality(tallies) <= 3) NOT VALID,
    ADD CONSTRAINT mark_events_asked CHECK (asked IS NULL OR state = 'unsettled') NOT VALID;
ALTER TABLE mark_events VALIDATE CONSTRAINT mark_events_result;
ALTER TABLE mark_events VALIDATE CONSTRAINT mark_events_tallies;
ALTER TABLE mark_events VALIDATE CONSTRAINT mark_events_asked;

-- The open questions that a coach is asked, kept beside the slots by a trigger: his Today reads these
-- few rows and not a season of marks.
CREATE TABLE IF NOT EXISTS mark_questions (
    club_id       uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    asked         uuid NOT NULL,
    place_id      uuid NOT NULL,
    player_id     uuid NOT NULL,
    nth           int NOT NULL,
    technique_key text COLLATE "C" NOT NULL,
    grader        uuid NOT NULL,
    year          smallint NOT NULL,
    PRIMARY KEY (club_id, asked, place_id, player_id, nth, technique_key, grader)
);
ALTER TABLE mark_questions ENABLE ROW LEVEL SECURITY;
DROP POLICY IF EXISTS own_club ON mark_questions;
CREATE POLICY own_club ON mark_questions TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION keep_questions() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP <> 'INSERT' THEN
        DELETE FROM mark_questions q WHERE q.club_id = OLD.club_id AND q.asked = OLD.asked AND q.place_id = OLD.place_id AND q.player_id = OLD.player_id
            AND q.nth = OLD.nth AND q.technique_key = OLD.technique_key AND q.grader = OLD.grader;
    END IF;
    IF TG_OP <> 'DELETE' THEN
        INSERT INTO mark_questions SELECT NEW.club_id, NEW.asked, NEW.place_id, NEW.player_id, NEW.nth, NEW.technique_key, NEW.grader, NEW.year
        WHERE NEW.stands AND NEW.asked IS NOT NULL ON CONFLICT DO NOTHING;
    END IF;
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE OR REPLACE TRIGGER mark_slots_question AFTER INSERT ON mark_slots FOR EACH ROW WHEN (NEW.asked IS NOT NULL) EXECUTE FUNCTION keep_questions();
CREATE OR REPLACE TRIGGER mark_slots_question_changed AFTER UPDATE ON mark_slots FOR EACH ROW WHEN (NEW.asked IS NOT NULL OR OLD.asked IS NOT NULL) EXECUTE FUNCTION keep_questions();
CREATE OR REPLACE TRIGGER mark_slots_question_gone AFTER DELETE ON mark_slots FOR EACH ROW WHEN (OLD.asked IS NOT NULL) EXECUTE FUNCTION keep_questions();

-- As in migration 12, with the new columns.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION take_marks(added mark_events[]) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
    rounds int;
    settled CONSTANT uuid := '00000000-0000-0000-0000-000000000000';
BEGIN
    SELECT max(n) INTO rounds FROM (SELECT count(*) AS n FROM unnest(added) GROUP BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader) x;
    FOR turn IN 1..coalesce(rounds, 0) LOOP
        INSERT INTO mark_slots (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, stands, state, assignment, technique, finish, verdict, scheme,
                                measures, praise, note, side, standard, created_by, created_at, made_at, on_date, game_id, result, tallies, asked)
        SELECT a.club_id, a.id, a.year, a.seq, a.player_id, a.placement_id, a.rep, a.play_id, a.technique_key, a.grader, a.state <> 'withdrawn', a.state, a.assignment, a.technique, a.finish, a.verdict, a.scheme,
               a.measures, a.praise, a.note, a.side, a.standard, a.created_by, a.created_at, a.made_at, coalesce(g.on_date, pr.on_date), y.game_id, a.result, a.tallies, a.asked
        FROM (SELECT x.*, row_number() OVER (PARTITION BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader ORDER BY seq) AS round FROM unnest(added) x) a
        LEFT JOIN plays y ON y.id = a.play_id LEFT JOIN games g ON g.id = y.game_id
        LEFT JOIN placements pl ON pl.id = a.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
        WHERE a.round = turn
        ORDER BY 1, a.player_id, a.seq
        ON CONFLICT (club_id, place_id, player_id, nth, technique_key, grader, year) DO UPDATE SET
            id = excluded.id, seq = excluded.seq, stands = excluded.stands, state = excluded.state, assignment = excluded.assignment, technique = excluded.technique, finish = excluded.finish,
            verdict = excluded.verdict, scheme = excluded.scheme, measures = excluded.measures, praise = excluded.praise, note = excluded.note, side = excluded.side,
            standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at, made_at = excluded.made_at,
            result = excluded.result, tallies = excluded.tallies, asked = excluded.asked
        WHERE mark_holds((SELECT x.on_mark FROM unnest(added) x WHERE x.id = excluded.id), coalesce(excluded.made_at, excluded.created_at), excluded.seq,
                         mark_slots.id, coalesce(mark_slots.made_at, mark_slots.created_at), mark_slots.seq);
    END LOOP;
    UPDATE mark_slots m SET stands = x.best
    FROM (SELECT s.club_id, s.year, s.place_id, s.player_id, s.nth, s.technique_key, s.grader, s.state <> 'withdrawn' AND row_number() OVER (
                     PARTITION BY s.club_id, s.place_id, s.player_id, s.nth, s.technique_key
                     ORDER BY s.state = 'withdrawn', s.grader <> settled, coalesce(s.made_at, s.created_at) DESC, s.seq DESC) = 1 AS best
          FROM mark_slots s
          WHERE (s.club_id, s.place_id, s.player_id, s.nth, s.technique_key) IN
                (SELECT DISTINCT a.club_id, coalesce(a.placement_id, a.play_id), a.player_id, coalesce(a.rep, 0), a.technique_key FROM unnest(added) a)) x
    WHERE m.club_id = x.club_id AND m.year = x.year AND m.place_id = x.place_id AND m.player_id = x.player_id AND m.nth = x.nth AND m.technique_key = x.technique_key AND m.grader = x.grader
      AND m.stands <> x.best;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TRIGGER mark_slots_question ON mark_slots;
DROP TRIGGER mark_slots_question_changed ON mark_slots;
DROP TRIGGER mark_slots_question_gone ON mark_slots;
DROP FUNCTION keep_questions();
DROP TABLE mark_questions;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION take_marks(added mark_events[]) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
    rounds int;
    settled CONSTANT uuid := '00000000-0000-0000-0000-000000000000';
BEGIN
    SELECT max(n) INTO rounds FROM (SELECT count(*) AS n FROM unnest(added) GROUP BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader) x;
    FOR turn IN 1..coalesce(rounds, 0) LOOP
        INSERT INTO mark_slots (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, stands, state, assignment, technique, finish, verdict, scheme,
                                measures, praise, note, side, standard, created_by, created_at, made_at, on_date, game_id)
        SELECT a.club_id, a.id, a.year, a.seq, a.player_id, a.placement_id, a.rep, a.play_id, a.technique_key, a.grader, a.state <> 'withdrawn', a.state, a.assignment, a.technique, a.finish, a.verdict, a.scheme,
               a.measures, a.praise, a.note, a.side, a.standard, a.created_by, a.created_at, a.made_at, coalesce(g.on_date, pr.on_date), y.game_id
        FROM (SELECT x.*, row_number() OVER (PARTITION BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader ORDER BY seq) AS round FROM unnest(added) x) a
        LEFT JOIN plays y ON y.id = a.play_id LEFT JOIN games g ON g.id = y.game_id
        LEFT JOIN placements pl ON pl.id = a.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
        WHERE a.round = turn
        ORDER BY 1, a.player_id, a.seq
        ON CONFLICT (club_id, place_id, player_id, nth, technique_key, grader, year) DO UPDATE SET
            id = excluded.id, seq = excluded.seq, stands = excluded.stands, state = excluded.state, assignment = excluded.assignment, technique = excluded.technique, finish = excluded.finish,
            verdict = excluded.verdict, scheme = excluded.scheme, measures = excluded.measures, praise = excluded.praise, note = excluded.note, side = excluded.side,
            standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at, made_at = excluded.made_at
        WHERE mark_holds((SELECT x.on_mark FROM unnest(added) x WHERE x.id = excluded.id), coalesce(excluded.made_at, excluded.created_at), excluded.seq,
                         mark_slots.id, coalesce(mark_slots.made_at, mark_slots.created_at), mark_slots.seq);
    END LOOP;
    UPDATE mark_slots m SET stands = x.best
    FROM (SELECT s.club_id, s.year, s.place_id, s.player_id, s.nth, s.technique_key, s.grader, s.state <> 'withdrawn' AND row_number() OVER (
                     PARTITION BY s.club_id, s.place_id, s.player_id, s.nth, s.technique_key
                     ORDER BY s.state = 'withdrawn', s.grader <> settled, coalesce(s.made_at, s.created_at) DESC, s.seq DESC) = 1 AS best
          FROM mark_slots s
          WHERE (s.club_id, s.place_id, s.player_id, s.nth, s.technique_key) IN
                (SELECT DISTINCT a.club_id, coalesce(a.placement_id, a.play_id), a.player_id, coalesce(a.rep, 0), a.technique_key FROM unnest(added) a)) x
    WHERE m.club_id = x.club_id AND m.year = x.year AND m.place_id = x.place_id AND m.player_id = x.player_id AND m.nth = x.nth AND m.technique_key = x.technique_key AND m.grader = x.grader
      AND m.stands <> x.best;
END $$;
-- +goose StatementEnd
ALTER TABLE mark_events DROP COLUMN result, DROP COLUMN tallies, DROP COLUMN asked;
ALTER TABLE mark_slots DROP COLUMN result, DROP COLUMN tallies, DROP COLUMN asked;
