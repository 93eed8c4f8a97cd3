-- Practicals in the making, and who published a version.

ALTER TABLE practical ADD COLUMN author TEXT NOT NULL DEFAULT 'library';

-- A draft is a row of texts, one for each change; undo and redo move along it.
CREATE TABLE draft (
    practical_id TEXT PRIMARY KEY,
    base_version INTEGER,
    step         INTEGER NOT NULL
) STRICT;

CREATE TABLE draft_text (
    practical_id TEXT NOT NULL REFERENCES draft (practical_id) ON DELETE CASCADE,
    step         INTEGER NOT NULL,
    text         TEXT NOT NULL,
    what         TEXT NOT NULL,
    author       TEXT NOT NULL,
    created_at   INTEGER NOT NULL,
    PRIMARY KEY (practical_id, step)
) STRICT;
