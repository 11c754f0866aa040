-- part: link_rows
SELECT k.link_id::text, k.team_id::text, k.kind, k.email, k.name, k.role, coalesce(k.member_id::text, '') AS member_id, t.name AS team,
    coalesce(m.name, '') AS made_by, k.made_at, k.good_until
FROM account_link k JOIN team t USING (team_id) LEFT JOIN member m ON m.team_id = k.team_id AND m.member_id = k.made_by

-- name: link_add
INSERT INTO account_link (team_id, kind, secret, email, name, role, member_id, made_by, made_at, good_until)
VALUES (@team_id, @kind, @secret, @email, @name, @role, @member_id, @by, @now, @until) RETURNING link_id::text

-- name: link_list
{link_rows}
WHERE k.team_id = @team_id AND k.ended_at IS NULL AND k.good_until > @now ORDER BY k.made_at DESC

-- name: link_by_secret
{link_rows}
WHERE k.secret = @secret AND k.ended_at IS NULL AND k.good_until > @now

-- name: link_end
UPDATE account_link SET ended_at = @now WHERE team_id = @team_id AND link_id = @link_id AND ended_at IS NULL

-- name: link_end_of_member
UPDATE account_link SET ended_at = @now WHERE team_id = @team_id AND member_id = @member_id AND ended_at IS NULL

-- name: member_pause
UPDATE member SET paused_at = @at, epoch = epoch + 1 WHERE team_id = @team_id AND member_id = @member_id AND archived_at IS NULL

-- name: member_end_sessions
SELECT end_sessions({own_account})

-- part: session_member
CASE WHEN substr(data, 1, 1) = '\x7b' THEN convert_from(data, 'UTF8')::jsonb ->> 'member' END

-- Sessions of all teams of the person.
-- part: session_of
expiry > @now AND {session_member} IN (
    SELECT o.member_id::text FROM member o WHERE o.account_id = (SELECT account_id FROM member WHERE member_id = @member_id) AND o.archived_at IS NULL)

-- name: session_list
SELECT encode(sha256(convert_to(s.token, 'UTF8')), 'hex') AS id, convert_from(s.data, 'UTF8')::jsonb AS data, m.epoch, t.name AS team
FROM sessions s JOIN member m ON m.member_id::text = {session_member} JOIN team t USING (team_id)
WHERE {session_of}

-- name: session_drop
DELETE FROM sessions WHERE encode(sha256(convert_to(token, 'UTF8')), 'hex') = @id AND {session_of}

-- name: member_former
SELECT member_id::text, name, role, archived_at AS left_at FROM member
WHERE team_id = @team_id AND archived_at IS NOT NULL AND erased_at IS NULL ORDER BY archived_at DESC

-- name: member_data
SELECT jsonb_build_object(
    'account', jsonb_build_object('name', m.name, 'email', (SELECT email FROM account a WHERE a.account_id = m.account_id), 'initials', m.initials, 'role', m.role, 'created_at', m.created_at,
        'paused_at', m.paused_at, 'left_at', m.archived_at),
    'account_events', (SELECT coalesce(jsonb_agg(jsonb_build_object('kind', e.kind, 'address', e.address, 'note', e.note, 'at', e.happened_at)
        ORDER BY e.happened_at), '[]') FROM account_event e WHERE e.member_id = m.member_id),
    'card_changes', (SELECT coalesce(jsonb_agg(jsonb_build_object('grapheme', c.grapheme, 'sound', c.sound, 'version', v.version, 'fields', v.changed,
        'at', v.changed_at) ORDER BY v.changed_at), '[]') FROM card_version v JOIN card c ON c.card_id = v.card_id WHERE v.changed_by = m.member_id),
    'said', (SELECT coalesce(jsonb_agg(jsonb_build_object('grapheme', c.grapheme, 'field', k.field, 'body', k.body, 'wording', k.wording, 'at', k.made_at)
        ORDER BY k.place), '[]') FROM remark k JOIN card c ON c.card_id = k.card_id WHERE k.made_by = m.member_id),
    'reviews', (SELECT coalesce(jsonb_agg(jsonb_build_object('grapheme', c.grapheme, 'yes', o.yes, 'version', o.version, 'note', o.note, 'at', o.said_at)
        ORDER BY o.said_at), '[]') FROM review_voice o JOIN review r ON r.review_id = o.review_id JOIN card c ON c.card_id = r.card_id
        WHERE o.member_id = m.member_id),
    'notices', (SELECT coalesce(jsonb_agg(jsonb_build_object('kind', n.kind, 'note', n.note, 'at', n.made_at, 'seen_at', n.seen_at)
        ORDER BY n.notice_id), '[]') FROM notice n WHERE n.member_id = m.member_id),
    'takes', (SELECT coalesce(jsonb_agg(jsonb_build_object('grapheme', c.grapheme, 'speaker', t.speaker, 'consent_on', t.consent_on, 'at', t.created_at)
        ORDER BY t.created_at), '[]') FROM take t JOIN card c ON c.card_id = t.card_id WHERE t.created_by = m.member_id OR t.speaker = m.name),
    'lessons_made', (SELECT count(*) FROM lesson l WHERE l.created_by = m.member_id),
    'meetings_logged', (SELECT count(*) FROM class_log l WHERE l.logged_by = m.member_id),
    'classes', (SELECT coalesce(jsonb_agg(s.name ORDER BY s.name), '[]') FROM class_member k JOIN school_class s ON s.class_id = k.class_id
        WHERE k.member_id = m.member_id)
)::text FROM member m WHERE m.team_id = @team_id AND m.member_id = @member_id

-- name: member_erase
UPDATE member SET name = 'somebody who left', initials = '–', account_id = NULL, erased_at = @now
WHERE team_id = @team_id AND member_id = @member_id AND archived_at IS NOT NULL AND erased_at IS NULL

-- name: member_erase_events
UPDATE account_event SET address = '', account = NULL, note = '' WHERE team_id = @team_id AND (member_id = @member_id OR kind = 'invited'
    AND note LIKE (SELECT name FROM member WHERE team_id = @team_id AND member_id = @member_id) || ', %')

-- name: member_erase_links
DELETE FROM account_link WHERE team_id = @team_id AND (member_id = @member_id OR lower(email) = (
    SELECT lower(email) FROM account WHERE account_id = {own_account}))

-- name: member_erase_notices
DELETE FROM notice WHERE team_id = @team_id AND member_id = @member_id
