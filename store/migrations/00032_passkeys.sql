-- +goose Up
-- Passkeys of accounts: what is public of them.
CREATE TABLE IF NOT EXISTS passkeys (
  id CHAR(64) NOT NULL PRIMARY KEY,
  account_id VARCHAR(26) NOT NULL,
  name VARCHAR(100) NOT NULL,
  credential TEXT NOT NULL,
  made_at DATETIME(3) NOT NULL,
  used_at DATETIME(3) NULL,
  KEY (account_id),
  FOREIGN KEY (account_id) REFERENCES accounts (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS passkeys;
