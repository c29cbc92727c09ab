-- +goose Up
CREATE TABLE words (
  workspace_id VARCHAR(26) NOT NULL,
  lang VARCHAR(35) NOT NULL,
  body TEXT NOT NULL,
  PRIMARY KEY (workspace_id, lang),
  FOREIGN KEY (workspace_id) REFERENCES workspaces (id)
);

-- +goose Down
DROP TABLE words;
