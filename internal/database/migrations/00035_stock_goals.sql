-- +goose Up
-- how many of a product are to lie ready on its shelf by a day; none where goal_on is null
ALTER TABLE products
    ADD goal_pieces SMALLINT UNSIGNED NOT NULL DEFAULT 0,
    ADD goal_on DATE NULL;

-- +goose Down
ALTER TABLE products
    DROP goal_pieces,
    DROP goal_on;
