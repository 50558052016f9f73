//! Each kind of message of readers is raised by some declaration: none is in the registry that
//! nobody says, and each has the severity that its page tells, unless the place says otherwise.

use std::collections::BTreeSet;

use sprachbund_core::codes;
use sprachbund_core::diagnostic::{CodeFamily, Diagnostic};
use sprachbund_core::dialect::{Medium, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::{read, read_scripts};
use sprachbund_core::schema::Database;
use sprachbund_core::source::NoFiles;

/// A kind, a dialect, the server where it matters, and a text. `HEAD` is what a file of the dialect
/// begins with.
type Raised = (&'static str, &'static str, Database, &'static str);

use Database::{MariaDb, MongoDb, PostgreSql, Sqlite};

const OF_DJANGO: &[Raised] = &[
    ("syntax-error", "django", PostgreSql, "HEADclass Quay(models.Model:\n    x = (\n"),
    (
        "conditional-class",
        "django",
        PostgreSql,
        "HEADif True:\n    class Quay(models.Model):\n        pass\n",
    ),
    (
        "decorators-left-out",
        "django",
        PostgreSql,
        "HEAD@registered\nclass Quay(models.Model):\n    pass\n",
    ),
    (
        "circular-base",
        "django",
        PostgreSql,
        "HEADclass Left(Right, models.Model):\n    class Meta:\n        abstract = True\n\n\n\
         class Right(Left, models.Model):\n    pass\n",
    ),
    (
        "declared-twice",
        "django",
        PostgreSql,
        "HEADclass Quay(models.Model):\n    pass\n\n\nclass Quay(models.Model):\n    pass\n",
    ),
    (
        "undeclared-target",
        "django",
        PostgreSql,
        "HEADclass Berth(models.Model):\n    quay = models.ForeignKey('gone.Quay', \
             models.CASCADE)\n",
    ),
    (
        "opaque-target",
        "django",
        PostgreSql,
        "HEADclass Berth(models.Model):\n    quay = models.ForeignKey(find(), models.CASCADE)\n",
    ),
    (
        "looked-up-target",
        "django",
        PostgreSql,
        "HEADclass Berth(models.Model):\n    up = models.ForeignKey(get_model('harbour', 'Berth'), \
         models.CASCADE)\n",
    ),
    (
        "unknown-attribute",
        "django",
        PostgreSql,
        "HEADclass Berth(models.Model):\n    class Meta:\n        unique_together = ('a', 'b')\n",
    ),
    (
        "unread-base",
        "django",
        PostgreSql,
        "HEADfrom elsewhere import Named\n\n\nclass Berth(Named, models.Model):\n    pass\n",
    ),
    (
        "unknown-field-class",
        "django",
        PostgreSql,
        "HEADfrom elsewhere import PlaceField\n\n\nclass Berth(models.Model):\n    \
             place = PlaceField()\n",
    ),
    (
        "generic-relation",
        "django",
        PostgreSql,
        "HEADfrom django.contrib.contenttypes.fields import GenericForeignKey\n\n\n\
         class Note(models.Model):\n    about = GenericForeignKey('a', 'b')\n",
    ),
    (
        "unknown-constraint",
        "django",
        PostgreSql,
        "HEADfrom elsewhere import Never\n\n\nclass Berth(models.Model):\n    class Meta:\n        \
         constraints = [Never(name='x')]\n",
    ),
    (
        "shared-default",
        "django",
        PostgreSql,
        "HEADclass Vessel(models.Model):\n    papers = models.JSONField(default=[])\n",
    ),
    (
        "length-missing",
        "django",
        MariaDb,
        "HEADclass Vessel(models.Model):\n    name = models.CharField()\n",
    ),
    ("nothing-declared", "django", PostgreSql, "HEADLEVEL = 3\n"),
];

const OF_TYPESCRIPT: &[Raised] = &[
    (
        "unread-option",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @ManyToOne(() => T) \
         @JoinColumn({ nme: 'a' }) a!: T;\n}\n",
    ),
    (
        "unknown-column-type",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @Column() a!: string[];\n}\n",
    ),
    (
        "missing-owner",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @OneToMany(() => \
             T, (t) => t.gone) \
             a!: T[];\n}\n",
    ),
    (
        "sides-disagree",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @OneToMany(() => T, (t) => t.b) \
         a!: T[];\n  @OneToOne(() => T) @JoinColumn() b!: T;\n}\n",
    ),
    (
        "composite-join-table",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @ManyToMany(() => T) \
         @JoinTable({ joinColumns: [{ name: 'a' }, { name: 'b' }] }) a!: T[];\n}\n",
    ),
    (
        "length-in-vain",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  @Column({ type: 'integer', \
         length: 9 }) a!: number;\n}\n",
    ),
    (
        "unsupported-type",
        "typeorm",
        PostgreSql,
        "@Entity()\nclass T {\n  @PrimaryColumn() id!: number;\n  \
             @Column('longblob') a!: string;\n}\n",
    ),
    (
        "said-in-vain",
        "sequelize",
        PostgreSql,
        "HEADsequelize.define('Berth', { quay: \
             { type: DataTypes.INTEGER, onDelete: 'CASCADE' } });\n",
    ),
    (
        "second-relation",
        "sequelize",
        PostgreSql,
        "HEADconst Quay = sequelize.define('Quay', {});\nconst Berth = \
             sequelize.define('Berth', {});\n\
             Berth.belongsTo(Quay, { foreignKey: 'quayId' });\n\
             Berth.belongsTo(Quay, { as: 'again', foreignKey: 'quayId' });\n",
    ),
    (
        "two-targets",
        "sequelize",
        PostgreSql,
        "HEADconst Quay = sequelize.define('Quay', {});\nconst Pier = \
             sequelize.define('Pier', {});\n\
             const Berth = sequelize.define('Berth', {});\n\
             Berth.belongsTo(Quay, { foreignKey: 'atId' });\n\
             Berth.belongsTo(Pier, { foreignKey: 'atId' });\n",
    ),
    (
        "opaque-attributes",
        "sequelize",
        PostgreSql,
        "HEADsequelize.define('Quay', { ...columns() });\n",
    ),
    (
        "virtual-attribute",
        "sequelize",
        PostgreSql,
        "HEADsequelize.define('Quay', { title: DataTypes.VIRTUAL });\n",
    ),
    (
        "step-not-replayed",
        "sequelize",
        PostgreSql,
        "module.exports = { async up(queryInterface) { await queryInterface.createTable('q', {}); \
         await queryInterface.dropAllTables(); } };\n",
    ),
    (
        "one-way-step",
        "sequelize",
        PostgreSql,
        "module.exports = { async up(queryInterface) \
             { await queryInterface.dropTable('quays'); } };\n",
    ),
];

