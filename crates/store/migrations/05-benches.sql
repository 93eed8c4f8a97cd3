-- The bench that a group stands at: groups at one bench share more than instruments.
ALTER TABLE bench_group ADD COLUMN bench TEXT;
