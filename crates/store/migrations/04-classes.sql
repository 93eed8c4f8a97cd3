-- Classes with their people, runs of several visits, what a group was given, who sat where.

-- A person's name can be taken away; the number stays, and says nothing.
ALTER TABLE person ADD COLUMN erased_at INTEGER;

CREATE TABLE member (
    class_id  INTEGER NOT NULL REFERENCES class (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    added_at  INTEGER NOT NULL,
    PRIMARY KEY (class_id, person_id)
) STRICT;

-- Colleagues whom the owner lets in.
CREATE TABLE class_share (
    class_id  INTEGER NOT NULL REFERENCES class (id),
    person_id INTEGER NOT NULL REFERENCES person (id),
    shared_at INTEGER NOT NULL,
    PRIMARY KEY (class_id, person_id)
) STRICT;

-- Until when the names of a class are kept; nobody has said where it is empty.
ALTER TABLE class ADD COLUMN keep_until INTEGER;

CREATE TABLE visit (
    run_id    INTEGER NOT NULL REFERENCES run (id),
    nr        INTEGER NOT NULL,
    begins_at INTEGER NOT NULL,
    minutes   INTEGER NOT NULL,
    PRIMARY KEY (run_id, nr)
) STRICT;

ALTER TABLE bench_group ADD COLUMN assignment TEXT;
ALTER TABLE bench_group ADD COLUMN unknown TEXT;
ALTER TABLE bench_group ADD COLUMN merged_into INTEGER REFERENCES bench_group (id);

-- Who is at which bench from a visit on; at none: absent.
CREATE TABLE seat (
    run_id     INTEGER NOT NULL REFERENCES run (id),
    visit      INTEGER NOT NULL,
    person_id  INTEGER NOT NULL REFERENCES person (id),
    group_id   INTEGER REFERENCES bench_group (id),
    changed_at INTEGER NOT NULL,
    PRIMARY KEY (run_id, visit, person_id)
) STRICT;

ALTER TABLE run ADD COLUMN paused_at INTEGER;
ALTER TABLE run ADD COLUMN photos INTEGER NOT NULL DEFAULT 0;
-- The edition of the relative atomic masses that it is computed with.
ALTER TABLE run ADD COLUMN masses TEXT NOT NULL DEFAULT '';
-- The room as it was when the run was closed: bottles measured anew later do not change what was found.
ALTER TABLE run ADD COLUMN room TEXT;

-- Whose words a payload is, where a student said them: gone with the person.
ALTER TABLE payload ADD COLUMN person_id INTEGER;
CREATE INDEX payload_of_person ON payload (person_id) WHERE person_id IS NOT NULL;
CREATE INDEX message_by_run ON event (run_id, seq) WHERE kind = 'message';
