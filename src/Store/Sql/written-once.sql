-- What is written once: nobody changes or deletes a row of these tables, whatever role they work as, and nobody empties them.
-- The server's role has no right to either (DatabaseSetup.AppendOnly); these triggers also stop whoever has.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'Inspection records are never changed or deleted; save a correction instead.' USING ERRCODE = 'restrict_violation';
END $$;

CREATE FUNCTION refuse_kept_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'Changes of house limits and of item facts are never edited or deleted; make another change instead.' USING ERRCODE = 'restrict_violation';
END $$;

CREATE FUNCTION refuse_any_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'What stands in % is never changed or deleted.', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;

DO $$
DECLARE
    kept record;
BEGIN
    FOR kept IN
        SELECT * FROM (VALUES
            ('inspections', 'refuse_change'),
            ('item_changes', 'refuse_kept_change'),
            ('house_changes', 'refuse_kept_change'),
            ('audit_entries', 'refuse_any_change'),
            ('group_decisions', 'refuse_any_change'),
            ('hire_moves', 'refuse_any_change'),
            ('kit_checks', 'refuse_any_change'),
            ('label_prints', 'refuse_any_change'),
            ('look_changes', 'refuse_any_change'),
            ('measurements', 'refuse_any_change'),
            ('outlet_checks', 'refuse_any_change'),
            ('procedure_versions', 'refuse_any_change'),
            ('quarantine_acts', 'refuse_any_change'),
            ('reviewed_records', 'refuse_any_change'),
            ('round_signatures', 'refuse_any_change'),
            ('sign_in_attempts', 'refuse_any_change'),
            ('signed_heads', 'refuse_any_change'),
            ('verifications', 'refuse_any_change')
        ) AS tables (name, refusal)
    LOOP
        EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION %I()',
            kept.name || '_are_kept', kept.name, kept.refusal);
        EXECUTE format('CREATE TRIGGER %I BEFORE TRUNCATE ON %I EXECUTE FUNCTION %I()',
            kept.name || '_are_not_emptied', kept.name, kept.refusal);
    END LOOP;
END $$;
