//! Mongoose schemas, which keep documents in MongoDB. Checked against Mongoose 8.24.10 by the paths
//! and indexes that it reports itself (see `conformance/`).

mod codes;
mod collection;
mod conventions;
pub(crate) mod print;
mod query;
mod read;
mod types;

use sprachbund_dialect::{decision, declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use conventions::NEW_ID;

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, DocumentRules, Medium};
use crate::host::language::Reserved;
use crate::host::typescript::TYPESCRIPT;
use crate::schema::Database;

/// The word under which extras keep that a path stands only in the documents of one discriminator.
const ONLY_IN: &str = "only_in";

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "mongoose",
    framework: "Mongoose",
    versions: &["9", "8", "6"],
    databases: &[Database::MongoDb],
    unverified: &[],
    language: &TYPESCRIPT,
    extensions: &["ts", "js", "mts", "cts", "mjs", "cjs"],
    marks: &["mongoose"],
    signs: &["mongoose"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["mongoose"],
        names: Reserved {
            // `Schema.reserved`, and members of every document and object (seen of 8.24.10).
            members: &[
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
            classes: &[
                "Date", "Object", "String", "Number", "Boolean", "Array", "Buffer", "Map",
                "BigInt", "Schema", "Types", "Promise",
            ],
            classes_global: true,
            ..Reserved::NOTHING
        },
        is_framework: |module| module == "mongoose" || module.starts_with("mongoose/"),
        project_settings: |_, settings| settings.database = Some(Database::MongoDb),
        target_settings: |_, settings| settings.database = Some(Database::MongoDb),
        example_head: "import mongoose from 'mongoose';\n\n",
        plain_default: Some(("default", Actor::Application)),
        documents: Some(&DocumentRules {
            new_key: NEW_ID,
            can_filter: |tree| query::print(tree).is_some(),
            keeps_to: types::keeps_to,
        }),
        ..Details::USUAL
    },
};
