-- +goose Up
ALTER TABLE media
  ADD COLUMN IF NOT EXISTS deleted_at DATETIME(3) NULL,
  ADD KEY IF NOT EXISTS by_id (id);

-- +goose Down
ALTER TABLE media DROP KEY by_id, DROP COLUMN deleted_at;
