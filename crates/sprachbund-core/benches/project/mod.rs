//! A generated project, as people write it in each dialect: entities with 12 fields, 2 relations
//! and an index each, five to a file. Its texts are the [`TEMPLATES`], filled in with numbers.

use sprachbund_core::dialect::{Dialect, Medium, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::source::{FileId, NoFiles, SourceFile};

/// The allocator of the command.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Entities in one file.
const PER_FILE: usize = 5;

/// How a dialect's files are put together. `@N@` in a text is the number of the entity, `@B@` and
/// `@T@` those of the two that it refers to, `@O@` and `@P@` those of the two that refer to it;
/// `@Bf@` is the number of a file.
struct Template {
    dialect: &'static str,
    /// Name of a file below its folder.
    file: &'static str,
    /// What stands before everything else.
    head: &'static str,
    /// The import of another entity `@X@`, where one is needed.
    import: &'static str,
    entity: &'static str,
    /// A file of the project without entities, and its text.
    beside: Option<(&'static str, &'static str)>,
}

const TEMPLATES: &[Template] = &[
    Template {
        dialect: "django",
        file: "models.py",
        head: include_str!("templates/django.head.txt"),
        import: "",
        entity: include_str!("templates/django.txt"),
        beside: None,
    },
    Template {
        dialect: "mongoose",
        file: "vessels.ts",
        head: include_str!("templates/mongoose.head.txt"),
        import: "",
        entity: include_str!("templates/mongoose.txt"),
        beside: None,
    },
    Template {
        dialect: "prisma",
        file: "vessels.prisma",
        head: "",
        import: "",
        entity: include_str!("templates/prisma.txt"),
        beside: Some((
            "project/schema.prisma",
            "datasource db {\n  provider = \"postgresql\"\n}\n",
        )),
    },
    Template {
        dialect: "sequelize",
        file: "vessels.ts",
        head: include_str!("templates/sequelize.head.txt"),
        import: include_str!("templates/sequelize.import.txt"),
        entity: include_str!("templates/sequelize.txt"),
        beside: None,
    },
    Template {
        dialect: "sqlalchemy",
        file: "models.py",
        head: include_str!("templates/sqlalchemy.head.txt"),
        import: "",
        entity: include_str!("templates/sqlalchemy.txt"),
        beside: Some((
            "project/base.py",
            "from sqlalchemy.orm import DeclarativeBase\n\n\n\
             class Base(DeclarativeBase):\n    pass\n",
        )),
    },
    Template {
        dialect: "typeorm",
        file: "vessels.entity.ts",
        head: include_str!("templates/typeorm.head.txt"),
        import: include_str!("templates/typeorm.import.txt"),
        entity: include_str!("templates/typeorm.txt"),
        beside: None,
    },
];

/// Numbers between an entity and the two that it refers to.
const STEPS: [usize; 2] = [13, 26];

/// The entity that another refers to. Each is referred to once by either relation, as long as the
/// number of all has no common divisor with seven.
fn target(entity: usize, step: usize, all: usize) -> usize {
    (entity * 7 + step) % all
}

/// The entity that refers to this one.
fn referring(entity: usize, step: usize, all: usize) -> usize {
    let inverse = (1..all).find(|number| number * 7 % all == 1).unwrap_or(1);
    (entity + all - step % all) * inverse % all
}

/// Files of a project with this many entities, by path and text.
pub(crate) fn files(dialect: &Dialect, entities: usize) -> Vec<(String, String)> {
    let template = TEMPLATES.iter().find(|template| template.dialect == dialect.id);
    let template = template.expect("every dialect of classes has a template");
    let mut files: Vec<(String, String)> = (0..entities / PER_FILE)
        .map(|file| {
            let path = format!("project/wharf{file}/{}", template.file);
            (path, template.text(file * PER_FILE..(file + 1) * PER_FILE, entities))
        })
        .collect();
    files.extend(template.beside.map(|(path, text)| (path.to_owned(), text.to_owned())));
    files
}

impl Template {
    fn text(&self, entities: std::ops::Range<usize>, all: usize) -> String {
        let mut imported: Vec<usize> = Vec::new();
        let mut bodies = String::new();
        for entity in entities.clone() {
            let [beside, tow] = STEPS.map(|step| target(entity, step, all));
            let [lies, tows] = STEPS.map(|step| referring(entity, step, all));
            imported.extend([beside, tow]);
            let numbers = [
                ("@N@", entity),
                ("@B@", beside),
                ("@T@", tow),
                ("@O@", lies),
                ("@P@", tows),
                ("@Bf@", beside / PER_FILE),
                ("@Tf@", tow / PER_FILE),
            ];
            bodies.push_str(&filled(self.entity, &numbers));
        }
        imported.sort_unstable();
        imported.dedup();
        imported.retain(|entity| !entities.contains(entity));
        let import =
            |entity: &usize| filled(self.import, &[("@X@", *entity), ("@Xf@", entity / PER_FILE)]);
        let imports: String = imported.iter().map(import).collect();
        let mut text = format!("{}{imports}{bodies}", self.head);
        text.shrink_to_fit();
        text
    }
}

fn filled(template: &str, numbers: &[(&str, usize)]) -> String {
    let mut text = template.to_owned();
    for (mark, number) in numbers {
        text = text.replace(mark, &number.to_string());
    }
    text
}

/// A file without a declaration: its import of the models, a line that repeats, its extension.
const IDLE: &[(&[&str], &str, &str, &str)] = &[
    (
        &["prisma"],
        "// See wharf1.prisma.\n",
        "// The tonnage of a vessel is what it may carry, less what it weighs: cargo, weight.\n\n",
        "prisma",
    ),
    (
        &["django", "sqlalchemy"],
        "from wharf1.models import Vessel1\n",
        "def weigh(vessel, cargo):\n    return vessel.tonnage - sum(item.weight for item in \
         cargo)\n\n\n",
        "py",
    ),
    (
        &["mongoose", "sequelize", "typeorm"],
        "import { Vessel1 } from '../wharf1/vessels';\n",
        "export function weigh(vessel: any, cargo: any[]) {\n  return vessel.tonnage - \
         cargo.length;\n}\n\n",
        "ts",
    ),
];

/// Files of about the same length without a declaration; every second one imports the models.
pub(crate) fn idle_files(dialect: &Dialect, count: usize) -> Vec<(String, String)> {
    let of_dialect = IDLE.iter().find(|(dialects, ..)| dialects.contains(&dialect.id));
    let (_, import, line, extension) = of_dialect.expect("every dialect of classes has one");
    (0..count)
        .map(|file| {
            let head = if file % 2 == 0 { import } else { "" };
            let text = format!("{head}{}", line.repeat(60));
            (format!("project/wharf{file}/service.{extension}"), text)
        })
        .collect()
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
