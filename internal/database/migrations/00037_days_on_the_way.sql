-- +goose Up
-- how many days an order is on its way after its hand-over
ALTER TABLE orders
    ADD days_on_the_way TINYINT UNSIGNED NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE orders
    DROP days_on_the_way;
