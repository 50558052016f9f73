//! What a server holds, as it was recorded, as the schema that statements of the same meaning make.

use std::collections::BTreeMap;

use serde_json::Value;
use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read_scripts;
use sprachbund_core::schema::{Database, Schema};

use super::Recording;

fn quoted(name: &str, database: Database) -> String {
    let quote = if database.is_mysql() { '`' } else { '"' };
    name.split('.').map(|part| format!("{quote}{part}{quote}")).collect::<Vec<_>>().join(".")
}

fn names(list: &Value, database: Database) -> String {
    let all = list.as_array().into_iter().flatten().filter_map(Value::as_str);
    all.map(|name| quoted(name, database)).collect::<Vec<_>>().join(", ")
}

fn literal(text: &str) -> String {
    format!("'{}'", text.replace('\'', "''"))
}

fn column(column: &Value, database: Database) -> String {
    let text = |key: &str| column[key].as_str();
    let mut said =
        format!("{} {}", quoted(text("name").unwrap(), database), text("type").unwrap_or_default());
    if let Some(collation) = text("collation") {
        said.push_str(&format!(" COLLATE {}", quoted(collation, database)));
    }
    if let Some(expression) = text("generated") {
        let kind = text("generated_kind").unwrap_or("stored").to_uppercase();
        let expression = expression.replace("\\'", "'");
        said.push_str(&format!(" GENERATED ALWAYS AS ({expression}) {kind}"));
    }
    if column["nullable"] == Value::Bool(false) {
        said.push_str(" NOT NULL");
    }
    if let Some(default) = text("default") {
        // MySQL gives them as texts, with all of their digits.
        let digits = text("type").unwrap_or_default().starts_with("decimal");
        let bare = default.trim_matches('\'').parse::<f64>().ok().filter(|_| digits);
        let shown = bare.map(|number| number.to_string());
        let default = shown.as_deref().unwrap_or(default);
        let bare = database == Database::PostgreSql || default.starts_with(['\'', '(']);
        let plain = bare
            || default.parse::<f64>().is_ok()
            || default.to_uppercase().contains("CURRENT_TIMESTAMP");
        let default = if plain { default.to_owned() } else { format!("({default})") };
        said.push_str(&format!(" DEFAULT {default}"));
    }
    if let Some(update) = text("on_update") {
        said.push_str(&format!(" ON UPDATE {update}"));
    }
    if let Some(identity) = text("identity") {
        said.push_str(&format!(
            " GENERATED {} AS IDENTITY",
            identity.to_uppercase().replace('_', " ")
        ));
    }
    if column["auto_increment"] == Value::Bool(true) {
        said.push_str(match database {
            Database::Sqlite => " PRIMARY KEY AUTOINCREMENT",
            _ => " AUTO_INCREMENT",
        });
    }
    if let (Some(comment), true) = (text("comment"), database.is_mysql()) {
        said.push_str(&format!(" COMMENT {}", literal(comment)));
    }
    said
}

/// Statements that make a table as it was recorded.
fn statements(table: &str, made: &Value, database: Database) -> Vec<String> {
    let name = quoted(table, database);
    let list = |key: &str| made[key].as_array().cloned().unwrap_or_default();
    let numbered = list("columns").iter().any(|column| column["auto_increment"] == true);
    let mut lines: Vec<String> = list("columns").iter().map(|one| column(one, database)).collect();
    if !(made["primary_key"].is_null() || numbered && database == Database::Sqlite) {
        lines.push(format!("PRIMARY KEY ({})", names(&made["primary_key"]["columns"], database)));
    }
    for check in list("checks") {
        let text = check["text"].as_str().unwrap_or_default();
        let text = text.strip_prefix("CHECK ").unwrap_or(text).trim_end_matches(" NOT VALID");
        let text = text.replace("\\'", "'");
        lines.push(match check["name"].as_str() {
            Some(name) => format!("CONSTRAINT {} CHECK ({text})", quoted(name, database)),
            None => format!("CHECK ({text})"),
        });
    }
    for exclusion in list("exclusions") {
        lines.push(format!(
            "CONSTRAINT {} {}",
            quoted(exclusion["name"].as_str().unwrap(), database),
            exclusion["text"].as_str().unwrap().replace("WHERE ((", "WHERE (").replace("0))", "0)"),
        ));
    }
    let mut all = vec![format!("CREATE TABLE {name} (\n{}\n)", lines.join(",\n"))];
    // MariaDB and MySQL index a foreign key by themselves, under its name.
    let of_key = |index: &Value| {
        database.is_mysql() && list("foreign_keys").iter().any(|key| key["name"] == index["name"])
    };
    for index in list("indexes").iter().filter(|index| !of_key(index)) {
        all.push(index_statement(&name, index, database));
    }
    for key in list("foreign_keys") {
        let mut said = format!(
            "ALTER TABLE {name} ADD CONSTRAINT {} FOREIGN KEY ({}) REFERENCES {} ({})",
            quoted(key["name"].as_str().unwrap_or("unnamed"), database),
            names(&key["columns"], database),
            quoted(key["table"].as_str().unwrap(), database),
            names(&key["referenced"], database),
        );
        for (word, key_name) in [("DELETE", "on_delete"), ("UPDATE", "on_update")] {
            // They do not tell the two apart.
            let silent = database.is_mysql() && key[key_name] == "RESTRICT";
            if let Some(action) = key[key_name].as_str().filter(|_| !silent) {
                said.push_str(&format!(" ON {word} {action}"));
            }
        }
        if let Some(when) = key["deferrable"].as_str() {
            said.push_str(&format!(" DEFERRABLE INITIALLY {}", when.to_uppercase()));
        }
        all.push(said);
    }
    if let (Some(comment), false) = (made["comment"].as_str(), database.is_mysql()) {
        all.push(format!("COMMENT ON TABLE {name} IS {}", literal(comment)));
    }
    if let (Some(comment), true) = (made["comment"].as_str(), database.is_mysql()) {
        all[0].push_str(&format!(" COMMENT = {}", literal(comment)));
    }
    for one in list("columns") {
        if let (Some(comment), false) = (one["comment"].as_str(), database.is_mysql()) {
            let column = quoted(one["name"].as_str().unwrap(), database);
            all.push(format!("COMMENT ON COLUMN {name}.{column} IS {}", literal(comment)));
        }
    }
    all
}

