-- +goose Up
CREATE TABLE members (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  role ENUM('owner', 'maker', 'helper', 'viewer') NOT NULL,
  person_id BIGINT UNSIGNED NULL,
  password VARCHAR(200) NULL,
  pin VARCHAR(200) NULL,
  version INT UNSIGNED NOT NULL,
  created_at DATETIME(6) NOT NULL,
  closed_at DATETIME(6) NULL,
  open_name VARCHAR(80) AS (IF(closed_at IS NULL, name, NULL)) STORED,
  UNIQUE KEY one_open_member_a_name (open_name),
  FOREIGN KEY (person_id) REFERENCES people (id)
);
CREATE TABLE sessions (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  token BINARY(32) NOT NULL UNIQUE,
  known BINARY(32) NULL UNIQUE,
  member_id BIGINT UNSIGNED NULL,
  role ENUM('maker', 'helper', 'viewer') NULL,
  holder_id BIGINT UNSIGNED NULL,
  way ENUM('password', 'passkey', 'recovery', 'pairing') NOT NULL,
  device VARCHAR(80) NOT NULL,
  address VARCHAR(64) NOT NULL,
  created_at DATETIME(6) NOT NULL,
  used_at DATETIME(6) NOT NULL,
  ended_at DATETIME(6) NULL,
  KEY by_use (ended_at, used_at),
  CHECK ((member_id IS NULL) <> (role IS NULL)),
  FOREIGN KEY (member_id) REFERENCES members (id),
  FOREIGN KEY (holder_id) REFERENCES members (id)
);
CREATE TABLE pairings (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  code BINARY(32) NOT NULL UNIQUE,
  member_id BIGINT UNSIGNED NULL,
  role ENUM('maker', 'helper', 'viewer') NULL,
  device VARCHAR(80) NOT NULL,
  ends_at DATETIME(6) NOT NULL,
  session_id BIGINT UNSIGNED NULL,
  CHECK ((member_id IS NULL) <> (role IS NULL)),
  FOREIGN KEY (member_id) REFERENCES members (id),
  FOREIGN KEY (session_id) REFERENCES sessions (id)
);
CREATE TABLE passkeys (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  member_id BIGINT UNSIGNED NOT NULL,
  host VARCHAR(190) NOT NULL,
  device VARCHAR(80) NOT NULL,
  credential_key BINARY(32) NOT NULL UNIQUE,
  credential LONGTEXT NOT NULL CHECK (JSON_VALID(credential)),
  created_at DATETIME(6) NOT NULL,
  used_at DATETIME(6) NULL,
  FOREIGN KEY (member_id) REFERENCES members (id)
);
CREATE TABLE recovery_codes (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  member_id BIGINT UNSIGNED NOT NULL,
  code BINARY(32) NOT NULL UNIQUE,
  used_at DATETIME(6) NULL,
  FOREIGN KEY (member_id) REFERENCES members (id)
);
ALTER TABLE revision ADD COLUMN access BIGINT UNSIGNED NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE revision DROP COLUMN access;
DROP TABLE recovery_codes, passkeys, pairings, sessions, members;
