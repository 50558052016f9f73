//! What people and servers write in scripts: each statement and the facts that it must give.

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::history::Operation;
use sprachbund_core::history::sql::statement;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::schema::Database::{MariaDb, MySql, PostgreSql, Sqlite};
use sprachbund_core::schema::facts::facts;
use sprachbund_core::schema::{Database, Entity, EnumMember, EnumType, Schema};
use sprachbund_core::source::NoFiles;

fn reading(text: &str, database: Option<Database>) -> Reading {
    let mut settings = Settings { database, ..Settings::default() };
    read(
        vec![("tables.sql".into(), text.into())],
        by_id("sql").expect("a dialect"),
        &mut settings,
        &NoFiles,
    )
}

fn lines(text: &str, database: Option<Database>) -> Vec<String> {
    let reading = reading(text, database);
    assert!(reading.diagnostics.is_empty(), "{text}\n{:#?}", reading.diagnostics);
    facts(&reading.schema).into_iter().map(|(key, value)| format!("{key} = {value}")).collect()
}

/// A server, a script, and the facts that it must give; `!` before one wants it absent.
type Case = (Database, &'static str, &'static [&'static str]);

fn check(cases: &[Case]) {
    for (database, text, wanted) in cases {
        let found = lines(text, Some(*database));
        for line in *wanted {
            match line.strip_prefix('!') {
                Some(unwanted) => assert!(
                    !found.iter().any(|fact| fact.starts_with(unwanted)),
                    "{unwanted} is there\n{text}\n{found:#?}"
                ),
                None => assert!(
                    found.iter().any(|fact| fact == line),
                    "{line} is missing\n{text}\n{found:#?}"
                ),
            }
        }
    }
}

#[test]
fn tables_of_one_name_in_several_named_schemas() {
    const QUAYS: &str = "CREATE TABLE yard.quays (id int PRIMARY KEY); CREATE TABLE port.quays \
                         (id int PRIMARY KEY);";
    let cases: &[(&str, &[&str])] = &[
        (
            "ALTER TABLE port.quays ADD c int",
            &["port.quays, column c, type = \"integer\"", "!yard.quays, column c"],
        ),
        (
            "COMMENT ON TABLE yard.quays IS 'inner'",
            &["yard.quays, comment = \"inner\"", "!port.quays, comment"],
        ),
        ("DROP TABLE yard.quays", &["quays, namespace = \"port\""]),
        (
            "ALTER TABLE port.quays RENAME TO piers",
            &["piers, namespace = \"port\"", "quays, namespace = \"yard\""],
        ),
        (
            "CREATE TABLE b (q int REFERENCES port.quays); ALTER TABLE port.quays RENAME TO piers",
            &["b, foreign key q, references = [\"port\",\"piers\",[\"id\"]]"],
        ),
        (
            "CREATE UNIQUE INDEX i ON yard.quays (id); DROP INDEX yard.i",
            &["!yard.quays, unique index"],
        ),
        (
            "DROP TABLE port.quays; ALTER TABLE quays ADD c int",
            &["quays, column c, type = \"integer\"", "quays, namespace = \"yard\""],
        ),
    ];
    let whole: Vec<String> = cases.iter().map(|(text, _)| format!("{QUAYS} {text}")).collect();
    for ((_, wanted), text) in cases.iter().zip(&whole) {
        let found = lines(text, Some(PostgreSql));
        for line in *wanted {
            match line.strip_prefix('!') {
                Some(unwanted) => assert!(
                    !found.iter().any(|fact| fact.starts_with(unwanted)),
                    "{unwanted} is there\n{text}\n{found:#?}"
                ),
                None => assert!(
                    found.iter().any(|fact| fact == line),
                    "{line} is missing\n{text}\n{found:#?}"
                ),
            }
        }
    }
}

#[test]
fn columns_on_postgresql() {
    check(&[
        (
            PostgreSql,
            "CREATE TABLE \"a\"\"b\nc\" (\"it's\" int)",
            &["a\"b\nc, column it's, type = \"integer\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int)",
            &["t, column a, type = \"integer\"", "t, column a, nullable = \"null\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE T (A int, \"B\" int)",
            &["t, column a, type = \"integer\"", "t, column B, type = \"integer\""],
        ),
        (PostgreSql, "CREATE TABLE harbour.t (a int)", &["t, namespace = \"harbour\""]),
        (PostgreSql, "CREATE TABLE public.t (a int)", &["!t, namespace"]),
        (
            PostgreSql,
            "CREATE TABLE t (a serial)",
            &["t, column a, identity = \"sequence\"", "t, column a, nullable = \"not null\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a bigint GENERATED ALWAYS AS IDENTITY)",
            &["t, column a, identity = \"always\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int DEFAULT nextval('t_a_seq'::regclass))",
            &["t, column a, identity = \"sequence\"", "!t, column a, default"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a text DEFAULT 'x'::text)",
            &["t, column a, default in the database = {\"literal\":\"x\"}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int DEFAULT '7'::integer)",
            &["t, column a, default in the database = {\"literal\":7}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a boolean DEFAULT 't')",
            &["t, column a, default in the database = {\"literal\":true}"],
        ),
        (PostgreSql, "CREATE TABLE t (a text DEFAULT NULL)", &["!t, column a, default"]),
        (
            PostgreSql,
            "CREATE TABLE t (a jsonb DEFAULT '{\"x\": 1}')",
            &["t, column a, default in the database = {\"literal\":{\"x\":1}}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a text[] DEFAULT '{p,\"q,r\"}')",
            &["t, column a, default in the database = {\"literal\":[\"p\",\"q,r\"]}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a timestamptz DEFAULT CURRENT_TIMESTAMP)",
            &["t, column a, default in the database = {\"function\":\"now\"}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a uuid DEFAULT gen_random_uuid())",
            &["t, column a, default in the database = {\"function\":\"random-uuid\"}"],
        ),
    ]);
}

#[test]
fn columns_on_postgresql_further() {
    check(&[
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int GENERATED ALWAYS AS (a * 2) STORED)",
            &["t, column b, generated = {\"expression\":{\"language\":\"sql\",\"database\":null,\
               \"text\":\"\\\"a\\\" * 2\",\"tree\":{\"binary\":{\"operator\":\"*\",\
               \"left\":{\"column\":\"a\"},\"right\":{\"literal\":2}}}},\"stored\":true}"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int GENERATED ALWAYS AS (a * 2) VIRTUAL, c int NOT NULL)",
            &[
                "t, column b, generated = \
                 {\"expression\":{\"language\":\"sql\",\"database\":null,\"text\":\"\\\"a\\\" \
                 * 2\",\"tree\":{\"binary\":{\"operator\":\"*\",\"left\":{\"column\":\"a\"},\
                 \"right\":{\"literal\":2}}}},\"stored\":false}",
                "t, column c, nullable = \"not null\"",
            ],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b text generated always as (concat(')', (a))) , c int); \
             ALTER TABLE t ADD COLUMN d int GENERATED ALWAYS AS (abs(a)) NOT NULL, ADD e int \
             GENERATED ALWAYS AS (a) STORED",
            &[
                "t, column b, generated = \
                 {\"expression\":{\"language\":\"sql\",\"database\":null,\
                 \"text\":\"concat(')', \
                 \\\"a\\\")\",\"tree\":{\"call\":{\"function\":\"concat\",\
                 \"arguments\":[{\"literal\":\")\"},{\"column\":\"a\"}]}}},\"stored\":false}",
                "t, column c, type = \"integer\"",
                "t, column d, generated = \
                 {\"expression\":{\"language\":\"sql\",\"database\":null,\
                 \"text\":\"abs(\\\"a\\\")\",\"tree\":{\"call\":{\"function\":\"abs\",\
                 \"arguments\":[{\"column\":\"a\"}]}}},\"stored\":false}",
                "t, column d, nullable = \"not null\"",
                "t, column e, generated = \
                 {\"expression\":{\"language\":\"sql\",\"database\":null,\
                 \"text\":\"\\\"a\\\"\",\"tree\":{\"column\":\"a\"}},\"stored\":true}",
            ],
        ),
        (PostgreSql, "CREATE TABLE t (a text COLLATE \"C\")", &["t, column a, collation = \"C\""]),
        (
            PostgreSql,
            "CREATE TYPE side AS ENUM ('port', 'star'); CREATE TABLE t (a side)",
            &["t, column a, type = \"enum(side)\""],
        ),
    ]);
}

#[test]
fn columns_on_mariadb() {
    check(&[
        (
            MariaDb,
            "CREATE TABLE `T` (`A` int(11) NOT NULL AUTO_INCREMENT, PRIMARY KEY (`A`))",
            &["T, column A, identity = \"by-default\"", "T, key, columns = [\"A\"]"],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a tinyint(1) NOT NULL DEFAULT 0)",
            &[
                "t, column a, type = \"boolean\"",
                "t, column a, default in the database = {\"literal\":false}",
            ],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a enum('x','y') DEFAULT 'x')",
            &[
                "t, column a, type = \"enum(t_a)\"",
                "t, column a, default in the database = {\"literal\":\"x\"}",
            ],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a datetime(6) DEFAULT current_timestamp(6) ON UPDATE \
             current_timestamp(6))",
            &[
                "t, column a, default in the database = {\"function\":\"now\"}",
                "t, column a, update in the database = {\"function\":\"now\"}",
            ],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a longtext CHECK (json_valid(`a`)))",
            &["t, column a, type = \"json\"", "!t, check"],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a int COMMENT 'depth') COMMENT='where ships lie'",
            &["t, column a, comment = \"depth\"", "t, comment = \"where ships lie\""],
        ),
    ]);
}

#[test]
fn columns_on_mysql() {
    check(&[(
        MySql,
        "CREATE TABLE t (a varchar(4) CHARACTER SET utf8mb4, b int unsigned)",
        &["t, column a, type = \"varchar(4)\"", "t, column b, type = \"unsigned integer\""],
    )]);
}

#[test]
fn columns_on_sqlite() {
    check(&[
        (
            Sqlite,
            "CREATE TABLE t (a INTEGER PRIMARY KEY)",
            &["t, column a, identity = \"by-default\"", "t, column a, nullable = \"not null\""],
        ),
        (
            Sqlite,
            "CREATE TABLE t (a INTEGER PRIMARY KEY AUTOINCREMENT)",
            &["t, column a, identity = \"auto-increment\""],
        ),
        (
            Sqlite,
            "CREATE TABLE sqlite_sequence(name,seq); CREATE TABLE t (a DATETIME)",
            &["t, column a, type = \"timestamp\"", "!sqlite_sequence"],
        ),
    ]);
}

#[test]
fn constraints_and_indexes_on_postgresql() {
    check(&[
        (
            PostgreSql,
            "CREATE TABLE t (a int PRIMARY KEY)",
            &["t, key, columns = [\"a\"]", "t, column a, nullable = \"not null\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int, CONSTRAINT k PRIMARY KEY (a, b))",
            &["t, key, columns = [\"a\",\"b\"]", "t, key, name = \"k\""],
        ),
        (PostgreSql, "CREATE TABLE t (a int UNIQUE)", &["t, unique a, as = \"constraint\""]),
        (
            PostgreSql,
            "CREATE TABLE t (a int, UNIQUE NULLS NOT DISTINCT (a))",
            &["t, unique a, nulls_not_distinct = true"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, CONSTRAINT u UNIQUE (a) DEFERRABLE INITIALLY DEFERRED)",
            &["t, unique a, name = \"u\"", "t, unique a, deferrable = \"initially-deferred\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int CHECK (a > 0))",
            &["t, check \"a\" > 0, exists = true"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a varchar(4), CHECK (((a)::text = ANY ((ARRAY['x'::character \
             varying, 'y'::character varying])::text[]))))",
            &["t, check \"a\" IN ('x', 'y'), exists = true"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int, CHECK ((a >= 1) AND (b <= 5)))",
            &["t, check (\"a\" >= 1) AND (\"b\" <= 5), exists = true"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, EXCLUDE USING gist (a WITH =))",
            &["t, exclusion USING gist (a WITH =), exists = true"],
        ),
        (
            PostgreSql,
            "CREATE TABLE q (id int PRIMARY KEY); CREATE TABLE t (q_id int REFERENCES q ON \
             DELETE CASCADE)",
            &[
                "t, foreign key q_id, references = [null,\"q\",[\"id\"]]",
                "t, foreign key q_id, on_delete = \"cascade\"",
                "t, relation q_id, attribute = \"q\"",
            ],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int); CREATE INDEX i ON t USING btree (a DESC, lower(b)) \
             WHERE a > 1",
            &["t, index a desc, lower(\"b\") where \"a\" > 1, name = \"i\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int); CREATE UNIQUE INDEX i ON t (a) INCLUDE (b)",
            &["t, unique index a, include = [\"b\"]"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a text); CREATE INDEX ON t USING gin (a gin_trgm_ops)",
            &["t, index a gin_trgm_ops, method = \"gin\""],
        ),
    ]);
}

#[test]
fn constraints_and_indexes_on_postgresql_further() {
    check(&[
        (
            PostgreSql,
            "CREATE TABLE t (a int); CREATE INDEX t_a_idx ON t (a)",
            &["t, index a, exists = true", "!t, index a, name"],
        ),
        (
            PostgreSql,
            "CREATE TABLE t (a int, b int, UNIQUE (a) INCLUDE (b))",
            &["t, unique index a, include = [\"b\"]"],
        ),
    ]);
}

#[test]
fn constraints_and_indexes_on_mariadb() {
    check(&[
        (
            MariaDb,
            "CREATE TABLE q (id int PRIMARY KEY); CREATE TABLE t (q_id int, FOREIGN KEY (q_id) \
             REFERENCES q (id))",
            &["t, index q_id, exists = true"],
        ),
        (
            MariaDb,
            "CREATE TABLE t (a int, b int, UNIQUE KEY u (a, b DESC), KEY k (a))",
            &["t, unique index a, b desc, name = \"u\"", "t, index a, name = \"k\""],
        ),
    ]);
}

#[test]
fn constraints_and_indexes_on_sqlite() {
    check(&[(Sqlite, "CREATE TABLE t (a int, UNIQUE (a))", &["t, unique a, as = \"constraint\""])]);
}

/// What the changes of a history stand upon.
const BEFORE: &str = "CREATE TABLE q (id int PRIMARY KEY); CREATE TABLE t (a int NOT NULL, b \
                      text DEFAULT 'x', CONSTRAINT c CHECK (a > 0));";

/// Changes of a history, and what comes of them.
fn check_changes(cases: &[Case]) {
    for (database, change, wanted) in cases {
        let text: &'static str = Box::leak(format!("{BEFORE} {change};").into_boxed_str());
        check(&[(*database, text, wanted)]);
    }
}

#[test]
fn histories_on_postgresql() {
    check_changes(&[
        (PostgreSql, "ALTER TABLE t ADD COLUMN d date NOT NULL", &["t, column d, type = \"date\""]),
        (
            PostgreSql,
            "ALTER TABLE t ADD q_id int UNIQUE REFERENCES q",
            &[
                "t, unique q_id, as = \"constraint\"",
                "t, foreign key q_id, references = [null,\"q\",[\"id\"]]",
            ],
        ),
        (PostgreSql, "ALTER TABLE t DROP COLUMN b", &["!t, column b"]),
        (
            PostgreSql,
            "ALTER TABLE t RENAME COLUMN a TO z",
            &["t, column z, nullable = \"not null\"", "t, check \"z\" > 0, exists = true"],
        ),
        (
            PostgreSql,
            "ALTER TABLE t RENAME COLUMN a TO owner; ALTER TABLE t RENAME COLUMN owner TO enable",
            &["t, column enable, nullable = \"not null\""],
        ),
        (
            PostgreSql,
            "CREATE TABLE v (id int, enable boolean, replica int)",
            &["v, column enable, type = \"boolean\""],
        ),
        (
            PostgreSql,
            "ALTER TABLE t OWNER TO harbour; ALTER TABLE t ENABLE ROW LEVEL SECURITY",
            &["t, column a, type = \"integer\""],
        ),
        (
            PostgreSql,
            "COMMENT ON TABLE t IS 'SEQUENCE NAME x'",
            &["t, comment = \"SEQUENCE NAME x\""],
        ),
        (
            PostgreSql,
            "ALTER TABLE q RENAME TO quays",
            &["quays, key, columns = [\"id\"]", "!q, exists"],
        ),
        (
            PostgreSql,
            "ALTER TABLE t ALTER a DROP NOT NULL, ALTER b TYPE varchar(9), ALTER b DROP DEFAULT",
            &[
                "t, column a, nullable = \"null\"",
                "t, column b, type = \"varchar(9)\"",
                "!t, column b, default",
            ],
        ),
        (
            PostgreSql,
            "ALTER TABLE t ALTER a SET DEFAULT 4",
            &["t, column a, default in the database = {\"literal\":4}"],
        ),
        (
            PostgreSql,
            "ALTER TABLE ONLY public.t ADD CONSTRAINT k PRIMARY KEY (a)",
            &["t, key, columns = [\"a\"]"],
        ),
        (
            PostgreSql,
            "ALTER TABLE t ALTER COLUMN a ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.t_a_seq
    START WITH 1
    CACHE 1
)",
            &["t, column a, identity = \"by-default\""],
        ),
        (PostgreSql, "ALTER TABLE t DROP CONSTRAINT c", &["!t, check"]),
    ]);
}

#[test]
fn histories_on_postgresql_further() {
    check_changes(&[
        (
            PostgreSql,
            "ALTER TABLE t ADD UNIQUE (a); ALTER TABLE t DROP CONSTRAINT t_a_key",
            &["!t, unique"],
        ),
        (PostgreSql, "CREATE INDEX i ON t (a); DROP INDEX i", &["!t, index"]),
        (
            PostgreSql,
            "COMMENT ON COLUMN t.a IS 'depth'; COMMENT ON TABLE t IS NULL",
            &["t, column a, comment = \"depth\""],
        ),
        (
            PostgreSql,
            "CREATE TYPE s AS ENUM ('x'); ALTER TYPE s ADD VALUE 'w' BEFORE 'x'",
            &["enum s, members = [[\"w\",\"w\"],[\"x\",\"x\"]]", "enum s, stored_name = \"s\""],
        ),
        (PostgreSql, "DROP TABLE t", &["!t, exists"]),
        (PostgreSql, "DROP TABLE IF EXISTS gone", &[]),
    ]);
}

#[test]
fn histories_on_mariadb_and_sqlite() {
    check_changes(&[
        (MariaDb, "/*!40000 ALTER TABLE `t` DISABLE KEYS */", &["t, column a, type = \"integer\""]),
        (
            MariaDb,
            "ALTER TABLE t MODIFY b varchar(9) NOT NULL, CHANGE a z bigint",
            &[
                "t, column b, type = \"varchar(9)\"",
                "t, column z, type = \"bigint\"",
                "!t, column a",
            ],
        ),
        (MariaDb, "RENAME TABLE q TO quays", &["quays, key, columns = [\"id\"]"]),
        (
            Sqlite,
            "PRAGMA foreign_keys = ON; BEGIN; INSERT INTO t VALUES (1, 'CREATE TABLE no (x);'); \
             COMMIT",
            &["t, column a, nullable = \"not null\"", "!no, exists"],
        ),
    ]);
}

/// A script, the code that names what is wrong, and how often.
#[test]
fn what_cannot_be_read_is_named_and_costs_no_more() {
    for (text, code, count) in [
        ("CREATE TABEL t (a int);\nCREATE TABLE q (id int);", "unread-statement", 1),
        ("CREATE TABLE t (a int,, b int);\nCREATE TABLE q (id int);", "unread-statement", 1),
        ("ALTER TABLE gone ADD a int;\nCREATE TABLE q (id int);", "impossible-step", 1),
        ("CREATE TABLE q (id int); CREATE TABLE q (id int);", "impossible-step", 1),
        ("CREATE TABLE q (id int); DROP INDEX gone;", "impossible-step", 1),
        ("CREATE TABLE q (id int); ALTER TABLE q DROP CONSTRAINT gone;", "impossible-step", 1),
        ("CREATE TABLE q (id int PRIMARY KEY DEFERRABLE);", "unread-option", 1),
        (
            "CREATE TABLE q (id int); CREATE INDEX i ON q (id NULLS FIRST) WITH (fillfactor = 70);",
            "unread-option",
            2,
        ),
        (
            "CREATE TABLE q (id int PRIMARY KEY, q_id int REFERENCES q MATCH FULL);",
            "unread-option",
            1,
        ),
        (
            "CREATE TABLE q (id int PRIMARY KEY, q_id int REFERENCES q NOT ENFORCED, CHECK (id \
             > 0) NOT ENFORCED);",
            "unread-option",
            2,
        ),
        (
            "CREATE DOMAIN depth AS int CHECK (VALUE > 0);\nCREATE TABLE q (id int);",
            "unread-statement",
            1,
        ),
        ("CREATE TABLE t AS SELECT 1; CREATE TABLE q (id int);", "table-from-query", 1),
        ("CREATE TABLE q (id int); CREATE VIEW v AS SELECT id FROM q;", "views-left-out", 1),
        ("CREATE TABLE q (id int); CREATE TABLE deep (a int) INHERITS (q);", "table-inherits", 1),
        (
            "CREATE TABLE q (id int, day date) PARTITION BY RANGE (day); CREATE TABLE q_a \
             PARTITION OF q DEFAULT;",
            "views-left-out",
            1,
        ),
        ("CREATE TABLE q (id int);\nCREATE TABLE berths (id int, na", "unread-statement", 1),
        (
            "CREATE TABLE q (id int);\nCREATE TABLE t (a text DEFAULT 'never closed);\n",
            "unread-statement",
            1,
        ),
        (
            "CREATE TABLE q (id int);\nCREATE TABLE `t` (`id` int(11) NOT NULL AUTO_INCREMENT) \
             ENGINE=InnoDB;",
            "unread-statement",
            1,
        ),
        (
            "CREATE TABLE q (id int); CREATE TABLE \"a\"\"b\nc\" (\"it's\" int);",
            "unread-statement",
            0,
        ),
        (
            "CREATE TABLE q (id int PRIMARY KEY, p int); CREATE TABLE p (id int PRIMARY KEY, q \
             int REFERENCES q); ALTER TABLE q ADD FOREIGN KEY (p) REFERENCES p;",
            "impossible-step",
            0,
        ),
        ("SELECT 1;", "nothing-declared", 1),
    ] {
        let reading = reading(text, Some(PostgreSql));
        let found = reading.diagnostics.iter().filter(|diagnostic| diagnostic.code == code).count();
        assert_eq!(found, count, "{text}\n{:#?}", reading.diagnostics);
        assert!(
            code == "nothing-declared"
                || reading.schema.entities.iter().any(|entity| entity.table == "q"),
            "{text}"
        );
    }
}

/// A script that is read and printed again says the same, in a named schema too; what is not
/// written is told.
#[test]
fn scripts_are_written_back() {
    let text = "CREATE SCHEMA yard; CREATE TABLE yard.q (id int, CONSTRAINT k PRIMARY KEY \
                (id)); COMMENT ON TABLE yard.q IS 'quays';CREATE TABLE yard.t (q_id int NOT \
                NULL); CREATE INDEX i ON yard.t (q_id);ALTER TABLE yard.t ADD CONSTRAINT f \
                FOREIGN KEY (q_id) REFERENCES yard.q (id) ON DELETE CASCADE;";
    let settings = Settings { database: Some(PostgreSql), ..Settings::default() };
    let sql = by_id("sql").expect("a dialect");
    let fitted = fit(&reading(text, Some(PostgreSql)).schema, sql, &settings);
    assert_eq!(fitted.changes, []);
    let printed = printed(sql, &fitted.schema, &(sql.conventions)(&settings)).remove(0).text;
    for line in [
        "CREATE SCHEMA IF NOT EXISTS \"yard\";",
        "CREATE TABLE \"yard\".\"q\" (",
        "    CONSTRAINT \"k\" PRIMARY KEY (\"id\")",
        "COMMENT ON TABLE \"yard\".\"q\" IS 'quays';",
        "CREATE INDEX \"i\" ON \"yard\".\"t\" (\"q_id\");",
        "ALTER TABLE \"yard\".\"t\" ADD CONSTRAINT \"f\" FOREIGN KEY (\"q_id\") REFERENCES \
         \"yard\".\"q\" (\"id\") ON DELETE CASCADE;",
    ] {
        assert!(printed.lines().any(|known| known == line), "{line}\n{printed}");
    }
    assert_eq!(facts(&reading(&printed, Some(PostgreSql)).schema), facts(&fitted.schema));
    let charset =
        reading("CREATE TABLE t (a varchar(4) CHARACTER SET utf8mb4)", Some(MySql)).schema;
    let lost =
        fit(&charset, sql, &Settings { database: Some(MySql), ..Settings::default() }).changes;
    assert_eq!(
        lost.iter().map(|loss| loss.reason.as_str()).collect::<Vec<_>>(),
        ["`character set` is not written into a script"]
    );
}

#[test]
fn a_script_shows_its_server() {
    for (text, database) in [
        ("CREATE TABLE t (a serial)", PostgreSql),
        ("CREATE TABLE t (a int AUTO_INCREMENT)", MariaDb),
        ("CREATE TABLE t (a integer PRIMARY KEY AUTOINCREMENT)", Sqlite),
        ("-- MySQL dump 10.13\nCREATE TABLE t (a int)", MySql),
        ("CREATE TABLE t (a int)", PostgreSql),
    ] {
        assert_eq!(reading(text, None).schema.source.database, database, "{text}");
    }
}

/// A step, and how PostgreSQL and MariaDB are told it.
type Told = (Operation, &'static str, &'static str);

fn owned(name: &str) -> String {
    name.to_owned()
}

/// The same enumeration with one more member.
fn more_sides(sides: &EnumType) -> EnumType {
    let aft = EnumMember { name: owned("aft"), value: "aft".into(), ..EnumMember::default() };
    let mut more = sides.clone();
    more.members.push(aft);
    more
}

fn steps_of_tables(schema: &Schema, entity: &Entity) -> Vec<Told> {
    let field = Box::new(entity.fields[1].clone());
    vec![
        (
            Operation::CreateEnum(schema.enums[0].clone()),
            "CREATE TYPE \"side\" AS ENUM ('port', 'star');",
            "",
        ),
        (
            Operation::AlterEnum {
                from: Box::new(schema.enums[0].clone()),
                to: Box::new(more_sides(&schema.enums[0])),
            },
            "ALTER TYPE \"side\" ADD VALUE 'aft' AFTER 'star';",
            "",
        ),
        (Operation::DropEnum { name: "side".into() }, "DROP TYPE \"side\";", "DROP TYPE `side`;"),
        (Operation::DropTable { table: owned("t") }, "DROP TABLE \"t\";", "DROP TABLE `t`;"),
        (
            Operation::RenameTable { table: owned("t"), to: "u".into() },
            "ALTER TABLE \"t\" RENAME TO \"u\";",
            "ALTER TABLE `t` RENAME TO `u`;",
        ),
        (
            Operation::AddColumn { table: owned("t"), field: field.clone() },
            "ALTER TABLE \"t\" ADD COLUMN \"a\" character varying(4) DEFAULT 'x' NOT NULL;",
            "ALTER TABLE `t` ADD COLUMN `a` varchar(4) DEFAULT 'x' NOT NULL;",
        ),
        (
            Operation::AlterColumn { table: owned("t"), column: owned("a"), field },
            "ALTER TABLE \"t\" ALTER COLUMN \"a\" TYPE character varying(4), ALTER COLUMN \"a\" \
             SET NOT NULL, ALTER COLUMN \"a\" SET DEFAULT 'x';",
            "ALTER TABLE `t` MODIFY COLUMN `a` varchar(4) DEFAULT 'x' NOT NULL;",
        ),
        (
            Operation::RenameColumn { table: owned("t"), column: owned("a"), to: "z".into() },
            "ALTER TABLE \"t\" RENAME COLUMN \"a\" TO \"z\";",
            "ALTER TABLE `t` RENAME COLUMN `a` TO `z`;",
        ),
        (
            Operation::DropColumn { table: owned("t"), column: owned("a") },
            "ALTER TABLE \"t\" DROP COLUMN \"a\";",
            "ALTER TABLE `t` DROP COLUMN `a`;",
        ),
    ]
}

fn steps_of_constraints(entity: &Entity) -> Vec<Told> {
    let (unique, index) = (entity.uniques[0].clone(), entity.indexes[0].clone());
    let (key, check) = (entity.foreign_keys[0].clone(), entity.checks[0].clone());
    vec![
        (
            Operation::AddUnique { table: owned("t"), unique: unique.clone() },
            "ALTER TABLE \"t\" ADD UNIQUE (\"a\");",
            "ALTER TABLE `t` ADD UNIQUE (`a`);",
        ),
        (
            Operation::DropUnique { table: owned("t"), unique },
            "ALTER TABLE \"t\" DROP CONSTRAINT \"t_a_key\";",
            "ALTER TABLE `t` DROP CONSTRAINT `t_a_key`;",
        ),
        (
            Operation::AddIndex { table: owned("t"), index: index.clone() },
            "CREATE INDEX \"i\" ON \"t\" (\"a\" DESC);",
            "CREATE INDEX `i` ON `t` (`a` DESC);",
        ),
        (
            Operation::DropIndex { table: owned("t"), index },
            "DROP INDEX \"i\";",
            "DROP INDEX `i` ON `t`;",
        ),
        (
            Operation::AddForeignKey { table: owned("t"), key: key.clone() },
            "ALTER TABLE \"t\" ADD FOREIGN KEY (\"q_id\") REFERENCES \"q\" (\"id\") ON DELETE \
             CASCADE;",
            "ALTER TABLE `t` ADD FOREIGN KEY (`q_id`) REFERENCES `q` (`id`) ON DELETE CASCADE;",
        ),
        (
            Operation::DropForeignKey { table: owned("t"), key },
            "ALTER TABLE \"t\" DROP CONSTRAINT \"t_q_id_fkey\";",
            "ALTER TABLE `t` DROP CONSTRAINT `t_q_id_fkey`;",
        ),
        (
            Operation::AddCheck { table: owned("t"), check: check.clone() },
            "ALTER TABLE \"t\" ADD CONSTRAINT \"c\" CHECK (\"a\" <> 'y');",
            "ALTER TABLE `t` ADD CONSTRAINT `c` CHECK (`a` <> 'y');",
        ),
        (
            Operation::DropCheck { table: owned("t"), check },
            "ALTER TABLE \"t\" DROP CONSTRAINT \"c\";",
            "ALTER TABLE `t` DROP CONSTRAINT `c`;",
        ),
        (
            Operation::SetKey { table: owned("t"), key: None },
            "ALTER TABLE \"t\" DROP CONSTRAINT \"t_pkey\";",
            "ALTER TABLE `t` DROP PRIMARY KEY;",
        ),
        (
            Operation::SetKey { table: owned("t"), key: entity.primary_key.clone() },
            "ALTER TABLE \"t\" ADD PRIMARY KEY (\"id\");",
            "ALTER TABLE `t` ADD PRIMARY KEY (`id`);",
        ),
        (
            Operation::Comment {
                table: owned("t"),
                column: Some(owned("a")),
                text: Some("it's".into()),
            },
            "COMMENT ON COLUMN \"t\".\"a\" IS 'it''s';",
            "",
        ),
    ]
}

/// Every step of a history as each server is told it.
#[test]
fn steps_as_statements() {
    let schema = reading(
        "CREATE TYPE side AS ENUM ('port', 'star'); CREATE TABLE q (id int PRIMARY KEY);CREATE \
         TABLE t (id serial PRIMARY KEY, a varchar(4) DEFAULT 'x' NOT NULL, b side, q_id int \
         REFERENCES q ON DELETE CASCADE,UNIQUE (a), CONSTRAINT c CHECK (a <> 'y')); CREATE \
         INDEX i ON t (a DESC)",
        Some(PostgreSql),
    )
    .schema;
    let entity = schema.entities.iter().find(|entity| entity.table == "t").expect("a table");
    let steps = steps_of_tables(&schema, entity).into_iter().chain(steps_of_constraints(entity));
    for (step, postgresql, mariadb) in steps {
        assert_eq!(statement(&step, entity, &schema, PostgreSql), postgresql);
        assert_eq!(statement(&step, entity, &schema, MariaDb), mariadb);
    }
}
