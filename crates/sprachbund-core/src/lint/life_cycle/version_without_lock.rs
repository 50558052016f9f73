use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::{sql, typeorm};
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};

pub(super) const RULE: Rule = Rule {
    name: "version-without-lock",
    severity: Severity::Note,
    finds: "a column that by its name counts versions, which the framework does not count",
    consequence: "Two people change the same record; the second save wins, and the first one's \
                  change is gone. The column suggests that this is looked after.",
    sql: "UPDATE port_calls SET berth = 7, lock_version = 4 WHERE id = 1;  -- no `AND \
          lock_version = 3`",
    cure: "Let the framework count it. No row changes.",
    exception: "When it is the version of what the record is about (of a document, of a map).",
    parameters: &[Parameter {
        name: "words",
        says: "names of columns that count the versions of a record",
        value: Value::Words(&[
            "lock_version",
            "row_version",
            "opt_lock",
            "optlock",
            "revision_lock",
        ]),
    }],
    wrong: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, lock_version integer NOT NULL \
                DEFAULT 0);\n"),
    right: typeorm(
        "@Entity()
export class PortCall {
  @PrimaryGeneratedColumn()
  id!: number;

  @VersionColumn()
  lockVersion!: number;
}
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let names = context.words(&RULE, "words");
    for (entity, field) in context
        .fields()
        .filter(|(_, field)| field.purpose.is_none() && field.r#type.is_whole_number())
    {
        let name = words_of(field);
        if !names.contains(&name.as_str()) {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("nothing counts `{}` at a save", place(entity, field)),
            )
            .at(field.origin.span(), "called like a version that is locked by")
            .because("of two who change a record at once, the second one wins")
            .with_help("let the framework count it"),
        );
    }
}
