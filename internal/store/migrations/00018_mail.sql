-- +goose Up
-- One mail a day for a member: whoever puts in the row sends it.
CREATE TABLE member_mail (
    member_id uuid NOT NULL,
    team_id uuid NOT NULL,
    day date NOT NULL,
    sent_at timestamptz NOT NULL,
    PRIMARY KEY (member_id, day),
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX member_mail_team ON member_mail (team_id);

-- mail_off: the member wants none. mail_refused_at: since when the mail server refuses the address.
ALTER TABLE member ADD COLUMN mail_off boolean NOT NULL DEFAULT false, ADD COLUMN mail_refused_at timestamptz;

-- +goose Down
ALTER TABLE member DROP COLUMN mail_off, DROP COLUMN mail_refused_at;
DROP TABLE member_mail;
