-- +goose Up
-- where pieces rest, what the studio has of each machine and when it can be used
CREATE TABLE racks (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(80) NOT NULL,
    places SMALLINT UNSIGNED NOT NULL,
    longest_mm DOUBLE NULL
);
INSERT INTO racks (name, places) SELECT 'Rack', rack_places FROM workshop;
ALTER TABLE workshop
    DROP rack_places,
    ADD cold_nights BOOLEAN NOT NULL DEFAULT FALSE;
CREATE TABLE machines (
    machine VARCHAR(20) NOT NULL PRIMARY KEY,
    count SMALLINT UNSIGNED NOT NULL
);
INSERT INTO machines (machine, count) VALUES ('press', 1), ('hot-air', 1), ('spray-place', 1), ('turner', 0);
CREATE TABLE machine_hours (
    machine VARCHAR(20) NOT NULL,
    weekday TINYINT UNSIGNED NOT NULL,
    from_minute SMALLINT UNSIGNED NOT NULL,
    to_minute SMALLINT UNSIGNED NOT NULL,
    PRIMARY KEY (machine, weekday, from_minute),
    CONSTRAINT machine_hours_machine FOREIGN KEY (machine) REFERENCES machines (machine) ON DELETE CASCADE
);
-- when a stage of the work is done where nothing is late for it
CREATE TABLE preferences (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    stage VARCHAR(20) NOT NULL,
    last_minutes SMALLINT UNSIGNED NOT NULL,
    from_minute SMALLINT UNSIGNED NOT NULL,
    to_minute SMALLINT UNSIGNED NOT NULL
);
-- how long work takes somebody, and what they leave to others
ALTER TABLE people
    ADD pace_percent SMALLINT UNSIGNED NOT NULL DEFAULT 100;
CREATE TABLE left_stages (
    person_id BIGINT UNSIGNED NOT NULL,
    stage VARCHAR(20) NOT NULL,
    PRIMARY KEY (person_id, stage),
    CONSTRAINT left_stages_person FOREIGN KEY (person_id) REFERENCES people (id)
);

-- +goose Down
ALTER TABLE workshop
    ADD rack_places SMALLINT UNSIGNED NOT NULL DEFAULT 40,
    DROP cold_nights;
UPDATE workshop SET rack_places = (SELECT LEAST(5000, SUM(places)) FROM racks);
DROP TABLE left_stages, preferences, machine_hours, machines, racks;
ALTER TABLE people DROP pace_percent;
