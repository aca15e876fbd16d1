-- +goose Up
-- the owner's own methods; the built-in ones are part of the program
CREATE TABLE methods (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  method_key VARCHAR(40) NOT NULL UNIQUE,
  document JSON NOT NULL,
  -- the file as it was brought in, so that taking it out gives the same
  source MEDIUMTEXT NOT NULL,
  created_at DATETIME(6) NOT NULL,
  archived_at DATETIME(6) NULL,
  version INT UNSIGNED NOT NULL
);
ALTER TABLE products ADD picture JSON NOT NULL DEFAULT '{}' AFTER blank;
-- stops that somebody has overruled, with the reason; withdrawn ones stay on the record
CREATE TABLE overrides (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  product_id BIGINT UNSIGNED NOT NULL,
  rule VARCHAR(40) NOT NULL,
  -- the step the stop belongs to; empty when none offends by itself
  step_id VARCHAR(60) NOT NULL,
  reason VARCHAR(400) NOT NULL,
  person_id BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(6) NOT NULL,
  withdrawn_at DATETIME(6) NULL,
  INDEX (product_id, withdrawn_at),
  FOREIGN KEY (product_id) REFERENCES products (id),
  FOREIGN KEY (person_id) REFERENCES people (id)
);

-- +goose Down
DROP TABLE overrides;
ALTER TABLE products DROP picture;
DROP TABLE methods;
