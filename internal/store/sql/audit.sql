-- name: left_list
SELECT l.key, l.why, coalesce(m.name, '') AS left_by, l.left_at FROM audit_left l LEFT JOIN member m ON m.team_id = l.team_id AND m.member_id = l.left_by
WHERE l.team_id = @team_id ORDER BY l.left_at DESC

-- name: left_put
INSERT INTO audit_left (team_id, key, why, left_by, left_at) VALUES (@team_id, @key, @why, @by, @now)
ON CONFLICT (team_id, key) DO UPDATE SET why = excluded.why, left_by = excluded.left_by, left_at = excluded.left_at

-- name: left_drop
DELETE FROM audit_left WHERE team_id = @team_id AND key = @key
