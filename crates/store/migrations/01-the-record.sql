-- The record. Names of people live in `person` alone; everything else speaks of ids.

CREATE TABLE meta (
    key   TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;

CREATE TABLE person (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    created_at INTEGER NOT NULL
) STRICT;

CREATE TABLE account (
    person_id       INTEGER PRIMARY KEY REFERENCES person (id),
    passphrase_hash TEXT NOT NULL,
    created_at      INTEGER NOT NULL
) STRICT;

CREATE TABLE class (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,
    owner_id   INTEGER NOT NULL REFERENCES person (id),
    created_at INTEGER NOT NULL
) STRICT;

-- A run keeps the version that it started with.
CREATE TABLE practical (
    id         TEXT NOT NULL,
    version    INTEGER NOT NULL,
    text       TEXT NOT NULL,
    created_at INTEGER NOT NULL,
    PRIMARY KEY (id, version)
) STRICT;

CREATE TABLE run (
    id                INTEGER PRIMARY KEY,
    practical_id      TEXT NOT NULL,
    practical_version INTEGER NOT NULL,
    class_id          INTEGER NOT NULL REFERENCES class (id),
    code              TEXT NOT NULL UNIQUE,
    opened_at         INTEGER NOT NULL,
    closed_at         INTEGER,
    FOREIGN KEY (practical_id, practical_version) REFERENCES practical (id, version)
) STRICT;

CREATE TABLE bench_group (
    id         INTEGER PRIMARY KEY,
    run_id     INTEGER NOT NULL REFERENCES run (id),
    position   INTEGER NOT NULL,
    name       TEXT NOT NULL,
    pin        TEXT NOT NULL,
    claimed_at INTEGER,
    UNIQUE (run_id, position),
    UNIQUE (run_id, name)
) STRICT;

-- A cookie's token is kept as its hash; it opens one person's desk or one group's bench.
CREATE TABLE session (
    id         INTEGER PRIMARY KEY,
    token_hash BLOB NOT NULL UNIQUE,
    person_id  INTEGER REFERENCES person (id),
    group_id   INTEGER REFERENCES bench_group (id),
    created_at INTEGER NOT NULL,
    expires_at INTEGER NOT NULL,
    CHECK ((person_id IS NULL) <> (group_id IS NULL))
) STRICT;

CREATE TABLE event (
    seq             INTEGER PRIMARY KEY,
    id              BLOB NOT NULL UNIQUE CHECK (length(id) = 16),
    run_id          INTEGER NOT NULL REFERENCES run (id),
    group_id        INTEGER REFERENCES bench_group (id),
    actor           TEXT NOT NULL,
    kind            TEXT NOT NULL,
    payload_version INTEGER NOT NULL,
    supersedes      BLOB,
    received_at     INTEGER NOT NULL,
    payload_hash    BLOB NOT NULL CHECK (length(payload_hash) = 32),
    chain           BLOB NOT NULL CHECK (length(chain) = 32)
) STRICT;

CREATE INDEX event_by_run ON event (run_id, group_id, seq);

-- What an event says. Erasing a person's data deletes rows here; the chain still verifies.
CREATE TABLE payload (
    seq  INTEGER PRIMARY KEY REFERENCES event (seq),
    salt BLOB NOT NULL,
    body TEXT NOT NULL
) STRICT;

CREATE TRIGGER event_is_never_changed BEFORE UPDATE ON event
BEGIN SELECT RAISE(ABORT, 'an event is never changed'); END;
CREATE TRIGGER event_is_never_deleted BEFORE DELETE ON event
BEGIN SELECT RAISE(ABORT, 'an event is never deleted'); END;
CREATE TRIGGER payload_is_never_changed BEFORE UPDATE ON payload
BEGIN SELECT RAISE(ABORT, 'a payload is never changed'); END;

-- Folded from the events, in the event's own transaction; can be rebuilt at any time.
CREATE TABLE entry (
    seq           INTEGER PRIMARY KEY REFERENCES event (seq),
    run_id        INTEGER NOT NULL,
    group_id      INTEGER NOT NULL,
    kind          TEXT NOT NULL,
    slot          TEXT NOT NULL,
    body          TEXT NOT NULL,
    superseded_by INTEGER
) STRICT;

CREATE INDEX entry_by_slot ON entry (run_id, group_id, kind, slot, superseded_by);
