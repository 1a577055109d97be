-- What a job was in the life of each of its injectors, so that a passport reads lines and no jobs; see
-- `passports.rs`. Made anew in the background; until then a passport reads the job itself.
ALTER TABLE lives ADD COLUMN life TEXT;
