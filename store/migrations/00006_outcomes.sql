-- +goose Up
-- What each sitting gives to the figures, by the document that counts: the release's
-- own (stage '') or that of a re-mark. It can be made again from the log.
CREATE TABLE IF NOT EXISTS tallies (
  release_id VARCHAR(26) NOT NULL,
  stage VARCHAR(26) NOT NULL,
  sitting_id BIGINT NOT NULL,
  moves INT NOT NULL,
  body BLOB NOT NULL,
  PRIMARY KEY (release_id, stage, sitting_id),
  KEY (sitting_id),
  FOREIGN KEY (sitting_id) REFERENCES sittings (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
ALTER TABLE sittings
  ADD COLUMN IF NOT EXISTS took_ms BIGINT NOT NULL DEFAULT 0,
  ADD KEY IF NOT EXISTS of_release (release_id, run_id),
  ADD KEY IF NOT EXISTS by_phase (release_id, phase, run_id);
UPDATE sittings s SET took_ms = COALESCE((SELECT JSON_VALUE(m.body, '$.t') FROM moves m WHERE m.sitting_id = s.id ORDER BY m.n DESC LIMIT 1), 0);
-- A re-mark is looked at first. Until it is applied it counts as taken back, for the
-- version before this one too.
ALTER TABLE remarks ADD COLUMN IF NOT EXISTS applied_at DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS revision INT NOT NULL DEFAULT 0;
UPDATE remarks SET applied_at = made_at;
ALTER TABLE remarked ADD COLUMN IF NOT EXISTS gone INT NOT NULL DEFAULT 0;
ALTER TABLE members ADD COLUMN IF NOT EXISTS owner BOOLEAN NOT NULL DEFAULT FALSE;
-- Who of them began the workspace is not known: all who could do everything still can.
UPDATE members SET owner = TRUE WHERE role = 'designer';
ALTER TABLE workspaces
  ADD COLUMN IF NOT EXISTS names_for VARCHAR(20) NOT NULL DEFAULT 'members',
  ADD COLUMN IF NOT EXISTS names_days INT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS least_group INT NOT NULL DEFAULT 0;
CREATE TABLE IF NOT EXISTS records (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  at DATETIME(3) NOT NULL,
  account_name VARCHAR(200) NOT NULL,
  what VARCHAR(30) NOT NULL,
  about VARCHAR(300) NOT NULL,
  detail VARCHAR(500) NOT NULL,
  KEY (workspace_id, at),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE records;
ALTER TABLE workspaces DROP COLUMN names_for, DROP COLUMN names_days, DROP COLUMN least_group;
ALTER TABLE members DROP COLUMN owner;
ALTER TABLE remarked DROP COLUMN gone;
DELETE d FROM remarked d JOIN remarks k ON k.id = d.remark_id WHERE k.applied_at IS NULL;
DELETE FROM remarks WHERE applied_at IS NULL;
ALTER TABLE remarks DROP COLUMN applied_at, DROP COLUMN revision;
ALTER TABLE sittings DROP COLUMN took_ms, DROP KEY of_release, DROP KEY by_phase;
DROP TABLE tallies;
