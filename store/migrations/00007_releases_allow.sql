-- +goose Up
-- From here on a migration is one statement, and each can be run again: one that was
-- interrupted is repeated at the next start.
ALTER TABLE releases
  ADD COLUMN IF NOT EXISTS allowance_ms BIGINT NOT NULL DEFAULT 120000,
  ADD COLUMN IF NOT EXISTS request VARCHAR(64) NULL,
  ADD UNIQUE KEY IF NOT EXISTS once (activity_id, request);

-- +goose Down
ALTER TABLE releases DROP COLUMN allowance_ms, DROP KEY once, DROP COLUMN request;
