-- What is made from the log and kept beside it is made anew a moment after a write, or when it is
-- read next; see `stale.rs`.

-- Jobs whose projections are out of date. No time: only the rules that they are made by changed.
CREATE TABLE stale (
  job_id     TEXT PRIMARY KEY,
  changed_at TEXT
) STRICT, WITHOUT ROWID;

-- The version that each projection was made by.
CREATE TABLE projections (
  name    TEXT PRIMARY KEY,
  version INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- How many cards read so, counted as they are written and not at every look.
CREATE TABLE board_tones (
  tone TEXT PRIMARY KEY,
  jobs INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO board_tones SELECT tone, COUNT(*) FROM board GROUP BY tone;
CREATE TRIGGER board_counts_new AFTER INSERT ON board BEGIN
  INSERT INTO board_tones (tone, jobs) VALUES (NEW.tone, 1)
    ON CONFLICT (tone) DO UPDATE SET jobs = jobs + 1;
END;
CREATE TRIGGER board_counts_gone AFTER DELETE ON board BEGIN
  UPDATE board_tones SET jobs = jobs - 1 WHERE tone = OLD.tone;
END;
CREATE TRIGGER board_counts_moved AFTER UPDATE OF tone ON board WHEN OLD.tone <> NEW.tone BEGIN
  UPDATE board_tones SET jobs = jobs - 1 WHERE tone = OLD.tone;
  INSERT INTO board_tones (tone, jobs) VALUES (NEW.tone, 1)
    ON CONFLICT (tone) DO UPDATE SET jobs = jobs + 1;
END;

-- What a command added to which log, so that the same again gets the first answer.
ALTER TABLE commands ADD COLUMN of_id TEXT;
ALTER TABLE commands ADD COLUMN from_seq INTEGER;
ALTER TABLE commands ADD COLUMN to_seq INTEGER;

-- A command that adds one entry is one statement: the entry, the command, and the mark on its job.
CREATE VIEW written AS
  SELECT of_id, seq, id, entry, hash, '' AS command, '' AS content, '' AS at, 0 AS marks FROM log;
CREATE TRIGGER written_at_once INSTEAD OF INSERT ON written BEGIN
  INSERT INTO log (of_id, seq, id, entry, hash)
    VALUES (NEW.of_id, NEW.seq, NEW.id, NEW.entry, NEW.hash);
  INSERT INTO commands (id, content, at, of_id, from_seq, to_seq)
    VALUES (NEW.command, NEW.content, NEW.at, NEW.of_id, NEW.seq, NEW.seq);
  INSERT INTO stale (job_id, changed_at) SELECT NEW.of_id, NEW.at WHERE NEW.marks
    ON CONFLICT (job_id) DO UPDATE SET changed_at = excluded.changed_at;
END;
