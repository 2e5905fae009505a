-- +goose Up
-- Videos. What they hold lies in the film store under the club and the digest; who marks where a play is
-- in one writes a clip.
CREATE TABLE films (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id         uuid PRIMARY KEY,
    digest     text NOT NULL CONSTRAINT films_digest CHECK (digest ~ '^[0-9a-f]{64}$'),
    name       text NOT NULL CONSTRAINT films_name CHECK (length(name) BETWEEN 1 AND 200),
    media_type text NOT NULL CONSTRAINT films_media_type CHECK (media_type IN ('video/webm', 'video/mp4')),
    size       bigint NOT NULL CONSTRAINT films_size CHECK (size > 0),
    width      int NOT NULL CONSTRAINT films_width CHECK (width BETWEEN 1 AND 16384),
    height     int NOT NULL CONSTRAINT films_height CHECK (height BETWEEN 1 AND 16384),
    fps_num    int NOT NULL CONSTRAINT films_fps_num CHECK (fps_num > 0),
    fps_den    int NOT NULL CONSTRAINT films_fps_den CHECK (fps_den > 0),
    frames     int NOT NULL CONSTRAINT films_frames CHECK (frames > 0),
    created_by uuid,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (club_id, id)
);
CREATE TABLE clips (
    club_id      uuid NOT NULL,
    id           uuid PRIMARY KEY,
    film_id      uuid NOT NULL,
    view         text NOT NULL CONSTRAINT clips_view CHECK (length(view) BETWEEN 1 AND 30),
    play_id      uuid,
    placement_id uuid,
    player_id    uuid,
    rep          int CONSTRAINT clips_rep CHECK (rep BETWEEN 1 AND 1000),
    first_frame  int NOT NULL CONSTRAINT clips_first CHECK (first_frame >= 0),
    last_frame   int NOT NULL,
    snap_frame   int,
    FOREIGN KEY (club_id, film_id) REFERENCES films (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, play_id) REFERENCES plays (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, placement_id) REFERENCES placements (club_id, id) ON DELETE CASCADE,
    FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE,
    CONSTRAINT clips_last CHECK (last_frame >= first_frame),
    CONSTRAINT clips_snap CHECK (snap_frame BETWEEN first_frame AND last_frame),
    CONSTRAINT clips_of CHECK ((play_id IS NULL) <> (placement_id IS NULL) AND (placement_id IS NULL) = (player_id IS NULL) AND (placement_id IS NULL) = (rep IS NULL))
);
CREATE INDEX clips_play ON clips (club_id, play_id) WHERE play_id IS NOT NULL;
CREATE INDEX clips_placement ON clips (club_id, placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX clips_film ON clips (club_id, film_id);
CREATE INDEX clips_player ON clips (club_id, player_id) WHERE player_id IS NOT NULL;
-- What was drawn on a frame, and by whom.
CREATE TABLE drawings (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id         uuid PRIMARY KEY, -- made by the client
    clip_id    uuid NOT NULL CONSTRAINT drawings_clip REFERENCES clips (id) ON DELETE CASCADE,
    frame      int NOT NULL CONSTRAINT drawings_frame CHECK (frame >= 0),
    shapes     jsonb NOT NULL CONSTRAINT drawings_shapes CHECK (jsonb_typeof(shapes) = 'array'),
    version    int NOT NULL DEFAULT 1,
    created_by uuid NOT NULL,
    updated_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX drawings_of ON drawings (clip_id);
CREATE INDEX drawings_club ON drawings (club_id);
-- Where somebody was in the film of a game or a drill.
CREATE TABLE watchings (
    club_id uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    person  uuid NOT NULL,
    subject uuid NOT NULL,
    clip_id uuid NOT NULL CONSTRAINT watchings_clip REFERENCES clips (id) ON DELETE CASCADE,
    frame   int NOT NULL CONSTRAINT watchings_frame CHECK (frame >= 0),
    at      timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, person, subject)
);
CREATE INDEX watchings_clip ON watchings (clip_id);
ALTER TABLE films ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON films TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE clips ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON clips TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE drawings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON drawings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE watchings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON watchings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE watchings;
DROP TABLE drawings;
DROP TABLE clips;
DROP TABLE films;
