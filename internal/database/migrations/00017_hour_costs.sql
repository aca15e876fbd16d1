-- +goose Up
-- what an hour of this person costs; NULL: what the studio says an hour costs
ALTER TABLE people ADD COLUMN hour_costs DECIMAL(12,4) NULL;

-- +goose Down
ALTER TABLE people DROP COLUMN hour_costs;