const OF_MONGOOSE: &[Raised] = &[
    (
        "circular-schema",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({});\nquay.add({ inner: quay });\n\
         mongoose.model('Quay', quay);\n",
    ),
    (
        "opaque-choices",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ side: \
             { type: String, enum: sides() } }));\n",
    ),
    (
        "opaque-collection",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ depth: Number }), name());\n",
    ),
    (
        "opaque-limit",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ depth: \
             { type: Number, min: least() } }));\n",
    ),
    (
        "opaque-paths",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ ...paths() }));\n",
    ),
    (
        "opaque-reference",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Berth', new mongoose.Schema({ quay: { type: \
         mongoose.Schema.Types.ObjectId, ref: name() } }));\n",
    ),
    (
        "option-in-vain",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ open: \
             { type: Boolean, maxlength: 3 } }));\n",
    ),
    (
        "opaque-index",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({ depth: Number });\nquay.index(keys());\n\
         mongoose.model('Quay', quay);\n",
    ),
    (
        "schema-plugin",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({ depth: Number });\nquay.plugin(tides);\n\
         mongoose.model('Quay', quay);\n",
    ),
    (
        "schema-without-model",
        "mongoose",
        MongoDb,
        "HEADexport const quaySchema = new mongoose.Schema({ depth: Number });\n",
    ),
    (
        "unknown-path-type",
        "mongoose",
        MongoDb,
        "HEADmongoose.model('Quay', new mongoose.Schema({ depth: kind() }));\n",
    ),
    (
        "virtual-path",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({ depth: Number });\n\
         quay.virtual('deep').get(function () { return this.depth > 9; });\n\
         mongoose.model('Quay', quay);\n",
    ),
    (
        "virtual-without-reference",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({ depth: Number });\n\
         quay.virtual('berths', { ref: 'Quay', localField: '_id', foreignField: 'depth' });\n\
         mongoose.model('Quay', quay);\n",
    ),
    (
        "unread-statement",
        "mongoose",
        MongoDb,
        "HEADconst quay = new mongoose.Schema({ depth: Number });\nquay.remove('depth');\n\
         mongoose.model('Quay', quay);\n",
    ),
];

