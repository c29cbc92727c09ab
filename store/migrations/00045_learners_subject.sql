-- +goose Up
-- By what name a platform knows a learner: a hash of it.
ALTER TABLE learners ADD COLUMN IF NOT EXISTS subject CHAR(64) NULL, ADD UNIQUE KEY IF NOT EXISTS subject (roster_id, subject);

-- +goose Down
ALTER TABLE learners DROP KEY subject, DROP COLUMN subject;
