-- A client's chain of records goes on by one record at a time and never back. Needs written-once.sql.
CREATE FUNCTION books_only_go_on() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP <> 'UPDATE' OR NEW.client_id <> OLD.client_id OR NEW.number <> OLD.number + 1 THEN
        RAISE EXCEPTION 'A book goes on by one record at a time.' USING ERRCODE = 'restrict_violation';
    END IF;
    RETURN NEW;
END $$;

CREATE TRIGGER books_only_go_on BEFORE UPDATE OR DELETE ON books FOR EACH ROW EXECUTE FUNCTION books_only_go_on();
CREATE TRIGGER books_are_not_emptied BEFORE TRUNCATE ON books EXECUTE FUNCTION refuse_any_change();
