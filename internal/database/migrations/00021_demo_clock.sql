-- +goose Up
-- Where the clock of the demo stands; empty outside the demo.
CREATE TABLE demo_clock (
    id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
    stands_at DATETIME(3) NOT NULL
);

-- +goose Down
DROP TABLE demo_clock;
