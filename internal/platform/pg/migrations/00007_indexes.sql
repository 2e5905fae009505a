-- +goose NO TRANSACTION
-- +goose Up
-- Marks are read by club, player and day, or by club and place. Built while marks are made.
CREATE INDEX CONCURRENTLY IF NOT EXISTS mark_slots_day ON mark_slots (club_id, player_id, on_date) WHERE state <> 'withdrawn';
CREATE INDEX CONCURRENTLY IF NOT EXISTS mark_slots_fault_day ON mark_slots (club_id, on_date, player_id) WHERE faults <> '[]';
CREATE INDEX CONCURRENTLY IF NOT EXISTS mark_slots_place ON mark_slots (club_id, placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX CONCURRENTLY IF NOT EXISTS mark_slots_of_game ON mark_slots (club_id, game_id) WHERE game_id IS NOT NULL;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_placement;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_faulty;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_player;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_game;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_play;
DROP INDEX CONCURRENTLY IF EXISTS mark_slots_faults;

-- +goose Down
CREATE INDEX IF NOT EXISTS mark_slots_placement ON mark_slots (placement_id) WHERE placement_id IS NOT NULL;
CREATE INDEX IF NOT EXISTS mark_slots_faulty ON mark_slots (player_id) WHERE faults <> '[]';
CREATE INDEX IF NOT EXISTS mark_slots_player ON mark_slots (player_id);
CREATE INDEX IF NOT EXISTS mark_slots_game ON mark_slots (game_id) WHERE game_id IS NOT NULL;
CREATE INDEX IF NOT EXISTS mark_slots_play ON mark_slots (play_id) WHERE play_id IS NOT NULL;
CREATE INDEX IF NOT EXISTS mark_slots_faults ON mark_slots USING gin (faults jsonb_path_ops) WHERE faults <> '[]';
DROP INDEX IF EXISTS mark_slots_day, mark_slots_fault_day, mark_slots_place, mark_slots_of_game;
