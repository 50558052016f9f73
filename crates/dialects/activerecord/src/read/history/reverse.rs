//! What takes a call back.

use smol_str::SmolStr;

use super::super::run::{Arguments, Value};
use super::{Command, DIRECTED};

/// Calls that take each other back with the same arguments.
const PAIRS: &[(&str, &str)] = &[
    ("add_belongs_to", "remove_belongs_to"),
    ("add_check_constraint", "remove_check_constraint"),
    ("add_exclusion_constraint", "remove_exclusion_constraint"),
    ("add_foreign_key", "remove_foreign_key"),
    ("add_reference", "remove_reference"),
    ("add_timestamps", "remove_timestamps"),
    ("add_unique_constraint", "remove_unique_constraint"),
    ("create_enum", "drop_enum"),
    ("create_join_table", "drop_join_table"),
    ("create_schema", "drop_schema"),
    ("create_table", "drop_table"),
    ("create_virtual_table", "drop_virtual_table"),
    ("disable_index", "enable_index"),
    ("enable_extension", "disable_extension"),
];

/// Calls that are their own way back, or of which nothing has to be taken back.
const SAME: &[&str] =
    &[DIRECTED, "validate_check_constraint", "validate_constraint", "validate_foreign_key"];

/// The calls that take one back, in their order; `None` where nothing does.
pub(super) fn of<'p>(command: &Command<'p>) -> Option<Vec<Command<'p>>> {
    let name = command.name.as_str();
    if SAME.contains(&name) {
        return Some(vec![command.clone()]);
    }
    let other = PAIRS.iter().find_map(|(one, other)| match name {
        _ if name == *one => Some(*other),
        _ if name == *other => Some(*one),
        _ => None,
    });
    let with = |name: &str, arguments: Arguments<'p>| {
        Some(vec![Command { name: SmolStr::new(name), arguments, span: command.span }])
    };
    let given = &command.arguments;
    if let Some(other) = other {
        let known = match name {
            // It says nothing of what was there.
            "drop_table" => given.block.is_some() || !given.named.is_empty(),
            "drop_enum" => given.list.len() > 1,
            "remove_foreign_key" => given.list.len() > 1 || given.named("to_table").is_some(),
            "remove_check_constraint" | "remove_exclusion_constraint" => given.list.len() > 1,
            "remove_unique_constraint" => given.list.len() > 1,
            _ => true,
        };
        return known.then(|| with(other, given.clone())).flatten();
    }
    turned(command)
}

/// The way back of a call that is turned by its arguments.
fn turned<'p>(command: &Command<'p>) -> Option<Vec<Command<'p>>> {
    let (name, given) = (command.name.as_str(), &command.arguments);
    let with = |name: &str, arguments: Arguments<'p>| {
        Some(vec![Command { name: SmolStr::new(name), arguments, span: command.span }])
    };
    let mut turned = given.clone();
    match name {
        "add_column" => {
            let mut list = given.list.clone();
            list.truncate(2);
            with("remove_column", Arguments { list, ..Arguments::none() })
        }
        "remove_column" => (given.list.len() > 2).then(|| with("add_column", turned)).flatten(),
        "remove_columns" => {
            turned.unfold();
            let method = turned.take("type")?;
            let (table, columns) = turned.list.split_first()?;
            let back = |column: &Value<'p>| Command {
                name: "add_column".into(),
                arguments: Arguments {
                    list: vec![table.clone(), column.clone(), method.clone()],
                    named: turned.named.clone(),
                    block: None,
                },
                span: command.span,
            };
            Some(columns.iter().map(back).collect())
        }
        "add_index" => {
            let mut list = given.list.clone();
            list.truncate(2);
            with("remove_index", Arguments { list, ..turned })
        }
        "remove_index" => {
            turned.unfold();
            if turned.list.len() < 2 {
                let columns = turned.take("column")?;
                turned.list.push(columns);
            }
            with("add_index", turned)
        }
        "rename_table" | "rename_enum" | "rename_schema" => {
            turned.list.reverse();
            with(name, turned)
        }
        "rename_column" | "rename_index" => {
            (turned.list.len() > 2).then(|| turned.list.swap(1, 2))?;
            with(name, turned)
        }
        "change_column_default"
        | "change_column_comment"
        | "change_table_comment"
        | "rename_enum_value" => {
            turned.unfold();
            let (from, to) = (turned.take("from")?, turned.take("to")?);
            turned.named.extend([("from".into(), to), ("to".into(), from)]);
            with(name, turned)
        }
        "change_column_null" => {
            let null = turned.list.get_mut(2)?;
            *null = Value::Boolean(null.holds() == Some(false));
            turned.list.truncate(3);
            with(name, turned)
        }
        _ => None,
    }
}
