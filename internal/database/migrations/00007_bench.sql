-- +goose Up
ALTER TABLE batches
  ADD blank JSON NOT NULL DEFAULT '{}' AFTER recipe,
  -- what a pilot piece proves: method, medium, blank and paper together
  ADD signature VARCHAR(255) NOT NULL DEFAULT '' AFTER blank,
  -- the step that a pilot piece must be through
  ADD proof_step INT UNSIGNED NOT NULL DEFAULT 0 AFTER signature,
  ADD pilot_lot INT UNSIGNED NULL AFTER proof_step,
  ADD INDEX batches_signature (product_id, signature);
UPDATE batches JOIN products ON products.id = batches.product_id SET batches.blank = products.blank;
ALTER TABLE outcomes MODIFY result ENUM('good', 'again', 'rework', 'spoiled') NOT NULL;

-- +goose Down
ALTER TABLE outcomes MODIFY result ENUM('good', 'again', 'spoiled') NOT NULL;
ALTER TABLE batches DROP INDEX batches_signature, DROP pilot_lot, DROP proof_step, DROP signature, DROP blank;
