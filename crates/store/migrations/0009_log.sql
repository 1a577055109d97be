-- One log for everything that is ever written of a job or of a bench session: one row a change,
-- added at the end and never changed. What a job is follows from its rows; every other table that
-- tells of jobs is made from them. The rows of older tables are moved here by `upgrade.rs`.

CREATE TABLE log (
  -- Order of writing in this folder.
  n     INTEGER PRIMARY KEY AUTOINCREMENT,
  -- The job or the session.
  of_id TEXT NOT NULL,
  -- Place in its log; the same in every folder.
  seq   INTEGER NOT NULL CHECK (seq > 0),
  id    TEXT NOT NULL UNIQUE,
  -- `cobaltine_core::entry::Entry` as JSON.
  entry TEXT NOT NULL,
  -- SHA-256 of the hash before, and of this row: see `log.rs`.
  hash  TEXT NOT NULL,
  UNIQUE (of_id, seq)
) STRICT;
CREATE TRIGGER log_never_changes BEFORE UPDATE ON log
  BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
CREATE TRIGGER log_never_goes BEFORE DELETE ON log
  BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
-- INSERT OR REPLACE would delete without asking where recursive triggers are off.
CREATE TRIGGER log_is_never_replaced BEFORE INSERT ON log
  WHEN EXISTS (SELECT 1 FROM log WHERE n = NEW.n)
    OR EXISTS (SELECT 1 FROM log WHERE id = NEW.id)
    OR EXISTS (SELECT 1 FROM log WHERE of_id = NEW.of_id AND seq = NEW.seq)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: the log is append-only'); END;

-- Every command that was done, and what it asked for: the same again is answered, not done again.
CREATE TABLE commands (
  id      TEXT PRIMARY KEY,
  -- SHA-256 of what was asked, and by whom.
  content TEXT NOT NULL,
  at      TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE TRIGGER commands_never_change BEFORE UPDATE ON commands
  BEGIN SELECT RAISE(ABORT, 'commands are append-only'); END;
CREATE TRIGGER commands_never_go BEFORE DELETE ON commands
  BEGIN SELECT RAISE(ABORT, 'commands are append-only'); END;
CREATE TRIGGER commands_are_never_replaced BEFORE INSERT ON commands
  WHEN EXISTS (SELECT 1 FROM commands WHERE id = NEW.id)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: commands are append-only'); END;

-- Logs that came from a file, and who took them in: what they say was signed elsewhere.
CREATE TABLE imports (
  of_id TEXT PRIMARY KEY,
  -- Empty when it was done at the command line.
  by_id TEXT REFERENCES people (id),
  at    TEXT NOT NULL
) STRICT, WITHOUT ROWID;
CREATE TRIGGER imports_never_change BEFORE UPDATE ON imports
  BEGIN SELECT RAISE(ABORT, 'imports are append-only'); END;
CREATE TRIGGER imports_never_go BEFORE DELETE ON imports
  BEGIN SELECT RAISE(ABORT, 'imports are append-only'); END;

-- Tables of the log that could be changed until now.
CREATE TRIGGER history_never_changes BEFORE UPDATE ON history
  BEGIN SELECT RAISE(ABORT, 'history is append-only'); END;
CREATE TRIGGER history_never_goes BEFORE DELETE ON history
  BEGIN SELECT RAISE(ABORT, 'history is append-only'); END;
CREATE TRIGGER bench_files_never_change BEFORE UPDATE ON bench_files
  BEGIN SELECT RAISE(ABORT, 'files are append-only'); END;
CREATE TRIGGER bench_files_never_go BEFORE DELETE ON bench_files
  BEGIN SELECT RAISE(ABORT, 'files are append-only'); END;
-- None of them is replaced either, whatever the connection is set to.
CREATE TRIGGER imports_are_never_replaced BEFORE INSERT ON imports
  WHEN EXISTS (SELECT 1 FROM imports WHERE of_id = NEW.of_id)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: imports are append-only'); END;
CREATE TRIGGER history_is_never_replaced BEFORE INSERT ON history
  WHEN EXISTS (SELECT 1 FROM history WHERE seq = NEW.seq)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: history is append-only'); END;
CREATE TRIGGER bench_files_are_never_replaced BEFORE INSERT ON bench_files
  WHEN EXISTS (SELECT 1 FROM bench_files WHERE id = NEW.id)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: files are append-only'); END;
CREATE TRIGGER limits_are_never_replaced BEFORE INSERT ON limits
  WHEN EXISTS (SELECT 1 FROM limits WHERE id = NEW.id)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: limits are append-only'); END;
CREATE TRIGGER house_rules_are_never_replaced BEFORE INSERT ON house_rules
  WHEN EXISTS (SELECT 1 FROM house_rules WHERE revision = NEW.revision)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: house rules are append-only'); END;
CREATE TRIGGER weights_are_never_replaced BEFORE INSERT ON weights
  WHEN EXISTS (SELECT 1 FROM weights WHERE revision = NEW.revision)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: weights are append-only'); END;
CREATE TRIGGER shim_moves_are_never_replaced BEFORE INSERT ON shim_moves
  WHEN EXISTS (SELECT 1 FROM shim_moves WHERE id = NEW.id)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: moves are append-only'); END;

CREATE INDEX bench_jobs_of_session ON bench_jobs (session_id);
-- Made from the log like the card: nothing is read of a closed job until it is open again.
ALTER TABLE jobs ADD COLUMN closed INTEGER NOT NULL DEFAULT 0;
