-- Each row is run on SQLite; sqlite.txt says what came of it.

-- == the words for types
CREATE TABLE berths (a int, b integer, c text, d varchar(9), e decimal(8,2), f real, g blob, h boolean, i datetime, j date, k json, l, m "unsigned big int", n double precision);
-- == the number of the row
CREATE TABLE berths (id integer PRIMARY KEY, a int); CREATE TABLE quays (id integer PRIMARY KEY AUTOINCREMENT); CREATE TABLE vessels (id int PRIMARY KEY);
-- == keys that take null
CREATE TABLE berths (code text PRIMARY KEY); CREATE TABLE quays (a int, b int, PRIMARY KEY (a, b));
-- == tables without row numbers
CREATE TABLE berths (code text NOT NULL PRIMARY KEY) WITHOUT ROWID;
-- == strict tables
CREATE TABLE berths (id integer PRIMARY KEY, a text NOT NULL, b any) STRICT;
-- == constants as defaults
CREATE TABLE berths (a int DEFAULT 3, b text DEFAULT 'it''s', c text DEFAULT "dq", d real DEFAULT 1.5, e int DEFAULT (1+2), f boolean DEFAULT true, g blob DEFAULT x'00ff', h text DEFAULT NULL, i int DEFAULT -1, j text DEFAULT 'a\b');
-- == moments as defaults
CREATE TABLE berths (a datetime DEFAULT current_timestamp, b date DEFAULT current_date, c time DEFAULT current_time, d datetime DEFAULT (datetime('now')), e text DEFAULT (strftime('%s','now')));
-- == computed columns
CREATE TABLE berths (kg int, a int AS (kg * 2), b int GENERATED ALWAYS AS (kg + 1) STORED, c int AS (kg) VIRTUAL NOT NULL);
-- == checks
CREATE TABLE berths (a int CHECK (a > 0), b text CHECK (b IN ('x','y')) CHECK (length(b) > 0), c int CONSTRAINT wide CHECK (c > 0), CONSTRAINT deep CHECK (a < 9));
-- == foreign keys
CREATE TABLE vessels (id integer PRIMARY KEY); CREATE TABLE berths (a int REFERENCES vessels ON DELETE CASCADE, b int REFERENCES vessels (id) DEFERRABLE INITIALLY DEFERRED, c int, CONSTRAINT fc FOREIGN KEY (c) REFERENCES vessels ON UPDATE SET NULL);
-- == a foreign key to a table that is not there
CREATE TABLE berths (a int REFERENCES nowhere);
-- == indexes
CREATE TABLE berths (a int, b text, c text UNIQUE, UNIQUE (a, b)); CREATE INDEX i1 ON berths (a DESC); CREATE INDEX i2 ON berths (lower(b)); CREATE UNIQUE INDEX i3 ON berths (a) WHERE b IS NOT NULL; CREATE INDEX i4 ON berths (b COLLATE NOCASE);
-- == collations
CREATE TABLE berths (a text COLLATE NOCASE, b text COLLATE RTRIM UNIQUE);
-- == columns are changed
CREATE TABLE berths (a int, b text, c int); ALTER TABLE berths RENAME COLUMN a TO deep; ALTER TABLE berths ADD COLUMN d int NOT NULL DEFAULT 3; ALTER TABLE berths DROP COLUMN c; ALTER TABLE berths RENAME TO moorings;
-- == names that are odd
CREATE TABLE "the 'berth'" ("a""b" int, [c d] int, `e` int, "select" int, é int);
-- == conflicts
CREATE TABLE berths (a int UNIQUE ON CONFLICT REPLACE, b int NOT NULL ON CONFLICT IGNORE, PRIMARY KEY (a) ON CONFLICT FAIL);
-- == views and virtual tables
CREATE TABLE berths (a int); CREATE VIEW deep AS SELECT a FROM berths; CREATE VIRTUAL TABLE words USING fts5(name);
-- == a table from a query
CREATE TABLE berths (a int); CREATE TABLE moorings AS SELECT * FROM berths;
-- == not null that is changed where it stands
CREATE TABLE berths (a int); ALTER TABLE berths ALTER COLUMN a SET NOT NULL;
-- == a constraint that is dropped
CREATE TABLE berths (a int CONSTRAINT deep CHECK (a > 0)); ALTER TABLE berths DROP CONSTRAINT deep;
