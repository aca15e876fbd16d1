-- +goose Up
-- Who did what: one entry a write, and what it changed, row by row, as the triggers of
-- each table note it.
CREATE TABLE trail_entries (
  revision BIGINT UNSIGNED PRIMARY KEY,
  at DATETIME(6) NOT NULL,
  -- the names as they were then; both empty where the studio did it by itself
  person VARCHAR(80) NOT NULL,
  member VARCHAR(80) NOT NULL,
  device VARCHAR(80) NOT NULL,
  doing VARCHAR(160) NOT NULL,
  request VARCHAR(40) NOT NULL
);
CREATE TABLE trail_changes (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  revision BIGINT UNSIGNED NOT NULL,
  about VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  row_key VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  label VARCHAR(160) NOT NULL,
  -- the row that this one is a part of
  under VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL,
  under_key VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL,
  was LONGTEXT NULL CHECK (JSON_VALID(was)),
  became LONGTEXT NULL CHECK (JSON_VALID(became)),
  KEY (revision),
  KEY (about, row_key, revision),
  KEY (under, under_key)
);
-- which triggers stand
CREATE TABLE trail_setup (
  id TINYINT UNSIGNED PRIMARY KEY CHECK (id = 1),
  fingerprint CHAR(64) CHARACTER SET ascii NOT NULL
);

-- +goose Down
DROP TABLE trail_setup, trail_changes, trail_entries;
