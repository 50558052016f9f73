//! Constructs of Prisma schemas.

use sprachbund_core::schema::Database;

use super::{check, check_on, reading};

const FIELDS: &[(&str, &[&str])] = &[
    (
        "a String",
        &[
            "t, column a, type = \"text\"",
            "t, column a, nullable = \"not null\"",
            "t, column a, optional_in_code = \"required\"",
        ],
    ),
    (
        "a String?",
        &["t, column a, nullable = \"null\"", "t, column a, optional_in_code = \"optional\""],
    ),
    (
        "a Int @default(7)",
        &[
            "t, column a, type = \"integer\"",
            "t, column a, default in the database = {\"literal\":7}",
        ],
    ),
    ("a Int @default(autoincrement())", &["t, column a, identity = \"sequence\""]),
    ("a BigInt", &["t, column a, type = \"bigint\""]),
    ("a Float", &["t, column a, type = \"double precision\""]),
    ("a Decimal", &["t, column a, type = \"numeric(65,30)\""]),
    (
        "a Decimal @default(1.50) @db.Decimal(9, 2)",
        &[
            "t, column a, type = \"numeric(9,2)\"",
            "t, column a, default in the database = {\"literal\":\"1.5\"}",
        ],
    ),
    (
        "a Bytes @default(\"aGk=\")",
        &[
            "t, column a, type = \"binary\"",
            "t, column a, default in the database = {\"literal\":\"\\\\x6869\"}",
        ],
    ),
    (
        "a Json @default(\"{\\\"b\\\": [1]}\")",
        &[
            "t, column a, type = \"binary json\"",
            "t, column a, default in the database = {\"literal\":{\"b\":[1]}}",
        ],
    ),
    ("a Json @db.Json", &["t, column a, type = \"json\""]),
    ("a Boolean @default(false)", &["t, column a, default in the database = {\"literal\":false}"]),
    (
        "a DateTime @default(now())",
        &[
            "t, column a, type = \"timestamp(3)\"",
            "t, column a, default in the database = {\"function\":\"now\"}",
        ],
    ),
    (
        "a DateTime @default(\"2026-01-02T03:04:05+02:00\") @db.Timestamptz(0)",
        &[
            "t, column a, type = \"timestamp(0) with time zone\"",
            "t, column a, default in the database = {\"literal\":\"2026-01-02 03:04:05 +02:00\"}",
        ],
    ),
    (
        "a DateTime @updatedAt",
        &[
            "t, column a, purpose = \"update-time\"",
            "t, column a, update in the application = {\"function\":\"now\"}",
        ],
    ),
    (
        "a String @default(uuid()) @db.Uuid",
        &[
            "t, column a, type = \"uuid\"",
            "t, column a, default in the application = {\"function\":\"random-uuid\"}",
        ],
    ),
    (
        "a String @default(cuid())",
        &[
            "!t, column a, default in the database",
            "t, column a, default in the application = {\"expression\":{\"language\":\"prisma\",\
             \"database\":null,\"text\":\"cuid()\",\"tree\":null}}",
        ],
    ),
    (
        "a String @default(dbgenerated(\"gen_random_uuid()\")) @db.Uuid",
        &["t, column a, default in the database = {\"function\":\"random-uuid\"}"],
    ),
    (
        "a String @default(dbgenerated()) @db.Char(4)",
        &[
            "t, column a, type = \"char(4)\"",
            "!t, column a, default",
            "t, column a, extra default = [\"dbgenerated()\"]",
        ],
    ),
    (
        "a String[] @default([\"x\", \"y\"])",
        &[
            "t, column a, type = \"text array\"",
            "t, column a, nullable = \"null\"",
            "t, column a, default in the database = {\"literal\":[\"x\",\"y\"]}",
        ],
    ),
    (
        "a Side @default(Port)",
        &[
            "t, column a, type = \"enum(Side)\"",
            "t, column a, default in the database = {\"literal\":\"p\"}",
        ],
    ),
    (
        "a Side[] @default([Port, Starboard])",
        &[
            "t, column a, type = \"enum(Side) array\"",
            "t, column a, default in the database = {\"literal\":[\"p\",\"Starboard\"]}",
        ],
    ),
    ("a String @map(\"b c\")", &["t, column b c, attribute = \"a\""]),
    ("a String @map(name: \"b\") @unique", &["t, unique b, as = \"index\""]),
    ("a String @unique(map: \"u\")", &["t, unique a, name = \"u\""]),
    ("a String @unique(sort: Desc)", &["t, unique index a desc, exists = true"]),
    (
        "a Unsupported(\"tsvector\")?",
        &["t, column a, type = \"search vector\"", "t, column a, nullable = \"null\""],
    ),
    (
        "/// its height\n  a Int // a remark",
        &["t, column a, extra documentation = [\"its height\"]"],
    ),
    ("a Int @ignore", &["t, column a, extra ignored = [true]"]),
];

