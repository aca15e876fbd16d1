-- +goose Up
CREATE TABLE batches (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  number INT UNSIGNED NOT NULL UNIQUE,
  product_id BIGINT UNSIGNED NOT NULL,
  product_name VARCHAR(120) NOT NULL,
  recipe_id BIGINT UNSIGNED NOT NULL,
  recipe JSON NOT NULL,
  state ENUM('open', 'finished', 'abandoned') NOT NULL,
  created_at DATETIME(6) NOT NULL,
  closed_at DATETIME(6) NULL,
  version INT UNSIGNED NOT NULL,
  INDEX (state, number),
  FOREIGN KEY (product_id) REFERENCES products (id),
  FOREIGN KEY (recipe_id) REFERENCES recipes (id)
);
CREATE TABLE lots (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  batch_id BIGINT UNSIGNED NOT NULL,
  number INT UNSIGNED NOT NULL,
  next_step INT UNSIGNED NOT NULL,
  -- a lot of pieces that go again rests from the run that sent them back
  split_from_run BIGINT UNSIGNED NULL,
  closed_at DATETIME(6) NULL,
  UNIQUE (batch_id, number),
  INDEX (closed_at),
  FOREIGN KEY (batch_id) REFERENCES batches (id)
);
CREATE TABLE pieces (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  batch_id BIGINT UNSIGNED NOT NULL,
  lot_id BIGINT UNSIGNED NOT NULL,
  number INT UNSIGNED NOT NULL,
  lettering VARCHAR(120) NOT NULL,
  state ENUM('working', 'finished', 'spoiled', 'handed_over', 'abandoned') NOT NULL,
  want_id BIGINT UNSIGNED NULL UNIQUE,
  finished_at DATETIME(6) NULL,
  UNIQUE (batch_id, number),
  INDEX (lot_id),
  INDEX (state, want_id),
  FOREIGN KEY (batch_id) REFERENCES batches (id),
  FOREIGN KEY (lot_id) REFERENCES lots (id),
  FOREIGN KEY (want_id) REFERENCES wants (id)
);
CREATE TABLE runs (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  lot_id BIGINT UNSIGNED NOT NULL,
  step INT UNSIGNED NOT NULL,
  person_id BIGINT UNSIGNED NOT NULL,
  pieces INT UNSIGNED NOT NULL,
  started_at DATETIME(6) NOT NULL,
  ended_at DATETIME(6) NULL,
  running_since DATETIME(6) NULL,
  worked_seconds INT UNSIGNED NOT NULL,
  ticked JSON NOT NULL,
  -- minutes by which the rest before was cut short of its floor, at accepted risk
  risk_minutes INT UNSIGNED NULL,
  recorded_at DATETIME(6) NOT NULL,
  version INT UNSIGNED NOT NULL,
  -- one open run a lot
  open_lot BIGINT UNSIGNED AS (IF(ended_at IS NULL, lot_id, NULL)) PERSISTENT UNIQUE,
  INDEX (lot_id, step),
  INDEX (ended_at),
  FOREIGN KEY (lot_id) REFERENCES lots (id),
  FOREIGN KEY (person_id) REFERENCES people (id)
);
ALTER TABLE lots ADD FOREIGN KEY (split_from_run) REFERENCES runs (id);
CREATE TABLE outcomes (
  run_id BIGINT UNSIGNED NOT NULL,
  piece_id BIGINT UNSIGNED NOT NULL,
  result ENUM('good', 'again', 'spoiled') NOT NULL,
  reason VARCHAR(200) NOT NULL,
  -- the want the piece served before, so that undo can give it back
  want_id BIGINT UNSIGNED NULL,
  PRIMARY KEY (run_id, piece_id),
  FOREIGN KEY (run_id) REFERENCES runs (id),
  FOREIGN KEY (piece_id) REFERENCES pieces (id),
  FOREIGN KEY (want_id) REFERENCES wants (id)
);
CREATE TABLE batch_events (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  batch_id BIGINT UNSIGNED NOT NULL,
  at DATETIME(6) NOT NULL,
  text VARCHAR(1000) NOT NULL,
  INDEX (batch_id, at),
  FOREIGN KEY (batch_id) REFERENCES batches (id)
);

-- +goose Down
DROP TABLE batch_events;
DROP TABLE outcomes;
ALTER TABLE lots DROP FOREIGN KEY lots_ibfk_2;
DROP TABLE runs;
DROP TABLE pieces;
DROP TABLE lots;
DROP TABLE batches;
