use foldhash::HashMap;

use crate::compare::{CODES, Side, compare};
use crate::diagnostic::{Diagnostic, Severity, Subject};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Entity;

pub(super) const RULE: Rule = Rule {
    name: "declared-unlike-tables",
    severity: Severity::Warning,
    finds: "a difference between what is declared and the tables that exist, or that the \
            history makes (with --beside)",
    consequence: "The code asks for columns that are not there, or believes in a length, a NOT \
                  NULL or an index that no database has. The next generated step contains a \
                  change that nobody meant.",
    sql: "SELECT draught FROM vessels;  -- refused: column \"draught\" does not exist; its \
          migration was never written",
    cure: "Write the missing step, or mend the declaration.",
    exception: "When what is beside is another application's.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer);\n")
        .beside("CREATE TABLE vessels (id integer PRIMARY KEY);"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer);\n")
        .beside("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer);"),
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(beside) = context.beside else { return };
    let declared = Side { schema: context.schema, capabilities: &beside.declared };
    let stored = Side { schema: &beside.schema, capabilities: &beside.capabilities };
    // The first of several classes over one table stands for it.
    let tables: HashMap<&str, &Entity> = context
        .schema
        .entities
        .iter()
        .rev()
        .map(|entity| (entity.table.as_str(), entity))
        .collect();
    for difference in compare(&declared, &stored, context.database()).found {
        let entity = tables.get(difference.table.as_str());
        let subject = Subject {
            entity: entity.map_or_else(|| difference.table.clone(), |entity| entity.id.clone()),
            element: format!("{} {}", difference.element, difference.aspect),
        };
        let mut diagnostic = difference.diagnostic(beside.first_file);
        for label in diagnostic.primary.iter_mut().chain(&mut diagnostic.secondary) {
            label.text =
                if label.text == "left" { "left: as declared" } else { "right: as stored" }.into();
        }
        let kind =
            CODES.iter().find(|code| code.name == difference.code).map_or("", |code| code.finds);
        let diagnostic =
            diagnostic.because(format!("{kind}; left is what is declared, right what is stored"));
        found.push(Diagnostic {
            code: RULE.name,
            severity: difference.severity,
            subject: Some(subject),
            ..diagnostic
        });
    }
}
