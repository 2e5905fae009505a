-- +goose Up
-- What a list says of another coach's players is proposed to him: one proposal a player, the latest. It goes when it is
-- decided; who decided is in the log of changes.
CREATE TABLE roster_proposals (
    id          uuid PRIMARY KEY,
    club_id     uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    subject     text COLLATE "C" NOT NULL, -- the player's id, or the name of a new one
    player_id   uuid,
    group_key   text NOT NULL,
    person      jsonb NOT NULL,
    proposed_by uuid NOT NULL,
    proposed_at timestamptz NOT NULL,
    CONSTRAINT roster_proposals_subject UNIQUE (club_id, subject),
    CONSTRAINT roster_proposals_player FOREIGN KEY (club_id, player_id) REFERENCES players (club_id, id) ON DELETE CASCADE,
    CONSTRAINT roster_proposals_group FOREIGN KEY (club_id, group_key) REFERENCES position_groups (club_id, key) ON DELETE CASCADE
);
ALTER TABLE roster_proposals ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON roster_proposals TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE roster_proposals;
