-- +goose Up
CREATE EXTENSION IF NOT EXISTS btree_gist;

CREATE TABLE clubs (
    id         uuid PRIMARY KEY,
    name       text NOT NULL CHECK (name <> ''),
    league     text NOT NULL DEFAULT '',
    timezone   text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE users (
    id            uuid PRIMARY KEY,
    club_id       uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    email         text NOT NULL CHECK (email = lower(email)),
    name          text NOT NULL CHECK (name <> ''),
    title         text NOT NULL DEFAULT '',
    role          text NOT NULL CHECK (role IN ('head', 'coach')),
    password_hash text NOT NULL,
    created_at    timestamptz NOT NULL DEFAULT now(),
    UNIQUE (club_id, id)
);
CREATE UNIQUE INDEX users_email ON users (email);

CREATE TABLE position_groups (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    key     text NOT NULL CHECK (key ~ '^[a-z0-9_]{1,20}$'),
    name    text NOT NULL,
    short   text NOT NULL,
    sort    int  NOT NULL,
    PRIMARY KEY (club_id, key)
);

CREATE TABLE user_groups (
    club_id   uuid NOT NULL,
    user_id   uuid NOT NULL,
    group_key text NOT NULL,
    PRIMARY KEY (user_id, group_key),
    FOREIGN KEY (club_id, user_id) REFERENCES users (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON DELETE CASCADE
);

CREATE TABLE seasons (
    id        uuid PRIMARY KEY,
    club_id   uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    name      text NOT NULL,
    starts_on date NOT NULL,
    weeks     int  NOT NULL CHECK (weeks BETWEEN 1 AND 60),
    UNIQUE (club_id, id)
);
CREATE INDEX seasons_latest ON seasons (club_id, starts_on DESC);

CREATE TABLE players (
    id          uuid PRIMARY KEY,
    club_id     uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    jersey      text NOT NULL DEFAULT '' CHECK (jersey ~ '^([0-9]{1,3}[A-Z]?)?$'),
    first_name  text NOT NULL DEFAULT '',
    last_name   text NOT NULL CHECK (last_name <> ''),
    position    text NOT NULL DEFAULT '',
    height_in   numeric(4, 1) CHECK (height_in BETWEEN 48 AND 96),
    weight_lb   int CHECK (weight_lb BETWEEN 80 AND 500),
    returner    boolean NOT NULL DEFAULT false,
    status      text NOT NULL DEFAULT 'available' CHECK (status IN ('available', 'limited', 'out', 'medical_hold')),
    status_note text NOT NULL DEFAULT '',
    version     int NOT NULL DEFAULT 1,
    created_by  uuid,
    updated_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (club_id, id)
);
CREATE INDEX players_name ON players (club_id, lower(last_name), lower(first_name));

CREATE TABLE player_groups (
    club_id   uuid NOT NULL,
    player_id uuid NOT NULL,
    group_key text NOT NULL,
    PRIMARY KEY (player_id, group_key),
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON DELETE CASCADE
);
CREATE INDEX player_groups_group ON player_groups (club_id, group_key);

CREATE TABLE practices (
    id           uuid PRIMARY KEY,
    club_id      uuid NOT NULL,
    season_id    uuid NOT NULL,
    on_date      date NOT NULL,
    title        text NOT NULL,
    theme        text NOT NULL DEFAULT '',
    place        text NOT NULL DEFAULT '',
    start_minute int NOT NULL CHECK (start_minute BETWEEN 0 AND 1439),
    minutes      int NOT NULL CHECK (minutes BETWEEN 1 AND 300),
    UNIQUE (club_id, id),
    FOREIGN KEY (club_id, season_id) REFERENCES seasons (club_id, id) ON DELETE CASCADE
);
CREATE INDEX practices_date ON practices (club_id, on_date);

CREATE TABLE periods (
    id          uuid PRIMARY KEY,
    club_id     uuid NOT NULL,
    practice_id uuid NOT NULL,
    start       int  NOT NULL CHECK (start >= 0),
    minutes     int  NOT NULL CHECK (minutes >= 1),
    kind        text NOT NULL CHECK (kind IN ('warm_up', 'individual', 'group', 'team', 'special_teams', 'walk_through', 'meeting', 'water', 'conditioning')),
    name        text NOT NULL,
    contact     text NOT NULL CHECK (contact IN ('air', 'bag', 'control', 'thud', 'live')),
    version     int  NOT NULL DEFAULT 1,
    updated_by  uuid,
    updated_at  timestamptz NOT NULL DEFAULT now(),
    UNIQUE (club_id, id),
    FOREIGN KEY (club_id, practice_id) REFERENCES practices (club_id, id) ON DELETE CASCADE
);
CREATE INDEX periods_practice ON periods (practice_id, start);

CREATE TABLE period_groups (
    club_id   uuid NOT NULL,
    period_id uuid NOT NULL,
    group_key text NOT NULL,
    PRIMARY KEY (period_id, group_key),
    FOREIGN KEY (club_id, period_id) REFERENCES periods (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON DELETE CASCADE
);

-- A drill placed into a coach's own period. Two drills never overlap: the last line
-- of defence behind core/practice, checked at commit so that drills may swap places.
CREATE TABLE placements (
    id         uuid PRIMARY KEY,
    club_id    uuid NOT NULL,
    period_id  uuid NOT NULL,
    drill_key  text NOT NULL,
    start      int NOT NULL CHECK (start >= 0),
    minutes    int NOT NULL CHECK (minutes >= 1),
    lanes      int NOT NULL CHECK (lanes BETWEEN 1 AND 50),
    created_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (club_id, id),
    FOREIGN KEY (club_id, period_id) REFERENCES periods (club_id, id) ON DELETE CASCADE,
    EXCLUDE USING gist (period_id WITH =, int4range(start, start + minutes) WITH &&) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE games (
    id        uuid PRIMARY KEY,
    club_id   uuid NOT NULL,
    season_id uuid NOT NULL,
    on_date   date NOT NULL,
    opponent  text NOT NULL,
    home      boolean NOT NULL,
    UNIQUE (club_id, id),
    FOREIGN KEY (club_id, season_id) REFERENCES seasons (club_id, id) ON DELETE CASCADE
);
CREATE INDEX games_date ON games (club_id, on_date);

CREATE TABLE plays (
    id       uuid PRIMARY KEY,
    club_id  uuid NOT NULL,
    game_id  uuid NOT NULL,
    number   int  NOT NULL CHECK (number >= 1),
    offense  boolean NOT NULL,
    down     int CHECK (down BETWEEN 1 AND 4),
    distance int CHECK (distance BETWEEN 0 AND 99),
    spot     text NOT NULL DEFAULT '',
    call     text NOT NULL DEFAULT '',
    gain     int,
    UNIQUE (club_id, id),
    UNIQUE (game_id, number),
    FOREIGN KEY (club_id, game_id) REFERENCES games (club_id, id) ON DELETE CASCADE
);

-- What coaches recorded, append only. The slot is a player's rep of a placed drill
-- or his play of a game; the newest event of a slot is what holds (see marks).
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

-- The current mark of every slot, kept by a trigger as events are appended: reading
-- the newest event of ten thousand slots on every screen would be too slow.
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
CREATE INDEX mark_slots_placement ON mark_slots (placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX mark_slots_faulty ON mark_slots (player_id) WHERE faults <> '[]';
CREATE INDEX mark_slots_player ON mark_slots (player_id);
CREATE INDEX mark_slots_game ON mark_slots (game_id) WHERE game_id IS NOT NULL;
CREATE INDEX mark_slots_play ON mark_slots (play_id) WHERE play_id IS NOT NULL;

-- +goose StatementBegin
CREATE FUNCTION keep_slot() RETURNS trigger LANGUAGE plpgsql AS $$
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
CREATE TRIGGER mark_events_keep_slot AFTER INSERT ON mark_events FOR EACH ROW EXECUTE FUNCTION keep_slot();

-- +goose StatementBegin
CREATE FUNCTION follow_practice() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots m SET on_date = NEW.on_date
    FROM placements pl JOIN periods pe ON pe.id = pl.period_id
    WHERE m.placement_id = pl.id AND pe.practice_id = NEW.id;
    RETURN NULL;
END $$;
CREATE FUNCTION follow_game() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE mark_slots SET on_date = NEW.on_date WHERE game_id = NEW.id;
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER practices_date AFTER UPDATE OF on_date ON practices FOR EACH ROW EXECUTE FUNCTION follow_practice();
CREATE TRIGGER games_date AFTER UPDATE OF on_date ON games FOR EACH ROW EXECUTE FUNCTION follow_game();

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

-- +goose StatementBegin
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'marks are append only: write a new event instead';
END $$;
-- +goose StatementEnd
CREATE TRIGGER mark_events_append_only BEFORE UPDATE ON mark_events
    FOR EACH ROW EXECUTE FUNCTION refuse_change();

CREATE TABLE roster_mappings (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    headers text NOT NULL,
    mapping jsonb NOT NULL,
    PRIMARY KEY (club_id, headers)
);

CREATE TABLE sessions (
    token  text PRIMARY KEY,
    data   bytea NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

CREATE TABLE sign_in_failures (
    id    bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    email text NOT NULL,
    ip    text NOT NULL,
    at    timestamptz NOT NULL
);
CREATE INDEX sign_in_failures_at ON sign_in_failures (at);

-- +goose Down
DROP VIEW marks;
DROP TABLE sign_in_failures, sessions, roster_mappings, mark_slots, mark_events, plays, games, placements, period_groups, periods,
    practices, player_groups, players, seasons, user_groups, position_groups, users, clubs;
DROP FUNCTION refuse_change(), keep_slot(), follow_practice(), follow_game();
