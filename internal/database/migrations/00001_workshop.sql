-- +goose Up
CREATE TABLE revision (
  id TINYINT UNSIGNED PRIMARY KEY CHECK (id = 1),
  number BIGINT UNSIGNED NOT NULL
);
INSERT INTO revision VALUES (1, 1);
CREATE TABLE workshop (
  id TINYINT UNSIGNED PRIMARY KEY CHECK (id = 1),
  name VARCHAR(120) NOT NULL,
  time_zone VARCHAR(64) NOT NULL,
  currency CHAR(3) NOT NULL,
  units ENUM('metric', 'us') NOT NULL,
  hand_over_minute SMALLINT UNSIGNED NOT NULL CHECK (hand_over_minute < 1440),
  sitting_minutes SMALLINT UNSIGNED NOT NULL CHECK (sitting_minutes BETWEEN 15 AND 720),
  labour_per_hour DECIMAL(14,4) NOT NULL CHECK (labour_per_hour >= 0),
  overhead_per_hour DECIMAL(14,4) NOT NULL CHECK (overhead_per_hour >= 0),
  fee_percent DECIMAL(6,3) NOT NULL CHECK (fee_percent >= 0),
  fee_fixed DECIMAL(14,4) NOT NULL CHECK (fee_fixed >= 0),
  margin_percent DECIMAL(6,3) NOT NULL CHECK (margin_percent >= 0),
  rack_places SMALLINT UNSIGNED NOT NULL,
  version INT UNSIGNED NOT NULL,
  CHECK (fee_percent + margin_percent < 100)
);
INSERT INTO workshop VALUES (1, 'My studio', 'Etc/UTC', 'EUR', 'metric', 1020, 150, 16, 2.4, 6.5, 0.3, 30, 48, 1);
CREATE TABLE people (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  archived_at DATETIME(6) NULL
);
CREATE TABLE person_hours (
  person_id BIGINT UNSIGNED NOT NULL,
  weekday TINYINT UNSIGNED NOT NULL CHECK (weekday < 7),
  from_minute SMALLINT UNSIGNED NOT NULL,
  to_minute SMALLINT UNSIGNED NOT NULL,
  PRIMARY KEY (person_id, weekday, from_minute),
  CHECK (from_minute < to_minute AND to_minute <= 1440),
  FOREIGN KEY (person_id) REFERENCES people (id)
);
CREATE TABLE days_off (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  person_id BIGINT UNSIGNED NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  CHECK (first_day <= last_day),
  FOREIGN KEY (person_id) REFERENCES people (id)
);

-- +goose Down
DROP TABLE days_off, person_hours, people, workshop, revision;
