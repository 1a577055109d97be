-- Jobs on made-up engines, by whose they are: what the trainer lists. Made from the log.
CREATE TABLE exercises (
  job_id  TEXT PRIMARY KEY REFERENCES jobs (id),
  learner TEXT NOT NULL,
  at      TEXT NOT NULL,
  line    TEXT NOT NULL
) STRICT;
CREATE INDEX exercises_of ON exercises (learner, at DESC, job_id DESC);
CREATE INDEX exercises_at ON exercises (at DESC, job_id DESC);
