-- +goose Up
-- like steps of several lots that are taken up together, under one timer
CREATE TABLE sittings (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    taken_up_at DATETIME(6) NOT NULL
);
ALTER TABLE runs
    ADD sitting_id BIGINT UNSIGNED NULL AFTER person_id,
    ADD share DOUBLE NOT NULL DEFAULT 1 AFTER worked_seconds,
    ADD CONSTRAINT runs_sitting FOREIGN KEY (sitting_id) REFERENCES sittings (id);

-- +goose Down
ALTER TABLE runs
    DROP FOREIGN KEY runs_sitting,
    DROP sitting_id,
    DROP share;
DROP TABLE sittings;
