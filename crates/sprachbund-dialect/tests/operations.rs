//! Each kind of operation: what the tables are after it, and how each server's statement says it.

use std::collections::BTreeMap;

use sprachbund_dialect::history::{Operation, Tables, operations, replay, sql};
use sprachbund_schema::schema::facts::facts;
use sprachbund_schema::schema::{
    Action, Check, Database, Default_, EnumMember, EnumType, Expression, Feature, Field,
    ForeignKey, Function, Identity, Index, Origin, PrimaryKey, References, Schema, Source, Type,
    Unique, json,
};
use sprachbund_schema::server::{Comments, Enumerations};

/// Quays with berths.
fn harbour(database: Database) -> Schema {
    let mut schema = json::read(
        r#"{"sprachbund":1,"source":{"dialect":"sql","version":""},"entities":[
        {"id":"Quay","name":"Quay","module":"","table":"quays","mapped":{"table":true,"code":false},
         "fields":[{"name":null,"column":"id","type":"integer","nullable":false}],
         "primary_key":{"columns":["id"],"name":"quay_key"}},
        {"id":"Berth","name":"Berth","module":"","table":"berths","mapped":{"table":true,
            "code":false},
         "fields":[{"name":null,"column":"id","type":"integer","nullable":false},
                   {"name":null,"column":"code","type":"varchar(9)","nullable":false},
                   {"name":null,"column":"depth","type":"integer","nullable":true},
                   {"name":null,"column":"quay_id","type":"integer","nullable":false}],
         "primary_key":{"columns":["id"]},
         "uniques":[{"columns":["code"],"name":"berth_code"}],
         "foreign_keys":[{"columns":["quay_id"],"references":{"table":"quays","columns":["id"]},
             "name":"berth_quay"}]}]}"#,
    )
    .expect("a valid schema");
    schema.source.database = database;
    schema
}

fn field(column: &str, ty: Type) -> Box<Field> {
    let stored = ty.to_string();
    Box::new(Field::plain(None, column.into(), ty, stored.into()))
}

fn with(mut field: Box<Field>, change: impl FnOnce(&mut Field)) -> Box<Field> {
    change(&mut field);
    field
}

fn index(columns: &[&str], name: &str) -> Index {
    let columns: Vec<String> = columns.iter().map(|column| (*column).to_owned()).collect();
    Index { name: Some(name.to_owned()), ..Index::over(&columns, Origin::implied("a test")) }
}

fn to_quays(columns: &[&str], name: Option<&str>) -> ForeignKey {
    ForeignKey {
        columns: columns.iter().map(|column| (*column).to_owned()).collect(),
        references: References {
            table: "quays".into(),
            namespace: None,
            columns: vec!["id".into()],
        },
        on_delete: Action::Cascade,
        name: name.map(str::to_owned),
        ..harbour(Database::PostgreSql).entities[1].foreign_keys[0].clone()
    }
}

fn check(text: &str) -> Check {
    Check::new(Some("deep".into()), Expression::parse_sql(text), Origin::implied("a test"))
}

fn excluding() -> Check {
    let apart = Expression::parse_sql("USING gist (int4range(depth, depth + 2) WITH &&)");
    Check::new(Some("apart".into()), apart, Origin::implied("a test"))
}

fn unique(columns: &[&str], name: Option<&str>) -> Unique {
    let columns = columns.iter().map(|column| (*column).to_owned()).collect();
    Unique { columns, name: name.map(str::to_owned), ..Unique::default() }
}

fn berths() -> String {
    "berths".to_owned()
}

/// Every kind of operation over the harbour.
fn each() -> Vec<Operation> {
    [of_tables(), of_columns(), of_constraints()].concat()
}

fn of_tables() -> Vec<Operation> {
    let side = EnumType {
        name: "side".into(),
        stored_name: Some("side".into()),
        members: ["port", "starboard"]
            .map(|name| EnumMember {
                name: name.into(),
                value: name.into(),
                ..EnumMember::default()
            })
            .into(),
        module: String::new(),
        inline: false,
        origin: Origin::implied("a test"),
    };
    let mut with_aft = side.clone();
    let aft = EnumMember { name: "aft".into(), value: "aft".into(), ..EnumMember::default() };
    with_aft.members.push(aft);
    let mut renamed = side.clone();
    renamed.name = "board".into();
    renamed.stored_name = Some("board".into());
    renamed.members[1].name = "right".into();
    renamed.members[1].value = "right".into();
    vec![
        Operation::CreateEnum(side.clone()),
        Operation::AlterEnum { from: Box::new(side.clone()), to: Box::new(with_aft) },
        Operation::AlterEnum { from: Box::new(side), to: Box::new(renamed) },
        Operation::DropEnum { name: "side".into() },
        Operation::CreateTable(Box::new({
            let mut table = harbour(Database::PostgreSql).entities[0].clone();
            (table.table, table.id) = ("tugs".into(), "Tug".into());
            table.fields[0].identity = Some(Identity::ByDefault);
            table
        })),
        Operation::DropTable { table: berths() },
        Operation::RenameTable { table: "quays".into(), to: "piers".into() },
    ]
}

