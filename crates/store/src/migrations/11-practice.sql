-- Answers given in practice. They belong to nobody's work: no document, no log line, no undo.
CREATE TABLE practice (
    id INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    skill TEXT NOT NULL,
    level INTEGER NOT NULL,
    correct INTEGER NOT NULL
) STRICT;
