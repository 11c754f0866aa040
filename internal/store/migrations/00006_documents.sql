-- +goose Up
-- A routine is a document like the others: it carries a version number and is read through a migration function.
UPDATE routine SET steps = jsonb_build_object('version', 1, 'name', name, 'steps', steps) WHERE jsonb_typeof(steps) = 'array';

-- +goose Down
UPDATE routine SET steps = steps -> 'steps' WHERE jsonb_typeof(steps) = 'object';
