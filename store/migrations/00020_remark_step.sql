-- +goose Up
ALTER TABLE remarks ADD COLUMN IF NOT EXISTS step INT NULL;

-- +goose Down
ALTER TABLE remarks DROP COLUMN step;
