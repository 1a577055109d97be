-- In which jobs an injector was: by its identity, and by its label across jobs.
CREATE TABLE lives (
  injector_id TEXT NOT NULL,
  job_id      TEXT NOT NULL REFERENCES jobs (id),
  -- Empty when it has none.
  label       TEXT NOT NULL COLLATE NOCASE,
  PRIMARY KEY (job_id, injector_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX lives_by_label ON lives (label, job_id);
CREATE INDEX lives_by_injector ON lives (injector_id);
INSERT INTO lives (injector_id, job_id, label) SELECT id, job_id, TRIM(label) FROM injectors;

-- How the decisions of closed jobs turned out; written anew whenever a job changes.
CREATE TABLE outcomes (
  job_id    TEXT NOT NULL REFERENCES jobs (id),
  cylinder  INTEGER NOT NULL,
  family_id TEXT NOT NULL REFERENCES families (id),
  decision  TEXT NOT NULL,
  came_back INTEGER NOT NULL,
  PRIMARY KEY (job_id, cylinder)
) STRICT, WITHOUT ROWID;
CREATE INDEX outcomes_of_family ON outcomes (family_id, decision, came_back, job_id);
