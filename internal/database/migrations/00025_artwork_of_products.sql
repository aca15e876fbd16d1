-- +goose Up
ALTER TABLE products
    ADD artwork_id BIGINT UNSIGNED NULL AFTER picture,
    ADD CONSTRAINT products_artwork FOREIGN KEY (artwork_id) REFERENCES artworks (id);

-- +goose Down
ALTER TABLE products
    DROP FOREIGN KEY products_artwork,
    DROP artwork_id;
