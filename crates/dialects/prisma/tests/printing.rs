//! Declarations, read and written again: what stays as it was written, and what is written in the usual way.

use sprachbund_dialect::dialect::{Medium, Settings};
use sprachbund_host::project::Project;
use sprachbund_prisma::DIALECT;
use sprachbund_schema::source::NoFiles;

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth Int", ""),
    ("depth Int? @default(3)", ""),
    ("price Decimal @db.Decimal(6, 2)", ""),
    ("note String @unique @map(\"note_text\")", ""),
    ("note String @db.VarChar(40) @default(\"it's\")", "note String @default(\"it's\") @db.VarChar(40)"),
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

const HEAD: &str = "enum Kind {\n  bulk\n  container @map(\"box\")\n}\n\nmodel Quay {\n  id Int @id\n  berths Berth[]\n}\n\n";

/// The declarations of a class with this body.
fn class(body: &str) -> String {
    let body: String = body.lines().map(|line| format!("  {line}\n")).collect();
    format!(
        "{HEAD}{}{body}{}",
        "model Berth {\n  id Int @id @default(autoincrement())\n  quayId Int\n  quay Quay @relation(fields: [quayId], references: [id])\n",
        "}\n"
    )
}

/// The class as it is written again, from its first line on, with one blank where there are several.
fn again(text: String) -> String {
    let settings = Settings::default();
    let mut project = Project::load(vec![("harbour.prisma".into(), text)], &DIALECT.wanted(), &NoFiles);
    let Medium::Classes { read, print } = DIALECT.medium else { panic!("classes") };
    let (declarations, diagnostics) = read(&mut project, &settings);
    assert!(diagnostics.is_empty(), "{diagnostics:#?}");
    let files = print(&declarations, &(DIALECT.conventions)(&settings));
    let holds = |text: &&str| text.contains("model Berth");
    let text = files.iter().map(|file| file.text.as_str()).find(holds).unwrap_or_default();
    let from = text.find("model Berth").unwrap_or_default();
    let line = |line: &str| line.split_whitespace().collect::<Vec<_>>().join(" ");
    text[from..].lines().skip(1).map(line).filter(|line| !line.is_empty()).collect::<Vec<_>>().join("\n")
}

/// What is written of a body, without the lines that are written of any.
fn own_lines(body: &str) -> String {
    let frame = again(class(""));
    assert!(frame.lines().count() > 0, "nothing is written");
    let mut frame: Vec<&str> = frame.lines().collect();
    let again = again(class(body));
    let own = again.lines().filter(|line| match frame.iter().position(|known| known == line) {
        Some(at) => {
            frame.remove(at);
            false
        }
        None => true,
    });
    own.collect::<Vec<_>>().join("\n")
}

#[test]
fn what_is_read_is_written_again() {
    let mut wrong = String::new();
    for (written, wanted) in CASES {
        let found = own_lines(written);
        let wanted = if wanted.is_empty() { written } else { wanted };
        if found != *wanted {
            wrong.push_str(&format!("\u{1}{written}\u{2}{found}\u{3}\n"));
        }
    }
    assert!(wrong.is_empty(), "{wrong}");
}
