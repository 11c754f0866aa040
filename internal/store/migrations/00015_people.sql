-- +goose Up
-- A link that lets somebody in once: an invitation, or a new password for a member. Only the hash of its secret is kept.
CREATE TABLE account_link (
    link_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    kind text NOT NULL CHECK (kind IN ('invitation', 'reset')),
    secret bytea NOT NULL UNIQUE, -- SHA-256
    email text NOT NULL,
    name text NOT NULL,
    role text NOT NULL CHECK (role IN ('lead', 'teacher', 'assistant')),
    member_id uuid, -- whose password it renews
    made_by uuid REFERENCES member,
    made_at timestamptz NOT NULL,
    good_until timestamptz NOT NULL,
    ended_at timestamptz, -- used, or taken back
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id),
    CHECK ((kind = 'reset') = (member_id IS NOT NULL))
);
CREATE INDEX account_link_team ON account_link (team_id, made_at DESC);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON account_link FOR EACH ROW EXECUTE FUNCTION tell_team('link_id');

-- Somebody who is away for long keeps the account, and cannot sign in meanwhile.
ALTER TABLE member ADD COLUMN paused_at timestamptz;

ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused', 'invited', 'link-ended', 'paused', 'resumed', 'sessions-ended'
));

-- +goose Down
DELETE FROM account_event WHERE kind IN ('invited', 'link-ended', 'paused', 'resumed', 'sessions-ended');
ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused'
));
ALTER TABLE member DROP COLUMN paused_at;
DROP TABLE account_link;
