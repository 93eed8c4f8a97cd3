-- What verify holds the tables beside the events against: how many rows there are, and a sum over them. Triggers keep it.
CREATE TABLE seal (
    tbl  TEXT PRIMARY KEY,
    rows INTEGER NOT NULL,
    sum  INTEGER NOT NULL
) STRICT;

-- A run can be called something, and be put away.
ALTER TABLE run ADD COLUMN title TEXT NOT NULL DEFAULT '';
ALTER TABLE run ADD COLUMN archived_at INTEGER;
-- Where it was read from a file of another school: what that says of itself; empty for our own.
ALTER TABLE run ADD COLUMN origin TEXT NOT NULL DEFAULT '';

-- A practical that is no longer offered; its runs keep it.
CREATE TABLE practical_archive (
    practical_id TEXT PRIMARY KEY,
    archived_at  INTEGER NOT NULL
) STRICT;

-- Where somebody signed in from: the browser and the address, for the one who wants to sign it out.
ALTER TABLE session ADD COLUMN place TEXT NOT NULL DEFAULT '';
