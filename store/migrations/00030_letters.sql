-- +goose Up
-- Mail that is to go out. What has gone is not kept: it holds addresses and links.
CREATE TABLE IF NOT EXISTS letters (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  recipient VARCHAR(200) NOT NULL,
  subject VARCHAR(500) NOT NULL,
  body TEXT NOT NULL,
  made_at DATETIME(3) NOT NULL,
  until_at DATETIME(3) NOT NULL,
  next_at DATETIME(3) NOT NULL,
  tries INT NOT NULL DEFAULT 0,
  says VARCHAR(500) NOT NULL DEFAULT '',
  KEY (next_at)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS letters;
