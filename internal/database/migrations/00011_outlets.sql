-- +goose Up
-- the ways of selling; the main one's price is the product's own
CREATE TABLE outlets (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  main BOOLEAN NOT NULL,
  fee_percent DECIMAL(6,3) NOT NULL CHECK (fee_percent >= 0),
  fee_fixed DECIMAL(14,4) NOT NULL CHECK (fee_fixed >= 0),
  card_percent DECIMAL(6,3) NOT NULL CHECK (card_percent >= 0),
  card_fixed DECIMAL(14,4) NOT NULL CHECK (card_fixed >= 0),
  tax_percent DECIMAL(6,3) NOT NULL CHECK (tax_percent BETWEEN 0 AND 99.999),
  tax_in_price BOOLEAN NOT NULL,
  -- cents that tags end on
  ending TINYINT UNSIGNED NULL CHECK (ending <= 99),
  -- what its prices are set for: a margin in per cent, a wage per hour, or a share of the main price in per cent
  target ENUM('margin', 'wage', 'share') NOT NULL,
  target_value DECIMAL(14,4) NOT NULL CHECK (target_value >= 0),
  archived_at DATETIME(6) NULL,
  version INT UNSIGNED NOT NULL
);
INSERT INTO outlets (name, main, fee_percent, fee_fixed, card_percent, card_fixed, tax_percent, tax_in_price, ending, target, target_value, version)
  SELECT 'Shop page', TRUE, fee_percent, fee_fixed, 0, 0, 0, TRUE, NULL, 'margin', margin_percent, 1 FROM workshop;
INSERT INTO outlets (name, main, fee_percent, fee_fixed, card_percent, card_fixed, tax_percent, tax_in_price, ending, target, target_value, version) VALUES
  ('Stall', FALSE, 0, 0, 1.75, 0, 0, TRUE, 50, 'margin', 30, 1),
  ('Trade', FALSE, 0, 0, 0, 0, 0, TRUE, NULL, 'share', 60, 1);
-- what is asked at outlets other than the main one; without a row it is what the outlet's target comes to
CREATE TABLE prices (
  product_id BIGINT UNSIGNED NOT NULL,
  outlet_id BIGINT UNSIGNED NOT NULL,
  price DECIMAL(14,4) NOT NULL CHECK (price >= 0),
  PRIMARY KEY (product_id, outlet_id),
  FOREIGN KEY (product_id) REFERENCES products (id),
  FOREIGN KEY (outlet_id) REFERENCES outlets (id)
);
-- how sure it is to be that enough pieces come out good of those started
ALTER TABLE workshop ADD confidence DECIMAL(4,3) NOT NULL DEFAULT 0.8 CHECK (confidence BETWEEN 0.5 AND 0.99) AFTER tax_is_cost;
ALTER TABLE workshop DROP CONSTRAINT CONSTRAINT_1, DROP fee_percent, DROP fee_fixed, DROP margin_percent;

-- +goose Down
ALTER TABLE workshop ADD fee_percent DECIMAL(6,3) NOT NULL DEFAULT 6.5, ADD fee_fixed DECIMAL(14,4) NOT NULL DEFAULT 0.3, ADD margin_percent DECIMAL(6,3) NOT NULL DEFAULT 30;
ALTER TABLE workshop DROP confidence;
DROP TABLE prices, outlets;
