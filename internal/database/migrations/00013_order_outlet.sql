-- +goose Up
-- the way of selling, under the name it had when the order was taken; empty on orders from before there were several
ALTER TABLE orders ADD outlet_name VARCHAR(80) NOT NULL DEFAULT '' AFTER customer_id;

-- +goose Down
ALTER TABLE orders DROP outlet_name;
