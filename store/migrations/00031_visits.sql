-- +goose Up
-- Where an account is signed in.
CREATE TABLE IF NOT EXISTS visits (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  account_id VARCHAR(26) NOT NULL,
  device VARCHAR(100) NOT NULL,
  place VARCHAR(60) NOT NULL,
  began_at DATETIME(3) NOT NULL,
  seen_at DATETIME(3) NOT NULL,
  KEY (account_id, seen_at),
  FOREIGN KEY (account_id) REFERENCES accounts (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS visits;
