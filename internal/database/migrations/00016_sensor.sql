-- +goose Up
-- a studio without an instrument has no air that anything may be said of, unless somebody wants to see it simulated
ALTER TABLE room ADD COLUMN simulating BOOLEAN NOT NULL DEFAULT FALSE;
UPDATE room SET simulating = read_at IS NOT NULL;

-- +goose Down
ALTER TABLE room DROP COLUMN simulating;
