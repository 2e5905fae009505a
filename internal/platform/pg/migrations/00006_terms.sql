-- +goose Up
-- What can be found in a shipped library, once for all clubs; library_terms keeps only what
-- differs at a club, with hidden rows for what it does not teach.
CREATE TABLE edition_terms (
    digest    text NOT NULL REFERENCES library_editions (digest) ON DELETE CASCADE,
    kind      text NOT NULL,
    key       text NOT NULL,
    technique text NOT NULL,
    groups    jsonb NOT NULL,
    name      text NOT NULL,
    terms     text NOT NULL,
    body      text NOT NULL,
    search    tsvector GENERATED ALWAYS AS (setweight(to_tsvector('english', terms), 'A') || setweight(to_tsvector('english', body), 'C')) STORED,
    PRIMARY KEY (digest, kind, key)
);
CREATE TABLE edition_words (
    digest text NOT NULL REFERENCES library_editions (digest) ON DELETE CASCADE,
    word   text NOT NULL,
    PRIMARY KEY (digest, word)
);
-- Derived from the versions, and written again when a club is next asked for.
DELETE FROM library_terms;
DELETE FROM library_words;
ALTER TABLE library_terms ADD COLUMN hidden boolean NOT NULL DEFAULT false;
-- The version of a club's library that its own terms follow from.
CREATE TABLE library_found (
    club_id uuid PRIMARY KEY REFERENCES clubs (id) ON DELETE CASCADE,
    version int NOT NULL
);
DROP INDEX library_terms_search; -- a few hundred rows of one club or edition at the most

-- +goose Down
CREATE INDEX library_terms_search ON library_terms USING gin (search);
DROP TABLE library_found;
DELETE FROM library_terms WHERE hidden;
ALTER TABLE library_terms DROP COLUMN hidden;
DROP TABLE edition_words, edition_terms;