fn index_statement(table: &str, index: &Value, database: Database) -> String {
    let item = |key: &str, at: usize| index[key].get(at).and_then(Value::as_str).unwrap_or("");
    let keys: Vec<String> = index["columns"]
        .as_array()
        .into_iter()
        .flatten()
        .enumerate()
        .map(|(at, key)| {
            let key = key.as_str().unwrap_or_default();
            let is_plain = key.chars().all(|letter| letter.is_alphanumeric() || letter == '_');
            let mut said = if is_plain { quoted(key, database) } else { format!("({key})") };
            if !item("opclass", at).is_empty() {
                said.push_str(&format!(" {}", item("opclass", at)));
            }
            if !item("order", at).is_empty() {
                said.push_str(&format!(" {}", item("order", at)));
            }
            said
        })
        .collect();
    let quote = if database.is_mysql() { '`' } else { '"' };
    let name = format!("{quote}{}{quote}", index["name"].as_str().unwrap_or("unnamed"));
    if index["constraint"] == true {
        let when = index["deferrable"].as_str();
        let when = when.map(|when| format!(" DEFERRABLE INITIALLY {}", when.to_uppercase()));
        let (keys, when) = (keys.join(", "), when.unwrap_or_default());
        return format!("ALTER TABLE {table} ADD CONSTRAINT {name} UNIQUE ({keys}){when}");
    }
    let using = index["using"].as_str();
    let kind = match (index["unique"] == true, using) {
        (true, _) => "UNIQUE ",
        (false, Some("fulltext")) => "FULLTEXT ",
        _ => "",
    };
    let using = using.filter(|_| database == Database::PostgreSql);
    let mut said = format!(
        "CREATE {kind}INDEX {name} ON {table}{} ({})",
        using.map_or_else(String::new, |using| format!(" USING {using}")),
        keys.join(", ")
    );
    if !index["include"].is_null() {
        said.push_str(&format!(" INCLUDE ({})", names(&index["include"], database)));
    }
    if index["nulls_not_distinct"] == true {
        said.push_str(" NULLS NOT DISTINCT");
    }
    if let Some(condition) = index["where"].as_str() {
        said.push_str(&format!(" WHERE {condition}"));
    }
    said
}

pub(super) fn expected(
    tables: &BTreeMap<String, Value>,
    enums: &Value,
    recording: &Recording,
) -> Schema {
    let database = recording.database;
    let mut first = Vec::new();
    for (name, values) in enums.as_object().into_iter().flatten() {
        let values: Vec<String> = values
            .as_array()
            .into_iter()
            .flatten()
            .filter_map(Value::as_str)
            .map(literal)
            .collect();
        first.push(format!(
            "CREATE TYPE {} AS ENUM ({})",
            quoted(name, database),
            values.join(", ")
        ));
    }
    let mut later = Vec::new();
    for (table, made) in tables.iter().filter(|(_, made)| made["partition_of"].is_null()) {
        let mut all = statements(table, made, database);
        let (keys, rest): (Vec<_>, Vec<_>) =
            all.drain(..).partition(|statement| statement.contains(" FOREIGN KEY "));
        first.extend(rest);
        later.extend(keys);
    }
    first.extend(later);
    // The framework has the server write durations in another way than ours.
    let script = first.join(";\n").replace("'PT0S'", "'00:00:00'") + ";\n";
    let mut settings = Settings {
        database: Some(database),
        server_release: Some(recording.server),
        ..Settings::default()
    };
    let sql = by_id("sql").expect("SQL");
    let reading = read_scripts(vec![("made.sql".into(), script.clone())], sql, &mut settings);
    reading.schema
}
