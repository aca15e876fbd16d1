-- +goose Up
-- where pieces rest, what the studio has of each machine and when it can be used, and
-- when a stage of the work is liked to be done: saved and read with the studio as a whole
ALTER TABLE workshop
    ADD racks JSON NULL,
    ADD machines JSON NULL,
    ADD preferences JSON NULL,
    ADD cold_nights BOOLEAN NOT NULL DEFAULT FALSE;
UPDATE workshop
SET racks = JSON_ARRAY(JSON_OBJECT('name', 'Rack', 'places', rack_places)),
    machines = '[{"machine":"press","count":1,"hours":[]},{"machine":"hot-air","count":1,"hours":[]},{"machine":"spray-place","count":1,"hours":[]},{"machine":"turner","count":0,"hours":[]}]',
    preferences = '[]';
ALTER TABLE workshop
    MODIFY racks JSON NOT NULL,
    MODIFY machines JSON NOT NULL,
    MODIFY preferences JSON NOT NULL,
    DROP rack_places;
-- how long work takes somebody, and what they leave to others
ALTER TABLE people
    ADD pace_percent SMALLINT UNSIGNED NOT NULL DEFAULT 100,
    ADD leaves JSON NOT NULL DEFAULT '[]';

-- +goose Down
ALTER TABLE people
    DROP pace_percent,
    DROP leaves;
ALTER TABLE workshop
    ADD rack_places SMALLINT UNSIGNED NOT NULL DEFAULT 40;
UPDATE workshop
SET rack_places = COALESCE((SELECT LEAST(5000, SUM(places)) FROM JSON_TABLE(racks, '$[*]' COLUMNS (places INT PATH '$.places')) AS r), 40);
ALTER TABLE workshop
    DROP racks,
    DROP machines,
    DROP preferences,
    DROP cold_nights;
