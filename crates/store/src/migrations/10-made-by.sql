-- Who made an entry: a name, or NULL where nobody is named.
ALTER TABLE document ADD COLUMN made_by TEXT;
ALTER TABLE log_line ADD COLUMN made_by TEXT;
