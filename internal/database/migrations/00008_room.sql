-- +goose Up
-- the last reading of the room; empty until there is one
CREATE TABLE room (
  id TINYINT UNSIGNED PRIMARY KEY CHECK (id = 1),
  celsius DOUBLE NULL,
  humidity DOUBLE NULL CHECK (humidity BETWEEN 0 AND 1),
  read_at DATETIME(6) NULL,
  -- the simulated sensor's rainy spell
  raining BOOLEAN NOT NULL
);
INSERT INTO room VALUES (1, NULL, NULL, NULL, FALSE);
CREATE TABLE room_hours (
  hour DATETIME(6) PRIMARY KEY,
  celsius DOUBLE NOT NULL,
  lowest DOUBLE NOT NULL,
  humidity DOUBLE NOT NULL,
  readings INT UNSIGNED NOT NULL
);

-- +goose Down
DROP TABLE room_hours;
DROP TABLE room;
