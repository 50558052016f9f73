-- Each row is run on MySQL and on MariaDB of each release that can be had; mysql.txt says what came of it.

-- == whole numbers, bare
CREATE TABLE vessels (a tinyint, b smallint, c mediumint, d int, e bigint, f int unsigned, g bigint unsigned, h smallint unsigned);
-- == whole numbers with the width at which they are shown
CREATE TABLE vessels (a int(11), b bigint(20) unsigned, c tinyint(4), d smallint(6), e int(5) zerofill);
-- == truth values
CREATE TABLE vessels (a bool, b tinyint(1), c tinyint(1) unsigned, d boolean NOT NULL DEFAULT true, e boolean DEFAULT false);
-- == a text that is longer than a varchar may be
CREATE TABLE vessels (log varchar(16384));
-- == a row that is too long
CREATE TABLE vessels (log varchar(10000), note varchar(10000));
-- == an engine that nobody knows
CREATE TABLE vessels (id int PRIMARY KEY) ENGINE=Dredger;
-- == serial
CREATE TABLE vessels (id serial, name varchar(9));
-- == decimals and binary fractions
CREATE TABLE vessels (a decimal, b decimal(8,2), c float, d float(24), e float(25), f real, g double precision, h numeric(5), i float(7,3));
-- == years
CREATE TABLE vessels (built year, lost year(4));
-- == texts and blobs by their length
CREATE TABLE vessels (a text(100), b text(300), c text(70000), d blob(200), e blob, f tinytext, g longblob, h mediumtext);
-- == national texts
CREATE TABLE vessels (a nvarchar(9), b nchar(3));
-- == a column with a character set of its own
CREATE TABLE vessels (a varchar(9) CHARACTER SET latin1, b varchar(9) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin, c varchar(9));
-- == the old name of a character set
CREATE TABLE vessels (a varchar(9) CHARACTER SET utf8);
-- == texts whose character set is binary
CREATE TABLE vessels (a varchar(5) CHARACTER SET binary, b char(5) CHARACTER SET binary, c text CHARACTER SET binary);
-- == a timestamp that may be null, and one that says nothing
CREATE TABLE vessels (a timestamp NULL, b timestamp, c timestamp NOT NULL DEFAULT CURRENT_TIMESTAMP);
-- == json
CREATE TABLE vessels (papers json, crew json NOT NULL);
-- == json with a check of its own
CREATE TABLE vessels (papers json CHECK (json_length(papers) > 0));
-- == addresses and identifiers that one server has types for
CREATE TABLE vessels (a uuid, b inet4, c inet6);
-- == uuid
CREATE TABLE vessels (a uuid NOT NULL PRIMARY KEY, b uuid DEFAULT uuid());
-- == vectors
CREATE TABLE vessels (course vector(3) NOT NULL);
-- == a vector without a length
CREATE TABLE vessels (course vector);
-- == a vector with an index
CREATE TABLE vessels (id int PRIMARY KEY, course vector(3) NOT NULL, VECTOR INDEX (course));
-- == geometry
CREATE TABLE berths (place point NOT NULL, basin polygon, all_of geometrycollection, SPATIAL INDEX (place));
-- == geometry in a system of reference, as MySQL says it
CREATE TABLE berths (place point NOT NULL SRID 4326);
-- == geometry in a system of reference, as MariaDB says it
CREATE TABLE berths (place point REF_SYSTEM_ID=4326 NOT NULL);
-- == bits
CREATE TABLE berths (a bit, b bit(3) DEFAULT b'101', c bit(8) NOT NULL DEFAULT 5);
-- == enumerations
CREATE TABLE berths (kind enum('dry','wet') NOT NULL DEFAULT 'wet', other enum('it''s','a,b','ü') DEFAULT 'ü');
-- == an enumeration whose default is in other letters
CREATE TABLE berths (kind enum('dry','wet') DEFAULT 'DRY');
-- == an enumeration whose default is a number
CREATE TABLE berths (kind enum('dry','wet') DEFAULT 2);
-- == an enumeration with values that are equal but for case
CREATE TABLE berths (kind enum('dry','Dry'));
-- == an enumeration whose values end in blanks
CREATE TABLE berths (kind enum('dry ','wet'));
-- == sets
CREATE TABLE berths (gear set('crane','hose') DEFAULT 'hose,crane');

