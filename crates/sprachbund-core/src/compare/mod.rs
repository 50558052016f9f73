//! How two schemas differ, whatever they were written in: what is only on one side, what is
//! different, how much it matters, and what to do.
//!
//! Both sides are brought to what can be compared ([`normal`]), their tables and columns are paired
//! ([`pair`]), and each fact that is left is weighed by one table ([`weigh`]).

mod normal;
mod pair;
mod weigh;

use std::collections::{HashMap, HashSet};

use serde::Serialize;
use serde_json::Value;

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Capabilities;
use crate::schema::facts::{FactKey, differences, namesakes};
use crate::schema::{Database, Schema};
use crate::source::{FileId, Sources, Span};

pub use weigh::CODES;

/// One side of a comparison.
pub struct Side<'s> {
    pub schema: &'s Schema,
    /// What its dialect can say: nobody is blamed for what they cannot say.
    pub capabilities: &'s Capabilities,
}

/// One difference.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Divergence {
    /// One of [`CODES`].
    pub code: &'static str,
    #[serde(serialize_with = "severity_word")]
    pub severity: Severity,
    pub table: String,
    /// `column berth_id`, `index berth_id`, ...; empty for the table itself.
    pub element: String,
    pub aspect: String,
    pub left: Option<Value>,
    pub right: Option<Value>,
    pub message: String,
    pub advice: String,
    #[serde(skip)]
    left_place: Option<Span>,
    #[serde(skip)]
    right_place: Option<Span>,
}

fn severity_word<S: serde::Serializer>(
    severity: &Severity,
    serializer: S,
) -> Result<S::Ok, S::Error> {
    serializer.serialize_str(severity.word())
}

/// What a comparison found.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Comparison {
    /// In the order of tables, columns first.
    pub found: Vec<Divergence>,
    /// Facts that are only spelt differently on this server.
    pub spelling: usize,
    /// Expressions that differ as texts and whose meaning is not known.
    pub unknown: usize,
}

/// Compares two schemas as the server `database` holds them.
pub fn compare(left: &Side<'_>, right: &Side<'_>, database: Database) -> Comparison {
    let several: HashSet<String> = namesakes(left.schema)
        .union(&namesakes(right.schema))
        .map(|name| (*name).to_owned())
        .collect();
    // Tables are told apart by their names from here on: where two named schemas have one of the
    // same name, the schema becomes part of it.
    if !several.is_empty() {
        let (one, two) =
            (normal::by_address(left.schema, &several), normal::by_address(right.schema, &several));
        return compare(
            &Side { schema: &one, ..*left },
            &Side { schema: &two, ..*right },
            database,
        );
    }
    let mut comparison = Comparison::default();
    // Names first: a table or column that was renamed is told once, and nothing else differs
    // because of it.
    let pairs = pair::tables(left.schema, right.schema);
    let (mut left_schema, mut right_schema) = (left.schema.clone(), right.schema.clone());
    pair::rename(&mut right_schema, &pairs);
    let places = weigh::Places::of(left.schema, right.schema);
    comparison.found.extend(
        pairs
            .iter()
            .filter(|pair| pair.left != pair.right)
            .map(|pair| weigh::table_name(pair, &places)),
    );
    for renamed in pair::columns(&left_schema, &mut right_schema, &pairs) {
        comparison.found.push(weigh::column_name(&renamed, &places));
    }
    let shared = weigh::shared(left.capabilities, right.capabilities);
    let words = normal::Words::of(&left_schema, &right_schema, database);
    comparison.spelling += words.spelling;
    normal::bring(&mut left_schema, &words, &shared);
    normal::bring(&mut right_schema, &words, &shared);
    comparison.unknown += normal::set_unknown_aside(&mut left_schema, &mut right_schema);
    let found: Vec<(FactKey, Option<Value>, Option<Value>)> =
        differences(&left_schema, &right_schema)
            .into_iter()
            .filter(|difference| shared.counts(&difference.key))
            .map(|difference| (difference.key, difference.left, difference.right))
            .collect();
    comparison.found.extend(weigh::weigh(found, &left_schema, &right_schema));
    // What may be the same is only a hint, so it is looked for among what is still one-sided.
    pair::suggest(&mut comparison.found, &left_schema, &right_schema);
    let mut order: HashMap<&str, usize> = HashMap::new();
    for (at, entity) in left_schema.entities.iter().chain(&right_schema.entities).enumerate() {
        order.entry(&entity.table).or_insert(at);
    }
    comparison.found.sort_by_key(|found| order.get(found.table.as_str()).copied());
    comparison
}

/// The sources of both sides as one; files of the right side come after those of the left.
pub fn joined(left: Sources, right: Sources) -> Sources {
    Sources { files: left.files.into_iter().chain(right.files).collect() }
}

