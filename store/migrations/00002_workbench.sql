-- +goose Up
-- Columns have defaults, so that the version before this one goes on beside it.
ALTER TABLE activities ADD COLUMN deleted_at DATETIME(3) NULL;
ALTER TABLE media
  ADD COLUMN name VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN licence VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN source VARCHAR(500) NOT NULL DEFAULT '',
  ADD COLUMN width INT NOT NULL DEFAULT 0,
  ADD COLUMN height INT NOT NULL DEFAULT 0;
CREATE TABLE themes (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  body TEXT NOT NULL,
  KEY (workspace_id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
);

-- +goose Down
DROP TABLE themes;
ALTER TABLE media DROP COLUMN name, DROP COLUMN licence, DROP COLUMN source, DROP COLUMN width, DROP COLUMN height;
ALTER TABLE activities DROP COLUMN deleted_at;
