//! Classes to models: what they say beside the tables that migrations make.

mod association;
mod attribute;
mod body;
mod enumeration;
mod validation;

use std::collections::HashMap;
use std::rc::Rc;

use smol_str::SmolStr;

use super::program::Program;
use super::run::{Run, Value};
use crate::codes;
use crate::declaration::{
    Attribute, FieldDeclaration, Form, InverseDeclaration, InverseName, Model, RelationDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::Settings;
use crate::history::Tables;
use crate::schema::{Entity, EnumType, OrderKey, RelationKind};
use crate::source::Span;

use association::columns_of;
use body::{Body, Macro};

/// The class that all of them come from.
const BASE: &str = "ActiveRecord::Base";

/// A class with what its body says.
pub(super) struct Known<'p> {
    /// Its full name.
    name: SmolStr,
    span: Span,
    /// The class that it extends, where that is a model, too.
    parent: Option<SmolStr>,
    is_abstract: bool,
    said: Rc<[Macro<'p>]>,
}

/// What is put together of a class.
#[derive(Default)]
struct Draft {
    fields: Vec<FieldDeclaration>,
    relations: Vec<RelationDeclaration>,
    inverses: Vec<InverseDeclaration>,
    removed: Vec<String>,
    order: Vec<OrderKey>,
}

impl Draft {
    /// The declaration of a column, made where there is none.
    fn field(&mut self, column: &str, span: Span) -> &mut FieldDeclaration {
        let at = self.fields.iter().position(|field| field.name.as_deref() == Some(column));
        let at = at.unwrap_or_else(|| {
            self.fields.push(FieldDeclaration {
                name: Some(column.to_owned()),
                span: Some(span),
                ..FieldDeclaration::default()
            });
            self.fields.len() - 1
        });
        &mut self.fields[at]
    }
}

/// All classes of a project, while they are put together.
pub(super) struct Classes<'r, 'p> {
    program: &'r Program<'p>,
    tables: &'r Tables,
    settings: &'r Settings,
    /// Whether the target of a `belongs_to` must be there where nothing is said.
    required_by_default: bool,
    known: Vec<Known<'p>>,
    places: HashMap<SmolStr, usize>,
    words: &'r crate::inflection::Inflections,
    drafts: Vec<Draft>,
    enums: Vec<EnumType>,
    diagnostics: Vec<Diagnostic>,
}

/// The models of a project over the tables that its history made.
pub(super) fn models<'p>(
    run: &mut Run<'_, 'p>,
    tables: &Tables,
    settings: &Settings,
    required_by_default: bool,
) -> (Vec<Model>, Vec<EnumType>, Vec<Diagnostic>) {
    let program = run.program;
    let mut known = known(run);
    let mut diagnostics = Vec::new();
    leave_out_other_databases(program, &mut known, &mut diagnostics);
    let places = known.iter().enumerate().map(|(at, class)| (class.name.clone(), at)).collect();
    let drafts = known.iter().map(|_| Draft::default()).collect();
    let mut classes = Classes {
        program,
        tables,
        settings,
        required_by_default,
        known,
        places,
        words: run.words,
        drafts,
        enums: Vec::new(),
        diagnostics,
    };
    classes.read();
    let parents: Vec<Option<usize>> =
        (0..classes.known.len()).map(|at| classes.told_parent(at)).collect();
    let models =
        parents.into_iter().enumerate().map(|(at, parent)| classes.model(at, parent)).collect();
    (models, classes.enums, classes.diagnostics)
}

