-- part: review_rows
r.review_id::text, r.card_id::text, r.note, coalesce(r.asked_by::text, '') AS asked_id, coalesce(a.name, 'Bright Chalk') AS asked_by, r.asked_at,
    r.before_version, r.state, coalesce(d.name, '') AS decided_by, r.decided_at, r.decided_version, r.conclusion,
    coalesce(r.take_id::text, '') AS take_id, r.letter
FROM review r LEFT JOIN member a ON a.team_id = r.team_id AND a.member_id = r.asked_by LEFT JOIN member d ON d.team_id = r.team_id AND d.member_id = r.decided_by

-- name: review_add
INSERT INTO review (team_id, card_id, note, asked_by, asked_at, before_version)
VALUES (@team_id, @card_id, @note, @by, @now, @before) RETURNING review_id::text

-- name: review_list
SELECT {review_rows}
WHERE r.team_id = @team_id AND r.card_id = @card_id ORDER BY r.place DESC LIMIT 50

-- name: review_end
UPDATE review SET state = @state, decided_by = @by, decided_at = @now, decided_version = @version, conclusion = @conclusion,
    take_id = @take_id, letter = @letter
WHERE team_id = @team_id AND review_id = @review_id AND state = 'open'

-- name: reader_add
INSERT INTO review_reader (review_id, member_id, team_id)
SELECT @review_id, member_id, team_id FROM member WHERE team_id = @team_id AND member_id = ANY(@members::uuid[]) AND archived_at IS NULL
ON CONFLICT DO NOTHING

-- name: reader_list
SELECT m.member_id::text, m.name, m.initials FROM review_reader r JOIN member m ON m.team_id = r.team_id AND m.member_id = r.member_id
WHERE r.team_id = @team_id AND r.review_id = @review_id ORDER BY m.name

-- name: voice_put
INSERT INTO review_voice (review_id, member_id, team_id, version, yes, note, said_at)
VALUES (@review_id, @member_id, @team_id, @version, @yes, @note, @now)
ON CONFLICT (review_id, member_id) DO UPDATE SET version = excluded.version, yes = excluded.yes, note = excluded.note,
    said_at = excluded.said_at

-- name: voice_list
SELECT v.review_id::text, v.member_id::text, m.name, m.initials, v.version, v.yes, v.note, v.said_at
FROM review_voice v JOIN member m ON m.team_id = v.team_id AND m.member_id = v.member_id JOIN review r ON r.review_id = v.review_id
WHERE v.team_id = @team_id AND r.card_id = @card_id ORDER BY v.said_at

-- part: remark_rows
k.remark_id::text, k.card_id::text, coalesce(k.parent_id::text, '') AS parent_id, k.field, k.body, k.wording, k.version,
    k.made_by::text AS made_id, m.name AS made_by, m.initials, k.made_at, k.edited_at, coalesce(t.name, '') AS taken_by, k.taken_at,
    coalesce(s.name, '') AS settled_by, k.settled_at
FROM remark k JOIN member m ON m.team_id = k.team_id AND m.member_id = k.made_by LEFT JOIN member t ON t.team_id = k.team_id AND t.member_id = k.taken_by LEFT JOIN member s ON s.team_id = k.team_id AND s.member_id = k.settled_by

-- name: remark_add
INSERT INTO remark (team_id, card_id, parent_id, field, body, wording, version, made_by, made_at)
VALUES (@team_id, @card_id, @parent_id, @field, @body, @wording, @version, @by, @now) RETURNING remark_id::text

-- name: remark_list
SELECT {remark_rows}
WHERE k.team_id = @team_id AND k.card_id = @card_id ORDER BY k.place

-- name: remark_get
SELECT {remark_rows}
WHERE k.team_id = @team_id AND k.remark_id = @remark_id

-- name: remark_edit
UPDATE remark SET body = @body, edited_at = @now WHERE team_id = @team_id AND remark_id = @remark_id

-- name: remark_drop
DELETE FROM remark WHERE team_id = @team_id AND remark_id = @remark_id

-- name: remark_settle
UPDATE remark SET settled_by = @by, settled_at = @at WHERE team_id = @team_id AND remark_id = @remark_id

