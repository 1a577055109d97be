-- Customers: what is needed to call one and to find the machine again, and nothing else. A change takes
-- the place of what was there, so that a number that is wrong or not wanted any more is gone.
CREATE TABLE customers (
  id       TEXT PRIMARY KEY,
  revision INTEGER NOT NULL,
  name     TEXT NOT NULL,
  phone    TEXT NOT NULL,
  address  TEXT NOT NULL
) STRICT;
CREATE INDEX customers_by_name ON customers (name COLLATE NOCASE, id);

ALTER TABLE jobs ADD COLUMN customer_id TEXT;
CREATE INDEX jobs_of_customer ON jobs (customer_id, at DESC) WHERE customer_id IS NOT NULL;
