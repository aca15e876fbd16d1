-- +goose Up
-- what a batch was made up with; the picture's files stay as long as it does
ALTER TABLE batches
    ADD artwork_id BIGINT UNSIGNED NULL AFTER picture,
    ADD CONSTRAINT batches_artwork FOREIGN KEY (artwork_id) REFERENCES artworks (id);

-- +goose Down
ALTER TABLE batches
    DROP FOREIGN KEY batches_artwork,
    DROP artwork_id;
