-- What is prepared for a run: choices that are made for it, and what is done already, by whom.

CREATE TABLE preparation (
    run_id     INTEGER PRIMARY KEY REFERENCES run (id),
    choices    TEXT NOT NULL,
    author     TEXT NOT NULL,
    changed_at INTEGER NOT NULL
) STRICT;

CREATE TABLE preparation_tick (
    run_id    INTEGER NOT NULL REFERENCES run (id),
    item      TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    done_at   INTEGER NOT NULL,
    PRIMARY KEY (run_id, item)
) STRICT;

-- An instructor, or a technician: who sees what is prepared and the room, but no sums, marks or names.
ALTER TABLE account ADD COLUMN role TEXT NOT NULL DEFAULT 'instructor' CHECK (role IN ('instructor', 'technician'));

-- What stands on the shelves of the prep room. What is used up or thrown away stays for its changes.
CREATE TABLE stock (
    id         INTEGER PRIMARY KEY,
    body       TEXT NOT NULL,
    amount     REAL NOT NULL CHECK (amount >= 0),
    changed_at INTEGER NOT NULL,
    gone_at    INTEGER
) STRICT;

CREATE TABLE stock_change (
    id        INTEGER PRIMARY KEY,
    stock_id  INTEGER NOT NULL REFERENCES stock (id),
    amount    REAL NOT NULL,
    reason    TEXT NOT NULL,
    person_id INTEGER NOT NULL REFERENCES person (id),
    at        INTEGER NOT NULL
) STRICT;
