//! What has to be known of a whole project before a block is read.

use std::collections::HashMap;

use smol_str::SmolStr;

use super::enumeration::enumeration;
use super::{keyword, mapped, parts};
use crate::PROJECT_FILE;
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::dialect::Settings;
use crate::dialect::conventions::Conventions;
use crate::host::outline::{Class, Expr, ExprKind, Member};
use crate::host::project::Project;
use crate::schema::{Database, EnumType, Origin};

/// Folders that say nothing of the module whose schema they hold.
const PLAIN_FOLDERS: &[&str] =
    &["", ".", "build", "client", "db", "dist", "generated", "models", "prisma", "schema", "src"];

/// What a name stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Block {
    /// A model or a view.
    Model,
    Enum,
    /// A part of a document.
    Composite,
}

/// A field whose type is a model: one side of a relation.
#[derive(Clone, Debug)]
pub(super) struct RelationSide {
    pub(super) field: SmolStr,
    pub(super) target: SmolStr,
    pub(super) list: bool,
    /// The name that the relation has to be told from others.
    label: Option<SmolStr>,
    /// Whether it says which columns carry the relation.
    pub(super) owns: bool,
}

pub(super) struct KnownProject {
    pub(super) conventions: Conventions,
    /// Module of each file.
    pub(super) modules: Vec<String>,
    pub(super) enums: Vec<EnumType>,
    pub(super) diagnostics: Vec<Diagnostic>,
    blocks: HashMap<SmolStr, (Block, String)>,
    sides: HashMap<SmolStr, Vec<RelationSide>>,
    /// Columns of fields that are called otherwise, by model and field.
    columns: HashMap<(SmolStr, SmolStr), String>,
}

impl KnownProject {
    pub(super) fn of(project: &Project, settings: &Settings) -> Self {
        let fallback = settings.default_module.as_deref().unwrap_or("main");
        let modules: Vec<String> =
            project.files().map(|(file, _)| module(project.path(file), fallback)).collect();
        let mut known = KnownProject {
            conventions: super::super::conventions::conventions(settings),
            modules,
            enums: Vec::new(),
            diagnostics: Vec::new(),
            blocks: HashMap::new(),
            sides: HashMap::new(),
            columns: HashMap::new(),
        };
        let classes = || {
            project
                .files()
                .flat_map(|(file, outline)| outline.classes.iter().map(move |class| (file, class)))
        };
        for (file, class) in classes() {
            let module = known.modules[file.0 as usize].clone();
            known.name(class, module, project);
        }
        for (_, class) in classes().filter(|(_, class)| matches!(keyword(class), "model" | "view"))
        {
            known.look_over(class);
        }
        known
    }

    fn name(&mut self, class: &Class, module: String, project: &Project) {
        let block = match keyword(class) {
            "model" | "view" => Block::Model,
            "type" => Block::Composite,
            "enum" => {
                let mut read = enumeration(class, &module);
                read.origin = Origin::declared(project.sources.file(class.span.file), class.span);
                self.enums.push(read);
                Block::Enum
            }
            "datasource" => return self.datasource(class),
            "generator" => return,
            other => {
                let message =
                    format!("`{other} {}` is no block that is known: it is left out", class.name);
                self.diagnostics.push(
                    Diagnostic::of(&codes::UNREAD_BLOCK, message).at(Some(class.span), "left out"),
                );
                return;
            }
        };
        let id = format!("{module}.{}", class.name);
        self.blocks.entry(class.name.clone()).or_insert((block, id));
    }

    fn datasource(&mut self, class: &Class) {
        let Some(provider) = class.member("provider").and_then(|member| member.value.as_ref())
        else {
            return;
        };
        let known = provider
            .text()
            .and_then(|text| super::PROVIDERS.iter().find(|(name, _)| *name == text));
        let meant = self.conventions.database;
        match known {
            None => {
                let message = format!(
                    "this server is not read: its tables are taken for those of {}",
                    meant.title()
                );
                self.diagnostics.push(
                    Diagnostic::of(&codes::UNREAD_PROVIDER, message)
                        .at(Some(provider.span), "not known")
                        .with_help("name a server with --database, and compare what it holds"),
                );
            }
            Some((_, server))
                if *server != meant && !(server.is_mysql() && meant == Database::MariaDb) =>
            {
                let message = format!(
                    "the schema is written for {}, and read for {}",
                    server.title(),
                    meant.title()
                );
                self.diagnostics.push(
                    Diagnostic::of(&codes::OTHER_DATABASE, message)
                        .at(Some(provider.span), "written for this server"),
                );
            }
            Some(_) => {}
        }
    }

