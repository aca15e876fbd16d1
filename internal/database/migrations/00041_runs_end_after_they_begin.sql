-- +goose Up
-- A clock that had been set back could end a step before it began, and no plan was made from that.
UPDATE runs SET ended_at = started_at WHERE ended_at < started_at;
ALTER TABLE runs ADD CONSTRAINT ends_after_it_begins CHECK (ended_at >= started_at);

-- +goose Down
ALTER TABLE runs DROP CONSTRAINT ends_after_it_begins;
