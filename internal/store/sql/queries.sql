-- part: member_head
m.member_id::text, m.team_id::text, coalesce(m.account_id::text, '') AS account_id, coalesce(a.email, '') AS email, m.name, m.initials, m.role, m.epoch, m.paused_at

-- part: member_from
FROM member m LEFT JOIN account a USING (account_id)

-- part: own_account
(SELECT account_id FROM member WHERE team_id = @team_id AND member_id = @member_id)

-- part: card_rows
c.card_id::text, c.step, c.grapheme, c.sound, c.version, c.agreed_version, c.state, c.content, c.updated_at,
    c.archived_at, coalesce(m.initials, '') AS updated_by, coalesce(t.take_id::text, '') AS take_id
FROM card c LEFT JOIN member m ON m.team_id = c.team_id AND m.member_id = c.updated_by LEFT JOIN take t ON t.card_id = c.card_id AND t.chosen

-- part: version_head
v.version, v.state, coalesce(m.name, 'Bright Chalk') AS changed_by, v.changed_at

-- part: version_from
FROM card_version v LEFT JOIN member m ON m.team_id = v.team_id AND m.member_id = v.changed_by

-- part: take_rows
t.take_id::text, t.card_id::text, t.sha256, t.speaker, t.consent_on, t.trim_start_ms, t.trim_end_ms, t.plain,
    t.verdict, t.report, t.chosen, coalesce(m.name, '') AS created_by, t.created_at
FROM take t LEFT JOIN member m ON m.team_id = t.team_id AND m.member_id = t.created_by

-- part: class_rows
s.class_id::text, s.name, s.kind, (
    SELECT count(*) FROM (
        SELECT l.card_id FROM class_log l WHERE l.team_id = s.team_id AND l.class_id = s.class_id AND l.introduced
        UNION SELECT k.card_id FROM class_known k WHERE k.class_id = s.class_id
    ) met
)::int AS taught FROM school_class s

-- name: team_create
INSERT INTO team (name, conventions) VALUES (@name, @conventions) RETURNING team_id::text

-- name: team_count
SELECT count(*)::int FROM team

-- name: team_get
SELECT team_id::text, name, conventions FROM team WHERE team_id = @team_id

-- name: team_conventions
UPDATE team SET conventions = @conventions WHERE team_id = @team_id

-- Whoever left every team begins anew, as the same person.
-- name: account_create
INSERT INTO account AS a (email, password_hash) VALUES (@email, @password_hash)
ON CONFLICT (lower(email)) DO UPDATE SET password_hash = excluded.password_hash
WHERE NOT works_elsewhere(a.account_id, NULL, false) RETURNING a.account_id::text

-- name: account_by_email
SELECT account_id::text, email, password_hash FROM account WHERE lower(email) = lower(@email)

-- name: account_drop_last
DELETE FROM account a WHERE a.account_id = {own_account}
    AND NOT works_elsewhere(a.account_id, @member_id, true)

-- name: seat_list
SELECT m.member_id::text, m.team_id::text, t.name AS team, m.role, m.paused_at,
    (SELECT count(*) FROM notice n WHERE n.member_id = m.member_id AND n.seen_at IS NULL)::int AS waiting
FROM member m JOIN team t USING (team_id) WHERE m.account_id = @account_id AND m.archived_at IS NULL ORDER BY t.name, m.member_id

-- name: seat_enter
UPDATE member SET entered_at = @now WHERE member_id = @member_id AND account_id = @account_id AND archived_at IS NULL AND paused_at IS NULL

-- Somebody who left and comes back is the same member as before.
-- name: member_create
INSERT INTO member (team_id, account_id, name, initials, role) VALUES (@team_id, @account_id, @name, @initials, @role)
ON CONFLICT (account_id, team_id) DO UPDATE SET archived_at = NULL, paused_at = NULL, name = excluded.name,
    initials = excluded.initials, role = excluded.role
WHERE member.archived_at IS NOT NULL RETURNING member_id::text

-- Of somebody in several teams it is the one that was chosen last.
-- name: member_by_email
SELECT {member_head}, a.password_hash {member_from}
WHERE lower(a.email) = lower(@email) AND m.archived_at IS NULL
ORDER BY m.paused_at IS NOT NULL, m.entered_at DESC NULLS LAST, m.created_at LIMIT 1

