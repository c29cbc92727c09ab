-- +goose Up
CREATE TABLE IF NOT EXISTS remarks (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  release_id VARCHAR(26) NOT NULL,
  document LONGTEXT NOT NULL,
  made_at DATETIME(3) NOT NULL,
  made_by VARCHAR(26) NOT NULL,
  reverted_at DATETIME(3) NULL,
  KEY (release_id, made_at),
  FOREIGN KEY (release_id) REFERENCES releases (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS remarked (
  remark_id VARCHAR(26) NOT NULL,
  sitting_id BIGINT NOT NULL,
  was_remark VARCHAR(26) NULL,
  was_attempts INT NOT NULL,
  was_score DECIMAL(12,2) NOT NULL,
  was_percent DECIMAL(7,2) NOT NULL,
  was_outcome VARCHAR(20) NOT NULL,
  attempts INT NOT NULL,
  score DECIMAL(12,2) NOT NULL,
  percent DECIMAL(7,2) NOT NULL,
  outcome VARCHAR(20) NOT NULL,
  PRIMARY KEY (remark_id, sitting_id),
  FOREIGN KEY (remark_id) REFERENCES remarks (id),
  FOREIGN KEY (sitting_id) REFERENCES sittings (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
ALTER TABLE sittings ADD COLUMN IF NOT EXISTS remark_id VARCHAR(26) NULL;

-- +goose Down
ALTER TABLE sittings DROP COLUMN remark_id;
DROP TABLE remarked, remarks;
