-- A class that was never there: how it works. Null for a run of the record.
ALTER TABLE run ADD COLUMN rehearsal TEXT;
