-- One tag a client and one name of an instrument, whatever the case they are typed in.
CREATE UNIQUE INDEX ix_items_client_id_lower_tag ON items (client_id, lower(tag));
CREATE UNIQUE INDEX ix_kit_items_lower_name ON kit_items (lower(name));
