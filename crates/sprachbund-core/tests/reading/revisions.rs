//! Steps of revision scripts: what stands after them.

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::schema::Database;
use sprachbund_core::schema::facts::facts;
use sprachbund_core::source::NoFiles;

use super::{check, check_on};

/// A table, the steps after it, and the facts then.
const STEPS: &[(&str, &[&str])] = &[
    (
        "pass",
        &[
            "t, column a, type = \"varchar(9)\"",
            "t, index a, name = \"ix_t_a\"",
            "t, unique b, name = \"uq_b\"",
        ],
    ),
    (
        "op.add_column('t', sa.Column('c', sa.Boolean(), server_default=sa.false()))",
        &["t, column c, default in the database = {\"literal\":false}"],
    ),
    (
        "op.add_column('t', sa.Column('up', sa.Integer(), sa.ForeignKey('t.id', \
         ondelete='CASCADE')))",
        &["t, foreign key up, on_delete = \"cascade\""],
    ),
    ("op.drop_column('t', 'a')", &["!t, column a", "!t, index a"]),
    (
        "op.alter_column('t', 'a', type_=sa.Text(), existing_type=sa.String(9))",
        &["t, column a, type = \"text\"", "t, column a, nullable = \"null\""],
    ),
    (
        "op.alter_column('t', 'a', nullable=False, server_default='x')",
        &[
            "t, column a, nullable = \"not null\"",
            "t, column a, default in the database = {\"literal\":\"x\"}",
        ],
    ),
    ("op.alter_column('t', 'b', server_default=None)", &["!t, column b, default in the database"]),
    (
        "op.alter_column('t', 'b', new_column_name='d')",
        &["t, column d, type = \"integer\"", "t, unique d, name = \"uq_b\"", "!t, column b"],
    ),
    (
        "op.create_index(op.f('i'), 't', ['a', sa.text('b DESC')], unique=True)",
        &["t, unique index a, b desc, name = \"i\""],
    ),
    ("op.drop_index(op.f('ix_t_a'), table_name='t')", &["!t, index a"]),
    ("op.drop_index('ix_t_a')", &["!t, index a"]),
    ("op.create_unique_constraint('u', 't', ['a', 'b'])", &["t, unique a, b, name = \"u\""]),
    ("op.drop_constraint('uq_b', 't', type_='unique')", &["!t, unique b"]),
    ("op.create_check_constraint('c', 't', 'b > 1')", &["t, check \"b\" > 1, name = \"c\""]),
    (
        "op.create_foreign_key('f', 't', 't', ['b'], ['id'], deferrable=True, \
         initially='DEFERRED')",
        &["t, foreign key b, deferrable = \"initially-deferred\""],
    ),
    (
        "op.create_foreign_key(None, 't', 't', ['b'], ['id'])\n    \
         op.drop_constraint('t_b_fkey', 't')",
        &["!t, foreign key b"],
    ),
    ("op.rename_table('t', 'r')", &["r, column a, type = \"varchar(9)\"", "!t, exists"]),
    ("op.drop_table('t')", &["!t, exists"]),
    ("op.create_table_comment('t', 'what it is')", &["t, comment = \"what it is\""]),
    (
        "with op.batch_alter_table('t') as batch_op:
        batch_op.add_column(sa.Column('c', sa.Date()))
        batch_op.drop_index('ix_t_a')
        batch_op.create_unique_constraint('u', ['c'])",
        &["t, column c, type = \"date\"", "t, unique c, name = \"u\"", "!t, index a"],
    ),
];

fn script(id: &str, after: &str, steps: &str) -> String {
    format!(
        "import sqlalchemy as sa
from alembic import op

revision = '{id}'
down_revision = {after}


def upgrade() -> None:
    {steps}
"
    )
}

const TABLE: &str = "op.create_table('t', sa.Column('id', sa.Integer(), nullable=False), \
                     sa.Column('a', sa.String(9)), sa.Column('b', sa.Integer(), \
                     server_default='3', nullable=False), sa.PrimaryKeyConstraint('id'), \
                     sa.UniqueConstraint('b', name=op.f('uq_b')))\n    \
                     op.create_index('ix_t_a', 't', ['a'])";

#[test]
fn steps() {
    for (steps, wanted) in STEPS {
        check(
            "sqlalchemy",
            &script("a", "None", &format!("{TABLE}\n    {steps}")),
            Vec::new(),
            wanted,
        );
    }
}

fn scripts(texts: &[String]) -> Reading {
    let inputs = texts
        .iter()
        .enumerate()
        .map(|(at, text)| (format!("versions/{at}.py"), text.clone()))
        .collect();
    let mut settings = Settings { database: Some(Database::PostgreSql), ..Settings::default() };
    read(inputs, by_id("sqlalchemy").expect("a dialect"), &mut settings, &NoFiles)
}

