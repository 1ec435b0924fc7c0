-- What failed and what became of it is written once, like every other evidence (written-once.sql).
DO $$
DECLARE
    kept text;
BEGIN
    FOREACH kept IN ARRAY ARRAY['measured_failures', 'settled_failures'] LOOP
        EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_any_change()',
            kept || '_are_kept', kept);
        EXECUTE format('CREATE TRIGGER %I BEFORE TRUNCATE ON %I EXECUTE FUNCTION refuse_any_change()', kept || '_are_not_emptied', kept);
    END LOOP;
END $$;
