-- +goose Up
-- A second wall behind the queries: a transaction sees the rows of the team that it names, and without a name none. Also
-- for the owner of the tables (FORCE); a superuser goes round it, so the application's role is none.
-- +goose StatementBegin
CREATE FUNCTION team_here() RETURNS uuid LANGUAGE sql STABLE AS $$
    SELECT nullif(nullif(current_setting('chalk.team', true), ''), '*')::uuid
$$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION all_teams_here() RETURNS boolean LANGUAGE sql STABLE AS $$
    SELECT coalesce(current_setting('chalk.team', true) = '*', false)
$$;
-- +goose StatementEnd

-- What a person is in other teams counts for the person's account: these two look further than the team, for that alone.
-- (A setting of the function itself would need the right of a superuser.)
-- +goose StatementBegin
CREATE FUNCTION works_elsewhere(account uuid, beside uuid, also_left boolean) RETURNS boolean LANGUAGE plpgsql AS $$
DECLARE
    was text := coalesce(current_setting('chalk.team', true), '');
    works boolean;
BEGIN
    PERFORM set_config('chalk.team', '*', true);
    works := EXISTS (SELECT 1 FROM member m
        WHERE m.account_id = account AND m.member_id IS DISTINCT FROM beside AND (also_left OR m.archived_at IS NULL));
    PERFORM set_config('chalk.team', was, true);
    RETURN works;
END $$;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE FUNCTION end_sessions(account uuid) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE
    was text := coalesce(current_setting('chalk.team', true), '');
    ended bigint;
BEGIN
    PERFORM set_config('chalk.team', '*', true);
    UPDATE member SET epoch = epoch + 1 WHERE account_id = account AND archived_at IS NULL;
    GET DIAGNOSTICS ended = ROW_COUNT;
    PERFORM set_config('chalk.team', was, true);
    RETURN ended;
END $$;
-- +goose StatementEnd

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOR t IN SELECT k.table_name FROM information_schema.columns k
        JOIN information_schema.tables USING (table_schema, table_name)
        WHERE table_schema = current_schema() AND table_type = 'BASE TABLE' AND k.column_name = 'team_id'
    LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_team ON %I USING (team_id = (SELECT team_here()) OR (SELECT all_teams_here()))', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOR t IN SELECT tablename FROM pg_policies WHERE schemaname = current_schema() AND policyname = 'own_team'
    LOOP
        EXECUTE format('DROP POLICY own_team ON %I', t);
        EXECUTE format('ALTER TABLE %I DISABLE ROW LEVEL SECURITY, NO FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
DROP FUNCTION end_sessions(uuid);
DROP FUNCTION works_elsewhere(uuid, uuid, boolean);
DROP FUNCTION all_teams_here();
DROP FUNCTION team_here();
