//! Makes a schema fit what a dialect can say. This is the only place where meaning may change.
//! Passes transform, and leave a [cause](causes) on what they touch; the loss [report] is the
//! difference between the schema as it was and as it fits.
//!
//! Before the passes come [`names`] (host names only, no meaning) and [`documents`] (between tables
//! and documents); then those of `PASSES`: [`servers`], [`tables`], [`joins`], [`types`],
//! [`values`], [`voices`], [`references`], [`constraints`]. What a database stores is fitted by
//! [`stored`] alone.

mod acting;
mod causes;
mod constraints;
mod documents;
mod enumerations;
mod joins;
mod names;
mod references;
mod report;
mod servers;
mod stored;
mod tables;
#[cfg(test)]
mod tests;
mod types;
mod uniques;
mod values;
mod voices;

use std::borrow::Cow;

use serde::Serialize;

use causes::{Cause, Speaker};
use report::{Causes, Crossing, Touched};

use crate::dialect::{Capabilities, Conventions, Dialect, Medium, Settings};
use crate::host::Language;
use crate::schema::facts::{Aspect, Element, FactKey, TableKeys};
use crate::schema::{Database, Entity, Schema, Source};
use crate::server::Server;

pub use causes::UNEXPLAINED;
pub use report::Change;

/// What became of something that the target cannot say as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "lowercase")]
pub enum Grade {
    /// Gone.
    Dropped,
    /// Less is promised than before.
    Weakened,
    /// Kept outside the declarations, in the SQL script.
    Moved,
    /// The target adds a meaning of its own.
    Added,
    /// More is promised than before.
    Strengthened,
    /// The same meaning by another construct.
    Respelled,
}

impl Grade {
    /// Every grade, worst first, with its word.
    pub const ALL: [(Grade, &'static str); 6] = [
        (Grade::Dropped, "dropped"),
        (Grade::Weakened, "weakened"),
        (Grade::Moved, "moved"),
        (Grade::Added, "added"),
        (Grade::Strengthened, "strengthened"),
        (Grade::Respelled, "respelled"),
    ];

    /// Its word.
    pub fn word(self) -> &'static str {
        Self::ALL.iter().find(|(grade, _)| *grade == self).map_or("", |(_, word)| word)
    }
}

/// A host name that was respelled for the target's language.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct Rename {
    pub element: String,
    pub from: Option<String>,
    pub to: Option<String>,
}

/// A schema that fits, and the report of how it came to.
#[derive(Clone, Debug)]
pub struct Fitted {
    pub schema: Schema,
    /// The source schema with nothing changed but host names: the difference between the two is
    /// what the changes say.
    pub named: Schema,
    /// The loss report, the gravest first: each fact that differs stands in exactly one of them.
    pub changes: Vec<Change>,
    /// What the target refuses until somebody acts, although nothing of it differs.
    pub refused: Vec<Change>,
    pub renames: Vec<Rename>,
    /// Statements that the server runs after the framework has made its tables.
    pub script: Vec<String>,
}

/// A schema as a database of this kind would hold it: carried over between tables and documents
/// where it must be.
pub fn carried<'s>(schema: &'s Schema, dialect: &Dialect, database: Database) -> Cow<'s, Schema> {
    documents::cross(schema, dialect, database)
        .map_or(Cow::Borrowed(schema), |crossed| Cow::Owned(crossed.schema))
}

/// Puts into the settings what suits a schema that is to be written in a dialect, and was not
/// chosen.
pub fn suit(schema: &Schema, dialect: &Dialect, settings: &mut Settings) {
    let (mut schema, to) = (carried(schema, dialect, settings.database()), settings.database());
    let from = schema.source.database;
    if from != to {
        schema
            .to_mut()
            .entities
            .iter_mut()
            .for_each(|entity| drop(servers::carry(entity, from, to)));
    }
    (dialect.details.target_settings)(&schema, settings);
}

