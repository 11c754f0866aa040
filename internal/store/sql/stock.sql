-- name: origin_list
SELECT kind, item, maker, licence, from_team FROM origin WHERE team_id = @team_id ORDER BY kind, item

-- name: origin_put
INSERT INTO origin (team_id, kind, item, maker, licence, from_team, noted_by, noted_at)
VALUES (@team_id, @kind, @item, @maker, @licence, @from_team, @by, @now)
ON CONFLICT (team_id, kind, item) DO UPDATE
SET maker = excluded.maker, licence = excluded.licence, noted_by = excluded.noted_by, noted_at = excluded.noted_at,
    from_team = coalesce(nullif(excluded.from_team, ''), origin.from_team)

-- name: parcel_add
INSERT INTO parcel (team_id, kind, name, brought_by, brought_at)
VALUES (@team_id, @kind, @name, @by, @now) RETURNING parcel_id::text

-- name: parcel_file_add
INSERT INTO parcel_file (parcel_id, team_id, name, media_type, bytes) VALUES (@parcel_id, @team_id, @name, @media_type, @bytes)

-- part: parcel_rows
p.parcel_id::text, p.kind, p.name, coalesce(m.initials, '') AS brought_by, p.brought_at
FROM parcel p LEFT JOIN member m ON m.team_id = p.team_id AND m.member_id = p.brought_by

-- name: parcel_get
SELECT {parcel_rows} WHERE p.team_id = @team_id AND p.parcel_id = @parcel_id

-- name: parcel_list
SELECT {parcel_rows} WHERE p.team_id = @team_id ORDER BY p.place DESC

-- name: parcel_names
SELECT name, media_type, encode(sha256(bytes), 'hex') AS sum FROM parcel_file
WHERE team_id = @team_id AND parcel_id = @parcel_id ORDER BY name

-- name: parcel_file
SELECT media_type, bytes FROM parcel_file WHERE team_id = @team_id AND parcel_id = @parcel_id AND name = @name

-- name: parcel_drop
DELETE FROM parcel WHERE team_id = @team_id AND parcel_id = @parcel_id

-- name: parcel_drop_old
DELETE FROM parcel WHERE team_id = @team_id AND (brought_at < @before OR parcel_id NOT IN (
    SELECT parcel_id FROM parcel WHERE team_id = @team_id ORDER BY place DESC LIMIT @most
))

-- name: bank_replace
UPDATE bank_text SET body = @body WHERE team_id = @team_id AND text_id = @text_id AND archived_at IS NULL

-- name: team_words
UPDATE team SET conventions = conventions || jsonb_build_object('words', @words::jsonb) WHERE team_id = @team_id
