-- +goose Up
CREATE TABLE customers (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL UNIQUE
);
CREATE TABLE orders (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  number INT UNSIGNED NOT NULL UNIQUE,
  customer_id BIGINT UNSIGNED NOT NULL,
  due_on DATE NOT NULL,
  note VARCHAR(2000) NOT NULL,
  state ENUM('open', 'handed_over', 'cancelled') NOT NULL,
  taken_at DATETIME(6) NOT NULL,
  closed_at DATETIME(6) NULL,
  version INT UNSIGNED NOT NULL,
  INDEX (state, due_on, number),
  FOREIGN KEY (customer_id) REFERENCES customers (id)
);
CREATE TABLE order_lines (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  position INT UNSIGNED NOT NULL,
  product_id BIGINT UNSIGNED NOT NULL,
  product_name VARCHAR(120) NOT NULL,
  quantity INT UNSIGNED NOT NULL CHECK (quantity BETWEEN 1 AND 500),
  unit_price DECIMAL(14,4) NOT NULL,
  unit_cost DECIMAL(14,4) NOT NULL,
  UNIQUE (order_id, position),
  FOREIGN KEY (order_id) REFERENCES orders (id),
  FOREIGN KEY (product_id) REFERENCES products (id)
);
CREATE TABLE wants (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  order_line_id BIGINT UNSIGNED NOT NULL,
  position INT UNSIGNED NOT NULL,
  lettering VARCHAR(120) NOT NULL,
  UNIQUE (order_line_id, position),
  FOREIGN KEY (order_line_id) REFERENCES order_lines (id)
);
CREATE TABLE order_events (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  at DATETIME(6) NOT NULL,
  text VARCHAR(500) NOT NULL,
  INDEX (order_id, at),
  FOREIGN KEY (order_id) REFERENCES orders (id)
);

-- +goose Down
DROP TABLE order_events;
DROP TABLE wants;
DROP TABLE order_lines;
DROP TABLE orders;
DROP TABLE customers;
