-- +goose Up
-- what a material's own label says of its rests, in minutes; NULL: it says nothing, or nobody has looked (label_read)
ALTER TABLE materials
  ADD COLUMN label_read BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN label_floor_minutes INT UNSIGNED NULL,
  ADD COLUMN label_recoat_from_minutes INT UNSIGNED NULL,
  ADD COLUMN label_recoat_to_minutes INT UNSIGNED NULL CHECK (label_recoat_to_minutes >= label_recoat_from_minutes),
  ADD COLUMN label_cure_minutes INT UNSIGNED NULL;
-- Recipes begin with the owner's film from now on, so what nobody has set becomes what the library lays.
UPDATE materials SET film_mm = CASE material_key
    WHEN 'clear-coat' THEN 0.5 WHEN 'transfer-cream' THEN 0.5 WHEN 'transfer-lotion' THEN 0.4 WHEN 'quick-gel' THEN 0.15 END
  WHERE film_mm = 0.3 AND material_key IN ('clear-coat', 'transfer-cream', 'transfer-lotion', 'quick-gel');

-- +goose Down
ALTER TABLE materials DROP COLUMN label_cure_minutes, DROP COLUMN label_recoat_to_minutes, DROP COLUMN label_recoat_from_minutes,
  DROP COLUMN label_floor_minutes, DROP COLUMN label_read;
