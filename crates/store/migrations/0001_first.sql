-- Quantities are canonical (ml, s, °C, rpm, ml/min); what was typed stands beside.
-- Times are ISO 8601 in UTC with nine decimals (text sorts as time does), ids are UUIDv7 as text, lists and small shapes are JSON.

CREATE TABLE people (
  id   TEXT PRIMARY KEY,
  name TEXT NOT NULL
) STRICT;
-- Not unique: a job file from elsewhere may bring someone of the same name.
CREATE INDEX people_by_name ON people (name COLLATE NOCASE);

CREATE TABLE families (
  id          TEXT PRIMARY KEY,
  name        TEXT NOT NULL,
  fuel_system TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX families_by_name ON families (name COLLATE NOCASE);

-- A newer revision is a new row; tests keep the limit that they were judged by.
CREATE TABLE return_limits (
  family_id    TEXT NOT NULL REFERENCES families (id),
  revision     INTEGER NOT NULL,
  upper_ml_min REAL NOT NULL,
  from_c       REAL,
  to_c         REAL,
  source       TEXT NOT NULL,
  PRIMARY KEY (family_id, revision)
) STRICT;

CREATE TABLE jobs (
  id          TEXT PRIMARY KEY,
  number      INTEGER NOT NULL UNIQUE,
  revision    INTEGER NOT NULL,
  customer    TEXT NOT NULL,
  machine     TEXT NOT NULL,
  usage       TEXT NOT NULL,
  engine      TEXT NOT NULL,
  fuel_system TEXT NOT NULL,
  layout      TEXT NOT NULL,
  family_id   TEXT REFERENCES families (id),
  symptoms    TEXT NOT NULL,
  complaint   TEXT NOT NULL,
  by_id       TEXT NOT NULL REFERENCES people (id),
  at          TEXT NOT NULL
) STRICT;

CREATE TABLE injectors (
  id       TEXT PRIMARY KEY,
  job_id   TEXT NOT NULL REFERENCES jobs (id),
  cylinder INTEGER NOT NULL,
  label    TEXT NOT NULL,
  UNIQUE (job_id, cylinder)
) STRICT;

CREATE TABLE return_tests (
  id     TEXT PRIMARY KEY,
  job_id TEXT NOT NULL REFERENCES jobs (id),
  setup  TEXT NOT NULL,
  by_id  TEXT NOT NULL REFERENCES people (id),
  at     TEXT NOT NULL
) STRICT;
CREATE INDEX return_tests_of_job ON return_tests (job_id);

CREATE TABLE runs (
  id         TEXT PRIMARY KEY,
  test_id    TEXT NOT NULL REFERENCES return_tests (id),
  number     INTEGER NOT NULL,
  started_at TEXT,
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL,
  UNIQUE (test_id, number)
) STRICT;

CREATE TABLE runs_set_aside (
  run_id TEXT PRIMARY KEY REFERENCES runs (id),
  reason TEXT NOT NULL,
  by_id  TEXT NOT NULL REFERENCES people (id),
  at     TEXT NOT NULL
) STRICT;

CREATE TABLE readings (
  seq         INTEGER PRIMARY KEY AUTOINCREMENT,
  id          TEXT NOT NULL UNIQUE,
  run_id      TEXT NOT NULL REFERENCES runs (id),
  injector_id TEXT REFERENCES injectors (id),
  cylinder    INTEGER,
  kind        TEXT NOT NULL CHECK (kind IN ('level', 'overflow', 'run_time', 'void')),
  value       REAL NOT NULL CHECK (value >= 0),
  typed       TEXT NOT NULL,
  corrects    TEXT UNIQUE REFERENCES readings (id),
  why         TEXT,
  by_id       TEXT NOT NULL REFERENCES people (id),
  at          TEXT NOT NULL
) STRICT;
CREATE INDEX readings_of_run ON readings (run_id, seq);
CREATE TRIGGER readings_never_change BEFORE UPDATE ON readings
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
CREATE TRIGGER readings_never_go BEFORE DELETE ON readings
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;

CREATE TABLE decisions (
  seq      INTEGER PRIMARY KEY AUTOINCREMENT,
  id       TEXT NOT NULL UNIQUE,
  job_id   TEXT NOT NULL REFERENCES jobs (id),
  cylinder INTEGER NOT NULL,
  decision TEXT NOT NULL,
  reason   TEXT NOT NULL,
  proposed TEXT,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE INDEX decisions_of_job ON decisions (job_id, seq);

CREATE TABLE notes (
  seq    INTEGER PRIMARY KEY AUTOINCREMENT,
  id     TEXT NOT NULL UNIQUE,
  job_id TEXT NOT NULL REFERENCES jobs (id),
  stage  TEXT NOT NULL,
  text   TEXT NOT NULL,
  by_id  TEXT NOT NULL REFERENCES people (id),
  at     TEXT NOT NULL
) STRICT;
CREATE INDEX notes_of_job ON notes (job_id, seq);

-- The board is written whenever a job changes and only read when it is shown:
-- ten thousand jobs are one indexed query, not ten thousand verdicts.
CREATE TABLE board (
  job_id     TEXT PRIMARY KEY REFERENCES jobs (id),
  changed_at TEXT NOT NULL,
  tone       TEXT NOT NULL,
  card       TEXT NOT NULL
) STRICT;
CREATE INDEX board_by_change ON board (changed_at DESC, job_id DESC);
CREATE INDEX board_by_tone ON board (tone, changed_at DESC, job_id DESC);

CREATE VIRTUAL TABLE board_words USING fts5 (job_id UNINDEXED, words, prefix = '1 2 3', tokenize = 'unicode61 remove_diacritics 2');
