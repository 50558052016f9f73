//! The neutral schema as a file: deterministic JSON out, validated JSON in.

use std::collections::HashSet;

use super::{Entity, RelationKind, Schema};
use crate::schema::enum_name;

/// Why a schema file was refused, with the path inside the JSON.
#[derive(Debug, thiserror::Error, PartialEq, Eq)]
#[error("{path}: {message}")]
pub struct SchemaError {
    /// Such as `entities[2].fields[0].type`.
    pub path: String,
    pub message: String,
    /// Line of the file, from 1, where the parser knows it.
    pub line: Option<usize>,
}

/// Two-space indented JSON with a line break at the end.
pub fn write(schema: &Schema) -> String {
    let mut text = serde_json::to_string_pretty(schema).unwrap_or_default();
    text.push('\n');
    text
}

/// Reads a schema file and checks what its types cannot: version, unique names, and that what is
/// named exists.
pub fn read(text: &str) -> Result<Schema, SchemaError> {
    let mut parser = serde_json::Deserializer::from_str(text);
    let mut schema: Schema =
        serde_path_to_error::deserialize(&mut parser).map_err(|error| SchemaError {
            path: error.path().to_string(),
            line: Some(error.inner().line()),
            message: error.inner().to_string(),
        })?;
    parser.end().map_err(|error| SchemaError {
        path: ".".into(),
        line: Some(error.line()),
        message: error.to_string(),
    })?;
    validate(&schema)?;
    let database = schema.source.database;
    schema.each_expression(&mut |_, expression| expression.settle(database));
    Ok(schema)
}

/// The JSON Schema of the file format.
#[cfg(feature = "json-schema")]
pub fn json_schema() -> String {
    let schema = schemars::schema_for!(Schema);
    let mut text = serde_json::to_string_pretty(&schema).unwrap_or_default();
    text.push('\n');
    text
}

fn validate(schema: &Schema) -> Result<(), SchemaError> {
    if schema.sprachbund != 1 {
        return fault(
            "sprachbund".into(),
            format!("version {} is not known; this program reads version 1", schema.sprachbund),
        );
    }
    let mut ids = HashSet::new();
    for (at, entity) in schema.entities.iter().enumerate() {
        if !ids.insert(entity.id.as_str()) {
            return fault(format!("entities[{at}].id"), format!("`{}` is there twice", entity.id));
        }
    }
    for (at, entity) in schema.entities.iter().enumerate() {
        let at = format!("entities[{at}]");
        validate_columns(&at, entity)?;
        for (n, field) in entity.fields.iter().enumerate() {
            let names = [("type", enum_name(&field.r#type)), ("choices", field.choices.as_deref())];
            for (part, name) in names {
                if let Some(name) = name.filter(|name| schema.enumeration(name).is_none()) {
                    return fault(
                        format!("{at}.fields[{n}].{part}"),
                        format!("no enumeration is called `{name}`"),
                    );
                }
            }
        }
        for (n, relation) in entity.relations.iter().enumerate() {
            let through =
                relation.through.as_deref().filter(|_| relation.kind == RelationKind::ManyToMany);
            if let Some(missing) = through.filter(|id| !ids.contains(id)) {
                return fault(
                    format!("{at}.relations[{n}].through"),
                    format!("no entity has the id `{missing}`"),
                );
            }
        }
    }
    Ok(())
}

/// What refers to a column must find it in the entity at this place.
fn validate_columns(at: &str, entity: &Entity) -> Result<(), SchemaError> {
    let columns: HashSet<&str> = entity.fields.iter().map(|field| field.column.as_str()).collect();
    if columns.len() != entity.fields.len() {
        return fault(format!("{at}.fields"), "two fields have one column".into());
    }
    let mut lists: Vec<(String, &[String])> =
        vec![(format!("{at}.primary_key.columns"), entity.key_columns())];
    lists.extend(
        entity
            .uniques
            .iter()
            .enumerate()
            .map(|(n, unique)| (format!("{at}.uniques[{n}].columns"), &unique.columns[..])),
    );
    lists.extend(
        entity
            .foreign_keys
            .iter()
            .enumerate()
            .map(|(n, key)| (format!("{at}.foreign_keys[{n}].columns"), &key.columns[..])),
    );
    lists.extend(
        entity
            .relations
            .iter()
            .enumerate()
            .map(|(n, relation)| (format!("{at}.relations[{n}].columns"), &relation.columns[..])),
    );
    for (path, list) in lists {
        if let Some(missing) = list.iter().find(|column| !columns.contains(column.as_str())) {
            return fault(path, format!("`{missing}` is not a column of `{}`", entity.table));
        }
    }
    for (n, index) in entity.indexes.iter().enumerate() {
        if let Some(missing) = index
            .parts
            .iter()
            .filter_map(|part| part.column.as_deref())
            .find(|column| !columns.contains(column))
        {
            return fault(
                format!("{at}.indexes[{n}].parts"),
                format!("`{missing}` is not a column of `{}`", entity.table),
            );
        }
    }
    Ok(())
}

fn fault(path: String, message: String) -> Result<(), SchemaError> {
    Err(SchemaError { path, message, line: None })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::schema::Source;

    #[test]
    fn a_schema_reads_back_and_faults_have_a_path() {
        let schema = Schema::new(Source {
            dialect: "django".into(),
            version: "5.2".into(),
            ..Source::default()
        });
        assert_eq!(read(&write(&schema)), Ok(schema));
        let entity = r#"{"id":"h.Quay","name":"Quay","module":"h","table":"quays",
            "mapped":{"table":true,"code":true},"fields":[FIELD]REST}"#;
        let field = r#"{"name":"name","column":"name","type":"text","nullable":false}"#;
        for (field, rest, path) in [
            (field.replace("text", "txt"), "", "entities[0].fields[0].type"),
            (field.replace("nullable", "nulable"), "", "entities[0].fields[0].nulable"),
            (
                field.to_owned(),
                r#","primary_key":{"columns":["id"]}"#,
                "entities[0].primary_key.columns",
            ),
            (field.replace("text", "enum(Gone)"), "", "entities[0].fields[0].type"),
        ] {
            let entity = entity.replace("FIELD", &field).replace("REST", rest);
            let text = format!(
                r#"{{"sprachbund":1,"source":{{"dialect":"django","version":"5.2"}},
                    "entities":[{entity}]}}"#
            );
            assert_eq!(read(&text).map_err(|error| error.path), Err(path.to_owned()), "{text}");
        }
    }
}
