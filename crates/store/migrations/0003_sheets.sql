-- Checks that are read cell by cell. Limit, instrument and rules of the day stand in the set-up.
CREATE TABLE sheets (
  id       TEXT PRIMARY KEY,
  job_id   TEXT NOT NULL REFERENCES jobs (id),
  check_id TEXT NOT NULL,
  setup    TEXT NOT NULL,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE INDEX sheets_of_job ON sheets (job_id, at);

CREATE TABLE cells (
  seq         INTEGER PRIMARY KEY AUTOINCREMENT,
  id          TEXT NOT NULL UNIQUE,
  sheet_id    TEXT NOT NULL REFERENCES sheets (id),
  injector_id TEXT REFERENCES injectors (id),
  cell        TEXT NOT NULL,
  cylinder    INTEGER,
  value       REAL,
  typed       TEXT NOT NULL,
  corrects    TEXT UNIQUE REFERENCES cells (id),
  by_id       TEXT NOT NULL REFERENCES people (id),
  at          TEXT NOT NULL
) STRICT;
CREATE INDEX cells_of_sheet ON cells (sheet_id, seq);
CREATE TRIGGER cells_never_change BEFORE UPDATE ON cells
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
CREATE TRIGGER cells_never_go BEFORE DELETE ON cells
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