-- == no default
CREATE TABLE berths (a varchar(9), b varchar(9) NOT NULL, c int, d int NOT NULL);
-- == texts as defaults
CREATE TABLE berths (a varchar(9) DEFAULT 'NULL', b varchar(9) DEFAULT '', c varchar(9) DEFAULT 'it''s', d varchar(9) DEFAULT 'a\\b', e varchar(9) DEFAULT '3', f char(3) DEFAULT 'x', g varchar(9) DEFAULT 'é', h varchar(20) DEFAULT 'current_timestamp', i varchar(9) DEFAULT '(1)');
-- == numbers as defaults
CREATE TABLE berths (a int DEFAULT 3, b decimal(8,2) DEFAULT 1.5, c double DEFAULT 1e3, d int DEFAULT -1, e bigint DEFAULT '9', f float DEFAULT 0.5, g decimal(8,2) NOT NULL DEFAULT '0');
-- == dates as defaults
CREATE TABLE berths (a date DEFAULT '2020-01-01', b datetime DEFAULT '2020-01-01 10:00:00', c time DEFAULT '10:00', d year DEFAULT 2020, e timestamp NULL DEFAULT '2020-01-01 10:00:00');
-- == bytes as a default
CREATE TABLE berths (a varbinary(9) DEFAULT 0x00ff, b binary(3) DEFAULT 'abc', c varbinary(9) DEFAULT x'41');
-- == moments as defaults
CREATE TABLE berths (a datetime DEFAULT now(), b datetime(3) DEFAULT current_timestamp(3), c timestamp DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP, d datetime(6) DEFAULT now(6) ON UPDATE now(6), e datetime ON UPDATE now());
-- == the local time as a default
CREATE TABLE berths (a datetime DEFAULT localtime);
-- == a moment of another precision as a default
CREATE TABLE berths (a datetime(3) DEFAULT current_timestamp);
-- == a moment of another precision at an update
CREATE TABLE berths (a datetime(3) ON UPDATE current_timestamp);
-- == expressions as defaults
CREATE TABLE berths (a int DEFAULT (1+2), b datetime DEFAULT (now()), c varchar(9) DEFAULT ('x'), d double DEFAULT (rand()), e char(36) DEFAULT (uuid()), f int, g int DEFAULT (f+1));
-- == expressions with texts as defaults
CREATE TABLE berths (a varchar(20) DEFAULT (concat('it''s ', 'é')), b varchar(20) DEFAULT (concat('a\\b', "q")));
-- == functions without brackets as defaults: an identifier
CREATE TABLE berths (a char(36) DEFAULT uuid());
-- == functions without brackets as defaults: a day
CREATE TABLE berths (a date DEFAULT current_date);
-- == functions without brackets as defaults: who it is
CREATE TABLE berths (a varchar(99) DEFAULT current_user);
-- == a day as a default, in brackets
CREATE TABLE berths (a date DEFAULT (current_date), b date DEFAULT (curdate()), c time DEFAULT (current_time), d date DEFAULT (utc_date()));
-- == a variable as a default
CREATE TABLE berths (a int DEFAULT (@depth));
-- == a query as a default
CREATE TABLE berths (a int DEFAULT (select 1));
-- == long texts with a plain default
CREATE TABLE berths (a text DEFAULT 'x');
-- == blobs with a plain default
CREATE TABLE berths (a blob DEFAULT 'x');
-- == json with a plain default
CREATE TABLE berths (a json DEFAULT '{}');
-- == long texts and json with a default in brackets
CREATE TABLE berths (a text DEFAULT ('x'), b json DEFAULT ('{}'), c json DEFAULT (json_object()), d json DEFAULT (json_array()), e text NOT NULL DEFAULT (''));
-- == the next value of a sequence as a default
CREATE SEQUENCE berth_seq; CREATE TABLE berths (id int NOT NULL DEFAULT nextval(berth_seq) PRIMARY KEY);
-- == a fraction of a second that is too long
CREATE TABLE berths (a datetime DEFAULT '2020-01-01 10:00:00.6');