/// Every model, each once, in the order of the files.
fn known<'p>(run: &mut Run<'_, 'p>) -> Vec<Known<'p>> {
    let program = run.program;
    let mut found: Vec<Known<'p>> = Vec::new();
    let mut seen: HashMap<SmolStr, ()> = HashMap::new();
    for (file, class) in program.classes() {
        let in_migration = {
            let path = program.project.path(file);
            let name = path.rsplit('/').next().unwrap_or(path);
            name.starts_with(|first: char| first.is_ascii_digit())
        };
        let is_model = !in_migration
            && program.project.is_input(file)
            && program.comes_from(&class.name, |base| base == BASE);
        if !is_model || seen.insert(class.name.clone(), ()).is_some() {
            continue;
        }
        let opened = program.opened(&class.name);
        let said: Rc<[Macro<'_>]> = Body::of(run, opened, &class.name).said.into();
        let parent = opened.iter().find_map(|(_, class)| class.bases.first());
        let parent = parent
            .and_then(super::program::base_name)
            .and_then(|base| program.class(&class.name, base));
        let is_abstract = said.iter().any(|said| {
            said.name == "abstract_class="
                && said.arguments.first().and_then(Value::holds) == Some(true)
                || said.name == "primary_abstract_class"
        });
        found.push(Known { name: class.name.clone(), span: class.span, parent, is_abstract, said });
    }
    found
}

/// Takes out the classes whose tables are those of another database, and names the class that says
/// so.
fn leave_out_other_databases(
    program: &Program<'_>,
    known: &mut Vec<Known<'_>>,
    diagnostics: &mut Vec<Diagnostic>,
) {
    let elsewhere: Vec<(SmolStr, SmolStr, Span)> = known
        .iter()
        .filter_map(|class| {
            let (database, span) = class.said.iter().find_map(connected)?;
            Some((class.name.clone(), database, span))
        })
        .collect();
    for (class, database, span) in &elsewhere {
        let message = format!(
            "the tables of `{class}` and of the classes that extend it are those of the database \
             `{database}`"
        );
        let diagnostic = Diagnostic::of(&codes::OTHER_DATABASE, message);
        diagnostics.push(diagnostic.at(Some(*span), "connects them").with_help(
            "give those classes and their migrations alone to see the tables of that database",
        ));
    }
    let is_elsewhere = |name: &SmolStr| elsewhere.iter().any(|(class, ..)| class == name);
    known.retain(|class| !program.lineage(&class.name).iter().any(is_elsewhere));
}

/// The database that a call connects a class to, unless that is the first one.
fn connected(said: &Macro<'_>) -> Option<(SmolStr, Span)> {
    let mut given = said.arguments.clone();
    given.unfold();
    let database = match said.name.as_str() {
        "connects_to" => given.named("database")?.entry("writing")?.as_text()?,
        "establish_connection" => given.first_text()?,
        _ => return None,
    };
    (database != "primary").then_some((database, said.span))
}

impl<'p> Classes<'_, 'p> {
    fn read(&mut self) {
        for at in 0..self.known.len() {
            self.attributes(at);
        }
        // The sides of a relation that own its columns first: the others lead back along them.
        for at in 0..self.known.len() {
            self.owning_sides(at);
        }
        for at in 0..self.known.len() {
            self.other_sides(at);
        }
        for at in 0..self.known.len() {
            self.by_way_of_a_class(at);
        }
        for at in 0..self.known.len() {
            self.validations(at);
        }
    }

    fn class(&self, name: &str) -> Option<usize> {
        self.places.get(name).copied()
    }

    /// A class as code in another one means it.
    fn class_in(&self, scope: &str, name: &str) -> Option<usize> {
        self.class(&self.program.class(scope, name)?)
    }

    /// What a class says by a call, the last first.
    fn last_said(&self, at: usize, name: &str) -> Option<&Macro<'p>> {
        self.known[at].said.iter().rev().find(|said| said.name == name)
    }

    /// A class and what it comes from, itself first.
    fn lineage(&self, at: usize) -> impl Iterator<Item = usize> + '_ {
        let above = |at: &usize| self.known[*at].parent.as_ref().and_then(|name| self.class(name));
        std::iter::successors(Some(at), above).take(32)
    }

    /// A class above that has a table of its own: the class itself, unless it shares that of its
    /// parent.
    fn root(&self, at: usize) -> usize {
        let mut root = at;
        for _ in 0..32 {
            let parent = self.known[root].parent.as_ref().and_then(|name| self.class(name));
            match parent {
                Some(parent) if !self.known[parent].is_abstract => root = parent,
                _ => break,
            }
        }
        root
    }

    /// The table of a class, with the named schema before it.
    fn table(&self, at: usize) -> String {
        let mut above = Some(at);
        for _ in 0..32 {
            let Some(class) = above else { break };
            if let Some(said) = self.last_said(class, "table_name=")
                && let Some(name) = said.arguments.first_text()
            {
                return name.into();
            }
            above = self.known[class].parent.as_ref().and_then(|name| self.class(name));
            if above.is_some_and(|parent| self.known[parent].is_abstract) {
                break;
            }
        }
        let root = self.root(at);
        self.table_by_name(root)
    }

    fn table_by_name(&self, at: usize) -> String {
        let name = &self.known[at].name;
        let (outer, last) = name.rsplit_once("::").unwrap_or(("", name));
        let own = self.words.table(last);
        let prefix = self.prefix(at);
        match self.class(outer).filter(|outer| !self.known[*outer].is_abstract) {
            Some(outer) => {
                let around = self.words.singular(&self.table(outer));
                format!("{prefix}{around}_{own}")
            }
            None => format!("{prefix}{own}"),
        }
    }

    /// What stands before the names of tables in the modules around a class.
    fn prefix(&self, at: usize) -> String {
        let mut around = self.known[at].name.as_str();
        while let Some((outer, _)) = around.rsplit_once("::") {
            around = outer;
            let method = self.program.method(outer, "self.table_name_prefix");
            let said = method.and_then(|(_, _, method)| method.statements.last());
            if let Some(text) = said.and_then(crate::host::outline::Expr::text) {
                return text.to_owned();
            }
        }
        let said = self.lineage(at).find_map(|class| self.last_said(class, "table_name_prefix="));
        said.and_then(|said| said.arguments.first_text()).map(String::from).unwrap_or_default()
    }

    /// The table under a class, as the history left it.
    fn made(&self, at: usize) -> Option<&Entity> {
        self.tables.get(&self.table(at))
    }

    fn has_column(&self, at: usize, column: &str) -> bool {
        self.made(at).is_some_and(|made| made.field(column).is_some())
    }

    /// The columns of the key of a class.
    fn key(&self, at: usize) -> Vec<String> {
        let said = self.last_said(self.root(at), "primary_key=");
        let said = said.and_then(|said| said.arguments.first()).and_then(Value::as_texts);
        said.or_else(|| self.made(at).map(|made| made.key_columns().to_vec())).unwrap_or_default()
    }

    /// The module and the name of a class.
    fn parted(&self, name: &str) -> (String, String) {
        match name.rsplit_once("::") {
            Some((module, name)) => (self.words.underscored(module), name.to_owned()),
            None => {
                let module = self.settings.default_module.as_deref().unwrap_or("main");
                (module.to_owned(), name.to_owned())
            }
        }
    }

    fn id(&self, at: usize) -> String {
        let (module, name) = self.parted(&self.known[at].name);
        format!("{module}.{name}")
    }

    /// The class that a class extends, but for those that say nothing: every project has one.
    fn told_parent(&self, at: usize) -> Option<usize> {
        self.lineage(at).skip(1).find(|above| {
            let draft = &self.drafts[*above];
            !self.known[*above].is_abstract
                || !draft.fields.is_empty()
                || !draft.relations.is_empty()
                || !draft.inverses.is_empty()
                || !draft.removed.is_empty()
        })
    }

    fn model(&mut self, at: usize, parent: Option<usize>) -> Model {
        let mut draft = std::mem::take(&mut self.drafts[at]);
        // The table has the order of the columns, whatever is said first of them.
        let made = self.made(at);
        let place = |field: &FieldDeclaration| {
            let is_it = |column: &crate::schema::Field| Some(&column.column) == field.name.as_ref();
            made.and_then(|made| made.fields.iter().position(is_it))
        };
        draft.fields.sort_by_key(|field| place(field).unwrap_or(usize::MAX));
        // No side leads back: a column whose values are unique refers to one row from one row.
        for relation in &mut draft.relations {
            let alone = relation.kind == RelationKind::ManyToOne
                && !matches!(relation.inverse, InverseName::Named(_));
            if alone && made.is_some_and(|made| made.is_unique(&columns_of(relation))) {
                relation.kind = RelationKind::OneToOne;
            }
        }
        // Each side says its own name.
        draft.relations.iter_mut().for_each(|relation| relation.inverse = InverseName::Silent);
        draft.relations.sort_by_key(|relation| relation.kind == RelationKind::ManyToMany);
        let known = &self.known[at];
        let root = self.root(at);
        let form = match (known.is_abstract, root == at) {
            (true, _) => Form::Abstract,
            (false, true) => Form::Concrete,
            (false, false) => Form::SameTable,
        };
        let (module, name) = self.parted(&known.name);
        let table = self.table(at);
        let (namespace, bare) = match table.split_once('.') {
            Some((namespace, bare)) => (Some(namespace.to_owned()), bare.to_owned()),
            None => (None, table.clone()),
        };
        let fields = draft.fields.into_iter().map(|field| Attribute::Field(Box::new(field)));
        let relations =
            draft.relations.into_iter().map(|relation| Attribute::Relation(Box::new(relation)));
        let inverses =
            draft.inverses.into_iter().map(|inverse| Attribute::Inverse(Box::new(inverse)));
        let removed = draft.removed.into_iter().map(Attribute::Removed);
        let key = self.last_said(at, "primary_key=").and_then(|said| said.arguments.first());
        Model {
            id: self.id(at),
            name,
            module,
            form,
            extends: parent.map(|parent| self.id(parent)).into_iter().collect(),
            table: (form == Form::Concrete).then_some(bare),
            namespace,
            key: key.and_then(Value::as_texts),
            attributes: fields.chain(relations).chain(inverses).chain(removed).collect(),
            label: self.label(at),
            order: Some(draft.order).filter(|order| !order.is_empty()),
            span: Some(known.span),
            ..Model::default()
        }
    }

    /// The attribute that a record is shown by: what `to_s` gives.
    fn label(&self, at: usize) -> Option<String> {
        let class = &self.known[at].name;
        let (_, _, method) = self.program.method(class, "to_s")?;
        let last = method.statements.last()?;
        let shown = match last.call() {
            Some(call) => call.callee_name(),
            None => last.name()?,
        };
        let shown = shown.strip_suffix(".to_s").unwrap_or(shown);
        crate::quoting::is_identifier(shown).then(|| shown.to_owned())
    }

    /// Names what a class says that is not read.
    fn unread(&mut self, at: usize, name: &str, span: Span) {
        let class = &self.known[at].name;
        let message = format!("`{name}` of `{class}` was not read: what it brings is not known");
        let diagnostic = Diagnostic::of(&codes::UNREAD_MACRO, message);
        self.diagnostics.push(diagnostic.at(Some(span), "neither the framework's nor read here"));
    }
}
