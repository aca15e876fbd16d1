-- +goose Up
-- batches suggested that nobody wants so
CREATE TABLE dismissed_suggestions (
    suggestion CHAR(32) NOT NULL PRIMARY KEY,
    dismissed_at DATETIME(6) NOT NULL
);

-- +goose Down
DROP TABLE dismissed_suggestions;
