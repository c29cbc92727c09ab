-- +goose Up
-- Logins that have gone to a platform and are good for one answer, in the same browser.
CREATE TABLE IF NOT EXISTS platform_logins (
  state VARCHAR(26) NOT NULL PRIMARY KEY,
  nonce VARCHAR(26) NOT NULL,
  proof VARCHAR(26) NOT NULL,
  platform_id VARCHAR(26) NOT NULL,
  storage VARCHAR(200) NOT NULL DEFAULT '',
  made_at DATETIME(3) NOT NULL,
  KEY (made_at),
  FOREIGN KEY (platform_id) REFERENCES platforms (id) ON DELETE CASCADE
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS platform_logins;
