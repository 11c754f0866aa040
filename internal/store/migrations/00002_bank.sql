-- +goose Up
-- The team's own sentences and pages to read together.
CREATE TABLE bank_text (
    text_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    kind text NOT NULL CHECK (kind IN ('sentence', 'page')),
    body text NOT NULL CHECK (body <> ''),
    added_by uuid REFERENCES member,
    added_at timestamptz NOT NULL DEFAULT now(),
    archived_at timestamptz
);
CREATE UNIQUE INDEX bank_text_body ON bank_text (team_id, md5(body)) WHERE archived_at IS NULL;
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON bank_text FOR EACH ROW EXECUTE FUNCTION tell_team('text_id');

-- +goose Down
DROP TABLE bank_text;