-- == computed columns, silent on where they are kept
CREATE TABLE berths (kg int, g int AS (kg * 2));
-- == computed columns, stored and virtual
CREATE TABLE berths (kg int, a int GENERATED ALWAYS AS (kg * 2) STORED, b int GENERATED ALWAYS AS (kg + 1) VIRTUAL);
-- == computed columns that are persistent
CREATE TABLE berths (kg int, a int AS (kg * 2) PERSISTENT);
-- == computed columns that are not null
CREATE TABLE berths (kg int, a int AS (kg * 2) STORED NOT NULL);
-- == computed columns that are unique and have a comment
CREATE TABLE berths (kg int, a int AS (kg * 2) STORED UNIQUE COMMENT 'twice');
-- == a computed key
CREATE TABLE berths (kg int NOT NULL, a int AS (kg * 2) STORED PRIMARY KEY);
-- == computed from json by arrows
CREATE TABLE berths (papers json, a varchar(20) AS (papers->>'$.flag') STORED);
-- == computed from json by a function
CREATE TABLE berths (papers json, a varchar(20) AS (json_unquote(json_extract(papers, '$.flag'))) VIRTUAL);
-- == computed of texts
CREATE TABLE berths (name varchar(9), a varchar(40) AS (concat(upper(name), ' it''s ', lower(name))), b int AS (length(name) % 3), c int AS (char_length(name)));
-- == computed of the moment
CREATE TABLE berths (at datetime, age int AS (timestampdiff(DAY, at, now())));
-- == computed of a numbered column
CREATE TABLE berths (id int AUTO_INCREMENT PRIMARY KEY, twice int AS (id * 2));
-- == virtual to stored
CREATE TABLE berths (kg int, a int AS (kg * 2) VIRTUAL); ALTER TABLE berths MODIFY a int AS (kg * 2) STORED;
-- == a column renamed that another is computed of
CREATE TABLE berths (kg int, a int AS (kg * 2)); ALTER TABLE berths RENAME COLUMN kg TO mass;

-- == checks of a column, unnamed
CREATE TABLE berths (depth int CHECK (depth > 0), kind varchar(9) CHECK (kind IN ('a','b')));
-- == checks of the table, unnamed
CREATE TABLE berths (depth int, width int, CHECK (depth > 0), CHECK (width > depth));
-- == checks with names
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0));
-- == a check of a column with a name
CREATE TABLE berths (depth int CONSTRAINT deep CHECK (depth > 0));
-- == what stands behind the check of a column
CREATE TABLE berths (depth int CHECK (depth > 0) NOT NULL DEFAULT 3 COMMENT 'low');
-- == two checks of a column
CREATE TABLE berths (depth int CHECK (depth > 0) CHECK (depth < 99));
-- == the check of a column on another column
CREATE TABLE berths (depth int CHECK (width > 0), width int);
-- == the name of a check in two tables
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0)); CREATE TABLE quays (depth int, CONSTRAINT deep CHECK (depth > 1));
-- == what checks say
CREATE TABLE berths (a int, b varchar(20), c date, d int, CONSTRAINT c1 CHECK (b REGEXP '^a'), CONSTRAINT c2 CHECK (NOT a = 3), CONSTRAINT c3 CHECK (b <> 'it''s'), CONSTRAINT c4 CHECK (a BETWEEN 1 AND 5 OR d IS NULL), CONSTRAINT c5 CHECK (b LIKE 'é%'), CONSTRAINT c6 CHECK (c > '2020-01-01'), CONSTRAINT c7 CHECK (a + d * 2 >= 1 AND d IS NOT NULL), CONSTRAINT c8 CHECK (b NOT IN ('x', 'y')), CONSTRAINT c9 CHECK (char_length(b) <= 5), CONSTRAINT c10 CHECK (b = 'a\\b'));
-- == a check that is not enforced
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0) NOT ENFORCED);
-- == a check that is not enforced any more
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0)); ALTER TABLE berths ALTER CHECK deep NOT ENFORCED;
-- == a check that is a column
CREATE TABLE berths (flag boolean, CHECK (flag));
-- == a check on a numbered column
CREATE TABLE berths (id int AUTO_INCREMENT PRIMARY KEY, CHECK (id > 0));
-- == a check that asks the moment
CREATE TABLE berths (at datetime, CHECK (at < now()));
-- == a check on a column that a foreign key sets to null
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, CHECK (v > 0), FOREIGN KEY (v) REFERENCES vessels (id) ON DELETE SET NULL);
-- == a check that is dropped as a check
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0)); ALTER TABLE berths DROP CHECK deep;
-- == a check that is dropped as a constraint
CREATE TABLE berths (depth int, CONSTRAINT deep CHECK (depth > 0)); ALTER TABLE berths DROP CONSTRAINT deep;
-- == a column with a check is changed and does not repeat it
CREATE TABLE berths (depth int CHECK (depth > 0)); ALTER TABLE berths MODIFY depth bigint;
-- == a column renamed that a check uses
CREATE TABLE berths (depth int, width int, CHECK (depth > 0)); ALTER TABLE berths RENAME COLUMN depth TO deep;
-- == a column dropped that a check uses
CREATE TABLE berths (depth int, width int, CHECK (depth > 0)); ALTER TABLE berths DROP COLUMN depth;
-- == a table renamed whose constraints nobody named
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (depth int, v int, CHECK (depth > 0), FOREIGN KEY (v) REFERENCES vessels (id)); RENAME TABLE berths TO moorings;
-- == a table renamed whose constraint was named as if nobody had
CREATE TABLE berths (depth int, CONSTRAINT berths_chk_9 CHECK (depth > 0)); ALTER TABLE berths RENAME TO moorings;

