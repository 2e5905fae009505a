-- +goose NO TRANSACTION
-- +goose Up
-- Marks that carry a season of film. A mark is of a player, a rep of a placed drill or a
-- play, a technique and the coach whose mark it is; it keeps how it was judged and by which
-- scheme; its faults are rows; what a season's screens read is kept as sums.
--
-- The new tables are filled in a schema of their own, a club at a time in transactions of
-- their own, while the old ones serve and take marks. Which slots change meanwhile is noted,
-- and those are moved again when the tables are exchanged, in one short transaction.

-- The year that names a season's part of the tables. It never changes: a season that is moved
-- over New Year keeps its marks where they are.
ALTER TABLE seasons ADD COLUMN IF NOT EXISTS mark_year smallint;
UPDATE seasons SET mark_year = extract(year FROM starts_on) WHERE mark_year IS NULL;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION season_year() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.mark_year := CASE WHEN TG_OP = 'INSERT' THEN extract(year FROM NEW.starts_on) ELSE OLD.mark_year END;
    RETURN NEW;
END $$;
-- +goose StatementEnd
CREATE OR REPLACE TRIGGER seasons_year BEFORE INSERT OR UPDATE OF mark_year ON seasons FOR EACH ROW EXECUTE FUNCTION season_year();
ALTER TABLE seasons ALTER COLUMN mark_year SET NOT NULL;

DROP SCHEMA IF EXISTS moving CASCADE;
CREATE SCHEMA moving;
SET search_path = moving, public;
CREATE SEQUENCE mark_seq;

-- How a club judges a rep, by version; a club without a row judges by the shipped scheme,
-- which is version 0.
CREATE TABLE mark_schemes (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    version    int NOT NULL CHECK (version > 0),
    scheme     jsonb NOT NULL,
    created_by uuid,
    created_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, version)
);

-- What coaches recorded, append only.
CREATE TABLE mark_events (
    club_id       uuid NOT NULL,
    id            uuid NOT NULL, -- made by the client
    year          smallint NOT NULL,
    seq           bigint NOT NULL DEFAULT nextval('mark_seq'),
    player_id     uuid NOT NULL,
    placement_id  uuid,
    rep           int,
    play_id       uuid,
    technique_key text COLLATE "C" NOT NULL,
    grader        uuid NOT NULL, -- whose mark it is: of the coach who made it or whose mark he corrected; zero: the club's settled mark
    state         text COLLATE "C" NOT NULL,
    assignment    smallint,
    technique     smallint,
    finish        smallint,
    verdict       text COLLATE "C" NOT NULL, -- as it was judged when it was made
    scheme        int NOT NULL,
    measures      jsonb NOT NULL DEFAULT '[]',
    praise        boolean NOT NULL DEFAULT false,
    note          text NOT NULL DEFAULT '',
    side          text,
    standard      int NOT NULL DEFAULT 1,
    created_by    uuid,
    created_at    timestamptz NOT NULL DEFAULT now(),
    made_at       timestamptz,
    device        uuid,
    on_mark       uuid,
    CONSTRAINT mark_events_place CHECK ((placement_id IS NOT NULL AND rep IS NOT NULL AND play_id IS NULL) OR (placement_id IS NULL AND rep IS NULL AND play_id IS NOT NULL)),
    CONSTRAINT mark_events_rep CHECK (rep BETWEEN 1 AND 200),
    CONSTRAINT mark_events_state CHECK (state IN ('assumed', 'looked', 'unseen', 'unsettled', 'not_gradable', 'withdrawn')),
    CONSTRAINT mark_events_facets CHECK (assignment IN (0, 1) AND technique IN (0, 1) AND finish IN (0, 1)),
    CONSTRAINT mark_events_verdict CHECK (verdict IN ('clean', 'faulty', 'unseen', 'unsettled', 'not_gradable', 'empty', 'withdrawn')),
    CONSTRAINT mark_events_measures CHECK (jsonb_typeof(measures) = 'array'),
    CONSTRAINT mark_events_note CHECK (length(note) <= 500),
    CONSTRAINT mark_events_side CHECK (side IN ('left', 'right')),
    CONSTRAINT mark_events_pkey PRIMARY KEY (club_id, id, year),
    CONSTRAINT mark_events_player FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id),
    CONSTRAINT mark_events_placement FOREIGN KEY (club_id, placement_id) REFERENCES placements (club_id, id),
    CONSTRAINT mark_events_play FOREIGN KEY (club_id, play_id) REFERENCES plays (club_id, id)
) PARTITION BY LIST (year);
CREATE INDEX mark_events_of_placement ON mark_events (club_id, placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX mark_events_of_play ON mark_events (club_id, play_id) WHERE play_id IS NOT NULL;
CREATE INDEX mark_events_of_player ON mark_events (club_id, player_id);

-- The current mark of every slot, kept by a trigger as events are appended. Of the marks of
-- one player, rep and technique one stands: the settled one, else the latest of a coach.
CREATE TABLE mark_slots (
    club_id       uuid NOT NULL,
    id            uuid NOT NULL,
    year          smallint NOT NULL,
    seq           bigint NOT NULL,
    player_id     uuid NOT NULL,
    placement_id  uuid,
    rep           int,
    play_id       uuid,
    place_id      uuid NOT NULL GENERATED ALWAYS AS (coalesce(placement_id, play_id)) STORED,
    nth           int NOT NULL GENERATED ALWAYS AS (coalesce(rep, 0)) STORED,
    technique_key text COLLATE "C" NOT NULL,
    grader        uuid NOT NULL,
    stands        boolean NOT NULL,
    state         text COLLATE "C" NOT NULL,
    assignment    smallint,
    technique     smallint,
    finish        smallint,
    verdict       text COLLATE "C" NOT NULL, -- by the scheme of the version beside it
    scheme        int NOT NULL,
    measures      jsonb NOT NULL,
    praise        boolean NOT NULL,
    note          text NOT NULL,
    side          text,
    standard      int NOT NULL,
    created_by    uuid,
    created_at    timestamptz NOT NULL,
    made_at       timestamptz,
    on_date       date NOT NULL, -- of the practice or game; follows when that is corrected
    game_id       uuid,
    CONSTRAINT mark_slots_pkey PRIMARY KEY (club_id, place_id, player_id, nth, technique_key, grader, year),
    CONSTRAINT mark_slots_player FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id)
) PARTITION BY LIST (year);
CREATE INDEX mark_slots_day ON mark_slots (club_id, player_id, on_date) WHERE stands;
CREATE INDEX mark_slots_of_game ON mark_slots (club_id, game_id) WHERE game_id IS NOT NULL;
CREATE INDEX mark_slots_scheme ON mark_slots (club_id, scheme);

