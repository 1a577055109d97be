-- Who may come in, and as what. Passwords and links are kept as hashes alone; nothing of this leaves
-- the folder with an export.
CREATE TABLE accounts (
  person_id  TEXT PRIMARY KEY REFERENCES people (id),
  role       TEXT NOT NULL CHECK (role IN ('learner', 'technician', 'reviewer', 'owner')),
  -- None until the link of this account was used.
  password   TEXT,
  -- Changes with everything that ends the sessions of this person.
  stamp      TEXT NOT NULL,
  -- Who let this person in last, by a new account or a new link; none for this machine itself.
  vouched_by TEXT REFERENCES people (id),
  vouched_at TEXT NOT NULL,
  closed_at  TEXT
) STRICT;

-- A link that lets one person choose a password, once. Its token is kept as its SHA-256.
CREATE TABLE links (
  token      TEXT PRIMARY KEY,
  -- None for the first owner, who says the name.
  person_id  TEXT UNIQUE REFERENCES people (id),
  open_until TEXT NOT NULL
) STRICT;

-- Shared screens of the workshop, on which a PIN is enough.
CREATE TABLE tablets (
  id       TEXT PRIMARY KEY,
  name     TEXT NOT NULL,
  token    TEXT NOT NULL UNIQUE,
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL,
  ended_at TEXT
) STRICT;

-- Wrong passwords by name and address, and when the next is looked at.
CREATE TABLE tries (
  who     TEXT PRIMARY KEY,
  tries   INTEGER NOT NULL,
  open_at TEXT NOT NULL
) STRICT;
CREATE INDEX tries_by_time ON tries (open_at);

-- One row that is written to see whether anything can be written.
CREATE TABLE pulse (
  one INTEGER PRIMARY KEY CHECK (one = 1),
  at  TEXT NOT NULL
) STRICT;