-- == indexes without names
CREATE TABLE berths (a int, b int, KEY (a), KEY (a, b), UNIQUE (b), UNIQUE KEY (b, a));
-- == the order of indexes
CREATE TABLE berths (id int PRIMARY KEY, a varchar(9), b int, FULLTEXT KEY f (a), KEY k (b), UNIQUE KEY u (a));
-- == an index on an expression
CREATE TABLE berths (len int, name varchar(9), KEY twice ((len * 2)), KEY ((lower(name))));
-- == an index on the items of json
CREATE TABLE berths (papers json, KEY flags ((CAST(papers->'$.flags' AS UNSIGNED ARRAY))));
-- == a descending index
CREATE TABLE berths (a int, b int, KEY k (a DESC, b));
-- == a hidden index, as MySQL says it
CREATE TABLE berths (a int, KEY k (a) INVISIBLE);
-- == a hidden index, as MariaDB says it
CREATE TABLE berths (a int, KEY k (a) IGNORED);
-- == an index with a comment
CREATE TABLE berths (a int, KEY k (a) COMMENT 'for the pilots');
-- == an index over a long text
CREATE TABLE berths (a text, KEY (a));
-- == an index over json
CREATE TABLE berths (a json, KEY (a));
-- == an index over a text of 769 letters
CREATE TABLE berths (a varchar(769), KEY (a));
-- == a unique long text
CREATE TABLE berths (a text, UNIQUE (a));
-- == a unique text of 769 letters
CREATE TABLE berths (a varchar(769), UNIQUE (a));
-- == a long text as the key
CREATE TABLE berths (a text PRIMARY KEY);
-- == an index over the beginning of a text
CREATE TABLE berths (a varchar(100), b text, KEY k (a(10)), KEY l (b(20)));
-- == a unique beginning of a text
CREATE TABLE berths (a varchar(100), UNIQUE KEY k (a(10)));
-- == an index over the beginning that is the whole
CREATE TABLE berths (a varchar(10), KEY k (a(10)));
-- == a spatial index over what may be null
CREATE TABLE berths (a point, SPATIAL KEY (a));
-- == an index by a digest
CREATE TABLE berths (a int, KEY k (a) USING HASH);
-- == a key that has a name
CREATE TABLE berths (id int, CONSTRAINT pk_berth PRIMARY KEY (id));
-- == a key that may be null
CREATE TABLE berths (id int NULL PRIMARY KEY);
-- == a key that is dropped
CREATE TABLE berths (id int PRIMARY KEY, a int); ALTER TABLE berths DROP PRIMARY KEY;
-- == a key that nobody declared
SET SESSION sql_generate_invisible_primary_key = 1; CREATE TABLE berths (a int); SET SESSION sql_generate_invisible_primary_key = 0;
-- == a unique constraint with a name
CREATE TABLE berths (a int, b int, CONSTRAINT ab UNIQUE (a, b), CONSTRAINT UNIQUE KEY only_a (a));
-- == unique columns said beside them
CREATE TABLE berths (a int UNIQUE, b int UNIQUE KEY, c int KEY);