fn of_columns() -> Vec<Operation> {
    let depth = field("depth", Type::BigInt);
    let moment = Type::Timestamp { precision: Some(6), zoned: false };
    vec![
        Operation::AddColumn {
            table: berths(),
            field: with(field("note", Type::Varchar(Some(20))), |field| field.nullable = true),
        },
        Operation::AddColumn {
            table: berths(),
            field: with(field("open", Type::Boolean), |field| {
                field.defaults.database = Some(Box::new(Default_::Literal(true.into())));
                field.comment = Some("it's free".into());
            }),
        },
        Operation::AddColumn {
            table: berths(),
            field: with(field("seen_at", moment), |field| {
                field.defaults.database = Some(Box::new(Default_::Function(Function::Now)));
            }),
        },
        Operation::AlterColumn { table: berths(), column: "depth".into(), field: depth },
        Operation::AlterColumn {
            table: berths(),
            column: "depth".into(),
            field: with(field("depth", Type::Integer), |field| {
                field.nullable = true;
                field.defaults.database = Some(Box::new(Default_::Literal(7.into())));
            }),
        },
        Operation::RenameColumn { table: "quays".into(), column: "id".into(), to: "number".into() },
        Operation::RenameColumn { table: berths(), column: "code".into(), to: "sign".into() },
        Operation::DropColumn { table: berths(), column: "code".into() },
        Operation::DropColumn { table: berths(), column: "quay_id".into() },
    ]
}

fn of_constraints() -> Vec<Operation> {
    vec![
        Operation::AddUnique {
            table: berths(),
            unique: unique(&["quay_id", "depth"], Some("place")),
        },
        Operation::AddUnique { table: berths(), unique: unique(&["depth"], None) },
        Operation::DropUnique {
            table: berths(),
            unique: harbour(Database::PostgreSql).entities[1].uniques[0].clone(),
        },
        Operation::AddIndex { table: berths(), index: index(&["depth"], "by_depth") },
        Operation::AddIndex {
            table: berths(),
            index: Index {
                unique: true,
                condition: Some(Box::new(Expression::parse_sql("depth > 1"))),
                ..index(&["depth"], "deepest")
            },
        },
        Operation::AddForeignKey { table: berths(), key: to_quays(&["depth"], Some("by_depth")) },
        Operation::DropForeignKey {
            table: berths(),
            key: harbour(Database::PostgreSql).entities[1].foreign_keys[0].clone(),
        },
        Operation::AddCheck { table: berths(), check: check("depth > 0") },
        Operation::AddExclusion { table: berths(), check: excluding() },
        Operation::DropExclusion { table: berths(), check: excluding() },
        Operation::SetKey { table: berths(), key: None },
        Operation::SetKey {
            table: berths(),
            key: Some(PrimaryKey {
                columns: vec!["id".into(), "depth".into()],
                name: Some("whole".into()),
                origin: Origin::implied("a test"),
            }),
        },
        Operation::Comment {
            table: berths(),
            column: None,
            text: Some("where vessels lie".into()),
        },
        Operation::Comment {
            table: berths(),
            column: Some("depth".into()),
            text: Some("at low water".into()),
        },
    ]
}

const SERVERS: [Database; 4] =
    [Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite];

/// What the tables of a server have after an operation that they had not, and the other way round.
fn effect(operation: &Operation, database: Database) -> String {
    let mut tables = Tables::of(harbour(database));
    let before = facts(&tables.schema);
    match tables.apply(operation) {
        Err(error) => format!("  {error}\n"),
        Ok(()) => {
            let after = facts(&tables.schema);
            let gone = before.iter().filter(|(key, value)| after.get(key) != Some(*value));
            let come = after.iter().filter(|(key, value)| before.get(key) != Some(*value));
            let gone = gone.map(|(key, value)| format!("  - {key}: {value}\n"));
            gone.chain(come.map(|(key, value)| format!("  + {key}: {value}\n"))).collect()
        }
    }
}