-- The faults that a mark shows. caused_by is the teammate who caused it, zero for the
-- player's own.
CREATE TABLE mark_faults (
    club_id   uuid NOT NULL,
    mark_id   uuid NOT NULL,
    fault     text COLLATE "C" NOT NULL,
    caused_by uuid NOT NULL DEFAULT '00000000-0000-0000-0000-000000000000',
    year      smallint NOT NULL,
    nth       smallint NOT NULL, -- in the order in which the coach named them
    penalty   boolean NOT NULL DEFAULT false,
    CONSTRAINT mark_faults_pkey PRIMARY KEY (club_id, mark_id, fault, caused_by, year)
) PARTITION BY LIST (year);
CREATE INDEX mark_faults_cause ON mark_faults (club_id, caused_by) WHERE caused_by <> '00000000-0000-0000-0000-000000000000';

-- What the screens of a season read: the standing marks of a player, technique, day, source
-- and side, counted as they were judged.
CREATE TABLE mark_days (
    club_id       uuid NOT NULL,
    player_id     uuid NOT NULL,
    on_date       date NOT NULL,
    technique_key text COLLATE "C" NOT NULL,
    game          boolean NOT NULL,
    side          text COLLATE "C" NOT NULL, -- left, right or empty
    scheme        int NOT NULL,
    clean         int NOT NULL,
    faulty        int NOT NULL,
    not_graded    int NOT NULL,
    assumed       int NOT NULL,
    CONSTRAINT mark_days_pkey PRIMARY KEY (club_id, player_id, on_date, technique_key, game, side, scheme) INCLUDE (clean, faulty, not_graded, assumed) -- a season is read from it alone
);

-- The marks of a player, technique, day and source that show a fault.
CREATE TABLE mark_fault_days (
    club_id       uuid NOT NULL,
    player_id     uuid NOT NULL, -- who was marked
    on_date       date NOT NULL,
    technique_key text COLLATE "C" NOT NULL,
    game          boolean NOT NULL,
    fault         text COLLATE "C" NOT NULL,
    caused_by     uuid NOT NULL, -- to whom it is charged; zero: to the player
    n             int NOT NULL,
    penalties     int NOT NULL,
    CONSTRAINT mark_fault_days_pkey PRIMARY KEY (club_id, player_id, on_date, technique_key, game, fault, caused_by)
);
-- What hangs together is looked up on every screen, by the club first.
CREATE INDEX IF NOT EXISTS periods_of_practice ON public.periods (club_id, practice_id);
CREATE INDEX IF NOT EXISTS placements_of_period ON public.placements (club_id, period_id);
CREATE INDEX IF NOT EXISTS plays_of_game ON public.plays (club_id, game_id);
CREATE INDEX mark_fault_days_fault ON mark_fault_days (club_id, fault, on_date);
CREATE INDEX mark_fault_days_cause ON mark_fault_days (club_id, caused_by, on_date) WHERE caused_by <> '00000000-0000-0000-0000-000000000000';

-- The standing marks of a player and technique in one placed drill or one game, a letter a
-- rep: clean, faulty or not graded. It is what ladders are worked out from.
CREATE TABLE mark_runs (
    club_id       uuid NOT NULL,
    player_id     uuid NOT NULL,
    on_date       date NOT NULL,
    place_id      uuid NOT NULL, -- the placement or the game
    game          boolean NOT NULL,
    technique_key text COLLATE "C" NOT NULL,
    reps          text COLLATE "C" NOT NULL,
    CONSTRAINT mark_runs_pkey PRIMARY KEY (club_id, player_id, on_date, place_id, technique_key)
);
CREATE INDEX mark_runs_place ON mark_runs (club_id, place_id);
CREATE INDEX mark_runs_technique ON mark_runs (club_id, technique_key, on_date);


