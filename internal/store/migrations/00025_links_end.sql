-- +goose Up
-- A link by which somebody chooses a new password opens every team of the person. It was made for the account as it was
-- then: it ends when the person joins or leaves a team, or changes the address, the password or the provider.
-- +goose StatementBegin
CREATE FUNCTION end_reset_links() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    was text := coalesce(current_setting('chalk.team', true), '');
    account uuid := (coalesce(to_jsonb(NEW), to_jsonb(OLD)) ->> 'account_id')::uuid;
BEGIN
    PERFORM set_config('chalk.team', '*', true);
    UPDATE account_link SET ended_at = now() WHERE kind = 'reset' AND ended_at IS NULL
        AND member_id IN (SELECT member_id FROM member WHERE account_id = account);
    PERFORM set_config('chalk.team', was, true);
    RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER end_reset_links AFTER UPDATE OF email, password_hash ON account
    FOR EACH ROW EXECUTE FUNCTION end_reset_links();
CREATE TRIGGER end_reset_links AFTER INSERT OR UPDATE OF account_id, archived_at ON member
    FOR EACH ROW EXECUTE FUNCTION end_reset_links();
CREATE TRIGGER end_reset_links AFTER INSERT OR DELETE ON account_identity
    FOR EACH ROW EXECUTE FUNCTION end_reset_links();

-- +goose Down
DROP TRIGGER end_reset_links ON account_identity;
DROP TRIGGER end_reset_links ON member;
DROP TRIGGER end_reset_links ON account;
DROP FUNCTION end_reset_links();