-- name: member_by_identity
SELECT {member_head}, a.password_hash {member_from}
WHERE m.account_id = (SELECT i.account_id FROM account_identity i WHERE i.issuer = @issuer AND i.subject = @subject) AND m.archived_at IS NULL
ORDER BY m.paused_at IS NOT NULL, m.entered_at DESC NULLS LAST, m.created_at LIMIT 1

-- name: identity_of
SELECT since FROM account_identity WHERE account_id = {own_account} AND issuer = @issuer

-- name: identity_add
INSERT INTO account_identity AS i (issuer, subject, account_id, since) VALUES (@issuer, @subject, @account_id, @now)
ON CONFLICT (issuer, subject) DO UPDATE SET since = i.since WHERE i.account_id = excluded.account_id

-- name: identity_drop
DELETE FROM account_identity WHERE account_id = {own_account} AND issuer = @issuer

-- name: member_get
SELECT {member_head}, coalesce(a.password_hash, '') AS password_hash {member_from}
WHERE m.member_id = @member_id AND m.team_id = @team_id AND m.archived_at IS NULL

-- name: member_seen
SELECT {member_head}, t.revision, pg_current_wal_flush_lsn()::text AS at {member_from} JOIN team t USING (team_id)
WHERE m.member_id = @member_id AND m.archived_at IS NULL

-- name: member_list
SELECT {member_head}, '' AS password_hash {member_from}
WHERE m.team_id = @team_id AND m.archived_at IS NULL ORDER BY m.name

-- Sessions end in every team of the person.
-- name: member_password
WITH renewed AS (
    UPDATE account SET password_hash = @password_hash
    WHERE account_id = (SELECT account_id FROM member WHERE team_id = @team_id AND member_id = @member_id AND archived_at IS NULL)
    RETURNING account_id
)
SELECT coalesce(sum(end_sessions(account_id)), 0)::bigint FROM renewed

-- name: member_role
UPDATE member SET role = @role WHERE team_id = @team_id AND member_id = @member_id AND archived_at IS NULL

-- name: member_remove
UPDATE member SET archived_at = @now, epoch = epoch + 1
WHERE team_id = @team_id AND member_id = @member_id AND archived_at IS NULL

-- name: event_add
INSERT INTO account_event (team_id, member_id, by_member, kind, account, address, note, happened_at)
VALUES (@team_id, @member_id, @by, @kind, @account, @address, @note, @now)

-- name: event_list
SELECT e.kind, coalesce(m.name, '') AS member, coalesce(b.name, '') AS by, e.address, e.note, e.happened_at
FROM account_event e LEFT JOIN member m ON m.team_id = e.team_id AND m.member_id = e.member_id LEFT JOIN member b ON b.team_id = e.team_id AND b.member_id = e.by_member
WHERE e.team_id = @team_id AND (@kind::text = '' OR e.kind = @kind)
    AND (@who::text = '' OR m.name ILIKE '%' || @who || '%' OR b.name ILIKE '%' || @who || '%')
ORDER BY e.happened_at DESC, e.event_id DESC LIMIT @most

-- name: event_forget
DELETE FROM account_event WHERE happened_at < @before

-- name: failures_count
WITH failed AS (
    SELECT e.account, e.address, e.happened_at, EXISTS (
        SELECT 1 FROM account_event k WHERE k.account = e.account AND k.kind = 'signed-in' AND k.address = e.address
    ) AS known
    FROM account_event e
    WHERE e.kind = 'sign-in-failed' AND e.happened_at > @since AND (e.account = @account OR e.address = @address)
), here AS (
    SELECT EXISTS (
        SELECT 1 FROM account_event k WHERE k.account = @account AND k.kind = 'signed-in' AND k.address = @address
    ) AS known, coalesce((
        SELECT max(k.happened_at) FROM account_event k WHERE k.account = @account AND k.kind IN ('password-reset', 'password-changed')
    ), @since) AS renewed
)
SELECT
    count(*) FILTER (WHERE f.account = @account AND f.happened_at > here.renewed AND CASE WHEN here.known THEN f.address = @address ELSE NOT f.known END)::int AS account,
    count(*) FILTER (WHERE f.address = @address)::int AS address,
    coalesce(min(f.happened_at), @since) AS first
FROM here LEFT JOIN failed f ON true

-- name: sign_out_tell
SELECT 1 FROM pg_notify('bright_chalk', json_build_object('team', @team_id::text, 'kind', 'member', 'id', @member_id::text)::text)

