-- +goose Up
-- Whom a provider of sign-in knows, and which account here is theirs.
CREATE TABLE IF NOT EXISTS identities (
  issuer VARCHAR(255) NOT NULL,
  subject VARCHAR(255) NOT NULL,
  account_id VARCHAR(26) NOT NULL,
  linked_at DATETIME(3) NOT NULL,
  PRIMARY KEY (issuer, subject),
  FOREIGN KEY (account_id) REFERENCES accounts (id)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS identities;
