-- +goose Up
CREATE TABLE materials (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  material_key VARCHAR(60) NOT NULL UNIQUE,
  name VARCHAR(120) NOT NULL,
  kind ENUM('blank', 'medium', 'paint', 'sealer', 'paper', 'toner', 'consumable', 'finish', 'packing') NOT NULL,
  unit VARCHAR(20) NOT NULL,
  unit_cost DECIMAL(18,6) NOT NULL CHECK (unit_cost >= 0)
);
INSERT INTO materials (material_key, name, kind, unit, unit_cost) VALUES
  ('slice-90', 'Wood slice, 90 mm', 'blank', 'piece', 0.92),
  ('slice-120', 'Wood slice, 120 mm', 'blank', 'piece', 1.35),
  ('pine-board', 'Pine board, cut to size', 'blank', 'piece', 2.80),
  ('plain-blank', 'Plain wooden blank', 'blank', 'piece', 1.50),
  ('gel-medium', 'Gel medium', 'medium', 'ml', 0.04375),
  ('base-paint', 'Light base paint', 'paint', 'ml', 0.021),
  ('varnish', 'Water-based varnish', 'sealer', 'ml', 0.0264),
  ('copy-paper', 'Copy paper, 80 g', 'paper', 'sheet', 0.012),
  ('toner-print', 'Toner, rated page', 'toner', 'page', 0.09),
  ('sandpaper', 'Sandpaper, sheet', 'consumable', 'sheet', 0.55),
  ('foam-brush', 'Foam brush', 'consumable', 'piece', 0.60),
  ('cord', 'Cord', 'finish', 'm', 0.16),
  ('card-box', 'Card sleeve', 'packing', 'piece', 0.24);
CREATE TABLE products (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  method VARCHAR(40) NOT NULL,
  look ENUM('crisp', 'weathered') NOT NULL,
  blank JSON NOT NULL,
  lettered BOOLEAN NOT NULL,
  price DECIMAL(14,4) NOT NULL CHECK (price >= 0),
  recipe_id BIGINT UNSIGNED NULL,
  created_at DATETIME(6) NOT NULL,
  archived_at DATETIME(6) NULL,
  version INT UNSIGNED NOT NULL
);
CREATE TABLE recipes (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  product_id BIGINT UNSIGNED NOT NULL,
  number INT UNSIGNED NOT NULL,
  document JSON NOT NULL,
  created_at DATETIME(6) NOT NULL,
  UNIQUE (product_id, number),
  FOREIGN KEY (product_id) REFERENCES products (id)
);
ALTER TABLE products ADD FOREIGN KEY (recipe_id) REFERENCES recipes (id);

-- +goose Down
ALTER TABLE products DROP FOREIGN KEY products_ibfk_1;
DROP TABLE recipes;
DROP TABLE products;
DROP TABLE materials;