-- name: team_hold
SELECT revision FROM team WHERE team_id = @team_id FOR NO KEY UPDATE

-- name: medium_put
INSERT INTO medium (team_id, sha256, media_type, bytes) VALUES (@team_id, @sha256, @media_type, @bytes)
ON CONFLICT DO NOTHING

-- name: medium_get
SELECT media_type, bytes FROM medium WHERE team_id = @team_id AND sha256 = @sha256

-- name: card_create
INSERT INTO card (team_id, step, grapheme, sound, version, agreed_version, state, content, updated_by)
VALUES (@team_id, @step, @grapheme, @sound, 1, CASE WHEN @state::text = 'agreed' THEN 1 END, @state, @content, @by) RETURNING card_id::text

-- name: card_list
SELECT {card_rows}
WHERE c.team_id = @team_id AND (@archived::boolean OR c.archived_at IS NULL) ORDER BY c.step, c.grapheme

-- name: card_get
SELECT {card_rows}
WHERE c.team_id = @team_id AND c.card_id = @card_id

-- name: card_neighbours
WITH ordered AS (
    SELECT card_id, lag(card_id) OVER w AS before, lead(card_id) OVER w AS after FROM card
    WHERE team_id = @team_id AND archived_at IS NULL WINDOW w AS (ORDER BY step, grapheme)
)
SELECT coalesce(before::text, '') AS before, coalesce(after::text, '') AS after FROM ordered WHERE card_id = @card_id

-- name: card_lock
SELECT version FROM card WHERE team_id = @team_id AND card_id = @card_id FOR UPDATE

-- name: card_update
UPDATE card SET version = @version, state = @state, content = @content, updated_by = @by, updated_at = @now,
    agreed_version = CASE WHEN @state::text = 'agreed' THEN @version::int ELSE agreed_version END
WHERE team_id = @team_id AND card_id = @card_id

-- name: card_move
UPDATE card SET step = CASE WHEN card_id = @card_id THEN @step ELSE step + @by END
WHERE team_id = @team_id AND (card_id = @card_id OR step BETWEEN @first AND @last)

-- name: card_make_room
UPDATE card SET step = step + 1
WHERE team_id = @team_id AND step >= @step AND EXISTS (SELECT 1 FROM card WHERE team_id = @team_id AND step = @step)

-- name: card_archive
UPDATE card SET archived_at = @at WHERE team_id = @team_id AND card_id = @card_id

-- name: version_add
INSERT INTO card_version (team_id, card_id, version, state, content, changed, changed_by, changed_at)
VALUES (@team_id, @card_id, @version, @state, @content, @changed, @by, @now)

-- name: version_list
SELECT {version_head}, v.changed {version_from}
WHERE v.team_id = @team_id AND v.card_id = @card_id AND (@before::int = 0 OR v.version < @before) ORDER BY v.version DESC LIMIT @limit

-- name: version_get
SELECT {version_head}, v.content, v.changed {version_from}
WHERE v.team_id = @team_id AND v.card_id = @card_id AND v.version = @version

-- name: agreed_contents
SELECT v.card_id::text, v.version, v.content FROM card_version v JOIN card c ON c.card_id = v.card_id AND c.agreed_version = v.version
WHERE v.team_id = @team_id AND c.archived_at IS NULL

-- name: take_add
INSERT INTO take (team_id, card_id, sha256, speaker, consent_on, trim_start_ms, trim_end_ms, verdict, report, created_by, created_at)
VALUES (@team_id, @card_id, @sha256, @speaker, @consent_on, @trim_start_ms, @trim_end_ms, @verdict, @report, @by, @now) RETURNING take_id::text

-- name: take_list
SELECT {take_rows}
WHERE t.team_id = @team_id AND t.card_id = @card_id ORDER BY t.created_at DESC

-- name: take_after
SELECT {take_rows}
WHERE t.team_id = @team_id AND (@after::uuid IS NULL OR t.take_id > @after::uuid) ORDER BY t.take_id LIMIT @most

-- name: take_count
SELECT count(*)::int FROM take WHERE team_id = @team_id

-- name: take_get
SELECT {take_rows}
WHERE t.team_id = @team_id AND t.take_id = @take_id

-- name: take_chosen
SELECT {take_rows} JOIN card c ON c.card_id = t.card_id
WHERE t.team_id = @team_id AND t.chosen AND c.archived_at IS NULL ORDER BY c.step, c.grapheme

