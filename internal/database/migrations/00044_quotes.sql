-- +goose Up
-- What was offered to somebody: at which price, for which day, and how long it stands.
CREATE TABLE quotes (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    number INT UNSIGNED NOT NULL,
    customer_id BIGINT UNSIGNED NOT NULL,
    outlet_name VARCHAR(80) NOT NULL,
    tax_percent DECIMAL(6,3) NOT NULL CHECK (tax_percent BETWEEN 0 AND 100),
    tax_in_price BOOLEAN NOT NULL,
    due_on DATE NOT NULL,
    days_on_the_way TINYINT UNSIGNED NOT NULL,
    stands_until DATE NOT NULL,
    note VARCHAR(2000) NOT NULL,
    -- one that stood too long has lapsed by itself
    state ENUM('open', 'accepted', 'declined', 'withdrawn') NOT NULL,
    made_at DATETIME(6) NOT NULL,
    answered_at DATETIME(6) NULL,
    order_id BIGINT UNSIGNED NULL,
    version INT UNSIGNED NOT NULL,
    UNIQUE quotes_number (number),
    UNIQUE quotes_order (order_id),
    CONSTRAINT quotes_customer FOREIGN KEY (customer_id) REFERENCES customers (id),
    CONSTRAINT quotes_order FOREIGN KEY (order_id) REFERENCES orders (id)
);
CREATE TABLE quote_lines (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    quote_id BIGINT UNSIGNED NOT NULL,
    position INT UNSIGNED NOT NULL,
    product_id BIGINT UNSIGNED NOT NULL,
    product_name VARCHAR(120) NOT NULL,
    quantity INT UNSIGNED NOT NULL CHECK (quantity BETWEEN 1 AND 500),
    unit_price DECIMAL(14,4) NOT NULL,
    -- the names, where they are known; fewer than pieces where they are not
    lettering JSON NOT NULL,
    UNIQUE quote_lines_position (quote_id, position),
    CONSTRAINT quote_lines_quote FOREIGN KEY (quote_id) REFERENCES quotes (id),
    CONSTRAINT quote_lines_product FOREIGN KEY (product_id) REFERENCES products (id)
);
ALTER TABLE secret_addresses MODIFY opens ENUM('calendar', 'proof', 'quote') NOT NULL;
ALTER TABLE trade_terms ADD quote_days SMALLINT UNSIGNED NOT NULL DEFAULT 14 CHECK (quote_days BETWEEN 1 AND 366) AFTER keeping_percent;

-- +goose Down
ALTER TABLE trade_terms DROP quote_days;
DELETE FROM secret_addresses WHERE opens = 'quote';
ALTER TABLE secret_addresses MODIFY opens ENUM('calendar', 'proof') NOT NULL;
DROP TABLE quote_lines;
DROP TABLE quotes;
