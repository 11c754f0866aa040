-- +goose Up
-- What was found in the library and is left as it is, with the reason. The key is that of the finding (core/audit): when
-- what was found changes, it is found anew.
CREATE TABLE audit_left (
    team_id uuid NOT NULL REFERENCES team,
    key text NOT NULL,
    why text NOT NULL CHECK (why <> ''),
    left_by uuid REFERENCES member,
    left_at timestamptz NOT NULL,
    PRIMARY KEY (team_id, key)
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON audit_left FOR EACH ROW EXECUTE FUNCTION tell_team('key');
CREATE TRIGGER revise AFTER INSERT OR UPDATE OR DELETE ON audit_left FOR EACH ROW EXECUTE FUNCTION revise_team();

-- +goose Down
DROP TABLE audit_left;
