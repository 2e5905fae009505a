-- +goose Up
-- What another word under a label of plays means.
CREATE TABLE label_words (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id         uuid NOT NULL,
    label      text NOT NULL,
    said       text NOT NULL CONSTRAINT label_words_said CHECK (length(said) BETWEEN 1 AND 60),
    means      text NOT NULL CONSTRAINT label_words_means CHECK (length(means) BETWEEN 1 AND 60),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    PRIMARY KEY (club_id, id)
);
ALTER TABLE label_words ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON label_words TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE label_words;
