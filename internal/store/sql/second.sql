-- name: second_get
SELECT secret, since, spare FROM second_factor WHERE account_id = @account_id

-- name: second_list
SELECT m.member_id::text FROM second_factor f JOIN member m USING (account_id) WHERE m.team_id = @team_id AND f.since IS NOT NULL

-- name: second_begin
INSERT INTO second_factor (account_id, secret) VALUES (@account_id, @secret)
ON CONFLICT (account_id) DO UPDATE SET secret = excluded.secret, last_step = 0, spare = ARRAY[]::text[]
WHERE second_factor.since IS NULL

-- name: second_confirm
UPDATE second_factor SET since = @now, spare = @spare
WHERE account_id = @account_id AND since IS NULL

-- name: second_step
UPDATE second_factor SET last_step = @step WHERE account_id = @account_id AND last_step < @step

-- name: second_spare
UPDATE second_factor SET spare = array_remove(spare, @sum::text)
WHERE account_id = @account_id AND @sum::text = ANY(spare)

-- name: second_drop
DELETE FROM second_factor WHERE account_id = @account_id
