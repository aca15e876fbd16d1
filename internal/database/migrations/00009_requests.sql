-- +goose Up
-- requests that were carried out, so that one sent again is answered and not done twice
CREATE TABLE requests (
  request_key VARCHAR(100) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  -- SHA-256 of what was asked: a key stands for one request
  content BINARY(32) NOT NULL,
  answer LONGTEXT NULL,
  done_at DATETIME(6) NOT NULL,
  INDEX (done_at)
);

-- +goose Down
DROP TABLE requests;