-- name: remark_take
UPDATE remark SET taken_by = @by, taken_at = @now, settled_by = @by, settled_at = @now WHERE team_id = @team_id AND remark_id = @remark_id

-- name: remark_open
SELECT k.card_id::text, count(*)::int AS open FROM remark k
WHERE k.team_id = @team_id AND k.parent_id IS NULL AND k.settled_at IS NULL GROUP BY k.card_id

-- name: notice_add
INSERT INTO notice (team_id, member_id, kind, card_id, remark_id, note, by_member, made_at)
SELECT team_id, member_id, @kind, @card_id, @remark_id, @note, @by, @now FROM member
WHERE team_id = @team_id AND member_id = ANY(@members::uuid[]) AND archived_at IS NULL

-- name: notice_list
SELECT n.notice_id, n.kind, n.card_id::text, c.grapheme, coalesce(n.remark_id::text, '') AS remark_id, n.note, coalesce(b.name, 'Bright Chalk') AS by,
    n.made_at, n.seen_at
FROM notice n JOIN card c ON c.card_id = n.card_id LEFT JOIN member b ON b.team_id = n.team_id AND b.member_id = n.by_member
WHERE n.team_id = @team_id AND n.member_id = @member_id ORDER BY n.notice_id DESC LIMIT 100

-- name: notice_see
UPDATE notice SET seen_at = @now WHERE team_id = @team_id AND member_id = @member_id AND seen_at IS NULL AND notice_id <= @upto

-- name: waiting_list
SELECT r.card_id::text, c.grapheme, c.sound, r.note, coalesce(a.name, 'Bright Chalk') AS asked_by, r.asked_at,
    EXISTS (SELECT 1 FROM review_reader e WHERE e.review_id = r.review_id AND e.member_id = @member_id) AS asked,
    coalesce((SELECT v.yes AND v.version = c.version FROM review_voice v WHERE v.review_id = r.review_id AND v.member_id = @member_id), false) AS said,
    coalesce(r.asked_by = @member_id, false) AS mine
FROM review r JOIN card c ON c.card_id = r.card_id LEFT JOIN member a ON a.team_id = r.team_id AND a.member_id = r.asked_by
WHERE r.team_id = @team_id AND r.state = 'open' AND c.archived_at IS NULL ORDER BY r.asked_at

-- name: changes_since
SELECT c.card_id::text, c.grapheme, c.sound, array_agg(DISTINCT f.field) AS fields, string_agg(DISTINCT coalesce(m.name, 'Bright Chalk'), ', ') AS by,
    max(v.changed_at) AS changed_at, bool_or(v.state = 'agreed') AS agreed
FROM card_version v JOIN card c ON c.card_id = v.card_id LEFT JOIN member m ON m.team_id = v.team_id AND m.member_id = v.changed_by, unnest(v.changed) AS f(field)
WHERE v.team_id = @team_id AND v.changed_at > @since AND v.changed_by IS DISTINCT FROM @member_id AND c.archived_at IS NULL
GROUP BY c.card_id, c.grapheme, c.sound ORDER BY max(v.changed_at) DESC LIMIT 40

-- name: looked_get
SELECT (SELECT looked_at FROM member_look WHERE team_id = @team_id AND member_id = @member_id)

-- name: looked_set
INSERT INTO member_look (member_id, team_id, looked_at) VALUES (@member_id, @team_id, @at)
ON CONFLICT (member_id) DO UPDATE SET looked_at = greatest(member_look.looked_at, excluded.looked_at)

-- name: teacher_list
SELECT t.class_id::text, m.member_id::text, m.name, m.initials FROM class_member t JOIN member m ON m.team_id = t.team_id AND m.member_id = t.member_id
WHERE t.team_id = @team_id AND m.archived_at IS NULL ORDER BY m.name

-- name: teacher_clear
DELETE FROM class_member WHERE team_id = @team_id AND class_id = @class_id AND NOT member_id = ANY(@members::uuid[])

-- name: teacher_add
INSERT INTO class_member (class_id, member_id, team_id)
SELECT @class_id, member_id, team_id FROM member WHERE team_id = @team_id AND member_id = ANY(@members::uuid[]) AND archived_at IS NULL
ON CONFLICT DO NOTHING

