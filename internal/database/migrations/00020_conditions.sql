-- +goose Up
-- With every run what it was done under, for later reckoning; NULL where nobody knows:
-- the room's air at its start, the rest before it as it really was with the air through it, and who entered it on which device.
ALTER TABLE runs
    ADD start_celsius DOUBLE NULL,
    ADD start_humidity DOUBLE NULL,
    ADD rested_run BIGINT UNSIGNED NULL,
    ADD rested_minutes INT NULL,
    ADD rest_celsius DOUBLE NULL,
    ADD rest_lowest DOUBLE NULL,
    ADD rest_humidity DOUBLE NULL,
    ADD entered_by BIGINT UNSIGNED NULL,
    ADD device VARCHAR(60) NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE runs
    DROP start_celsius, DROP start_humidity, DROP rested_run, DROP rested_minutes,
    DROP rest_celsius, DROP rest_lowest, DROP rest_humidity, DROP entered_by, DROP device;
