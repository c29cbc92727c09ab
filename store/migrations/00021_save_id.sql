-- +goose Up
-- The id that a browser gave to the save that made this revision: whose answer was lost
-- knows its own work by it.
ALTER TABLE activities ADD COLUMN IF NOT EXISTS save_id VARCHAR(40) NULL;

-- +goose Down
ALTER TABLE activities DROP COLUMN IF EXISTS save_id;
