-- +goose Up
CREATE TABLE suppliers (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL UNIQUE
);
ALTER TABLE materials
  MODIFY kind ENUM('blank', 'medium', 'paint', 'sealer', 'paper', 'film', 'toner', 'ink', 'consumable', 'finish', 'packing', 'energy') NOT NULL,
  -- unit_cost is the average of what is left, and the last known while nothing is
  ADD latest_cost DECIMAL(18,6) NULL,
  -- the wet film of one coat
  ADD film_mm DECIMAL(8,4) NULL CHECK (film_mm > 0),
  -- grams per millilitre
  ADD density DECIMAL(8,4) NULL CHECK (density > 0),
  -- pieces, or uses, that a unit lasts
  ADD lasts DECIMAL(12,3) NULL CHECK (lasts > 0),
  ADD sheet_width_mm DECIMAL(8,2) NULL CHECK (sheet_width_mm > 0),
  ADD sheet_height_mm DECIMAL(8,2) NULL CHECK (sheet_height_mm > 0),
  -- days it keeps from its purchase, and once it is opened
  ADD shelf_life_days INT UNSIGNED NULL,
  ADD open_life_days INT UNSIGNED NULL,
  -- days from ordering it until it is there
  ADD lead_days SMALLINT UNSIGNED NOT NULL DEFAULT 5,
  ADD hazard VARCHAR(500) NOT NULL DEFAULT '',
  -- natural blanks that are sorted into classes bear the name of the sort, and the smallest of each class
  ADD sort VARCHAR(80) NOT NULL DEFAULT '',
  ADD smallest_mm DECIMAL(8,2) NULL CHECK (smallest_mm > 0),
  -- whether its stock is kept count of; it is from the first purchase or count on
  ADD counted BOOLEAN NOT NULL DEFAULT FALSE,
  ADD counted_at DATETIME(6) NULL,
  ADD on_hand DECIMAL(18,6) NOT NULL DEFAULT 0 CHECK (on_hand >= 0),
  ADD archived_at DATETIME(6) NULL,
  ADD version INT UNSIGNED NOT NULL DEFAULT 1,
  ADD INDEX (archived_at, kind, name);
UPDATE materials SET film_mm = CASE
    WHEN material_key IN ('gel-medium', 'craft-glue') THEN 0.7 WHEN material_key = 'photo-medium' THEN 1.0
    WHEN kind = 'medium' THEN 0.3 ELSE 0.1 END
  WHERE unit = 'ml' AND kind IN ('medium', 'paint', 'sealer') AND material_key NOT LIKE '%spray%';