-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['mark_schemes', 'mark_events', 'mark_slots', 'mark_faults', 'mark_days', 'mark_fault_days', 'mark_runs'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_club ON %I TO nineyard_app USING (club_id = (SELECT public.current_club())) WITH CHECK (club_id = (SELECT public.current_club()))', t);
    END LOOP;
END $$;

-- open_mark_year makes a season's part of the tables. Nobody but the owner reads it by its
-- own name, where no policy holds.
CREATE FUNCTION open_mark_year(y int) RETURNS void LANGUAGE plpgsql SECURITY DEFINER AS $$
DECLARE t text;
BEGIN
    PERFORM pg_advisory_xact_lock(hashtextextended('mark year', 0));
    FOREACH t IN ARRAY ARRAY['mark_events', 'mark_slots', 'mark_faults'] LOOP
        CONTINUE WHEN to_regclass(t || '_' || y) IS NOT NULL;
        EXECUTE format('CREATE TABLE %I PARTITION OF %I FOR VALUES IN (%s)', t || '_' || y, t, y);
        EXECUTE format('REVOKE ALL ON %I FROM nineyard_app', t || '_' || y);
    END LOOP;
END $$;

-- What the sums of a club, or of some of its players, have to be: a plain count of its
-- standing marks.
CREATE FUNCTION counted_days(club uuid, who uuid[]) RETURNS SETOF mark_days LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, technique_key, game_id IS NOT NULL, coalesce(side, ''), scheme,
           (count(*) FILTER (WHERE verdict = 'clean'))::int, (count(*) FILTER (WHERE verdict = 'faulty'))::int,
           (count(*) FILTER (WHERE verdict NOT IN ('clean', 'faulty')))::int,
           (count(*) FILTER (WHERE verdict IN ('clean', 'faulty') AND state = 'assumed'))::int
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;

CREATE FUNCTION counted_fault_days(club uuid, who uuid[]) RETURNS SETOF mark_fault_days LANGUAGE sql STABLE AS $$
    SELECT m.club_id, m.player_id, m.on_date, m.technique_key, m.game_id IS NOT NULL, f.fault, f.caused_by, count(*)::int, (count(*) FILTER (WHERE f.penalty))::int
    FROM mark_slots m JOIN mark_faults f ON f.club_id = m.club_id AND f.year = m.year AND f.mark_id = m.id
    WHERE m.club_id = club AND m.stands AND m.verdict IN ('clean', 'faulty') AND (who IS NULL OR m.player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6, 7 $$;

CREATE FUNCTION mark_letter(verdict text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE AS
    $$ SELECT CASE verdict WHEN 'clean' THEN 'c' WHEN 'faulty' THEN 'f' ELSE 'n' END $$;

CREATE FUNCTION counted_runs(club uuid, who uuid[]) RETURNS SETOF mark_runs LANGUAGE sql STABLE AS $$
    SELECT club_id, player_id, on_date, coalesce(game_id, placement_id), game_id IS NOT NULL, technique_key, string_agg(mark_letter(verdict), '' ORDER BY nth, seq)
    FROM mark_slots WHERE club_id = club AND stands AND (who IS NULL OR player_id = ANY (who))
    GROUP BY 1, 2, 3, 4, 5, 6 $$;

-- marks_from is the day from which on a club's single marks are kept: the sums of seasons before
-- it stand for themselves.
CREATE FUNCTION marks_from(club uuid) RETURNS date LANGUAGE sql STABLE AS $$
    SELECT coalesce(min(s.starts_on) - 60, 'infinity'::date) FROM public.seasons s WHERE s.club_id = club AND to_regclass('mark_slots_' || s.mark_year) IS NOT NULL $$;

-- wrong_sums counts the rows of a club's sums that a plain count does not have, and the other
-- way round: none, unless something was changed past the triggers.
CREATE FUNCTION wrong_sums(club uuid) RETURNS bigint LANGUAGE sql STABLE AS $$
    WITH day AS (SELECT * FROM mark_days WHERE club_id = club AND on_date >= marks_from(club) AND (clean, faulty, not_graded, assumed) <> (0, 0, 0, 0)),
         fault AS (SELECT * FROM mark_fault_days WHERE club_id = club AND on_date >= marks_from(club) AND (n, penalties) <> (0, 0)),
         run AS (SELECT * FROM mark_runs WHERE club_id = club AND on_date >= marks_from(club)),
         days AS (SELECT * FROM counted_days(club, NULL)), faults AS (SELECT * FROM counted_fault_days(club, NULL)), runs AS (SELECT * FROM counted_runs(club, NULL))
    SELECT (SELECT count(*) FROM ((TABLE day EXCEPT TABLE days) UNION ALL (TABLE days EXCEPT TABLE day)) x)
         + (SELECT count(*) FROM ((TABLE fault EXCEPT TABLE faults) UNION ALL (TABLE faults EXCEPT TABLE fault)) x)
         + (SELECT count(*) FROM ((TABLE run EXCEPT TABLE runs) UNION ALL (TABLE runs EXCEPT TABLE run)) x) $$;

-- rebuild_sums makes the sums of a club, or of some of its players, anew.
CREATE FUNCTION rebuild_sums(club uuid, who uuid[] DEFAULT NULL) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    DELETE FROM mark_days WHERE club_id = club AND on_date >= marks_from(club) AND (who IS NULL OR player_id = ANY (who));
    DELETE FROM mark_fault_days WHERE club_id = club AND on_date >= marks_from(club) AND (who IS NULL OR player_id = ANY (who));
    DELETE FROM mark_runs WHERE club_id = club AND on_date >= marks_from(club) AND (who IS NULL OR player_id = ANY (who));
    INSERT INTO mark_days SELECT * FROM counted_days(club, who) ORDER BY club_id, player_id, on_date;
    INSERT INTO mark_fault_days SELECT * FROM counted_fault_days(club, who) ORDER BY club_id, player_id, on_date;
    INSERT INTO mark_runs SELECT * FROM counted_runs(club, who) ORDER BY club_id, player_id, on_date;
END $$;
-- +goose StatementEnd

SELECT open_mark_year(y::int) FROM (SELECT DISTINCT mark_year AS y FROM public.seasons) s;

-- Slots of the old tables that changed while they were moved.
CREATE TABLE moved_again (club_id uuid, player_id uuid, place_id uuid, nth int);
-- +goose StatementBegin
CREATE FUNCTION note_mark() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER AS $$
BEGIN
    IF TG_OP IN ('UPDATE', 'DELETE') THEN
        INSERT INTO moving.moved_again VALUES (OLD.club_id, OLD.player_id, coalesce(OLD.placement_id, OLD.play_id), coalesce(OLD.rep, 0));
    END IF;
    IF TG_OP IN ('UPDATE', 'INSERT') THEN
        INSERT INTO moving.moved_again VALUES (NEW.club_id, NEW.player_id, coalesce(NEW.placement_id, NEW.play_id), coalesce(NEW.rep, 0));
    END IF;
    RETURN NULL;
END $$;

-- move_marks moves the marks of a club, all or those of the slots that changed. Until now a
-- slot had no grader and one technique: all its events become the first one's coach's, at the
-- technique of the one that holds. What was judged at every look is judged as the screens
-- did, by the shipped scheme as it was, in which assignment and technique decide.
-- Its joins go by what two columns have together, which no statistics know of: where the planner takes
-- that for a few rows it loops over all marks for each of them, for hours. So it does with the slots that changed meanwhile
-- when they are more than memory for a hash is given.
CREATE FUNCTION move_marks(club uuid, again boolean) RETURNS void LANGUAGE plpgsql SET enable_nestloop TO off SET work_mem TO '256MB' AS $$
BEGIN
    IF again THEN
        CREATE TEMP TABLE slots ON COMMIT DROP AS SELECT DISTINCT player_id, place_id, nth FROM moved_again WHERE club_id = club;
        DELETE FROM mark_faults f USING mark_events e, slots k WHERE e.club_id = club AND e.player_id = k.player_id
            AND coalesce(e.placement_id, e.play_id) = k.place_id AND coalesce(e.rep, 0) = k.nth AND f.club_id = club AND f.mark_id = e.id;
        DELETE FROM mark_events e USING slots k WHERE e.club_id = club AND e.player_id = k.player_id
            AND coalesce(e.placement_id, e.play_id) = k.place_id AND coalesce(e.rep, 0) = k.nth;
        DELETE FROM mark_slots e USING slots k WHERE e.club_id = club AND e.player_id = k.player_id AND e.place_id = k.place_id AND e.nth = k.nth;
    END IF;
    INSERT INTO mark_events (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, state, assignment, technique, finish, verdict, scheme,
                             measures, praise, note, side, standard, created_by, created_at, made_at, device, on_mark)
    SELECT e.club_id, e.id, se.mark_year, e.seq, e.player_id, e.placement_id, e.rep, e.play_id, s.technique_key,
           coalesce(first_value(e.created_by) OVER (PARTITION BY e.player_id, coalesce(e.placement_id, e.play_id), coalesce(e.rep, 0) ORDER BY e.seq), '00000000-0000-0000-0000-000000000001'),
           e.state, e.assignment, e.technique, e.finish,
           CASE WHEN e.state NOT IN ('assumed', 'looked') THEN e.state
                WHEN e.assignment IS NULL AND e.technique IS NULL THEN 'empty'
                WHEN coalesce(e.assignment, 1) = 1 AND coalesce(e.technique, 1) = 1 THEN 'clean' ELSE 'faulty' END, 0,
           e.measures, e.praise, e.note, e.side, e.standard, e.created_by, e.created_at, e.made_at, e.device, e.on_mark
    FROM public.mark_events e
    JOIN public.mark_slots s ON s.player_id = e.player_id AND coalesce(s.placement_id, s.play_id) = coalesce(e.placement_id, e.play_id) AND coalesce(s.rep, 0) = coalesce(e.rep, 0)
    LEFT JOIN plays y ON y.id = e.play_id LEFT JOIN games g ON g.id = y.game_id
    LEFT JOIN placements pl ON pl.id = e.placement_id LEFT JOIN periods pe ON pe.id = pl.period_id LEFT JOIN practices pr ON pr.id = pe.practice_id
    JOIN public.seasons se ON se.id = coalesce(g.season_id, pr.season_id)
    WHERE e.club_id = club AND s.club_id = club
      AND (NOT again OR (e.player_id, coalesce(e.placement_id, e.play_id), coalesce(e.rep, 0)) IN (SELECT player_id, place_id, nth FROM moved_again WHERE club_id = club));
    INSERT INTO mark_faults (club_id, mark_id, fault, caused_by, year, nth)
    SELECT n.club_id, n.id, f.x ->> 'key', coalesce(nullif(f.x ->> 'caused_by', ''), '00000000-0000-0000-0000-000000000000')::uuid, n.year, min(f.nth)
    FROM public.mark_events e
    JOIN mark_events n ON n.club_id = e.club_id AND n.id = e.id
    CROSS JOIN LATERAL jsonb_array_elements(e.faults) WITH ORDINALITY AS f (x, nth)
    WHERE e.club_id = club AND e.faults <> '[]'
      AND (NOT again OR (e.player_id, coalesce(e.placement_id, e.play_id), coalesce(e.rep, 0)) IN (SELECT player_id, place_id, nth FROM moved_again WHERE club_id = club))
    GROUP BY 1, 2, 3, 4, 5 ON CONFLICT DO NOTHING;
    INSERT INTO mark_slots (club_id, id, year, seq, player_id, placement_id, rep, play_id, technique_key, grader, stands, state, assignment, technique, finish, verdict, scheme,
                            measures, praise, note, side, standard, created_by, created_at, made_at, on_date, game_id)
    SELECT n.club_id, n.id, n.year, n.seq, n.player_id, n.placement_id, n.rep, n.play_id, n.technique_key, n.grader, n.state <> 'withdrawn', n.state, n.assignment, n.technique, n.finish, n.verdict, n.scheme,
           n.measures, n.praise, n.note, n.side, n.standard, n.created_by, n.created_at, n.made_at, s.on_date, s.game_id
    FROM public.mark_slots s JOIN mark_events n ON n.club_id = s.club_id AND n.id = s.id
    WHERE s.club_id = club
      AND (NOT again OR (s.player_id, coalesce(s.placement_id, s.play_id), coalesce(s.rep, 0)) IN (SELECT player_id, place_id, nth FROM moved_again WHERE club_id = club));
    IF again THEN
        PERFORM rebuild_sums(club, ARRAY(SELECT player_id FROM slots));
        DROP TABLE slots;
    ELSE
        PERFORM rebuild_sums(club);
    END IF;
END $$;
-- +goose StatementEnd
CREATE TRIGGER mark_events_moving AFTER INSERT ON public.mark_events FOR EACH ROW EXECUTE FUNCTION note_mark();
CREATE TRIGGER mark_slots_moving AFTER UPDATE OF on_date, player_id OR DELETE ON public.mark_slots FOR EACH ROW EXECUTE FUNCTION note_mark();
-- +goose StatementBegin
DO $$
DECLARE c record;
BEGIN
    FOR c IN SELECT id FROM public.clubs ORDER BY id LOOP
        PERFORM move_marks(c.id, false);
        COMMIT;
    END LOOP;
END $$;
-- +goose StatementEnd
ANALYZE mark_events;
ANALYZE mark_slots;
ANALYZE mark_faults;

-- How the marks are kept from here on.
-- +goose StatementBegin

-- A coach's event holds over the one before of its slot when it was made on that, or later;
-- see core/change.
CREATE FUNCTION mark_holds(on_mark uuid, made timestamptz, seq bigint, standing uuid, standing_made timestamptz, standing_seq bigint) RETURNS boolean LANGUAGE sql IMMUTABLE AS
    $$ SELECT on_mark IS NOT NULL AND on_mark = standing OR (made, seq) > (standing_made, standing_seq) $$;

-- take_marks brings events, in the order in which they came in, into their slots, and says
-- which marks stand: of one player, rep and technique the settled one, else the latest.
CREATE FUNCTION take_marks(added mark_events[]) RETURNS void LANGUAGE plpgsql AS $$
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

CREATE FUNCTION keep_slots() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM take_marks(array_agg(ROW(a.*)::mark_events ORDER BY a.seq)) FROM added a;
    RETURN NULL;
END $$;

-- count_marks takes what stood off the sums and adds what stands now. Rows are taken in order,
-- so that two who count at once wait for each other and never both.
CREATE FUNCTION count_marks(was mark_slots[], now mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
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

-- count_runs writes the runs of marks anew. Whoever counts the same run meanwhile is waited
-- for first, so that his marks are seen.
CREATE FUNCTION count_runs(rows mark_slots[]) RETURNS void LANGUAGE plpgsql AS $$
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

CREATE FUNCTION slots_added() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE now mark_slots[] := (SELECT array_agg(ROW(a.*)::mark_slots) FROM added a);
BEGIN
    IF now IS NOT NULL THEN
        PERFORM count_marks('{}', now);
        PERFORM count_runs(now);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION slots_changed() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    was mark_slots[] := (SELECT array_agg(ROW(a.*)::mark_slots) FROM before a);
    now mark_slots[] := (SELECT array_agg(ROW(a.*)::mark_slots) FROM after a);
BEGIN
    IF now IS NOT NULL THEN
        PERFORM count_marks(was, now);
        PERFORM count_runs(was || now);
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION slots_gone() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE was mark_slots[] := (SELECT array_agg(ROW(a.*)::mark_slots) FROM gone a);
BEGIN
    IF was IS NOT NULL THEN
        PERFORM count_marks(was, '{}');
        PERFORM count_runs(was);
    END IF;
    RETURN NULL;
END $$;

-- Events and their faults are never changed but in two cases: two entries of one player become
-- one, and the label of what was marked is corrected.
CREATE FUNCTION refuse_marks() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF current_setting('nineyard.correcting', true) = 'on' THEN
        RETURN coalesce(NEW, OLD);
    END IF;
    RAISE EXCEPTION 'marks are append only: write a new event instead';
END $$;
-- +goose StatementEnd

-- The exchange.
-- +goose StatementBegin
DO $$
DECLARE x record;
BEGIN
    LOCK TABLE public.mark_events, public.mark_slots IN ACCESS EXCLUSIVE MODE;
    PERFORM open_mark_year(y::int) FROM (SELECT DISTINCT mark_year AS y FROM public.seasons) s;
    ANALYZE moved_again;
    FOR x IN SELECT DISTINCT club_id FROM moved_again LOOP
        PERFORM move_marks(x.club_id, true);
    END LOOP;
    PERFORM setval('mark_seq', (SELECT coalesce(max(seq), 0) + 1 FROM mark_events), false);
    DROP VIEW public.marks;
    DROP TABLE public.mark_slots, public.mark_events;
    DROP FUNCTION note_mark(), move_marks(uuid, boolean), public.keep_slot(), public.refuse_change();
    DROP TABLE moved_again;
    FOR x IN SELECT c.relname, c.relkind FROM pg_class c WHERE c.relnamespace = 'moving'::regnamespace AND c.relkind IN ('r', 'p') LOOP
        EXECUTE format('ALTER TABLE moving.%I SET SCHEMA public', x.relname);
    END LOOP;
    ALTER SEQUENCE mark_seq SET SCHEMA public;
    FOR x IN SELECT p.oid::regprocedure AS f FROM pg_proc p WHERE p.pronamespace = 'moving'::regnamespace LOOP
        EXECUTE format('ALTER FUNCTION %s SET SCHEMA public', x.f);
    END LOOP;
    CREATE TRIGGER mark_events_keep_slots AFTER INSERT ON public.mark_events REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_slots();
    CREATE TRIGGER mark_slots_added AFTER INSERT ON public.mark_slots REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION slots_added();
    CREATE TRIGGER mark_slots_changed AFTER UPDATE ON public.mark_slots REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION slots_changed();
    CREATE TRIGGER mark_slots_gone AFTER DELETE ON public.mark_slots REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION slots_gone();
    CREATE TRIGGER mark_events_append_only BEFORE UPDATE OR DELETE ON public.mark_events FOR EACH ROW EXECUTE FUNCTION refuse_marks();
    CREATE TRIGGER mark_faults_append_only BEFORE UPDATE OR DELETE ON public.mark_faults FOR EACH ROW EXECUTE FUNCTION refuse_marks();
    GRANT SELECT, INSERT, UPDATE, DELETE ON public.mark_events, public.mark_slots, public.mark_faults, public.mark_days, public.mark_fault_days, public.mark_runs, public.mark_schemes TO nineyard_app;
    GRANT USAGE ON SEQUENCE public.mark_seq TO nineyard_app;
    REVOKE DELETE ON public.mark_events FROM nineyard_app;
    REVOKE UPDATE, DELETE ON public.mark_schemes FROM nineyard_app;
    DROP SCHEMA moving;
END $$;
-- +goose StatementEnd
RESET search_path;
ALTER FUNCTION open_mark_year(int) SET search_path = public;
REVOKE ALL ON FUNCTION open_mark_year(int) FROM PUBLIC;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION season_marks() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
    PERFORM open_mark_year(NEW.mark_year);
    RETURN NULL;
END $$;
CREATE OR REPLACE TRIGGER seasons_marks AFTER INSERT ON seasons FOR EACH ROW EXECUTE FUNCTION season_marks();

CREATE OR REPLACE FUNCTION follow_practice() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots m SET on_date = NEW.on_date
    FROM placements pl JOIN periods pe ON pe.id = pl.period_id
    WHERE m.club_id = NEW.club_id AND m.placement_id = pl.id AND pl.club_id = NEW.club_id AND pe.practice_id = NEW.id AND m.on_date <> NEW.on_date;
    RETURN NULL;
END $$;
CREATE OR REPLACE FUNCTION follow_game() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots SET on_date = NEW.on_date WHERE club_id = NEW.club_id AND game_id = NEW.id AND on_date <> NEW.on_date;
    RETURN NULL;
END $$;

-- relabel_marks corrects what technique was marked in a placed drill. Where a rep has marks of
-- both, the rules of a slot say which holds.
CREATE OR REPLACE FUNCTION relabel_marks(club uuid, place uuid, was text, now text) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE moved bigint;
BEGIN
    DELETE FROM mark_slots WHERE club_id = club AND placement_id = place AND technique_key IN (was, now);
    PERFORM set_config('nineyard.correcting', 'on', true);
    UPDATE mark_events SET technique_key = now WHERE club_id = club AND placement_id = place AND technique_key = was;
    GET DIAGNOSTICS moved = ROW_COUNT;
    PERFORM set_config('nineyard.correcting', 'off', true);
    PERFORM take_marks(ARRAY(SELECT e FROM mark_events e WHERE e.club_id = club AND e.placement_id = place AND e.technique_key = now ORDER BY e.seq));
    RETURN moved;
END $$;
-- merge_players gives everything of one player to another of the club: groups, marks,
-- availability, own ranges and overrides. Where both have a mark of one slot that one holds
-- which the rules of a slot say. A fault that the one caused for the other is his own from
-- here on. It returns how many marks moved.
CREATE OR REPLACE FUNCTION merge_players(gone uuid, kept uuid) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE
    moved bigint;
    club uuid := (SELECT p.club_id FROM players p WHERE p.id = kept);
    own CONSTANT uuid := '00000000-0000-0000-0000-000000000000';
    others uuid[];
BEGIN
    DELETE FROM mark_slots WHERE club_id = club AND player_id IN (gone, kept);
    PERFORM set_config('nineyard.correcting', 'on', true);
    UPDATE mark_events SET player_id = kept WHERE club_id = club AND player_id = gone;
    GET DIAGNOSTICS moved = ROW_COUNT;
    others := ARRAY(SELECT DISTINCT e.player_id FROM mark_faults f JOIN mark_events e ON e.club_id = f.club_id AND e.year = f.year AND e.id = f.mark_id
                    WHERE f.club_id = club AND f.caused_by = gone AND e.player_id <> kept);
    CREATE TEMP TABLE changed ON COMMIT DROP AS
        SELECT f.mark_id, f.fault, f.year, CASE WHEN e.player_id = kept THEN own ELSE kept END AS caused_by, min(f.nth) AS nth, bool_or(f.penalty) AS penalty
        FROM mark_faults f JOIN mark_events e ON e.club_id = f.club_id AND e.year = f.year AND e.id = f.mark_id
        WHERE f.club_id = club AND (f.caused_by = gone OR f.caused_by = kept AND e.player_id = kept)
        GROUP BY 1, 2, 3, 4;
    DELETE FROM mark_faults f USING changed c
    WHERE f.club_id = club AND f.mark_id = c.mark_id AND f.year = c.year AND f.fault = c.fault AND f.caused_by IN (gone, kept) AND (f.caused_by = gone OR c.caused_by = own);
    INSERT INTO mark_faults (club_id, mark_id, fault, caused_by, year, nth, penalty)
    SELECT club, mark_id, fault, caused_by, year, nth, penalty FROM changed ON CONFLICT DO NOTHING;
    DROP TABLE changed;
    PERFORM set_config('nineyard.correcting', 'off', true);
    PERFORM take_marks(ARRAY(SELECT e FROM mark_events e WHERE e.club_id = club AND e.player_id = kept ORDER BY e.seq));
    IF others <> '{}' THEN
        PERFORM rebuild_sums(club, others);
    END IF;

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

-- every_club lists the clubs for what is looked after at night; it says nothing of them.
CREATE OR REPLACE FUNCTION every_club() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$ SELECT id FROM clubs ORDER BY id $$;

-- stale_clubs lists those that have marks judged by an older scheme than theirs.
CREATE OR REPLACE FUNCTION stale_clubs() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT s.club_id FROM (SELECT club_id, max(version) AS version FROM mark_schemes GROUP BY club_id) s
    WHERE EXISTS (SELECT 1 FROM mark_slots m WHERE m.club_id = s.club_id AND m.scheme < s.version) $$;

-- retire_marks drops the single marks of all but the latest years; their sums stay.
CREATE OR REPLACE FUNCTION retire_marks(keep int) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE y record;
BEGIN
    FOR y IN SELECT DISTINCT substring(c.relname FROM '[0-9]{4}$') AS year FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relispartition AND c.relname ~ '^mark_slots_[0-9]{4}$'
             ORDER BY 1 DESC OFFSET keep LOOP
        EXECUTE format('DROP TABLE mark_slots_%s, mark_events_%s, mark_faults_%s', y.year, y.year, y.year);
    END LOOP;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION every_club(), stale_clubs(), retire_marks(int) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION every_club(), stale_clubs(), retire_marks(int) TO nineyard_app;

-- +goose Down
-- Back to one mark a slot, and judged at every look. Of several marks of one rep that one is
-- kept which stands; the others stay among the events.
CREATE SCHEMA moving;
ALTER TABLE mark_events SET SCHEMA moving;
ALTER TABLE mark_slots SET SCHEMA moving;
DROP TRIGGER seasons_marks ON seasons;
DROP FUNCTION season_marks(), relabel_marks(uuid, uuid, text, text), every_club(), stale_clubs(), retire_marks(int);
CREATE TABLE mark_events (
    id           uuid PRIMARY KEY,
    seq          bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
    club_id      uuid NOT NULL,
    player_id    uuid NOT NULL,
    placement_id uuid,
    rep          int CHECK (rep BETWEEN 1 AND 200),
    play_id      uuid,
    technique_key text COLLATE "C" NOT NULL,
    state        text COLLATE "C" NOT NULL CHECK (state IN ('assumed', 'looked', 'unseen', 'unsettled', 'not_gradable', 'withdrawn')),
    assignment   smallint CHECK (assignment IN (0, 1)),
    technique    smallint CHECK (technique IN (0, 1)),
    finish       smallint CHECK (finish IN (0, 1)),
    faults       jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(faults) = 'array'),
    praise       boolean NOT NULL DEFAULT false,
    note         text NOT NULL DEFAULT '' CHECK (length(note) <= 500),
    side         text CHECK (side IN ('left', 'right')),
    standard     int  NOT NULL DEFAULT 1,
    created_by   uuid,
    created_at   timestamptz NOT NULL DEFAULT now(),
    CHECK ((placement_id IS NOT NULL AND rep IS NOT NULL AND play_id IS NULL)
        OR (placement_id IS NULL AND rep IS NULL AND play_id IS NOT NULL)),
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id),
    FOREIGN KEY (club_id, placement_id) REFERENCES placements (club_id, id),
    FOREIGN KEY (club_id, play_id) REFERENCES plays (club_id, id)
);
CREATE INDEX mark_events_slot ON mark_events (player_id, placement_id, rep, play_id, seq DESC);
CREATE INDEX mark_events_placement ON mark_events (placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX mark_events_play ON mark_events (play_id) WHERE play_id IS NOT NULL;

ALTER TABLE mark_events ADD COLUMN measures jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(measures) = 'array');
ALTER TABLE mark_events ADD COLUMN made_at timestamptz, ADD COLUMN device uuid, ADD COLUMN on_mark uuid;
CREATE TABLE mark_slots (
    id            uuid NOT NULL,
    seq           bigint NOT NULL,
    club_id       uuid NOT NULL,
    player_id     uuid NOT NULL,
    placement_id  uuid,
    rep           int,
    play_id       uuid,
    technique_key text COLLATE "C" NOT NULL,
    state         text COLLATE "C" NOT NULL,
    assignment    smallint,
    technique     smallint,
    finish        smallint,
    faults        jsonb NOT NULL,
    praise        boolean NOT NULL,
    note          text NOT NULL,
    side          text,
    standard      int NOT NULL,
    created_by    uuid,
    created_at    timestamptz NOT NULL,
    on_date       date NOT NULL, -- of the practice or game; follows when that is corrected
    game_id       uuid,
    UNIQUE NULLS NOT DISTINCT (player_id, placement_id, rep, play_id),
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id)
);
ALTER TABLE mark_slots ADD COLUMN measures jsonb NOT NULL DEFAULT '[]';
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
ALTER TABLE mark_slots ADD COLUMN stage_code text COLLATE "C" NOT NULL GENERATED ALWAYS AS (
    chr(40 + 27 * (CASE state WHEN 'assumed' THEN 0 WHEN 'looked' THEN 1 ELSE 2 END)
           + 9 * coalesce(assignment + 1, 0) + 3 * coalesce(technique + 1, 0)
           + (CASE side WHEN 'left' THEN 1 WHEN 'right' THEN 2 ELSE 0 END))) STORED;

ALTER TABLE mark_slots ADD COLUMN made_at timestamptz;
INSERT INTO mark_events (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish, faults, praise, note, side, standard,
                         created_by, created_at, measures, made_at, device, on_mark) OVERRIDING SYSTEM VALUE
SELECT e.id, e.seq, e.club_id, e.player_id, e.placement_id, e.rep, e.play_id, e.technique_key, e.state, e.assignment, e.technique, e.finish,
       coalesce((SELECT jsonb_agg(jsonb_strip_nulls(jsonb_build_object('key', f.fault, 'caused_by', nullif(f.caused_by, '00000000-0000-0000-0000-000000000000'))) ORDER BY f.nth)
                 FROM mark_faults f WHERE f.club_id = e.club_id AND f.year = e.year AND f.mark_id = e.id), '[]'),
       e.praise, e.note, e.side, e.standard, e.created_by, e.created_at, e.measures, e.made_at, e.device, e.on_mark
FROM moving.mark_events e;
SELECT setval(pg_get_serial_sequence('mark_events', 'seq'), (SELECT coalesce(max(seq), 0) + 1 FROM mark_events), false);
INSERT INTO mark_slots (id, seq, club_id, player_id, placement_id, rep, play_id, technique_key, state, assignment, technique, finish, faults, praise, note, side, standard,
                        created_by, created_at, on_date, game_id, measures, made_at)
SELECT DISTINCT ON (n.player_id, n.placement_id, n.rep, n.play_id)
       e.id, e.seq, e.club_id, e.player_id, e.placement_id, e.rep, e.play_id, e.technique_key, e.state, e.assignment, e.technique, e.finish, e.faults, e.praise, e.note, e.side, e.standard,
       e.created_by, e.created_at, n.on_date, n.game_id, e.measures, e.made_at
FROM moving.mark_slots n JOIN mark_events e ON e.id = n.id
ORDER BY n.player_id, n.placement_id, n.rep, n.play_id, n.stands DESC, coalesce(n.made_at, n.created_at) DESC, n.seq DESC;
DROP TABLE moving.mark_slots, moving.mark_events, mark_faults, mark_days, mark_fault_days, mark_runs, mark_schemes CASCADE;
DROP FUNCTION open_mark_year(int), marks_from(uuid), wrong_sums(uuid), rebuild_sums(uuid, uuid[]), mark_letter(text), mark_holds(uuid, timestamptz, bigint, uuid, timestamptz, bigint),
    keep_slots(), slots_added(), slots_changed(), slots_gone(), refuse_marks();
DROP SEQUENCE mark_seq;
DROP SCHEMA moving;
DROP INDEX periods_of_practice, placements_of_period, plays_of_game;
DROP TRIGGER seasons_year ON seasons;
DROP FUNCTION season_year();
ALTER TABLE seasons DROP COLUMN mark_year;
CREATE INDEX mark_slots_technique ON mark_slots (club_id, technique_key, on_date) WHERE state <> 'withdrawn';
CREATE INDEX mark_slots_day ON mark_slots (club_id, player_id, on_date) WHERE state <> 'withdrawn';
CREATE INDEX mark_slots_fault_day ON mark_slots (club_id, on_date, player_id) WHERE faults <> '[]';
CREATE INDEX mark_slots_place ON mark_slots (club_id, placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX mark_slots_of_game ON mark_slots (club_id, game_id) WHERE game_id IS NOT NULL;
-- +goose StatementBegin
CREATE FUNCTION keep_slot() RETURNS trigger LANGUAGE plpgsql AS $$
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

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF current_setting('nineyard.merging', true) = 'on'
       AND to_jsonb(NEW) - 'player_id' - 'faults' = to_jsonb(OLD) - 'player_id' - 'faults' THEN
        RETURN NEW;
    END IF;
    RAISE EXCEPTION 'marks are append only: write a new event instead';
END $$;

CREATE OR REPLACE FUNCTION follow_practice() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots m SET on_date = NEW.on_date
    FROM placements pl JOIN periods pe ON pe.id = pl.period_id
    WHERE m.placement_id = pl.id AND pe.practice_id = NEW.id;
    RETURN NULL;
END $$;
CREATE OR REPLACE FUNCTION follow_game() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots SET on_date = NEW.on_date WHERE game_id = NEW.id;
    RETURN NULL;
END $$;

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

DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['mark_events', 'mark_slots'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_club ON %I TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()))', t);
    END LOOP;
END $$;
-- +goose StatementEnd
CREATE TRIGGER mark_events_keep_slot AFTER INSERT ON mark_events FOR EACH ROW EXECUTE FUNCTION keep_slot();
CREATE TRIGGER mark_events_append_only BEFORE UPDATE ON mark_events FOR EACH ROW EXECUTE FUNCTION refuse_change();
REVOKE DELETE ON mark_events FROM nineyard_app;
ALTER VIEW marks SET (security_invoker = true);
