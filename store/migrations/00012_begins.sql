-- +goose Up
-- How often a learner of a roster has begun a release. It stays when names are forgotten,
-- and does not say which sittings were theirs.
CREATE TABLE IF NOT EXISTS begins (
  release_id VARCHAR(26) NOT NULL,
  learner_id BIGINT NOT NULL,
  n INT NOT NULL,
  PRIMARY KEY (release_id, learner_id),
  FOREIGN KEY (release_id) REFERENCES releases (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE begins;
