-- Each row is run on PostgreSQL of each release that can be had; postgresql.txt says what came of it.

-- == not null, with a name and without
CREATE TABLE berths (a int NOT NULL, b int CONSTRAINT b_there NOT NULL, c int);
-- == one name for two that are not null
CREATE TABLE berths (a int CONSTRAINT n NOT NULL, b int CONSTRAINT n NOT NULL);
-- == one name for not null and for a check
CREATE TABLE berths (a int CONSTRAINT n NOT NULL, CONSTRAINT n CHECK (a > 0));
-- == not null said at the table
CREATE TABLE berths (a int, CONSTRAINT a_there NOT NULL a);
-- == not null added and not validated
CREATE TABLE berths (a int); ALTER TABLE berths ADD CONSTRAINT a_there NOT NULL a NOT VALID;
-- == the primary key is dropped, not null stays
CREATE TABLE berths (id int, CONSTRAINT k PRIMARY KEY (id)); ALTER TABLE berths DROP CONSTRAINT k;
-- == a table like another
CREATE TABLE berths (a int NOT NULL DEFAULT 3); CREATE TABLE moorings (LIKE berths);
-- == a table that inherits
CREATE TABLE berths (a int NOT NULL DEFAULT 3 CHECK (a > 0), id int PRIMARY KEY); CREATE TABLE moorings (b int) INHERITS (berths);
-- == a table of parts
CREATE TABLE berths (a int NOT NULL, built int, PRIMARY KEY (a, built)) PARTITION BY RANGE (built); CREATE TABLE berths_old PARTITION OF berths FOR VALUES FROM (1900) TO (2000);
-- == a domain
CREATE DOMAIN depth AS numeric(6,2) NOT NULL CHECK (VALUE > 0); CREATE TABLE berths (a depth, b depth DEFAULT 3);
-- == a computed column that says nothing
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2));
-- == a computed column that is virtual, with a check
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2) VIRTUAL NOT NULL CHECK (a > 0));
-- == a computed column that is virtual and indexed
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2) VIRTUAL UNIQUE);
-- == a computed column that is stored
CREATE TABLE berths (kg int, name text, a int GENERATED ALWAYS AS (kg * 2) STORED NOT NULL, b text GENERATED ALWAYS AS (lower(name) || '-' || coalesce(name, 'it''s')) STORED UNIQUE);
-- == the expression of a computed column is changed
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2) STORED); ALTER TABLE berths ALTER COLUMN a SET EXPRESSION AS (kg * 3);
-- == a computed column is computed no more
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2) STORED); ALTER TABLE berths ALTER COLUMN a DROP EXPRESSION;
-- == a key without overlaps
CREATE EXTENSION IF NOT EXISTS btree_gist; CREATE TABLE berths (berth int, during daterange, PRIMARY KEY (berth, during WITHOUT OVERLAPS));
-- == unique without overlaps, and a foreign key of periods
CREATE EXTENSION IF NOT EXISTS btree_gist; CREATE TABLE berths (berth int, during daterange, CONSTRAINT once UNIQUE (berth, during WITHOUT OVERLAPS)); CREATE TABLE stays (berth int, during daterange, CONSTRAINT stay FOREIGN KEY (berth, PERIOD during) REFERENCES berths (berth, PERIOD during));
-- == a check that is not enforced
CREATE TABLE berths (a int, CONSTRAINT deep CHECK (a > 0) NOT ENFORCED);
-- == a foreign key that is not enforced
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels NOT ENFORCED);
-- == constraints that are not validated
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int); ALTER TABLE berths ADD CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels NOT VALID; ALTER TABLE berths ADD CONSTRAINT deep CHECK (a > 0) NOT VALID;
-- == identifiers by functions
CREATE TABLE berths (a uuid DEFAULT gen_random_uuid());
-- == identifiers by functions of 18
CREATE TABLE berths (a uuid DEFAULT uuidv7(), b uuid DEFAULT uuidv4());
-- == a table whose rows are not logged
CREATE UNLOGGED TABLE berths (a int);
-- == a foreign key to a table of parts
CREATE TABLE berths (a int PRIMARY KEY) PARTITION BY HASH (a); CREATE TABLE berths_1 PARTITION OF berths FOR VALUES WITH (MODULUS 1, REMAINDER 0); CREATE TABLE stays (b int, CONSTRAINT stay FOREIGN KEY (b) REFERENCES berths);
-- == arrays of a type of an extension
CREATE EXTENSION IF NOT EXISTS hstore; CREATE TABLE berths (a hstore, b hstore[]);
-- == texts of an extension that fold case
CREATE EXTENSION IF NOT EXISTS citext; CREATE TABLE berths (a citext NOT NULL DEFAULT 'x', b citext[]);

