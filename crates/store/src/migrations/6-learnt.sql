-- What documents of a kind there are, and at which revision, is asked for at every request: it is told by this index alone.
DROP INDEX document_by_kind;
CREATE INDEX document_by_state ON document (kind, id, revision, removed);

-- What was learnt of the readings, so that it need not be learnt again when the file is opened. Whatever is not believed is
-- learnt anew: nothing is lost with it.
CREATE TABLE learnt (
    circle INTEGER PRIMARY KEY,
    said   BLOB NOT NULL CHECK (length(said) = 32), -- stands for the tins and readings it was learnt from
    body   BLOB NOT NULL
) STRICT;
