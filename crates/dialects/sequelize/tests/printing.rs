//! Declarations, read and written again: what stays as it was written, and what is written in the usual way.

use sprachbund_dialect::dialect::{Medium, Settings};
use sprachbund_host::project::Project;
use sprachbund_schema::source::NoFiles;
use sprachbund_sequelize::DIALECT;

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth: DataTypes.INTEGER,", "declare depth: number | null;\ndepth: DataTypes.INTEGER,"),
    (
        "depth: { type: DataTypes.INTEGER, allowNull: false },",
        "declare depth: number;\ndepth: { type: DataTypes.INTEGER, allowNull: false },",
    ),
    (
        "price: { type: DataTypes.DECIMAL(6, 2), defaultValue: 1.5 },",
        "declare price: CreationOptional<string | null>;\nprice: { type: DataTypes.DECIMAL(6, 2), defaultValue: 1.5 },",
    ),
    (
        "note: { type: DataTypes.STRING(40), unique: true, field: 'note_text' },",
        "declare note: string | null;\nnote: { type: DataTypes.STRING(40), field: 'note_text', unique: true },",
    ),
    (
        "note: { type: DataTypes.TEXT, comment: 'what it is' },",
        "declare note: string | null;\nnote: { type: DataTypes.TEXT, comment: 'what it is' },",
    ),
    (
        "at: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },",
        "declare at: CreationOptional<Date | null>;\nat: { type: DataTypes.DATE, defaultValue: DataTypes.NOW },",
    ),
    (
        "key: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },",
        "declare key: CreationOptional<string>;\nkey: { type: DataTypes.UUID, primaryKey: true, defaultValue: DataTypes.UUIDV4 },",
    ),
    (
        "kind: DataTypes.ENUM('bulk', 'container'),",
        "declare kind: 'bulk' | 'container' | null;\nkind: DataTypes.ENUM('bulk', 'container'),",
    ),
    ("depths: DataTypes.ARRAY(DataTypes.INTEGER),", "declare depths: number[] | null;\ndepths: DataTypes.ARRAY(DataTypes.INTEGER),"),
    ("where: DataTypes.JSONB,", "declare where: unknown | null;\nwhere: DataTypes.JSONB,"),
    (
        "depth: { type: DataTypes.INTEGER, validate: { min: 1, max: 30 } },",
        "declare depth: number | null;\ndepth: { type: DataTypes.INTEGER, validate: { min: 1, max: 30 } },",
    ),
    (
        "quay_id: { type: DataTypes.INTEGER, references: { model: Quay, key: 'id' }, onDelete: 'CASCADE' },",
        "declare quay_id: number | null;\nquay_id: {\ntype: DataTypes.INTEGER,\nreferences: { model: 'Quays', key: 'id' },\nonDelete: 'CASCADE',\n},",
    ),
    (
        "free: { type: DataTypes.BOOLEAN, defaultValue: true },",
        "declare free: CreationOptional<boolean | null>;\nfree: { type: DataTypes.BOOLEAN, defaultValue: true },",
    ),
];

const HEAD: &str = "const Quay = sequelize.define('Quay', {});\n";

/// The declarations of a class with this body.
fn class(body: &str) -> String {
    let body: String = body.lines().map(|line| format!("  {line}\n")).collect();
    format!("{HEAD}{}{body}{}", "const Berth = sequelize.define('Berth', {\n", "});\n")
}

/// The class as it is written again, from its first line on, with one blank where there are several.
fn again(text: String) -> String {
    let settings = Settings::default();
    let mut project = Project::load(vec![("harbour/berth.ts".into(), text)], &DIALECT.wanted(), &NoFiles);
    let Medium::Classes { read, print } = DIALECT.medium else { panic!("classes") };
    let (declarations, diagnostics) = read(&mut project, &settings);
    assert!(diagnostics.is_empty(), "{diagnostics:#?}");
    let files = print(&declarations, &(DIALECT.conventions)(&settings));
    let holds = |text: &&str| text.contains("export class Berth");
    let text = files.iter().map(|file| file.text.as_str()).find(holds).unwrap_or_default();
    let from = text.find("export class Berth").unwrap_or_default();
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