-- name: take_of_speaker
SELECT {take_rows}
WHERE t.team_id = @team_id AND t.speaker = @speaker

-- name: take_unchoose
UPDATE take SET chosen = false WHERE team_id = @team_id AND card_id = @card_id AND chosen

-- name: take_choose
UPDATE take SET chosen = true WHERE team_id = @team_id AND take_id = @take_id

-- name: take_trim
UPDATE take SET trim_start_ms = @trim_start_ms, trim_end_ms = @trim_end_ms, plain = @plain,
    report = coalesce(@report, report), verdict = coalesce(@verdict, verdict)
WHERE team_id = @team_id AND take_id = @take_id

-- name: take_delete
DELETE FROM take WHERE team_id = @team_id AND take_id = @take_id

-- name: hearing_put
INSERT INTO hearing (team_id, take_id, member_id, pure, why, heard_at)
SELECT team_id, take_id, @member_id, @pure, @why, @now FROM take WHERE team_id = @team_id AND take_id = @take_id
ON CONFLICT (take_id, member_id) DO UPDATE SET pure = excluded.pure, why = excluded.why, heard_at = excluded.heard_at

-- name: hearing_drop
DELETE FROM hearing WHERE team_id = @team_id AND take_id = @take_id AND member_id = @member_id

-- name: hearing_forget
DELETE FROM hearing WHERE team_id = @team_id AND take_id = @take_id

-- name: hearing_list
SELECT h.take_id::text, h.member_id::text, m.initials, h.pure, h.why, h.heard_at
FROM hearing h JOIN member m ON m.team_id = h.team_id AND m.member_id = h.member_id WHERE h.team_id = @team_id ORDER BY h.heard_at, h.take_id, m.initials

-- name: hearing_takes
SELECT t.take_id::text, t.card_id::text, c.grapheme, c.sound, t.verdict
FROM take t JOIN card c ON c.card_id = t.card_id
WHERE t.team_id = @team_id AND c.archived_at IS NULL ORDER BY t.take_id

-- name: medium_drop_unused
DELETE FROM medium m WHERE m.team_id = @team_id AND m.sha256 = @sha256 AND m.media_type LIKE 'audio/%'
    AND NOT EXISTS (SELECT 1 FROM take t WHERE t.team_id = m.team_id AND t.sha256 = m.sha256)

-- name: class_create
INSERT INTO school_class (team_id, name, kind) VALUES (@team_id, @name, @kind) RETURNING class_id::text

-- name: class_list
SELECT {class_rows}
WHERE s.team_id = @team_id AND s.archived_at IS NULL ORDER BY s.kind, s.name

-- name: class_get
SELECT {class_rows}
WHERE s.team_id = @team_id AND s.class_id = @class_id AND s.archived_at IS NULL

-- name: log_add
INSERT INTO class_log (team_id, class_id, card_id, lesson_id, introduced, sureness, reading, spelling, forming, reached, met_at, logged_by)
VALUES (@team_id, @class_id, @card_id, @lesson_id, @introduced, @sureness, @reading, @spelling, @forming, @reached, @met_at, @by)

-- name: log_list
SELECT l.log_id, l.card_id::text, coalesce(l.lesson_id::text, '') AS lesson_id, l.introduced, l.sureness::int, l.reading, l.spelling, l.forming,
    l.reached, l.met_at, coalesce(m.initials, '') AS logged_by, '' AS group_name
FROM class_log l LEFT JOIN member m ON m.team_id = l.team_id AND m.member_id = l.logged_by
WHERE l.team_id = @team_id AND l.class_id = @class_id
UNION ALL
SELECT l.log_id, l.card_id::text, '', false, l.sureness::int, l.reading, l.spelling, l.forming, '', l.met_at, coalesce(m.initials, ''), c.name
FROM group_source s JOIN class_log l ON l.team_id = s.team_id AND l.class_id = s.group_id AND l.lesson_id IS NOT NULL
    JOIN group_focus f ON f.group_id = s.group_id AND f.card_id = l.card_id JOIN school_class c ON c.class_id = s.group_id
    LEFT JOIN member m ON m.team_id = l.team_id AND m.member_id = l.logged_by
WHERE s.team_id = @team_id AND s.class_id = @class_id AND s.flows_back
    AND EXISTS (SELECT 1 FROM class_log o WHERE o.team_id = @team_id AND o.class_id = @class_id AND o.card_id = l.card_id AND o.met_at <= l.met_at)
