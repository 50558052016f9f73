//! Django models. Checked against Django 5.2 and 4.2 on PostgreSQL 15, MariaDB 10.11 and SQLite
//! 3.40 (see `conformance/`).

mod codes;
mod conventions;
pub(crate) mod print;
mod read;
mod types;

use std::cmp::Ordering;

use sprachbund_dialect::{declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, Medium, PlainWord, Settings};
use crate::host::language::Reserved;
use crate::host::python::PYTHON;
use crate::schema::{Database, Schema, Type};

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "django",
    framework: "Django",
    versions: &["6.1", "5.2", "4.2"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[],
    language: &PYTHON,
    extensions: &["py"],
    marks: &[
        "DEFAULT_AUTO_FIELD",
        "AUTH_USER_MODEL",
        "(AppConfig)",
        "models.Model",
        "django.db.models",
        "Field(",
        "ForeignKey(",
        "AbstractUser",
        "AbstractBaseUser",
    ],
    signs: &["from django", "import django"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["django"],
        names: Reserved {
            // `Field._check_field_name` and
            // `Model._check_property_name_related_field_accessor_clashes` of Django 5.2.
            members: &[
                "pk",
                "models",
                "objects",
                "check",
                "clean",
                "save",
                "delete",
                "full_clean",
                "refresh_from_db",
                "_state",
                "Meta",
            ],
            classes: &["Meta"],
            single_underscores: true,
            ..Reserved::NOTHING
        },
        stand_ins: STAND_INS,
        is_framework,
        project_settings: |project, settings| {
            settings.default_key =
                settings.default_key.take().or_else(|| read::default_key(project))
        },
        target_settings,
        example_head: "from django.db import models\n\n\n",
        plain_words: &[
            (PlainWord::Text, "CharField"),
            (PlainWord::Time, "DateTimeField"),
            (PlainWord::Number, "IntegerField"),
            (PlainWord::Fraction, "FloatField"),
        ],
        plain_default: Some(("default", Actor::Application)),
        ..Details::USUAL
    },
};

/// The framework's own models that projects refer to, reduced to what decides about tables (Django
/// 5.2).
pub const STAND_INS: &[(&str, &str)] = &[
    ("django/contrib/auth/models.py", include_str!("framework/auth.py")),
    ("django/contrib/auth/base_user.py", include_str!("framework/auth_base.py")),
    ("django/contrib/contenttypes/models.py", include_str!("framework/contenttypes.py")),
    ("django/contrib/sites/models.py", include_str!("framework/sites.py")),
    ("django/contrib/sessions/base_session.py", include_str!("framework/sessions_base.py")),
];

/// Everything of the framework but its applications with models.
fn is_framework(module: &str) -> bool {
    match module.strip_prefix("django") {
        Some("") => true,
        Some(rest) if rest.starts_with('.') => {
            rest.ends_with(".fields")
                || !rest.starts_with(".contrib.")
                || rest.starts_with(".contrib.postgres")
                || rest.starts_with(".contrib.gis")
        }
        _ => false,
    }
}

/// The key class that most models of the schema have, so that they need not write it.
fn target_settings(schema: &Schema, settings: &mut Settings) {
    let counted = |kinds: &[Type]| {
        let numbered = |entity: &&crate::schema::Entity| {
            let [key] = entity.key_columns() else { return false };
            entity
                .field(key)
                .is_some_and(|field| field.identity.is_some() && kinds.contains(&field.r#type))
        };
        schema.entities.iter().filter(|entity| !entity.external).filter(numbered).count()
    };
    let large = counted(&[Type::BigInt, Type::UnsignedBigInt]);
    let most = match large.cmp(&counted(&[Type::Integer, Type::UnsignedInteger])) {
        Ordering::Less => "AutoField",
        // The release's own.
        Ordering::Equal => return,
        Ordering::Greater => "BigAutoField",
    };
    settings.default_key.get_or_insert_with(|| most.into());
}
