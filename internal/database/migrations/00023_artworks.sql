-- +goose Up
-- Pictures. Their files lie outside the database, each under the SHA-256 of what is in
-- it; a picture is read after it has come, and can be used from then on.
CREATE TABLE artworks (
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    title VARCHAR(120) NOT NULL,
    file_name VARCHAR(200) NOT NULL,
    state ENUM('reading', 'ready', 'refused') NOT NULL DEFAULT 'reading',
    refusal VARCHAR(300) NOT NULL DEFAULT '',
    original CHAR(64) CHARACTER SET ascii NOT NULL,
    original_bytes BIGINT UNSIGNED NOT NULL,
    -- upright, in sRGB and without what the camera noted; smaller for pages
    print CHAR(64) CHARACTER SET ascii NULL,
    view CHAR(64) CHARACTER SET ascii NULL,
    thumb CHAR(64) CHARACTER SET ascii NULL,
    pixels JSON NOT NULL DEFAULT '{}',
    notes JSON NOT NULL DEFAULT '[]',
    rights ENUM('own', 'permission', 'out-of-copyright', 'customer', 'unknown') NOT NULL DEFAULT 'unknown',
    rights_note VARCHAR(300) NOT NULL DEFAULT '',
    rights_on DATE NULL,
    shows_people BOOLEAN NOT NULL DEFAULT FALSE,
    consent VARCHAR(300) NOT NULL DEFAULT '',
    lettering BOOLEAN NOT NULL DEFAULT FALSE,
    -- until when a server has it in hand, and how often one began
    claimed_until DATETIME(6) NULL,
    tries TINYINT UNSIGNED NOT NULL DEFAULT 0,
    created_at DATETIME(6) NOT NULL,
    archived_at DATETIME(6) NULL,
    version INT UNSIGNED NOT NULL DEFAULT 1,
    KEY (original),
    KEY (state, claimed_until),
    CHECK (state <> 'ready' OR (print IS NOT NULL AND view IS NOT NULL AND thumb IS NOT NULL))
);

-- +goose Down
DROP TABLE artworks;
