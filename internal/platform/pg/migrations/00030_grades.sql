-- +goose NO TRANSACTION
-- +goose Up
-- A rep may have one grade, plus or minus or points, with the scale it was given on; and a mark says by which
-- group's way of judging it was judged. The columns are new and empty, so adding them touches no row.
ALTER TABLE mark_events ADD COLUMN IF NOT EXISTS grade smallint, ADD COLUMN IF NOT EXISTS grade_of smallint, ADD COLUMN IF NOT EXISTS grade_clean smallint, ADD COLUMN IF NOT EXISTS group_key text COLLATE "C";
ALTER TABLE mark_slots ADD COLUMN IF NOT EXISTS grade smallint, ADD COLUMN IF NOT EXISTS grade_of smallint, ADD COLUMN IF NOT EXISTS grade_clean smallint, ADD COLUMN IF NOT EXISTS group_key text COLLATE "C";
ALTER TABLE mark_events DROP CONSTRAINT IF EXISTS mark_events_grade;
ALTER TABLE mark_events ADD CONSTRAINT mark_events_grade CHECK (grade IS NULL AND grade_of IS NULL AND grade_clean IS NULL OR grade BETWEEN 0 AND grade_of AND grade_clean BETWEEN 1 AND grade_of AND grade_of <= 10) NOT VALID;
ALTER TABLE mark_events VALIDATE CONSTRAINT mark_events_grade;

-- As in migration 25, with the new columns.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION take_marks(added mark_events[]) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
    rounds int;
    settled CONSTANT uuid := '00000000-0000-0000-0000-000000000000';
BEGIN
    SELECT max(n) INTO rounds FROM (SELECT count(*) AS n FROM unnest(added) GROUP BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader) x;
    FOR turn IN 1..coalesce(rounds, 0) LOOP
        INSERT INTO mark_slots (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, stands, state, assignment, technique, finish, verdict, scheme,
                                measures, praise, note, side, standard, created_by, created_at, made_at, on_date, game_id, result, tallies, asked, grade, grade_of, grade_clean, group_key)
        SELECT a.club_id, a.id, a.year, a.seq, a.player_id, a.placement_id, a.rep, a.play_id, a.technique_key, a.grader, a.state <> 'withdrawn', a.state, a.assignment, a.technique, a.finish, a.verdict, a.scheme,
               a.measures, a.praise, a.note, a.side, a.standard, a.created_by, a.created_at, a.made_at, coalesce(g.on_date, pr.on_date), y.game_id, a.result, a.tallies, a.asked, a.grade, a.grade_of, a.grade_clean, a.group_key
        FROM (SELECT x.*, row_number() OVER (PARTITION BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader ORDER BY seq) AS round FROM unnest(added) x) a
        LEFT JOIN plays y ON y.id = a.play_id LEFT JOIN games g ON g.id = y.game_id
        LEFT JOIN placements pl ON pl.id = a.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
        WHERE a.round = turn
        ORDER BY 1, a.player_id, a.seq
        ON CONFLICT (club_id, place_id, player_id, nth, technique_key, grader, year) DO UPDATE SET
            id = excluded.id, seq = excluded.seq, stands = excluded.stands, state = excluded.state, assignment = excluded.assignment, technique = excluded.technique, finish = excluded.finish,
            verdict = excluded.verdict, scheme = excluded.scheme, measures = excluded.measures, praise = excluded.praise, note = excluded.note, side = excluded.side,
            standard = excluded.standard, created_by = excluded.created_by, created_at = excluded.created_at, made_at = excluded.made_at,
            result = excluded.result, tallies = excluded.tallies, asked = excluded.asked,
            grade = excluded.grade, grade_of = excluded.grade_of, grade_clean = excluded.grade_clean, group_key = excluded.group_key
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
ALTER TABLE mark_events DROP COLUMN grade, DROP COLUMN grade_of, DROP COLUMN grade_clean, DROP COLUMN group_key;
ALTER TABLE mark_slots DROP COLUMN grade, DROP COLUMN grade_of, DROP COLUMN grade_clean, DROP COLUMN group_key;
