-- Entries that cannot be used, as where a mix names a board instead of a paint: they are taken for deleted, so that no list and no page
-- fails because of them, and the painter learns why.
CREATE TABLE set_aside (
    document TEXT PRIMARY KEY REFERENCES document (id),
    why      TEXT NOT NULL
) STRICT;

-- Whether the file was looked through for them.
ALTER TABLE mark ADD COLUMN looked_through INTEGER NOT NULL DEFAULT 0 CHECK (looked_through IN (0, 1));
