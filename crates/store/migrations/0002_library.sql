-- The library of limits, the instruments, the house rules, and what the house itself measured.

ALTER TABLE families ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
-- FamilyDetail as JSON; a missing specification is a normal state.
ALTER TABLE families ADD COLUMN detail TEXT NOT NULL DEFAULT '{}';
UPDATE families SET detail = json_object('kind', CASE fuel_system
  WHEN 'petrol_port' THEN 'petrol_port_high'
  WHEN 'petrol_direct' THEN 'petrol_direct_solenoid'
  ELSE fuel_system END);

-- A newer revision is a new row; nothing here is ever changed.
CREATE TABLE limits (
  id        TEXT PRIMARY KEY,
  family_id TEXT NOT NULL REFERENCES families (id),
  check_id  TEXT NOT NULL,
  condition TEXT NOT NULL,
  revision  INTEGER NOT NULL,
  lower     REAL,
  upper     REAL,
  typed     TEXT NOT NULL,
  from_c    REAL,
  to_c      REAL,
  from_kpa  REAL,
  to_kpa    REAL,
  source    TEXT NOT NULL,
  by_id     TEXT REFERENCES people (id),
  at        TEXT,
  UNIQUE (family_id, check_id, condition, revision)
) STRICT;
CREATE TRIGGER limits_never_change BEFORE UPDATE ON limits
  BEGIN SELECT RAISE(ABORT, 'limits are append-only'); END;
CREATE TRIGGER limits_never_go BEFORE DELETE ON limits
  BEGIN SELECT RAISE(ABORT, 'limits are append-only'); END;

INSERT INTO limits (id, family_id, check_id, condition, revision, upper, typed, from_c, to_c, source)
SELECT lower(hex(randomblob(4)) || '-' || hex(randomblob(2)) || '-7' || substr(hex(randomblob(2)), 2) || '-8'
         || substr(hex(randomblob(2)), 2) || '-' || hex(randomblob(6))),
       family_id, 'return_flow', '', revision, upper_ml_min, CAST(upper_ml_min AS TEXT), from_c, to_c, source
FROM return_limits;
DROP TABLE return_limits;

-- Engines and test plans: the row holds the newest revision, the history the older ones.
CREATE TABLE items (
  id       TEXT PRIMARY KEY,
  kind     TEXT NOT NULL,
  name     TEXT NOT NULL,
  revision INTEGER NOT NULL,
  detail   TEXT NOT NULL
) STRICT;
CREATE TABLE instruments (
  id       TEXT PRIMARY KEY,
  name     TEXT NOT NULL,
  revision INTEGER NOT NULL,
  detail   TEXT NOT NULL
) STRICT;
-- What a family, an item or an instrument was before it was changed, and by whom.
CREATE TABLE history (
  seq      INTEGER PRIMARY KEY AUTOINCREMENT,
  of_id    TEXT NOT NULL,
  revision INTEGER NOT NULL,
  name     TEXT NOT NULL,
  detail   TEXT NOT NULL,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE INDEX history_of ON history (of_id, seq);

CREATE TABLE house_rules (
  revision INTEGER PRIMARY KEY AUTOINCREMENT,
  rule     TEXT NOT NULL,
  value    REAL NOT NULL,
  typed    TEXT NOT NULL,
  reason   TEXT NOT NULL,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE TRIGGER house_rules_never_change BEFORE UPDATE ON house_rules
  BEGIN SELECT RAISE(ABORT, 'house rules are append-only'); END;
CREATE TRIGGER house_rules_never_go BEFORE DELETE ON house_rules
  BEGIN SELECT RAISE(ABORT, 'house rules are append-only'); END;

-- Readings of injectors that were left as good, written anew whenever their job changes.
CREATE TABLE good_readings (
  job_id        TEXT NOT NULL REFERENCES jobs (id),
  family_id     TEXT NOT NULL REFERENCES families (id),
  check_id      TEXT NOT NULL,
  condition     TEXT NOT NULL,
  cylinder      INTEGER NOT NULL,
  temperature_c REAL,
  value         REAL NOT NULL,
  at            TEXT NOT NULL,
  PRIMARY KEY (job_id, check_id, cylinder)
) STRICT;
CREATE INDEX good_readings_of_family ON good_readings (family_id, check_id, condition, at);

-- One line for each family, limit (newest revision), engine, plan: what a search shows.
CREATE TABLE library_lines (
  line_id   INTEGER PRIMARY KEY AUTOINCREMENT,
  key       TEXT NOT NULL UNIQUE,
  kind      TEXT NOT NULL,
  sort      TEXT NOT NULL,
  line      TEXT NOT NULL
) STRICT;
CREATE INDEX library_lines_by_sort ON library_lines (sort);
CREATE INDEX library_lines_by_kind ON library_lines (kind, sort);
CREATE VIRTUAL TABLE library_words USING fts5 (words, prefix = '1 2 3', tokenize = 'unicode61 remove_diacritics 2');
