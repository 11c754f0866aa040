-- +goose Up
-- A step of the order holds one card. Teams where two stood at one step are numbered anew, in the order that they saw.
UPDATE card c SET step = n.place
FROM (
    SELECT card_id, row_number() OVER (PARTITION BY team_id ORDER BY step, grapheme, card_id) AS place FROM card
    WHERE team_id IN (SELECT team_id FROM card GROUP BY team_id, step HAVING count(*) > 1)
) n
WHERE c.card_id = n.card_id AND c.step <> n.place;
ALTER TABLE card ADD CONSTRAINT card_step UNIQUE (team_id, step) DEFERRABLE INITIALLY IMMEDIATE;
DROP INDEX card_order;

-- The revision of a team's library rises once in each transaction that changes what many see, and with it what each
-- server keeps of it is known to be old.
ALTER TABLE team ADD COLUMN revision bigint NOT NULL DEFAULT 1, ADD COLUMN revised_in xid8;
-- +goose StatementBegin
CREATE FUNCTION revise_team() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE team SET revision = revision + 1, revised_in = pg_current_xact_id()
    WHERE team_id = CASE WHEN TG_OP = 'DELETE' THEN OLD.team_id ELSE NEW.team_id END
        AND revised_in IS DISTINCT FROM pg_current_xact_id();
    RETURN NULL;
END $$;
CREATE FUNCTION revise_itself() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF NEW.conventions IS DISTINCT FROM OLD.conventions OR NEW.name IS DISTINCT FROM OLD.name THEN
        NEW.revision := OLD.revision + 1;
    END IF;
    RETURN NEW;
END $$;
-- +goose StatementEnd
CREATE TRIGGER revise AFTER INSERT OR UPDATE OR DELETE ON card FOR EACH ROW EXECUTE FUNCTION revise_team();
CREATE TRIGGER revise AFTER INSERT OR UPDATE OR DELETE ON take FOR EACH ROW EXECUTE FUNCTION revise_team();
CREATE TRIGGER revise AFTER INSERT OR UPDATE OR DELETE ON letter_form FOR EACH ROW EXECUTE FUNCTION revise_team();
CREATE TRIGGER revise AFTER INSERT OR UPDATE OR DELETE ON named_picture FOR EACH ROW EXECUTE FUNCTION revise_team();
CREATE TRIGGER revise AFTER INSERT OR UPDATE ON member FOR EACH ROW EXECUTE FUNCTION revise_team();
CREATE TRIGGER revise BEFORE UPDATE ON team FOR EACH ROW EXECUTE FUNCTION revise_itself();

-- A session carries the epoch of its member; a rise ends all sessions begun before it. An address of somebody who was
-- removed may be used again.
ALTER TABLE member ADD COLUMN epoch integer NOT NULL DEFAULT 1;
DROP INDEX member_email;
CREATE UNIQUE INDEX member_email ON member (lower(email)) WHERE archived_at IS NULL;
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON member FOR EACH ROW EXECUTE FUNCTION tell_team('member_id');

-- What happened to accounts. account is the SHA-256 of the address that was typed, so that guesses at unknown ones
-- count as well without being kept; it is null where nobody signed in.
CREATE TABLE account_event (
    event_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    team_id uuid REFERENCES team,
    member_id uuid REFERENCES member,
    by_member uuid REFERENCES member,
    kind text NOT NULL CHECK (kind IN (
        'signed-in', 'sign-in-failed', 'signed-out', 'added', 'password-changed', 'password-reset', 'role-changed', 'removed'
    )),
    account bytea,
    address text NOT NULL DEFAULT '',
    note text NOT NULL DEFAULT '',
    happened_at timestamptz NOT NULL
);
CREATE INDEX account_event_account ON account_event (account, happened_at) WHERE account IS NOT NULL;
CREATE INDEX account_event_address ON account_event (address, happened_at) WHERE kind = 'sign-in-failed';
CREATE INDEX account_event_team ON account_event (team_id, happened_at DESC);
CREATE INDEX account_event_old ON account_event (happened_at);

-- +goose Down
DROP TABLE account_event;
DROP TRIGGER tell ON member;
DROP INDEX member_email;
CREATE UNIQUE INDEX member_email ON member (lower(email));
ALTER TABLE member DROP COLUMN epoch;
DROP TRIGGER revise ON card;
DROP TRIGGER revise ON take;
DROP TRIGGER revise ON letter_form;
DROP TRIGGER revise ON named_picture;
DROP TRIGGER revise ON member;
DROP TRIGGER revise ON team;
DROP FUNCTION revise_team;
DROP FUNCTION revise_itself;
ALTER TABLE team DROP COLUMN revision, DROP COLUMN revised_in;
ALTER TABLE card DROP CONSTRAINT card_step;
CREATE INDEX card_order ON card (team_id, step);
