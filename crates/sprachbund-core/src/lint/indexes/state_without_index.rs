use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};
use crate::schema::{Change, Purpose};

pub(super) const RULE: Rule = Rule {
    name: "state-without-index",
    severity: Severity::Note,
    finds: "a state, or a mark of deletion, that queries filter by, in no index",
    consequence: "Each query for what is open reads the closed and the deleted rows as well, \
                  and there are more of them every year.",
    sql: "SELECT * FROM port_calls WHERE status = 'expected';  -- reads all calls there ever were",
    cure: "Add an index over it, on PostgreSQL with the condition that queries have. It costs a \
           little at each write.",
    exception: "When the table stays small.",
    parameters: &[Parameter {
        name: "words",
        says: "names of columns that queries filter by",
        value: Value::Words(&["status", "state", "stage", "phase"]),
    }],
    wrong: django("class PortCall(models.Model):\n    status = models.CharField(max_length=9)\n"),
    right: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, \
         db_index=True)\n",
    ),
    cases: &[
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, status varchar(9), berth \
                 integer);\nCREATE INDEX open ON port_calls (berth) WHERE status = 'open';"),
        ),
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, status varchar(9), berth \
                 integer);\nCREATE INDEX open ON port_calls (berth, status);"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let names = context.words(&RULE, "words");
    for (entity, field) in context.fields() {
        let deleted = field.purpose == Some(Purpose::DeletionTime)
            || (entity.soft_delete.is_some() && entity.soft_delete == field.name);
        let state = names.iter().any(|name| *name == field.column);
        if !(deleted || state) {
            continue;
        }
        let served = entity.indexes.iter().any(|index| {
            let condition = index
                .condition
                .as_ref()
                .is_some_and(|condition| condition.columns().contains(&field.column.as_str()));
            index.columns.contains(&field.column) || condition
        });
        if served
            || entity.uniques.iter().any(|unique| unique.columns.contains(&field.column))
            || entity.key_columns().contains(&field.column)
        {
            continue;
        }
        let what = if deleted { "the mark of deletion" } else { "the state" };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("{what} `{}` is in no index", place(entity, field)),
            )
            .at(field.origin.span(), "queries filter by it")
            .because(format!("each of them reads all of `{}`", entity.table))
            .with_help("add an index over it")
            .curable_by_hand(Change::AddIndex {
                entity: entity.id.clone(),
                columns: vec![field.column.clone()],
            }),
        );
    }
}
