//! The loss report between servers: what does not differ is not told, and what differs is told
//! once.

use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::suit;
use sprachbund_core::fit::{Fitted, fit};
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database::{self, MariaDb, MySql, PostgreSql, Sqlite};
use sprachbund_core::schema::Schema;
use sprachbund_core::source::NoFiles;

fn dialect(id: &str) -> &'static Dialect {
    by_id(id).expect("a dialect")
}

fn schema(id: &str, server: Database, text: &str) -> Schema {
    let mut settings = Settings { database: Some(server), ..Settings::default() };
    let path = format!("harbour/models.{}", dialect(id).extensions[0]);
    read(vec![(path, text.to_owned())], dialect(id), &mut settings, &NoFiles).schema
}

/// What comes of a text of one dialect and server on another: the report, and the text that is
/// emitted.
fn carried(from: (&str, Database, &str), to: (&str, Database)) -> (Fitted, String) {
    let schema = schema(from.0, from.1, from.2);
    let mut settings = Settings { database: Some(to.1), ..Settings::default() };
    suit(&schema, dialect(to.0), &mut settings);
    let fitted = fit(&schema, dialect(to.0), &settings);
    let files = printed(dialect(to.0), &fitted.schema, &(dialect(to.0).conventions)(&settings));
    (fitted, files.into_iter().map(|file| file.text).collect())
}

fn told(fitted: &Fitted) -> Vec<String> {
    fitted
        .changes
        .iter()
        .map(|change| {
            format!("{} {}: {}", change.grade.word(), change.reason, change.elements.join(", "))
        })
        .collect()
}

const DJANGO: &str = "from django.db import models\n\n\nclass Quay(models.Model):\n    ";

#[test]
fn what_does_not_differ_between_servers_is_not_told() {
    let cases = [
        ("opened_at = models.DateTimeField()", PostgreSql, MariaDb),
        ("opened_at = models.DateTimeField()", MariaDb, PostgreSql),
        (
            "depth = models.IntegerField()\n    name = models.CharField(max_length=9)",
            PostgreSql,
            Sqlite,
        ),
        ("depth = models.IntegerField()\n    name = models.TextField()", MySql, Sqlite),
        ("name = models.CharField(max_length=9, unique=True)", MariaDb, MySql),
    ];
    for (field, from, to) in cases {
        let text = format!("{DJANGO}{field}\n");
        let (fitted, _) = carried(("django", from, &text), ("django", to));
        let own: Vec<String> =
            told(&fitted).into_iter().filter(|line| !line.contains("Quay.id")).collect();
        assert_eq!(own, [] as [&str; 0], "{field} from {} to {}", from.title(), to.title());
    }
}

/// On MariaDB and MySQL TypeORM gives a unique constraint and an index over one column the same
/// name.
#[test]
fn an_index_beside_a_unique_column_is_named_where_it_must_be() {
    let text = "import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
@Entity()
@Index(['name'])
export class Quay {
  @PrimaryColumn()
  id!: number;
  @Column({ length: 9, unique: true })
  name!: string;
}
";
    for (server, named) in [(MariaDb, true), (MySql, true), (PostgreSql, false)] {
        let (fitted, emitted) = carried(("typeorm", PostgreSql, text), ("typeorm", server));
        assert_eq!(emitted.contains("@Index('"), named, "{}: {emitted}", server.title());
        let line = "added a second index over the same columns must have a name of its own: \
                    Quay: index name"
            .to_owned();
        assert_eq!(told(&fitted).contains(&line), named, "{:?}", told(&fitted));
    }
}

/// Options of one dialect are called as the schema's own facts are, and are none of them.
#[test]
fn options_of_any_name_are_written_back() {
    let text = "import { Entity, ManyToOne, PrimaryColumn } from 'typeorm';\n@Entity()\n\
                export class Quay {\n  @PrimaryColumn()\n  id!: number;\n  @ManyToOne(() => \
                Quay, \
                { inverse: 5, other: 6, symmetrical: 7, required_on_input: 8, through_fields: 9 } \
                as any)\n  beside!: Quay;\n}\n";
    let (fitted, emitted) = carried(("typeorm", PostgreSql, text), ("typeorm", PostgreSql));
    assert_eq!(told(&fitted), [] as [&str; 0]);
    for option in
        ["inverse: 5", "other: 6", "symmetrical: 7", "required_on_input: 8", "through_fields: 9"]
    {
        assert!(emitted.contains(option), "{option} is lost\n{emitted}");
    }
}

/// A constraint that is there twice is a fact, so that losing one of them is told.
#[test]
fn what_is_there_twice_is_told_when_one_goes() {
    let text = "CREATE TABLE quays (id int PRIMARY KEY, name varchar(9) NOT NULL UNIQUE, \
                CONSTRAINT once UNIQUE (name));";
    let (fitted, _) = carried(("sql", MariaDb, text), ("typeorm", MariaDb));
    let line =
        "respelled TypeORM makes one unique constraint over the same columns, not two: Quay (name)"
            .to_owned();
    assert!(told(&fitted).contains(&line), "{:?}", told(&fitted));
}

#[test]
fn each_change_says_what_was_done_and_what_is_left_to_do() {
    let text = format!("{DJANGO}mail = models.EmailField()\n");
    let (fitted, _) = carried(("django", PostgreSql, &text), ("typeorm", PostgreSql));
    let format = fitted
        .changes
        .iter()
        .find(|change| change.reason.contains("text formats"))
        .expect("a change");
    assert_eq!(
        (format.result.as_str(), format.to_do.as_str()),
        ("any text is taken", "check them where input is validated")
    );
    assert_eq!(format.elements, ["Quay.mail"]);
    let facts: Vec<String> = format.facts.iter().map(ToString::to_string).collect();
    assert_eq!(facts, ["harbour_quay, column mail, format"]);
}

/// What the target refuses is told although nothing of it differs.
#[test]
fn a_class_without_a_key_is_refused() {
    let text = "CREATE TABLE soundings (depth int, taken_at timestamp);";
    let (fitted, _) = carried(("sql", PostgreSql, text), ("typeorm", PostgreSql));
    let refused: Vec<&str> = fitted.refused.iter().map(|change| change.to_do.as_str()).collect();
    assert_eq!(refused, ["declare the columns that identify a record"]);
}
