-- +goose Up
-- A lesson has a purpose; its first target stands in card_id, all of them in the snapshot.
ALTER TABLE introduction RENAME TO lesson;
ALTER TABLE lesson RENAME COLUMN introduction_id TO lesson_id;
ALTER TABLE lesson ADD COLUMN purpose text NOT NULL DEFAULT 'introduce'
    CHECK (purpose IN ('introduce', 'again', 'revise', 'compare', 'catch-up'));
ALTER INDEX introduction_recent RENAME TO lesson_recent;
DROP TRIGGER tell ON lesson;
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON lesson FOR EACH ROW EXECUTE FUNCTION tell_team('lesson_id');

-- A team has a routine for each purpose, a class may have its own.
ALTER TABLE routine DROP CONSTRAINT routine_pkey;
ALTER TABLE routine ADD COLUMN purpose text NOT NULL DEFAULT 'introduce'
    CHECK (purpose IN ('introduce', 'again', 'revise', 'compare', 'catch-up'));
ALTER TABLE routine ADD COLUMN class_id uuid;
ALTER TABLE routine ADD FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id);
CREATE UNIQUE INDEX routine_of ON routine (team_id, purpose, class_id) NULLS NOT DISTINCT;

-- A lesson is logged once; a second time corrects the first.
ALTER TABLE class_log RENAME COLUMN introduction_id TO lesson_id;
DELETE FROM class_log a USING class_log b
WHERE a.lesson_id = b.lesson_id AND a.card_id = b.card_id AND a.log_id < b.log_id;
CREATE UNIQUE INDEX class_log_once ON class_log (lesson_id, card_id) WHERE lesson_id IS NOT NULL;
ALTER TABLE class_log ADD COLUMN reading smallint CHECK (reading BETWEEN 0 AND 3);
ALTER TABLE class_log ADD COLUMN spelling smallint CHECK (spelling BETWEEN 0 AND 3);
ALTER TABLE class_log ADD COLUMN forming smallint CHECK (forming BETWEEN 0 AND 3);
DROP TRIGGER tell ON class_log;
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON class_log FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- What was taught when, how far it went, what was skipped, and a note about the class; never about a child.
CREATE TABLE lesson_log (
    lesson_id uuid PRIMARY KEY,
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    taught_at timestamptz NOT NULL,
    reached text NOT NULL DEFAULT '',
    skipped text[] NOT NULL DEFAULT '{}',
    note text NOT NULL DEFAULT '',
    logged_by uuid REFERENCES member,
    logged_at timestamptz NOT NULL,
    FOREIGN KEY (team_id, lesson_id) REFERENCES lesson (team_id, lesson_id),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE INDEX lesson_log_class ON lesson_log (team_id, class_id, taught_at);
INSERT INTO lesson_log (lesson_id, team_id, class_id, taught_at, reached, logged_by, logged_at)
SELECT DISTINCT ON (l.lesson_id) l.lesson_id, l.team_id, l.class_id, l.met_at, l.reached, l.logged_by, l.met_at
FROM class_log l WHERE l.lesson_id IS NOT NULL ORDER BY l.lesson_id, l.met_at;
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON lesson_log FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- What a class knows by declaration: cards, and exception words.
CREATE TABLE class_known (
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    card_id uuid NOT NULL,
    said_by uuid REFERENCES member,
    said_at timestamptz NOT NULL,
    PRIMARY KEY (class_id, card_id),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id),
    FOREIGN KEY (team_id, card_id) REFERENCES card (team_id, card_id)
);
CREATE TABLE class_known_word (
    team_id uuid NOT NULL,
    class_id uuid NOT NULL,
    word text NOT NULL CHECK (word <> ''),
    said_by uuid REFERENCES member,
    said_at timestamptz NOT NULL,
    PRIMARY KEY (class_id, word),
    FOREIGN KEY (team_id, class_id) REFERENCES school_class (team_id, class_id)
);
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON class_known FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON class_known_word
    FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');

-- What a word means, in the team's own words.
CREATE TABLE word_clue (
    team_id uuid NOT NULL REFERENCES team,
    word text NOT NULL CHECK (word <> ''),
    clue text NOT NULL CHECK (clue <> ''),
    written_by uuid REFERENCES member,
    written_at timestamptz NOT NULL,
    PRIMARY KEY (team_id, word)
);

-- +goose Down
DROP TABLE word_clue, class_known_word, class_known, lesson_log;
DROP TRIGGER tell ON class_log;
CREATE TRIGGER tell AFTER INSERT ON class_log FOR EACH ROW EXECUTE FUNCTION tell_team('class_id');
ALTER TABLE class_log DROP COLUMN reading, DROP COLUMN spelling, DROP COLUMN forming;
DROP INDEX class_log_once;
ALTER TABLE class_log RENAME COLUMN lesson_id TO introduction_id;
DROP INDEX routine_of;
DELETE FROM routine WHERE purpose <> 'introduce' OR class_id IS NOT NULL;
ALTER TABLE routine DROP COLUMN class_id, DROP COLUMN purpose, ADD PRIMARY KEY (team_id);
DELETE FROM lesson WHERE purpose <> 'introduce';
ALTER TABLE lesson DROP COLUMN purpose;
DROP TRIGGER tell ON lesson;
ALTER TABLE lesson RENAME COLUMN lesson_id TO introduction_id;
ALTER TABLE lesson RENAME TO introduction;
ALTER INDEX lesson_recent RENAME TO introduction_recent;
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON introduction
    FOR EACH ROW EXECUTE FUNCTION tell_team('introduction_id');
