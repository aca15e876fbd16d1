-- +goose Up
-- Prints of batches on sheets of one paper, and the PDF that is made of them.
CREATE TABLE print_jobs (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    title VARCHAR(120) NOT NULL,
    batch_ids JSON NOT NULL,
    piece_ids JSON NOT NULL,
    paper JSON NOT NULL,
    trim DOUBLE NOT NULL,
    cut ENUM('none', 'marks', 'print', 'blank') NOT NULL,
    spare BOOLEAN NOT NULL,
    accept_words BOOLEAN NOT NULL,
    shop_sheet DECIMAL(10, 4) NOT NULL,
    costs JSON NOT NULL,
    layout JSON NOT NULL,
    sheets INT UNSIGNED NOT NULL,
    prints INT UNSIGNED NOT NULL,
    state ENUM('making', 'ready', 'stopped', 'failed') NOT NULL DEFAULT 'making',
    done INT UNSIGNED NOT NULL DEFAULT 0,
    failure VARCHAR(300) NOT NULL DEFAULT '',
    file CHAR(64) CHARACTER SET ascii NULL,
    printing BOOLEAN NOT NULL DEFAULT FALSE,
    printed INT UNSIGNED NOT NULL DEFAULT 0,
    -- until when a server has it in hand
    claimed_until DATETIME(6) NULL,
    created_at DATETIME(6) NOT NULL,
    version INT UNSIGNED NOT NULL DEFAULT 1,
    KEY (state, claimed_until),
    KEY (file),
    CHECK (state <> 'ready' OR file IS NOT NULL)
);
-- its prints were taken from the stores when they were printed
ALTER TABLE batches
    ADD prints_taken BOOLEAN NOT NULL DEFAULT FALSE AFTER own_pictures;
ALTER TABLE revision
    ADD prints BIGINT UNSIGNED NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE revision
    DROP prints;
ALTER TABLE batches
    DROP prints_taken;
DROP TABLE print_jobs;
