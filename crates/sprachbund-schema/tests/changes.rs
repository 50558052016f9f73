//! What each change of a schema does, what it finds nothing to change in, and what it leaves alone.

use serde_json::json;
use sprachbund_schema::schema::facts::differences;
use sprachbund_schema::schema::{Change, Entity, Schema, Type, json};

const BERTH: &str = "harbour.Berth";

/// Quays and berths, as a schema file says them.
fn harbour() -> Schema {
    let text = json!({
        "sprachbund": 1,
        "source": { "dialect": "django", "version": "5.2" },
        "entities": [
            {
                "id": "harbour.Quay", "name": "Quay", "module": "harbour", "table": "quays",
                "mapped": { "table": true, "code": true },
                "fields": [
                    { "name": "id", "column": "id", "type": "integer", "nullable": false },
                ],
                "primary_key": { "columns": ["id"] },
            },
            {
                "id": BERTH, "name": "Berth", "module": "harbour", "table": "berths",
                "mapped": { "table": true, "code": true },
                "fields": [
                    { "name": "id", "column": "id", "type": "integer", "nullable": false },
                    { "name": "code", "column": "code", "type": "varchar(9)", "nullable": true,
                      "optional_in_code": true, "required_on_input": false },
                    { "name": "depth", "column": "depth", "type": "double precision",
                      "nullable": false,
                      "defaults": { "database": null, "application": { "literal": 3 } } },
                    { "name": null, "column": "quay_id", "type": "integer", "nullable": false },
                ],
                "primary_key": { "columns": ["id"] },
                "uniques": [{ "columns": ["code"] }, { "columns": ["code"] }],
                "indexes": [
                    { "columns": ["depth"], "parts": [{ "column": "depth" }] },
                    { "columns": ["depth"], "parts": [{ "column": "depth" }], "unique": true },
                ],
                "relations": [{
                    "name": "quay", "kind": "many-to-one", "target": "harbour.Quay",
                    "columns": ["quay_id"],
                }],
            },
        ],
    });
    json::read(&text.to_string()).expect("a schema")
}

fn berth(schema: &Schema) -> &Entity {
    schema.entity(BERTH).expect("it stays")
}

fn names(names: &[&str]) -> Vec<String> {
    names.iter().map(|name| (*name).to_owned()).collect()
}

/// The schema after the change, which finds something to change.
fn after(change: &Change) -> Schema {
    let mut schema = harbour();
    assert!(change.apply(&mut schema), "{change:?}");
    assert_eq!(schema.entities[0], harbour().entities[0], "the other entity stays: {change:?}");
    schema
}

#[test]
fn indexes_and_uniques_come_and_go() {
    let (entity, columns) = (|| BERTH.to_owned(), || names(&["code", "depth"]));
    let added = after(&Change::AddIndex { entity: entity(), columns: columns() });
    let last = berth(&added).indexes.last().expect("it is the last");
    assert_eq!((&last.columns, last.unique, last.name.is_none()), (&columns(), false, true));

    let unique = after(&Change::AddUnique { entity: entity(), columns: columns() });
    assert_eq!(berth(&unique).uniques.last().expect("it is the last").columns, columns());

    let index = "unique index depth".to_owned();
    let removed = after(&Change::RemoveIndex { entity: entity(), index });
    let left = &berth(&removed).indexes;
    assert!(left.len() == 1 && !left[0].unique, "the one that was named is gone");

    let once = after(&Change::RemoveUnique { entity: entity(), columns: names(&["code"]) });
    assert_eq!(berth(&once).uniques.len(), 1, "the last one of several");
}

#[test]
fn columns_change_in_all_layers() {
    let columns = names(&["code"]);
    let change = Change::Nullable { entity: BERTH.into(), columns, nullable: false };
    let required = after(&change);
    let code = berth(&required).field("code").expect("a column");
    assert_eq!((code.nullable, code.optional_in_code), (false, Some(false)));
    assert_eq!(code.required_on_input, Some(true), "what must be there must be given");
    let depth = berth(&required).field("depth").expect("a column");
    assert_eq!(depth.optional_in_code, None, "a layer that says nothing says nothing");

    let to = Type::Numeric { precision: Some(6), scale: Some(2) };
    let column = "depth".to_owned();
    let exact = after(&Change::Retype { entity: BERTH.into(), column, to: to.clone() });
    let depth = berth(&exact).field("depth").expect("a column");
    assert!(depth.r#type == to && depth.stored.is_empty(), "what holds it is another question");

    let column = "depth".to_owned();
    let filled = after(&Change::DefaultInDatabase { entity: BERTH.into(), column });
    let defaults = &berth(&filled).field("depth").expect("a column").defaults;
    assert_eq!(defaults.database, defaults.application);

    let (relation, inverse) = ("quay".to_owned(), "berths".to_owned());
    let named = after(&Change::NameInverse { entity: BERTH.into(), relation, inverse });
    assert_eq!(berth(&named).relations[0].inverse.as_deref(), Some("berths"));
}

#[test]
fn what_is_not_there_is_not_changed() {
    let (entity, gone) = (|| BERTH.to_owned(), || "gone".to_owned());
    let columns = || names(&["gone"]);
    for change in [
        Change::AddIndex { entity: gone(), columns: columns() },
        Change::RemoveIndex { entity: entity(), index: "index gone".into() },
        Change::RemoveUnique { entity: entity(), columns: columns() },
        Change::NameInverse { entity: entity(), relation: gone(), inverse: "berths".into() },
        Change::DefaultInDatabase { entity: entity(), column: gone() },
        // Nothing fills it in.
        Change::DefaultInDatabase { entity: entity(), column: "code".into() },
        Change::Retype { entity: entity(), column: gone(), to: Type::Text },
    ] {
        let mut schema = harbour();
        assert!(!change.apply(&mut schema), "{change:?}");
        assert_eq!(differences(&harbour(), &schema), [], "{change:?}");
    }
}

#[test]
fn a_schema_reads_back_as_it_was_written() {
    let before = harbour();
    let again = json::read(&json::write(&before)).expect("a schema");
    assert_eq!(differences(&before, &again), []);
    assert_eq!(json::write(&again), json::write(&before), "the same bytes");
}

/// A part of the file, what stands there instead, and the path that the fault names.
#[test]
fn what_a_schema_file_cannot_mean_has_a_path() {
    let sound = json::write(&harbour());
    for (part, instead, path) in [
        ("\"sprachbund\": 1", "\"sprachbund\": 2", "sprachbund"),
        ("\"id\": \"harbour.Quay\"", "\"id\": \"harbour.Berth\"", "entities[1].id"),
        (
            "\"column\": \"depth\",\n          \"type\"",
            "\"column\": \"code\",\n          \"type\"",
            "fields",
        ),
        ("\"varchar(9)\"", "\"varchar(many)\"", "type"),
        ("\"kind\": \"many-to-one\"", "\"kind\": \"many\"", "kind"),
    ] {
        assert!(sound.contains(part), "{part} in\n{sound}");
        let error = json::read(&sound.replacen(part, instead, 1)).expect_err(instead);
        assert!(error.path.contains(path), "{path} in {error}");
    }
}
