-- +goose Up
-- what ends the server each time it is made is given up
ALTER TABLE print_jobs
    ADD tries TINYINT UNSIGNED NOT NULL DEFAULT 0 AFTER claimed_until;

-- +goose Down
ALTER TABLE print_jobs
    DROP tries;