ORDER BY met_at, log_id

-- name: log_of_lesson_clear
DELETE FROM class_log WHERE team_id = @team_id AND lesson_id = @lesson_id

-- name: log_set
UPDATE class_log SET sureness = @sureness, met_at = @met_at WHERE team_id = @team_id AND class_id = @class_id AND log_id = @log_id

-- name: log_drop
DELETE FROM class_log WHERE team_id = @team_id AND class_id = @class_id AND log_id = @log_id

-- part: lesson_logs
SELECT g.lesson_id::text, g.class_id::text, g.taught_at, g.reached, g.skipped, g.note, coalesce(m.initials, '') AS logged_by
FROM lesson_log g LEFT JOIN member m ON m.team_id = g.team_id AND m.member_id = g.logged_by

-- name: lesson_log_put
INSERT INTO lesson_log (lesson_id, team_id, class_id, taught_at, reached, skipped, note, logged_by, logged_at)
VALUES (@lesson_id, @team_id, @class_id, @taught_at, @reached, @skipped, @note, @by, @now)
ON CONFLICT (lesson_id) DO UPDATE SET taught_at = excluded.taught_at, reached = excluded.reached, skipped = excluded.skipped,
    note = excluded.note, logged_by = excluded.logged_by, logged_at = excluded.logged_at

-- name: lesson_log_get
{lesson_logs} WHERE g.team_id = @team_id AND g.lesson_id = @lesson_id

-- name: lesson_log_list
{lesson_logs} WHERE g.team_id = @team_id AND g.class_id = @class_id ORDER BY g.taught_at DESC LIMIT 400

-- name: lesson_log_drop
DELETE FROM lesson_log WHERE team_id = @team_id AND lesson_id = @lesson_id

-- name: known_put
INSERT INTO class_known (team_id, class_id, card_id, said_by, said_at)
SELECT @team_id, @class_id, unnest(@card_ids::uuid[]), @by, @now ON CONFLICT (class_id, card_id) DO NOTHING

-- name: known_drop
DELETE FROM class_known WHERE team_id = @team_id AND class_id = @class_id AND card_id = ANY (@card_ids::uuid[])

-- name: known_list
SELECT k.card_id::text, coalesce(m.initials, '') AS said_by, k.said_at
FROM class_known k LEFT JOIN member m ON m.team_id = k.team_id AND m.member_id = k.said_by
WHERE k.team_id = @team_id AND k.class_id = @class_id ORDER BY k.said_at, k.card_id

-- name: known_word_put
INSERT INTO class_known_word (team_id, class_id, word, said_by, said_at)
SELECT @team_id, @class_id, unnest(@words::text[]), @by, @now ON CONFLICT (class_id, word) DO NOTHING

-- name: known_word_drop
DELETE FROM class_known_word WHERE team_id = @team_id AND class_id = @class_id AND word = ANY (@words::text[])

-- name: known_word_list
SELECT k.word, coalesce(m.initials, '') AS said_by, k.said_at
FROM class_known_word k LEFT JOIN member m ON m.team_id = k.team_id AND m.member_id = k.said_by
WHERE k.team_id = @team_id AND k.class_id = @class_id ORDER BY k.word

-- name: clue_put
INSERT INTO word_clue (team_id, word, clue, written_by, written_at) VALUES (@team_id, @word, @clue, @by, @now)
ON CONFLICT (team_id, word) DO UPDATE SET clue = excluded.clue, written_by = excluded.written_by, written_at = excluded.written_at

-- name: clue_drop
DELETE FROM word_clue WHERE team_id = @team_id AND word = @word

-- name: clue_list
SELECT word, clue FROM word_clue WHERE team_id = @team_id ORDER BY word

-- name: routine_list
SELECT purpose, coalesce(class_id::text, '') AS class_id, steps FROM routine WHERE team_id = @team_id

-- name: routine_put
INSERT INTO routine (team_id, purpose, class_id, name, steps) VALUES (@team_id, @purpose, @class_id, @name, @steps)
ON CONFLICT (team_id, purpose, class_id) DO UPDATE SET name = excluded.name, steps = excluded.steps, updated_at = now()

-- name: routine_drop
DELETE FROM routine WHERE team_id = @team_id AND purpose = @purpose AND class_id IS NOT DISTINCT FROM @class_id::uuid

