-- +goose Up
CREATE TABLE IF NOT EXISTS words (
  workspace_id VARCHAR(26) NOT NULL,
  lang VARCHAR(35) NOT NULL,
  body TEXT NOT NULL,
  PRIMARY KEY (workspace_id, lang),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- +goose Down
DROP TABLE words;
