-- +goose Up
-- A team period of a practice that is filmed: its plays are written, cut and marked as those of a game, and count as
-- practice. It is a row of games with the id of the period, made when the first of it is written.
ALTER TABLE games ADD COLUMN period_id uuid CONSTRAINT games_period_once UNIQUE;
ALTER TABLE games ADD CONSTRAINT games_period FOREIGN KEY (club_id, period_id) REFERENCES periods (club_id, id) ON DELETE CASCADE;
ALTER TABLE mark_slots ADD COLUMN in_practice boolean NOT NULL DEFAULT false;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION counted_days(club uuid, who uuid[]) RETURNS SETOF mark_days LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, technique_key, (game_id IS NOT NULL AND NOT in_practice), coalesce(side, ''), scheme,
           (count(*) FILTER (WHERE verdict = 'clean'))::int, (count(*) FILTER (WHERE verdict = 'faulty'))::int,
           (count(*) FILTER (WHERE verdict NOT IN ('clean', 'faulty')))::int,
           (count(*) FILTER (WHERE verdict IN ('clean', 'faulty') AND state = 'assumed'))::int
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;
CREATE OR REPLACE FUNCTION counted_fault_days(club uuid, who uuid[]) RETURNS SETOF mark_fault_days LANGUAGE sql STABLE AS $$
    SELECT m.club_id, m.player_id, m.on_date, m.technique_key, (m.game_id IS NOT NULL AND NOT m.in_practice), f.fault, f.caused_by, count(*)::int, (count(*) FILTER (WHERE f.penalty))::int
    FROM mark_slots m JOIN mark_faults f ON f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id
    WHERE m.club_id = club AND m.stands AND m.verdict IN ('clean', 'faulty') AND (who IS NULL OR m.player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;
CREATE OR REPLACE FUNCTION counted_runs(club uuid, who uuid[]) RETURNS SETOF mark_runs LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, coalesce(game_id, placement_id), (game_id IS NOT NULL AND NOT in_practice), technique_key, string_agg(mark_letter(verdict), '' ORDER BY nth, seq)
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6 $$;
CREATE OR REPLACE FUNCTION count_marks(was mark_slots[], now mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_days AS d (club_id, player_id, on_date, technique_key, game, side, scheme, clean, faulty, not_graded, assumed)
    SELECT * FROM (
        SELECT club_id, player_id, on_date, technique_key, (game_id IS NOT NULL AND NOT in_practice) AS game, coalesce(side, '') AS side, scheme,
               coalesce(sum(sign) FILTER (WHERE verdict = 'clean'), 0) AS clean, coalesce(sum(sign) FILTER (WHERE verdict = 'faulty'), 0) AS faulty,
               coalesce(sum(sign) FILTER (WHERE verdict NOT IN ('clean', 'faulty')), 0) AS not_graded,
               coalesce(sum(sign) FILTER (WHERE verdict IN ('clean', 'faulty') AND state = 'assumed'), 0) AS assumed
        FROM (SELECT -1 AS sign, w.* FROM unnest(was) w UNION ALL SELECT 1, n.* FROM unnest(now) n) m
        WHERE stands GROUP BY 1, 2, 3, 4, 5, 6, 7) x
    WHERE (x.clean, x.faulty, x.not_graded, x.assumed) <> (0, 0, 0, 0)
    ORDER BY 1, 2, 3, 4, 5, 6, 7
    ON CONFLICT (club_id, player_id, on_date, technique_key, game, side, scheme) DO UPDATE SET clean = d.clean + excluded.clean, faulty = d.faulty + excluded.faulty,
        not_graded = d.not_graded + excluded.not_graded, assumed = d.assumed + excluded.assumed;
    INSERT INTO mark_fault_days AS d (club_id, player_id, on_date, technique_key, game, fault, caused_by, n, penalties)
    SELECT * FROM (
        SELECT m.club_id, m.player_id, m.on_date, m.technique_key, (m.game_id IS NOT NULL AND NOT m.in_practice) AS game, f.fault, f.caused_by, sum(sign) AS n, coalesce(sum(sign) FILTER (WHERE f.penalty), 0) AS penalties
        FROM (SELECT -1 AS sign, w.* FROM unnest(was) w UNION ALL SELECT 1, n.* FROM unnest(now) n) m
        JOIN mark_faults f ON f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id
        WHERE m.stands AND m.verdict IN ('clean', 'faulty') GROUP BY 1, 2, 3, 4, 5, 6, 7) x
    WHERE (x.n, x.penalties) <> (0, 0)
    ORDER BY 1, 2, 3, 4, 5, 6, 7
    ON CONFLICT (club_id, player_id, on_date, technique_key, game, fault, caused_by) DO UPDATE SET n = d.n + excluded.n, penalties = d.penalties + excluded.penalties;
END $$;
CREATE OR REPLACE FUNCTION count_runs(rows mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_runs AS r (club_id, player_id, on_date, place_id, game, technique_key, reps)
    SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id), (game_id IS NOT NULL AND NOT in_practice), technique_key, ''
    FROM unnest(rows) ORDER BY 1, 2, 3, 4, 6
    ON CONFLICT (club_id, player_id, on_date, place_id, technique_key) DO UPDATE SET reps = r.reps;
    UPDATE mark_runs r SET reps = coalesce((
        SELECT string_agg(mark_letter(m.verdict), '' ORDER BY m.nth, m.seq) FROM mark_slots m
        WHERE m.club_id = r.club_id AND m.player_id = r.player_id AND m.on_date = r.on_date AND m.technique_key = r.technique_key AND m.stands
          AND coalesce(m.game_id, m.placement_id) = r.place_id), '')
    FROM (SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id) AS place_id, technique_key FROM unnest(rows)) k
    WHERE r.club_id = k.club_id AND r.player_id = k.player_id AND r.on_date = k.on_date AND r.place_id = k.place_id AND r.technique_key = k.technique_key;
    DELETE FROM mark_runs r
    USING (SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id) AS place_id, technique_key FROM unnest(rows)) k
    WHERE r.club_id = k.club_id AND r.player_id = k.player_id AND r.on_date = k.on_date AND r.place_id = k.place_id AND r.technique_key = k.technique_key AND r.reps = '';
