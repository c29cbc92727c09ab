-- +goose Up
-- Keys by which platforms know this installation, encrypted with its secret.
CREATE TABLE IF NOT EXISTS tool_keys (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  sealed BLOB NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (made_at)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS tool_keys;
