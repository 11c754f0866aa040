-- name: schema_version
SELECT coalesce(max(version_id), 0) FROM goose_db_version WHERE is_applied

-- name: doctor_server
SELECT current_setting('server_version_num')::int AS version, clock_timestamp() AS clock, pg_database_size(current_database()) AS bytes,
    (current_setting('fsync') = 'on' AND current_setting('full_page_writes') = 'on') AS durable, pg_is_in_recovery() AS standby

-- name: doctor_counts
SELECT (SELECT count(*) FROM team) AS teams,
    (SELECT count(*) FROM team t WHERE NOT EXISTS (
        SELECT 1 FROM member m WHERE m.team_id = t.team_id AND m.role = 'lead' AND m.archived_at IS NULL AND m.paused_at IS NULL)) AS leaderless,
    (SELECT count(*) FROM medium) AS media,
    (SELECT count(*) FROM medium WHERE sha256(bytes) <> sha256) AS damaged,
    (SELECT count(*) FROM take k WHERE NOT EXISTS (SELECT 1 FROM medium m WHERE m.team_id = k.team_id AND m.sha256 = k.sha256)) AS voiceless,
    (SELECT count(*) FROM card c WHERE coalesce(c.content ->> 'picture', '') <> '' AND NOT EXISTS (
        SELECT 1 FROM medium m WHERE m.team_id = c.team_id AND encode(m.sha256, 'hex') = c.content ->> 'picture')) AS pictureless

-- part: unused_media
created_at < @before AND encode(sha256, 'hex') NOT IN (SELECT named_media())

-- name: doctor_unused
SELECT count(*) AS media, coalesce(sum(length(bytes)), 0)::bigint AS bytes FROM medium WHERE {unused_media}

-- name: doctor_collect
DELETE FROM medium WHERE {unused_media}

-- name: guarded
SELECT NOT (rolsuper OR rolbypassrls) FROM pg_roles WHERE rolname = current_user

-- name: role_there
SELECT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = @role)

-- Only a database that follows another one says yes.
-- name: follows
SELECT coalesce(pg_is_in_recovery() AND pg_last_wal_replay_lsn() >= @at::text::pg_lsn, false)
