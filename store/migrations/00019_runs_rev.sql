-- +goose Up
-- How often a run was moved on: whoever worked on what it was before writes nothing.
ALTER TABLE runs ADD COLUMN IF NOT EXISTS rev INT NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE runs DROP COLUMN rev;