/// The schema with SQL that would reach out of a statement of this server taken for what it is: it
/// can stand in none.
fn settled(schema: &Schema, database: Database) -> Cow<'_, Schema> {
    if schema.source.database == database {
        return Cow::Borrowed(schema);
    }
    let mut schema = schema.clone();
    schema.each_expression(&mut |_, expression| expression.settle(database));
    Cow::Owned(schema)
}

/// A pass: it transforms, and leaves a cause on what it touches.
type Pass = fn(&mut Fitting<'_>);

/// Every pass over tables that classes declare, in order.
const PASSES: [Pass; 10] = [
    // What the source's server has in its own way first: whatever comes after sees only what the
    // target's server could hold.
    servers::fit,
    // Tables that go, and keys that change, before anything is decided about columns.
    tables::fit,
    joins::fit,
    // Join tables may have got a class just now, and with it a key.
    tables::keys_of_joins,
    // What the application sets at an update may become a purpose, which decides about the digits
    // of the column's type.
    values::updates,
    types::fit,
    // Who numbers a column, and what can be its default, depends on the type that it has by now.
    values::fit,
    // Whether input must bring a value depends on whether the column gets one by itself.
    voices::fit,
    // Servers index the columns of the references that are left, and names must be unlike those of
    // everything that is left: so constraints come last.
    references::fit,
    constraints::fit,
];

/// Fits `schema` to a dialect.
pub fn fit(schema: &Schema, dialect: &Dialect, settings: &Settings) -> Fitted {
    // What is whole on the source's server may not be on this one.
    let settled = settled(schema, settings.database());
    let schema: &Schema = &settled;
    if matches!(dialect.medium, Medium::Statements { .. }) {
        return stored::fit(schema, dialect, settings);
    }
    let conventions = (dialect.conventions)(settings);
    let capabilities = (dialect.capabilities)(settings);
    let own_dialect = schema.source.dialect == dialect.id;
    let other = || crate::dialects::by_id(&schema.source.dialect);
    let same_language =
        own_dialect || other().is_some_and(|source| source.language == dialect.language);
    let mut named = schema.clone();
    let mut renames =
        names::respell(&mut named, dialect, (&conventions, &capabilities), same_language);
    let crossed = documents::cross(&named, dialect, settings.database());
    let crossed = crossed.map(|mut crossed| {
        // What came to be in between has names to be found, too.
        renames.extend(names::respell(
            &mut crossed.schema,
            dialect,
            (&conventions, &capabilities),
            same_language,
        ));
        crossed
    });
    let start = crossed.as_ref().map_or(&named, |crossed| &crossed.schema).clone();
    let mut fitting = Fitting::of(start, &schema.source, dialect, settings);
    PASSES.iter().for_each(|pass| pass(&mut fitting));
    let Fitting { mut schema, causes, script, conventions, .. } = fitting;
    schema.source.dialect = dialect.id.to_owned();
    schema.source.version = conventions.version;
    schema.source.database = settings.database();
    let speaker = Speaker { framework: dialect.framework, server: settings.database().title() };
    let crossing = crossed.as_ref().map(|crossed| Crossing::of(crossed, &named, &schema));
    let changes =
        causes.report((&named, &schema), &speaker, crossing.as_ref(), |_| Cause::Unexplained);
    let refused = causes.refusals(&speaker);
    Fitted { schema, named, changes, refused, renames, script }
}

/// Whether a schema was read from what is now the target, version and server, too: then all of it
/// can be said again.
fn is_home(source: &Source, target: &Conventions) -> bool {
    source.dialect == target.dialect.id
        && source.version == target.version
        && source.database == target.database
}

/// What the passes share.
struct Fitting<'d> {
    dialect: &'d Dialect,
    schema: Schema,
    /// How facts name its tables.
    keys: TableKeys,
    /// The source is the target, version and server, too.
    home: bool,
    /// The source dialect is the target's, on whatever server: its own words can be said again.
    own_dialect: bool,
    /// The target's host language.
    language: &'static Language,
    conventions: Conventions,
    capabilities: Capabilities,
    /// What the server itself can hold.
    server: Capabilities,
    /// Times come from a server that keeps six digits of a second where nothing is said, to one
    /// that keeps none.
    comes_with_fractions: bool,
    /// Columns stay on MariaDB or MySQL, where frameworks choose what holds a type.
    holds_the_same: bool,
    causes: Causes,
    script: Vec<String>,
}

