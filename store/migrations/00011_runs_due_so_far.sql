-- +goose Up
UPDATE runs SET due_at = started_at + INTERVAL (limit_ms + 120000) * 1000 MICROSECOND
  WHERE limit_ms > 0 AND due_at IS NULL;

-- +goose Down
UPDATE runs SET due_at = NULL;
