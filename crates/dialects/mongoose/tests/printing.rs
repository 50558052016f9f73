//! Declarations, read and written again: what stays as it was written, and what is written in the usual way.

use sprachbund_dialect::dialect::{Medium, Settings};
use sprachbund_host::project::Project;
use sprachbund_mongoose::DIALECT;
use sprachbund_schema::source::NoFiles;

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("depth: Number,", ""),
    ("depth: { type: Number, required: true, min: 1, max: 30, default: 3 },", ""),
    (
        "note: { type: String, trim: true, maxlength: 40, unique: true },",
        "note: { type: String, maxlength: 40, trim: true },\nberthSchema.index({ note: 1 }, { unique: true });",
    ),
    ("note: { type: String, enum: ['bulk', 'container'], index: true },", ""),
    ("at: { type: Date, default: Date.now },", ""),
    ("price: Schema.Types.Decimal128,", ""),
    ("quay: { type: Schema.Types.ObjectId, ref: 'Quay', required: true },", ""),
    ("quays: [{ type: Schema.Types.ObjectId, ref: 'Quay' }],", "quays: { type: [Schema.Types.ObjectId], ref: 'Quay' },"),
    ("tags: [String],", ""),
    ("where: { latitude: Number, longitude: Number },", "where: {\nlatitude: Number,\nlongitude: Number,\n},"),
    ("moored: { type: Boolean, default: false },", ""),
    ("extra: Schema.Types.Mixed,", ""),
    ("counts: { type: Map, of: Number },", ""),
];

const HEAD: &str = "";

/// The declarations of a class with this body.
fn class(body: &str) -> String {
    let body: String = body.lines().map(|line| format!("  {line}\n")).collect();
    format!(
        "{HEAD}{}{body}{}",
        "const berthSchema = new Schema({\n  name: String,\n", "});\nexport const Berth = mongoose.model('Berth', berthSchema);\n"
    )
}

/// The class as it is written again, from its first line on, with one blank where there are several.
fn again(text: String) -> String {
    let settings = Settings::default();
    let mut project = Project::load(vec![("harbour/berth.ts".into(), text)], &DIALECT.wanted(), &NoFiles);
    let Medium::Classes { read, print } = DIALECT.medium else { panic!("classes") };
    let (declarations, diagnostics) = read(&mut project, &settings);
    assert!(diagnostics.is_empty(), "{diagnostics:#?}");
    let files = print(&declarations, &(DIALECT.conventions)(&settings));
    let holds = |text: &&str| text.contains("Schema = new Schema(");
    let text = files.iter().map(|file| file.text.as_str()).find(holds).unwrap_or_default();
    let from = text.find("Schema = new Schema(").unwrap_or_default();
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