-- == a foreign key said beside the column
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int REFERENCES vessels (id));
-- == a foreign key said beside the column, without the other column
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int REFERENCES vessels);
-- == foreign keys without a name
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, w int, FOREIGN KEY (v) REFERENCES vessels (id), FOREIGN KEY (w) REFERENCES vessels (id));
-- == a foreign key with the name of its index only
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, FOREIGN KEY named (v) REFERENCES vessels (id));
-- == a foreign key with a name
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, CONSTRAINT named FOREIGN KEY (v) REFERENCES vessels (id));
-- == a foreign key whose index is there
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, a int, KEY both_of (v, a), CONSTRAINT named FOREIGN KEY (v) REFERENCES vessels (id));
-- == the index of a foreign key is replaced
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, CONSTRAINT named FOREIGN KEY (v) REFERENCES vessels (id)); CREATE INDEX own ON berths (v);
-- == a foreign key is dropped, its index stays
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (v int, CONSTRAINT named FOREIGN KEY (v) REFERENCES vessels (id)); ALTER TABLE berths DROP FOREIGN KEY named;
-- == actions of foreign keys
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int, b int, c int, d int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id) ON DELETE CASCADE ON UPDATE SET NULL, CONSTRAINT fb FOREIGN KEY (b) REFERENCES vessels (id) ON DELETE RESTRICT, CONSTRAINT fc FOREIGN KEY (c) REFERENCES vessels (id) ON DELETE NO ACTION ON UPDATE CASCADE, CONSTRAINT fd FOREIGN KEY (d) REFERENCES vessels (id));
-- == a foreign key that sets the default
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int DEFAULT 1, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id) ON DELETE SET DEFAULT);
-- == a foreign key to what is only indexed
CREATE TABLE vessels (id int PRIMARY KEY, flag int, KEY (flag)); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (flag));
-- == a foreign key to the first part of a key
CREATE TABLE vessels (a int, b int, PRIMARY KEY (a, b)); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (a));
-- == a foreign key to a narrower number
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a bigint, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key to a number without a sign
CREATE TABLE vessels (id int unsigned PRIMARY KEY); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key between texts of two lengths
CREATE TABLE vessels (id varchar(9) PRIMARY KEY); CREATE TABLE berths (a varchar(20), CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key between texts of two collations
CREATE TABLE vessels (id varchar(9) COLLATE utf8mb4_bin PRIMARY KEY); CREATE TABLE berths (a varchar(9) COLLATE utf8mb4_general_ci, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key between decimals of other digits
CREATE TABLE vessels (id decimal(8,2) PRIMARY KEY); CREATE TABLE berths (a decimal(10,3), CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key between a timestamp and a datetime
CREATE TABLE vessels (at datetime PRIMARY KEY); CREATE TABLE berths (a timestamp NULL, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (at));
-- == a foreign key of a computed column
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (k int, a int AS (k + 1) VIRTUAL, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key that sets null where there may be none
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int NOT NULL, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id) ON DELETE SET NULL);
-- == the name of a foreign key in two tables
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id)); CREATE TABLE quays (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key to a table that is not there
CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id));
-- == a foreign key to a table that comes later, unchecked
SET foreign_key_checks = 0; CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id)); CREATE TABLE vessels (id int PRIMARY KEY); SET foreign_key_checks = 1;
-- == a foreign key that waits for the commit
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id) DEFERRABLE INITIALLY DEFERRED);
-- == a foreign key of an engine that has none
CREATE TABLE vessels (id int PRIMARY KEY) ENGINE=MyISAM; CREATE TABLE berths (a int, CONSTRAINT fa FOREIGN KEY (a) REFERENCES vessels (id)) ENGINE=MyISAM;
-- == a table of 64 letters with an unnamed foreign key
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb (a int, FOREIGN KEY (a) REFERENCES vessels (id));
-- == foreign keys of several columns and to oneself
CREATE TABLE vessels (a int, b int, tug int, PRIMARY KEY (a, b), KEY (tug)); CREATE TABLE berths (id int PRIMARY KEY, x int, y int, next int, CONSTRAINT fxy FOREIGN KEY (x, y) REFERENCES vessels (a, b), CONSTRAINT fnext FOREIGN KEY (next) REFERENCES berths (id));

