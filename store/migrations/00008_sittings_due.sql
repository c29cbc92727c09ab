-- +goose Up
-- due_at is when a sitting that is still under way is finished without its learner.
ALTER TABLE sittings
  ADD COLUMN IF NOT EXISTS due_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS late INT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS request VARCHAR(64) NULL,
  ADD UNIQUE KEY IF NOT EXISTS once (release_id, request),
  ADD KEY IF NOT EXISTS due (phase, due_at);

-- +goose Down
ALTER TABLE sittings DROP KEY due, DROP KEY once, DROP COLUMN due_at, DROP COLUMN late, DROP COLUMN request;