const OF_PRISMA: &[Raised] = &[
    (
        "one-sided-relation",
        "prisma",
        PostgreSql,
        "model Quay {\n  id Int @id\n  berths Berth[]\n}\n\nmodel Berth {\n  id Int @id\n}\n",
    ),
    (
        "other-database",
        "prisma",
        Sqlite,
        "datasource db {\n  provider = \"postgresql\"\n}\n\nmodel Quay {\n  id Int @id\n}\n",
    ),
    (
        "unread-provider",
        "prisma",
        PostgreSql,
        "datasource db {\n  provider = \"sqlserver\"\n}\n\nmodel Quay {\n  id Int @id\n}\n",
    ),
    (
        "unknown-action",
        "prisma",
        PostgreSql,
        "model Quay {\n  id Int @id\n  upId Int\n  up Quay @relation(\"Up\", fields: [upId], \
         references: [id], onDelete: Sink)\n  ups Quay[] @relation(\"Up\")\n}\n",
    ),
    (
        "unread-block",
        "prisma",
        PostgreSql,
        "tide Low {\n  level = 3\n}\n\nmodel Quay {\n  id Int @id\n}\n",
    ),
    (
        "unread-default",
        "prisma",
        PostgreSql,
        "model Quay {\n  id Int @id\n  sign Bytes @default(\"%\")\n}\n",
    ),
    ("unknown-type", "prisma", PostgreSql, "model Quay {\n  id Int @id\n  at Place\n}\n"),
    (
        "relation-without-reference",
        "prisma",
        PostgreSql,
        "model Quay {\n  id Int @id\n  berth Berth?\n}\n\nmodel Berth {\n  id Int \
             @id\n  quay Quay?\n}\n",
    ),
    (
        "unread-field",
        "prisma",
        PostgreSql,
        "type Place {\n  east Float\n}\n\nmodel Quay {\n  id Int @id\n  at Place\n}\n",
    ),
];

const OF_SCRIPTS: &[Raised] = &[
    (
        "unread-constraint",
        "sql",
        MariaDb,
        "CREATE TABLE boats (id int PRIMARY KEY, note text, FULLTEXT KEY words (note));",
    ),
    ("key-takes-null", "sql", Sqlite, "CREATE TABLE quays (code text PRIMARY KEY);"),
    ("table-from-query", "sql", PostgreSql, "CREATE TABLE quays AS SELECT 1 AS id;"),
    (
        "unread-change",
        "sql",
        PostgreSql,
        "CREATE TABLE quays (id int); ALTER TABLE quays DETACH PARTITION deep;",
    ),
    (
        "views-left-out",
        "sql",
        PostgreSql,
        "CREATE TABLE q (id int); CREATE VIEW v AS SELECT id FROM q;",
    ),
    ("impossible-step", "sql", PostgreSql, "CREATE TABLE q (id int); DROP INDEX gone;"),
    (
        "unread-statement",
        "sql",
        PostgreSql,
        "CREATE TABEL quays (id int); CREATE TABLE q (id int);",
    ),
];

