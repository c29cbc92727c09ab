-- +goose Up
-- What is still to be sent to platforms and record stores, or was refused there. lane is what
-- goes in order.
CREATE TABLE IF NOT EXISTS outbox (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  kind VARCHAR(20) NOT NULL,
  lane VARCHAR(60) NOT NULL,
  name CHAR(36) NOT NULL,
  body LONGTEXT NOT NULL,
  made_at DATETIME(3) NOT NULL,
  due_at DATETIME(3) NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  state VARCHAR(10) NOT NULL DEFAULT 'waiting',
  answer VARCHAR(600) NOT NULL DEFAULT '',
  KEY (state, due_at),
  KEY (lane, state, id),
  KEY (workspace_id, state, id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS outbox;
