-- +goose Up
-- Where a workspace's statements go. The secret is encrypted with that of the installation.
CREATE TABLE IF NOT EXISTS record_stores (
  workspace_id VARCHAR(26) NOT NULL PRIMARY KEY,
  endpoint VARCHAR(500) NOT NULL,
  user VARCHAR(200) NOT NULL,
  sealed BLOB NOT NULL,
  kept_at DATETIME(3) NOT NULL,
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS record_stores;
