-- +goose Up
ALTER TABLE runs
  ADD COLUMN IF NOT EXISTS due_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS request VARCHAR(64) NULL,
  ADD COLUMN IF NOT EXISTS under_way BOOLEAN AS (at_step < end_step) PERSISTENT,
  ADD UNIQUE KEY IF NOT EXISTS once (release_id, request),
  ADD KEY IF NOT EXISTS due (under_way, due_at);

-- +goose Down
ALTER TABLE runs DROP KEY due, DROP KEY once, DROP COLUMN under_way, DROP COLUMN due_at, DROP COLUMN request;
