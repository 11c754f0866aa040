-- +goose Up
-- A person has one account: an address, a password, a second step, a sign-in by a provider. A member is what the person
-- is in one team; who works in several teams is a member of each.
CREATE TABLE account (
    account_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    email text NOT NULL,
    password_hash text NOT NULL, -- empty: no password, the person signs in by the provider
    created_at timestamptz NOT NULL DEFAULT now()
);

-- entered_at is when the person last chose the team.
ALTER TABLE member ADD COLUMN account_id uuid REFERENCES account ON DELETE SET NULL, ADD COLUMN entered_at timestamptz;
-- Of members who left and came back under a new id, only the newest keeps the address; the others become like erased
-- ones in this, and keep their names.
WITH newest AS (
    SELECT DISTINCT ON (lower(email)) member_id FROM member WHERE erased_at IS NULL
    ORDER BY lower(email), archived_at DESC NULLS FIRST, created_at DESC
), made AS (
    INSERT INTO account (account_id, email, password_hash, created_at)
    SELECT member_id, email, password_hash, created_at FROM member JOIN newest USING (member_id)
    RETURNING account_id
)
UPDATE member SET account_id = member_id WHERE member_id IN (SELECT account_id FROM made);
CREATE UNIQUE INDEX account_email ON account (lower(email));
CREATE UNIQUE INDEX member_account ON member (account_id, team_id);
DROP INDEX member_email;
ALTER TABLE member DROP COLUMN email, DROP COLUMN password_hash;

ALTER TABLE second_factor DROP COLUMN team_id;
ALTER TABLE second_factor RENAME COLUMN member_id TO account_id;
DELETE FROM second_factor WHERE account_id NOT IN (SELECT account_id FROM account);
ALTER TABLE second_factor ADD FOREIGN KEY (account_id) REFERENCES account ON DELETE CASCADE;

-- Who an account is at the provider of a sign-in (OpenID Connect): the subject that an issuer never gives to anybody else.
CREATE TABLE account_identity (
    issuer text NOT NULL,
    subject text NOT NULL,
    account_id uuid NOT NULL REFERENCES account ON DELETE CASCADE,
    since timestamptz NOT NULL,
    PRIMARY KEY (issuer, subject)
);
CREATE UNIQUE INDEX account_identity_account ON account_identity (account_id, issuer);

ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused', 'invited', 'link-ended', 'paused', 'resumed', 'sessions-ended', 'second-on', 'second-off',
    'provider-on', 'provider-off'
));

-- +goose Down
DELETE FROM account_event WHERE kind IN ('provider-on', 'provider-off');
ALTER TABLE account_event DROP CONSTRAINT account_event_kind_check;
ALTER TABLE account_event ADD CONSTRAINT account_event_kind_check CHECK (kind IN (
    'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed',
    'desk-joined', 'desk-refused', 'invited', 'link-ended', 'paused', 'resumed', 'sessions-ended', 'second-on', 'second-off'
));
DROP TABLE account_identity;
ALTER TABLE member ADD COLUMN email text, ADD COLUMN password_hash text NOT NULL DEFAULT '';
-- An address serves one member; in further teams the person gets one that nobody has.
UPDATE member m SET email = member_id::text || '@another-team.invalid';
UPDATE member m SET email = a.email, password_hash = a.password_hash
FROM account a WHERE m.member_id = (
    SELECT k.member_id FROM member k WHERE k.account_id = a.account_id
    ORDER BY k.archived_at DESC NULLS FIRST, k.entered_at DESC NULLS LAST, k.created_at LIMIT 1
);
UPDATE member SET email = member_id::text || '@erased.invalid' WHERE erased_at IS NOT NULL;
ALTER TABLE member ALTER COLUMN email SET NOT NULL, ALTER COLUMN password_hash DROP DEFAULT;
CREATE UNIQUE INDEX member_email ON member (lower(email)) WHERE archived_at IS NULL;
ALTER TABLE second_factor DROP CONSTRAINT second_factor_account_id_fkey;
ALTER TABLE second_factor ADD COLUMN team_id uuid;
UPDATE second_factor f SET account_id = m.member_id, team_id = m.team_id
FROM member m JOIN account a USING (account_id) WHERE f.account_id = a.account_id AND m.email = a.email;
DELETE FROM second_factor WHERE team_id IS NULL;
ALTER TABLE second_factor RENAME COLUMN account_id TO member_id;
ALTER TABLE second_factor ALTER COLUMN team_id SET NOT NULL,
    ADD FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id);
CREATE INDEX second_factor_team ON second_factor (team_id);
DROP INDEX member_account;
ALTER TABLE member DROP COLUMN account_id, DROP COLUMN entered_at;
DROP TABLE account;