-- == names given by themselves
CREATE TABLE quays (id int PRIMARY KEY); CREATE TABLE berths (id serial PRIMARY KEY, a int UNIQUE, b int REFERENCES quays, c int CHECK (c > 0), d int, e int, UNIQUE (d, e), CHECK (d > e), EXCLUDE USING btree (a WITH =)); CREATE INDEX ON berths (a, b); CREATE INDEX ON berths (d DESC);
-- == names given by themselves that are taken
CREATE TABLE quay_pkey (a int); CREATE TABLE quay (id int PRIMARY KEY, a int CHECK (a > 0), CHECK (a < 9));
-- == names of indexes on expressions
CREATE TABLE berths (a text, b int); CREATE INDEX ON berths (lower(a)); CREATE INDEX ON berths ((b + 1)); CREATE INDEX ON berths (coalesce(a, 'x')); CREATE UNIQUE INDEX ON berths (a) INCLUDE (b);
-- == names given by themselves that are too long
CREATE TABLE abcdefghij_abcdefghij_abcdefghij_abcdefghij_abcd (abcdefghij_abcdefghij_abcdefghij_abcdefghij int UNIQUE, b int CHECK (b > 0));
-- == a name one writes that is too long
CREATE TABLE berths (a int, CONSTRAINT bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb CHECK (a > 0));
-- == a table and a column are renamed, names stay
CREATE TABLE berths (id serial PRIMARY KEY, a int UNIQUE CHECK (a > 0)); ALTER TABLE berths RENAME TO moorings; ALTER TABLE moorings RENAME COLUMN a TO deep;
-- == unique and key on the same columns
CREATE TABLE berths (a int, b int, CONSTRAINT one UNIQUE (a, b), CONSTRAINT two UNIQUE (a, b)); CREATE TABLE quays (a int, CONSTRAINT one_a UNIQUE (a), PRIMARY KEY (a));
-- == two indexes on one column
CREATE TABLE berths (a int); CREATE INDEX one ON berths (a); CREATE INDEX two ON berths (a);
-- == a constraint that takes an index over
CREATE TABLE berths (a int NOT NULL); CREATE UNIQUE INDEX uix ON berths (a); ALTER TABLE berths ADD CONSTRAINT uc UNIQUE USING INDEX uix;

-- == moments and their digits
CREATE TABLE berths (a timestamp, b timestamptz(0), c timestamp(3) with time zone, d time, e timetz(2), f date, g interval, h timestamp(6), i interval(3), j interval day to second);
-- == texts
CREATE TABLE berths (a varchar, b char, c bpchar, d varchar(9), e text, f char(3), g "char", h name);
-- == numbers
CREATE TABLE berths (a float(10), b float, c numeric(5), d numeric(8,2), e numeric, f real, g double precision, h smallint, i bigint, j int2, k money);
-- == arrays
CREATE TABLE berths (a int[3][3], b varchar(255)[], c text ARRAY, d numeric(5,2)[] NOT NULL DEFAULT '{}');
-- == other types
CREATE TABLE berths (a bytea, b json, c jsonb, d inet, e cidr, f macaddr, g tsvector, h point, i xml, j int4range, k tstzrange, l bit(3), m varbit(9), n nummultirange, o oid);
-- == constants as defaults
CREATE TABLE berths (a text DEFAULT 'x', b varchar(9) DEFAULT 'x', c char(3) DEFAULT 'x', d int DEFAULT 5, e numeric DEFAULT 1.5, f bool DEFAULT 't', g int DEFAULT -1, h bigint DEFAULT '9', i numeric DEFAULT '5', j double precision DEFAULT 1e3, k bit(3) DEFAULT b'101', l jsonb DEFAULT '{}', m time DEFAULT '10:00', n text DEFAULT 5, o date DEFAULT '2020-01-01', p text DEFAULT 'it''s', q text DEFAULT E'a\\b\n', r text DEFAULT 'é', s int[] DEFAULT array[1,2], t text[] DEFAULT '{a,"b c"}', u interval DEFAULT '1 day', v text DEFAULT '');
-- == null as a default
CREATE TABLE berths (a text DEFAULT NULL, b int DEFAULT NULL, c varchar(9) DEFAULT NULL);
-- == moments as defaults
CREATE TABLE berths (a timestamptz DEFAULT now(), b timestamptz DEFAULT current_timestamp, c timestamptz(3) DEFAULT current_timestamp(3), d timestamp DEFAULT localtimestamp, e date DEFAULT current_date, f timestamptz DEFAULT statement_timestamp(), g timestamptz DEFAULT clock_timestamp(), h time DEFAULT current_time, i timestamp DEFAULT (now() AT TIME ZONE 'utc'), j timestamptz DEFAULT now() + interval '1 day');
-- == serial and a sequence of one's own
CREATE SEQUENCE free; CREATE TABLE berths (a serial, b bigserial, c smallserial, d int DEFAULT nextval('free'), e int DEFAULT nextval('free'::regclass) + 1);
-- == identities
CREATE TABLE berths (a int GENERATED ALWAYS AS IDENTITY, b bigint GENERATED BY DEFAULT AS IDENTITY (START 100 INCREMENT 5));
-- == a query as a default
CREATE TABLE berths (a int DEFAULT (select 1));
-- == an enumeration
CREATE TYPE kind AS ENUM ('dry', 'wet', 'it''s'); ALTER TYPE kind ADD VALUE 'damp' BEFORE 'wet'; CREATE TABLE berths (a kind NOT NULL DEFAULT 'dry', b kind[]);
-- == an enumeration whose column becomes a text
CREATE TYPE kind AS ENUM ('dry', 'wet'); CREATE TABLE berths (a kind DEFAULT 'dry'); ALTER TABLE berths ALTER COLUMN a TYPE text;
-- == an enumeration in a schema of its own
CREATE SCHEMA IF NOT EXISTS basin; CREATE TYPE basin.kind AS ENUM ('dry', 'wet'); CREATE TABLE berths (a basin.kind DEFAULT 'dry'); 

