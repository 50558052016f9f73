//! `dialects`: what can be read and written.

use comfy_table::{Table, presets};
use serde_json::json;
use sprachbund_core::dialect::Dialect;
use sprachbund_core::dialects::DIALECTS;

use crate::arguments::{DialectsOptions, Format};
use crate::{Failure, Outcome, output};

pub(crate) fn run(options: &DialectsOptions) -> Result<Outcome, Failure> {
    let databases = |dialect: &Dialect| {
        dialect.databases.iter().map(|database| database.id()).collect::<Vec<_>>()
    };
    let text = match options.format {
        Format::Human => {
            let mut table = Table::new();
            table.load_style(presets::NOTHING).set_header([
                "id",
                "framework",
                "checked against",
                "servers",
                "files",
            ]);
            for dialect in DIALECTS {
                let files: Vec<String> =
                    dialect.extensions.iter().map(|extension| format!(".{extension}")).collect();
                table.add_row([
                    dialect.id.to_owned(),
                    dialect.framework.to_owned(),
                    dialect.versions.join(", "),
                    databases(dialect).join(", "),
                    files.join(" "),
                ]);
            }
            format!(
                "{table}\n\nevery one is read and written; `sprachbund explain ID` says what \
                 silence means in it\n"
            )
        }
        Format::Json => {
            let list: Vec<_> = DIALECTS
                .iter()
                .map(|dialect| {
                    json!({ "id": dialect.id, "framework": dialect.framework,
                    "versions": dialect.versions, "databases": databases(dialect),
                    "extensions": dialect.extensions })
                })
                .collect();
            serde_json::to_string_pretty(&list).unwrap_or_default() + "\n"
        }
    };
    output::page(&text)?;
    Ok(Outcome::Clean)
}
