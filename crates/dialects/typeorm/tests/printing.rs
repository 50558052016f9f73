//! Declarations, read and written again: what stays as it was written, and what is written in the usual way.

use sprachbund_dialect::dialect::{Medium, Settings};
use sprachbund_host::project::Project;
use sprachbund_schema::source::NoFiles;
use sprachbund_typeorm::DIALECT;

/// What is written, and what is written again; nothing where it is the same.
const CASES: &[(&str, &str)] = &[
    ("@Column()\ndepth!: number;", ""),
    ("@Column({ nullable: true })\ndepth!: number | null;", "@Column({ type: 'integer', nullable: true })\ndepth!: number | null;"),
    (
        "@Column('decimal', { precision: 6, scale: 2 })\nprice!: string;",
        "@Column({ type: 'decimal', precision: 6, scale: 2 })\nprice!: string;",
    ),
    (
        "@Column({ type: 'varchar', length: 40, unique: true, name: 'note_text' })\nnote!: string;",
        "@Column({ length: 40, name: 'note_text', unique: true })\nnote!: string;",
    ),
    ("@Column({ type: 'text', default: '' })\nnote!: string;", ""),
    ("@Column({ default: () => 'now()' })\nat!: Date;", ""),
    (
        "@Column('timestamp with time zone', { precision: 3 })\nat!: Date;",
        "@Column({ type: 'timestamp with time zone', precision: 3 })\nat!: Date;",
    ),
    ("@CreateDateColumn()\nat!: Date;", ""),
    ("@UpdateDateColumn()\nat!: Date;", ""),
    ("@DeleteDateColumn()\nat!: Date | null;", ""),
    ("@VersionColumn()\nversion!: number;", ""),
    (
        "@Column({ type: 'enum', enum: ['bulk', 'container'] })\nkind!: string;",
        "@Column({ type: 'enum', enum: ['bulk', 'container'] })\nkind!: 'bulk' | 'container';",
    ),
    ("@Column('simple-json')\nwhere!: object;", "@Column({ type: 'simple-json' })\nwhere!: unknown;"),
    ("@Column('int', { array: true })\ndepths!: number[];", "@Column({ type: 'int', array: true })\ndepths!: number[];"),
    (
        "@Column({ comment: 'what it is', collation: 'C' })\nnote!: string;",
        "@Column({ collation: 'C', comment: 'what it is' })\nnote!: string;",
    ),
    ("@Column({ select: false, update: false })\nnote!: string;", ""),
    (
        "@Column({ generatedType: 'STORED', asExpression: 'id + 1' })\ndeep!: number;",
        "@Column({ asExpression: '\"id\" + 1', generatedType: 'STORED' })\ndeep!: number;",
    ),
    ("@Index()\n@Column()\ndepth!: number;", ""),
    ("@Index('by_depth', { unique: true })\n@Column()\ndepth!: number;", "@Column()\ndepth!: number;"),
    ("@ManyToOne(() => Quay)\nquay!: Quay;", ""),
    (
        "@ManyToOne(() => Quay, { onDelete: 'CASCADE', nullable: false })\n@JoinColumn({ name: 'at' })\nquay!: Quay;",
        "@ManyToOne(() => Quay, { nullable: false, onDelete: 'CASCADE' })\n@JoinColumn({ name: 'at' })\nquay!: Quay;",
    ),
    ("@OneToOne(() => Quay)\n@JoinColumn()\nquay!: Quay;", ""),
    ("@ManyToMany(() => Quay)\n@JoinTable({ name: 'at' })\nquays!: Quay[];", ""),
    ("@ManyToOne(() => Quay, { createForeignKeyConstraints: false, eager: true })\nquay!: Quay;", ""),
];

const HEAD: &str = "import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';\n\n@Entity()\nexport class Quay {\n  @PrimaryGeneratedColumn()\n  id!: number;\n}\n\n";

/// The declarations of a class with this body.
fn class(body: &str) -> String {
    let body: String = body.lines().map(|line| format!("  {line}\n")).collect();
    format!("{HEAD}{}{body}{}", "@Entity()\nexport class Berth {\n  @PrimaryGeneratedColumn()\n  id!: number;\n", "}\n")
}

/// The class as it is written again, from its first line on, with one blank where there are several.
fn again(text: String) -> String {
    let settings = Settings::default();
    let mut project = Project::load(vec![("harbour/berth.entity.ts".into(), text)], &DIALECT.wanted(), &NoFiles);
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
