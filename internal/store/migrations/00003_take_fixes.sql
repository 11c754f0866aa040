-- +goose Up
-- plain: play the take as it was recorded, without levelling and filters.
ALTER TABLE take ADD COLUMN plain boolean NOT NULL DEFAULT false;
CREATE INDEX take_speaker ON take (team_id, speaker);

-- +goose Down
DROP INDEX take_speaker;
ALTER TABLE take DROP COLUMN plain;
