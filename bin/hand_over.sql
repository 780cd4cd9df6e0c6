-- Everything of this database but its extensions becomes the application role's.
DO $$
DECLARE each record;
BEGIN
  FOR each IN SELECT n.nspname FROM pg_namespace n WHERE n.nspname !~ '^(pg_|information_schema)' LOOP
    EXECUTE format('ALTER SCHEMA %I OWNER TO vestry_app', each.nspname);
  END LOOP;
  FOR each IN SELECT c.oid::regclass AS name, c.relkind FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
              WHERE n.nspname !~ '^(pg_|information_schema)' AND c.relkind IN ('r', 'p', 'v', 'm')
                AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype = 'e') LOOP
    EXECUTE format('ALTER TABLE %s OWNER TO vestry_app', each.name);
  END LOOP;
  FOR each IN SELECT c.oid::regclass AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
              WHERE n.nspname !~ '^(pg_|information_schema)' AND c.relkind = 'S'
                AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i', 'e')) LOOP
    EXECUTE format('ALTER SEQUENCE %s OWNER TO vestry_app', each.name);
  END LOOP;
  FOR each IN SELECT p.oid::regprocedure AS name FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace
              WHERE n.nspname !~ '^(pg_|information_schema)' AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e') LOOP
    EXECUTE format('ALTER FUNCTION %s OWNER TO vestry_app', each.name);
  END LOOP;
END $$;
