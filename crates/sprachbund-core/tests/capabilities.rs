//! Every capability that a dialect claims has a case: declarations that the real framework takes
//! (those of `conformance/` and of the demo), which hold it, and which are read, fitted and written
//! back without loss.

use std::path::{Path, PathBuf};

use serde_json::Value;
use sprachbund_core::dialect::capabilities::{FEATURES, Feature};
use sprachbund_core::dialect::{Dialect, Medium, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::reading::read;
use sprachbund_core::schema::facts::{Aspect, Difference, Element, differences};
use sprachbund_core::schema::{
    Action, Database, Deferrable, EnforcedBy, Entity, EntityKind, Field, ForeignKey, Index,
    Inheritance, Purpose, Relation, RelationKind, Schema, Type, UniqueAs,
};
use sprachbund_core::source::NoFiles;

/// The elements of a schema, by what is asked of them.
struct Asked<'s>(&'s Schema);

impl Asked<'_> {
    fn entity(&self, test: impl Fn(&Entity) -> bool) -> bool {
        self.0.entities.iter().any(test)
    }

    fn field(&self, test: impl Fn(&Field) -> bool) -> bool {
        self.entity(|entity| entity.fields.iter().any(&test))
    }

    fn relation(&self, test: impl Fn(&Relation) -> bool) -> bool {
        self.entity(|entity| entity.relations.iter().any(&test))
    }

    fn index(&self, test: impl Fn(&Index) -> bool) -> bool {
        self.entity(|entity| entity.indexes.iter().any(&test))
    }

    fn key(&self, test: impl Fn(&ForeignKey) -> bool) -> bool {
        self.entity(|entity| entity.foreign_keys.iter().any(&test))
    }

    fn inherits(&self, how: Inheritance) -> bool {
        self.entity(|entity| entity.inherits.as_ref().is_some_and(|inherits| inherits.how == how))
    }

    fn purpose(&self, purpose: Purpose) -> bool {
        self.field(|field| field.purpose == Some(purpose))
    }
}

fn acts(action: Action) -> bool {
    action != Action::NoAction
}

/// Whether a schema holds what a capability is about; each group knows its own.
fn holds(schema: &Schema, feature: Feature) -> bool {
    let asked = Asked(schema);
    let known = of_constraints(&asked, feature)
        .or_else(|| of_columns(&asked, feature))
        .or_else(|| of_entities(&asked, feature));
    known.unwrap_or_else(|| panic!("no case for {feature:?}"))
}

