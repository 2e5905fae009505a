-- +goose Up
-- Takes the name of somebody off who is on the staff of the transaction's club no more: what he made stays, of nobody who
-- has a name. His account goes too where no other club has him.
-- +goose StatementBegin
CREATE FUNCTION erase_member(who uuid) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    club uuid := current_club();
    account uuid;
BEGIN
    UPDATE users SET name = 'Former coach', title = '', version = version + 1 WHERE club_id = club AND id = who AND removed_at IS NOT NULL RETURNING account_id INTO account;
    IF account IS NULL THEN
        RETURN false;
    END IF;
    DELETE FROM invites i USING accounts a WHERE i.club_id = club AND a.id = account AND i.email = a.email;
    IF NOT EXISTS (SELECT FROM users u WHERE u.account_id = account AND u.removed_at IS NULL) THEN
        DELETE FROM passkeys WHERE account_id = account;
        DELETE FROM recovery_codes WHERE account_id = account;
        DELETE FROM account_links WHERE account_id = account;
        DELETE FROM notices WHERE account_id = account;
        DELETE FROM sign_in_places s USING accounts a WHERE a.id = account AND s.email = a.email;
        DELETE FROM sign_in_failures s USING accounts a WHERE a.id = account AND s.email = a.email;
        UPDATE accounts SET name = 'Former coach', email = id || '@removed.invalid', password_hash = NULL, totp_secret = NULL, totp_since = NULL, entered_at = NULL WHERE id = account;
    END IF;
    RETURN true;
END $$;
-- What is kept of an account, in every club.
CREATE FUNCTION all_of_account(account uuid) RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT jsonb_build_object(
        'account', (SELECT to_jsonb(a) - 'password_hash' - 'totp_secret' FROM accounts a WHERE a.id = account),
        'members', (SELECT jsonb_agg(to_jsonb(u) || jsonb_build_object('club', c.name)) FROM users u JOIN clubs c ON c.id = u.club_id WHERE u.account_id = account),
        'groups', (SELECT jsonb_agg(to_jsonb(g)) FROM user_groups g JOIN users u ON u.id = g.user_id WHERE u.account_id = account),
        'passkeys', (SELECT jsonb_agg(jsonb_build_object('name', k.name, 'created_at', k.created_at, 'used_at', k.used_at)) FROM passkeys k WHERE k.account_id = account),
        'notices', (SELECT jsonb_agg(to_jsonb(n)) FROM notices n WHERE n.account_id = account),
        'sessions', (SELECT jsonb_agg(jsonb_build_object('started_at', s.started_at, 'seen_at', s.seen_at, 'agent', s.agent, 'address', s.address)) FROM sessions s JOIN users u ON u.id = s.person WHERE u.account_id = account),
        'addresses', (SELECT jsonb_agg(jsonb_build_object('address', p.ip, 'at', p.at)) FROM sign_in_places p JOIN accounts a ON a.email = p.email WHERE a.id = account),
        'changes', (SELECT jsonb_agg(jsonb_build_object('at', x.at, 'did', x.operation, 'record', x.record) ORDER BY x.at) FROM changes x JOIN users u ON u.id = x.person AND u.club_id = x.club_id WHERE u.account_id = account)) $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION erase_member(uuid), all_of_account(uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION erase_member(uuid), all_of_account(uuid) TO nineyard_app;

-- +goose Down
DROP FUNCTION all_of_account(uuid);
DROP FUNCTION erase_member(uuid);