const BLOCKS: &[(&str, &[&str])] = &[
    (
        "model A {\n b Int\n c Int\n @@id([b, c], name: \"both\", map: \"pk\")\n}",
        &[
            "A, key, columns = [\"b\",\"c\"]",
            "A, key, name = \"pk\"",
            "A, extra id name = [\"both\"]",
        ],
    ),
    (
        "model A {\n b Int\n c Int @id\n @@unique([b, c], map: \"u\")\n}",
        &["A, unique b, c, name = \"u\""],
    ),
    ("model A {\n b Int\n c Int @id\n @@unique(b, map: \"u\")\n}", &["A, unique b, name = \"u\""]),
    (
        "model A {
 b Json @id
 c String
 @@index([b(ops: JsonbPathOps)], type: Gin)
 @@index([c(sort: Desc, ops: raw(\"text_pattern_ops\"))])
}",
        &[
            "A, index b jsonb_path_ops, method = \"gin\"",
            "A, index c desc text_pattern_ops, exists = true",
        ],
    ),
    ("model A {\n b Int @id\n @@schema(\"port\")\n}", &["A, namespace = \"port\""]),
    (
        "model A {
 b Int @id
 c C[]
}
model C {
 d Int @id
 e Int
 a A @relation(fields: [e], references: [b], onDelete: Cascade, map: \"fk\")
}",
        &[
            "C, foreign key e, on_delete = \"cascade\"",
            "C, foreign key e, on_update = \"cascade\"",
            "C, foreign key e, name = \"fk\"",
            "C, relation e, inverse = \"c\"",
            "C, relation e, kind = \"many-to-one\"",
        ],
    ),
    (
        "model A {
 b Int @id
 c C?
}
model C {
 d Int @id
 e Int? @unique
 a A? @relation(fields: [e], references: [b])
}",
        &[
            "C, foreign key e, on_delete = \"set null\"",
            "C, relation e, kind = \"one-to-one\"",
            "C, unique e, as = \"index\"",
        ],
    ),
    (
        "model A {\n b Int @id\n cs C[]\n}\nmodel C {\n d BigInt @id\n as A[]\n}",
        &[
            "_AToC, key, columns = [\"A\",\"B\"]",
            "_AToC, column A, type = \"integer\"",
            "_AToC, column B, type = \"bigint\"",
            "_AToC, index B, exists = true",
            "_AToC, foreign key A, on_delete = \"cascade\"",
        ],
    ),
    (
        "model A {\n b Int @id\n near A[] @relation(\"Near\")\n far A[] @relation(\"Near\")\n}",
        &[
            "_Near, foreign key B, references = [null,\"A\",[\"b\"]]",
            "_Near, foreign key A, references = [null,\"A\",[\"b\"]]",
        ],
    ),
    ("view A {\n b Int @unique\n}", &["A, kind = \"view\"", "!A, created"]),
    (
        "enum E {\n X @map(\"x y\")\n Z\n @@map(\"stored\")\n}\nmodel A {\n b E @id\n}",
        &["enum E, members = [[\"X\",\"x y\"],[\"Z\",\"Z\"]]", "enum E, stored_name = \"stored\""],
    ),
];

#[test]
fn fields() {
    for (body, wanted) in FIELDS {
        let text = format!(
            "enum Side {{
 Port @map(\"p\")
 Starboard
}}
model T {{
  id Int @id
  {body}
  @@map(\"t\")
}}
"
        );
        check("prisma", &text, Vec::new(), wanted);
    }
}

#[test]
fn blocks() {
    for (text, wanted) in BLOCKS {
        check("prisma", text, Vec::new(), wanted);
    }
}

#[test]
fn on_other_servers() {
    let model = |body: &str| format!("model T {{\n {body}\n}}");
    let cases: &[(Database, &str, &[&str])] = &[
        (
            Database::Sqlite,
            "id Int @id\n a DateTime",
            &["T, column id, identity = \"auto-increment\"", "T, column a, held as = \"DATETIME\""],
        ),
        (Database::Sqlite, "id BigInt @id", &["!T, column id, identity"]),
        (
            Database::MySql,
            "id Int @id @db.UnsignedInt\n a String",
            &["T, column id, type = \"unsigned integer\"", "T, column a, type = \"varchar(191)\""],
        ),
    ];
    for (database, body, wanted) in cases {
        check_on(*database, "prisma", &model(body), Vec::new(), wanted);
    }
}

/// What is wrong costs no more than itself, and its place is named.
#[test]
fn what_cannot_be_read_is_named() {
    let cases = [
        ("model T {\n id Int @id\n a Boat\n}", "unknown-type", "Boat"),
        ("model T {\n id Int @id\n a String @db.Money\n}", "unknown-type", "db.Money"),
        ("model T {\n id Int @id\n a Int @default(\"x\" \n}", "syntax-error", ""),
        ("model T {\n id Int @id\n a Bytes @default(\"%\")\n}", "unread-default", "\"%\""),
        (
            "model T {\n id Int @id\n a Side @default(Aft)\n}\nenum Side {\n Port\n}",
            "unread-default",
            "Aft",
        ),
        (
            "model T {\n id Int @id\n a Int\n t T @relation(fields: [a], references: [id])\n}",
            "one-sided-relation",
            "t",
        ),
        (
            "model T {\n id Int @id\n s S[]\n}\nmodel S {\n id Int @id\n t T\n}",
            "relation-without-reference",
            "s",
        ),
        (
            "model T {
 id Int @id
 s S[]
}
model S {
 id Int @id
 t T @relation(fields: [x], references: [id])
}",
            "unknown-attribute",
            "relation(fields: [x], references: [id])",
        ),
        (
            "model T {
 id Int @id
 s S[]
}
model S {
 id Int @id
 x Int
 t T @relation(fields: [x], references: [id], onDelete: Sink)
}",
            "unknown-action",
            "Sink",
        ),
        (
            "datasource db {\n provider = \"mongodb\"\n}\nmodel T {\n id Int @id\n}",
            "unread-provider",
            "\"mongodb\"",
        ),
        (
            "datasource db {\n provider = \"mysql\"\n}\nmodel T {\n id Int @id\n}",
            "other-database",
            "\"mysql\"",
        ),
        ("type P {\n x Int\n}\nmodel T {\n id Int @id\n p P\n}", "unread-field", "p"),
        ("harbour T {\n id Int @id\n}\nmodel T {\n id Int @id\n}", "unread-block", "T"),
        (
            "model T {\n id Int @id @map(\"x\", deep: true)\n}",
            "unread-option",
            "map(\"x\", deep: true)",
        ),
        ("model T {\n id Int @id\n}\nmodel T {\n id Int @id\n}", "declared-twice", ""),
    ];
    for (text, code, place) in cases {
        let read = reading("prisma", text, Vec::new(), Database::PostgreSql);
        let found = read.diagnostics.iter().find(|diagnostic| diagnostic.code == code);
        let found = found.unwrap_or_else(|| panic!("{code} of\n{text}\n{:#?}", read.diagnostics));
        let at = found.primary.as_ref().map_or("", |label| read.sources.text(label.span));
        assert!(place.is_empty() || at == place, "{at:?} of\n{text}");
        assert!(read.schema.entities.iter().any(|entity| entity.name == "T"), "{text}");
    }
}