-- name: lesson_add
INSERT INTO lesson (team_id, class_id, card_id, purpose, snapshot, created_by, created_at, updated_at)
VALUES (@team_id, @class_id, @card_id, @purpose, @snapshot, @by, @now, @now) RETURNING lesson_id::text

-- name: lesson_get
SELECT i.lesson_id::text, i.class_id::text, s.name AS class_name, i.revision, i.snapshot, coalesce(m.name, '') AS created_by, i.created_at
FROM lesson i JOIN school_class s USING (class_id) LEFT JOIN member m ON m.team_id = i.team_id AND m.member_id = i.created_by
WHERE i.team_id = @team_id AND i.lesson_id = @lesson_id

-- name: lesson_update
UPDATE lesson SET snapshot = @snapshot, former = snapshot, revision = revision + 1, updated_at = @now
WHERE team_id = @team_id AND lesson_id = @lesson_id AND revision = @revision

-- name: lesson_back
UPDATE lesson SET snapshot = former, former = snapshot, revision = revision + 1, updated_at = @now
WHERE team_id = @team_id AND lesson_id = @lesson_id AND revision = @revision AND former IS NOT NULL

-- name: lesson_list
SELECT i.lesson_id::text, i.class_id::text, s.name AS class_name, i.purpose, c.grapheme, c.sound,
    CASE WHEN i.snapshot ? 'targets' THEN jsonb_array_length(i.snapshot -> 'targets') ELSE 1 END AS targets,
    (i.snapshot ->> 'minutes')::int AS minutes, i.created_at, g.taught_at
FROM lesson i JOIN school_class s USING (class_id) JOIN card c USING (card_id) LEFT JOIN lesson_log g USING (lesson_id)
WHERE i.team_id = @team_id AND (@class_id::uuid IS NULL OR i.class_id = @class_id::uuid)
    AND (@before::timestamptz IS NULL OR i.created_at < @before::timestamptz)
ORDER BY i.created_at DESC LIMIT @most

-- name: lesson_planned
SELECT DISTINCT ON (i.snapshot -> 'planned' ->> 'date', s.name, i.class_id, i.snapshot ->> 'purpose', i.snapshot ->> 'targets')
    i.lesson_id::text, i.class_id::text, i.snapshot -> 'planned' ->> 'date' AS date
FROM lesson i JOIN school_class s USING (class_id)
WHERE i.team_id = @team_id AND (@class_id::uuid IS NULL OR i.class_id = @class_id::uuid)
    AND i.snapshot -> 'planned' ->> 'date' BETWEEN @first AND @last
ORDER BY i.snapshot -> 'planned' ->> 'date', s.name, i.class_id, i.snapshot ->> 'purpose', i.snapshot ->> 'targets', i.created_at DESC
LIMIT @max

-- name: bank_add
INSERT INTO bank_text (team_id, kind, body, book, page, added_by, added_at)
VALUES (@team_id, @kind, @body, @book, @page, @by, @now) RETURNING text_id::text

-- name: bank_list
SELECT b.text_id::text, b.kind, b.body, b.book, b.page, coalesce(m.initials, '') AS added_by, b.added_at
FROM bank_text b LEFT JOIN member m ON m.team_id = b.team_id AND m.member_id = b.added_by
WHERE b.team_id = @team_id AND b.archived_at IS NULL ORDER BY b.kind DESC, b.book, b.page, b.added_at, b.text_id

-- name: bank_archive
UPDATE bank_text SET archived_at = @at WHERE team_id = @team_id AND text_id = @text_id

-- name: letter_list
SELECT form FROM letter_form WHERE team_id = @team_id

-- name: letter_put
INSERT INTO letter_form (team_id, sign, form, updated_by, updated_at) VALUES (@team_id, @sign, @form, @by, @now)
ON CONFLICT (team_id, sign) DO UPDATE SET form = excluded.form, updated_by = excluded.updated_by, updated_at = excluded.updated_at

-- name: letter_drop
DELETE FROM letter_form WHERE team_id = @team_id AND sign = @sign

-- name: picture_list
SELECT name, others, encode(sha256, 'hex') AS picture FROM named_picture WHERE team_id = @team_id AND archived_at IS NULL ORDER BY name

-- name: picture_put
INSERT INTO named_picture (team_id, name, others, sha256, added_by, added_at) VALUES (@team_id, @name, @others, @sha256, @by, @now)
ON CONFLICT (team_id, name) DO UPDATE SET others = excluded.others, sha256 = excluded.sha256, added_by = excluded.added_by, added_at = excluded.added_at, archived_at = NULL

