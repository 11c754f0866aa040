-- +goose Up
-- A card that was put forward, and what became of it. Beside the content, the take and the letter of the time are
-- remembered, so that the next reader sees what changed in them too.
CREATE TABLE review (
    review_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    place bigint GENERATED ALWAYS AS IDENTITY, -- in the order in which they were begun
    team_id uuid NOT NULL,
    card_id uuid NOT NULL,
    note text NOT NULL DEFAULT '',
    asked_by uuid REFERENCES member,
    asked_at timestamptz NOT NULL,
    before_version integer, -- the one that was agreed when it was put forward
    state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'agreed', 'sent back', 'taken back')),
    decided_by uuid REFERENCES member,
    decided_at timestamptz,
    decided_version integer,
    conclusion text NOT NULL DEFAULT '',
    take_id uuid, -- chosen when it was agreed; it may have been withdrawn since
    letter jsonb, -- as it was drawn when it was agreed
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id),
    UNIQUE (team_id, review_id)
);
CREATE UNIQUE INDEX review_open ON review (card_id) WHERE state = 'open';
CREATE INDEX review_card ON review (team_id, card_id, place DESC);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON review FOR EACH ROW EXECUTE FUNCTION tell_team('card_id');

INSERT INTO review (team_id, card_id, asked_by, asked_at, before_version)
SELECT team_id, card_id, updated_by, updated_at, agreed_version FROM card WHERE state = 'in review';

-- Who was asked to read it.
CREATE TABLE review_reader (
    review_id uuid NOT NULL,
    member_id uuid NOT NULL,
    team_id uuid NOT NULL,
    PRIMARY KEY (review_id, member_id),
    FOREIGN KEY (team_id, review_id) REFERENCES review (team_id, review_id),
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX review_reader_member ON review_reader (team_id, member_id);

-- What somebody says of a proposal, of the version that lay before them; the last word counts.
CREATE TABLE review_voice (
    review_id uuid NOT NULL,
    member_id uuid NOT NULL,
    team_id uuid NOT NULL,
    version integer NOT NULL,
    yes boolean NOT NULL,
    note text NOT NULL DEFAULT '',
    said_at timestamptz NOT NULL,
    PRIMARY KEY (review_id, member_id),
    FOREIGN KEY (team_id, review_id) REFERENCES review (team_id, review_id),
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);

-- What is said beside a card, a part of it or the whole; an answer has a parent.
CREATE TABLE remark (
    remark_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    place bigint GENERATED ALWAYS AS IDENTITY, -- in the order in which they were made
    team_id uuid NOT NULL,
    card_id uuid NOT NULL,
    parent_id uuid,
    field text NOT NULL DEFAULT '',
    body text NOT NULL,
    wording text, -- what should stand in the field instead
    version integer NOT NULL, -- of the card that it was said of
    made_by uuid NOT NULL REFERENCES member,
    made_at timestamptz NOT NULL,
    edited_at timestamptz,
    taken_by uuid REFERENCES member, -- who took the wording over
    taken_at timestamptz,
    settled_by uuid REFERENCES member,
    settled_at timestamptz,
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id),
    FOREIGN KEY (team_id, parent_id) REFERENCES remark (team_id, remark_id),
    UNIQUE (team_id, remark_id)
);
CREATE INDEX remark_card ON remark (team_id, card_id, place);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON remark FOR EACH ROW EXECUTE FUNCTION tell_team('card_id');

-- What somebody should know. mailed_at is when it went out by mail, or was found to be not worth one.
CREATE TABLE notice (
    notice_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    team_id uuid NOT NULL,
    member_id uuid NOT NULL,
    kind text NOT NULL,
    card_id uuid NOT NULL,
    remark_id uuid,
    note text NOT NULL DEFAULT '',
    by_member uuid REFERENCES member,
    made_at timestamptz NOT NULL,
    seen_at timestamptz,
    mailed_at timestamptz,
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id),
    FOREIGN KEY (team_id, remark_id) REFERENCES remark (team_id, remark_id) ON DELETE CASCADE
);
CREATE INDEX notice_member ON notice (team_id, member_id, notice_id DESC);
CREATE INDEX notice_unmailed ON notice (made_at) WHERE mailed_at IS NULL;
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON notice FOR EACH ROW EXECUTE FUNCTION tell_team('member_id');

-- Up to when a member has looked at what changed.
CREATE TABLE member_look (
    member_id uuid PRIMARY KEY,
    team_id uuid NOT NULL,
    looked_at timestamptz NOT NULL,
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX member_look_team ON member_look (team_id);

-- Who teaches a class.
CREATE TABLE class_member (
    class_id uuid NOT NULL,
    member_id uuid NOT NULL,
    team_id uuid NOT NULL,
    PRIMARY KEY (class_id, member_id),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX class_member_member ON class_member (team_id, member_id);
CREATE TRIGGER tell AFTER INSERT OR DELETE ON class_member FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- The name of a class that was put aside may be used again.
ALTER TABLE school_class DROP CONSTRAINT school_class_team_id_name_key;
CREATE UNIQUE INDEX school_class_name ON school_class (team_id, name) WHERE archived_at IS NULL;
ALTER TABLE school_class ADD COLUMN moved_to uuid, ADD FOREIGN KEY (team_id, moved_to) REFERENCES school_class (team_id, class_id);

-- Initials tell members apart.
UPDATE member m SET initials = m.initials || n.place
FROM (
    SELECT member_id, row_number() OVER (PARTITION BY team_id, upper(initials) ORDER BY created_at, member_id) AS place FROM member
    WHERE archived_at IS NULL
) n
WHERE n.member_id = m.member_id AND n.place > 1;
CREATE UNIQUE INDEX member_initials ON member (team_id, upper(initials)) WHERE archived_at IS NULL;

-- +goose Down
DROP INDEX member_initials;
ALTER TABLE school_class DROP COLUMN moved_to;
DROP INDEX school_class_name;
ALTER TABLE school_class ADD UNIQUE (team_id, name);
DROP TABLE class_member, member_look, notice, remark, review_voice, review_reader, review;
