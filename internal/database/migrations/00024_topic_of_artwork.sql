-- +goose Up
-- The studio's own name among those that keep files in one place.
ALTER TABLE revision
    ADD artwork BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD studio CHAR(36) CHARACTER SET ascii NOT NULL DEFAULT (UUID());

-- +goose Down
ALTER TABLE revision
    DROP studio,
    DROP artwork;
