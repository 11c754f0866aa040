-- +goose Up
-- The school year of a team, and how each class goes through it (core/year). Revisions stop two from overwriting each
-- other.
CREATE TABLE school_year (
    team_id uuid PRIMARY KEY REFERENCES team,
    revision integer NOT NULL DEFAULT 1,
    document jsonb NOT NULL,
    updated_by uuid REFERENCES member,
    updated_at timestamptz NOT NULL
);
CREATE TABLE class_pace (
    class_id uuid PRIMARY KEY,
    team_id uuid NOT NULL,
    revision integer NOT NULL DEFAULT 1,
    document jsonb NOT NULL,
    updated_by uuid REFERENCES member,
    updated_at timestamptz NOT NULL,
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE INDEX class_pace_team ON class_pace (team_id);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON school_year FOR EACH ROW EXECUTE FUNCTION tell_team('team_id');
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON class_pace FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- An address at which other calendars read the plan of a class: whoever has the secret may. Only its hash is kept.
CREATE TABLE calendar_feed (
    class_id uuid PRIMARY KEY,
    team_id uuid NOT NULL,
    secret bytea NOT NULL UNIQUE, -- SHA-256
    made_by uuid REFERENCES member,
    made_at timestamptz NOT NULL,
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE INDEX calendar_feed_team ON calendar_feed (team_id);

-- A change of the order of teaching is proposed as a whole, and agreed or put aside as a whole.
CREATE TABLE order_proposal (
    proposal_id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    team_id uuid NOT NULL REFERENCES team,
    note text NOT NULL DEFAULT '',
    before uuid[] NOT NULL,
    after uuid[] NOT NULL,
    state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'agreed', 'put aside')),
    made_by uuid REFERENCES member,
    made_at timestamptz NOT NULL,
    decided_by uuid REFERENCES member,
    decided_at timestamptz
);
CREATE INDEX order_proposal_team ON order_proposal (team_id, made_at DESC);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON order_proposal FOR EACH ROW EXECUTE FUNCTION tell_team('proposal_id');

-- A group that catches up: the classes whose children are in it, whether its log counts for them too, and its sounds.
CREATE TABLE group_source (
    group_id uuid NOT NULL,
    class_id uuid NOT NULL,
    team_id uuid NOT NULL,
    flows_back boolean NOT NULL DEFAULT false,
    PRIMARY KEY (group_id, class_id),
    CHECK (group_id <> class_id),
    FOREIGN KEY (team_id, group_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE INDEX group_source_class ON group_source (team_id, class_id);
CREATE TABLE group_focus (
    group_id uuid NOT NULL,
    card_id uuid NOT NULL,
    team_id uuid NOT NULL,
    place integer NOT NULL,
    PRIMARY KEY (group_id, card_id),
    FOREIGN KEY (team_id, group_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id)
);
CREATE INDEX group_focus_team ON group_focus (team_id);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON group_source FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- How long a step of a lesson took, where the lesson was taught; nobody's name.
CREATE TABLE step_time (
    lesson_id uuid NOT NULL,
    step_id text NOT NULL,
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    kind text NOT NULL,
    planned_s integer NOT NULL CHECK (planned_s > 0),
    usual_s integer NOT NULL CHECK (usual_s > 0), -- planned for a class like any other
    took_s integer NOT NULL CHECK (took_s BETWEEN 1 AND 7200),
    taught_at timestamptz NOT NULL,
    PRIMARY KEY (lesson_id, step_id),
    FOREIGN KEY (lesson_id) REFERENCES lesson_log ON DELETE CASCADE,
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE INDEX step_time_team ON step_time (team_id, taught_at DESC);

-- Parameters of forgetting fitted to a team's own logs (core/review).
CREATE TABLE memory_fit (
    team_id uuid PRIMARY KEY REFERENCES team,
    document jsonb NOT NULL,
    made_at timestamptz NOT NULL
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON memory_fit FOR EACH ROW EXECUTE FUNCTION tell_team('team_id');

-- +goose Down
DROP TABLE memory_fit, step_time, group_focus, group_source, order_proposal, calendar_feed, class_pace, school_year;
