-- +goose Up
-- By which arrival a sitting was begun.
ALTER TABLE sittings ADD COLUMN IF NOT EXISTS arrival_id BIGINT NULL, ADD KEY IF NOT EXISTS arrival_id (arrival_id);

-- +goose Down
ALTER TABLE sittings DROP KEY arrival_id, DROP COLUMN arrival_id;