-- name: last_lessons
SELECT DISTINCT ON (g.class_id) g.class_id::text, g.lesson_id::text, g.taught_at, g.reached, g.skipped, l.purpose,
    (SELECT coalesce(array_agg(e ->> 'id' ORDER BY n), ARRAY[]::text[]) FROM jsonb_array_elements(coalesce(l.snapshot -> 'steps', '[]')) WITH ORDINALITY AS t(e, n)) AS ids,
    (SELECT coalesce(array_agg(e ->> 'name' ORDER BY n), ARRAY[]::text[]) FROM jsonb_array_elements(coalesce(l.snapshot -> 'steps', '[]')) WITH ORDINALITY AS t(e, n)) AS names
FROM lesson_log g JOIN lesson l USING (lesson_id) WHERE g.team_id = @team_id ORDER BY g.class_id, g.taught_at DESC, g.logged_at DESC

-- name: lessons_left
SELECT i.lesson_id::text, i.class_id::text, s.name AS class_name, i.purpose, c.grapheme, c.sound,
    CASE WHEN i.snapshot ? 'targets' THEN jsonb_array_length(i.snapshot -> 'targets') ELSE 1 END AS targets,
    (i.snapshot ->> 'minutes')::int AS minutes, i.created_at, NULL::timestamptz AS taught_at,
    EXISTS (SELECT 1 FROM lesson_run r WHERE r.lesson_id = i.lesson_id) AS begun
FROM lesson i JOIN school_class s USING (class_id) JOIN card c USING (card_id)
WHERE i.team_id = @team_id AND s.archived_at IS NULL AND i.created_at > @since AND NOT EXISTS (SELECT 1 FROM lesson_log g WHERE g.lesson_id = i.lesson_id)
ORDER BY i.created_at DESC LIMIT 60

-- name: class_rename
UPDATE school_class SET name = @name WHERE team_id = @team_id AND class_id = @class_id AND archived_at IS NULL

-- name: class_archive
UPDATE school_class SET archived_at = @at, moved_to = @moved_to WHERE team_id = @team_id AND class_id = @class_id

-- name: class_past
SELECT s.class_id::text, s.name, s.kind, s.archived_at, coalesce(t.name, '') AS moved_to
FROM school_class s LEFT JOIN school_class t ON t.class_id = s.moved_to
WHERE s.team_id = @team_id AND s.archived_at IS NOT NULL ORDER BY s.archived_at DESC, s.name

-- name: class_inherit_log
INSERT INTO class_log (team_id, class_id, card_id, introduced, sureness, reading, spelling, forming, reached, met_at, logged_by)
SELECT l.team_id, @class_id::uuid, l.card_id, l.introduced, l.sureness, l.reading, l.spelling, l.forming, '', l.met_at, l.logged_by
FROM class_log l WHERE l.team_id = @team_id AND l.class_id = @source_id
UNION ALL
SELECT l.team_id, @class_id::uuid, l.card_id, false, l.sureness, l.reading, l.spelling, l.forming, '', l.met_at, l.logged_by
FROM group_source s JOIN class_log l ON l.team_id = s.team_id AND l.class_id = s.group_id AND l.lesson_id IS NOT NULL
    JOIN group_focus f ON f.group_id = s.group_id AND f.card_id = l.card_id
WHERE s.team_id = @team_id AND s.class_id = @source_id AND s.flows_back
    AND EXISTS (SELECT 1 FROM class_log o WHERE o.team_id = @team_id AND o.class_id = @source_id AND o.card_id = l.card_id AND o.met_at <= l.met_at)

-- name: class_inherit_cards
INSERT INTO class_known (team_id, class_id, card_id, said_by, said_at)
SELECT team_id, @class_id::uuid, card_id, said_by, said_at FROM class_known WHERE team_id = @team_id AND class_id = @source_id

-- name: class_inherit_words
INSERT INTO class_known_word (team_id, class_id, word, said_by, said_at)
SELECT team_id, @class_id::uuid, word, said_by, said_at FROM class_known_word WHERE team_id = @team_id AND class_id = @source_id
