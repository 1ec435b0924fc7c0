-- How long an inspection took on the bench, read from the record itself: a column of "inspections" is computed by it.
-- Null where the record does not say, or says what is no time.
CREATE FUNCTION bench_seconds(record json) RETURNS integer LANGUAGE plpgsql IMMUTABLE AS $$
BEGIN
    RETURN extract(epoch FROM (record->'times'->>'takenTo')::timestamptz - (record->'times'->>'takenFrom')::timestamptz)::integer;
EXCEPTION WHEN OTHERS THEN RETURN NULL;
END $$;
