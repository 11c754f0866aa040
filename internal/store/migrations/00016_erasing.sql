-- +goose Up
-- The name of somebody who left may be erased: what was written stays, under no name.
ALTER TABLE member ADD COLUMN erased_at timestamptz;

-- +goose Down
ALTER TABLE member DROP COLUMN erased_at;
