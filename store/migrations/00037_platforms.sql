-- +goose Up
-- Learning platforms that a workspace is connected with, as it was registered there.
CREATE TABLE IF NOT EXISTS platforms (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  name VARCHAR(200) NOT NULL,
  issuer VARCHAR(255) NOT NULL,
  client_id VARCHAR(255) NOT NULL,
  deployments TEXT NOT NULL,
  auth_url VARCHAR(500) NOT NULL,
  token_url VARCHAR(500) NOT NULL,
  keys_url VARCHAR(500) NOT NULL,
  confirmed BOOLEAN NOT NULL DEFAULT FALSE,
  added_at DATETIME(3) NOT NULL,
  UNIQUE (issuer, client_id),
  KEY (workspace_id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS platforms;
