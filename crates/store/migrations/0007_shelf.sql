-- The shelf: injectors that were on a bench, with the newest value of each feature; sets that were
-- made from it and are kept.

CREATE TABLE shelf (
  injector_id TEXT PRIMARY KEY,
  job_id      TEXT NOT NULL REFERENCES jobs (id),
  kind        TEXT NOT NULL,
  -- Empty when it is not known.
  family      TEXT NOT NULL COLLATE NOCASE,
  job_number  INTEGER NOT NULL,
  cylinder    INTEGER NOT NULL,
  line        TEXT NOT NULL
) STRICT;
CREATE INDEX shelf_in_order ON shelf (kind, family, job_number, cylinder);
CREATE INDEX shelf_of_job ON shelf (job_id, kind, family, cylinder);

-- Jobs whose lines have to be made anew before the shelf is read: a tube that is typed pays nothing.
CREATE TABLE shelf_stale (
  job_id TEXT PRIMARY KEY REFERENCES jobs (id)
) STRICT, WITHOUT ROWID;
INSERT INTO shelf_stale (job_id)
  SELECT DISTINCT j.id FROM bench_jobs b JOIN jobs j ON j.id = b.job_id;

CREATE TABLE kept_sets (
  id         TEXT PRIMARY KEY,
  number     INTEGER NOT NULL UNIQUE,
  kind       TEXT NOT NULL,
  family     TEXT NOT NULL COLLATE NOCASE,
  note       TEXT NOT NULL,
  by_id      TEXT NOT NULL REFERENCES people (id),
  at         TEXT NOT NULL,
  -- Taken apart again; its injectors are free.
  apart_by   TEXT REFERENCES people (id),
  apart_at   TEXT
) STRICT;
CREATE INDEX kept_sets_of ON kept_sets (kind, family, number) WHERE apart_at IS NULL;

CREATE TABLE kept_set_members (
  injector_id TEXT NOT NULL,
  set_id      TEXT NOT NULL REFERENCES kept_sets (id),
  -- NULL once it was taken apart: an injector stands in one set at a time.
  stands      INTEGER,
  PRIMARY KEY (set_id, injector_id),
  UNIQUE (injector_id, stands)
) STRICT, WITHOUT ROWID;
