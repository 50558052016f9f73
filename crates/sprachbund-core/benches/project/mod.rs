//! A generated project: entities with 12 fields, 2 relations and an index each, five to a file.

use std::fmt::Write as _;

use sprachbund_core::dialect::{Dialect, Medium, Settings};
use sprachbund_core::dialects::{DIALECTS, by_id};
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::source::{FileId, NoFiles, SourceFile};

/// The allocator of the command.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Entities in one file.
const PER_FILE: usize = 5;

/// Files of a project with this many entities, by path and text.
pub(crate) fn files(dialect: &Dialect, entities: usize) -> Vec<(String, String)> {
    match dialect.id {
        "django" | "typeorm" => written(dialect, entities),
        _ => emitted(dialect, entities),
    }
}

/// The project as it is emitted from another dialect.
fn emitted(dialect: &Dialect, entities: usize) -> Vec<(String, String)> {
    let django = by_id("django").expect("a dialect");
    let schema = schema(django, written(django, entities)).schema;
    let settings = Settings { database: Some(dialect.database(None)), ..Settings::default() };
    let printed = printed(dialect, &fit(&schema, dialect, &settings).schema, &(dialect.conventions)(&settings));
    printed.into_iter().map(|file| (format!("project/{}", file.path), file.text)).collect()
}

fn written(dialect: &Dialect, entities: usize) -> Vec<(String, String)> {
    (0..entities / PER_FILE)
        .map(|file| {
            let range = file * PER_FILE..(file + 1) * PER_FILE;
            let (path, mut text) = match dialect.id {
                "django" => (format!("project/wharf{file}/models.py"), django(range, entities)),
                _ => (format!("project/wharf{file}/vessels.entity.ts"), typeorm(range, entities)),
            };
            text.shrink_to_fit();
            (path, text)
        })
        .collect()
}

/// Files of about the same length without a declaration; every second one imports the models.
pub(crate) fn idle_files(dialect: &Dialect, count: usize) -> Vec<(String, String)> {
    (0..count)
        .map(|file| {
            let (import, line, extension) = match dialect.id {
                "prisma" => ("// See wharf1.prisma.\n", "// The tonnage of a vessel is what it may carry, less the weight of what it carries: vessel.tonnage, cargo, item.weight.\n\n", "prisma"),
                "django" | "sqlalchemy" => ("from wharf1.models import Vessel1\n", "def weigh(vessel, cargo):\n    return vessel.tonnage - sum(item.weight for item in cargo)\n\n\n", "py"),
                _ => ("import { Vessel1 } from '../wharf1/vessels.entity';\n", "export function weigh(vessel: any, cargo: any[]) {\n  return vessel.tonnage - cargo.reduce((sum, item) => sum + item.weight, 0);\n}\n\n", "ts"),
            };
            let head = if file % 2 == 0 { import } else { "" };
            (format!("project/wharf{file}/service.{extension}"), format!("{head}{}", line.repeat(60)))
        })
        .collect()
}

fn target(entity: usize, step: usize, all: usize) -> usize {
    (entity * 7 + step * 13) % all
}

fn django(range: std::ops::Range<usize>, all: usize) -> String {
    let mut out = String::from("from django.db import models\nfrom django.utils import timezone\n\n\n");
    for entity in range {
        let label = |target: usize| format!("wharf{}.Vessel{target}", target / PER_FILE);
        write!(
            out,
            "class Vessel{entity}(models.Model):\n    name = models.CharField(max_length=80, unique=True)\n    call_sign = models.CharField(max_length=12, db_index=True)\n    flag = models.CharField(max_length=2, default=\"XX\")\n    tonnage = models.DecimalField(max_digits=10, decimal_places=2)\n    masts = models.PositiveSmallIntegerField(default=1)\n    launched = models.DateField(null=True, blank=True)\n    inspected_at = models.DateTimeField(default=timezone.now)\n    active = models.BooleanField(default=True)\n    remarks = models.TextField(blank=True)\n    cargo = models.JSONField(default=dict)\n    recorded_at = models.DateTimeField(auto_now_add=True)\n    changed_at = models.DateTimeField(auto_now=True)\n    beside = models.ForeignKey(\"{}\", on_delete=models.PROTECT, related_name=\"beside_{entity}\")\n    towed_by = models.ForeignKey(\"{}\", on_delete=models.SET_NULL, null=True, blank=True, related_name=\"tows_{entity}\")\n\n    class Meta:\n        indexes = [models.Index(fields=[\"flag\", \"tonnage\"], name=\"vessel{entity}_flag\")]\n\n    def __str__(self):\n        return self.name\n\n\n",
            label(target(entity, 1, all)),
            label(target(entity, 2, all))
        )
        .expect("a string grows");
    }
    out
}

