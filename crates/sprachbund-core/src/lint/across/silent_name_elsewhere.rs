use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Part;

pub(super) const RULE: Rule = Rule {
    name: "silent-name-elsewhere",
    severity: Severity::Note,
    finds: "a table whose name nobody wrote, and that the dialect that it is carried to calls \
            otherwise (with --to)",
    consequence: "Carried over word by word, the class looks for another table: it is not \
                  there, or an empty one is made beside the full one.",
    sql: "SELECT * FROM port_call;  -- refused: relation \"port_call\" does not exist; it is \
          called harbour_portcall",
    cure: "Name the table in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: django("class PortCall(models.Model):\n    pass\n").to("typeorm"),
    right: django(
        "class PortCall(models.Model):\n    class Meta:\n        db_table = \"port_calls\"\n",
    )
    .to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    for entity in context.entities().filter(|entity| {
        entity.implied.has(Part::Table) && !entity.join && entity.inherits.is_none()
    }) {
        let called = target
            .conventions
            .names
            .table
            .apply(&[("name", &entity.name), ("module", &entity.module)]);
        if called == entity.table || target.conventions.names.table.to_string().is_empty() {
            continue;
        }
        let framework = target.dialect.framework;
        found.push(
            RULE.finding(
                entity,
                "",
                format!(
                    "the table of `{}` is called `{}` here, `{called}` in {framework}",
                    entity.name, entity.table
                ),
            )
            .at(entity.origin.span(), "its table's name is not written")
            .because(format!("carried over word by word, it looks for `{called}`"))
            .with_help(format!("name the table `{}` in {framework}", entity.table)),
        );
    }
}
