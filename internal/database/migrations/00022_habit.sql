-- +goose Up
-- How the studio is used to reading times, dates, numbers and money.
ALTER TABLE workshop
    ADD COLUMN clock VARCHAR(3) NOT NULL DEFAULT '24h',
    ADD COLUMN first_weekday TINYINT UNSIGNED NOT NULL DEFAULT 1,
    ADD COLUMN date_order VARCHAR(3) NOT NULL DEFAULT 'dmy',
    ADD COLUMN decimal_sign VARCHAR(5) NOT NULL DEFAULT 'point',
    ADD COLUMN currency_sign VARCHAR(8) NOT NULL DEFAULT '',
    ADD COLUMN sign_first BOOLEAN NOT NULL DEFAULT FALSE;

-- +goose Down
ALTER TABLE workshop
    DROP COLUMN sign_first,
    DROP COLUMN currency_sign,
    DROP COLUMN decimal_sign,
    DROP COLUMN date_order,
    DROP COLUMN first_weekday,
    DROP COLUMN clock;
