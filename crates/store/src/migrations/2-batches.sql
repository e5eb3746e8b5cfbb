-- Changes that were made at one go (an import, a merge) share a batch, and are undone at one go. NULL: a batch of its own.
ALTER TABLE change ADD COLUMN batch INTEGER;

CREATE INDEX change_by_batch ON change (batch);
CREATE INDEX change_by_undone ON change (undone, seq);