const OF_SQLALCHEMY: &[Raised] = &[
    (
        "opaque-options",
        "sqlalchemy",
        PostgreSql,
        "HEADclass Quay(Base):\n    __tablename__ = 'quays'\n    __table_args__ = arguments()\n    \
         id = sa.Column(sa.Integer, primary_key=True)\n",
    ),
    (
        "enumeration-stored-twice",
        "sqlalchemy",
        PostgreSql,
        "import enum\nHEADclass Kind(enum.Enum):\n    tug = 'T'\n\n\nclass Boat(Base):\n    \
         __tablename__ = 'boats'\n    id = sa.Column(sa.Integer, primary_key=True)\n    \
         kind = sa.Column(sa.Enum(Kind))\n    was = sa.Column(sa.Enum(Kind, \
         values_callable=lambda kinds: [kind.value for kind in kinds]))\n",
    ),
    (
        "guessed-table",
        "sqlalchemy",
        PostgreSql,
        "HEADclass Quay(Base):\n    __tablename__ = name()\n    id = sa.Column(sa.Integer, \
         primary_key=True)\n",
    ),
    (
        "unread-step",
        "sqlalchemy",
        PostgreSql,
        "from alembic import op\nimport sqlalchemy as sa\nrevision = 'a'\n\
             down_revision = None\n\n\n\
             def upgrade():\n    op.create_table('quays', sa.Column('id', \
             sa.Integer()))\n    \
             op.execute(statement())\n",
    ),
    (
        "history-gap",
        "sqlalchemy",
        PostgreSql,
        "from alembic import op\nimport sqlalchemy as sa\nrevision = 'b'\ndown_revision = 'a'\n\n\n\
         def upgrade():\n    op.create_table('quays', sa.Column('id', sa.Integer()))\n",
    ),
    (
        "history-circle",
        "sqlalchemy",
        PostgreSql,
        "from alembic import op\nimport sqlalchemy as sa\nrevision = 'a'\ndown_revision = 'a'\n\n\n\
         def upgrade():\n    op.create_table('quays', sa.Column('id', sa.Integer()))\n",
    ),
    (
        "relationship-kept",
        "sqlalchemy",
        PostgreSql,
        "HEADclass Quay(Base):\n    __tablename__ = 'quays'\n    id = sa.Column(sa.Integer, \
         primary_key=True)\n    same = relationship('Quay', primaryjoin='Quay.id == Quay.id', \
         viewonly=True)\n",
    ),
    (
        "type-by-server",
        "sqlalchemy",
        PostgreSql,
        "HEADclass Depth(sa.TypeDecorator):\n    impl = sa.Integer\n\n    def \
             load_dialect_impl(self, dialect):\n        return pick(dialect)\n\n\nclass \
             Quay(Base):\n    \
             __tablename__ = 'quays'\n    id = sa.Column(sa.Integer, \
             primary_key=True)\n    depth = \
             sa.Column(Depth())\n",
    ),
];

/// What files of a dialect begin with.
fn head(dialect: &str) -> &'static str {
    match dialect {
        "django" => "from django.db import models\n\n\n",
        "mongoose" => "import mongoose from 'mongoose';\n",
        "sequelize" => {
            "const { DataTypes, Sequelize } = require('sequelize');\n\
                        const sequelize = new Sequelize('postgres://quay');\n"
        }
        "sqlalchemy" => {
            "import sqlalchemy as sa\nfrom sqlalchemy.orm import DeclarativeBase, \
                 relationship\n\n\n\
                 class Base(DeclarativeBase):\n    pass\n\n\n"
        }
        _ => "",
    }
}

fn said(raised: &Raised) -> Vec<Diagnostic> {
    let (_, id, database, text) = raised;
    let dialect = by_id(id).expect("it is shipped");
    let mut settings = Settings { database: Some(*database), ..Settings::default() };
    let path = format!("harbour/models.{}", dialect.extensions[0]);
    let files = vec![(path, text.replace("HEAD", head(id)))];
    match dialect.medium {
        Medium::Statements { .. } => read_scripts(files, dialect, &mut settings).diagnostics,
        Medium::Classes { .. } => read(files, dialect, &mut settings, &NoFiles).diagnostics,
    }
}

