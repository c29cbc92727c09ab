-- +goose Up
-- Who has come by a link of a platform, and where their grade goes. place is a hash of the
-- platform, the deployment, the link and who it is.
CREATE TABLE IF NOT EXISTS arrivals (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  place CHAR(64) NOT NULL UNIQUE,
  platform_id VARCHAR(26) NOT NULL,
  link_id CHAR(64) NOT NULL,
  roster_id VARCHAR(26) NULL,
  learner_id BIGINT NULL,
  launch TEXT NOT NULL,
  line_item VARCHAR(1000) NOT NULL DEFAULT '',
  arrived_at DATETIME(3) NOT NULL,
  KEY (platform_id, link_id),
  KEY (learner_id),
  FOREIGN KEY (platform_id) REFERENCES platforms (id) ON DELETE CASCADE
) ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE IF EXISTS arrivals;
