-- +goose Up
-- Where a thing of the library comes from: who made it, how it may be used, from whose library it came. The item is named
-- as in a bundle: medium SHA-256, card ID, text ID, letter SIGN.
CREATE TABLE origin (
    team_id uuid NOT NULL REFERENCES team,
    kind text NOT NULL CHECK (kind IN ('medium', 'card', 'text', 'letter')),
    item text NOT NULL,
    maker text NOT NULL DEFAULT '',
    licence text NOT NULL DEFAULT '',
    from_team text NOT NULL DEFAULT '',
    noted_by uuid REFERENCES member,
    noted_at timestamptz NOT NULL,
    PRIMARY KEY (team_id, kind, item)
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON origin FOR EACH ROW EXECUTE FUNCTION tell_team('item');

-- Something brought in and not yet taken into the library: a bundle, unpacked and cleaned, or a table. It goes after a
-- while.
CREATE TABLE parcel (
    parcel_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    place bigint GENERATED ALWAYS AS IDENTITY, -- in the order in which they came
    kind text NOT NULL CHECK (kind IN ('bundle', 'table')),
    name text NOT NULL,
    brought_by uuid REFERENCES member,
    brought_at timestamptz NOT NULL,
    UNIQUE (team_id, parcel_id)
);
CREATE INDEX parcel_team ON parcel (team_id, place DESC);
CREATE TABLE parcel_file (
    parcel_id uuid NOT NULL,
    team_id uuid NOT NULL,
    name text NOT NULL,
    media_type text NOT NULL,
    bytes bytea NOT NULL,
    PRIMARY KEY (parcel_id, name),
    FOREIGN KEY (team_id, parcel_id) REFERENCES parcel (team_id, parcel_id) ON DELETE CASCADE
);

-- A page may be of a book that the school has.
ALTER TABLE bank_text ADD COLUMN book text NOT NULL DEFAULT '', ADD COLUMN page integer NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE bank_text DROP COLUMN book, DROP COLUMN page;
DROP TABLE parcel_file, parcel;
DROP TABLE origin;