    fn look_over(&mut self, class: &Class) {
        for member in &class.members {
            if let Some((target, Block::Model)) = self.block(member) {
                let relation = member
                    .decorators
                    .iter()
                    .map(parts)
                    .find(|(name, _)| *name == "relation")
                    .and_then(|(_, call)| call);
                let label = relation
                    .and_then(|call| call.argument("name").or(call.arguments.first()))
                    .and_then(Expr::text);
                let side = RelationSide {
                    field: member.name.clone(),
                    target: target.into(),
                    list: is_list(member),
                    label: label.map(SmolStr::new),
                    owns: relation.is_some_and(|call| call.argument("fields").is_some()),
                };
                self.sides.entry(class.name.clone()).or_default().push(side);
            }
            if let Some(column) = mapped(&member.decorators) {
                self.columns.insert((class.name.clone(), member.name.clone()), column.to_owned());
            }
        }
    }

    /// The block that a field's type names, if it is one.
    pub(super) fn block<'m>(&self, member: &'m Member) -> Option<(&'m str, Block)> {
        let name = element(member)?.name()?;
        self.blocks.get(name).map(|(block, _)| (name, *block))
    }

    /// The id of a model.
    pub(super) fn id(&self, name: &str) -> String {
        self.blocks.get(name).map_or_else(|| name.to_owned(), |(_, id)| id.clone())
    }

    /// The column of a field.
    pub(super) fn column(&self, model: &str, field: &str) -> String {
        self.columns
            .get(&(SmolStr::new(model), SmolStr::new(field)))
            .cloned()
            .unwrap_or_else(|| field.to_owned())
    }

    /// A field as a side of a relation.
    pub(super) fn side(&self, model: &str, field: &str) -> Option<&RelationSide> {
        self.sides.get(model)?.iter().find(|side| side.field == field)
    }

    /// The other side of a relation.
    pub(super) fn other_side(&self, model: &str, side: &RelationSide) -> Option<&RelationSide> {
        let back = |other: &&RelationSide| {
            other.target == model
                && other.label == side.label
                && (side.target != model || other.field != side.field)
        };
        self.sides.get(&side.target)?.iter().find(back)
    }

    /// The table of a many-to-many whose label is its own name for it.
    pub(super) fn table_of(&self, side: &RelationSide) -> Option<String> {
        side.label.as_ref().map(|label| format!("_{label}"))
    }

    pub(super) fn enumeration(&self, name: &str) -> Option<&EnumType> {
        self.enums.iter().find(|enumeration| enumeration.name == name)
    }
}

/// The type of a field, or of the items of its list.
pub(super) fn element(member: &Member) -> Option<&Expr> {
    let annotation = member.annotation.as_ref()?;
    match &annotation.kind {
        ExprKind::Operation { operands, .. } => operands.first(),
        _ => Some(annotation),
    }
}

/// Whether a field is a list.
pub(super) fn is_list(member: &Member) -> bool {
    member
        .annotation
        .as_ref()
        .is_some_and(|annotation| matches!(annotation.kind, ExprKind::Operation { .. }))
}

/// The module of a file: its own name, or that of its folder where the file is called after what it
/// holds.
fn module(path: &str, fallback: &str) -> String {
    let (folders, file) = path.rsplit_once('/').unwrap_or(("", path));
    let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
    let folder = folders.rsplit('/').next().unwrap_or_default();
    match (stem, PLAIN_FOLDERS.contains(&folder)) {
        (PROJECT_FILE, true) => fallback.to_owned(),
        (PROJECT_FILE, false) => folder.to_owned(),
        (stem, _) => stem.to_owned(),
    }
}
