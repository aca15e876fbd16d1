-- +goose Up
-- The tax an order was taken with: what its way of selling said then.
ALTER TABLE orders
    ADD tax_percent DECIMAL(6,3) NOT NULL DEFAULT 0 CHECK (tax_percent BETWEEN 0 AND 100),
    ADD tax_in_price BOOLEAN NOT NULL DEFAULT TRUE;
UPDATE orders o JOIN outlets t ON t.name = o.outlet_name SET o.tax_percent = t.tax_percent, o.tax_in_price = t.tax_in_price;

-- What is asked ahead and what is kept of it, in the studio.
CREATE TABLE trade_terms (
    id TINYINT UNSIGNED NOT NULL PRIMARY KEY CHECK (id = 1),
    deposit_percent DECIMAL(6,3) NOT NULL CHECK (deposit_percent BETWEEN 0 AND 100),
    keeping ENUM('nothing', 'all', 'spent', 'share') NOT NULL,
    keeping_percent DECIMAL(6,3) NOT NULL CHECK (keeping_percent BETWEEN 0 AND 100),
    -- from when on what orders owe is kept count of
    kept_since DATETIME(6) NOT NULL,
    version INT UNSIGNED NOT NULL
);
INSERT INTO trade_terms VALUES (1, 0, 'spent', 0, UTC_TIMESTAMP(6), 1);

CREATE TABLE payments (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    order_id BIGINT UNSIGNED NOT NULL,
    -- a refund goes back to the customer
    kind ENUM('payment', 'refund') NOT NULL,
    amount DECIMAL(14,2) NOT NULL CHECK (amount > 0),
    paid_on DATE NOT NULL,
    way ENUM('cash', 'card', 'transfer', 'voucher', 'other') NOT NULL,
    note VARCHAR(200) NOT NULL,
    noted_at DATETIME(6) NOT NULL,
    -- noted by mistake; it stays to be seen
    taken_back_at DATETIME(6) NULL,
    INDEX payments_order (order_id),
    CONSTRAINT payments_order FOREIGN KEY (order_id) REFERENCES orders (id)
);

-- What became of the money of an order that was cancelled.
CREATE TABLE settlements (
    order_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
    spent DECIMAL(14,2) NOT NULL,
    kept DECIMAL(14,2) NOT NULL,
    at DATETIME(6) NOT NULL,
    CONSTRAINT settlements_order FOREIGN KEY (order_id) REFERENCES orders (id)
);

-- +goose Down
DROP TABLE settlements;
DROP TABLE payments;
DROP TABLE trade_terms;
ALTER TABLE orders DROP tax_in_price, DROP tax_percent;
