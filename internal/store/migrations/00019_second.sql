-- +goose Up
-- The second step of a sign-in: a secret that an app of the member's makes codes from, good once each. since is when the
-- member first gave a right code; until then it is not asked for. spare are the SHA-256 of codes that are good once each
-- when the app is gone.
CREATE TABLE second_factor (
    member_id uuid PRIMARY KEY,
    team_id uuid NOT NULL,
    secret text NOT NULL,
    since timestamptz,
    last_step bigint NOT NULL DEFAULT 0,
    spare text[] NOT NULL DEFAULT '{}',
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX second_factor_team ON second_factor (team_id);

ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused', 'invited', 'link-ended', 'paused', 'resumed', 'sessions-ended', 'second-on', 'second-off'
));

-- +goose Down
DELETE FROM account_event WHERE kind IN ('second-on', 'second-off');
ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused', 'invited', 'link-ended', 'paused', 'resumed', 'sessions-ended'
));
DROP TABLE second_factor;
