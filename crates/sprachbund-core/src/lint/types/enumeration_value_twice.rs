use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "enumeration-value-twice",
    severity: Severity::Warning,
    finds: "an enumeration with two members of the same value, or of values that differ in case \
            only",
    consequence: "Reading a row back gives the first of the two. On MySQL and MariaDB texts \
                  that differ in case are equal, so that both mean the same there and not \
                  elsewhere.",
    sql: "SELECT 'Moored' = 'moored';  -- true on MariaDB, false on PostgreSQL",
    cure: "Give each member a value of its own. Rows that hold the shared one must be told apart.",
    exception: "When one of the two is an old name of the other.",
    wrong: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, \
         choices=[(\"moored\", \"Moored\"), (\"Moored\", \"At its berth\")])\n",
    ),
    right: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, \
         choices=[(\"moored\", \"Moored\"), (\"berthed\", \"At its berth\")])\n",
    ),
    cases: &[(
        0,
        sql("CREATE TYPE s AS ENUM ('a', 'b');\nCREATE TABLE t (id integer PRIMARY KEY, s s);"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.fields() {
        let name = crate::schema::enum_name(&field.r#type).or(field.choices.as_deref());
        let Some(choices) = name.and_then(|name| context.enumeration(name)) else { continue };
        let mut seen: HashMap<String, &str> = HashMap::default();
        for member in &choices.members {
            let folded = member.value.to_string().to_lowercase();
            let Some(first) = seen.insert(folded, &member.name) else { continue };
            let message = format!(
                "`{}` and `{}` of `{}` have the value {}",
                first, member.name, choices.name, member.value
            );
            found.push(
                RULE.of_column(entity, field, message)
                    .at(choices.origin.span().or(field.origin.span()), "two members of one value")
                    .because(format!(
                        "a row of `{}` that holds it can mean either",
                        place(entity, field)
                    ))
                    .with_help("give each a value of its own"),
            );
        }
    }
}
