-- +goose Up
-- What members say of a draft to each other.
CREATE TABLE IF NOT EXISTS comments (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  activity_id VARCHAR(26) NOT NULL,
  part VARCHAR(80) NOT NULL DEFAULT '',
  text VARCHAR(2000) NOT NULL,
  said_by VARCHAR(26) NOT NULL,
  said_at DATETIME(3) NOT NULL,
  done_by VARCHAR(26) NULL,
  done_at DATETIME(3) NULL,
  KEY (activity_id, said_at),
  FOREIGN KEY (activity_id) REFERENCES activities (id),
  FOREIGN KEY (said_by) REFERENCES accounts (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS comments;