-- == a name of 65 letters
CREATE TABLE berths (bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb int);
-- == a name that ends in a blank
CREATE TABLE berths (`depth ` int);
-- == names that are odd
CREATE TABLE `the "berth"` (`a``b` int, `c'd` varchar(9) DEFAULT 'x', `é` int, `select` int, CONSTRAINT `odd``one` CHECK (`a``b` > 0), KEY `k"ey` (`é`));
-- == columns whose names differ in case only
CREATE TABLE berths (depth int, Depth int);
-- == tables whose names differ in case only
CREATE TABLE berths (depth int); CREATE TABLE Berths (depth int);
-- == words that MySQL keeps for itself
CREATE TABLE berths (`rank` int, `groups` int, `row` int, `system` int, `window` int, `library` int, `lateral` int, CONSTRAINT named CHECK (`rank` > 0));
-- == a word that MySQL keeps for itself, bare
CREATE TABLE berths (rank int);
-- == a word that MariaDB keeps for itself, bare
CREATE TABLE berths (portion int);
-- == texts with backslashes and double quotes
CREATE TABLE berths (a varchar(20) DEFAULT 'a\'b', b varchar(20) DEFAULT "dq", c varchar(20) DEFAULT 'x\ny', d varchar(20) DEFAULT '\q', e varchar(20) COMMENT 'it''s \\ and "q"');
-- == texts where a backslash is a letter
SET SESSION sql_mode = 'NO_BACKSLASH_ESCAPES'; CREATE TABLE berths (a varchar(20) DEFAULT 'a\b', b varchar(20) COMMENT 'c\d', CONSTRAINT k CHECK (a <> 'e\f')); SET SESSION sql_mode = DEFAULT;
-- == names in double quotes
SET SESSION sql_mode = 'ANSI_QUOTES'; CREATE TABLE "berths" ("a" int, CONSTRAINT "k" CHECK ("a" > 0)); SET SESSION sql_mode = DEFAULT;
-- == comments
CREATE TABLE berths (a int COMMENT 'low ''water'' é', b int COMMENT '') COMMENT='where \\ vessels lie';
-- == options of a table
CREATE TABLE berths (id int AUTO_INCREMENT PRIMARY KEY) ENGINE=InnoDB AUTO_INCREMENT=100 DEFAULT CHARSET=utf8mb4 ROW_FORMAT=DYNAMIC COMMENT='x';
-- == a table of parts
CREATE TABLE berths (id int, built int) PARTITION BY RANGE (built) (PARTITION p0 VALUES LESS THAN (2000), PARTITION p1 VALUES LESS THAN MAXVALUE);
-- == a table of parts with a foreign key
CREATE TABLE vessels (id int PRIMARY KEY); CREATE TABLE berths (id int PRIMARY KEY, v int, FOREIGN KEY (v) REFERENCES vessels (id)) PARTITION BY HASH (id) PARTITIONS 2;
-- == a collation of MySQL's newer kind
CREATE TABLE berths (a varchar(9) COLLATE utf8mb4_0900_ai_ci, b varchar(9) COLLATE utf8mb4_0900_as_cs);
-- == a collation of MariaDB's newer kind
CREATE TABLE berths (a varchar(9) COLLATE utf8mb4_uca1400_ai_ci);
-- == a table with a collation of its own
CREATE TABLE berths (a varchar(9), b varchar(9) COLLATE utf8mb4_general_ci) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;

