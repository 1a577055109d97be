-- The workshop's own weights of judgement: whole files, each a revision with its reason.
CREATE TABLE weights (
  revision INTEGER PRIMARY KEY AUTOINCREMENT,
  text     TEXT NOT NULL,
  reason   TEXT NOT NULL,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE TRIGGER weights_never_change BEFORE UPDATE ON weights
  BEGIN SELECT RAISE(ABORT, 'weights are append-only'); END;
CREATE TRIGGER weights_never_go BEFORE DELETE ON weights
  BEGIN SELECT RAISE(ABORT, 'weights are append-only'); END;
