//! How single constructs cross into the other dialect: what is written, what is emitted, and what
//! the account says. Of what is emitted, the lines that no other construct would change are left
//! out, and so is what every crossing loses.

mod django;
mod mariadb;
mod mongoose;
mod postgresql;
mod prisma;
mod scripts;
mod sequelize;
mod sqlalchemy;
mod sqlite;

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::fit::suit;
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database;
use sprachbund_core::source::NoFiles;

/// What is written, what is emitted, the losses.
type Crossing = (&'static str, &'static str, &'static str);

/// Lines around every construct.
const FRAME: &[&str] = &[
    "",
    "@Entity('harbour_t')",
    "@PrimaryGeneratedColumn('identity')",
    "@PrimaryGeneratedColumn()",
    "class Meta:",
    "class T(Base):",
    "class T(models.Model):",
    "__tablename__ = \"harbour_t\"",
    "id: Mapped[int] = mapped_column(sa.Identity(), primary_key=True)",
    "db_table = \"t\"",
    "export class T {",
    "id = models.AutoField(primary_key=True)",
    "id!: number;",
    "}",
    "model T {",
    "id Int @id @default(autoincrement())",
    "@@map(\"harbour_t\")",
    "export class T extends Model<InferAttributes<T>, InferCreationAttributes<T>> {",
    "declare id: CreationOptional<number>;",
    "static declareIn(sequelize: Sequelize): void {",
    "T.init(",
    "{",
    "id: { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true },",
    "id: {",
    "type: DataTypes.INTEGER,",
    "autoIncrement: true,",
    "autoIncrementIdentity: true,",
    "primaryKey: true,",
    "},",
    "{ sequelize, tableName: 'harbour_t', timestamps: false },",
    "export const tSchema = new Schema({",
    "_id: Schema.Types.Int32,",
    "}, { versionKey: false });",
    "export const T = model('T', tSchema, 'harbour_t');",
    "_id = models.CharField(max_length=24, primary_key=True, blank=True)",
    ");",
];

/// What any crossing between the two loses.
const ALWAYS: &[&str] = &[
    "dropped: Prisma does not validate input",
    "dropped: SQLAlchemy does not validate input",
    "dropped: Sequelize does not validate input",
    "dropped: TypeORM does not validate input",
    "added: the type in the code also says what may be missing",
    "dropped: types of Django attributes do not say what may be missing",
    "added: Django also says what input must give",
    "respelled: the key's numbers come from another kind of counter",
    "dropped: MongoDB numbers nothing",
    "added: the application alone says what must be given",
    "respelled: MongoDB keeps documents",
    "respelled: MongoDB has other types",
    "respelled: the key of a document is `_id`",
    "respelled: documents become rows",
    "dropped: the default `() => new Types.ObjectId()` is code of the source's language",
];

/// The release in which a dialect is read and written where none is named behind it.
const RELEASES: &[(&str, &str)] =
    &[("django", "5.2"), ("mongoose", "8"), ("sqlalchemy", "2.0"), ("typeorm", "0.3")];

/// A dialect as `django@4.2`, and its release.
fn released(named: &str) -> (&str, Option<String>) {
    let known = || RELEASES.iter().find(|(dialect, _)| *dialect == named);
    match named.split_once('@') {
        Some((dialect, release)) => (dialect, Some(release.to_owned())),
        None => (named, known().map(|(_, release)| (*release).to_owned())),
    }
}

fn cross(from: &str, to: &str, text: String, database: Database) -> (String, String) {
    let (to, release) = released(to);
    let (from, read_in) = released(from);
    let (from, to) = (by_id(from).expect("a dialect"), by_id(to).expect("a dialect"));
    let mut settings =
        Settings { database: Some(database), version: read_in, ..Settings::default() };
    let target = Settings { database: Some(to.database(Some(database))), ..Settings::default() };
    let schema = read(
        vec![(format!("harbour/models.{}", from.extensions[0]), text)],
        from,
        &mut settings,
        &NoFiles,
    )
    .schema;
    let mut settings =
        if from.keeps_documents() != to.keeps_documents() { target } else { settings };
    settings.version = release;
    suit(&schema, to, &mut settings);
    let fitted = fit(&schema, to, &settings);
    let conventions = (to.conventions)(&settings);
    let files = printed(to, &fitted.schema, &conventions);
    let printed = files
        .iter()
        .map(|file| file.text.as_str())
        .find(|text| {
            ["class T", "model T {", "const T ", "TABLE \"t\""]
                .iter()
                .any(|head| text.contains(head))
        })
        .unwrap_or_default();
    let body = printed.lines().skip_while(|line| {
        ![
            "class T",
            "@Entity",
            "model T {",
            "export class T extends Model",
            "export const tSchema",
            "CREATE TABLE",
        ]
        .iter()
        .any(|head| line.starts_with(head))
    });
    let plain = |line: &str| {
        if to.id == "prisma" {
            line.split_whitespace().collect::<Vec<_>>().join(" ")
        } else {
            line.trim().to_owned()
        }
    };
    // What belongs to what stands in a file of its own.
    let associations =
        files.iter().filter(|file| file.path == "models.ts").flat_map(|file| file.text.lines());
    let associations = associations
        .skip_while(|line| !line.starts_with("export"))
        .skip(1)
        .filter(|line| !line.contains("declareIn"));
    let lines: Vec<String> = body
        .chain(associations.filter(|line| line.len() > 1))
        .map(plain)
        .filter(|line| !FRAME.contains(&line.as_str()))
        .collect();
    let losses = fitted
        .changes
        .iter()
        .chain(&fitted.refused)
        .map(|loss| format!("{}: {}", loss.grade.word(), loss.reason));
    (
        lines.join("\n"),
        losses.filter(|loss| !ALWAYS.contains(&loss.as_str())).collect::<Vec<_>>().join("\n"),
    )
}

fn check(table: &[Crossing], seen: impl Fn(&str) -> (String, String)) {
    for (text, emitted, losses) in table {
        let (found, account) = seen(text);
        assert_eq!(found, *emitted, "emitted for\n{text}");
        assert_eq!(account, *losses, "account of\n{text}");
    }
}

fn django(body: &str) -> String {
    format!("{DJANGO_HEAD}class T(models.Model):\n    {}\n", body.replace('\n', "\n    "))
}

fn typeorm(body: &str) -> String {
    format!(
        "{TYPEORM_HEAD}@Entity()
export class T {{
  @PrimaryGeneratedColumn()
  id!: number;
  {body}
}}
"
    )
}

fn typeorm_class(text: &str) -> String {
    text.replace("ID", "@PrimaryGeneratedColumn() id!: number;")
}

#[test]
fn from_django() {
    check(postgresql::DJANGO, |text| {
        cross("django", "typeorm", django(text), Database::PostgreSql)
    });
}

#[test]
fn from_typeorm() {
    check(postgresql::TYPEORM, |text| {
        cross("typeorm", "django", typeorm(text), Database::PostgreSql)
    });
}

#[test]
fn from_typeorm_classes() {
    check(postgresql::TYPEORM_CLASSES, |text| {
        cross("typeorm", "django", typeorm_class(text), Database::PostgreSql)
    });
}

#[test]
fn to_django_itself_and_its_releases() {
    check(django::AT_HOME, |text| cross("django", "django", django(text), Database::PostgreSql));
    check(django::TO_4_2_ON_SQLITE, |text| {
        cross("django", "django@4.2", django(text), Database::Sqlite)
    });
    check(django::SQL_TO_4_2, |text| {
        cross("sql", "django@4.2", text.to_owned(), Database::PostgreSql)
    });
}

#[test]
fn from_scripts() {
    check(scripts::SQL_TO_DJANGO, |text| {
        cross("sql", "django", text.to_owned(), Database::PostgreSql)
    });
    check(scripts::SQL_TO_TYPEORM, |text| {
        cross("sql", "typeorm", text.to_owned(), Database::PostgreSql)
    });
}

#[test]
fn to_and_from_sqlalchemy() {
    check(sqlalchemy::DJANGO, |text| {
        cross("django", "sqlalchemy", django(text), Database::PostgreSql)
    });
    check(sqlalchemy::TO_DJANGO, |text| {
        cross("sqlalchemy", "django", sqlalchemy(text), Database::PostgreSql)
    });
    check(sqlalchemy::TO_TYPEORM_ON_MARIADB, |text| {
        cross("sqlalchemy", "typeorm", sqlalchemy(text), Database::MariaDb)
    });
}

#[test]
fn to_and_from_prisma() {
    check(prisma::DJANGO, |text| cross("django", "prisma", django(text), Database::PostgreSql));
    check(prisma::TYPEORM_CLASSES, |text| {
        cross("typeorm", "prisma", typeorm_class(text), Database::PostgreSql)
    });
    check(prisma::DJANGO_ON_SQLITE, |text| {
        cross("django", "prisma", django(text), Database::Sqlite)
    });
    check(prisma::TO_TYPEORM, |text| {
        cross("prisma", "typeorm", prisma(text), Database::PostgreSql)
    });
    check(prisma::TO_DJANGO, |text| cross("prisma", "django", prisma(text), Database::PostgreSql));
}

#[test]
fn to_and_from_sequelize() {
    check(sequelize::DJANGO, |text| {
        cross("django", "sequelize", django(text), Database::PostgreSql)
    });
    check(sequelize::DJANGO_ON_SQLITE, |text| {
        cross("django", "sequelize", django(text), Database::Sqlite)
    });
    check(sequelize::TO_DJANGO, |text| {
        cross("sequelize", "django", sequelize(text), Database::PostgreSql)
    });
}

#[test]
fn to_and_from_mongoose() {
    check(mongoose::DJANGO, |text| cross("django", "mongoose", django(text), Database::PostgreSql));
    check(mongoose::TO_DJANGO, |text| {
        cross("mongoose", "django", mongoose(text), Database::PostgreSql)
    });
    check(mongoose::TO_SQL, |text| cross("mongoose", "sql", mongoose(text), Database::PostgreSql));
}

fn mongoose(paths: &str) -> String {
    format!(
        "const T = mongoose.model('T', new Schema({{ {paths} }}, {{ versionKey: false }}), 't');\n"
    )
}

fn sequelize(attributes: &str) -> String {
    format!(
        "const T = sequelize.define('T', {{ {attributes} }}, {{ tableName: 't', timestamps: \
         false }});\n"
    )
}

fn prisma(body: &str) -> String {
    format!(
        "model T {{
  id Int @id @default(autoincrement())
  {body}
  @@map(\"harbour_t\")
}}
enum Side {{
  Port @map(\"port side\")
  Starboard
}}
"
    )
}

#[test]
fn on_sqlite() {
    check(sqlite::DJANGO_ON_SQLITE, |text| {
        cross("django", "typeorm", django(text), Database::Sqlite)
    });
    check(sqlite::TYPEORM_ON_SQLITE, |text| {
        cross("typeorm", "django", typeorm(text), Database::Sqlite)
    });
}

#[test]
fn on_mariadb() {
    check(mariadb::DJANGO, |text| cross("django", "typeorm", django(text), Database::MariaDb));
    check(mariadb::TYPEORM, |text| cross("typeorm", "django", typeorm(text), Database::MariaDb));
    check(mariadb::SCRIPTS_TO_DJANGO, |text| {
        cross("sql", "django", text.to_owned(), Database::MariaDb)
    });
    check(mariadb::SCRIPTS_TO_TYPEORM, |text| {
        cross("sql", "typeorm", text.to_owned(), Database::MariaDb)
    });
}

fn sqlalchemy(body: &str) -> String {
    let body = body.replace('\n', "\n    ");
    format!(
        "{SQLALCHEMY_HEAD}class T(Base):
    __tablename__ = 't'
    id: Mapped[int] = mapped_column(primary_key=True)
    {body}
"
    )
}

const SQLALCHEMY_HEAD: &str = "import datetime, enum
from typing import List, Optional
import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, backref, mapped_column, relationship

class Base(DeclarativeBase): pass

class Status(enum.Enum):
    OPEN = 'open'

";

const DJANGO_HEAD: &str = "import uuid\nfrom decimal import Decimal\n\
                           from django.conf import settings\n\
                           from django.contrib.postgres.fields import ArrayField, \
                           IntegerRangeField\nfrom django.contrib.postgres.indexes import \
                           GinIndex\nfrom django.core.validators import RegexValidator\n\
                           from django.db import models\nfrom django.db.models import F, Q\n\
                           from django.db.models.functions import Lower, Now\n\n\n";

const TYPEORM_HEAD: &str = "import { Column, Entity } from 'typeorm';

class Position {
  @Column('float') latitude!: number;
}

";
