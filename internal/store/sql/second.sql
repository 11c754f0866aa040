-- name: second_get
SELECT secret, since, spare FROM second_factor WHERE team_id = @team_id AND member_id = @member_id

-- name: second_list
SELECT member_id::text FROM second_factor WHERE team_id = @team_id AND since IS NOT NULL

-- name: second_begin
INSERT INTO second_factor (member_id, team_id, secret) VALUES (@member_id, @team_id, @secret)
ON CONFLICT (member_id) DO UPDATE SET secret = excluded.secret, last_step = 0, spare = ARRAY[]::text[]
WHERE second_factor.since IS NULL

-- name: second_confirm
UPDATE second_factor SET since = @now, spare = @spare
WHERE team_id = @team_id AND member_id = @member_id AND since IS NULL

-- name: second_step
UPDATE second_factor SET last_step = @step WHERE team_id = @team_id AND member_id = @member_id AND last_step < @step

-- name: second_spare
UPDATE second_factor SET spare = array_remove(spare, @sum::text)
WHERE team_id = @team_id AND member_id = @member_id AND @sum::text = ANY(spare)

-- name: second_drop
DELETE FROM second_factor WHERE team_id = @team_id AND member_id = @member_id