-- name: picture_archive
UPDATE named_picture SET archived_at = @at WHERE team_id = @team_id AND name = @name

-- name: picture_of
SELECT m.media_type, m.bytes FROM named_picture p JOIN medium m USING (team_id, sha256)
WHERE p.team_id = @team_id AND p.name = @name AND p.archived_at IS NULL

-- name: run_begin
INSERT INTO lesson_run (lesson_id, team_id, updated_at)
SELECT lesson_id, team_id, @now FROM lesson WHERE lesson_id = @lesson_id AND team_id = @team_id
ON CONFLICT (lesson_id) DO NOTHING

-- name: run_get
SELECT marks FROM lesson_run WHERE lesson_id = @lesson_id AND team_id = @team_id

-- name: run_hold
SELECT marks FROM lesson_run WHERE lesson_id = @lesson_id AND team_id = @team_id FOR UPDATE

-- name: run_put
UPDATE lesson_run SET marks = @marks, updated_at = @now WHERE lesson_id = @lesson_id AND team_id = @team_id

-- name: pass_add
INSERT INTO desk_pass (team_id, lesson_id, member_id, code, made_at, expires_at)
SELECT team_id, lesson_id, @member_id, @code, @now, @until FROM lesson
WHERE lesson_id = @lesson_id AND team_id = @team_id RETURNING pass_id::text

-- name: pass_take
UPDATE desk_pass SET joined_at = @now
WHERE code = @code AND joined_at IS NULL AND ended_at IS NULL AND expires_at > @now
RETURNING pass_id::text, team_id::text, lesson_id::text, member_id::text

-- name: pass_stands
SELECT EXISTS (
    SELECT 1 FROM desk_pass WHERE pass_id = @pass_id AND lesson_id = @lesson_id AND joined_at IS NOT NULL AND ended_at IS NULL
)

-- name: pass_end
UPDATE desk_pass SET ended_at = @now WHERE lesson_id = @lesson_id AND team_id = @team_id AND ended_at IS NULL

-- name: pass_open
SELECT count(*)::int FROM desk_pass
WHERE lesson_id = @lesson_id AND team_id = @team_id AND ended_at IS NULL AND joined_at IS NOT NULL

-- name: desk_refusals
SELECT count(*) FILTER (WHERE address = @address)::int AS here, count(*)::int AS all,
    coalesce(min(happened_at) FILTER (WHERE address = @address), min(happened_at), @since) AS first
FROM account_event WHERE kind = 'desk-refused' AND happened_at > @since

-- name: pass_forget
DELETE FROM desk_pass WHERE made_at < @before

-- name: school_year_get
SELECT revision, document FROM school_year WHERE team_id = @team_id

-- name: school_year_put
INSERT INTO school_year (team_id, document, updated_by, updated_at) SELECT @team_id, @document, @by, @now WHERE @revision::int = 0
ON CONFLICT (team_id) DO NOTHING

-- name: school_year_set
UPDATE school_year SET document = @document, revision = revision + 1, updated_by = @by, updated_at = @now
WHERE team_id = @team_id AND revision = @revision

-- name: pace_get
SELECT revision, document FROM class_pace WHERE team_id = @team_id AND class_id = @class_id

-- name: pace_put
INSERT INTO class_pace (class_id, team_id, document, updated_by, updated_at) SELECT @class_id, @team_id, @document, @by, @now WHERE @revision::int = 0
ON CONFLICT (class_id) DO NOTHING

-- name: pace_set
UPDATE class_pace SET document = @document, revision = revision + 1, updated_by = @by, updated_at = @now
WHERE team_id = @team_id AND class_id = @class_id AND revision = @revision

-- name: feed_put
INSERT INTO calendar_feed (class_id, team_id, secret, made_by, made_at) VALUES (@class_id, @team_id, @secret, @by, @now)
ON CONFLICT (class_id) DO UPDATE SET secret = excluded.secret, made_by = excluded.made_by, made_at = excluded.made_at

-- name: feed_drop
DELETE FROM calendar_feed WHERE team_id = @team_id AND class_id = @class_id

-- name: feed_made
SELECT made_at FROM calendar_feed WHERE team_id = @team_id AND class_id = @class_id

-- name: feed_of
SELECT team_id::text, class_id::text FROM calendar_feed WHERE secret = @secret

