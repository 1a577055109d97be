-- People who left, or whose name was written down twice; and the PIN of a second signature. The PIN is
-- kept as a salted hash alone and leaves this folder with no export.
ALTER TABLE people ADD COLUMN retired_at TEXT;
ALTER TABLE people ADD COLUMN same_as TEXT;
ALTER TABLE people ADD COLUMN retired_by TEXT REFERENCES people (id);

CREATE TABLE pins (
  person_id TEXT PRIMARY KEY REFERENCES people (id),
  hash      TEXT NOT NULL,
  -- Tries since the last right one, and when the next is looked at.
  tries     INTEGER NOT NULL,
  open_at   TEXT NOT NULL
) STRICT;

-- Plans by family and presets by check are looked for among their kind.
CREATE INDEX items_of_kind ON items (kind, name);