UPDATE materials SET film_mm = 1 WHERE material_key = 'resin';
UPDATE materials SET sheet_width_mm = 210, sheet_height_mm = 297 WHERE material_key IN ('copy-paper', 'decal-clear', 'decal-white');
UPDATE materials SET hazard = 'Flammable aerosol: ventilate, no flame or hot surface, an hour apart from hot air.' WHERE material_key IN ('spray-acrylic', 'ground-spray');
UPDATE materials SET hazard = 'Solvent: ventilate, gloves, no flame. Rags can self-heat: dry flat outdoors, or a lidded metal tin with water.' WHERE material_key IN ('solvent', 'white-ink', 'degreaser');
UPDATE materials SET hazard = 'Skin sensitiser: gloves, ventilation, exact mixing ratio, pot life.' WHERE material_key = 'resin';
UPDATE materials SET sort = 'Wood slice', smallest_mm = 86 WHERE material_key = 'slice-90';
UPDATE materials SET sort = 'Wood slice', smallest_mm = 112 WHERE material_key = 'slice-120';
INSERT INTO materials (material_key, name, kind, unit, unit_cost) VALUES ('electricity', 'Electricity', 'energy', 'kWh', 0.32);
CREATE TABLE receipts (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  supplier_id BIGINT UNSIGNED NOT NULL,
  received_on DATE NOT NULL,
  shipping DECIMAL(14,4) NOT NULL CHECK (shipping >= 0),
  tax DECIMAL(14,4) NOT NULL CHECK (tax >= 0),
  tax_is_cost BOOLEAN NOT NULL,
  note VARCHAR(500) NOT NULL,
  recorded_at DATETIME(6) NOT NULL,
  reversed_at DATETIME(6) NULL,
  INDEX (received_on, id),
  FOREIGN KEY (supplier_id) REFERENCES suppliers (id)
);
-- a purchase without a receipt was found at a count
CREATE TABLE purchases (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  receipt_id BIGINT UNSIGNED NULL,
  material_id BIGINT UNSIGNED NOT NULL,
  received_on DATE NOT NULL,
  packs INT UNSIGNED NOT NULL,
  pack VARCHAR(60) NOT NULL,
  pack_quantity DECIMAL(18,6) NOT NULL CHECK (pack_quantity > 0),
  -- what was good, in the material's unit; rejects came on top
  quantity DECIMAL(18,6) NOT NULL CHECK (quantity > 0),
  rejects DECIMAL(18,6) NOT NULL CHECK (rejects >= 0),
  price DECIMAL(14,4) NOT NULL CHECK (price >= 0),
  extra DECIMAL(14,4) NOT NULL CHECK (extra >= 0),
  left_quantity DECIMAL(18,6) NOT NULL CHECK (left_quantity BETWEEN 0 AND quantity),
  opened_at DATETIME(6) NULL,
  INDEX (material_id, received_on),
  INDEX (left_quantity),
  FOREIGN KEY (receipt_id) REFERENCES receipts (id),
  FOREIGN KEY (material_id) REFERENCES materials (id)
);
CREATE TABLE movements (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  material_id BIGINT UNSIGNED NOT NULL,
  cause ENUM('purchase', 'batch', 'spoil', 'count', 'loss') NOT NULL,
  quantity DECIMAL(18,6) NOT NULL,
  -- frozen: the average of what was left when it moved
  unit_cost DECIMAL(18,6) NOT NULL CHECK (unit_cost >= 0),
  -- whether stock was kept count of then
  counted BOOLEAN NOT NULL,
  batch_id BIGINT UNSIGNED NULL,
  run_id BIGINT UNSIGNED NULL,
  receipt_id BIGINT UNSIGNED NULL,
  at DATETIME(6) NOT NULL,
  note VARCHAR(300) NOT NULL,
  reverses BIGINT UNSIGNED NULL UNIQUE,
  INDEX (material_id, at, id),
  INDEX (batch_id),
  INDEX (run_id),
  FOREIGN KEY (material_id) REFERENCES materials (id),
  FOREIGN KEY (batch_id) REFERENCES batches (id),
  FOREIGN KEY (receipt_id) REFERENCES receipts (id),
  FOREIGN KEY (reverses) REFERENCES movements (id)
);
-- which purchases a movement added to or took from
CREATE TABLE movement_parts (
  movement_id BIGINT UNSIGNED NOT NULL,
  purchase_id BIGINT UNSIGNED NOT NULL,
  quantity DECIMAL(18,6) NOT NULL,
  PRIMARY KEY (movement_id, purchase_id),
  INDEX (purchase_id),
  FOREIGN KEY (movement_id) REFERENCES movements (id),
  FOREIGN KEY (purchase_id) REFERENCES purchases (id)
);
-- a batch keeps the picture it was made with, as it keeps its blank
ALTER TABLE batches ADD picture JSON NOT NULL DEFAULT '{}' AFTER blank;
UPDATE batches JOIN products ON products.id = batches.product_id SET batches.picture = products.picture;
ALTER TABLE workshop ADD tax_is_cost BOOLEAN NOT NULL DEFAULT TRUE AFTER margin_percent;

-- +goose Down
ALTER TABLE workshop DROP tax_is_cost;
ALTER TABLE batches DROP picture;
DROP TABLE movement_parts, movements, purchases, receipts;
DELETE FROM materials WHERE material_key = 'electricity';
ALTER TABLE materials DROP INDEX archived_at, DROP version, DROP archived_at, DROP on_hand, DROP counted_at, DROP counted, DROP smallest_mm, DROP sort, DROP hazard,
  DROP lead_days, DROP open_life_days, DROP shelf_life_days, DROP sheet_height_mm, DROP sheet_width_mm, DROP lasts, DROP density, DROP film_mm, DROP latest_cost,
  MODIFY kind ENUM('blank', 'medium', 'paint', 'sealer', 'paper', 'film', 'toner', 'ink', 'consumable', 'finish', 'packing') NOT NULL;
DROP TABLE suppliers;
