use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{mongoose, sql};
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};

pub(super) const RULE: Rule = Rule {
    name: "enumeration-as-free-text",
    severity: Severity::Note,
    finds: "a state or kind kept as free text, with nothing that says which values there are",
    consequence: "`Planed`, `planned ` and `PLANNED` are all stored, and each query finds one \
                  of them.",
    sql: "INSERT INTO port_calls (status) VALUES ('planed');  -- accepted",
    cure: "List the values: an enumeration, choices, or a check. Rows with other values must be \
           mended first.",
    exception: "When the values come from outside and change.",
    parameters: &[Parameter {
        name: "words",
        says: "names of columns that hold one of a few values",
        value: Value::Words(&["status", "state", "stage", "phase", "severity", "priority"]),
    }],
    wrong: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, status varchar(9) NOT NULL);\n"),
    right: sql("CREATE TYPE call_status AS ENUM ('planned', 'moored');\n\
                CREATE TABLE port_calls (id integer PRIMARY KEY, status call_status NOT NULL);\n"),
    cases: &[
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, status varchar(9) CHECK \
                 (status IN ('planned', 'moored')));"),
        ),
        (1, mongoose("mongoose.model('PortCall', new mongoose.Schema({ status: String }));\n")),
        (
            0,
            mongoose(
                "mongoose.model('PortCall', new mongoose.Schema({ status: \
                 { type: String, enum: ['planned'] } }));\n",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let names = context.words(&RULE, "words");
    for (entity, field) in
        context.fields().filter(|(_, field)| field.r#type.is_text() && field.choices.is_none())
    {
        let named =
            names.iter().any(|name| *name == field.column || Some(*name) == field.name.as_deref());
        let checked = entity
            .checks
            .iter()
            .any(|check| check.expression.columns().contains(&field.column.as_str()));
        if !named
            || checked
            || !field.rules.is_empty() && field.rules.iter().any(|rule| rule.rule != "max_length")
        {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("nothing says which values `{}` may have", place(entity, field)),
            )
            .at(field.origin.span(), format!("any `{}`", field.r#type))
            .because("a misspelt value is stored, and no query finds it")
            .with_help("list the values: an enumeration, choices, or a check"),
        );
    }
}
