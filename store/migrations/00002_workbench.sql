-- +goose Up
-- Columns have defaults, so that the version before this one goes on beside it.
ALTER TABLE activities ADD COLUMN IF NOT EXISTS deleted_at DATETIME(3) NULL;
ALTER TABLE media
  ADD COLUMN IF NOT EXISTS name VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS licence VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS source VARCHAR(500) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS width INT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS height INT NOT NULL DEFAULT 0;
CREATE TABLE IF NOT EXISTS themes (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  body TEXT NOT NULL,
  KEY (workspace_id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE themes;
ALTER TABLE media DROP COLUMN name, DROP COLUMN licence, DROP COLUMN source, DROP COLUMN width, DROP COLUMN height;
ALTER TABLE activities DROP COLUMN deleted_at;
