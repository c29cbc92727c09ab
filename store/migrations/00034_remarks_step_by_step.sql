-- +goose Up
-- A re-mark is applied, or taken back, so many sittings at a time: what is being done to
-- them, and up to which one.
ALTER TABLE remarks
  ADD COLUMN IF NOT EXISTS doing VARCHAR(10) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS done_to BIGINT NOT NULL DEFAULT 0,
  ADD KEY IF NOT EXISTS under_way (doing);

-- +goose Down
ALTER TABLE remarks DROP COLUMN doing, DROP COLUMN done_to;
