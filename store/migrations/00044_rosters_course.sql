-- +goose Up
-- The course of a platform that a roster is of: a hash of the platform, the deployment and the course.
ALTER TABLE rosters ADD COLUMN IF NOT EXISTS course CHAR(64) NULL, ADD UNIQUE KEY IF NOT EXISTS course (course);

-- +goose Down
ALTER TABLE rosters DROP KEY course, DROP COLUMN course;
