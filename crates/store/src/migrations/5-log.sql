-- What documents tell the log: an index that is written with them, and could be made anew from them.
CREATE TABLE log_line (
    id       INTEGER PRIMARY KEY,
    document TEXT NOT NULL REFERENCES document (id),
    place    INTEGER NOT NULL,      -- of several lines of one document
    kind     TEXT NOT NULL,
    at       INTEGER NOT NULL,      -- microseconds since 1970
    words    TEXT NOT NULL,         -- in the words of the time
    detail   TEXT NOT NULL,
    piece    TEXT,
    pot      TEXT NOT NULL CHECK (json_valid(pot)),
    mix      TEXT,
    board    TEXT,
    photo    TEXT,
    removed  INTEGER NOT NULL CHECK (removed IN (0, 1)),
    UNIQUE (document, place)
) STRICT;

CREATE INDEX log_by_time ON log_line (at, id);
CREATE INDEX log_by_piece ON log_line (piece, at, id);
CREATE INDEX log_by_kind ON log_line (kind, at, id);

-- Which lines tell of which paint.
CREATE TABLE log_paint (
    paint TEXT NOT NULL,
    line  INTEGER NOT NULL REFERENCES log_line (id) ON DELETE CASCADE,
    PRIMARY KEY (paint, line)
) STRICT, WITHOUT ROWID;

CREATE INDEX log_paint_by_line ON log_paint (line);

-- The words as they are looked for, folded before they come here.
CREATE VIRTUAL TABLE log_words USING fts5 (words, content = '', contentless_delete = 1, prefix = '2 3', tokenize = 'unicode61 remove_diacritics 0');