END $$;
CREATE OR REPLACE FUNCTION take_marks(added mark_events[]) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
    rounds int;
    settled CONSTANT uuid := '00000000-0000-0000-0000-000000000000';
BEGIN
    SELECT max(n) INTO rounds FROM (SELECT count(*) AS n FROM unnest(added) GROUP BY club_id, coalesce(placement_id, play_id), player_id, rep, technique_key, grader) x;
    FOR turn IN 1..coalesce(rounds, 0) LOOP
        INSERT INTO mark_slots (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, stands, state, assignment, technique, finish, verdict, scheme,
                                measures, praise, note, side, standard, created_by, created_at, made_at, on_date, game_id, in_practice, result, tallies, asked, grade, grade_of, grade_clean, group_key)
        SELECT a.club_id, a.id, a.year, a.seq, a.player_id, a.placement_id, a.rep, a.play_id, a.technique_key, a.grader, a.state <> 'withdrawn', a.state, a.assignment, a.technique, a.finish, a.verdict, a.scheme,
               a.measures, a.praise, a.note, a.side, a.standard, a.created_by, a.created_at, a.made_at, coalesce(g.on_date, pr.on_date), y.game_id, coalesce(g.period_id IS NOT NULL, false), a.result, a.tallies, a.asked, a.grade, a.grade_of, a.grade_clean, a.group_key
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

-- film_period makes the row of a period that is filmed; what is no period, or is there, is left as it is.
CREATE FUNCTION film_period(period uuid) RETURNS void LANGUAGE sql AS $$
    INSERT INTO games (id, club_id, season_id, on_date, opponent, home, period_id)
    SELECT e.id, e.club_id, p.season_id, p.on_date, left(e.name || ', ' || p.title, 80), true, e.id
    FROM periods e JOIN practices p ON p.club_id = e.club_id AND p.id = e.practice_id
    WHERE e.id = period AND e.kind IN ('team', 'group', 'special_teams') ON CONFLICT DO NOTHING $$;

-- What is filmed goes with its practice.
CREATE OR REPLACE FUNCTION follow_practice() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots m SET on_date = NEW.on_date
    FROM placements pl JOIN periods pe ON pe.id = pl.period_id
    WHERE m.club_id = NEW.club_id AND m.placement_id = pl.id AND pl.club_id = NEW.club_id AND pe.practice_id = NEW.id AND m.on_date <> NEW.on_date;
    UPDATE games g SET on_date = NEW.on_date FROM periods pe
    WHERE g.club_id = NEW.club_id AND g.period_id = pe.id AND pe.club_id = NEW.club_id AND pe.practice_id = NEW.id AND g.on_date <> NEW.on_date;
    RETURN NULL;
END $$;
-- +goose StatementEnd

-- +goose Down
DELETE FROM mark_slots WHERE in_practice;
DELETE FROM games WHERE period_id IS NOT NULL;
-- +goose StatementBegin
DROP FUNCTION film_period(uuid);
CREATE OR REPLACE FUNCTION follow_practice() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots m SET on_date = NEW.on_date
    FROM placements pl JOIN periods pe ON pe.id = pl.period_id
    WHERE m.club_id = NEW.club_id AND m.placement_id = pl.id AND pl.club_id = NEW.club_id AND pe.practice_id = NEW.id AND m.on_date <> NEW.on_date;
    RETURN NULL;
