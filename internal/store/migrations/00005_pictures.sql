-- +goose Up
-- The team's own pictures for ear games, by name; others are the names that children also give them.
CREATE TABLE named_picture (
    team_id uuid NOT NULL REFERENCES team,
    name text NOT NULL CHECK (name ~ '^[a-z]{2,24}$'),
    others text[] NOT NULL DEFAULT '{}',
    sha256 bytea NOT NULL,
    added_by uuid REFERENCES member,
    added_at timestamptz NOT NULL DEFAULT now(),
    archived_at timestamptz,
    PRIMARY KEY (team_id, name),
    FOREIGN KEY (team_id, sha256) REFERENCES medium (team_id, sha256)
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON named_picture FOR EACH ROW EXECUTE FUNCTION tell_team('name');

-- +goose Down
DROP TABLE named_picture;
