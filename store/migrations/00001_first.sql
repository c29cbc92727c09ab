-- +goose Up
CREATE TABLE IF NOT EXISTS workspaces (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  name VARCHAR(200) NOT NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS accounts (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  email VARCHAR(200) NOT NULL UNIQUE,
  name VARCHAR(200) NOT NULL,
  password_hash VARCHAR(200) NOT NULL
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS members (
  workspace_id VARCHAR(26) NOT NULL,
  account_id VARCHAR(26) NOT NULL,
  role VARCHAR(20) NOT NULL,
  PRIMARY KEY (account_id, workspace_id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id),
  FOREIGN KEY (account_id) REFERENCES accounts (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS sessions (
  token CHAR(43) NOT NULL PRIMARY KEY,
  data BLOB NOT NULL,
  expiry TIMESTAMP(6) NOT NULL,
  KEY (expiry)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS activities (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  workspace_id VARCHAR(26) NOT NULL,
  title VARCHAR(200) NOT NULL,
  revision INT NOT NULL,
  document LONGTEXT NOT NULL,
  created_at DATETIME(3) NOT NULL,
  saved_at DATETIME(3) NOT NULL,
  saved_by VARCHAR(26) NOT NULL,
  KEY (workspace_id, saved_at),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS revisions (
  activity_id VARCHAR(26) NOT NULL,
  revision INT NOT NULL,
  document LONGTEXT NOT NULL,
  saved_at DATETIME(3) NOT NULL,
  saved_by VARCHAR(26) NOT NULL,
  PRIMARY KEY (activity_id, revision),
  FOREIGN KEY (activity_id) REFERENCES activities (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS releases (
  id VARCHAR(26) NOT NULL PRIMARY KEY,
  activity_id VARCHAR(26) NOT NULL,
  number INT NOT NULL,
  link VARCHAR(26) NOT NULL UNIQUE,
  document LONGTEXT NOT NULL,
  names LONGTEXT NOT NULL,
  semantics INT NOT NULL,
  released_at DATETIME(3) NOT NULL,
  released_by VARCHAR(26) NOT NULL,
  UNIQUE (activity_id, number),
  FOREIGN KEY (activity_id) REFERENCES activities (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS sittings (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  release_id VARCHAR(26) NOT NULL,
  token VARCHAR(26) NOT NULL UNIQUE,
  learner VARCHAR(200) NOT NULL,
  semantics INT NOT NULL,
  started_at DATETIME(3) NOT NULL,
  seed BIGINT UNSIGNED NOT NULL,
  phase VARCHAR(20) NOT NULL,
  attempts INT NOT NULL,
  score DECIMAL(12,2) NOT NULL,
  percent DECIMAL(7,2) NOT NULL,
  outcome VARCHAR(20) NOT NULL,
  KEY (release_id, started_at),
  FOREIGN KEY (release_id) REFERENCES releases (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS moves (
  sitting_id BIGINT NOT NULL,
  n INT NOT NULL,
  body TEXT NOT NULL,
  result VARCHAR(20) NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (sitting_id, n),
  FOREIGN KEY (sitting_id) REFERENCES sittings (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS media (
  workspace_id VARCHAR(26) NOT NULL,
  id CHAR(64) NOT NULL,
  type VARCHAR(60) NOT NULL,
  bytes INT NOT NULL,
  added_at DATETIME(3) NOT NULL,
  PRIMARY KEY (workspace_id, id),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;
CREATE TABLE IF NOT EXISTS media_chunks (
  id CHAR(64) NOT NULL,
  part INT NOT NULL,
  body MEDIUMBLOB NOT NULL,
  PRIMARY KEY (id, part)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE media_chunks, media, moves, sittings, releases, revisions, activities, sessions, members, accounts, workspaces;
