-- +goose Up
-- what an inkjet print takes
INSERT INTO materials (material_key, name, kind, unit, unit_cost)
  SELECT 'ink-print', 'Inkjet ink, rated page', 'ink', 'page', 0.12 FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM materials WHERE material_key = 'ink-print');

-- +goose Down
DELETE FROM materials WHERE material_key = 'ink-print';
