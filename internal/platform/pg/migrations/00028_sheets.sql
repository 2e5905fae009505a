-- +goose Up
-- What a player is told of a game, where a coach has written on it; else it is proposed from the marks.
CREATE TABLE feedbacks (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    game_id    uuid NOT NULL,
    player_id  uuid NOT NULL,
    content    jsonb NOT NULL CONSTRAINT feedbacks_content CHECK (jsonb_typeof(content) = 'object'),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, game_id, player_id),
    CONSTRAINT feedbacks_game FOREIGN KEY (club_id, game_id) REFERENCES games (club_id, id) ON DELETE CASCADE,
    CONSTRAINT feedbacks_player FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE
);
-- Which plays of a game a group looks at together, where a coach has ordered them.
CREATE TABLE meetings (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    game_id    uuid NOT NULL,
    group_key  text NOT NULL,
    items      jsonb NOT NULL CONSTRAINT meetings_items CHECK (jsonb_typeof(items) = 'array'),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (club_id, game_id, group_key),
    CONSTRAINT meetings_game FOREIGN KEY (club_id, game_id) REFERENCES games (club_id, id) ON DELETE CASCADE
);
ALTER TABLE feedbacks ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON feedbacks TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));
ALTER TABLE meetings ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON meetings TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE meetings;
DROP TABLE feedbacks;
