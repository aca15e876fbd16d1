-- +goose Up
-- Texts of messages as the studio has changed them; the others are as they came.
CREATE TABLE message_templates (
    kind ENUM('quote', 'proof', 'moved', 'ready', 'on_its_way', 'thanks') NOT NULL PRIMARY KEY,
    subject VARCHAR(200) NOT NULL,
    body VARCHAR(4000) NOT NULL,
    version INT UNSIGNED NOT NULL
);

-- +goose Down
DROP TABLE message_templates;
