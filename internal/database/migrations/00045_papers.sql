-- +goose Up
-- What a paper says where no tax is charged, as its way of selling has it.
ALTER TABLE outlets ADD tax_note VARCHAR(200) NOT NULL DEFAULT '' AFTER tax_in_price;
ALTER TABLE orders ADD tax_note VARCHAR(200) NOT NULL DEFAULT '' AFTER tax_in_price;
ALTER TABLE quotes ADD tax_note VARCHAR(200) NOT NULL DEFAULT '' AFTER tax_in_price;

-- What stands on every paper of the studio.
CREATE TABLE letterhead (
    id TINYINT UNSIGNED NOT NULL PRIMARY KEY CHECK (id = 1),
    seller VARCHAR(600) NOT NULL,
    foot VARCHAR(1000) NOT NULL,
    days_to_pay SMALLINT UNSIGNED NOT NULL CHECK (days_to_pay BETWEEN 0 AND 365),
    -- how many years after the end of its year an invoice keeps a name that is to be erased
    years_kept TINYINT UNSIGNED NOT NULL CHECK (years_kept BETWEEN 0 AND 30),
    first_number INT UNSIGNED NOT NULL CHECK (first_number BETWEEN 1 AND 9999999),
    version INT UNSIGNED NOT NULL
);
INSERT INTO letterhead VALUES (1, '', '', 14, 10, 1, 1);

-- Papers as they were issued; those of a kind are numbered without a gap.
CREATE TABLE issued_papers (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    kind ENUM('invoice', 'credit_note', 'receipt', 'packing_slip', 'order_sheet', 'care_card') NOT NULL,
    number INT UNSIGNED NOT NULL,
    order_id BIGINT UNSIGNED NOT NULL,
    -- the payment that a receipt is for
    payment_id BIGINT UNSIGNED NULL,
    -- the invoice that a credit note is for
    credits_id BIGINT UNSIGNED NULL,
    issued_at DATETIME(6) NOT NULL,
    issued_on DATE NOT NULL,
    net DECIMAL(14,2) NOT NULL,
    tax DECIMAL(14,2) NOT NULL,
    gross DECIMAL(14,2) NOT NULL,
    tax_percent DECIMAL(6,3) NOT NULL,
    -- what stands on it
    content JSON NOT NULL,
    file CHAR(64) CHARACTER SET ascii NOT NULL,
    -- until when it keeps the name of somebody whose data was erased
    name_until DATE NULL,
    UNIQUE issued_papers_number (kind, number),
    UNIQUE issued_papers_payment (payment_id),
    INDEX issued_papers_issued (issued_on),
    INDEX issued_papers_name (name_until),
    CONSTRAINT issued_papers_order FOREIGN KEY (order_id) REFERENCES orders (id),
    CONSTRAINT issued_papers_payment FOREIGN KEY (payment_id) REFERENCES payments (id),
    CONSTRAINT issued_papers_credits FOREIGN KEY (credits_id) REFERENCES issued_papers (id)
);

-- Label sheets of the studio's own; lengths in mm.
CREATE TABLE label_sheets (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(80) NOT NULL,
    page_width DOUBLE NOT NULL,
    page_height DOUBLE NOT NULL,
    `columns` TINYINT UNSIGNED NOT NULL,
    `rows` TINYINT UNSIGNED NOT NULL,
    label_width DOUBLE NOT NULL,
    label_height DOUBLE NOT NULL,
    margin_left DOUBLE NOT NULL,
    margin_top DOUBLE NOT NULL,
    gap_x DOUBLE NOT NULL,
    gap_y DOUBLE NOT NULL,
    version INT UNSIGNED NOT NULL
);
INSERT INTO label_sheets (name, page_width, page_height, `columns`, `rows`, label_width, label_height, margin_left, margin_top, gap_x, gap_y, version) VALUES
    ('A4, 24 labels of 70 × 36 mm', 210, 297, 3, 8, 70, 36, 0, 4.5, 0, 0, 1),
    ('A4, 65 labels of 38 × 21 mm', 210, 297, 5, 13, 38, 21, 4.5, 11, 2.7, 0, 1);

-- What came back after it was handed over, and what was done about it.
ALTER TABLE wants ADD returned_at DATETIME(6) NULL;
CREATE TABLE returns (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    order_id BIGINT UNSIGNED NOT NULL,
    -- the sign in the guide to troubles; empty where nothing was wrong with it
    cause VARCHAR(40) NOT NULL,
    -- what is let off
    amount DECIMAL(14,2) NOT NULL CHECK (amount >= 0),
    -- what the pieces had cost that were spoiled or are made again
    cost DECIMAL(14,2) NOT NULL CHECK (cost >= 0),
    remade_order_id BIGINT UNSIGNED NULL,
    note VARCHAR(400) NOT NULL,
    noted_at DATETIME(6) NOT NULL,
    -- noted by mistake; it stays to be seen
    taken_back_at DATETIME(6) NULL,
    UNIQUE returns_remade (remade_order_id),
    INDEX returns_order (order_id),
    CONSTRAINT returns_order FOREIGN KEY (order_id) REFERENCES orders (id),
    CONSTRAINT returns_remade FOREIGN KEY (remade_order_id) REFERENCES orders (id)
);
CREATE TABLE return_pieces (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    return_id BIGINT UNSIGNED NOT NULL,
    want_id BIGINT UNSIGNED NOT NULL,
    product_name VARCHAR(120) NOT NULL,
    goes ENUM('shelf', 'spoiled', 'stays') NOT NULL,
    -- the piece that came back
    piece_id BIGINT UNSIGNED NULL,
    UNIQUE return_pieces_want (want_id, return_id),
    CONSTRAINT return_pieces_return FOREIGN KEY (return_id) REFERENCES returns (id),
    CONSTRAINT return_pieces_want FOREIGN KEY (want_id) REFERENCES wants (id),
    CONSTRAINT return_pieces_piece FOREIGN KEY (piece_id) REFERENCES pieces (id)
);

-- +goose Down
DROP TABLE return_pieces;
DROP TABLE returns;
ALTER TABLE wants DROP returned_at;
DROP TABLE label_sheets;
DROP TABLE issued_papers;
DROP TABLE letterhead;
ALTER TABLE quotes DROP tax_note;
ALTER TABLE orders DROP tax_note;
ALTER TABLE outlets DROP tax_note;
