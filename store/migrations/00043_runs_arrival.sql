-- +goose Up
-- By which arrival a run was begun.
ALTER TABLE runs ADD COLUMN IF NOT EXISTS arrival_id BIGINT NULL, ADD KEY IF NOT EXISTS arrival_id (arrival_id);

-- +goose Down
ALTER TABLE runs DROP KEY arrival_id, DROP COLUMN arrival_id;
