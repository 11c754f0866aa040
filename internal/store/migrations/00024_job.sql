-- +goose Up
-- Work that takes longer than a screen waits: what was asked, how far it has come, and what came of it. Who runs it says
-- so every second; a run that fell silent is taken over by another one under the next number, and its end is not taken.
CREATE TABLE job (
    job_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL,
    member_id uuid NOT NULL,
    kind text NOT NULL,
    title text NOT NULL,
    asked jsonb NOT NULL,
    state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'stopped')),
    run integer NOT NULL DEFAULT 0,
    done integer NOT NULL DEFAULT 0,
    of_all integer NOT NULL DEFAULT 0,
    note bigint NOT NULL DEFAULT 0, -- what a kind counts beside
    said text NOT NULL DEFAULT '', -- why it failed
    result jsonb,
    made_at timestamptz NOT NULL,
    beat_at timestamptz NOT NULL,
    ended_at timestamptz,
    FOREIGN KEY (team_id, member_id) REFERENCES member (team_id, member_id)
);
CREATE INDEX job_member ON job (team_id, member_id, made_at DESC);
CREATE INDEX job_open ON job (beat_at) WHERE state IN ('waiting', 'running');
CREATE TABLE job_file (
    job_id uuid PRIMARY KEY REFERENCES job ON DELETE CASCADE,
    team_id uuid NOT NULL REFERENCES team,
    name text NOT NULL,
    media_type text NOT NULL,
    bytes bytea NOT NULL
);
CREATE INDEX job_file_team ON job_file (team_id);
ALTER TABLE job_file ALTER COLUMN bytes SET STORAGE EXTERNAL;
ALTER TABLE job ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY own_team ON job USING (team_id = (SELECT team_here()) OR (SELECT all_teams_here()));
ALTER TABLE job_file ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY own_team ON job_file USING (team_id = (SELECT team_here()) OR (SELECT all_teams_here()));
CREATE TRIGGER tell AFTER INSERT OR UPDATE OF state, done, of_all OR DELETE ON job
    FOR EACH ROW EXECUTE FUNCTION tell_team('job_id');

-- A file that waits to be fetched may hold a voice: it goes when a take goes.
-- +goose StatementBegin
CREATE FUNCTION drop_files_with_voices() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    DELETE FROM job_file WHERE team_id = OLD.team_id;
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER drop_files AFTER DELETE ON take FOR EACH ROW EXECUTE FUNCTION drop_files_with_voices();

-- +goose Down
DROP TRIGGER drop_files ON take;
DROP FUNCTION drop_files_with_voices();
DROP TABLE job_file;
DROP TABLE job;
