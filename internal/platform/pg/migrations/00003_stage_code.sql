-- +goose Up
-- What a ladder needs of a mark as one letter, worked out once when the mark is written:
-- reading a group's season works out thousands otherwise (see StageRuns).
ALTER TABLE mark_slots ADD COLUMN stage_code text COLLATE "C" NOT NULL GENERATED ALWAYS AS (
    chr(40 + 27 * (CASE state WHEN 'assumed' THEN 0 WHEN 'looked' THEN 1 ELSE 2 END)
           + 9 * coalesce(assignment + 1, 0) + 3 * coalesce(technique + 1, 0)
           + (CASE side WHEN 'left' THEN 1 WHEN 'right' THEN 2 ELSE 0 END))) STORED;

-- +goose Down
ALTER TABLE mark_slots DROP COLUMN stage_code;
