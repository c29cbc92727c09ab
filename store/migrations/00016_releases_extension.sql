-- +goose Up
-- How much of a time limit learners may be given, in place of what the activity says.
ALTER TABLE releases ADD COLUMN IF NOT EXISTS extension INT NULL;

-- +goose Down
ALTER TABLE releases DROP COLUMN extension;
