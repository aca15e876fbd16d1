-- +goose Up
-- hours that somebody works on one day, beside those of their week
CREATE TABLE extra_hours (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    person_id BIGINT UNSIGNED NOT NULL,
    day DATE NOT NULL,
    from_minute SMALLINT UNSIGNED NOT NULL,
    to_minute SMALLINT UNSIGNED NOT NULL,
    FOREIGN KEY (person_id) REFERENCES people (id)
);

-- +goose Down
DROP TABLE extra_hours;
