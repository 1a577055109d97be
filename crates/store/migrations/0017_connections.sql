-- Instruments that are read over the network. What one was before a change stands in the history.
CREATE TABLE connections (
  id       TEXT PRIMARY KEY,
  name     TEXT NOT NULL,
  revision INTEGER NOT NULL,
  detail   TEXT NOT NULL
) STRICT;