/// Outcomes by the servers that share them.
fn by_server(outcome: impl Fn(Database) -> String) -> String {
    let mut groups: Vec<(String, Vec<&str>)> = Vec::new();
    for database in SERVERS {
        let found = outcome(database);
        match groups.iter_mut().find(|(known, _)| *known == found) {
            Some((_, servers)) => servers.push(database.title()),
            None => groups.push((found, vec![database.title()])),
        }
    }
    groups.into_iter().map(|(found, servers)| format!("{}:\n{found}", servers.join(", "))).collect()
}

fn title(operation: &Operation) -> String {
    let text = format!("{operation:?}");
    text.split(|letter: char| !letter.is_alphanumeric()).next().unwrap_or_default().to_owned()
}

#[test]
fn what_each_operation_does() {
    let told: Vec<String> = each()
        .iter()
        .map(|one| format!("# {}\n{}", title(one), by_server(|database| effect(one, database))))
        .collect();
    insta::assert_snapshot!(told.join("\n"));
}

/// Whether a server takes a statement for an operation: what it does not take, no statement says.
fn takes(operation: &Operation, database: Database) -> bool {
    let server = database.server();
    match operation {
        Operation::CreateEnum(_) | Operation::AlterEnum { .. } | Operation::DropEnum { .. } => {
            server.enumerations == Enumerations::Types
        }
        Operation::AlterColumn { .. } => server.alters_nullability || server.statements.column_anew,
        Operation::DropColumn { .. }
        | Operation::DropUnique { .. }
        | Operation::AddForeignKey { .. }
        | Operation::DropForeignKey { .. }
        | Operation::AddCheck { .. }
        | Operation::SetKey { .. } => server.adds_constraints,
        Operation::AddIndex { index, .. } => {
            index.condition.is_none() || !server.lacks.contains(&Feature::PartialIndex)
        }
        Operation::AddExclusion { .. } | Operation::DropExclusion { .. } => {
            !server.lacks.contains(&Feature::Exclusion)
        }
        Operation::Comment { .. } => server.comments == Comments::Statements,
        _ => true,
    }
}

#[test]
fn how_each_operation_is_said() {
    let said = |one: &Operation, database: Database| {
        if !takes(one, database) {
            return "  (no statement)\n".to_owned();
        }
        let schema = harbour(database);
        format!(
            "  {}\n",
            sql::statement(one, &schema.entities[1], &schema, database).replace('\n', "\n  ")
        )
    };
    let told: Vec<String> = each()
        .iter()
        .map(|one| format!("# {}\n{}", title(one), by_server(|database| said(one, database))))
        .collect();
    insta::assert_snapshot!(told.join("\n"));
}

/// Tables that are made by their own operations are what they were.
#[test]
fn tables_are_what_their_operations_make() {
    for database in SERVERS {
        let schema = harbour(database);
        let made = replay(&operations(&schema), Source { database, ..Source::default() })
            .expect("possible steps");
        assert_eq!(facts(&made), facts(&schema), "{}", database.title());
    }
}

/// What is not there cannot be changed: each such operation is refused, with the number of its
/// step.
#[test]
fn what_is_not_there_is_refused() {
    let nowhere = || "nowhere".to_owned();
    let missing: BTreeMap<&str, Operation> = BTreeMap::from([
        ("step 1: there is no table `nowhere`", Operation::DropTable { table: nowhere() }),
        (
            "step 1: table `berths` has no column `z`",
            Operation::DropColumn { table: berths(), column: "z".into() },
        ),
        (
            "step 1: table `berths` has no such index",
            Operation::DropIndex { table: berths(), index: index(&["depth"], "by_depth") },
        ),
        (
            "step 1: table `berths` has no such check",
            Operation::DropCheck { table: berths(), check: check("depth > 0") },
        ),
        (
            "step 1: table `berths` has no such foreign key",
            Operation::DropForeignKey { table: berths(), key: to_quays(&["depth"], None) },
        ),
        (
            "step 1: table `berths` has no such unique constraint",
            Operation::DropUnique { table: berths(), unique: unique(&["depth"], None) },
        ),
        (
            "step 1: table `berths` is there already",
            Operation::CreateTable(Box::new(harbour(Database::PostgreSql).entities[1].clone())),
        ),
    ]);
    for (words, operation) in missing {
        let mut tables = Tables::of(harbour(Database::PostgreSql));
        assert_eq!(
            tables.apply(&operation).map_err(|error| error.to_string()),
            Err(words.to_owned())
        );
    }
}
