-- +goose Up
-- a piece without a batch was found at a count of the shelf
ALTER TABLE pieces
  ADD product_id BIGINT UNSIGNED NULL AFTER id,
  MODIFY batch_id BIGINT UNSIGNED NULL,
  MODIFY lot_id BIGINT UNSIGNED NULL,
  -- gone: broken, lost or not found when the shelf was counted
  MODIFY state ENUM('working', 'finished', 'spoiled', 'handed_over', 'abandoned', 'gone') NOT NULL,
  -- what a good piece of its batch really cost, known once the batch is closed
  ADD unit_cost DECIMAL(14,4) NULL CHECK (unit_cost >= 0);
UPDATE pieces JOIN batches ON batches.id = pieces.batch_id SET pieces.product_id = batches.product_id;
ALTER TABLE pieces
  MODIFY product_id BIGINT UNSIGNED NOT NULL,
  ADD FOREIGN KEY (product_id) REFERENCES products (id),
  ADD INDEX (product_id, state, want_id);
CREATE TABLE shelf_movements (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  product_id BIGINT UNSIGNED NOT NULL,
  cause ENUM('count', 'spoil', 'loss') NOT NULL,
  -- came, or went when negative
  pieces SMALLINT NOT NULL,
  note VARCHAR(200) NOT NULL,
  at DATETIME(6) NOT NULL,
  reverses BIGINT UNSIGNED NULL UNIQUE,
  INDEX (product_id, at),
  FOREIGN KEY (product_id) REFERENCES products (id),
  FOREIGN KEY (reverses) REFERENCES shelf_movements (id)
);
CREATE TABLE shelf_movement_pieces (
  movement_id BIGINT UNSIGNED NOT NULL,
  piece_id BIGINT UNSIGNED NOT NULL,
  PRIMARY KEY (movement_id, piece_id),
  FOREIGN KEY (movement_id) REFERENCES shelf_movements (id),
  FOREIGN KEY (piece_id) REFERENCES pieces (id)
);

-- +goose Down
DROP TABLE shelf_movement_pieces;
DROP TABLE shelf_movements;
UPDATE pieces SET state = 'spoiled', want_id = NULL, finished_at = NULL WHERE state = 'gone';
DELETE FROM pieces WHERE batch_id IS NULL;
ALTER TABLE pieces
  DROP FOREIGN KEY pieces_ibfk_4,
  DROP INDEX product_id,
  DROP product_id,
  DROP unit_cost,
  MODIFY batch_id BIGINT UNSIGNED NOT NULL,
  MODIFY lot_id BIGINT UNSIGNED NOT NULL,
  MODIFY state ENUM('working', 'finished', 'spoiled', 'handed_over', 'abandoned') NOT NULL;
