-- +goose Up
-- plans are kept under plan: what says nothing of the work, such as the room's readings, leaves it
ALTER TABLE revision ADD plan BIGINT UNSIGNED NOT NULL DEFAULT 1;
-- an order or a lot that keeps its usual rests even where that makes it late
ALTER TABLE orders ADD keep_rests BOOLEAN NOT NULL DEFAULT FALSE AFTER note;
ALTER TABLE lots ADD keep_rests BOOLEAN NOT NULL DEFAULT FALSE AFTER split_from_run;
-- the plan that stands, as far as customers are concerned: on which day each open order is ready
CREATE TABLE promises (
  order_id BIGINT UNSIGNED PRIMARY KEY,
  -- null when it finds no place in the plan
  ready_on DATE NULL,
  late BOOLEAN NOT NULL,
  FOREIGN KEY (order_id) REFERENCES orders (id)
);
-- promises that have moved since they were told, one row an order until it is told
CREATE TABLE promise_moves (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  moved_at DATETIME(6) NOT NULL,
  from_on DATE NULL,
  from_late BOOLEAN NOT NULL,
  to_on DATE NULL,
  to_late BOOLEAN NOT NULL,
  -- what holds the order up now
  because VARCHAR(300) NOT NULL,
  told_at DATETIME(6) NULL,
  INDEX (told_at),
  INDEX (order_id, told_at),
  FOREIGN KEY (order_id) REFERENCES orders (id)
);

-- +goose Down
DROP TABLE promise_moves;
DROP TABLE promises;
ALTER TABLE lots DROP keep_rests;
ALTER TABLE orders DROP keep_rests;
ALTER TABLE revision DROP plan;
