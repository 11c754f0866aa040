-- +goose Up
-- A lesson as it was before its last change, so that the change can be taken back.
ALTER TABLE lesson ADD COLUMN former jsonb;

-- +goose Down
ALTER TABLE lesson DROP COLUMN former;
