-- +goose Up
-- a step of a lot that the plan leaves where somebody put it
ALTER TABLE lots
    ADD held_step SMALLINT UNSIGNED NULL,
    ADD held_at DATETIME(6) NULL,
    ADD held_by BIGINT UNSIGNED NULL,
    ADD CONSTRAINT lots_held_by FOREIGN KEY (held_by) REFERENCES people (id);

-- +goose Down
ALTER TABLE lots
    DROP FOREIGN KEY lots_held_by,
    DROP held_step,
    DROP held_at,
    DROP held_by;
