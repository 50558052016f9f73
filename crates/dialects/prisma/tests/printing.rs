//! Declarations, read and written again: what stays as it was written, and what is written in the
//! usual way.

#[path = "../../printing.rs"]
mod printing;

use printing::{Class, check};

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth Int", ""),
    ("depth Int? @default(3)", ""),
    ("price Decimal @db.Decimal(6, 2)", ""),
    ("note String @unique @map(\"note_text\")", ""),
    (
        "note String @db.VarChar(40) @default(\"it's\")",
        "note String @default(\"it's\") @db.VarChar(40)",
    ),
    ("at DateTime @default(now()) @updatedAt", ""),
    ("at DateTime @db.Timestamptz(3)", ""),
    ("key String @default(uuid()) @db.Uuid", ""),
    ("kind Kind @default(bulk)", ""),
    ("depths Int[]", ""),
    ("where Json @default(\"{}\")", ""),
    ("big BigInt @default(dbgenerated(\"1 + 1\"))", ""),
    ("other Unsupported(\"tsvector\")?", ""),
    ("depth Int\n@@index([depth(sort: Desc)], map: \"by_depth\")", ""),
    ("depth Int\n@@unique([depth, id])", ""),
    ("depth Int\n@@map(\"berths\")\n@@schema(\"port\")", ""),
];

const CLASS: Class = Class {
    path: "harbour.prisma",
    head: "enum Kind {
  bulk
  container @map(\"box\")
}

model Quay {
  id Int @id
  berths Berth[]
}

",
    before: "model Berth {
  id Int @id @default(autoincrement())
  quayId Int
  quay Quay @relation(fields: [quayId], references: [id])
",
    indentation: "  ",
    after: "}\n",
    first_line: "model Berth",
};

#[test]
fn what_is_read_is_written_again() {
    check(&sprachbund_prisma::DIALECT, &CLASS, CASES);
}
