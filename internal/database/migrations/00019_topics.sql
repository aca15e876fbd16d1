-- +goose Up
-- The revision at which each topic was last written.
ALTER TABLE revision
    ADD orders BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD batches BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD stores BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD products BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD workshop BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD room BIGINT UNSIGNED NOT NULL DEFAULT 1,
    ADD promises BIGINT UNSIGNED NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE revision
    DROP orders, DROP batches, DROP stores, DROP products, DROP workshop, DROP room, DROP promises;
