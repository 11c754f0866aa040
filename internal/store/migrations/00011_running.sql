-- +goose Up
-- A lesson while it is taught: what its faces set last (core/running). It is no part of the library: a change of it does
-- not hold the team, and is told with the lesson's id.
CREATE TABLE lesson_run (
    lesson_id uuid PRIMARY KEY REFERENCES lesson ON DELETE CASCADE,
    team_id uuid NOT NULL REFERENCES team,
    marks jsonb NOT NULL DEFAULT '[]',
    updated_at timestamptz NOT NULL
);
CREATE INDEX lesson_run_team ON lesson_run (team_id);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON lesson_run FOR EACH ROW EXECUTE FUNCTION tell_team('lesson_id');

-- A phone that is the desk of one lesson for a member: by a code that is good once and for a few minutes.
CREATE TABLE desk_pass (
    pass_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    lesson_id uuid NOT NULL REFERENCES lesson ON DELETE CASCADE,
    member_id uuid NOT NULL REFERENCES member,
    code bytea NOT NULL, -- SHA-256
    made_at timestamptz NOT NULL,
    expires_at timestamptz NOT NULL,
    joined_at timestamptz,
    ended_at timestamptz
);
CREATE UNIQUE INDEX desk_pass_code ON desk_pass (code) WHERE joined_at IS NULL AND ended_at IS NULL;
CREATE INDEX desk_pass_lesson ON desk_pass (lesson_id);
CREATE INDEX desk_pass_team ON desk_pass (team_id);

CREATE TRIGGER tell AFTER UPDATE ON desk_pass FOR EACH ROW EXECUTE FUNCTION tell_team('lesson_id');

ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused'
));
CREATE INDEX account_event_desk ON account_event (happened_at) WHERE kind = 'desk-refused';

-- +goose Down
DROP INDEX account_event_desk;
DELETE FROM account_event WHERE kind IN ('desk-joined', 'desk-refused');
ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed'
));
DROP TABLE desk_pass, lesson_run;
