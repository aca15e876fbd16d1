-- +goose Up
-- What the customer said of a piece as it will look. shown is a fingerprint of how it
-- looked then: what is changed after that is not what was approved.
CREATE TABLE proofs (
    want_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
    shown CHAR(64) CHARACTER SET ascii NOT NULL,
    state ENUM('shown', 'approved', 'change') NOT NULL,
    note VARCHAR(400) NOT NULL DEFAULT '',
    at DATETIME(6) NOT NULL,
    CONSTRAINT proofs_want FOREIGN KEY (want_id) REFERENCES wants (id) ON DELETE CASCADE
);

-- +goose Down
DROP TABLE proofs;
