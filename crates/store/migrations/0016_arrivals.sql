-- Workshop files that were looked at whole and are switched in a piece at a time. One that is not ended
-- goes on at the next start of the program.
CREATE TABLE arrivals (
  id       TEXT PRIMARY KEY REFERENCES commands (id),
  by_id    TEXT NOT NULL,
  at       TEXT NOT NULL,
  -- Lines of the file, and how many of them are in.
  lines    INTEGER NOT NULL,
  done     INTEGER NOT NULL,
  new_jobs  INTEGER NOT NULL,
  same_jobs INTEGER NOT NULL,
  -- What could not be taken in any more, as others had written meanwhile: a JSON list.
  left_out TEXT NOT NULL,
  ended_at TEXT
) STRICT;
