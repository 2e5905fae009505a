-- +goose Up
-- The application's role owns nothing: row-level security binds it to the club that its
-- transaction is for. The role is the cluster's and stays when this goes down.
-- +goose StatementBegin
DO $$
BEGIN
    IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'nineyard_app') THEN
        CREATE ROLE nineyard_app NOLOGIN;
    END IF;
EXCEPTION WHEN duplicate_object OR unique_violation THEN
    NULL; -- another database of the cluster was quicker
END $$;
DO $$
BEGIN
    IF NOT pg_has_role(current_user, 'nineyard_app', 'MEMBER') THEN
        EXECUTE format('GRANT nineyard_app TO %I', current_user);
    END IF;
END $$;
-- +goose StatementEnd
GRANT USAGE ON SCHEMA public TO nineyard_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO nineyard_app;
REVOKE ALL ON goose_db_version FROM nineyard_app;
REVOKE DELETE ON mark_events, house_versions, library_editions, availability_spells, clubs, users FROM nineyard_app;
REVOKE INSERT ON clubs FROM nineyard_app;
ALTER DEFAULT PRIVILEGES IN SCHEMA public GRANT SELECT, INSERT, UPDATE, DELETE ON TABLES TO nineyard_app;

CREATE FUNCTION current_club() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
    $$ SELECT nullif(current_setting('nineyard.club', true), '')::uuid $$;

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOR t IN SELECT c.table_name FROM information_schema.columns c JOIN information_schema.tables b USING (table_schema, table_name)
             WHERE c.table_schema = 'public' AND c.column_name = 'club_id' AND b.table_type = 'BASE TABLE'
    LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_club ON %I TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()))', t);
    END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE clubs ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON clubs TO nineyard_app USING (id = (SELECT current_club()));
ALTER VIEW marks SET (security_invoker = true);

-- Who signs in is looked up before any club is known. These run as the owner and answer for
-- one person alone.
CREATE FUNCTION sign_in_of(mail text) RETURNS TABLE (id uuid, password_hash text) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS
    $$ SELECT u.id, u.password_hash FROM users u WHERE u.email = lower(mail) $$;

CREATE FUNCTION coach_of(person uuid) RETURNS TABLE (
    id uuid, club_id uuid, name text, role text, club_name text, timezone text,
    season_id uuid, season_start date, season_weeks int, library_version int, own text[], groups jsonb
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT u.id, u.club_id, u.name, u.role, c.name, c.timezone, se.id, se.starts_on, se.weeks,
           coalesce((SELECT max(h.version) FROM house_versions h WHERE h.club_id = u.club_id), 0),
           coalesce((SELECT array_agg(g.group_key ORDER BY g.group_key) FROM user_groups g WHERE g.user_id = u.id), '{}'),
           coalesce((SELECT jsonb_agg(jsonb_build_object('Key', p.key, 'Name', p.name, 'Short', p.short, 'Side', p.side, 'Positions', p.positions) ORDER BY p.sort, p.key)
                     FROM position_groups p WHERE p.club_id = u.club_id), '[]')
    FROM users u
    JOIN clubs c ON c.id = u.club_id
    JOIN LATERAL (SELECT s.* FROM seasons s WHERE s.club_id = c.id ORDER BY s.starts_on DESC LIMIT 1) se ON true
    WHERE u.id = person $$;
REVOKE ALL ON FUNCTION sign_in_of(text), coach_of(uuid) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION sign_in_of(text), coach_of(uuid) TO nineyard_app;

-- +goose Down
DROP FUNCTION coach_of(uuid);
DROP FUNCTION sign_in_of(text);
ALTER VIEW marks RESET (security_invoker);
-- +goose StatementBegin
DO $$
DECLARE p record;
BEGIN
    FOR p IN SELECT tablename FROM pg_policies WHERE schemaname = 'public' AND policyname = 'own_club' LOOP
        EXECUTE format('DROP POLICY own_club ON %I', p.tablename);
        EXECUTE format('ALTER TABLE %I DISABLE ROW LEVEL SECURITY', p.tablename);
    END LOOP;
END $$;
-- +goose StatementEnd
DROP FUNCTION current_club();
ALTER DEFAULT PRIVILEGES IN SCHEMA public REVOKE ALL ON TABLES FROM nineyard_app;
REVOKE ALL ON ALL TABLES IN SCHEMA public FROM nineyard_app;
REVOKE USAGE ON SCHEMA public FROM nineyard_app;