impl<'d> Fitting<'d> {
    /// Nothing done yet: the schema with the names of the target's language, and where it comes
    /// from.
    fn of(schema: Schema, source: &Source, dialect: &'d Dialect, settings: &Settings) -> Self {
        let conventions = (dialect.conventions)(settings);
        let (here, there) = (settings.database().server(), source.database.server());
        Fitting {
            dialect,
            keys: TableKeys::of(&schema),
            home: is_home(source, &conventions),
            own_dialect: source.dialect == dialect.id,
            language: dialect.language,
            conventions,
            capabilities: (dialect.capabilities)(settings),
            server: Capabilities::all_but(&[]).on(settings.server()),
            comes_with_fractions: there.keeps_fractions && !here.keeps_fractions,
            holds_the_same: settings.database() == source.database && here.several_words,
            schema,
            causes: Causes::default(),
            script: Vec::new(),
        }
    }
}

impl Fitting<'_> {
    fn database(&self) -> Database {
        self.conventions.database
    }

    /// Leaves a cause on one aspect of a table's element.
    fn because(
        &mut self,
        entity: &Entity,
        element: Element,
        aspect: Aspect,
        cause: impl Into<Cause>,
    ) {
        self.causes.note(FactKey { table: self.keys.key(entity), element, aspect }, cause);
    }

    /// Leaves a cause on one aspect of a column.
    fn because_column(
        &mut self,
        entity: &Entity,
        at: usize,
        aspect: Aspect,
        cause: impl Into<Cause>,
    ) {
        self.because(entity, Element::of_field(&entity.fields[at]), aspect, cause);
    }

    /// Leaves a cause on all that is said of a table's element.
    fn because_element(&mut self, entity: &Entity, element: Element, cause: impl Into<Cause>) {
        self.causes.note(Touched::Element(self.keys.key(entity), element), cause);
    }

    /// Leaves a cause on all that is said of several elements which one change touches.
    fn because_elements(
        &mut self,
        entity: &Entity,
        elements: impl IntoIterator<Item = Element>,
        cause: impl Into<Cause>,
    ) {
        let table = self.keys.key(entity);
        self.causes.note_all(
            elements.into_iter().map(|element| Touched::Element(table.clone(), element)),
            cause,
        );
    }

    /// Leaves a cause on one aspect of an enumeration.
    fn because_enumeration(&mut self, name: &str, aspect: Aspect, cause: impl Into<Cause>) {
        self.causes.note(FactKey::of_enumeration(name, aspect), cause);
    }

    /// Whether the schema was read for the server that it goes to, or for one that shares its
    /// words.
    fn on_same_server(&self) -> bool {
        self.schema.source.database.shares_words_with(self.database())
    }

    /// What is known of the target's server.
    fn host(&self) -> &'static Server {
        self.database().server()
    }

    /// Goes through all entities with the rest of the state at hand.
    fn each_entity(&mut self, mut change: impl FnMut(&mut Self, &mut Entity)) {
        let mut entities = std::mem::take(&mut self.schema.entities);
        for entity in &mut entities {
            change(self, entity);
        }
        self.schema.entities = entities;
    }
}

/// `Berth.quay`, or `Berth (quay_id)` for a column without an attribute.
fn element(entity: &Entity, column: &str) -> String {
    let attribute = entity.field(column).and_then(|field| field.name.clone());
    let relation = || {
        entity
            .relations
            .iter()
            .find(|relation| relation.columns.iter().any(|own| own == column))?
            .name
            .clone()
    };
    match attribute.or_else(relation) {
        Some(name) => format!("{}.{name}", entity.name),
        None => format!("{} ({column})", entity.name),
    }
}
