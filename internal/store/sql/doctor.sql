-- name: schema_version
SELECT coalesce(max(version_id), 0) FROM goose_db_version WHERE is_applied
