-- +goose Up
CREATE TABLE IF NOT EXISTS tickets (
  hash CHAR(64) NOT NULL PRIMARY KEY,
  id VARCHAR(26) NOT NULL UNIQUE,
  kind VARCHAR(20) NOT NULL,
  workspace_id VARCHAR(26) NULL,
  account_id VARCHAR(26) NULL,
  email VARCHAR(200) NOT NULL DEFAULT '',
  role VARCHAR(20) NOT NULL DEFAULT '',
  owner BOOLEAN NOT NULL DEFAULT FALSE,
  made_by VARCHAR(200) NOT NULL DEFAULT '',
  made_at DATETIME(3) NOT NULL,
  until_at DATETIME(3) NOT NULL,
  KEY (workspace_id, kind),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id),
  FOREIGN KEY (account_id) REFERENCES accounts (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS tickets;
