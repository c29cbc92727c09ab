-- +goose Up
INSERT IGNORE INTO begins (release_id, learner_id, n)
  SELECT release_id, learner_id, COUNT(*) FROM (
    SELECT release_id, learner_id FROM sittings WHERE learner_id IS NOT NULL AND run_id IS NULL
    UNION ALL SELECT release_id, learner_id FROM runs WHERE learner_id IS NOT NULL) x
  GROUP BY release_id, learner_id;

-- +goose Down
DELETE FROM begins;
