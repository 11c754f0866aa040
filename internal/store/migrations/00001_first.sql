-- +goose Up
CREATE TABLE team (
    team_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name text NOT NULL CHECK (name <> ''),
    conventions jsonb NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE member (
    member_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    email text NOT NULL,
    name text NOT NULL,
    initials text NOT NULL,
    role text NOT NULL CHECK (role IN ('lead', 'teacher', 'assistant')),
    password_hash text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    archived_at timestamptz,
    UNIQUE (team_id, member_id)
);
CREATE UNIQUE INDEX member_email ON member (lower(email));

CREATE TABLE sessions (
    token text PRIMARY KEY,
    data bytea NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry_idx ON sessions (expiry);

-- Pictures and takes, addressed by the SHA-256 of their bytes, so that one backup holds everything.
CREATE TABLE medium (
    team_id uuid NOT NULL REFERENCES team,
    sha256 bytea NOT NULL CHECK (length(sha256) = 32),
    media_type text NOT NULL,
    bytes bytea NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (team_id, sha256)
);

CREATE TABLE card (
    card_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    step integer NOT NULL CHECK (step > 0),
    grapheme text NOT NULL,
    sound text NOT NULL,
    version integer NOT NULL CHECK (version > 0),
    agreed_version integer CHECK (agreed_version <= version),
    state text NOT NULL CHECK (state IN ('draft', 'in review', 'agreed')),
    content jsonb NOT NULL,
    updated_by uuid REFERENCES member,
    updated_at timestamptz NOT NULL DEFAULT now(),
    archived_at timestamptz,
    UNIQUE (team_id, grapheme, sound),
    UNIQUE (team_id, card_id)
);
CREATE INDEX card_order ON card (team_id, step);

CREATE TABLE card_version (
    team_id uuid NOT NULL,
    card_id uuid NOT NULL,
    version integer NOT NULL,
    state text NOT NULL,
    content jsonb NOT NULL,
    changed text[] NOT NULL,
    changed_by uuid REFERENCES member,
    changed_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (card_id, version),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id)
);

CREATE TABLE take (
    take_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL,
    card_id uuid NOT NULL,
    sha256 bytea NOT NULL,
    speaker text NOT NULL CHECK (speaker <> ''),
    consent_on date NOT NULL,
    trim_start_ms integer NOT NULL CHECK (trim_start_ms >= 0),
    trim_end_ms integer NOT NULL CHECK (trim_end_ms > trim_start_ms),
    verdict text NOT NULL CHECK (verdict IN ('pure', 'fix', 'retake')),
    report jsonb NOT NULL,
    chosen boolean NOT NULL DEFAULT false,
    created_by uuid REFERENCES member,
    created_at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id),
    FOREIGN KEY (team_id, sha256) REFERENCES medium (team_id, sha256)
);
CREATE UNIQUE INDEX take_chosen ON take (card_id) WHERE chosen;
CREATE INDEX take_card ON take (team_id, card_id);

CREATE TABLE school_class (
    class_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    name text NOT NULL CHECK (name <> ''),
    kind text NOT NULL CHECK (kind IN ('class', 'group')),
    created_at timestamptz NOT NULL DEFAULT now(),
    archived_at timestamptz,
    UNIQUE (team_id, class_id),
    UNIQUE (team_id, name)
);

CREATE TABLE routine (
    team_id uuid PRIMARY KEY REFERENCES team,
    name text NOT NULL,
    steps jsonb NOT NULL,
    updated_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE introduction (
    introduction_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    card_id uuid NOT NULL,
    revision integer NOT NULL DEFAULT 1,
    snapshot jsonb NOT NULL,
    created_by uuid REFERENCES member,
    created_at timestamptz NOT NULL DEFAULT now(),
    updated_at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id),
    UNIQUE (team_id, introduction_id)
);
CREATE INDEX introduction_recent ON introduction (team_id, created_at DESC);

-- What a class was really taught, and how sure it was: 0 not yet, 1 shaky, 2 sure, 3 secure. No pupil stands here.
CREATE TABLE class_log (
    log_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    card_id uuid NOT NULL,
    introduction_id uuid REFERENCES introduction,
    introduced boolean NOT NULL,
    sureness smallint NOT NULL CHECK (sureness BETWEEN 0 AND 3),
    reached text NOT NULL DEFAULT '',
    met_at timestamptz NOT NULL,
    logged_by uuid REFERENCES member,
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id)
);
CREATE INDEX class_log_class ON class_log (team_id, class_id, met_at);

-- +goose StatementBegin
CREATE FUNCTION tell_team() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    changed record;
BEGIN
    changed := CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
    PERFORM pg_notify('bright_chalk', json_build_object('team', changed.team_id, 'kind', TG_TABLE_NAME, 'id', to_json(changed) ->> TG_ARGV[0])::text);
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON card FOR EACH ROW EXECUTE FUNCTION tell_team('card_id');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON take FOR EACH ROW EXECUTE FUNCTION tell_team('card_id');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON introduction FOR EACH ROW EXECUTE FUNCTION tell_team('introduction_id');
CREATE TRIGGER tell AFTER INSERT ON class_log FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON school_class FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- +goose Down
DROP TABLE class_log, introduction, routine, school_class, take, card_version, card, medium, sessions, member, team;
DROP FUNCTION tell_team;
