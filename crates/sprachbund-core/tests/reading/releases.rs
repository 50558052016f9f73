//! What a release of a framework reads otherwise than the one before it.

use sprachbund_core::schema::Database;

use crate::{check_on, reading};

/// A dialect in its release, a server, what is written, and what is there (`!`: what is not):
/// facts, or what the server holds for a column.
const CASES: &[(&str, Database, &str, &[&str])] = &[
    (
        "django@5.2",
        Database::PostgreSql,
        "class T(models.Model):\n    up = models.ForeignKey('self', models.CASCADE)\n",
        &[
            "harbour_t, column id, type = \"integer\"",
            "harbour_t, relation up_id, on_delete = \"cascade\"",
            "harbour_t, foreign key up_id, on_delete = \"no action\"",
        ],
    ),
    (
        "django@6.1",
        Database::PostgreSql,
        "class T(models.Model):\n    up = models.ForeignKey('self', models.DB_CASCADE)\n",
        &[
            "harbour_t, column id, type = \"bigint\"",
            "harbour_t, column up_id, type = \"bigint\"",
            "!harbour_t, relation up_id, on_delete",
            "harbour_t, foreign key up_id, on_delete = \"cascade\"",
        ],
    ),
    (
        "sqlalchemy@2.0",
        Database::Sqlite,
        "class T(Base):\n    __tablename__ = 't'\n    id: Mapped[int] = \
         mapped_column(primary_key=True)\n    depth: Mapped[float]\n",
        &["stored depth float"],
    ),
    (
        "sqlalchemy@2.1",
        Database::Sqlite,
        "class T(Base):\n    __tablename__ = 't'\n    id: Mapped[int] = \
         mapped_column(primary_key=True)\n    depth: Mapped[float]\n",
        &["stored depth double"],
    ),
    (
        "sqlalchemy@2.0",
        Database::MariaDb,
        "class T(Base):\n    __tablename__ = 't'\n    id: Mapped[uuid.UUID] = \
         mapped_column(primary_key=True)\n",
        &["stored id char(32)"],
    ),
    (
        "sqlalchemy@2.1",
        Database::MariaDb,
        "class T(Base):\n    __tablename__ = 't'\n    id: Mapped[uuid.UUID] = \
         mapped_column(primary_key=True)\n",
        &["stored id uuid"],
    ),
    (
        "typeorm@0.3",
        Database::MySql,
        "@Entity('t')\nexport class T {\n  @PrimaryGeneratedColumn('uuid') id!: string;\n  \
         @Column('uuid') a!: string;\n  @Column('uuid', { length: 36 }) b!: string;\n}\n",
        &["stored id varchar(36)", "stored a varchar(255)", "stored b varchar(36)"],
    ),
    (
        "typeorm@1.1",
        Database::MySql,
        "@Entity('t')\nexport class T {\n  @PrimaryColumn('uuid') id: string = randomUUID();\n}\n",
        &["stored id varchar(255)"],
    ),
    (
        "typeorm@0.3",
        Database::PostgreSql,
        "@Entity('t')\n@Index(['a'], { type: 'gin' })\nexport class T {\n  @PrimaryColumn() id!: \
         number;\n  @Column('jsonb') a!: unknown;\n}\n",
        &["t, index a, exists = true", "!t, index a, method"],
    ),
    (
        "typeorm@1.1",
        Database::PostgreSql,
        "@Entity('t')\n@Index(['a'], { type: 'gin' })\nexport class T {\n  @PrimaryColumn() id!: \
         number;\n  @Column('jsonb') a!: unknown;\n}\n",
        &["t, index a, method = \"gin\""],
    ),
    (
        "typeorm@0.2",
        Database::PostgreSql,
        "@Entity('t')\nexport class T {\n  @PrimaryColumn() id!: number;\n  @Column({ type: 'int', \
         asExpression: 'id * 2', generatedType: 'STORED' }) a!: number;\n}\n",
        &["t, column a, nullable = \"null\""],
    ),
    (
        "typeorm@0.2",
        Database::Sqlite,
        "@Entity('t')\nexport class T {\n  @PrimaryColumn() id!: number;\n  @Column({ type: 'int', \
         asExpression: 'id * 2', generatedType: 'STORED' }) a!: number;\n}\n",
        &["t, column a, nullable = \"not null\"", "!t, column a, generated"],
    ),
];

const HEADS: &[(&str, &str)] = &[
    ("django", "from django.db import models\n\n"),
    (
        "sqlalchemy",
        "import uuid\nimport sqlalchemy as sa\nfrom sqlalchemy.orm import DeclarativeBase, Mapped, \
         mapped_column\n\nclass Base(DeclarativeBase): pass\n\n",
    ),
    ("typeorm", "import { Column, Entity, Index, PrimaryColumn } from 'typeorm';\n\n"),
];

fn text(dialect: &str, body: &str) -> String {
    let head = HEADS.iter().find(|(id, _)| dialect.starts_with(id)).expect("a head").1;
    format!("{head}{body}")
}

#[test]
fn releases_read_otherwise() {
    for (dialect, database, body, wanted) in CASES {
        let text = text(dialect, body);
        let (held, facts): (Vec<&str>, Vec<&str>) =
            wanted.iter().partition(|line| line.starts_with("stored "));
        check_on(*database, dialect, &text, Vec::new(), &facts);
        let schema = reading(dialect, &text, Vec::new(), *database).schema;
        for line in held {
            let words: Vec<&str> = line.split(' ').collect();
            let field = schema.entities[0].field(words[1]).expect("a column");
            assert_eq!(field.stored, words[2], "{dialect}, {line}\n{text}");
        }
    }
}

#[test]
fn what_a_release_does_not_make_is_said() {
    let generated = |(dialect, database): (&str, Database)| {
        let body = CASES.last().expect("a case").2;
        let found = reading(dialect, &text(dialect, body), Vec::new(), database).diagnostics;
        found.iter().any(|found| found.code == "said-in-vain")
    };
    assert!(generated(("typeorm@0.2", Database::Sqlite)));
    for quiet in [("typeorm@0.3", Database::Sqlite), ("typeorm@0.2", Database::PostgreSql)] {
        assert!(!generated(quiet), "{quiet:?}");
    }
}
