-- +goose Up
-- A drill that is placed may show its cards in an order of its own: their keys in that order, those left out are not shown.
-- Empty: as the library has them.
ALTER TABLE placements ADD COLUMN cards text NOT NULL DEFAULT ''
    CONSTRAINT placements_cards_check CHECK (cards ~ '^([a-z0-9_]{1,80}( [a-z0-9_]{1,80}){0,39})?$');

-- +goose Down
ALTER TABLE placements DROP COLUMN cards;