#[test]
fn every_kind_is_raised_by_some_declaration() {
    let tables = [OF_DJANGO, OF_TYPESCRIPT, OF_MONGOOSE, OF_PRISMA, OF_SCRIPTS, OF_SQLALCHEMY];
    let mut wrong = Vec::new();
    for raised in tables.into_iter().flatten() {
        let said = said(raised);
        if !said.iter().any(|one| one.code == raised.0) {
            let codes: Vec<&str> = said.iter().map(|one| one.code).collect();
            wrong.push(format!("{} is not said but {codes:?} of\n{}", raised.0, raised.3));
        }
        // Whatever is said is in the registry.
        for one in &said {
            assert!(codes::code(one.code).is_some(), "{} is in no registry", one.code);
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// Kinds that have a test of their own, since they need more than one text: histories with classes
/// over them, packages beside the inputs, settings, and values that grow.
const ELSEWHERE: &[&str] = &[
    "accepted-in-vain",
    "column-not-made",
    "nested-as-json",
    "not-held",
    "opaque-attribute",
    "order-decides",
    "said-beside-the-history",
    "table-inherits",
    "table-not-made",
    "table-without-class",
    "too-many-bases",
    "value-too-large",
];

#[test]
fn what_stands_inside_documents_is_read_as_one_value_where_the_settings_ask_for_it() {
    let text = format!(
        "{}mongoose.model('Quay', new mongoose.Schema({{ place: {{ east: Number }} }}));",
        head("mongoose")
    );
    let nested = Settings { nested_as_json: true, ..Settings::default() };
    assert_eq!(codes_of("mongoose", vec![("quay.js", text)], nested), ["nested-as-json"]);
}

#[test]
fn two_files_that_say_a_different_end_of_one_column() {
    let file = |name: &str, association: &str| {
        format!(
            "module.exports = (sequelize) => {{\n  const {name} = sequelize.define('{name}', \
             {{}});\n  {name}.associate = (models) => {{ {association} }};\n  return \
             {name};\n}};\n"
        )
    };
    let quay = |end: &str| {
        let many =
            format!("Quay.hasMany(models.Berth, {{ foreignKey: 'quayId', onDelete: '{end}' }});");
        ("quay.js", file("Quay", &many))
    };
    let berth = (
        "berth.js",
        file(
            "Berth",
            "Berth.belongsTo(models.Quay, { foreignKey: 'quayId', onDelete: 'RESTRICT' });",
        ),
    );
    for (end, said) in [("CASCADE", vec!["order-decides"]), ("RESTRICT", vec![])] {
        let files = vec![berth.clone(), quay(end)];
        assert_eq!(codes_of("sequelize", files, Settings::default()), said, "{end}");
    }
}

#[test]
fn a_class_with_more_bases_in_a_row_than_are_followed() {
    let hull = |at: usize| match at {
        0 => "class Hull0(models.Model):\n    length = models.IntegerField()\n".to_owned(),
        _ => format!("class Hull{at}(Hull{}):\n", at - 1),
    };
    for (bases, said) in [(200, vec![]), (300, vec!["too-many-bases"])] {
        let hulls: String = (0..bases)
            .map(|at| hull(at) + "    class Meta:\n        abstract = True\n\n\n")
            .collect();
        let text = format!("{}{hulls}class Boat(Hull{}):\n    pass\n", head("django"), bases - 1);
        let files = vec![("harbour/models.py", text)];
        assert_eq!(codes_of("django", files, Settings::default()), said, "{bases}");
    }
}

/// What is said of files of a dialect that assumes nothing.
fn codes_of(
    dialect: &str,
    files: Vec<(&str, String)>,
    mut settings: Settings,
) -> Vec<&'static str> {
    let files = files.into_iter().map(|(path, text)| (path.to_owned(), text)).collect();
    let dialect = by_id(dialect).expect("it is shipped");
    let said = read(files, dialect, &mut settings, &NoFiles).diagnostics;
    said.iter().map(|one| one.code).collect()
}

#[test]
fn no_kind_is_forgotten() {
    let tables = [OF_DJANGO, OF_TYPESCRIPT, OF_MONGOOSE, OF_PRISMA, OF_SCRIPTS, OF_SQLALCHEMY];
    let raised = tables.into_iter().flatten().map(|raised| raised.0);
    let tried: BTreeSet<&str> = raised.chain(ELSEWHERE.iter().copied()).collect();
    let known = codes::of_reading().filter(|code| code.family != CodeFamily::Files);
    let known: BTreeSet<&str> = known.map(|code| code.name).collect();
    assert_eq!(tried, known);
}
