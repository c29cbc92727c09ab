-- +goose Up
-- A series is kept like an activity: saved, released, deleted and brought back alike.
ALTER TABLE activities ADD COLUMN IF NOT EXISTS form VARCHAR(20) NOT NULL DEFAULT 'activity';
CREATE TABLE IF NOT EXISTS rosters (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  name VARCHAR(200) NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY (workspace_id, name),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS learners (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  roster_id VARCHAR(26) NOT NULL,
  name VARCHAR(200) NOT NULL,
  code VARCHAR(12) NOT NULL,
  time_percent INT NOT NULL DEFAULT 100,
  UNIQUE (roster_id, code),
  FOREIGN KEY (roster_id) REFERENCES rosters (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
ALTER TABLE releases
  ADD COLUMN IF NOT EXISTS form VARCHAR(20) NOT NULL DEFAULT 'activity',
  ADD COLUMN IF NOT EXISTS roster_id VARCHAR(26) NULL,
  ADD COLUMN IF NOT EXISTS opens_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS closes_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS most_each INT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS most INT NOT NULL DEFAULT 0;
CREATE TABLE IF NOT EXISTS runs (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  release_id VARCHAR(26) NOT NULL,
  token VARCHAR(26) NOT NULL UNIQUE,
  learner VARCHAR(200) NOT NULL,
  learner_id BIGINT NULL,
  started_at DATETIME(3) NOT NULL,
  limit_ms BIGINT NOT NULL,
  at_step INT NOT NULL,
  reached INT NOT NULL,
  end_step INT NOT NULL,
  redo VARCHAR(500) NOT NULL DEFAULT '',
  score DECIMAL(12,2) NOT NULL DEFAULT 0,
  percent DECIMAL(7,2) NOT NULL DEFAULT 0,
  KEY (release_id, started_at),
  KEY (learner_id),
  FOREIGN KEY (release_id) REFERENCES releases (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
ALTER TABLE sittings
  ADD COLUMN IF NOT EXISTS learner_id BIGINT NULL,
  ADD COLUMN IF NOT EXISTS limit_ms BIGINT NULL,
  ADD COLUMN IF NOT EXISTS run_id BIGINT NULL,
  ADD COLUMN IF NOT EXISTS step INT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS turn INT NOT NULL DEFAULT 0,
  ADD UNIQUE KEY IF NOT EXISTS run_id (run_id, step, turn),
  ADD KEY IF NOT EXISTS learner_id (learner_id);
CREATE TABLE IF NOT EXISTS draft_links (
  link VARCHAR(26) NOT NULL PRIMARY KEY,
  activity_id VARCHAR(26) NOT NULL,
  secret VARCHAR(26) NOT NULL,
  made_at DATETIME(3) NOT NULL,
  made_by VARCHAR(26) NOT NULL,
  KEY (activity_id),
  FOREIGN KEY (activity_id) REFERENCES activities (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE draft_links;
ALTER TABLE sittings DROP KEY run_id, DROP KEY learner_id, DROP COLUMN learner_id, DROP COLUMN limit_ms, DROP COLUMN run_id, DROP COLUMN step, DROP COLUMN turn;
DROP TABLE runs;
ALTER TABLE releases DROP COLUMN form, DROP COLUMN roster_id, DROP COLUMN opens_at, DROP COLUMN closes_at, DROP COLUMN most_each, DROP COLUMN most;
DROP TABLE learners, rosters;
ALTER TABLE activities DROP COLUMN form;
