//! Makes a schema fit what a dialect can say. This is the only place where meaning may change, and every change is a
//! [`Loss`] that names the facts it touches: what no loss names is equal.
//!
//! Passes, in order: [`names`] (host names only, no meaning), [`documents`] (between tables and documents), [`tables`], [`joins`], the updates of [`values`], [`types`], [`values`],
//! [`voices`], [`references`], [`constraints`]. What a database stores is fitted by [`stored`] alone.

mod constraints;
mod documents;
mod enumerations;
mod joins;
mod losses;
mod names;
mod references;
mod stored;
mod tables;
mod types;
mod uniques;
mod values;
mod voices;

use std::borrow::Cow;
use std::collections::HashMap;

use serde::Serialize;

use losses::Losses;

use crate::dialect::{Capabilities, Conventions, Dialect, Medium, Settings};
use crate::schema::facts::FactKey;
use crate::schema::{Database, Entity, Schema};

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

/// One change of meaning, or a group of equal ones.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Loss {
    pub grade: Grade,
    /// What cannot be said, and why.
    pub reason: String,
    /// What was done instead.
    pub instead: String,
    /// The elements concerned, by entity and attribute.
    pub elements: Vec<String>,
    /// The facts that differ.
    pub facts: Vec<FactKey>,
}

/// A host name that was respelled for the target's language.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct Rename {
    pub element: String,
    pub from: Option<String>,
    pub to: Option<String>,
}

/// A schema that fits, and the account of how it came to.
#[derive(Clone, Debug)]
pub struct Fitted {
    pub schema: Schema,
    /// The source schema with nothing changed but host names: the difference between the two is what the losses say.
    pub named: Schema,
    pub losses: Vec<Loss>,
    pub renames: Vec<Rename>,
    /// Statements that the server runs after the framework has made its tables.
    pub script: Vec<String>,
}

/// A schema as a database of this kind would hold it: carried over between tables and documents where it must be.
pub fn carried(schema: &Schema, database: Database) -> Cow<'_, Schema> {
    documents::cross(schema, database).map_or(Cow::Borrowed(schema), |crossed| Cow::Owned(crossed.schema))
}

/// The schema with SQL that would reach out of a statement of this server taken for what it is: it can stand in none.
fn settled(schema: &Schema, database: Database) -> Cow<'_, Schema> {
    if schema.source.database == database {
        return Cow::Borrowed(schema);
    }
    let mut schema = schema.clone();
    schema.each_expression(&mut |_, expression| expression.settle(database));
    Cow::Owned(schema)
}

/// Fits `schema` to a dialect.
pub fn fit(schema: &Schema, dialect: &Dialect, settings: &Settings) -> Fitted {
    // What is whole on the source's server may not be on this one.
    let settled = settled(schema, settings.database());
    let schema: &Schema = &settled;
    if matches!(dialect.medium, Medium::Statements { .. }) {
        return match documents::cross(schema, settings.database()) {
            Some(crossed) => {
                let mut fitted = stored::fit(&crossed.schema, dialect, settings);
                fitted.losses = crossed.account(schema, &fitted.schema, fitted.losses);
                Fitted { named: schema.clone(), ..fitted }
            }
            None => stored::fit(schema, dialect, settings),
        };
    }
    let conventions = (dialect.conventions)(settings);
    let capabilities = (dialect.capabilities)(settings);
    let same_language = crate::dialect::by_id(&schema.source.dialect).is_some_and(|source| source.language == dialect.language);
    let mut named = schema.clone();
    let mut renames = names::respell(&mut named, dialect, (&conventions, &capabilities), same_language);
    let crossed = documents::cross(&named, settings.database());
    let start = crossed.as_ref().map(|crossed| {
        let mut schema = crossed.schema.clone();
        // What came to be in between has names to be found, too.
        renames.extend(names::respell(&mut schema, dialect, (&conventions, &capabilities), same_language));
        schema
    });
    let server = match settings.database().keeps_documents() {
        true => capabilities.clone(),
        false => (crate::dialect::sql::DIALECT.capabilities)(settings),
    };
    let mut fitting = Fitting {
        dialect,
        schema: start.unwrap_or_else(|| named.clone()),
        home: schema.source.dialect == dialect.id,
        language: dialect.language.id(),
        framework: dialect.framework,
        conventions,
        capabilities,
        server,
        comes_with_fractions: settings.database().is_mysql() && !schema.source.database.is_mysql(),
        held_before: HashMap::new(),
        holds_the_same: settings.database() == schema.source.database && settings.database().is_mysql(),
        losses: Losses::default(),
        script: Vec::new(),
    };
    tables::fit(&mut fitting);
    joins::fit(&mut fitting);
    values::updates(&mut fitting);
    types::fit(&mut fitting);
    values::fit(&mut fitting);
    voices::fit(&mut fitting);
    references::fit(&mut fitting);
    constraints::fit(&mut fitting);
    let Fitting { mut schema, losses, script, .. } = fitting;
    schema.source.dialect = dialect.id.to_owned();
    schema.source.version = settings.version.clone().unwrap_or_else(|| dialect.versions[0].to_owned());
    schema.source.database = settings.database();
    let losses = losses.sorted();
    let losses = match &crossed {
        Some(crossed) => crossed.account(&named, &schema, losses),
        None => losses,
    };
    Fitted { schema, named, losses, renames, script }
}

/// What the passes share.
struct Fitting<'d> {
    dialect: &'d Dialect,
    schema: Schema,
    /// The source dialect is the target.
    home: bool,
    /// The target's host language.
    language: &'static str,
    /// The target framework's name, for words.
    framework: &'static str,
    conventions: Conventions,
    capabilities: Capabilities,
    /// What the server itself can hold.
    server: Capabilities,
    /// Times come from a server that keeps six digits of a second where nothing is said, to one that keeps none.
    comes_with_fractions: bool,
    /// Columns stay on MariaDB or MySQL, where frameworks choose what holds a type.
    holds_the_same: bool,
    /// The names that the source's server keeps for types, by table and column.
    held_before: HashMap<(String, String), String>,
    losses: Losses,
    script: Vec<String>,
}

impl Fitting<'_> {
    fn database(&self) -> Database {
        self.conventions.database
    }

    /// Records a change; equal reasons with equal ways out are one loss.
    fn lose(&mut self, grade: Grade, reason: impl Into<String>, instead: impl Into<String>, element: String, facts: Vec<FactKey>) {
        self.losses.add(grade, reason.into(), instead.into(), element, facts);
    }

    /// A fact, unless a change that is recorded already is its reason.
    fn unless_told(&self, fact: FactKey) -> Vec<FactKey> {
        if self.losses.cover(&fact) { Vec::new() } else { vec![fact] }
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
    let relation = || entity.relations.iter().find(|relation| relation.columns.iter().any(|own| own == column))?.name.clone();
    match attribute.or_else(relation) {
        Some(name) => format!("{}.{name}", entity.name),
        None => format!("{} ({column})", entity.name),
    }
}
