-- Photos that documents speak of, by their ids: never changed, so undo needs no more than the document.
CREATE TABLE photo (
    id      TEXT PRIMARY KEY,  -- UUIDv7
    jpeg    BLOB NOT NULL CHECK (length(jpeg) > 0),
    made_at TEXT NOT NULL
) STRICT;
