-- +goose Up
ALTER TABLE releases ADD COLUMN IF NOT EXISTS entry_rev INT NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE releases DROP COLUMN IF EXISTS entry_rev;
