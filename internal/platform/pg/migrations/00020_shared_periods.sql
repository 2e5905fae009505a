-- +goose Up
-- Two groups may share a period, each with drills of its own: a placed drill says whose it is, and
-- drills of different groups go on side by side. A group's drills are as they were at a version of the
-- period, so that what one coach puts in is no conflict for the other.
ALTER TABLE period_groups ADD COLUMN drills_version int NOT NULL DEFAULT 1;
UPDATE period_groups g SET drills_version = e.version FROM periods e WHERE e.id = g.period_id;
ALTER TABLE placements DROP CONSTRAINT placements_period_id_int4range_excl;
ALTER TABLE placements ADD COLUMN group_key text;
-- Behind the end of a period lie only drills that a way back down has put there: the second group's.
UPDATE placements l SET group_key = (SELECT CASE WHEN l.start >= e.minutes THEN max(g.group_key) ELSE min(g.group_key) END FROM period_groups g WHERE g.period_id = l.period_id),
       start = l.start % e.minutes FROM periods e WHERE e.id = l.period_id;
ALTER TABLE placements ALTER COLUMN group_key SET NOT NULL;
ALTER TABLE placements ADD CONSTRAINT placements_group FOREIGN KEY (period_id, group_key) REFERENCES period_groups (period_id, group_key) ON UPDATE CASCADE ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE placements ADD CONSTRAINT placements_side_by_side
    EXCLUDE USING gist (period_id WITH =, group_key WITH =, int4range(start, start + minutes) WITH &&) DEFERRABLE INITIALLY DEFERRED;

-- +goose Down
ALTER TABLE placements DROP CONSTRAINT placements_side_by_side;
ALTER TABLE placements DROP CONSTRAINT placements_group;
-- The second group's drills are kept behind the end of the period: there was no other place for them.
UPDATE placements l SET start = l.start + e.minutes FROM periods e
WHERE e.id = l.period_id AND l.group_key <> (SELECT min(g.group_key) FROM period_groups g WHERE g.period_id = l.period_id);
ALTER TABLE placements ADD CONSTRAINT placements_period_id_int4range_excl
    EXCLUDE USING gist (period_id WITH =, int4range(start, start + minutes) WITH &&) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE placements DROP COLUMN group_key;
ALTER TABLE period_groups DROP COLUMN drills_version;