/// Steps that do nothing where there is nothing to do.
const IF_POSSIBLE: &[&str] = &[
    "op.drop_index('nobody', table_name='t', if_exists=True)",
    "op.drop_column('t', 'z', if_exists=True)",
    "op.drop_constraint('nobody', 't', if_exists=True)",
    "op.drop_table('u', if_exists=True)",
    "op.add_column('t', sa.Column('a', sa.Integer()), if_not_exists=True)",
    "op.create_table('t', sa.Column('z', sa.Integer()), if_not_exists=True)",
];

#[test]
fn steps_that_do_nothing_where_there_is_nothing_to_do() {
    let before = scripts(&[script("a", "None", TABLE)]).schema;
    for step in IF_POSSIBLE {
        let read = scripts(&[script("a", "None", &format!("{TABLE}\n    {step}"))]);
        assert!(
            read.diagnostics.iter().all(|one| one.code == "one-way-step"),
            "{step}\n{:#?}",
            read.diagnostics
        );
        assert_eq!(facts(&read.schema), facts(&before), "{step}");
    }
}

const REFERENCE: &str = "op.create_foreign_key('f', 't', 't', ['b'], ['id'])";

/// On MariaDB, where an index serves each reference: the server's own, or one that is made later.
const INDEXED: &[(&str, &[&str])] = &[
    ("pass", &["t, index b, exists = true"]),
    ("op.create_index('by_b', 't', ['b'])", &["t, index b, name = \"by_b\"", "!t, index b, times"]),
    (
        "op.drop_constraint('f', 't', type_='foreignkey')",
        &["t, index b, exists = true", "!t, foreign key b"],
    ),
    (
        "op.alter_column('t', 'b', new_column_name='d', existing_type=sa.Integer())",
        &["t, foreign key d, on_delete = \"no action\"", "t, index d, exists = true"],
    ),
    ("op.rename_table('t', 'r')", &["r, foreign key b, references = [null,\"r\",[\"id\"]]"]),
];

#[test]
fn references_are_indexed_after_the_last_step() {
    for (step, wanted) in INDEXED {
        // Nothing else is over the column.
        let table = TABLE.replace(", sa.UniqueConstraint('b', name=op.f('uq_b'))", "");
        let text = script("a", "None", &format!("{table}\n    {REFERENCE}\n    {step}"));
        check_on(Database::MariaDb, "sqlalchemy", &text, Vec::new(), wanted);
    }
}

/// Scripts are put in their order, whatever they are called; branches meet again.
#[test]
fn order() {
    let add = |column: &str| format!("op.add_column('t', sa.Column('{column}', sa.Integer()))");
    let both = "op.drop_column('t', 'one')\n    op.alter_column('t', 'two', nullable=False)";
    let texts = [
        script("d", "('b', 'c')", both),
        script("c", "'a'", &add("two")),
        script("b", "'a'", &add("one")),
        script("a", "None", TABLE),
    ];
    let read = scripts(&texts);
    assert!(
        read.diagnostics.iter().all(|one| one.code == "one-way-step"),
        "{:?}",
        read.diagnostics
    );
    let columns: Vec<(&str, bool)> = read.schema.entities[0]
        .fields
        .iter()
        .map(|field| (field.column.as_str(), field.nullable))
        .collect();
    assert_eq!(columns, [("id", false), ("a", true), ("b", false), ("two", false)]);
}

#[test]
fn what_cannot_be_replayed_is_named() {
    let cases: &[(&str, &str, &str)] = &[
        ("None", "op.execute('UPDATE t SET a = 1')", "unread-step"),
        ("None", "for table in ('t', 'u'):\n        op.drop_table(table)", "unread-step"),
        ("None", "op.drop_constraint('nobody', 't')", "impossible-step"),
        ("None", "op.drop_column('t', 'z')", "impossible-step"),
        ("None", "op.drop_column('t', 'a', cascade=True)", "unread-option"),
        ("None", "op.add_column('u', sa.Column('c', sa.Integer()))", "impossible-step"),
        ("None", "op.add_column('t', sa.Column('a', sa.Integer()))", "impossible-step"),
        ("None", "op.alter_column('t', 'z', nullable=True)", "impossible-step"),
        ("'before'", "pass", "history-gap"),
        ("'a'", "pass", "history-circle"),
    ];
    for (after, steps, code) in cases {
        let read = scripts(&[script("a", after, &format!("{TABLE}\n    {steps}"))]);
        let found = read.diagnostics.iter().any(|diagnostic| diagnostic.code == *code);
        assert!(found, "{code} of {steps}\n{:#?}", read.diagnostics);
    }
}