fn typeorm(range: std::ops::Range<usize>, all: usize) -> String {
    let mut out = String::from(
        "import { Column, CreateDateColumn, Entity, Index, ManyToOne, PrimaryGeneratedColumn, UpdateDateColumn } from 'typeorm';\n",
    );
    let mut bodies = String::new();
    for entity in range {
        let (beside, tow) = (target(entity, 1, all), target(entity, 2, all));
        write!(
            bodies,
            "\n@Entity()\n@Index('vessel{entity}_flag', ['flag', 'tonnage'])\nexport class Vessel{entity} {{\n  @PrimaryGeneratedColumn()\n  id!: number;\n\n  @Column({{ length: 80, unique: true }})\n  name!: string;\n\n  @Index()\n  @Column({{ length: 12 }})\n  callSign!: string;\n\n  @Column({{ length: 2, default: 'XX' }})\n  flag!: string;\n\n  @Column({{ type: 'numeric', precision: 10, scale: 2 }})\n  tonnage!: string;\n\n  @Column({{ type: 'smallint', default: 1 }})\n  masts!: number;\n\n  @Column({{ type: 'date', nullable: true }})\n  launched!: string | null;\n\n  @Column({{ type: 'timestamptz', default: () => 'now()' }})\n  inspectedAt!: Date;\n\n  @Column({{ default: true }})\n  active!: boolean;\n\n  @Column('text')\n  remarks!: string;\n\n  @Column({{ type: 'jsonb', default: {{}} }})\n  cargo!: object;\n\n  @CreateDateColumn()\n  recordedAt!: Date;\n\n  @UpdateDateColumn()\n  changedAt!: Date;\n\n  @ManyToOne(() => Vessel{beside}, {{ nullable: false, onDelete: 'RESTRICT' }})\n  beside!: Vessel{beside};\n\n  @ManyToOne(() => Vessel{tow}, {{ onDelete: 'SET NULL' }})\n  towedBy!: Vessel{tow} | null;\n}}\n"
        )
        .expect("a string grows");
        for target in [beside, tow] {
            let import = format!("import {{ Vessel{target} }} from '../wharf{}/vessels.entity';\n", target / PER_FILE);
            if !out.contains(&import) {
                out.push_str(&import);
            }
        }
    }
    out + &bodies
}

/// From bytes to the unprinted schema.
pub(crate) fn schema(dialect: &Dialect, files: Vec<(String, String)>) -> Reading {
    read(files, dialect, &mut Settings::default(), &NoFiles)
}

/// Nothing but the syntax trees of the same bytes.
pub(crate) fn bare(dialect: &Dialect, files: &[(String, String)]) -> usize {
    use rayon::prelude::*;
    let nodes = |text: &str| match dialect.language.parse(text) {
        Some(tree) => tree.root_node().child_count() as usize,
        // A language with a parser of our own.
        None => dialect.language.outline(FileId(0), &SourceFile::new("", text)).classes.len(),
    };
    files.par_iter().map(|(_, text)| nodes(text)).sum()
}

/// Every dialect of classes.
pub(crate) fn dialects() -> Vec<&'static Dialect> {
    DIALECTS.iter().filter(|dialect| matches!(dialect.medium, Medium::Classes { .. })).collect()
}

/// Runs on this many threads.
pub(crate) fn on<T: Send>(threads: usize, run: impl FnOnce() -> T + Send) -> T {
    rayon::ThreadPoolBuilder::new().num_threads(threads).build().expect("threads").install(run)
}
