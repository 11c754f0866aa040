-- +goose Up
-- What a member heard in a take, without having seen a verdict on it.
CREATE TABLE hearing (
    team_id uuid NOT NULL REFERENCES team,
    take_id uuid NOT NULL REFERENCES take ON DELETE CASCADE,
    member_id uuid NOT NULL REFERENCES member,
    pure boolean NOT NULL,
    why text[] NOT NULL DEFAULT '{}',
    heard_at timestamptz NOT NULL,
    PRIMARY KEY (take_id, member_id)
);
CREATE INDEX hearing_team ON hearing (team_id);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON hearing FOR EACH ROW EXECUTE FUNCTION tell_team('take_id');

-- +goose Down
DROP TABLE hearing;
