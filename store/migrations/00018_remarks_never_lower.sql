-- +goose Up
ALTER TABLE remarks ADD COLUMN IF NOT EXISTS never_lower BOOLEAN NOT NULL DEFAULT FALSE;

-- +goose Down
ALTER TABLE remarks DROP COLUMN never_lower;
