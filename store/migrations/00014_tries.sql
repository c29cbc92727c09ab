-- +goose Up
-- Wrong codes and passwords, and how much one address has asked for: counted here for all
-- servers.
CREATE TABLE IF NOT EXISTS tries (
  what VARCHAR(20) NOT NULL,
  who CHAR(43) NOT NULL,
  n INT NOT NULL,
  until_at DATETIME(3) NOT NULL,
  forgotten_at DATETIME(3) NOT NULL,
  PRIMARY KEY (what, who),
  KEY (forgotten_at)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE tries;
