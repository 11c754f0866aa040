-- +goose Up
-- The team's own forms of letters; a sign without a row is as it ships.
CREATE TABLE letter_form (
    team_id uuid NOT NULL REFERENCES team,
    sign text NOT NULL CHECK (sign <> ''),
    form jsonb NOT NULL,
    updated_by uuid REFERENCES member,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (team_id, sign)
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON letter_form FOR EACH ROW EXECUTE FUNCTION tell_team('sign');

-- +goose Down
DROP TABLE letter_form;
