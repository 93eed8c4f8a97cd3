-- What the room has of its own: named instruments, bottles, vessels weighed beforehand. What is gone stays for the
-- readings that were taken on it.

CREATE TABLE room_item (
    kind       TEXT NOT NULL,
    name       TEXT NOT NULL,
    body       TEXT NOT NULL,
    author     TEXT NOT NULL,
    changed_at INTEGER NOT NULL,
    retired_at INTEGER,
    PRIMARY KEY (kind, name)
) STRICT;
