-- Where dated copies of this file go, and how the last one went. Not a document: nobody undoes it, and it concerns this machine only.
CREATE TABLE backup (
    only    INTEGER PRIMARY KEY CHECK (only = 1),
    folder  TEXT,     -- NULL: the usual one, beside the file
    at      TEXT,     -- when the last copy was made
    changes INTEGER,  -- how many changes the file had seen then
    tried   TEXT,     -- when the last attempt was made
    failed  TEXT      -- why the last attempt made none, NULL where it did
) STRICT;

INSERT INTO backup (only) VALUES (1);