-- == checks as they are stored
CREATE TABLE berths (a text, b varchar(9), c int, d numeric, e date, f bool, CHECK (a IN ('x','y')), CHECK (a NOT IN ('x','y')), CHECK (a IN ('x')), CHECK (b IN ('x','y')), CHECK (c BETWEEN 1 AND 5), CHECK (a LIKE 'x%'), CHECK (a ILIKE 'x%'), CHECK (d <= 10), CHECK (e > '2020-01-01'), CHECK (f), CHECK (NOT f), CHECK (f IS NOT TRUE), CHECK (c > 0 AND d > 0 OR a IS NULL), CHECK (a ~ '^x'), CHECK (length(a) < 9), CHECK (c % 2 = 0), CHECK (b::text <> ''), CHECK (e < now()), CHECK (CASE WHEN c > 0 THEN d > 0 ELSE d < 0 END), CHECK (a SIMILAR TO 'x'), CHECK (coalesce(a, b) IS NOT NULL), CHECK (num_nonnulls(a, b) = 1));
-- == a foreign key and what it does
CREATE TABLE vessels (id int PRIMARY KEY, code text UNIQUE); CREATE TABLE berths (a int REFERENCES vessels ON DELETE CASCADE ON UPDATE RESTRICT, b text REFERENCES vessels (code) ON DELETE SET NULL, c int REFERENCES vessels ON DELETE SET DEFAULT, d int REFERENCES vessels DEFERRABLE INITIALLY DEFERRED, e bigint REFERENCES vessels);
-- == a foreign key that sets some of its columns to null
CREATE TABLE vessels (a int, b int, PRIMARY KEY (a, b)); CREATE TABLE berths (a int, b int, CONSTRAINT fab FOREIGN KEY (a, b) REFERENCES vessels ON DELETE SET NULL (b));
-- == a foreign key that is matched in full
CREATE TABLE vessels (a int, b int, PRIMARY KEY (a, b)); CREATE TABLE berths (a int, b int, CONSTRAINT fab FOREIGN KEY (a, b) REFERENCES vessels MATCH FULL);
-- == a foreign key to what is not unique
CREATE TABLE vessels (id int PRIMARY KEY, flag int); CREATE TABLE berths (a int REFERENCES vessels (flag));
-- == a foreign key between types that do not go together
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a text REFERENCES vessels);
-- == nulls that are not distinct
CREATE TABLE berths (a int, CONSTRAINT one UNIQUE NULLS NOT DISTINCT (a)); CREATE UNIQUE INDEX two ON berths (a) NULLS NOT DISTINCT;
-- == what must not overlap
CREATE EXTENSION IF NOT EXISTS btree_gist; CREATE TABLE berths (berth int, during tstzrange, CONSTRAINT once EXCLUDE USING gist (berth WITH =, during WITH &&) WHERE (berth > 0) DEFERRABLE INITIALLY DEFERRED);
-- == unique at the commit
CREATE TABLE berths (a int, CONSTRAINT one UNIQUE (a) DEFERRABLE INITIALLY DEFERRED, b int PRIMARY KEY DEFERRABLE);
-- == indexes
CREATE TABLE berths (a int, b text, c jsonb, d text); CREATE INDEX i1 ON berths (a DESC); CREATE INDEX i2 ON berths (a DESC NULLS LAST, b); CREATE INDEX i3 ON berths (b text_pattern_ops); CREATE INDEX i4 ON berths USING gin (c); CREATE INDEX i5 ON berths USING gin (c jsonb_path_ops); CREATE INDEX i6 ON berths (lower(b), a); CREATE INDEX i7 ON berths (a) INCLUDE (b) WHERE b IS NOT NULL; CREATE INDEX i8 ON berths USING hash (a); CREATE INDEX i9 ON berths (b COLLATE "C"); CREATE UNIQUE INDEX i10 ON berths (a) WHERE b = 'x' AND d IS NULL; CREATE INDEX i11 ON berths USING brin (a) WITH (pages_per_range = 8);
-- == a column is dropped that indexes use
CREATE TABLE berths (a int, b int, c int); CREATE INDEX i1 ON berths (a, b); CREATE INDEX i2 ON berths (a) WHERE b > 0; CREATE INDEX i3 ON berths (a) INCLUDE (b); CREATE INDEX i4 ON berths (a); ALTER TABLE berths DROP COLUMN b;
-- == collations
CREATE TABLE berths (a text COLLATE "C", b text COLLATE "en-x-icu", c text);
-- == a collation of one's own that ignores case
CREATE COLLATION IF NOT EXISTS folded (provider = icu, locale = 'und-u-ks-level2', deterministic = false); CREATE TABLE berths (a text COLLATE folded UNIQUE);
-- == comments
CREATE TABLE berths (a int, b int); COMMENT ON TABLE berths IS 'where ''vessels'' lie'; COMMENT ON COLUMN berths.a IS E'low\\\nwater'; COMMENT ON COLUMN berths.b IS 'x'; COMMENT ON COLUMN berths.b IS '';
-- == names that are odd
CREATE TABLE "the 'berth'" ("a""b" int, "Depth" int, "é" int, "select" int, "order" int, CONSTRAINT "odd""one" CHECK ("a""b" > 0)); CREATE INDEX "k'ey" ON "the 'berth'" ("Depth");
-- == words that are kept
CREATE TABLE berths (a int, user int);
-- == words that are free
CREATE TABLE berths (value int, key int, index int, values int, "between" int, row int, type text, name text, date date, "time" time);
-- == schemas beside the usual one
CREATE SCHEMA IF NOT EXISTS basin; CREATE TABLE basin.berths (id int PRIMARY KEY); CREATE TABLE berths (id int REFERENCES basin.berths);
-- == views
CREATE TABLE berths (a int); CREATE VIEW deep AS SELECT a FROM berths; CREATE MATERIALIZED VIEW deeper AS SELECT a FROM berths;
-- == columns that are altered
CREATE TABLE berths (a int NOT NULL DEFAULT 3, b int, c varchar(9)); ALTER TABLE berths ALTER COLUMN a DROP NOT NULL, ALTER COLUMN a DROP DEFAULT, ALTER COLUMN b SET NOT NULL, ALTER COLUMN b SET DEFAULT 7, ALTER COLUMN c TYPE text USING upper(c), ADD COLUMN d int NOT NULL DEFAULT 1, ADD COLUMN IF NOT EXISTS a text;
-- == an identity is added and dropped
CREATE TABLE berths (a int NOT NULL, b int GENERATED ALWAYS AS IDENTITY); ALTER TABLE berths ALTER COLUMN a ADD GENERATED BY DEFAULT AS IDENTITY, ALTER COLUMN b DROP IDENTITY;
-- == constraints are renamed
CREATE TABLE berths (id int PRIMARY KEY, a int CHECK (a > 0)); ALTER TABLE berths RENAME CONSTRAINT berths_a_check TO deep; ALTER INDEX berths_pkey RENAME TO berth_key;
-- == a type is renamed
CREATE TYPE kind AS ENUM ('dry'); CREATE TABLE berths (a kind); ALTER TYPE kind RENAME TO sort;
-- == a table is moved to another schema
CREATE SCHEMA IF NOT EXISTS basin; CREATE TABLE berths (a int); ALTER TABLE berths SET SCHEMA basin; CREATE TABLE quays (a int);
-- == dollar quotes and routines
CREATE TABLE berths (a int, b text DEFAULT $$it's; x$$); CREATE FUNCTION touch() RETURNS trigger LANGUAGE plpgsql AS $body$ BEGIN NEW.a := 1; RETURN NEW; END; $body$; CREATE TRIGGER touched BEFORE UPDATE ON berths FOR EACH ROW EXECUTE FUNCTION touch();
-- == a table with options
CREATE TABLE berths (a int, b text COMPRESSION pglz, c text STORAGE EXTERNAL) WITH (fillfactor = 70);
