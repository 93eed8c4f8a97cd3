-- An account may be a reader's, which sees what is shared with it and changes nothing.
CREATE TABLE account_of_roles (
    person_id       INTEGER PRIMARY KEY REFERENCES person (id),
    passphrase_hash TEXT NOT NULL,
    created_at      INTEGER NOT NULL,
    role            TEXT NOT NULL DEFAULT 'instructor' CHECK (role IN ('instructor', 'technician', 'reader'))
) STRICT;
INSERT INTO account_of_roles SELECT person_id, passphrase_hash, created_at, role FROM account;
DROP TABLE account;
ALTER TABLE account_of_roles RENAME TO account;
