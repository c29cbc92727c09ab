-- +goose Up
-- What one transaction at a time may do, on whichever of several databases that keep the
-- same: there a row that is only locked is locked for its own database alone.
CREATE TABLE IF NOT EXISTS guards (
  name VARCHAR(120) NOT NULL PRIMARY KEY,
  n BIGINT NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY (at)
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS guards;