fn of_columns(asked: &Asked<'_>, feature: Feature) -> Option<bool> {
    Some(match feature {
        Feature::StoredGenerated => {
            asked.field(|field| field.generated.as_ref().is_some_and(|generated| generated.stored))
        }
        Feature::VirtualGenerated => {
            asked.field(|field| field.generated.as_ref().is_some_and(|generated| !generated.stored))
        }
        Feature::ColumnComment => asked.field(|field| field.comment.is_some()),
        Feature::TableComment => asked.entity(|entity| entity.comment.is_some()),
        Feature::Collation => asked.field(|field| field.collation.is_some()),
        Feature::Choices => asked.field(|field| field.choices.is_some()),
        Feature::ChoicesOfAny => {
            asked.field(|field| field.choices.is_some() && !field.r#type.is_text())
        }
        Feature::CodeValues => asked
            .0
            .enums
            .iter()
            .flat_map(|known| &known.members)
            .any(|member| member.in_code.is_some()),
        Feature::EnumType => asked.field(|field| matches!(field.r#type, Type::Enum(_))),
        Feature::NestedArray => asked.field(|field| {
            matches!(&field.r#type, Type::Array(element) if matches!(**element,
                Type::Array(_)))
        }),
        Feature::InputRules => asked.field(|field| !field.rules.is_empty()),
        Feature::Format => asked.field(|field| field.format.is_some()),
        Feature::InputVoice => asked.field(|field| field.required_on_input.is_some()),
        Feature::CodeVoice => asked.field(|field| field.optional_in_code.is_some()),
        _ => return None,
    })
}

fn of_entities(asked: &Asked<'_>, feature: Feature) -> Option<bool> {
    Some(match feature {
        Feature::DisplayLabel => asked.entity(|entity| entity.label.is_some()),
        Feature::Order => asked.entity(|entity| !entity.order.is_empty()),
        Feature::SoftDelete => asked.entity(|entity| entity.soft_delete.is_some()),
        Feature::VersionColumn => asked.purpose(Purpose::Version),
        Feature::CreationTime => asked.purpose(Purpose::CreationTime),
        Feature::UpdateTime => asked.purpose(Purpose::UpdateTime),
        Feature::JoinedInheritance => asked.inherits(Inheritance::Joined),
        Feature::SameTable => asked.inherits(Inheritance::SameTable),
        Feature::Namespace => asked.entity(|entity| entity.namespace.is_some()),
        Feature::CompositeKey => {
            asked.entity(|entity| !entity.join && entity.key_columns().len() > 1)
        }
        Feature::CompositeReference => asked.relation(|relation| relation.columns.len() > 1),
        Feature::Keyless => asked.entity(|entity| {
            entity.primary_key.is_none() && entity.mapped.table && entity.inherits.is_none()
        }),
        Feature::View => asked.entity(|entity| entity.kind == EntityKind::View),
        Feature::KeyOfView => {
            asked.entity(|entity| entity.kind == EntityKind::View && entity.primary_key.is_some())
        }
        Feature::Unmanaged => asked.entity(|entity| {
            !entity.mapped.table && !entity.external && entity.kind != EntityKind::View
        }),
        Feature::InlineEnum => asked.0.enums.iter().any(|known| known.inline),
        Feature::ConstraintName => {
            asked.key(|key| key.name.is_some())
                || asked.entity(|entity| {
                    entity.primary_key.as_ref().is_some_and(|key| key.name.is_some())
                })
        }
        Feature::SymmetricalRelation => asked.relation(|relation| relation.symmetrical),
        Feature::ThroughFields => asked.relation(|relation| {
            relation.kind == RelationKind::ManyToMany && !relation.through_fields.is_empty()
        }),
        _ => return None,
    })
}

fn of_constraints(asked: &Asked<'_>, feature: Feature) -> Option<bool> {
    Some(match feature {
        Feature::DatabaseDefault => asked.field(|field| field.defaults.database.is_some()),
        Feature::ApplicationDefault => asked.field(|field| field.defaults.application.is_some()),
        Feature::ApplicationUpdate => asked.field(|field| field.on_update.application.is_some()),
        Feature::DatabaseAction => asked.key(|key| acts(key.on_delete)),
        Feature::SetDefault => asked.key(|key| key.on_delete == Action::SetDefault),
        Feature::ApplicationAction => {
            asked.relation(|relation| relation.on_delete.is_some_and(acts))
        }
        Feature::Deferrable => {
            asked.key(|key| key.deferrable == Some(Deferrable::InitiallyDeferred))
        }
        Feature::UnenforcedReference => asked.key(|key| key.enforced == EnforcedBy::Application),
        Feature::DescendingIndex => {
            asked.index(|index| index.parts.iter().any(|part| part.descending))
        }
        Feature::ExpressionIndex => {
            asked.index(|index| index.parts.iter().any(|part| part.expression.is_some()))
        }
        Feature::OperatorClass => {
            asked.index(|index| index.parts.iter().any(|part| part.operator_class.is_some()))
        }
        Feature::IndexMethod => asked.index(|index| index.method.is_some()),
        Feature::CoveringIndex => asked.index(|index| !index.include.is_empty()),
        Feature::PartialIndex => asked.index(|index| index.condition.is_some()),
        Feature::UniqueIndex => {
            asked.index(|index| index.unique)
                || asked.entity(|entity| {
                    entity.uniques.iter().any(|unique| unique.r#as == UniqueAs::Index)
                })
        }
        Feature::DeferrableUnique => {
            asked.entity(|entity| entity.uniques.iter().any(|unique| unique.deferrable.is_some()))
        }
        Feature::NullsNotDistinct => {
            asked.index(|index| index.nulls_not_distinct)
                || asked
                    .entity(|entity| entity.uniques.iter().any(|unique| unique.nulls_not_distinct))
        }
        Feature::Check => asked.entity(|entity| !entity.checks.is_empty()),
        Feature::Exclusion => asked.entity(|entity| !entity.exclusions.is_empty()),
        _ => return None,
    })
}

/// The files of a folder, each under its path in it.
fn files(folder: &Path) -> Vec<(String, String)> {
    let mut waiting: Vec<PathBuf> = vec![folder.to_owned()];
    let mut found = Vec::new();
    while let Some(path) = waiting.pop() {
        match std::fs::read_dir(&path) {
            Ok(entries) => waiting.extend(entries.flatten().map(|entry| entry.path())),
            Err(_) => found.extend(std::fs::read_to_string(&path).ok().map(|text| {
                let name = path
                    .strip_prefix(folder)
                    .expect("inside the folder")
                    .to_string_lossy()
                    .replace('\\', "/");
                (name, text)
            })),
        }
    }
    found.sort();
    found
}

/// Small declarations of what the cases lack: the dialect, the servers on which they are meant,
/// path and text.
const DJANGO_ACTIONS: &str = "from django.db import models


class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, models.DB_CASCADE)
    beside = models.ForeignKey('self', models.DB_SET_NULL, null=True)
";

const DJANGO_SET_DEFAULT: &str = "from django.db import models


class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, models.DB_SET_DEFAULT, db_default=1)
";

const MORE: &[(&str, &[Database], &str, &str)] = &[
    (
        "django",
        &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/models.py",
        DJANGO,
    ),
    (
        "django",
        &[Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/models.py",
        DJANGO_VIRTUAL,
    ),
    (
        "django",
        &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/models.py",
        DJANGO_ACTIONS,
    ),
    ("django", &[Database::PostgreSql, Database::Sqlite], "harbour/models.py", DJANGO_SET_DEFAULT),
    ("mongoose", &[Database::MongoDb], "harbour/models.ts", MONGOOSE),
    ("prisma", &[Database::PostgreSql], "harbour.prisma", PRISMA_NAMESPACE),
    (
        "prisma",
        &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour.prisma",
        PRISMA,
    ),
    ("sequelize", &[Database::PostgreSql, Database::Sqlite], "harbour/models.ts", SEQUELIZE),
    ("sequelize", &[Database::PostgreSql], "harbour/models.ts", SEQUELIZE_POSTGRESQL),
    (
        "sqlalchemy",
        &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/models.py",
        SQLALCHEMY,
    ),
    ("sqlalchemy", &[Database::PostgreSql], "harbour/models.py", SQLALCHEMY_POSTGRESQL),
    ("sqlalchemy", &[Database::MySql], "harbour/models.py", SQLALCHEMY_EXPRESSION),
    (
        "sqlalchemy",
        &[Database::PostgreSql, Database::Sqlite],
        "harbour/models.py",
        SQLALCHEMY_SETS_DEFAULT,
    ),
    (
        "sqlalchemy",
        &[Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/models.py",
        SQLALCHEMY_VIRTUAL,
    ),
    ("typeorm", &[Database::PostgreSql], "harbour/quay.entity.ts", TYPEORM_NAMESPACE),
    (
        "typeorm",
        &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
        "harbour/tide.entity.ts",
        TYPEORM,
    ),
];

const DJANGO: &str = r#"
from django.db import models


class Buoy(models.Model):
    name = models.CharField(max_length=9, db_collation="C")
    beside = models.ManyToManyField("self", through="Pair", through_fields=["one", "other"],
        symmetrical=False, related_name="+")


class Pair(models.Model):
    one = models.ForeignKey(Buoy, on_delete=models.CASCADE, related_name="+")
    other = models.ForeignKey(Buoy, on_delete=models.CASCADE, related_name="+")
    seen_by = models.ForeignKey(Buoy, on_delete=models.CASCADE, related_name="+")
"#;

const DJANGO_VIRTUAL: &str = r#"
from django.db import models


class Berth(models.Model):
    depth = models.IntegerField()
    draught = models.GeneratedField(expression=models.F("depth") - 1,
        output_field=models.IntegerField(), db_persist=False)
"#;

const MONGOOSE: &str = r#"
import mongoose, { Schema } from 'mongoose';
const logSchema = new Schema({ text: String }, { autoCreate: false, autoIndex: false });
export const Log = mongoose.model('Log', logSchema);
"#;

const PRISMA_NAMESPACE: &str = r#"
datasource db {
  provider = "postgresql"
  schemas  = ["port"]
}

model Quay {
  id Int @id

  @@schema("port")
}
"#;

const PRISMA: &str = r#"
model Quay {
  id     Int     @id
  berths Berth[]
}

model Berth {
  id     Int  @id
  quayId Int  @default(1)
  quay   Quay @relation(fields: [quayId], references: [id], onDelete: SetDefault)
}
"#;

const SEQUELIZE: &str = r#"
import { DataTypes, Model } from 'sequelize';
class Log extends Model {
  static async sync() {
    return this;
  }
}
Log.init({ grade: { type: DataTypes.INTEGER, validate: { isIn: [[1, 2]] } } }, { sequelize });
const Quay = sequelize.define('Quay', { name: DataTypes.STRING });
const Berth = sequelize.define('Berth', {
  quayId: { type: DataTypes.INTEGER, defaultValue: 1, references: { model: Quay, key: 'id' },
      onDelete: 'SET DEFAULT' },
});
"#;

const SEQUELIZE_POSTGRESQL: &str = r#"
import { DataTypes, Deferrable } from 'sequelize';
const Quay = sequelize.define(
  'Quay',
  { name: DataTypes.STRING, grid: DataTypes.ARRAY(DataTypes.ARRAY(DataTypes.INTEGER)) },
  {
    schema: 'port',
    indexes: [
      { name: 'by_hash', using: 'hash', fields: ['name'] },
      { name: 'by_pattern', fields: [{ name: 'name', operator: 'varchar_pattern_ops' }] },
    ],
  },
);
const Berth = sequelize.define('Berth', {
  quayId: { type: DataTypes.INTEGER, references: { model: Quay, key: 'id',
      deferrable: Deferrable.INITIALLY_DEFERRED } },
});
"#;

const SQLALCHEMY: &str = r#"
import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    pass


class Vessel(Base):
    __tablename__ = "vessels"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(sa.String(9, collation="C"))


class Call(Base):
    __tablename__ = "calls"
    id: Mapped[int] = mapped_column(primary_key=True)
    vessel_id: Mapped[int]
    vessel: Mapped["Vessel"] = relationship(primaryjoin="foreign(Call.vessel_id) == Vessel.id")


class Busy(Base):
    __tablename__ = "busy"
    __table_args__ = {"info": {"is_view": True}}
    id: Mapped[int] = mapped_column(primary_key=True)
"#;

const SQLALCHEMY_POSTGRESQL: &str = r#"
import sqlalchemy as sa
from sqlalchemy.dialects import postgresql
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


class Quay(Base):
    __tablename__ = "quays"
    __table_args__ = (
        sa.Index("by_pattern", "name", postgresql_ops={"name": "varchar_pattern_ops"}),
        sa.Index("by_hash", "name", postgresql_using="hash"),
        sa.Index("covering", "name", postgresql_include=["depth"]),
        sa.UniqueConstraint("name", name="late", deferrable=True, initially="DEFERRED"),
        sa.UniqueConstraint("depth", name="once", postgresql_nulls_not_distinct=True),
        postgresql.ExcludeConstraint(("depth", "="), name="apart", using="gist"),
        {"schema": "port"},
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(sa.String(9))
    depth: Mapped[int]
"#;

const SQLALCHEMY_EXPRESSION: &str = r#"
import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


class Berth(Base):
    __tablename__ = "berths"
    __table_args__ = (sa.Index("by_lower", sa.text("(lower(name))")),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(sa.String(9))
"#;

const SQLALCHEMY_SETS_DEFAULT: &str = r#"
import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


class Berth(Base):
    __tablename__ = "berths"
    __table_args__ = (sa.Index("by_lower", sa.text("lower(name)")),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(sa.String(9))
    beside_id: Mapped[int] = mapped_column(sa.ForeignKey("berths.id", ondelete="SET DEFAULT"),
        server_default="1")
"#;

const SQLALCHEMY_VIRTUAL: &str = r#"
import sqlalchemy as sa
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    pass


class Berth(Base):
    __tablename__ = "berths"
    id: Mapped[int] = mapped_column(primary_key=True)
    depth: Mapped[int]
    draught: Mapped[int] = mapped_column(sa.Computed("depth - 1", persisted=False), nullable=True)
"#;

const TYPEORM_NAMESPACE: &str = r#"
import { Entity, PrimaryColumn } from 'typeorm';
@Entity({ schema: 'port' })
export class Quay {
  @PrimaryColumn()
  id!: number;
}
"#;

const TYPEORM: &str = r#"
import { Entity, JoinColumn, ManyToOne, PrimaryColumn, ViewColumn, ViewEntity } from 'typeorm';
@Entity()
export class Tide {
  @PrimaryColumn({ primaryKeyConstraintName: 'tide_key' })
  harbour!: number;
  @PrimaryColumn({ primaryKeyConstraintName: 'tide_key' })
  day!: number;
}
@Entity()
export class Call {
  @PrimaryColumn()
  id!: number;
  @ManyToOne(() => Tide)
  @JoinColumn([
    { name: 'harbour', referencedColumnName: 'harbour' },
    { name: 'day', referencedColumnName: 'day' },
  ])
  tide!: Tide;
}
@ViewEntity({ expression: 'SELECT 1 AS id' })
export class Busy {
  @PrimaryColumn()
  @ViewColumn()
  id!: number;
}
"#;

/// The folders that hold declarations in a dialect: the demo, and those of the conformance cases.
fn folders(dialect: &Dialect) -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let cases = std::fs::read_dir(root.join("conformance/cases").join(dialect.id))
        .expect("cases of the dialect");
    let mut folders: Vec<PathBuf> = cases.flatten().map(|entry| entry.path()).collect();
    folders.push(root.join("demo").join(dialect.id));
    folders.sort();
    folders
}

/// What is read back from what is written of declarations, and where that is something else.
fn round(
    inputs: Vec<(String, String)>,
    dialect: &Dialect,
    database: Database,
) -> (Schema, Vec<String>) {
    let mut settings = Settings { database: Some(database), ..Settings::default() };
    let schema = read(inputs, dialect, &mut settings, &NoFiles).schema;
    let fitted = fit(&schema, dialect, &settings);
    let printed = printed(dialect, &fitted.schema, &(dialect.conventions)(&settings));
    let inputs = printed.into_iter().map(|file| (file.path, file.text)).collect();
    let back = read(inputs, dialect, &mut settings.clone(), &NoFiles).schema;
    // What a list without a name is called, or a document inside another, follows from the class
    // around it.
    let inline = |name: &str| {
        fitted
            .schema
            .enums
            .iter()
            .chain(&back.enums)
            .any(|known| known.inline && known.name == name)
    };
    let named = |one: &&Difference| match (&one.key.element, &one.key.aspect) {
        (Element::Enumeration(name), _) => !inline(name),
        (_, Aspect::Type | Aspect::Choices) => {
            let name = |value: &Option<Value>| {
                value
                    .as_ref()
                    .and_then(Value::as_str)
                    .unwrap_or_default()
                    .trim_matches(')')
                    .replace("enum(", "")
            };
            !(inline(&name(&one.left)) && inline(&name(&one.right)))
        }
        (Element::Table, Aspect::Class) => !one.key.table.contains('.'),
        _ => true,
    };
    let found = differences(&fitted.schema, &back);
    let other = found
        .iter()
        .filter(named)
        .map(|one| format!("{}: {:?} becomes {:?}", one.key, one.left, one.right));
    let other = other.collect();
    (back, other)
}

#[test]
fn every_capability_has_a_case_without_loss() {
    let mut missing = Vec::new();
    for dialect in
        DIALECTS.iter().filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }))
    {
        for database in dialect.databases.iter().copied() {
            let mut schemas = Vec::new();
            for folder in folders(dialect) {
                let (schema, other) = round(files(&folder), dialect, database);
                let place =
                    format!("{} on {}, {}", dialect.framework, database.title(), folder.display());
                missing.extend(other.into_iter().map(|what| format!("{place}: {what}")));
                schemas.push(schema);
            }
            for (_, _, path, text) in
                MORE.iter().filter(|(of, on, ..)| *of == dialect.id && on.contains(&database))
            {
                let (schema, other) =
                    round(vec![((*path).to_owned(), (*text).to_owned())], dialect, database);
                missing.extend(other.into_iter().map(|what| {
                    format!("{} on {}, more: {what}", dialect.framework, database.title())
                }));
                schemas.push(schema);
            }
            let capabilities = (dialect.capabilities)(&Settings {
                database: Some(database),
                ..Settings::default()
            });
            for (feature, _) in FEATURES.iter().filter(|(feature, _)| capabilities.has(*feature)) {
                if !schemas.iter().any(|schema| holds(schema, *feature)) {
                    missing.push(format!(
                        "{} on {}: {feature:?}",
                        dialect.framework,
                        database.title()
                    ));
                }
            }
        }
    }
    assert!(missing.is_empty(), "\n{}", missing.join("\n"));
}

/// A release of the server, a dialect on PostgreSQL, and whether a column that is computed when it
/// is read can be said there.
#[test]
fn what_a_release_of_the_server_holds_is_said_by_those_dialects_that_can() {
    for (release, id, wanted) in [
        (None, "sql", false),
        (Some((17, 0)), "sql", false),
        (Some((18, 0)), "sql", true),
        (Some((17, 0)), "django", false),
        (Some((18, 0)), "django", true),
        (Some((18, 0)), "typeorm", false),
        (Some((18, 0)), "sqlalchemy", true),
        (Some((18, 0)), "prisma", false),
        (Some((18, 0)), "sequelize", false),
    ] {
        let dialect = DIALECTS.iter().find(|dialect| dialect.id == id).expect("a dialect");
        let settings = Settings {
            database: Some(Database::PostgreSql),
            server_release: release,
            ..Settings::default()
        };
        assert_eq!(
            (dialect.capabilities)(&settings).has(Feature::VirtualGenerated),
            wanted,
            "{id} on {release:?}"
        );
    }
}
