-- What the school chose where teaching practice differs; nothing is overwritten, the newest counts. A run keeps the choices
-- that it was opened with, so that no sum changes under a class.
CREATE TABLE school_choice (
    id         INTEGER PRIMARY KEY,
    body       TEXT NOT NULL,
    author     TEXT NOT NULL,
    changed_at INTEGER NOT NULL
) STRICT;

ALTER TABLE run ADD COLUMN school TEXT NOT NULL DEFAULT '{}';
