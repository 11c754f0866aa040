-- part: job_rows
SELECT j.job_id::text, j.kind, j.title, j.asked, j.state, j.run, j.done, j.of_all, j.note, j.said, j.result, j.made_at, j.ended_at,
    j.member_id::text, EXISTS (SELECT 1 FROM job_file f WHERE f.job_id = j.job_id) AS file
FROM job j

-- name: job_add
INSERT INTO job (team_id, member_id, kind, title, asked, made_at, beat_at)
VALUES (@team_id, @member_id, @kind, @title, @asked, @now, now()) RETURNING job_id::text

-- name: job_get
{job_rows} WHERE j.team_id = @team_id AND j.job_id = @job_id

-- name: job_list
{job_rows} WHERE j.team_id = @team_id AND j.member_id = @member_id AND j.made_at > @since ORDER BY j.made_at DESC, j.job_id LIMIT 20

-- name: job_open_count
SELECT count(*)::int FROM job WHERE team_id = @team_id AND member_id = @member_id AND state IN ('waiting', 'running')

-- name: job_claim
UPDATE job SET state = 'running', run = run + 1, beat_at = now(), done = 0, of_all = 0, note = 0
WHERE team_id = @team_id AND job_id = @job_id AND (state = 'waiting' OR state = 'running' AND beat_at < now() - make_interval(secs => @silence))
RETURNING run

-- name: job_beat
UPDATE job SET beat_at = now(), done = @done, of_all = @of_all, note = @note
WHERE team_id = @team_id AND job_id = @job_id AND run = @run AND state = 'running'

-- name: job_keep
UPDATE job SET result = @result WHERE team_id = @team_id AND job_id = @job_id AND run = @run AND state = 'running'

-- name: job_release
UPDATE job SET state = 'waiting', beat_at = now() WHERE team_id = @team_id AND job_id = @job_id AND run = @run AND state = 'running'

-- name: job_end
UPDATE job SET state = @state, said = @said, result = @result, ended_at = @now, done = of_all
WHERE team_id = @team_id AND job_id = @job_id AND run = @run AND state = 'running'

-- name: job_stop
UPDATE job SET state = 'stopped', ended_at = @now
WHERE team_id = @team_id AND member_id = @member_id AND job_id = @job_id AND state IN ('waiting', 'running')

-- name: job_drop
DELETE FROM job WHERE team_id = @team_id AND member_id = @member_id AND job_id = @job_id

-- What is made anew takes the place of what was made before.
-- name: job_replace
DELETE FROM job WHERE team_id = @team_id AND member_id = @member_id AND title = @title AND ended_at IS NOT NULL

-- name: job_file_put
INSERT INTO job_file (job_id, team_id, name, media_type, bytes) VALUES (@job_id, @team_id, @name, @media_type, @bytes)

-- name: job_file_get
SELECT f.name, f.media_type, f.bytes FROM job_file f JOIN job j USING (job_id)
WHERE f.team_id = @team_id AND f.job_id = @job_id AND j.member_id = @member_id

-- name: job_lost
SELECT job_id::text, team_id::text FROM job WHERE state IN ('waiting', 'running') AND beat_at < now() - make_interval(secs => @silence) ORDER BY beat_at LIMIT 100

-- name: job_forget
DELETE FROM job WHERE ended_at < @before
