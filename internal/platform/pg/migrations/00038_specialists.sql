-- +goose Up
-- The second edition teaches specialists: every club that has room for one more group gets theirs, unless it has them.
INSERT INTO position_groups (club_id, key, name, short, sort, side, positions)
SELECT club_id, 'sp', 'Specialists', 'SP', max(sort) + 1, 'units', '{SP,K,P,LS,KR,PR,Kicker,Punter,Long snapper,Holder,Returner}'
FROM position_groups GROUP BY club_id HAVING count(*) < 24
ON CONFLICT (club_id, key) DO NOTHING;

-- +goose Down
DELETE FROM position_groups p WHERE key = 'sp' AND side = 'units'
    AND NOT EXISTS (SELECT FROM user_groups x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM player_groups x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM period_groups x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM drill_sets x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM line_ups x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM cut_ups x WHERE x.club_id = p.club_id AND x.group_key = p.key)
    AND NOT EXISTS (SELECT FROM meetings x WHERE x.club_id = p.club_id AND x.group_key = p.key);
