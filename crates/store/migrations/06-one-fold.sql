-- What stands at a bench is folded from the events when it is asked for; the table that kept a copy of them goes.
DROP TABLE entry;
DELETE FROM meta WHERE key = 'fold_version';
