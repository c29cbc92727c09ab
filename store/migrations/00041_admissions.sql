-- +goose Up
-- What a launch lets its page do: by a ticket that is used once, then by what was given for it.
CREATE TABLE IF NOT EXISTS admissions (
  ticket CHAR(64) NOT NULL PRIMARY KEY,
  pass CHAR(64) NULL UNIQUE,
  platform_id VARCHAR(26) NOT NULL,
  arrival_id BIGINT NULL,
  kind VARCHAR(20) NOT NULL,
  link VARCHAR(26) NOT NULL DEFAULT '',
  launch TEXT NOT NULL,
  until_at DATETIME(3) NOT NULL,
  KEY (until_at),
  FOREIGN KEY (platform_id) REFERENCES platforms (id) ON DELETE CASCADE
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS admissions;