impl Divergence {
    /// As a diagnostic over the joined sources; `shift` is the number of files of the left side.
    pub fn diagnostic(&self, shift: usize) -> Diagnostic {
        let moved = |span: Span| Span { file: FileId(span.file.0 + shift as u32), ..span };
        let mut diagnostic = Diagnostic::new(self.code, self.severity, self.message.clone())
            .with_help(self.advice.clone());
        match (self.left_place, self.right_place.map(moved)) {
            (Some(left), right) => {
                diagnostic = diagnostic.at(Some(left), "left").and_at(right, "right")
            }
            (None, right) => diagnostic = diagnostic.at(right, "right"),
        }
        diagnostic
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::dialect::Settings;
    use crate::dialects::by_id;
    use crate::reading::read;
    use crate::source::NoFiles;

    fn side(dialect: &str, text: &str, database: Database) -> (Schema, Capabilities) {
        let dialect = by_id(dialect).expect("a dialect");
        let mut settings = Settings {
            database: Some(database),
            default_module: Some("harbour".into()),
            ..Settings::default()
        };
        let schema = read(
            vec![(format!("harbour/models.{}", dialect.extensions[0]), text.to_owned())],
            dialect,
            &mut settings,
            &NoFiles,
        )
        .schema;
        (schema, (dialect.capabilities)(&settings))
    }

    fn lines(left: (&str, &str), right: (&str, &str), database: Database) -> Vec<String> {
        let (left, right) = (side(left.0, left.1, database), side(right.0, right.1, database));
        let left = Side { schema: &left.0, capabilities: &left.1 };
        let comparison =
            compare(&left, &Side { schema: &right.0, capabilities: &right.1 }, database);
        comparison
            .found
            .iter()
            .map(|found| format!("{} {}: {}", found.severity.word(), found.code, found.message))
            .collect()
    }

    const QUAYS: &str = "CREATE TABLE quays (id serial PRIMARY KEY, name varchar(40) NOT NULL, \
                         depth numeric(5,2) DEFAULT 9.5);";

    #[test]
    fn the_order_of_indexes_over_the_same_keys_does_not_count() {
        let [hash, brin] = ["hash", "brin"]
            .map(|method| format!("CREATE INDEX by_{method} ON quays USING {method} (depth);"));
        let (left, right) = (format!("{QUAYS}{hash}{brin}"), format!("{QUAYS}{brin}{hash}"));
        assert_eq!(
            lines(("sql", &left), ("sql", &right), Database::PostgreSql),
            Vec::<String>::new()
        );
    }

    #[test]
    fn truth_needs_no_comparison() {
        let under = |condition: &str| {
            format!(
                "{QUAYS}ALTER TABLE quays ADD open boolean; CREATE UNIQUE INDEX ON quays (name) \
                 WHERE {condition};"
            )
        };
        for (one, other) in [("open", "open = true"), ("NOT open", "open = false")] {
            assert_eq!(
                lines(("sql", &under(one)), ("sql", &under(other)), Database::PostgreSql),
                Vec::<String>::new()
            );
        }
        assert_eq!(
            lines(("sql", &under("open")), ("sql", &under("open = false")), Database::PostgreSql)
                .len(),
            2
        );
    }

    /// A part of the tables, what stands there on the right, and what differs then.
    const CHANGES: &[(&str, &str, &[&str])] = &[
        ("varchar(40)", "varchar(40)", &[]),
        ("varchar(40)", "character varying(40)", &[]),
        (
            "varchar(40)",
            "varchar(60)",
            &["warning type-differs: `quays.name` is varchar(40) on the left, varchar(60) on \
               the right"],
        ),
        (
            "varchar(40) NOT NULL",
            "varchar(40)",
            &["error null-differs: `quays.name` must have a value on the left, may be null on \
               the right"],
        ),
        (
            "DEFAULT 9.5",
            "",
            &["warning default-differs: `quays.depth` has the default 9.5 on the left, none on \
               the right"],
        ),
        ("DEFAULT 9.5", "DEFAULT '9.5'", &[]),
        (
            "DEFAULT 9.5",
            "DEFAULT 9.5, more text",
            &["error column-one-sided: the column `quays.more` is only on the right"],
        ),
        (
            "name varchar(40) NOT NULL",
            "title varchar(40) NOT NULL",
            &[
                "error column-one-sided: the column `quays.name` is only on the left",
                "error column-one-sided: the column `quays.title` is only on the right",
            ],
        ),
        (
            "serial",
            "bigserial",
            &["warning type-differs: `quays.id` is integer on the left, bigint on the right"],
        ),
        (
            "serial",
            "int GENERATED BY DEFAULT AS IDENTITY",
            &["note numbering-differs: `quays.id` is numbered from a sequence on the left, as \
               an identity on the right"],
        ),
        (
            "quays",
            "piers",
            &[
                "error table-one-sided: the table `quays` is only on the left",
                "error table-one-sided: the table `piers` is only on the right",
            ],
        ),
        (
            ");",
            ", CHECK (depth > 0));",
            &["warning check-one-sided: the check `\"depth\" > 0` of `quays` is only on the \
               right"],
        ),
        (
            ");",
            ", UNIQUE (name));",
            &["warning unique-one-sided: unique values of `name` in `quays` are asked for only \
               on the right"],
        ),
        (
            ");",
            "); CREATE INDEX ON quays (depth);",
            &["note index-one-sided: an index over `depth` of `quays` is only on the right"],
        ),
        (
            ");",
            "); COMMENT ON TABLE quays IS 'where ships lie';",
            &["note comment-differs: `quays` has no comment on the left, \"where ships lie\" on \
               the right"],
        ),
    ];

    #[test]
    fn one_change_is_one_difference() {
        for (from, to, expected) in CHANGES {
            let changed = QUAYS.replace(from, to);
            assert_eq!(
                lines(("sql", QUAYS), ("sql", &changed), Database::PostgreSql),
                *expected,
                "{changed}"
            );
        }
    }

    #[test]
    fn what_may_have_been_renamed_is_said_with_the_evidence() {
        for (from, to, evidence) in [
            (
                "name varchar(40) NOT NULL",
                "names varchar(40) NOT NULL",
                "it may be `names` under another name: both are varchar(40) and not null",
            ),
            (
                "TABLE quays",
                "TABLE piers",
                "it may be `piers` under another name: 100 % of the columns are the same",
            ),
        ] {
            let (left, right) = (
                side("sql", QUAYS, Database::PostgreSql),
                side("sql", &QUAYS.replace(from, to), Database::PostgreSql),
            );
            let left = Side { schema: &left.0, capabilities: &left.1 };
            let comparison = compare(
                &left,
                &Side { schema: &right.0, capabilities: &right.1 },
                Database::PostgreSql,
            );
            assert!(
                comparison.found[0].advice.starts_with(evidence),
                "{}",
                comparison.found[0].advice
            );
        }
    }

    #[test]
    fn declarations_of_two_frameworks_are_compared_by_what_both_can_say() {
        let django = "from django.db import models


class Quay(models.Model):
    quay_name = models.CharField(max_length=40, default='x')
    class Meta:
        db_table = 'quays'
";
        let typeorm = "@Entity('quays')
export class Quay {
  @PrimaryGeneratedColumn('identity', { type: 'bigint' }) id!: string;
  @Column({ name: 'quay_name', length: 40 }) quayName: string = 'x';
}
";
        let cases: &[(&str, &str, &[&str])] = &[
            ("", "", &[]),
            (
                "= 'x'",
                "= 'y'",
                &["warning default-differs: `quays.quay_name` has the default of the \
                   application 'x' on the left, 'y' on the right"],
            ),
            (
                "length: 40",
                "length: 40, default: 'x'",
                &["warning who-fills-in: the default of `quays.quay_name` is the database's on \
                   the right, the application's on the left"],
            ),
            (
                "@Entity('quays')",
                "@Entity('quay')",
                &["error table-name-differs: the class `Quay` has the table `quays` on the \
                   left, `Quay` the table `quay` on the right"],
            ),
        ];
        for (from, to, expected) in cases {
            let found = lines(
                ("django", django),
                ("typeorm", &typeorm.replace(from, to)),
                Database::PostgreSql,
            );
            assert_eq!(found, *expected, "{to}");
        }
    }

    const TWO: &str = "CREATE TABLE q (id int PRIMARY KEY); CREATE TABLE p (id int PRIMARY \
                       KEY); CREATE TABLE t (id int PRIMARY KEY, q_id int REFERENCES q (id), a \
                       int)";

    /// The kind of a difference, statements, a part of them, and what stands there on the right.
    const OF_STATEMENTS: &[(&str, &str, &str, &str)] = &[
        ("schema-differs", "CREATE TABLE a.t (x int)", "a.t", "b.t"),
        ("table-one-sided", TWO, "CREATE TABLE p (id int PRIMARY KEY);", ""),
        (
            "key-differs",
            "CREATE TABLE t (a int PRIMARY KEY, b int NOT NULL)",
            "a int PRIMARY KEY, b int NOT NULL",
            "a int NOT NULL, b int PRIMARY KEY",
        ),
        ("name-differs", "CREATE TABLE t (a int, CONSTRAINT one UNIQUE (a))", "one", "two"),
        ("collation-differs", "CREATE TABLE t (a text COLLATE \"C\")", "\"C\"", "\"de_DE\""),
        (
            "generated-differs",
            "CREATE TABLE t (a int, b int GENERATED ALWAYS AS (a * 2) STORED)",
            "a * 2",
            "a * 3",
        ),
        ("checked-elsewhen", "CREATE TABLE t (a int, UNIQUE (a) DEFERRABLE)", " DEFERRABLE", ""),
        (
            "unique-differs",
            "CREATE TABLE t (a int, UNIQUE NULLS NOT DISTINCT (a))",
            " NULLS NOT DISTINCT",
            "",
        ),
        (
            "index-differs",
            "CREATE TABLE t (a int); CREATE INDEX i ON t USING hash (a)",
            " USING hash",
            "",
        ),
        (
            "exclusion-one-sided",
            "CREATE TABLE t (a int, EXCLUDE USING gist (a WITH =))",
            ", EXCLUDE USING gist (a WITH =)",
            "",
        ),
        ("reference-differs", TWO, "REFERENCES q (id)", "REFERENCES p (id)"),
        ("reference-one-sided", TWO, "REFERENCES q (id)", ""),
        ("deletion-differs", TWO, "REFERENCES q (id)", "REFERENCES q (id) ON DELETE CASCADE"),
        ("column-name-differs", TWO, "q_id int", "quay int"),
    ];

    const DJANGO: &str = "from django.db import models


class T(models.Model):
    a = models.CharField(max_length=4, choices=[('x', 'X')])
    up = models.ForeignKey('self', models.CASCADE, related_name='+')
    class Meta:
        ordering = ['a']
";

    const TYPEORM: &str = "@Entity()
export class T {
  @PrimaryColumn() id!: number;
  @Column({ length: 4 }) a!: string;
  @OneToOne(() => T) @JoinColumn() up!: T;
}
";

    /// The same of declarations, with their dialect.
    const OF_DECLARATIONS: &[(&str, &str, &str, &str, &str)] = &[
        ("choices-differ", "django", DJANGO, "('x', 'X')", "('y', 'Y')"),
        ("input-differs", "django", DJANGO, "max_length=4", "max_length=4, blank=True"),
        ("order-differs", "django", DJANGO, "['a']", "['-a']"),
        (
            "name-differs",
            "django",
            DJANGO,
            "    a = models.CharField(max_length=4",
            "    b = models.CharField(max_length=4, db_column='a'",
        ),
        ("code-type-differs", "typeorm", TYPEORM, "a!: string", "a?: string"),
        ("relation-differs", "typeorm", TYPEORM, "@OneToOne", "@ManyToOne"),
    ];

    /// A statement of a table, another of it, and the kinds of differences between them.
    #[test]
    fn every_kind_of_difference_is_found() {
        let codes = |dialect: &str, text: &str, from: &str, to: &str| -> Vec<&'static str> {
            let (left, right) = (
                side(dialect, text, Database::PostgreSql),
                side(dialect, &text.replace(from, to), Database::PostgreSql),
            );
            let left = Side { schema: &left.0, capabilities: &left.1 };
            let comparison = compare(
                &left,
                &Side { schema: &right.0, capabilities: &right.1 },
                Database::PostgreSql,
            );
            comparison.found.iter().map(|found| found.code).collect()
        };
        for (code, text, from, to) in OF_STATEMENTS {
            let found = codes("sql", text, from, to);
            assert!(found.contains(code), "{code} in {found:?} of {text}");
        }
        for (code, dialect, text, from, to) in OF_DECLARATIONS {
            let found = codes(dialect, text, from, to);
            assert!(found.contains(code), "{code} in {found:?} of {text}");
        }
        // The others have cases above.
        let told = [
            "table-name-differs",
            "type-differs",
            "null-differs",
            "default-differs",
            "column-one-sided",
            "numbering-differs",
            "check-one-sided",
            "unique-one-sided",
            "index-one-sided",
            "comment-differs",
            "who-fills-in",
            "who-acts",
        ];
        let tested: Vec<&str> = OF_STATEMENTS
            .iter()
            .map(|case| case.0)
            .chain(OF_DECLARATIONS.iter().map(|case| case.0))
            .chain(told)
            .collect();
        let untested: Vec<&str> =
            CODES.iter().map(|code| code.name).filter(|name| !tested.contains(name)).collect();
        assert_eq!(untested, [""; 0]);
        assert!(CODES.is_sorted_by_key(|code| code.name));
    }

    #[test]
    fn what_the_application_does_on_one_side_the_database_does_on_the_other() {
        let django = "from django.db import models


class T(models.Model):
    up = models.ForeignKey('self', models.CASCADE, null=True, db_index=False, related_name='+')
    class Meta:
        db_table = 't'
";
        let sql = "CREATE TABLE t (id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, up_id \
                   bigint REFERENCES t ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED)";
        assert_eq!(
            lines(("django", django), ("sql", sql), Database::PostgreSql),
            ["note who-acts: on deletion, for `up_id` of `t`, the application acts on the left, \
              the database (cascade) on the right"]
        );
    }
}
