-- +goose Up
-- How a picture lies on its blank and what is lettered; null before anybody said so.
-- printed is what the pixels of that print say, of which picture.
ALTER TABLE products
    ADD design JSON NULL AFTER artwork_id,
    ADD printed JSON NULL AFTER design,
    -- each piece has a picture of its customer's
    ADD own_pictures BOOLEAN NOT NULL DEFAULT FALSE AFTER lettered;
ALTER TABLE batches
    ADD design JSON NULL AFTER artwork_id,
    ADD own_pictures BOOLEAN NOT NULL DEFAULT FALSE AFTER design;
ALTER TABLE wants
    ADD artwork_id BIGINT UNSIGNED NULL,
    ADD CONSTRAINT wants_artwork FOREIGN KEY (artwork_id) REFERENCES artworks (id);
ALTER TABLE pieces
    ADD artwork_id BIGINT UNSIGNED NULL,
    ADD CONSTRAINT pieces_artwork FOREIGN KEY (artwork_id) REFERENCES artworks (id);

-- +goose Down
ALTER TABLE pieces
    DROP FOREIGN KEY pieces_artwork,
    DROP artwork_id;
ALTER TABLE wants
    DROP FOREIGN KEY wants_artwork,
    DROP artwork_id;
ALTER TABLE batches
    DROP own_pictures,
    DROP design;
ALTER TABLE products
    DROP own_pictures,
    DROP printed,
    DROP design;
