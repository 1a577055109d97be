-- From the complaint to the tests on the engine: what surrounds the complaint, phases and banks of
-- a return test, bottles timed to a mark, pressure traces, and what happened besides readings.

-- Story as JSON: when it shows, what changed lately, fault codes.
ALTER TABLE jobs ADD COLUMN story TEXT NOT NULL DEFAULT '{}';
CREATE INDEX jobs_by_machine ON jobs (machine COLLATE NOCASE, at);

ALTER TABLE runs ADD COLUMN phase TEXT;
ALTER TABLE runs ADD COLUMN bank INTEGER;
-- Start conditions that were ticked, as JSON; null when nobody was asked.
ALTER TABLE runs ADD COLUMN ticked TEXT;

-- The kinds of a reading are checked by a CHECK that cannot be altered: the table is made anew.
CREATE TABLE readings_anew (
  seq         INTEGER PRIMARY KEY AUTOINCREMENT,
  id          TEXT NOT NULL UNIQUE,
  run_id      TEXT NOT NULL REFERENCES runs (id),
  injector_id TEXT REFERENCES injectors (id),
  cylinder    INTEGER,
  kind        TEXT NOT NULL CHECK (kind IN ('level', 'overflow', 'mark', 'run_time', 'void')),
  value       REAL NOT NULL CHECK (value >= 0),
  mark_ml     REAL,
  typed       TEXT NOT NULL,
  corrects    TEXT UNIQUE REFERENCES readings_anew (id),
  why         TEXT,
  by_id       TEXT NOT NULL REFERENCES people (id),
  at          TEXT NOT NULL
) STRICT;
INSERT INTO readings_anew (seq, id, run_id, injector_id, cylinder, kind, value, typed, corrects, why, by_id, at)
SELECT seq, id, run_id, injector_id, cylinder, kind, value, typed, corrects, why, by_id, at FROM readings ORDER BY seq;
DROP TRIGGER readings_never_change;
DROP TRIGGER readings_never_go;
DROP TABLE readings;
ALTER TABLE readings_anew RENAME TO readings;
CREATE INDEX readings_of_run ON readings (run_id, seq);
CREATE TRIGGER readings_never_change BEFORE UPDATE ON readings
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
CREATE TRIGGER readings_never_go BEFORE DELETE ON readings
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;

-- Points, drops and order as JSON; thinned to what a screen can show.
CREATE TABLE traces (
  seq      INTEGER PRIMARY KEY AUTOINCREMENT,
  id       TEXT NOT NULL UNIQUE,
  sheet_id TEXT NOT NULL REFERENCES sheets (id),
  trace    TEXT NOT NULL
) STRICT;
CREATE INDEX traces_of_sheet ON traces (sheet_id, seq);
CREATE TRIGGER traces_never_change BEFORE UPDATE ON traces
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;
CREATE TRIGGER traces_never_go BEFORE DELETE ON traces
  BEGIN SELECT RAISE(ABORT, 'readings are append-only'); END;

CREATE TABLE events (
  seq    INTEGER PRIMARY KEY AUTOINCREMENT,
  id     TEXT NOT NULL UNIQUE,
  job_id TEXT NOT NULL REFERENCES jobs (id),
  event  TEXT NOT NULL,
  by_id  TEXT NOT NULL REFERENCES people (id),
  at     TEXT NOT NULL
) STRICT;
CREATE INDEX events_of_job ON events (job_id, seq);
CREATE TRIGGER events_never_change BEFORE UPDATE ON events
  BEGIN SELECT RAISE(ABORT, 'events are append-only'); END;
CREATE TRIGGER events_never_go BEFORE DELETE ON events
  BEGIN SELECT RAISE(ABORT, 'events are append-only'); END;

-- Jobs with a timer are found without reading the cards.
ALTER TABLE board ADD COLUMN timers INTEGER NOT NULL DEFAULT 0;
UPDATE board SET timers = 1 WHERE tone = 'running';
CREATE INDEX board_with_timer ON board (changed_at DESC, job_id DESC) WHERE timers > 0;
