-- 'WBL1': tells a Warm Blend file from any other SQLite file.
PRAGMA application_id = 0x57424c31;

-- Everything a painter keeps: paints, mixes, the piece. The body is JSON of a type of the `finish` crate.
CREATE TABLE document (
    id         TEXT PRIMARY KEY,              -- UUIDv7, so that ids sort by time of making
    kind       TEXT NOT NULL,                 -- paint, mix, piece
    revision   INTEGER NOT NULL CHECK (revision > 0),
    body       TEXT NOT NULL CHECK (json_valid(body)),
    removed    INTEGER NOT NULL DEFAULT 0 CHECK (removed IN (0, 1)), -- taken away, kept for undo and for what uses it
    made_at    TEXT NOT NULL,
    changed_at TEXT NOT NULL
) STRICT;

CREATE INDEX document_by_kind ON document (kind, removed);

-- Which document speaks of which: a mix of its paints.
CREATE TABLE reference (
    user TEXT NOT NULL REFERENCES document (id),
    used TEXT NOT NULL REFERENCES document (id),
    PRIMARY KEY (user, used)
) STRICT, WITHOUT ROWID;

CREATE INDEX reference_by_used ON reference (used);

-- Every change, newest last: what undo goes back through. A state is a body, or NULL for not there.
CREATE TABLE change (
    seq      INTEGER PRIMARY KEY AUTOINCREMENT,
    document TEXT NOT NULL REFERENCES document (id),
    before   TEXT,
    after    TEXT,
    at       TEXT NOT NULL,
    undone   INTEGER NOT NULL DEFAULT 0 CHECK (undone IN (0, 1)),
    CHECK (before IS NOT NULL OR after IS NOT NULL)
) STRICT;
