-- +goose Up
-- The SHA-256 of everything that any text, document or hash of any table names, so that a medium which nothing names can be
-- told from one that something still needs; also of tables that are not written yet.
-- +goose StatementBegin
CREATE FUNCTION named_media() RETURNS SETOF text LANGUAGE plpgsql STABLE AS $$
DECLARE c record;
BEGIN
    FOR c IN
        SELECT k.table_name, k.column_name, k.udt_name FROM information_schema.columns k
        JOIN information_schema.tables t USING (table_schema, table_name)
        WHERE k.table_schema = current_schema() AND t.table_type = 'BASE TABLE'
            AND k.udt_name IN ('text', '_text', 'jsonb', 'json', 'bytea')
            AND k.table_name NOT IN ('medium', 'sessions', 'parcel_file', 'account', 'account_event', 'account_link')
    LOOP
        IF c.udt_name = 'bytea' THEN
            RETURN QUERY EXECUTE format('SELECT DISTINCT encode(%1$I, ''hex'') FROM %2$I WHERE length(%1$I) = 32',
                c.column_name, c.table_name);
        ELSE
            RETURN QUERY EXECUTE format(
                'SELECT DISTINCT m[1] FROM %2$I t, regexp_matches(t.%1$I::text, ''[0-9a-f]{64}'', ''g'') m',
                c.column_name, c.table_name);
        END IF;
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP FUNCTION named_media();