END $$;
CREATE OR REPLACE FUNCTION counted_days(club uuid, who uuid[]) RETURNS SETOF mark_days LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, technique_key, game_id IS NOT NULL, coalesce(side, ''), scheme,
           (count(*) FILTER (WHERE verdict = 'clean'))::int, (count(*) FILTER (WHERE verdict = 'faulty'))::int,
           (count(*) FILTER (WHERE verdict NOT IN ('clean', 'faulty')))::int,
           (count(*) FILTER (WHERE verdict IN ('clean', 'faulty') AND state = 'assumed'))::int
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;
CREATE OR REPLACE FUNCTION counted_fault_days(club uuid, who uuid[]) RETURNS SETOF mark_fault_days LANGUAGE sql STABLE AS $$
    SELECT m.club_id, m.player_id, m.on_date, m.technique_key, m.game_id IS NOT NULL, f.fault, f.caused_by, count(*)::int, (count(*) FILTER (WHERE f.penalty))::int
    FROM mark_slots m JOIN mark_faults f ON f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id
    WHERE m.club_id = club AND m.stands AND m.verdict IN ('clean', 'faulty') AND (who IS NULL OR m.player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;
CREATE OR REPLACE FUNCTION counted_runs(club uuid, who uuid[]) RETURNS SETOF mark_runs LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, coalesce(game_id, placement_id), game_id IS NOT NULL, technique_key, string_agg(mark_letter(verdict), '' ORDER BY nth, seq)
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6 $$;
CREATE OR REPLACE FUNCTION count_marks(was mark_slots[], now mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_days AS d (club_id, player_id, on_date, technique_key, game, side, scheme, clean, faulty, not_graded, assumed)
    SELECT * FROM (
        SELECT club_id, player_id, on_date, technique_key, game_id IS NOT NULL AS game, coalesce(side, '') AS side, scheme,
               coalesce(sum(sign) FILTER (WHERE verdict = 'clean'), 0) AS clean, coalesce(sum(sign) FILTER (WHERE verdict = 'faulty'), 0) AS faulty,
               coalesce(sum(sign) FILTER (WHERE verdict NOT IN ('clean', 'faulty')), 0) AS not_graded,
               coalesce(sum(sign) FILTER (WHERE verdict IN ('clean', 'faulty') AND state = 'assumed'), 0) AS assumed
        FROM (SELECT -1 AS sign, w.* FROM unnest(was) w UNION ALL SELECT 1, n.* FROM unnest(now) n) m
        WHERE stands GROUP BY 1, 2, 3, 4, 5, 6, 7) x
    WHERE (x.clean, x.faulty, x.not_graded, x.assumed) <> (0, 0, 0, 0)
    ORDER BY 1, 2, 3, 4, 5, 6, 7
    ON CONFLICT (club_id, player_id, on_date, technique_key, game, side, scheme) DO UPDATE SET clean = d.clean + excluded.clean, faulty = d.faulty + excluded.faulty,
        not_graded = d.not_graded + excluded.not_graded, assumed = d.assumed + excluded.assumed;
    INSERT INTO mark_fault_days AS d (club_id, player_id, on_date, technique_key, game, fault, caused_by, n, penalties)
    SELECT * FROM (
        SELECT m.club_id, m.player_id, m.on_date, m.technique_key, m.game_id IS NOT NULL AS game, f.fault, f.caused_by, sum(sign) AS n, coalesce(sum(sign) FILTER (WHERE f.penalty), 0) AS penalties
        FROM (SELECT -1 AS sign, w.* FROM unnest(was) w UNION ALL SELECT 1, n.* FROM unnest(now) n) m
        JOIN mark_faults f ON f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id
        WHERE m.stands AND m.verdict IN ('clean', 'faulty') GROUP BY 1, 2, 3, 4, 5, 6, 7) x
    WHERE (x.n, x.penalties) <> (0, 0)
    ORDER BY 1, 2, 3, 4, 5, 6, 7
    ON CONFLICT (club_id, player_id, on_date, technique_key, game, fault, caused_by) DO UPDATE SET n = d.n + excluded.n, penalties = d.penalties + excluded.penalties;
END $$;
CREATE OR REPLACE FUNCTION count_runs(rows mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO mark_runs AS r (club_id, player_id, on_date, place_id, game, technique_key, reps)
    SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id), game_id IS NOT NULL, technique_key, ''
    FROM unnest(rows) ORDER BY 1, 2, 3, 4, 6
    ON CONFLICT (club_id, player_id, on_date, place_id, technique_key) DO UPDATE SET reps = r.reps;
    UPDATE mark_runs r SET reps = coalesce((
        SELECT string_agg(mark_letter(m.verdict), '' ORDER BY m.nth, m.seq) FROM mark_slots m
        WHERE m.club_id = r.club_id AND m.player_id = r.player_id AND m.on_date = r.on_date AND m.technique_key = r.technique_key AND m.stands
          AND CASE WHEN r.game THEN m.game_id ELSE m.placement_id END = r.place_id), '')
    FROM (SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id) AS place_id, technique_key FROM unnest(rows)) k
    WHERE r.club_id = k.club_id AND r.player_id = k.player_id AND r.on_date = k.on_date AND r.place_id = k.place_id AND r.technique_key = k.technique_key;
    DELETE FROM mark_runs r
    USING (SELECT DISTINCT club_id, player_id, on_date, coalesce(game_id, placement_id) AS place_id, technique_key FROM unnest(rows)) k
    WHERE r.club_id = k.club_id AND r.player_id = k.player_id AND r.on_date = k.on_date AND r.place_id = k.place_id AND r.technique_key = k.technique_key AND r.reps = '';
END $$;
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
ALTER TABLE mark_slots DROP COLUMN in_practice;
ALTER TABLE games DROP COLUMN period_id;
