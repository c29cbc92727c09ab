-- +goose Up
-- A version that somebody gave a name to is kept for good.
ALTER TABLE revisions
  ADD COLUMN IF NOT EXISTS name VARCHAR(100) NULL,
  ADD KEY IF NOT EXISTS by_time (activity_id, saved_at);

-- +goose Down
ALTER TABLE revisions DROP KEY IF EXISTS by_time, DROP COLUMN IF EXISTS name;