-- == drop columns, if there
CREATE TABLE berths (a int, b int); ALTER TABLE berths DROP COLUMN IF EXISTS b, ADD COLUMN IF NOT EXISTS c int;
-- == a table in place of another
CREATE TABLE berths (a int); CREATE OR REPLACE TABLE berths (b int);
-- == columns that swap their names
CREATE TABLE berths (a int, b varchar(9)); ALTER TABLE berths RENAME COLUMN a TO b, RENAME COLUMN b TO a;
-- == an index renamed
CREATE TABLE berths (a int, KEY k (a)); ALTER TABLE berths RENAME INDEX k TO l;
-- == a changed column says all of it anew
CREATE TABLE berths (a int NOT NULL DEFAULT 3 COMMENT 'x', b int); ALTER TABLE berths MODIFY a bigint; ALTER TABLE berths CHANGE b c smallint NOT NULL FIRST;
-- == a column is altered: its default
CREATE TABLE berths (a int NOT NULL DEFAULT 3, b int); ALTER TABLE berths ALTER COLUMN a DROP DEFAULT, ALTER COLUMN b SET DEFAULT 7;
-- == a column is altered: hidden
CREATE TABLE berths (a int, b int); ALTER TABLE berths ALTER COLUMN b SET INVISIBLE;
-- == a column is altered: not null
CREATE TABLE berths (a int); ALTER TABLE berths ALTER COLUMN a SET NOT NULL;
-- == a column is altered: its type
CREATE TABLE berths (a int); ALTER TABLE berths ALTER COLUMN a TYPE bigint;
-- == columns are placed
CREATE TABLE berths (a int, b int); ALTER TABLE berths ADD COLUMN c int AFTER a, ADD COLUMN (d int, e int), ADD COLUMN f int FIRST;
-- == a column of an index is dropped
CREATE TABLE berths (a int, b int, KEY ab (a, b), UNIQUE KEY ub (b)); ALTER TABLE berths DROP COLUMN b;
-- == many changes in one
CREATE TABLE berths (a int, b int); ALTER TABLE berths ADD COLUMN c int NOT NULL DEFAULT 1, DROP COLUMN b, ADD INDEX (a), ADD UNIQUE named (c), ADD CONSTRAINT k CHECK (c > 0), COMMENT 'x', ENGINE=InnoDB;
-- == tables dropped together
CREATE TABLE berths (a int); CREATE TABLE quays (a int); CREATE TABLE vessels (a int); DROP TABLE berths, quays;
-- == a numbered fraction
CREATE TABLE berths (id float AUTO_INCREMENT PRIMARY KEY);
-- == a table with a history of its rows
CREATE TABLE berths (id int PRIMARY KEY, a int) WITH SYSTEM VERSIONING;
-- == a table with a history whose ends are columns
CREATE TABLE berths (id int PRIMARY KEY, a int, since timestamp(6) GENERATED ALWAYS AS ROW START, till timestamp(6) GENERATED ALWAYS AS ROW END, PERIOD FOR SYSTEM_TIME (since, till)) WITH SYSTEM VERSIONING;
-- == a period of the application
CREATE TABLE berths (id int, a date, b date, PERIOD FOR p (a, b), UNIQUE (id, p WITHOUT OVERLAPS));
-- == hidden columns
CREATE TABLE berths (a int, b int INVISIBLE, c int NOT NULL DEFAULT 1 INVISIBLE);
-- == compressed columns
CREATE TABLE berths (a text COMPRESSED);
-- == comments that are code, of all
CREATE TABLE berths (a int /*! NOT NULL */, b int /*!40101 NOT NULL */, c int /*!50699 DEFAULT 3 */);
-- == comments that are code, of MySQL alone
CREATE TABLE berths (a int /*!50700 NOT NULL */, b int /*!80016 DEFAULT 5 */, c int /*!99999 NOT NULL */);
-- == comments that are code, of MariaDB alone
CREATE TABLE berths (a int /*M! NOT NULL */, b int /*!100500 NOT NULL */, c int /*M!100500 DEFAULT 5 */, d int /*M!990000 NOT NULL */);
-- == views
CREATE TABLE berths (a int); CREATE VIEW deep AS SELECT a FROM berths WHERE a > 3;
-- == a table like another
CREATE TABLE berths (a int NOT NULL DEFAULT 3, KEY (a)); CREATE TABLE moorings LIKE berths;
-- == an index made apart
CREATE TABLE berths (a int, b varchar(9)); CREATE INDEX k ON berths (a DESC); CREATE UNIQUE INDEX u ON berths (b, a); CREATE FULLTEXT INDEX f ON berths (b);
