//! Mongoose schemas, which keep documents in MongoDB. Checked against Mongoose 8.24.10 by the paths and indexes that it reports
//! itself (see `conformance/`).

pub(crate) mod collection;
mod conventions;
pub(crate) mod print;
mod query;
mod read;
mod types;

pub(crate) use conventions::NEW_ID;
pub(crate) use types::keeps_to;

use crate::dialect::{Dialect, Medium};
use crate::host::Language;
use crate::schema::Database;

/// The word under which extras keep that a path stands only in the documents of one discriminator.
const ONLY_IN: &str = "only_in";

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "mongoose",
    framework: "Mongoose",
    versions: &["8"],
    databases: &[Database::MongoDb],
    unverified: &[],
    language: Language::TypeScript,
    extensions: &["ts", "js", "mts", "cts", "mjs", "cjs"],
    marks: &["mongoose"],
    signs: &["mongoose"],
    // `Schema.reserved`, and members of every document and object (seen of 8.24.10).
    reserved_members: &[
        "constructor",
        "prototype",
        "__proto__",
        "_posts",
        "_pres",
        "collection",
        "emit",
        "errors",
        "get",
        "init",
        "isModified",
        "isNew",
        "listeners",
        "modelName",
        "on",
        "once",
        "populated",
        "remove",
        "removeListener",
        "save",
        "schema",
        "set",
        "toObject",
        "validate",
        "db",
        "options",
        "toString",
        "valueOf",
        "hasOwnProperty",
        "isPrototypeOf",
        "propertyIsEnumerable",
        "toLocaleString",
        "toJSON",
    ],
    reserved_classes: &["Date", "Object", "String", "Number", "Boolean", "Array", "Buffer", "Map", "BigInt", "Schema", "Types", "Promise"],
    classes_global: true,
    single_underscores: false,
    styles: &[],
    namings: &[],
    stand_ins: &[],
    is_framework: |module| module == "mongoose" || module.starts_with("mongoose/"),
    project_settings: |_, settings| settings.database = Some(Database::MongoDb),
    target_settings: |_, settings| settings.database = Some(Database::MongoDb),
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
};

/// Whether an index can leave out the documents for which an expression does not hold.
pub(crate) fn can_filter(tree: &crate::schema::expression::Tree) -> bool {
    query::print(tree).is_some()
}
