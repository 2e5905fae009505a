-- +goose Up
-- Which side of the ball a group plays on, and the positions it coaches, are the club's own
-- rows: a club may have groups we did not think of.
ALTER TABLE position_groups
    ADD COLUMN side text NOT NULL DEFAULT 'offense' CONSTRAINT position_groups_side CHECK (side IN ('offense', 'defense', 'units')),
    ADD COLUMN positions text[] NOT NULL DEFAULT '{}' CONSTRAINT position_groups_positions CHECK (cardinality(positions) <= 40);
UPDATE position_groups SET side = 'defense' WHERE key IN ('dl', 'lb', 'db');
UPDATE position_groups g SET positions = v.positions
FROM (VALUES
    ('ol', ARRAY['OL', 'LT', 'LG', 'C', 'RG', 'RT', 'OT', 'OG', 'T', 'G', 'Center', 'Guard', 'Tackle', 'O-line']),
    ('te', ARRAY['TE', 'Tight end', 'H', 'H-back']),
    ('rb', ARRAY['RB', 'HB', 'FB', 'TB', 'Running back', 'Fullback']),
    ('qb', ARRAY['QB', 'Quarterback']),
    ('wr', ARRAY['WR', 'X', 'Z', 'Slot', 'Receiver', 'Wide receiver']),
    ('dl', ARRAY['DL', 'DE', 'DT', 'NT', 'End', 'Nose', 'D-line']),
    ('lb', ARRAY['LB', 'ILB', 'OLB', 'MLB', 'Linebacker']),
    ('db', ARRAY['DB', 'CB', 'S', 'FS', 'SS', 'NI', 'Nickel', 'Corner', 'Cornerback', 'Safety'])) AS v (key, positions)
WHERE g.key = v.key;

-- +goose Down
ALTER TABLE position_groups DROP COLUMN side, DROP COLUMN positions;
