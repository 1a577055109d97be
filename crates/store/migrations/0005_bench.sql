-- The bench: sessions across jobs, rounds, readings, files that readings came from, shims on hand.

CREATE TABLE bench_sessions (
  id        TEXT PRIMARY KEY,
  number    INTEGER NOT NULL UNIQUE,
  kind      TEXT NOT NULL,
  -- Bench, tubes, rows, families and rules of the day.
  setup     TEXT NOT NULL,
  injectors TEXT NOT NULL,
  by_id     TEXT NOT NULL REFERENCES people (id),
  at        TEXT NOT NULL,
  -- What a list shows; written whenever the session changes.
  line       TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
CREATE INDEX bench_sessions_newest ON bench_sessions (changed_at DESC, id DESC);

-- A job of another workshop may be named by a session that came with one of ours.
CREATE TABLE bench_jobs (
  job_id     TEXT NOT NULL,
  session_id TEXT NOT NULL REFERENCES bench_sessions (id),
  PRIMARY KEY (job_id, session_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE bench_rounds (
  seq        INTEGER PRIMARY KEY AUTOINCREMENT,
  id         TEXT NOT NULL UNIQUE,
  session_id TEXT NOT NULL REFERENCES bench_sessions (id),
  stage      TEXT NOT NULL,
  number     INTEGER NOT NULL,
  places     TEXT NOT NULL,
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL,
  UNIQUE (session_id, stage, number)
) STRICT;
CREATE INDEX bench_rounds_of ON bench_rounds (session_id, seq);

CREATE TABLE bench_cells (
  seq        INTEGER PRIMARY KEY AUTOINCREMENT,
  id         TEXT NOT NULL UNIQUE,
  session_id TEXT NOT NULL REFERENCES bench_sessions (id),
  round_id   TEXT NOT NULL REFERENCES bench_rounds (id),
  test_id    TEXT NOT NULL,
  cell       TEXT NOT NULL,
  row        INTEGER,
  tag        INTEGER,
  value      REAL,
  typed      TEXT NOT NULL,
  samples    INTEGER,
  scatter    REAL,
  corrects   TEXT UNIQUE REFERENCES bench_cells (id),
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX bench_cells_of ON bench_cells (session_id, seq);
CREATE TRIGGER bench_cells_never_change BEFORE UPDATE ON bench_cells
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
CREATE TRIGGER bench_cells_never_go BEFORE DELETE ON bench_cells
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;

-- Files that readings came from, as they were.
CREATE TABLE bench_files (
  id         TEXT PRIMARY KEY,
  session_id TEXT NOT NULL REFERENCES bench_sessions (id),
  name       TEXT NOT NULL,
  text       TEXT NOT NULL,
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL
) STRICT;
CREATE INDEX bench_files_of ON bench_files (session_id, at);

-- What the columns of a file meant the last time, by its heading.
CREATE TABLE column_meanings (
  heading TEXT PRIMARY KEY,
  columns TEXT NOT NULL
) STRICT;

CREATE TABLE shims (
  size_um REAL PRIMARY KEY,
  count   INTEGER NOT NULL CHECK (count >= 0)
) STRICT;
-- Every shim that went in or out, and where.
CREATE TABLE shim_moves (
  seq        INTEGER PRIMARY KEY AUTOINCREMENT,
  id         TEXT NOT NULL UNIQUE,
  size_um    REAL NOT NULL,
  moved      INTEGER NOT NULL,
  session_id TEXT REFERENCES bench_sessions (id),
  tag        INTEGER,
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL
) STRICT;
CREATE TRIGGER shim_moves_never_change BEFORE UPDATE ON shim_moves
  BEGIN SELECT RAISE(ABORT, 'moves are append-only'); END;
CREATE TRIGGER shim_moves_never_go BEFORE DELETE ON shim_moves
  BEGIN SELECT RAISE(ABORT, 'moves are append-only'); END;
