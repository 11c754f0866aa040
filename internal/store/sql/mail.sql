-- name: mail_due
SELECT m.member_id::text, m.team_id::text, a.email, m.name, t.name AS team
FROM member m JOIN account a USING (account_id) JOIN team t ON t.team_id = m.team_id
WHERE m.archived_at IS NULL AND m.paused_at IS NULL AND NOT m.mail_off AND m.mail_refused_at IS NULL
    AND EXISTS (SELECT 1 FROM notice n WHERE n.member_id = m.member_id AND n.mailed_at IS NULL AND n.seen_at IS NULL)
    AND NOT EXISTS (SELECT 1 FROM member_mail d WHERE d.member_id = m.member_id AND d.day = @day)
ORDER BY m.member_id LIMIT @most

-- name: mail_claim
INSERT INTO member_mail (member_id, team_id, day, sent_at) VALUES (@member_id, @team_id, @day, @now) ON CONFLICT DO NOTHING

-- name: mail_unclaim
DELETE FROM member_mail WHERE team_id = @team_id AND member_id = @member_id AND day = @day

-- name: mail_notices
SELECT n.notice_id, n.kind, n.card_id::text, c.grapheme, coalesce(n.remark_id::text, '') AS remark_id, '' AS note,
    coalesce(b.name, 'Bright Chalk') AS by, n.made_at, n.seen_at
FROM notice n JOIN card c ON c.card_id = n.card_id LEFT JOIN member b ON b.team_id = n.team_id AND b.member_id = n.by_member
WHERE n.team_id = @team_id AND n.member_id = @member_id AND n.mailed_at IS NULL AND n.seen_at IS NULL
ORDER BY n.notice_id LIMIT 100

-- name: mail_done
UPDATE notice SET mailed_at = @now
WHERE team_id = @team_id AND member_id = @member_id AND mailed_at IS NULL AND notice_id <= @upto

-- name: mail_refused
UPDATE member SET mail_refused_at = @now WHERE team_id = @team_id AND member_id = @member_id

-- name: mail_wish
UPDATE member SET mail_off = @off, mail_refused_at = NULL WHERE team_id = @team_id AND member_id = @member_id

-- name: mail_wished
SELECT mail_off AS off, mail_refused_at AS refused_at FROM member WHERE team_id = @team_id AND member_id = @member_id

-- name: mail_forget
DELETE FROM member_mail WHERE day < @before
