-- The workshop itself, for the head of its reports: each change is a revision, and none is lost.
CREATE TABLE profiles (
  revision INTEGER PRIMARY KEY AUTOINCREMENT,
  profile  TEXT NOT NULL CHECK (json_valid(profile)),
  by_id    TEXT NOT NULL REFERENCES people (id),
  at       TEXT NOT NULL
) STRICT;
CREATE TRIGGER profiles_never_change BEFORE UPDATE ON profiles
  BEGIN SELECT RAISE(ABORT, 'profiles are append-only'); END;
CREATE TRIGGER profiles_never_go BEFORE DELETE ON profiles
  BEGIN SELECT RAISE(ABORT, 'profiles are append-only'); END;
CREATE TRIGGER profiles_are_never_replaced BEFORE INSERT ON profiles
  WHEN EXISTS (SELECT 1 FROM profiles WHERE revision = NEW.revision)
  BEGIN SELECT RAISE(ABORT, 'UNIQUE constraint failed: profiles are append-only'); END;
