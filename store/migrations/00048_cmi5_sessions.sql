-- +goose Up
-- Launches by cmi5: where their statements go, with the token of each, encrypted.
CREATE TABLE IF NOT EXISTS cmi5_sessions (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  platform_id VARCHAR(26) NOT NULL,
  arrival_id BIGINT NOT NULL,
  endpoint VARCHAR(500) NOT NULL,
  sealed BLOB NOT NULL,
  launch TEXT NOT NULL,
  completed BOOLEAN NOT NULL DEFAULT FALSE,
  judged VARCHAR(10) NOT NULL DEFAULT '',
  begun_at DATETIME(3) NOT NULL,
  left_at DATETIME(3) NULL,
  over_at DATETIME(3) NULL,
  KEY (left_at),
  KEY (arrival_id, begun_at),
  FOREIGN KEY (platform_id) REFERENCES platforms (id) ON DELETE CASCADE
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS cmi5_sessions;
