-- +goose Up
-- Which pages elsewhere may show a workspace's releases in a frame: their origins, one a line.
ALTER TABLE workspaces ADD COLUMN IF NOT EXISTS frames TEXT NULL;

-- +goose Down
ALTER TABLE workspaces DROP COLUMN frames;
