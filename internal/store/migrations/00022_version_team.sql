-- +goose Up
-- What changed in a team since somebody looked, and what is agreed: without a walk over all teams (tools/grow).
CREATE INDEX card_version_team ON card_version (team_id, changed_at);

-- +goose Down
DROP INDEX card_version_team;