-- name: order_set
UPDATE card c SET step = n.step FROM (SELECT unnest(@ids::uuid[]) AS card_id, unnest(@steps::int[]) AS step) n
WHERE c.team_id = @team_id AND c.card_id = n.card_id AND c.step <> n.step

-- name: proposal_add
INSERT INTO order_proposal (team_id, note, before, after, made_by, made_at)
VALUES (@team_id, @note, @before, @after, @by, @now) RETURNING proposal_id::text

-- part: proposals
SELECT p.proposal_id::text, p.note, p.before::text[], p.after::text[], p.state, coalesce(m.name, '') AS made_by, p.made_at,
    coalesce(d.name, '') AS decided_by, p.decided_at
FROM order_proposal p LEFT JOIN member m ON m.team_id = p.team_id AND m.member_id = p.made_by LEFT JOIN member d ON d.team_id = p.team_id AND d.member_id = p.decided_by

-- name: proposal_list
{proposals} WHERE p.team_id = @team_id ORDER BY p.made_at DESC LIMIT 20

-- name: proposal_get
{proposals} WHERE p.team_id = @team_id AND p.proposal_id = @proposal_id

-- name: proposal_open_count
SELECT count(*)::int FROM order_proposal WHERE team_id = @team_id AND state = 'open'

-- name: proposal_decide
UPDATE order_proposal SET state = @state, decided_by = @by, decided_at = @now
WHERE team_id = @team_id AND proposal_id = @proposal_id AND state = 'open'

-- name: step_time_clear
DELETE FROM step_time WHERE team_id = @team_id AND lesson_id = @lesson_id

-- name: step_time_add
INSERT INTO step_time (lesson_id, step_id, team_id, class_id, kind, planned_s, usual_s, took_s, taught_at)
VALUES (@lesson_id, @step_id, @team_id, @class_id, @kind, @planned_s, @usual_s, @took_s, @taught_at)

-- name: step_time_list
SELECT lesson_id::text, step_id, class_id::text, kind, planned_s, usual_s, took_s, taught_at FROM step_time
WHERE team_id = @team_id ORDER BY taught_at DESC, lesson_id, step_id LIMIT 3000

-- name: group_source_add
INSERT INTO group_source (group_id, class_id, team_id, flows_back) VALUES (@group_id, @class_id, @team_id, @flows_back)

-- name: group_source_list
SELECT s.group_id::text, s.class_id::text, c.name, s.flows_back FROM group_source s JOIN school_class c USING (class_id)
WHERE s.team_id = @team_id ORDER BY c.name

-- name: group_flow
UPDATE group_source SET flows_back = @flows_back WHERE team_id = @team_id AND group_id = @group_id

-- name: group_focus_add
INSERT INTO group_focus (group_id, card_id, team_id, place) SELECT @group_id, k.card_id, @team_id, k.place
FROM unnest(@card_ids::uuid[]) WITH ORDINALITY AS k (card_id, place)

-- name: group_focus_list
SELECT card_id::text FROM group_focus WHERE team_id = @team_id AND group_id = @group_id ORDER BY place

-- name: taught_faces
SELECT l.class_id::text, t.card AS card_id, g.taught_at, coalesce(l.snapshot ->> 'routine', '') AS routine,
    coalesce((f.face ->> 'version')::int, 0) AS version, coalesce(f.face ->> 'keyword', '') AS keyword,
    coalesce(f.face ->> 'picture', '') AS picture, coalesce(f.face ->> 'rhyme', '') AS rhyme, coalesce(f.face ->> 'action', '') AS action
FROM lesson_log g JOIN lesson l USING (lesson_id)
    CROSS JOIN LATERAL jsonb_array_elements_text(coalesce(l.snapshot -> 'targets', '[]')) t (card)
    CROSS JOIN LATERAL (SELECT l.snapshot -> 'cards' -> t.card AS face) f
WHERE g.team_id = @team_id AND l.purpose = 'introduce' AND f.face IS NOT NULL ORDER BY g.taught_at

-- name: fit_get
SELECT document, made_at FROM memory_fit WHERE team_id = @team_id

-- name: fit_put
INSERT INTO memory_fit (team_id, document, made_at) VALUES (@team_id, @document, @now)
ON CONFLICT (team_id) DO UPDATE SET document = excluded.document, made_at = excluded.made_at

-- name: fit_drop
DELETE FROM memory_fit WHERE team_id = @team_id
