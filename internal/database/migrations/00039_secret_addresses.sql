-- +goose Up
CREATE TABLE secret_addresses (
  opens ENUM('calendar', 'proof') NOT NULL,
  thing_id BIGINT UNSIGNED NOT NULL,
  token CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE,
  made_at DATETIME(6) NOT NULL,
  PRIMARY KEY (opens, thing_id)
);

-- +goose Down
DROP TABLE secret_addresses;
