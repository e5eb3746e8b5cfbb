-- One row that tells a file from its copies: which workspace it is, how many changes it has seen, and how many of them were in
-- the file itself when the log was last emptied. A file with fewer than its log was built on is a copy put in its place.
CREATE TABLE mark (
    only    INTEGER PRIMARY KEY CHECK (only = 1),
    lineage TEXT NOT NULL,
    changes INTEGER NOT NULL,
    base    INTEGER NOT NULL
) STRICT;

INSERT INTO mark (only, lineage, changes, base) VALUES (1, lower(hex(randomblob(16))), 1, 0);
