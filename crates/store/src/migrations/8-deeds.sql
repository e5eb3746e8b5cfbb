-- Keys under which changes were asked for, written with the change: whoever never heard that it was saved asks again under the same key,
-- and it is not made twice.
CREATE TABLE deed (
    key TEXT PRIMARY KEY,
    at  TEXT NOT NULL
) STRICT, WITHOUT ROWID;
