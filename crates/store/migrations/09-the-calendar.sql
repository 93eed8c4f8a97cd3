-- The school's days, its bell and when it is closed; nothing is overwritten, the newest counts.
CREATE TABLE calendar (
    id         INTEGER PRIMARY KEY,
    body       TEXT NOT NULL,
    author     TEXT NOT NULL,
    changed_at INTEGER NOT NULL
) STRICT;
