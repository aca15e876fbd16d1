-- +goose Up
-- How customers are reached and what they like. A customer who was merged into another, or whose
-- data was erased, keeps the row and lets the name go: names are told apart among the others only.
ALTER TABLE customers
    ADD email VARCHAR(200) NOT NULL DEFAULT '',
    ADD phone VARCHAR(60) NOT NULL DEFAULT '',
    ADD other_way VARCHAR(200) NOT NULL DEFAULT '',
    ADD likes VARCHAR(400) NOT NULL DEFAULT '',
    ADD note VARCHAR(2000) NOT NULL DEFAULT '',
    ADD merged_into BIGINT UNSIGNED NULL,
    ADD erased_at DATETIME(6) NULL,
    ADD version INT UNSIGNED NOT NULL DEFAULT 1,
    ADD told_by VARCHAR(120) AS (IF(merged_into IS NULL AND erased_at IS NULL, name, NULL)) PERSISTENT,
    DROP INDEX name,
    ADD UNIQUE customers_told_by (told_by),
    ADD CONSTRAINT customers_merged FOREIGN KEY (merged_into) REFERENCES customers (id);

CREATE TABLE customer_addresses (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    customer_id BIGINT UNSIGNED NOT NULL,
    position INT UNSIGNED NOT NULL,
    called VARCHAR(60) NOT NULL,
    `lines` VARCHAR(400) NOT NULL,
    UNIQUE customer_addresses_position (customer_id, position),
    CONSTRAINT customer_addresses_customer FOREIGN KEY (customer_id) REFERENCES customers (id)
);

-- What merging two customers moved, so that it can be undone.
CREATE TABLE customer_merges (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    from_id BIGINT UNSIGNED NOT NULL,
    into_id BIGINT UNSIGNED NOT NULL,
    at DATETIME(6) NOT NULL,
    undone_at DATETIME(6) NULL,
    -- how the one that stayed was before and in which version they were left, and what came to
    -- them, by what it is
    was JSON NOT NULL,
    left_at INT UNSIGNED NOT NULL,
    moved JSON NOT NULL,
    CONSTRAINT customer_merges_from FOREIGN KEY (from_id) REFERENCES customers (id),
    CONSTRAINT customer_merges_into FOREIGN KEY (into_id) REFERENCES customers (id)
);

-- Whose data was erased, so that a backup of the time before has it erased again.
CREATE TABLE erasures (
    customer_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
    at DATETIME(6) NOT NULL,
    CONSTRAINT erasures_customer FOREIGN KEY (customer_id) REFERENCES customers (id)
);

-- +goose Down
DROP TABLE erasures;
DROP TABLE customer_merges;
DROP TABLE customer_addresses;
ALTER TABLE customers
    DROP FOREIGN KEY customers_merged,
    DROP INDEX customers_told_by,
    DROP told_by, DROP version, DROP erased_at, DROP merged_into, DROP note, DROP likes, DROP other_way, DROP phone, DROP email,
    ADD UNIQUE name (name);
